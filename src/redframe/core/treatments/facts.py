"""From the records of a colony, and the policy that judges it, to the facts that the eligibility engine judges by.

No argument has a default: a fact that is not known is said to be unknown, it is never left out. What goes in are the
records' own shapes (protocols), so that the whole can be tested without a database.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from redframe.core.colonies.brood_state import OLD_EGGS_DAYS, BroodState, Stop
from redframe.core.colonies.condition import Condition
from redframe.core.colonies.holds import NOTHING_IS_DONE, Held
from redframe.core.colonies.queens import QueenState
from redframe.core.policy.policy import Scope
from redframe.core.policy.treatment_rules import TreatmentRules
from redframe.core.season.calendar import Calendar, month_day_index, next_day
from redframe.core.treatments.lateness import season_days
from redframe.core.treatments.progress import Plan
from redframe.core.treatments.situation import (
    BroodEvent,
    ColonyFacts,
    HoldFact,
    PastTreatment,
    PolicyFacts,
    StrengthFacts,
)
from redframe.core.treatments.states import CourseOutcome, CourseState, is_open
from redframe.core.visits.summary import StrengthUnit

STRENGTH_HOLDS_DAYS = 60
CAPPED_AT_THE_LATEST_DAYS = 9
"""Days from laying to capping: whoever sees no capped brood by then has seen that nothing came of the eggs."""


@dataclass(frozen=True, slots=True)
class GivenCourse:
    """A course that a colony was given, with the days on which its steps were done, and what came of it."""

    plan: Plan
    state: CourseState
    outcome: CourseOutcome | None
    placed_on: date | None
    ended_on: date | None
    days: dict[str, date]

    @property
    def due_out(self) -> date | None:
        """The day on which one that is under way should be out of the hive; None for one that is not."""
        if self.placed_on is None or self.ended_on is not None or not is_open(self.state):
            return None
        return self.plan.course(self.days).ending.window.ideal


@dataclass(frozen=True, slots=True)
class KnownStrength:
    """How strong a colony was on a day."""

    value: float
    unit: StrengthUnit
    on: date


@dataclass(frozen=True, slots=True)
class KnownRate:
    """The latest count that gave a rate in mites per 100 bees."""

    median: float
    on: date


@dataclass(frozen=True, slots=True)
class KnownQueen:
    """The queen as she was recorded; dates are None where nobody knows them."""

    state: QueenState
    since: date | None
    laying_since: date | None
    release_on: date | None


def colony_facts(
    day: date,
    *,
    today: date,
    strength: KnownStrength | None,
    brood_boxes: int,
    queen: KnownQueen,
    now: Condition,
    brood: BroodState | None,
    courses: Sequence[GivenCourse],
    rate: KnownRate | None,
    held: Sequence[Held],
) -> ColonyFacts:
    """The colony as it is known today to stand on `day`; `now` is its condition then, `brood` its calendar. Where
    nobody has looked since the last brood must have emerged, none is capped by the calendar. Strength of long ago is
    unknown.
    A course that is due out before `day` is taken to be out by then; one that is overdue stays in the hive.
    """
    bare_on = now.brood_seen_on if now.brood == "no" else None
    stop = brood.stop if brood is not None and brood.is_in_force else None
    by_calendar = _is_by_calendar(brood, now)
    eggs_seen_on = _came_to_something(now.eggs_seen_on if now.eggs else None, bare_on)
    laying_since = _came_to_something(queen.laying_since, bare_on)
    if stop is not None:
        eggs_seen_on = _laid_after(stop, eggs_seen_on)
        laying_since = _laid_after(stop, laying_since)
        if stop.kind == "queen_caged" and stop.release_on is not None and stop.release_on <= day:
            laying_since = laying_since or stop.release_on
    given = [one for one in courses if one.placed_on is not None and one.placed_on <= day]
    fresh = strength is not None and (day - strength.on).days <= STRENGTH_HOLDS_DAYS
    return ColonyFacts(
        strength=StrengthFacts(value=strength.value, unit=strength.unit) if strength is not None and fresh else None,
        brood_boxes=brood_boxes,
        capped_worker_brood="no" if by_calendar else now.brood,
        brood_seen_on=brood.opens if by_calendar and brood is not None else now.brood_seen_on,
        brood_event=None if stop is None or stop.kind == "brood_out" else BroodEvent(type=stop.kind, date=stop.on),
        brood_by_calendar=by_calendar,
        queen=queen.state,
        queen_since=queen.since,
        laying_since=laying_since,
        release_on=queen.release_on or (stop.release_on if stop is not None else None),
        eggs_seen_on=eggs_seen_on,
        supers_on=now.supers.value if now.supers is not None else None,
        supers_off_by=None,  # nobody records when they will come off
        fed=now.fed.value if now.fed is not None else None,
        fed_until=None,  # nor until when is fed
        last_treatments=[
            PastTreatment(
                option=one.plan.option.id,
                start=one.placed_on,
                end=one.due_out if one.due_out is not None and today <= one.due_out < day else one.ended_on,
                due_out=one.due_out,
                outcome=one.outcome,
            )
            for one in given
            if one.placed_on is not None
        ],
        infestation_pct=rate.median if rate is not None else None,
        counted_on=rate.on if rate is not None else None,
        holds=[
            HoldFact(kind="notifiable" if one.reason in NOTHING_IS_DONE else "other", name=one.text) for one in held
        ],
    )


def _is_by_calendar(brood: BroodState | None, now: Condition) -> bool:
    """Whether the calendar says that no brood is capped, and nobody has looked since."""
    if brood is None or brood.window not in ("open", "closing"):
        return False
    return now.brood == "unknown" or now.brood_seen_on is None or now.brood_seen_on < brood.opens


def _laid_after(stop: Stop, laid_on: date | None) -> date | None:
    """Eggs that were laid before the laying stopped say nothing of new brood."""
    return laid_on if laid_on is not None and (laid_on - stop.on).days > OLD_EGGS_DAYS else None


def _came_to_something(laid_on: date | None, bare_on: date | None) -> date | None:
    """The day on which eggs were laid, unless no capped brood was seen when it should have been there."""
    if laid_on is None or (bare_on is not None and (bare_on - laid_on).days >= CAPPED_AT_THE_LATEST_DAYS):
        return None
    return laid_on


def policy_facts(
    day: date, *, rules: TreatmentRules, calendar: Calendar, scope: Scope, act_per_100: float, apiary_over: bool
) -> PolicyFacts:
    """What the association, the label and the law allow on `day`. `act_per_100`: the act level in mites per 100 bees
    (0: one mite is one too many)."""

    season = season_days(rules, calendar, day)
    return PolicyFacts(
        authorised=rules.authorised,
        excluded_groups=list(rules.excluded_groups),
        prescription_needed=rules.prescription_needed,
        prescriber_recorded=bool(rules.prescriber.strip()),
        respirator_ok=rules.respirator_ok,
        vapour_series=rules.vapour_series,
        trickle_repeat=rules.trickle_repeat,
        allow_oxalic_with_brood=rules.allow_oxalic_with_brood,
        resistance=list(rules.resistance),
        strict_rotation=rules.strict_rotation,
        approach=rules.approach,
        whole_apiary=scope == "whole_apiary",
        apiary_over=apiary_over,
        threshold_pct=act_per_100,
        winter_bee_date=season.winter_bees,
        cold_date=season.cold,
        feed_start_by=season.feed_start_by,
        planned_supers_on=next_day(day, month_day_index(rules.supers_on)) if rules.supers_on is not None else None,
        treatment_year_start=rules.treatment_year,
    )
