"""On which days each option could be placed: the grid in which a treatment is chosen by its day first.

A fact that is missing is a question, never a prohibition. Pure and without a clock.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

from redframe.core.treatments.catalogue import Span
from redframe.core.treatments.eligibility import Suitability
from redframe.core.treatments.reasons import CHECKED_AT_PLACING, Reason, ReasonCode

DayVerdict = Literal["allowed", "allowed_with_cautions", "asks", "not_now", "never_here"]
"""`asks`: nothing stands against it but a fact that nobody has recorded."""
BEST_FIRST: tuple[DayVerdict, ...] = ("allowed", "allowed_with_cautions", "asks", "not_now", "never_here")
Obstacle = Literal[
    "heat", "cold", "rain", "no_forecast", "season", "brood", "queen", "strength", "supers", "feed", "course", "uses",
    "rotation", "slow", "level", "hold", "permission",
]  # fmt: skip
"""What stands against a day, in a word."""
ASKED: frozenset[ReasonCode] = frozenset(
    ("strength_unknown", "brood_unknown", "brood_sighting_old", "brood_sighting_undated", "queen_unknown")
)
"""What holds an option back only because it is not known."""
OBSTACLES: Mapping[ReasonCode, Obstacle] = {
    "not_authorised": "permission", "group_excluded": "permission", "needs_prescription": "permission",
    "needs_respirator": "permission", "treatment_free": "permission", "on_hold": "hold", "on_hold_until": "hold",
    "other_disease": "hold", "uses_reached": "uses", "second_dose": "uses", "too_soon": "uses",
    "still_under_way": "course", "has_the_colony": "course", "same_group": "rotation", "group_failed": "rotation",
    "resistance_known": "rotation", "capped_brood": "brood", "works_partly": "brood", "needs_brood": "brood",
    "do_before": "brood", "brood_unknown": "brood", "broodless_by_calendar": "brood",
    "brood_sighting_old": "brood", "brood_sighting_undated": "brood",
    "queen_virgin": "queen", "queen_raised": "queen", "queen_caged": "queen", "queenless": "queen",
    "queen_unknown": "queen", "queen_new": "queen", "too_weak": "strength", "strength_unknown": "strength",
    "small_dose": "strength",
    "small_dose_of": "strength", "many_brood_boxes": "strength", "maximum_dose": "strength", "supers_on": "supers",
    "supers_unknown": "supers", "supers_by_label": "supers", "supers_unknown_by_label": "supers",
    "supers_planned": "supers", "fed": "feed",
    "fed_unknown": "feed",
    "supers_in_course": "supers", "supers_in_course_by_label": "supers", "feed_in_course": "feed",
    "feed_late": "feed", "day_too_hot": "heat", "hot_spell": "heat", "hot_later": "heat",
    "hot_in_course": "heat", "hot_after_start": "heat",
    "near_limit": "heat", "days_too_cold": "cold", "into_the_cold": "cold", "no_forecast": "no_forecast",
    "no_forecast_days": "no_forecast", "rain": "rain", "wrong_season": "season", "winter_bees_reared": "season",
    "too_late_to_rebuild": "season", "too_slow": "slow", "weak_evidence": "slow", "no_recent_count": "level",
    "below_threshold": "level", "dose_off_its_days": "uses", "out_too_early": "uses", "out_too_late": "uses",
    "doses_missing": "uses", "later_too_soon": "uses", "lost_too_fast": "uses", "lost_too_slowly": "uses",
    "not_all_out": "uses",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class OptionDay:
    """An option placed on a day in all colonies of a choice: the best verdict that any of them gets, how many may have
    it, of how many something must be asked first, whether it takes effect before the winter bees (None where there is
    no such date), and what stands against it where none may."""

    day: date
    verdict: DayVerdict
    ready: int
    asks: int
    in_time: bool | None
    obstacle: Obstacle | None


Group = Literal["any_brood", "broodless", "supporting"]
"""What an option asks of the colony: it reaches mites under cappings, asks for a colony without sealed brood, or is no
answer by itself."""
GROUP_ORDER: tuple[Group, ...] = ("any_brood", "broodless", "supporting")


@dataclass(frozen=True, slots=True)
class OptionDays:
    """An option over the days of the forecast; `efficacy` in per cent of all mites, as the colonies are now."""

    option_id: str
    group: Group
    efficacy: Span | None
    days: list[OptionDay]

    @property
    def soonest(self) -> date:
        """The first day on which it may be placed or only asks something; the last of days where there is none."""
        return min((one.day for one in self.days if one.ready or one.asks), default=date.max)


def blocking(reasons: Iterable[Reason]) -> list[Reason]:
    """The reasons that stand against an option, missing facts left out."""
    return [one for one in reasons if one.level != "caution" and one.code not in ASKED]


def day_verdict(judged: Suitability) -> DayVerdict:
    """A colony's verdict, with a question where only facts are missing."""
    if judged.verdict == "not_now" and not blocking(judged.reasons):
        return "asks"
    return judged.verdict


def option_days(judged: Iterable[Sequence[Sequence[Suitability]]]) -> list[OptionDays]:
    """Every option on every day; in each group those that can begin first on top, then those that kill more.

    `judged`: for each day, at least one, and each colony, at least one, the same options in the same order.
    """
    by_day = [list(zip(*colonies, strict=True)) for colonies in judged]
    found = []
    for of_option in zip(*by_day, strict=True):
        judged_first = of_option[0]
        option, own = judged_first[0].option, [_together(each) for each in of_option]
        group: Group = "any_brood"
        if all(one.supporting for one in judged_first):
            group = "supporting"
        elif option.brood_requirement == "broodless":
            group = "broodless"
        sample = judged_first[0]
        found.append((sample.expected_midpoint, OptionDays(option.id, group, sample.efficacy, own)))
    found.sort(key=lambda item: (GROUP_ORDER.index(item[1].group), item[1].soonest, -item[0], item[1].option_id))
    return [one for _, one in found]


def _together(judged: Sequence[Suitability]) -> OptionDay:
    verdicts = [day_verdict(one) for one in judged]
    best = min(verdicts, key=BEST_FIRST.index)
    in_time = [one.in_time for one in judged if one.in_time is not None]
    return OptionDay(
        day=judged[0].placed_on,
        verdict=best,
        ready=sum(verdict in ("allowed", "allowed_with_cautions") for verdict in verdicts),
        asks=verdicts.count("asks"),
        in_time=all(in_time) if in_time else None,
        obstacle=_obstacle(judged) if best in ("not_now", "never_here") else None,
    )


def _obstacle(judged: Sequence[Suitability]) -> Obstacle | None:
    """What most colonies have against it; what stays before the weather, which passes."""
    counted: dict[tuple[bool, Obstacle], int] = {}
    for one in judged:
        own = {OBSTACLES[each.code]: each.rule for each in blocking(one.reasons)}
        for obstacle, rule in own.items():
            key = (rule not in CHECKED_AT_PLACING, obstacle)
            counted[key] = counted.get(key, 0) + 1
    return max(counted, key=lambda key: (key[0], counted[key]))[1] if counted else None


def first_usable(found: Sequence[OptionDays]) -> date | None:
    """The first day on which a treatment could be placed: one in time for the winter bees before one that is late, one
    that may be placed before one that asks something first. None when there is no such day."""
    usable = [
        (one.in_time is False, one.ready == 0, one.day)
        for option in found
        if option.group != "supporting"
        for one in option.days
        if one.ready or one.asks
    ]
    return min(usable)[2] if usable else None
