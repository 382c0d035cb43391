"""What it costs that a step is late: what slips with it, and what of the season it runs into.

Counted from the plan of record, as if the step were done today; each later day costs a day more.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import Literal

from redframe.core.policy.treatment_rules import TreatmentRules
from redframe.core.said import Params, nothing
from redframe.core.season.calendar import Calendar, month_day_index
from redframe.core.treatments.course import Step
from redframe.core.treatments.progress import Done, Plan
from redframe.core.treatments.states import CourseState, is_open

LateCode = Literal["late_ends", "late_honey", "late_check", "late_winter_bees", "late_feed", "late_cold", "late_until"]


@dataclass(frozen=True, slots=True)
class LateCost:
    """One thing that a late step costs."""

    code: LateCode
    params: Params = field(default_factory=nothing)


@dataclass(frozen=True, slots=True)
class SeasonDays:
    """Days of the running season that a course is measured by; None where the association has none."""

    winter_bees: date | None
    feed_start_by: date | None
    cold: date | None


NO_SEASON = SeasonDays(None, None, None)


def season_days(rules: TreatmentRules, calendar: Calendar, today: date) -> SeasonDays:
    """The days of the season that runs today, gone by or still to come."""

    def of_season(month_day: str | None) -> date | None:
        return None if month_day is None else calendar.in_running_season(today, month_day_index(month_day))

    return SeasonDays(calendar.winter_bee_date(today), of_season(rules.feed_start_by), of_season(rules.cold))


def late_costs(
    plan: Plan, state: CourseState, acts: Sequence[Done], first_ideals: Mapping[str, date], season: SeasonDays,
    *, today: date,
) -> list[LateCost]:  # fmt: skip
    """What the step that is next costs by being done today, after its day; [] where nothing is late or slips.

    The step is a placing, or the removal that ends the course: what comes before a placing is late with it.
    """
    days = plan.days(acts)
    course = plan.course(days)
    step = _next_of_hive(course.steps, days)
    if step is None or not is_open(state) or step.window.ideal >= today:
        return []
    ended = course.ending.name
    now = plan.course({**days, step.name: today})
    first_end = first_ideals.get(ended, course.ending.window.ideal)
    end = now.ending.window.ideal if step.name != ended else today
    found: list[LateCost] = []
    if end > first_end:
        found.append(LateCost("late_ends", {"days": (end - first_end).days, "on": end, "was": first_end}))
        if now.honey_clear is not None:
            found.append(LateCost("late_honey", {"on": now.honey_clear}))
        check = now.step("verify").window
        found.append(LateCost("late_check", {"first": check.earliest, "last": check.latest}))
    option = plan.option
    if step.placing == 1 and season.winter_bees is not None:
        effect = timedelta(days=option.effect_days)
        if plan.start_on + effect <= season.winter_bees < today + effect:
            found.append(LateCost("late_winter_bees", {"limit": season.winter_bees}))
    if not option.feeding_during and season.feed_start_by is not None and first_end <= season.feed_start_by < end:
        found.append(LateCost("late_feed", {"limit": season.feed_start_by, "on": end}))
    if season.cold is not None and first_end <= season.cold < end:
        found.append(LateCost("late_cold", {"limit": season.cold}))
    if step.window.latest >= today and found:
        found.append(LateCost("late_until", {"day": step.window.latest}))
    return found


def _next_of_hive(steps: Sequence[Step], done: Mapping[str, date]) -> Step | None:
    """The step that the rest of the course counts from: the next placing, or the removal after the last."""
    return next((one for one in steps if one.kind in ("place", "remove") and one.name not in done), None)
