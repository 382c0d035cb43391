"""Which options suit this colony now, with every reason: rules T01 to T79 of docs/methods/eligibility.md.

Pure and without a clock. Each rule looks at one question and answers with findings; the worst finding decides the
verdict, and all of them are shown. The ranking is an order by visible columns, never a hidden score.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from math import floor
from typing import Literal

from redframe.core.errors import InvalidInput
from redframe.core.season.calendar import month_day_index, next_day
from redframe.core.treatments.catalogue import Catalogue, Option, QueenLossRisk, Span
from redframe.core.treatments.course import clearance, plan_course
from redframe.core.treatments.dose import DoseResult, dose
from redframe.core.treatments.situation import PastTreatment, Situation
from redframe.core.treatments.weather import NO_FORECAST, Forecast, next_usable, usable, weather_on
from redframe.core.visits.summary import BroodSeen

Verdict = Literal["allowed", "allowed_with_cautions", "not_now", "never_here"]
ReasonLevel = Literal["caution", "not_now", "never_here"]
Source = Literal["L", "E", "P", "L/E"]
Figure = float | int | str | date | bool | None

VERDICT_ORDER: tuple[Verdict, ...] = ("allowed", "allowed_with_cautions", "not_now", "never_here")
RISK_ORDER: tuple[QueenLossRisk, ...] = ("low", "medium", "high")
VIRGIN_WAIT_DAYS = 18
BROODLESS_AFTER_DAYS = 22
CAPPED_AFTER_EGGS_DAYS = 5
BROOD_SIGHTING_DAYS = 7
WINTER_BROOD_SIGHTING_DAYS = 28
NO_RECENT_COUNT_DAYS = 28
COUNT_PROVES_DAYS = 21
LONG_STAY_DAYS = 14
SUPPORTING_BELOW_PCT = 20


@dataclass(frozen=True, slots=True)
class Reason:
    """A rule that fires: what was compared with what, and the day from which it no longer would (if it knows)."""

    rule: str
    level: ReasonLevel
    source: Source
    compared: dict[str, Figure]
    text: str
    until: date | None = None


DISEASE_HOLD = "T05"
"""The rule of a hold for a notifiable disease: only who may release combs sets it aside."""
CHECKED_AT_PLACING = frozenset({"T60", "T61", "T62", "T63", "T64", "T65"})
"""Rules of the weather: a plan is made days ahead, so they are judged when the dose is placed."""


@dataclass(frozen=True, slots=True)
class Suitability:
    """One option for one colony on one day. `from_day` is given only with `not_now`; `weather_known` is False when that
    day lies past the forecast."""

    option: Option
    verdict: Verdict
    from_day: date | None
    weather_known: bool
    reasons: tuple[Reason, ...]
    efficacy: Span | None
    expected_after: Span | None
    in_time: bool | None
    dose: DoseResult | None
    ends_on: date
    honey_clear: date | None

    @property
    def rules(self) -> list[str]:
        """Ids of the rules that fire, in the order of their numbers."""
        return [reason.rule for reason in self.reasons]

    @property
    def holding(self) -> list[Reason]:
        """The reasons that hold a plan back: neither cautions nor weather, which is looked at again at the placing."""
        return [one for one in self.reasons if one.level != "caution" and one.rule not in CHECKED_AT_PLACING]

    @property
    def expected_midpoint(self) -> int:
        """Midpoint of the efficacy, rounded to 5 (half up); 0 when no range is known."""
        if self.efficacy is None:
            return 0
        return 5 * floor(sum(self.efficacy) / 2 / 5 + 0.5)

    @property
    def supporting(self) -> bool:
        """Whether it is a supporting measure rather than an answer to a colony over its threshold."""
        return self.option.evidence == "weak" or self.expected_midpoint < SUPPORTING_BELOW_PCT


@dataclass(frozen=True, slots=True)
class Choice:
    """All options with their verdicts, the ranking of those allowed, and the supporting measures apart."""

    options: dict[str, Suitability]
    ranking: list[str] = field(default_factory=list)
    supporting: list[str] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class _Case:
    """One option beside the situation, with the words that several rules need."""

    option: Option
    catalogue: Catalogue
    situation: Situation
    forecast: Forecast | None
    dose: DoseResult | None

    @property
    def today(self) -> date:
        return self.situation.today

    @property
    def in_cluster(self) -> bool:
        return self.situation.season_phase == "winter_cluster"

    @property
    def frames(self) -> float | None:
        strength = self.situation.colony.strength
        return strength.value if strength else None

    @property
    def brood(self) -> BroodSeen:
        return self.situation.colony.capped_worker_brood

    @property
    def past(self) -> list[tuple[Option, PastTreatment]]:
        """Earlier treatments, oldest first. Raises InvalidInput for an option that the catalogue lacks."""
        found = [
            (self.catalogue.option(past.option, f"colony.last_treatments[{index}].option"), past)
            for index, past in enumerate(self.situation.colony.last_treatments)
        ]
        return sorted(found, key=lambda item: item[1].start)

    @property
    def ideal_end(self) -> date:
        return plan_course(self.option, self.today).ending.window.ideal


Rule = Callable[[_Case], Iterator[Reason]]
RULES: list[Rule] = []


def _rule(rule: Rule) -> Rule:
    RULES.append(rule)
    return rule


@_rule
def _authorised(case: _Case) -> Iterator[Reason]:
    option, policy = case.option, case.situation.policy
    listed = policy.authorised is not None and option.id in policy.authorised
    in_series = option.opened_by == "vapour_series"
    opened = policy.vapour_series if in_series else option.default_enabled or listed
    if option.chemical and ((policy.authorised is not None and not listed) or not opened):
        compared: dict[str, Figure] = {"authorised": listed, "enabled": opened}
        text = f"{option.name}: not authorised here or not switched on for this region"
        yield Reason("T01", "never_here", "L", compared, text)
    if option.moa_group in policy.excluded_groups:
        compared = {"group": option.moa_group, "excluded": ", ".join(policy.excluded_groups)}
        yield Reason("T02", "never_here", "P", compared, f"association policy excludes {option.moa_group}")
    if option.id in policy.prescription_needed and not policy.prescriber_recorded:
        compared = {"prescriber": None, "limit": "recorded"}
        yield Reason("T03", "not_now", "L", compared, "needs a prescription or licensed applicator: record who")
    if option.needs_respirator and not policy.respirator_ok:
        compared = {"respirator": False, "limit": True}
        yield Reason("T04", "not_now", "L", compared, "no fitted respirator recorded for the person applying")


@_rule
def _holds(case: _Case) -> Iterator[Reason]:
    for hold in case.situation.colony.holds:
        if hold.kind == "notifiable":
            until = f"until {hold.until.isoformat()}" if hold.until else "until it is lifted"
            text = f"disease hold {hold.name} {until}: nothing is done without the inspector"
            yield Reason(DISEASE_HOLD, "not_now", "L", {"hold": hold.name, "until": hold.until}, text, hold.until)
            break
    for hold in case.situation.colony.holds:
        if hold.kind == "other":
            text = f"other disease noted: {hold.name}; weigh the stress"
            yield Reason("T06", "caution", "E", {"hold": hold.name}, text)
            break


@_rule
def _earlier_uses(case: _Case) -> Iterator[Reason]:
    option, today = case.option, case.today
    turn = month_day_index(case.situation.policy.year_start, "policy.year_start")
    next_year = next_day(today + timedelta(days=1), turn)
    this_year = next_day(date(next_year.year - 1, 1, 1), turn) if next_year.year > 1 else next_year
    repeats = _repeats_trickle(case)
    uses = sum(1 for used, past in case.past if used.id == option.id and this_year <= past.start <= today)
    if uses >= option.max_uses_per_year and not repeats:
        compared: dict[str, Figure] = {"uses_this_year": uses, "limit": option.max_uses_per_year}
        text = f"maximum {option.max_uses_per_year} uses per year reached"
        yield Reason("T07", "not_now", "L", compared, text, next_year)
    gaps = [
        (past.end + timedelta(days=days), (today - past.end).days, days)
        for used, past in case.past
        if past.end is not None and (days := _gap_after(option, used)) is not None
    ]
    if gaps and today < max(gaps)[0]:
        free, since, days = max(gaps)
        compared = {"days_since_last": since, "limit": days}
        if repeats:
            text = f"a second dose after {since} days: only where your label allows it, and somebody named says so"
            yield Reason("T08", "caution", "L", compared, text)
        else:
            text = f"only {since} days since the last course; label gap {days}"
            yield Reason("T08", "not_now", "L", compared, text, free)
    for used, past in case.past:
        if option.chemical and used.chemical and past.end is None:
            compared = {"under_way": used.id, "due_out": past.due_out}
            yield Reason("T09", "not_now", "L", compared, f"{used.name} is still under way", past.due_out)
            break


def _gap_after(option: Option, used: Option) -> int | None:
    """Days that must pass between the end of `used` and the next placing of `option`; None where it does not matter."""
    own = used.moa_group == option.moa_group if option.gap_counts_group else used.id == option.id
    found = [option.retreat_days] if own else []
    found += [gap.days for gap in option.gap_after if used.id in gap.options or used.moa_group in gap.groups]
    return max(found, default=None)


def _repeats_trickle(case: _Case) -> bool:
    """Whether this is the second dose of a pair that the association allows (K1 of the reference)."""
    option = case.option
    if option.repeat_days is None or not case.situation.policy.trickle_repeat:
        return False
    own = [past.start for used, past in case.past if used.id == option.id]
    low, high = option.repeat_days
    return bool(own) and low <= (case.today - max(own)).days <= high


@_rule
def _rotation(case: _Case) -> Iterator[Reason]:
    option, policy = case.option, case.situation.policy
    chemical = [(used, past) for used, past in case.past if used.chemical]
    if option.rotation == "hard" and chemical:
        used, past = chemical[-1]
        if used.rotation == "hard" and used.moa_group == option.moa_group:
            compared: dict[str, Figure] = {
                "group": option.moa_group,
                "last_group": used.moa_group,
                "outcome": past.outcome,
            }
            if past.outcome in ("partly", "failed"):
                text = "same group failed or only partly worked last time: resistance suspected"
                yield Reason("T11", "not_now", "E", compared, text)
            else:
                level: ReasonLevel = "not_now" if policy.strict_rotation else "caution"
                yield Reason("T10", level, "P", compared, "same group as last time: rotate")
    if option.moa_group in policy.resistance:
        compared = {"group": option.moa_group, "resistant": ", ".join(policy.resistance)}
        yield Reason("T12", "never_here", "E", compared, f"resistance to {option.moa_group} known here")


@_rule
def _brood(case: _Case) -> Iterator[Reason]:
    option, colony, today = case.option, case.situation.colony, case.today
    works_partly = case.situation.policy.allow_oxalic_with_brood and option.moa_group == "ACID-O"
    if option.brood_requirement == "broodless":
        eggs_age = (today - colony.eggs_seen_on).days if colony.eggs_seen_on else None
        seen_age = (today - colony.brood_seen_on).days if colony.brood_seen_on else None
        if case.brood == "yes" and not works_partly:
            event = colony.brood_event
            until = event.date + timedelta(days=BROODLESS_AFTER_DAYS) if event else None
            compared: dict[str, Figure] = {"capped_worker_brood": "yes", "limit": "no"}
            yield Reason("T20", "not_now", "E", compared, "capped brood present: most mites are out of reach", until)
        old = seen_age is None or seen_age > BROOD_SIGHTING_DAYS
        stale_no = case.brood == "no" and old and not case.in_cluster and colony.queen != "caged"
        eggs_turned = case.brood == "no" and eggs_age is not None and eggs_age >= CAPPED_AFTER_EGGS_DAYS
        if (case.brood == "unknown" or stale_no or eggs_turned) and not works_partly:
            compared = {
                "capped_worker_brood": case.brood,
                "days_since_seen": seen_age,
                "limit": BROOD_SIGHTING_DAYS,
            }
            yield Reason("T21", "not_now", "E", compared, "brood state not known: look first")
        old_in_cluster = seen_age is None or seen_age > WINTER_BROOD_SIGHTING_DAYS
        if case.in_cluster and case.brood == "no" and old_in_cluster:
            compared = {"days_since_seen": seen_age, "limit": WINTER_BROOD_SIGHTING_DAYS}
            age = f"{seen_age} days" if seen_age is not None else "not dated"
            yield Reason("T22", "caution", "E", compared, f"brood sighting is old ({age})")
    if case.brood != "no" and (option.brood_caution or (works_partly and option.brood_requirement == "broodless")):
        low, high = option.efficacy_pct_with_brood or (0, 0)
        compared = {"capped_worker_brood": case.brood, "efficacy_low_pct": low, "efficacy_high_pct": high}
        yield Reason("T23", "caution", "E", compared, f"capped brood: works only partly ({low:g} to {high:g} %)")
    if option.brood_requirement == "needs_brood" and case.brood == "no":
        compared = {"capped_worker_brood": "no", "limit": "yes"}
        yield Reason("T24", "not_now", "E", compared, "this option needs brood")
    if option.brood_requirement == "broodless" and case.brood == "no" and colony.eggs_seen_on is not None:
        capped = colony.eggs_seen_on + timedelta(days=CAPPED_AFTER_EGGS_DAYS)
        if 0 < (capped - today).days <= 3:
            compared = {"capped_brood_possible": capped, "limit": today + timedelta(days=3)}
            yield Reason("T25", "caution", "E", compared, f"do it before {capped.isoformat()}")


@_rule
def _queen(case: _Case) -> Iterator[Reason]:
    option, colony = case.option, case.situation.colony
    wait = colony.queen_since + timedelta(days=VIRGIN_WAIT_DAYS) if colony.queen_since else None
    states = {
        "virgin": ("T30", option.queen.virgin, wait, "virgin queen: risk of loss; keep out of mating hours"),
        "caged": (
            "T31",
            option.queen.caged,
            colony.release_on,
            "caged queen cannot move away, or the cage is in use",
        ),
        "queenless": (
            "T32",
            option.queen.queenless,
            None,
            "queenless: settle the queen question; mites still count",
        ),
        "unknown": ("T33", option.queen.unknown, None, "queen not known: find eggs first"),
    }
    if colony.queen in states:
        rule, verdict, until, text = states[colony.queen]
        if verdict != "ok":
            level: ReasonLevel = "not_now" if verdict == "block" else "caution"
            yield Reason(rule, level, "E", {"queen": colony.queen, "since": colony.queen_since}, text, until)
    if colony.queen == "mated" and colony.laying_since is not None:
        laying = (case.today - colony.laying_since).days
        if 0 <= laying < option.queen.new_within_days:
            compared: dict[str, Figure] = {"days_laying": laying, "limit": option.queen.new_within_days}
            yield Reason("T34", "caution", "E", compared, f"new queen, laying {laying} days")


@_rule
def _strength(case: _Case) -> Iterator[Reason]:
    option, colony, frames = case.option, case.situation.colony, case.frames
    need = option.strength.min_frames
    if frames is None:
        yield Reason("T41", "not_now", "L", {"frames": None, "limit": need}, "strength not recorded")
    elif frames < need:
        text = f"too weak: {frames:g} frames, needs {need:g}"
        yield Reason("T40", "not_now", "L", {"frames": frames, "limit": need}, text)
    small = option.strength.small_dose_below_frames
    if frames is not None and small is not None and need <= frames < small:
        amount = f"{case.dose.quantity:g} {case.dose.unit}" if case.dose else ""
        text = f"use the small-colony dose {amount}".rstrip()
        yield Reason("T42", "caution", "L", {"frames": frames, "limit": small}, text)
    if colony.brood_boxes > option.strength.max_brood_boxes:
        compared: dict[str, Figure] = {
            "brood_boxes": colony.brood_boxes,
            "limit": option.strength.max_brood_boxes,
        }
        text = f"{colony.brood_boxes} brood boxes: dose checked only for {option.strength.max_brood_boxes}"
        yield Reason("T43", "caution", "L", compared, text)
    if case.dose is not None and case.dose.capped:
        compared = {"dose": case.dose.quantity, "unit": case.dose.unit}
        yield Reason("T44", "caution", "L", compared, f"maximum dose {case.dose.quantity:g} {case.dose.unit} applies")


@_rule
def _honey_and_feed(case: _Case) -> Iterator[Reason]:
    option, colony, policy = case.option, case.situation.colony, case.situation.policy
    if option.supers == "no":
        if colony.supers_on:
            text = "take honey supers off first"
            yield Reason("T50", "not_now", "L", {"supers_on": True, "limit": False}, text, colony.supers_off_by)
        elif colony.supers_on is None:
            yield Reason("T50", "caution", "L", {"supers_on": None, "limit": False}, "honey supers not recorded")
    if option.supers == "label" and colony.supers_on:
        text = "honey supers on: only if your label says so; do not extract during the course"
        yield Reason("T51", "caution", "L", {"supers_on": True}, text)
    if not option.feeding_during:
        if colony.fed:
            yield Reason(
                "T52",
                "not_now",
                "E",
                {"fed": True, "limit": False},
                "remove the feed first",
                colony.fed_until,
            )
        elif colony.fed is None:
            yield Reason("T52", "caution", "E", {"fed": None, "limit": False}, "feeding not recorded")
        feed_by = policy.feed_start_by
        if feed_by is not None and case.ideal_end > feed_by:
            text = f"autumn feed should start {feed_by.isoformat()}, this course ends {case.ideal_end.isoformat()}"
            yield Reason("T53", "caution", "E", {"ends": case.ideal_end, "limit": feed_by}, text)
    planned = policy.planned_supers_on
    if option.supers == "no" and planned is not None:
        clear = clearance(case.ideal_end, option.withdrawal_days)
        if clear > planned:
            last = planned - (clear - case.today)
            text = (
                f"supers planned {planned.isoformat()}; clear only {clear.isoformat()}; last start {last.isoformat()}"
            )
            yield Reason("T54", "not_now", "L", {"clear": clear, "limit": planned}, text)


@_rule
def _weather(case: _Case) -> Iterator[Reason]:
    for found in weather_on(case.option, case.forecast, case.today):
        until = next_usable(case.option, case.forecast, case.today) if found.level == "not_now" else None
        compared: dict[str, Figure] = {found.quantity: found.value, "limit": found.limit}
        source: Source = "E" if found.rule in ("T63", "T64", "T65") else "L"
        yield Reason(found.rule, found.level, source, compared, found.text, until)


@_rule
def _season(case: _Case) -> Iterator[Reason]:
    option, policy, today = case.option, case.situation.policy, case.today
    season = case.situation.season_phase
    if season not in option.phases:
        compared: dict[str, Figure] = {"season": season, "limit": ", ".join(option.phases)}
        yield Reason("T70", "not_now", "L/E", compared, "wrong season for this option")
    winter_bees = policy.winter_bee_date
    effect = today + timedelta(days=option.effect_days)
    if winter_bees is not None and effect > winter_bees and not case.in_cluster:
        text = "winter bees are already being reared when this takes effect"
        yield Reason("T71", "caution", "E", {"takes_effect": effect, "limit": winter_bees}, text)
    cold = policy.cold_date
    if cold is not None and option.stay_days[1] > LONG_STAY_DAYS and case.ideal_end > cold:
        text = "runs into the cold: bees leave the strips"
        yield Reason("T72", "caution", "E", {"ends": case.ideal_end, "limit": cold}, text)
    rebuilt = today + timedelta(days=option.rebuild_days)
    if winter_bees is not None and option.rebuild_days and rebuilt > winter_bees:
        yield Reason(
            "T73",
            "not_now",
            "E",
            {"rebuilt": rebuilt, "limit": winter_bees},
            "too late to rebuild before winter",
        )


@_rule
def _infestation(case: _Case) -> Iterator[Reason]:
    option, colony, policy = case.option, case.situation.colony, case.situation.policy
    rate, threshold = colony.infestation_pct, policy.threshold_pct
    if rate is not None and rate >= 2 * threshold > 0 and option.effect_days > LONG_STAY_DAYS:
        compared: dict[str, Figure] = {"mites_per_100": rate, "limit": 2 * threshold}
        yield Reason("T74", "caution", "E", compared, f"too slow at {rate:.1f} mites per 100 bees")
    if option.evidence == "weak":
        yield Reason("T75", "caution", "E", {"evidence": "weak"}, "weak evidence: not a treatment on its own")
    if option.chemical and policy.approach == "counting_first" and not case.in_cluster:
        age = (case.today - colony.counted_on).days if colony.counted_on else None
        if age is None or age > NO_RECENT_COUNT_DAYS:
            compared = {"days_since_count": age, "limit": NO_RECENT_COUNT_DAYS}
            yield Reason("T76", "caution", "P", compared, "no recent count: verification will have no baseline")
        elif (
            rate is not None
            and age <= COUNT_PROVES_DAYS
            and rate < threshold
            and not (policy.whole_apiary and policy.apiary_over)
        ):
            compared = {"mites_per_100": rate, "limit": threshold}
            text = f"below the threshold of {threshold:g} per 100 bees: recount rather than treat"
            yield Reason("T77", "caution", "P", compared, text)
    if option.chemical and policy.approach == "treatment_free":
        yield Reason("T79", "never_here", "P", {"approach": policy.approach}, "treatment-free policy")


def suit(option: Option, catalogue: Catalogue, situation: Situation) -> Suitability:
    """Judge one option. Raises InvalidInput for an unknown option among the earlier treatments."""
    forecast = situation.forecast.as_forecast() if situation.forecast is not None else None
    case = _Case(option, catalogue, situation, forecast, _dose_of(option, situation))
    reasons = sorted((reason for rule in RULES for reason in rule(case)), key=lambda reason: reason.rule)
    levels = {reason.level for reason in reasons}
    verdict: Verdict = "allowed"
    if "never_here" in levels:
        verdict = "never_here"
    elif "not_now" in levels:
        verdict = "not_now"
    elif "caution" in levels:
        verdict = "allowed_with_cautions"
    from_day, weather_known = (None, True) if verdict != "not_now" else _from(option, situation, forecast, reasons)
    efficacy = option.efficacy(situation.colony.capped_worker_brood == "no")
    rate = situation.colony.infestation_pct
    after = None
    if rate is not None and efficacy is not None:
        after = (rate * (1 - efficacy[1] / 100), rate * (1 - efficacy[0] / 100))
    winter_bees = situation.policy.winter_bee_date
    effect = situation.today + timedelta(days=option.effect_days)
    course = plan_course(option, situation.today)
    return Suitability(
        option=option,
        verdict=verdict,
        from_day=from_day,
        weather_known=weather_known,
        reasons=tuple(reasons),
        efficacy=efficacy,
        expected_after=after,
        in_time=None if winter_bees is None else effect <= winter_bees,
        dose=case.dose,
        ends_on=course.ending.window.ideal,
        honey_clear=course.honey_clear,
    )


def _dose_of(option: Option, situation: Situation) -> DoseResult | None:
    strength = situation.colony.strength
    try:
        return dose(
            option,
            frames=strength.value if strength and strength.unit == "frames" else None,
            seams=strength.value if strength and strength.unit == "seams" else None,
            brood_boxes=situation.colony.brood_boxes,
        )
    except InvalidInput:
        return None


def _from(
    option: Option, situation: Situation, forecast: Forecast | None, reasons: Sequence[Reason]
) -> tuple[date | None, bool]:
    """The day from which the option could be had, and whether the weather of that day is known."""
    blocking = [reason for reason in reasons if reason.level == "not_now"]
    if any(reason.until is None for reason in blocking):
        return None, True
    day = max([situation.today, *(reason.until for reason in blocking if reason.until is not None)])
    if forecast is not None and forecast.index(day) < len(forecast) and not usable(option, forecast, day):
        covered = any(finding.rule == NO_FORECAST for finding in weather_on(option, forecast, day))
        found = next_usable(option, forecast, day)
        if found is None and covered:
            return day, False
        return found, found is not None
    known = forecast is not None and forecast.index(day) < len(forecast)
    return day, known


def choose(catalogue: Catalogue, situation: Situation) -> Choice:
    """Judge every option of the catalogue and rank those that are allowed."""
    judged = {option.id: suit(option, catalogue, situation) for option in catalogue.options}
    allowed = [item for item in judged.values() if item.verdict in ("allowed", "allowed_with_cautions")]
    ordered = [item.option.id for item in sorted(allowed, key=ranking_key) if not item.supporting]
    supporting = [item.option.id for item in sorted(allowed, key=ranking_key) if item.supporting]
    return Choice(judged, ordered, supporting)


def ranking_key(item: Suitability) -> tuple[int, int, int, int, int, str]:
    """Verdict, in time, expected kill, risk to the queen, visits, id: the columns of the table from left to right."""
    return (
        VERDICT_ORDER.index(item.verdict),
        0 if item.in_time is not False else 1,
        -item.expected_midpoint,
        RISK_ORDER.index(item.option.queen_loss_risk),
        item.option.visits,
        item.option.id,
    )
