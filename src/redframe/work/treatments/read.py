"""A course as it stands today: its steps, with dates that move with what was done and with the weather."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from redframe.core.colonies.condition import Condition
from redframe.core.treatments.catalogue import Option
from redframe.core.treatments.course import CLOSE_SUPERS_FEEDER
from redframe.core.treatments.lateness import NO_SEASON, LateCost, SeasonDays, late_costs, season_days
from redframe.core.treatments.placing_days import PlacingDays, placing_days
from redframe.core.treatments.plan_steps import PlanStep, plan_steps
from redframe.core.treatments.progress import Plan, StepProgress, steps_on
from redframe.core.treatments.reasons import Reason
from redframe.core.treatments.set_up import against_course
from redframe.core.treatments.states import COURSE_STATES, is_open
from redframe.core.treatments.step_facts import Asked, Placed, asked_at, findings_of
from redframe.core.treatments.watch import watch_placed
from redframe.core.treatments.weather import Forecast
from redframe.store import places
from redframe.store import treatments as store
from redframe.store.treatments import Course, CourseAct, CourseStep
from redframe.work.colonies.condition import recorded_of
from redframe.work.policy.read import policy_in_force
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.weather import forecast_at


@dataclass(frozen=True, slots=True)
class StepView:
    """A step as it stands today, what it asks for, what was recorded of it and what that says."""

    step: StepProgress
    act: CourseAct | None
    asks: Sequence[Asked]
    findings: Sequence[Reason]


@dataclass(frozen=True, slots=True)
class CourseView:
    """A course with its steps as they stand today, what the hive says against it (supers, feed), and what it costs that
    a step is late."""

    course: Course
    option: Option
    is_open: bool
    steps: Sequence[StepView]
    next_step: str | None
    warnings: Sequence[Reason]
    late: Sequence[LateCost]


@dataclass(frozen=True, slots=True)
class PlanView:
    """All courses planned together, and the steps that are before those of each apiary."""

    courses: Sequence[CourseView]
    steps: Mapping[UUID, Sequence[PlanStep]]


def plan_of(course: Course) -> Plan:
    """What a course on record was planned as."""
    return Plan(course.option, course.start_on, course.interval_override)


async def course_view(unit: UnitOfWork, course_id: UUID) -> CourseView:
    """A course as it stands today. Raises NotFound."""
    course = await store.course(unit.connection, course_id)
    return (await views_of_courses(unit, [course]))[0]


async def plan_view(unit: UnitOfWork, plan_id: UUID) -> PlanView:
    """All courses planned together, as they stand today."""
    found = await views_of_courses(unit, await store.courses_of_plan(unit.connection, plan_id))
    at: dict[UUID, list[list[StepProgress]]] = defaultdict(list)
    for one in found:
        if one.is_open:
            at[one.course.apiary_id].append([step.step for step in one.steps])
    return PlanView(found, {apiary: plan_steps(steps, today=unit.today) for apiary, steps in at.items()})


async def courses_of_colony(unit: UnitOfWork, colony_id: UUID) -> list[CourseView]:
    """All courses of a colony, newest first."""
    return await views_of_courses(unit, await store.courses_of_colonies(unit.connection, [colony_id]))


async def placing_days_of_course(unit: UnitOfWork, course_id: UUID) -> PlacingDays:
    """Each day of the forecast for the next dose of a course. Raises NotFound."""
    course = await store.course(unit.connection, course_id)
    apiary = await places.apiary(unit.connection, course.apiary_id)
    return placing_days(course.option, forecast_at(unit, apiary.latitude, apiary.longitude))


async def placing_days_of_option(unit: UnitOfWork, apiary_id: UUID, option_id: str) -> PlacingDays:
    """Each day of the forecast at an apiary for an option by its label. Raises NotFound, InvalidInput."""
    apiary = await places.apiary(unit.connection, apiary_id)
    option = (await policy_in_force(unit)).treatment_rules.catalogue.option(option_id, "option_id")
    return placing_days(option, forecast_at(unit, apiary.latitude, apiary.longitude))


async def views_of_courses(unit: UnitOfWork, found: Sequence[Course]) -> list[CourseView]:
    """Courses as they stand today, in the order in which they were given."""
    ids = [course.id for course in found]
    steps: dict[UUID, list[CourseStep]] = {one: [] for one in ids}
    for step in await store.steps_of_courses(unit.connection, ids):
        steps[step.course_id].append(step)
    acts: dict[UUID, list[CourseAct]] = {one: [] for one in ids}
    for act in await store.acts_of_courses(unit.connection, ids):
        acts[act.course_id].append(act)
    forecasts: dict[UUID, Forecast] = {}
    for apiary_id in {course.apiary_id for course in found if COURSE_STATES[course.state].places_wait}:
        apiary = await places.apiary(unit.connection, apiary_id)
        forecasts[apiary_id] = forecast_at(unit, apiary.latitude, apiary.longitude)
    watched = [one for one in found if _is_watched(unit, one)]
    known = await recorded_of(unit, list({one.colony_id for one in watched})) if watched else {}
    season = NO_SEASON
    if any(is_open(course.state) for course in found):
        policy = await policy_in_force(unit)
        season = season_days(policy.treatment_rules, policy.calendar, unit.today)
    return [
        _view(
            unit, course, steps[course.id], acts[course.id], forecasts.get(course.apiary_id),
            known[course.colony_id].on(unit.today) if course in watched else None, season,
        )
        for course in found
    ]  # fmt: skip


def _step_view(option: Option, step: StepProgress, act: CourseAct | None, acts: Sequence[CourseAct]) -> StepView:
    placing = int(step.name.removeprefix("place_")) if step.kind == "place" else None
    findings: Sequence[Reason] = ()
    if act is not None:
        before = [
            Placed(one.done_on, one.quantity)
            for one in acts
            if one.step.startswith("place_") and one.id != act.id and one.done_on <= act.done_on
        ]
        findings = findings_of(option, act.facts, act.done_on, before)
    return StepView(step, act, asked_at(option, step.kind, placing), findings)


def _is_watched(unit: UnitOfWork, course: Course) -> bool:
    """Whether supers and feed bear on a course now: it is in the hive, or will be once they are taken off."""
    option = course.option
    bears_all = option.supers == "yes" and option.feeding_during
    soon = course.start_on + timedelta(days=CLOSE_SUPERS_FEEDER[0]) <= unit.today
    return is_open(course.state) and course.ended_on is None and not bears_all and soon


def _view(
    unit: UnitOfWork,
    course: Course,
    steps: Sequence[CourseStep],
    acts: Sequence[CourseAct],
    forecast: Forecast | None,
    hive: Condition | None,
    season: SeasonDays,
) -> CourseView:
    plan = plan_of(course)
    first_ideals = {step.name: step.first_ideal for step in steps}
    views, next_step = steps_on(plan, course.state, acts, first_ideals, forecast, today=unit.today)
    if not COURSE_STATES[course.state].has_steps:
        views, next_step = [], None
    recorded = {act.step: act for act in acts}
    return CourseView(
        course,
        plan.option,
        is_open(course.state),
        [_step_view(plan.option, view, recorded.get(view.name), acts) for view in views],
        next_step,
        [
            *([] if hive is None else against_course(
                plan.option, hive, is_placed=course.placed_on is not None,
                dose_to_come=any(view.kind == "place" and view.name not in recorded for view in views),
            )),
            *_weather_over(course, acts, forecast, unit.today),
        ],
        late_costs(plan, course.state, acts, first_ideals, season, today=unit.today),
    )  # fmt: skip


def _weather_over(course: Course, acts: Sequence[CourseAct], forecast: Forecast | None, today: date) -> list[Reason]:
    """What the weather does to the dose that is in the hive."""
    placed = [one.done_on for one in acts if one.step.startswith("place_") and one.outcome == "done"]
    if forecast is None or not placed or course.ended_on is not None or not is_open(course.state):
        return []
    return watch_placed(course.option, max(placed), forecast, today)
