"""Treatments that a colony had before they were planned here: what may be said of one, and what it would have broken.

They are known from somebody's word or papers. Nothing of them is refused but what cannot have been; whatever a plan of
the same days would have been held back for is a warning (docs/methods/eligibility.md).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal

from redframe.core.errors import InvalidInput
from redframe.core.said import Params
from redframe.core.season.calendar import TreatmentSeason, month_day_index, year_around
from redframe.core.treatments.catalogue import Catalogue, Option
from redframe.core.treatments.course import Course, Window, plan_course
from redframe.core.treatments.reasons import Figure, Reason, ReasonCode
from redframe.core.treatments.rules import RULES, Case, past_of
from redframe.core.treatments.situation import ColonyFacts, PastTreatment, PolicyFacts, Situation
from redframe.core.treatments.weather import WeatherHere

EndKnown = Literal["known", "not_known", "still_in"]
KnownFrom = Literal["own_record", "keeper_record", "keeper_said", "pack_seen", "other_record"]
"""How somebody knows of an earlier treatment: from an own record, the keeper's book or word, a pack or strip that was
seen, or a record of somebody else."""
JUDGED = frozenset({"T01", "T02", "T07", "T08", "T09", "T10", "T11", "T12", "T70"})
"""Rules that ask neither for the hive nor for the weather of the day: of the past nobody knows these."""
OLDEST_DAYS = 3653
LOOKING_BACK = frozenset({"T07", "T08", "T09"})


@dataclass(frozen=True, slots=True)
class Given:
    """A treatment that was given: the days of its doses, and when it was over. `ended_on` None: it is in the hive
    (`still_in`), or nobody knows (`not_known`)."""

    option: Option
    doses_on: Sequence[date]
    end: EndKnown
    ended_on: date | None

    @property
    def course(self) -> Course:
        """Its course with the doses that were given."""
        return plan_course(self.option, self.doses_on[0], {f"place_{i + 1}": on for i, on in enumerate(self.doses_on)})

    def over_on(self, today: date) -> date | None:
        """The day on which it was over at the latest; None while it is in the hive. Where nobody knows, the last day of
        its course, but no day ahead."""
        if self.end == "still_in":
            return None
        if self.ended_on is not None:
            return self.ended_on
        return max(self.doses_on[-1], min(today, self._latest()))

    def _latest(self) -> date:
        return self.doses_on[-1] + timedelta(days=self.option.stay_days[2])


def check_given(given: Given, *, today: date, first_on: date | None, last_on: date | None) -> None:
    """Whether it can have been: in the life of its colony (from `first_on`, None where nobody knows, to `last_on`, None
    while it lives), in order, and not ahead.

    Raises InvalidInput naming `doses_on[i]`, `ended_on` or `end`.
    """
    doses = given.doses_on
    for index, on in enumerate(doses):
        field = f"doses_on[{index}]"
        if on > today:
            raise InvalidInput(field, "lies in the future: plan a course instead", code="out_of_range")
        if first_on is not None and on < first_on:
            text = f"the colony was split off on {first_on.isoformat()}: enter it for the one that it came from"
            raise InvalidInput(field, text, code="out_of_range")
        if on < today - timedelta(days=OLDEST_DAYS):
            raise InvalidInput(field, "is more than ten years ago: no rule looks so far back", code="out_of_range")
        if last_on is not None and on > last_on:
            raise InvalidInput(field, f"the colony ended on {last_on.isoformat()}", code="out_of_range")
        if index and on <= doses[index - 1]:
            raise InvalidInput(field, "must be later than the dose before it", code="out_of_range")
    if len(doses) > given.option.applications:
        most = given.option.applications
        raise InvalidInput(f"doses_on[{most}]", f"this option has {most} at most", code="out_of_range")
    if given.ended_on is not None:
        if given.end != "known":
            raise InvalidInput("ended_on", "leave the day out, or say that it is known", code="refused")
        if given.ended_on > today:
            raise InvalidInput("ended_on", "lies in the future: it is still in the hive", code="out_of_range")
        if given.ended_on < doses[-1]:
            raise InvalidInput("ended_on", "is before the last dose", code="out_of_range")
    elif given.end == "known":
        raise InvalidInput("ended_on", "say when it came out, or that this is not known", code="missing")
    if given.end == "still_in":
        if given.option.ends_at_placing and len(doses) == given.option.applications:
            raise InvalidInput("end", "nothing of it stays in the hive", code="refused")
        if last_on is not None:
            raise InvalidInput("end", f"the colony ended on {last_on.isoformat()}", code="refused")


def warnings(
    given: Given, others: Sequence[PastTreatment], catalogue: Catalogue, policy: PolicyFacts, season: TreatmentSeason
) -> list[Reason]:
    """What speaks against a treatment on the day of its first dose, and what its length and the doses after it say.

    `others`: all other treatments of the colony, before and after; `policy` and `season` of that day.
    """
    start = given.doses_on[0]
    before = [one for one in others if one.start <= start]
    found = _judged(given.option, before, catalogue, policy, season, start)
    return [*found, *_by_its_course(given), *_of_later(given, others, catalogue, policy)]


def _judged(
    option: Option, past: Sequence[PastTreatment], catalogue: Catalogue, policy: PolicyFacts, season: TreatmentSeason,
    day: date,
) -> list[Reason]:  # fmt: skip
    situation = Situation(today=day, season_phase=season, colony=ColonyFacts(last_treatments=list(past)), policy=policy)
    end = plan_course(option, day).ending.window.ideal
    case = Case(option, catalogue, situation, WeatherHere(None), None, end, past_of(catalogue, situation))
    return [reason for rule in RULES for reason in rule.ask(case) if reason.rule in JUDGED]


def _by_its_course(given: Given) -> list[Reason]:
    """Doses and end against the days that the catalogue gives them."""
    found = []
    course = given.course
    for number in range(2, len(given.doses_on) + 1):
        window, on = course.step(f"place_{number}").window, given.doses_on[number - 1]
        if not window.earliest <= on <= window.latest:
            found.append(_off(window, on, "dose_off_its_days", "E1", {"dose": number}))
    if given.ended_on is not None and len(given.doses_on) == given.option.applications:
        window = course.ending.window
        if given.ended_on < window.earliest:
            found.append(_off(window, given.ended_on, "out_too_early", "E2", {}))
        elif given.ended_on > window.latest and given.option.removal_required:
            found.append(_off(window, given.ended_on, "out_too_late", "E3", {}))
    if len(given.doses_on) < given.option.applications and given.end != "still_in":
        compared: dict[str, Figure] = {"doses": len(given.doses_on), "limit": given.option.applications}
        params: Params = {"doses": len(given.doses_on), "of": given.option.applications}
        found.append(Reason("E4", "caution", "L", compared, "doses_missing", params))
    return found


def _off(window: Window, on: date, code: ReasonCode, rule: str, params: Params) -> Reason:
    compared: dict[str, Figure] = {"day": on, "earliest": window.earliest, "latest": window.latest}
    said: Params = {**params, "day": on, "earliest": window.earliest, "latest": window.latest}
    return Reason(rule, "caution", "L", compared, code, said)


def _of_later(given: Given, others: Sequence[PastTreatment], catalogue: Catalogue, policy: PolicyFacts) -> list[Reason]:
    """What came after it, and would have been held back had it been known."""
    start = given.doses_on[0]
    own = PastTreatment(option=given.option.id, start=start, end=given.over_on(date.max), outcome=None)
    found = []
    for later in others:
        if later.start <= start:
            continue
        option = catalogue.option(later.option)
        past = [one for one in others if one.start < later.start]
        without = _looking_back(option, past, catalogue, policy, later.start)
        if _looking_back(option, [*past, own], catalogue, policy, later.start) - without:
            compared: dict[str, Figure] = {"option": later.option, "day": later.start}
            params: Params = {"option": option.name, "day": later.start}
            found.append(Reason("E5", "caution", "L", compared, "later_too_soon", params))
    return found


def _looking_back(
    option: Option, past: Sequence[PastTreatment], catalogue: Catalogue, policy: PolicyFacts, day: date
) -> frozenset[str]:
    found = _judged(option, past, catalogue, policy, "post_harvest", day)
    return frozenset(reason.rule for reason in found if reason.rule in LOOKING_BACK)


def looks_back_to(option: Option, day: date, treatment_year_start: str) -> date | None:
    """The first day whose treatments decide whether an option suits on a day; None where none do.

    The yearly maximum asks for the treatment year, the gap for its days; a group that must be rotated asks for the
    treatment year before as well, as what failed then is not to be forgotten.
    """
    if not option.chemical:
        return None
    turn = month_day_index(treatment_year_start, "treatment_year_start")
    year_start, _ = year_around(day, turn, years_back=1 if option.rotation == "hard" else 0)
    gap = max([option.retreat_days, *(one.days for one in option.gap_after)])
    return min(year_start, day - timedelta(days=gap))
