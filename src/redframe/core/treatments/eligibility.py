"""Which options suit this colony now, with every reason.

Pure and without a clock. The rules (`rules.py`) answer with reasons; the worst reason decides the verdict, and all of
them are shown. The ranking is an order by visible columns, never a hidden score.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from functools import cache
from math import floor
from operator import attrgetter
from typing import Literal

from redframe.core.errors import InvalidInput
from redframe.core.treatments.catalogue import Catalogue, Option, QueenLossRisk, Span
from redframe.core.treatments.course import undisturbed
from redframe.core.treatments.dose import DoseResult, dose
from redframe.core.treatments.reasons import CHECKED_AT_PLACING, Reason
from redframe.core.treatments.rules import RULES, Case, past_of
from redframe.core.treatments.situation import Situation
from redframe.core.treatments.weather import NO_FORECAST, WeatherHere

Verdict = Literal["allowed", "allowed_with_cautions", "not_now", "never_here"]
VERDICT_ORDER: tuple[Verdict, ...] = ("allowed", "allowed_with_cautions", "not_now", "never_here")
RISK_ORDER: tuple[QueenLossRisk, ...] = ("low", "medium", "high")
SUPPORTING_BELOW_PCT = 20
_VERDICT_AT = {verdict: at for at, verdict in enumerate(VERDICT_ORDER)}
_RISK_AT = {risk: at for at, risk in enumerate(RISK_ORDER)}
_BY_RULE = attrgetter("rule")


@cache
def _midpoint(span: Span) -> int:
    return 5 * floor(sum(span) / 2 / 5 + 0.5)


@dataclass(frozen=True, slots=True)
class Suitability:
    """One option for one colony on one day. `from_day` is given only with `not_now`; `weather_known` is False when that
    day lies past the forecast."""

    option: Option
    placed_on: date
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
    def honey_days(self) -> int:
        """Days from the first dose on which no honey is taken, unless its label says otherwise."""
        return 0 if self.honey_clear is None else max(0, (self.honey_clear - self.placed_on).days)

    @property
    def expected_midpoint(self) -> int:
        """Midpoint of the efficacy, rounded to 5 (half up); 0 when no range is known."""
        return 0 if self.efficacy is None else _midpoint(self.efficacy)

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


def suit(option: Option, catalogue: Catalogue, situation: Situation) -> Suitability:
    """Judge one option. Raises InvalidInput for an unknown option among the earlier treatments."""
    weather = WeatherHere(situation.forecast.as_forecast() if situation.forecast is not None else None)
    ideal_end, honey_clear = undisturbed(option, situation.today)
    dose, past = dose_of(option, situation), past_of(catalogue, situation)
    case = Case(option, catalogue, situation, weather, dose, ideal_end, past)
    return judged(case, honey_clear, [reason for rule in RULES for reason in rule.ask(case)])


def judged(case: Case, honey_clear: date | None, found: Iterable[Reason]) -> Suitability:
    """What follows from the reasons of all rules."""
    option, situation = case.option, case.situation
    today = situation.today
    reasons = [one if one.until is None else one.on(today) for one in found]
    verdict: Verdict = "allowed"
    if reasons:
        reasons.sort(key=_BY_RULE)
        levels = {reason.level for reason in reasons}
        verdict = "allowed_with_cautions"
        if "never_here" in levels:
            verdict = "never_here"
        elif "not_now" in levels:
            verdict = "not_now"
    from_day, weather_known = _from(case, reasons) if verdict == "not_now" else (None, True)
    efficacy = option.efficacy(situation.colony.capped_worker_brood == "no")
    rate = situation.colony.infestation_pct
    after = None
    if rate is not None and efficacy is not None:
        after = (rate * (1 - efficacy[1] / 100), rate * (1 - efficacy[0] / 100))
    winter_bees = situation.policy.winter_bee_date
    effect = today + timedelta(days=option.effect_days)
    return Suitability(
        option=option,
        placed_on=today,
        verdict=verdict,
        from_day=from_day,
        weather_known=weather_known,
        reasons=tuple(reasons),
        efficacy=efficacy,
        expected_after=after,
        in_time=None if winter_bees is None else effect <= winter_bees,
        dose=case.dose,
        ends_on=case.ideal_end,
        honey_clear=honey_clear,
    )


def dose_of(option: Option, situation: Situation) -> DoseResult | None:
    """The dose for the strength on record; None where there is none to tell it by."""
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


def _from(case: Case, reasons: Sequence[Reason]) -> tuple[date | None, bool]:
    """The day from which the option could be had, and whether the weather of that day is known."""
    option, weather = case.option, case.weather
    blocking = [reason for reason in reasons if reason.level == "not_now"]
    days = [reason.until for reason in blocking if reason.until is not None]
    if len(days) < len(blocking):
        return None, True
    day = max(days)
    if weather.covers(day) and not weather.usable(option, day):
        covered = any(finding.rule == NO_FORECAST for finding in weather.on(option, day))
        found = weather.next_usable(option, day)
        if found is None and covered:
            return day, False
        return found, found is not None
    return day, weather.covers(day)


def choose(catalogue: Catalogue, situation: Situation) -> Choice:
    """Judge every option of the catalogue and rank those that are allowed."""
    return choice_of([suit(option, catalogue, situation) for option in catalogue.options])


def choice_of(judged: Sequence[Suitability]) -> Choice:
    """Options that were judged, those that are allowed ranked."""
    allowed = [item for item in judged if item.verdict in ("allowed", "allowed_with_cautions")]
    allowed.sort(key=ranking_key)
    ordered: list[str] = []
    supporting: list[str] = []
    for item in allowed:
        (supporting if item.supporting else ordered).append(item.option.id)
    return Choice({item.option.id: item for item in judged}, ordered, supporting)


def ranking_key(item: Suitability) -> tuple[int, int, int, int, int, str]:
    """Verdict, in time, expected kill, risk to the queen, visits, id: the columns of the table from left to right."""
    option = item.option
    return (
        _VERDICT_AT[item.verdict],
        0 if item.in_time is not False else 1,
        -item.expected_midpoint,
        _RISK_AT[option.queen_loss_risk],
        option.visits,
        option.id,
    )
