"""A course as it stands today: the state of each step, and dates that move with what was done and with the weather."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal
from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.core.treatments.catalogue import Option, default_catalogue
from redframe.core.treatments.course import LATE_COSTS, plan_course
from redframe.core.treatments.course import Course as PlannedCourse
from redframe.core.treatments.eligibility import Reason
from redframe.core.treatments.states import COURSE_STATES, is_open
from redframe.core.treatments.weather import Forecast, next_usable, weather_on
from redframe.store import places
from redframe.store import treatments as store
from redframe.store.treatments import Course, CourseAct, CourseStep
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.weather import forecast_at

StepState = Literal["pending", "ready", "overdue", "waiting_for_weather", "done", "done_late", "skipped", "cancelled"]


@dataclass(frozen=True, slots=True)
class StepView:
    """A step as it stands today. `moved_days` against the plan of record, with the reason; `weather` for a placing."""

    step: CourseStep
    state: StepState
    earliest: date
    ideal: date
    latest: date
    moved_days: int
    moved_why: str
    late_cost: str
    weather: Sequence[Reason]
    next_usable: date | None
    act: CourseAct | None


@dataclass(frozen=True, slots=True)
class CourseView:
    """A course with its steps as they stand today."""

    course: Course
    option: Option
    steps: Sequence[StepView]
    next_step: str | None


async def course_view(unit: UnitOfWork, course_id: UUID) -> CourseView:
    """A course as it stands today. Raises NotFound."""
    course = await store.course(unit.connection, course_id)
    return (await _views(unit, [course]))[0]


async def courses_of_plan(unit: UnitOfWork, plan_id: UUID) -> list[CourseView]:
    """All courses planned together, as they stand today."""
    return await _views(unit, await store.courses_of_plan(unit.connection, plan_id))


async def courses_of_colony(unit: UnitOfWork, colony_id: UUID) -> list[CourseView]:
    """All courses of a colony, newest first."""
    return await _views(unit, await store.courses_of_colonies(unit.connection, [colony_id]))


async def _views(unit: UnitOfWork, found: Sequence[Course]) -> list[CourseView]:
    ids = [course.id for course in found]
    steps = await store.steps_of_courses(unit.connection, ids)
    acts = await store.acts_of_courses(unit.connection, ids)
    forecasts: dict[UUID, Forecast] = {}
    for apiary_id in {course.apiary_id for course in found if COURSE_STATES[course.state].places_wait}:
        apiary = await places.apiary(unit.connection, apiary_id)
        forecasts[apiary_id] = forecast_at(unit, apiary.latitude, apiary.longitude)
    return [
        _view(
            unit.today,
            course,
            [step for step in steps if step.course_id == course.id],
            [act for act in acts if act.course_id == course.id],
            forecasts.get(course.apiary_id),
        )
        for course in found
    ]


def _view(
    today: date, course: Course, steps: Sequence[CourseStep], acts: Sequence[CourseAct], forecast: Forecast | None
) -> CourseView:
    """Dates as expected from today: a placing that waits for the weather takes what follows with it."""
    option = default_catalogue().option(course.option_id)
    done = {act.step: act for act in acts}
    closed = not is_open(course.state)
    actuals = {act.step: act.done_on for act in acts if act.outcome == "done"}
    placing = next((step for step in steps if step.kind == "place" and step.name not in done), None)
    weather: list[Reason] = []
    following: date | None = None
    expected = dict(actuals)
    if placing is not None and forecast is not None and not closed:
        day = max(today, placing.ideal)
        found = weather_on(option, forecast, day)
        weather = [Reason(f.rule, f.level, "E", {f.quantity: f.value, "limit": f.limit}, f.text) for f in found]
        blocked = any(reason.level == "not_now" and reason.rule != "T62" for reason in weather)
        following = next_usable(option, forecast, day) if blocked else day
        if following is not None and following > placing.ideal:
            expected[placing.name] = following
    try:
        plan = plan_course(option, course.start_on, expected, course.interval_override)
    except InvalidInput:
        plan = plan_course(option, course.start_on, actuals, course.interval_override)
    views = []
    for row in steps:
        step = plan.step(row.name)
        own_weather = weather if placing is not None and row.name == placing.name else []
        act = done.get(row.name)
        state = _state(today, row, act, done, closed, own_weather)
        ideal = act.done_on if act is not None and act.outcome == "done" else step.window.ideal
        if row.name in expected and row.name not in actuals:
            ideal = expected[row.name]
        moved = (ideal - row.first_ideal).days
        views.append(
            StepView(
                step=row,
                state=state,
                earliest=step.window.earliest,
                ideal=ideal,
                latest=step.window.latest,
                moved_days=moved,
                moved_why=_moved_why(moved, row, plan, actuals, expected, own_weather),
                late_cost=LATE_COSTS.get(step.kind, "") if state == "overdue" else "",
                weather=own_weather,
                next_usable=following if own_weather else None,
                act=act,
            )
        )
    next_step = None if closed else next((view.step.name for view in views if _is_next(view, done)), None)
    return CourseView(course, option, views, next_step)


def _is_next(view: StepView, done: Mapping[str, CourseAct]) -> bool:
    """The step to do next: never one that a later step has overtaken."""
    if view.act is not None or (view.step.kind == "baseline_count" and "place_1" in done):
        return False
    if view.step.kind == "interim_check":
        return not {"remove", "end"} & set(done)
    return view.step.kind != "baseline_count" or view.state in ("ready", "overdue")


def _state(
    today: date,
    row: CourseStep,
    act: CourseAct | None,
    done: Mapping[str, CourseAct],
    closed: bool,
    weather: Sequence[Reason],
) -> StepState:
    if act is not None:
        if act.outcome == "skipped":
            return "skipped"
        return "done_late" if act.done_on > row.latest else "done"
    if closed:
        return "cancelled"
    if row.after is not None and row.after not in done:
        return "pending"
    if today > row.latest:
        return "overdue"
    if today < row.earliest:
        return "pending"
    if any(reason.level == "not_now" and reason.rule != "T62" for reason in weather):
        return "waiting_for_weather"
    return "ready"


def _moved_why(
    moved: int,
    row: CourseStep,
    plan: PlannedCourse,
    actuals: Mapping[str, date],
    expected: Mapping[str, date],
    weather: Sequence[Reason],
) -> str:
    if moved == 0:
        return ""
    blocked = next((reason for reason in weather if reason.level == "not_now" and reason.rule != "T62"), None)
    if blocked is not None:
        return blocked.text
    if row.name in actuals:
        return ""
    if row.name in expected:
        return "later than planned"
    after = row.after
    while after is not None:
        if after in actuals:
            return f"counts from {_said(after)}, done {actuals[after].isoformat()}"
        if after in expected:
            return f"counts from {_said(after)}, expected {expected[after].isoformat()}"
        after = plan.step(after).after
    return ""


def _said(step: str) -> str:
    """A step inside a sentence: "dose 2", "the end of the course"."""
    kind, _, number = step.partition("_")
    if kind == "place":
        return f"dose {number}"
    return {"remove": "the removal", "end": "the end of the course"}.get(step, step.replace("_", " "))
