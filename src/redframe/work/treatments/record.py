"""Courses: planned for several colonies at once, carried out step by step, verified, closed or abandoned."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Any, Literal
from uuid import UUID

from psycopg.types.json import Jsonb

from redframe.core.errors import InvalidInput, Refused
from redframe.core.treatments.catalogue import Option, default_catalogue
from redframe.core.treatments.course import Course as PlannedCourse
from redframe.core.treatments.course import Step, plan_course
from redframe.core.treatments.states import CLOSED_BY_VERDICT, CourseState, is_open
from redframe.core.treatments.weather import next_usable, weather_on
from redframe.store import places, records
from redframe.store import treatments as store
from redframe.store.errors import AlreadyDone
from redframe.store.treatments import Course, CourseAct
from redframe.work.roles import require
from redframe.work.status.recompute import recompute_status
from redframe.work.to_json import to_json
from redframe.work.treatments.plan import (
    Override,
)
from redframe.work.treatments.read import CourseView, course_view
from redframe.work.treatments.verification import _verdict
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.weather import forecast_at

Outcome = Literal["done", "skipped"]

MAY_BE_SKIPPED = frozenset({"baseline_count", "interim_check"})


@dataclass(frozen=True, slots=True)
class NewAct:
    """A step as a person reports it."""

    id: UUID
    step: str
    outcome: Outcome
    done_on: date
    quantity: float | None
    lot: str
    count_id: UUID | None
    note: str
    override: Override | None


async def record_act(unit: UnitOfWork, course_id: UUID, act: NewAct) -> CourseView:
    """Record a step of a course once; everything behind it moves with the day it was done.

    Raises Refused with the rule (too early, the step before it not done, weather), AlreadyDone with who and when,
    InvalidInput naming `done_on`, `quantity`, `count_id` or `note`.
    """
    require(unit.who, "record")
    course = await store.course(unit.connection, course_id)
    content = {"course": course_id, **to_json(act)}
    if await unit.accept(act.id, "act", content):
        await store.lock_course(unit.connection, course_id)
        course = await store.course(unit.connection, course_id)
        acts = await store.acts_of_courses(unit.connection, [course_id])
        before = next((done for done in acts if done.step == act.step), None)
        if before is not None:
            raise AlreadyDone(
                f"recorded before by {before.by_name or 'somebody'}, done on {before.done_on.isoformat()}"
            )
        option = default_catalogue().option(course.option_id)
        planned = _planned(course, option, acts)
        step = planned.step(act.step)
        _check_act(unit, course, step, act, acts)
        if step.kind == "place":
            await _check_weather(unit, course, option, act)
        await store.add_act(
            unit.connection,
            id=act.id,
            course_id=course_id,
            step=act.step,
            outcome=act.outcome,
            done_on=act.done_on,
            quantity=act.quantity if step.kind == "place" else None,
            quantity_unit=course.dose_unit if step.kind == "place" and act.quantity else None,
            lot=act.lot,
            count_id=act.count_id if step.kind in ("verify", "baseline_count") else None,
            note=act.note,
            override_by=act.override.authorised_by if act.override else "",
            override_why=act.override.reason if act.override else "",
        )
        await _move_on(unit, course, option)
    return await course_view(unit, course_id)


def _check_act(unit: UnitOfWork, course: Course, step: Step, act: NewAct, acts: Sequence[CourseAct]) -> None:
    if not is_open(course.state):
        raise Refused(
            "closed", f"this course is {course.state.replace('_', ' ')}: nothing more can be recorded", field="step"
        )
    if act.done_on > unit.today:
        raise InvalidInput("done_on", "lies in the future", code="out_of_range")
    done = {one.step: one for one in acts}
    if step.after is not None and step.after not in done and step.kind != "interim_check":
        raise Refused("order", f"first: {step.after.replace('_', ' ')}", field="step")
    if step.after is not None and step.after in done and act.done_on < done[step.after].done_on:
        raise InvalidInput("done_on", "is before the step that comes before it", code="out_of_range")
    overridden = act.override is not None and act.override.authorised_by.strip() and act.override.reason.strip()
    if act.outcome == "skipped":
        if step.name not in MAY_BE_SKIPPED:
            raise Refused("skip", "this step cannot be skipped", field="outcome")
        if not act.note.strip():
            raise InvalidInput("note", "say why it is skipped", code="missing")
        return
    if act.done_on < step.window.earliest and not overridden:
        raise Refused(
            "S2",
            f"too early: not before {step.window.earliest.isoformat()}, unless somebody named takes it on",
            field="done_on",
            can_override=step.kind != "verify",
        )
    if step.kind == "place" and act.done_on > step.window.latest and not overridden:
        raise Refused(
            "S4",
            f"past its window ({step.window.latest.isoformat()}): plan again, or somebody named takes it on",
            field="done_on",
            can_override=True,
        )
    if step.kind == "place" and (act.quantity is None or not 0 < act.quantity <= 1000):
        raise InvalidInput("quantity", f"enter the dose placed, in {course.dose_unit}", code="missing")
    if step.kind == "verify" and act.count_id is None:
        raise InvalidInput("count_id", "a course is verified by a count", code="missing")


async def _check_weather(unit: UnitOfWork, course: Course, option: Option, act: NewAct) -> None:
    """The weather is looked at again on the day of the placing; a placing entered later was seen by who placed it."""
    if act.done_on != unit.today or (act.override and act.override.reason.strip()):
        return
    apiary = await places.apiary(unit.connection, course.apiary_id)
    forecast = forecast_at(unit, apiary.latitude, apiary.longitude)
    blocked = [found for found in weather_on(option, forecast, act.done_on) if found.level == "not_now"]
    if blocked:
        following = next_usable(option, forecast, act.done_on)
        then = f"; next usable day {following.isoformat()}" if following else "; no usable day in the forecast"
        raise Refused(blocked[0].rule, blocked[0].text + then, field="done_on", can_override=True)


def _planned(course: Course, option: Option, acts: Sequence[CourseAct]) -> PlannedCourse:
    actuals = {act.step: act.done_on for act in acts if act.outcome == "done"}
    return plan_course(option, course.start_on, actuals, course.interval_override)


async def _move_on(unit: UnitOfWork, course: Course, option: Option, abandoned_why: str = "") -> None:
    """Lay steps, state and dates of a course anew from what has been done of it."""
    acts = await store.acts_of_courses(unit.connection, [course.id])
    done = {act.step: act for act in acts}
    planned = _planned(course, option, acts)
    placed = done.get("place_1")
    ending = done.get(planned.ending.name)
    verdict: dict[str, Any] | None = course.verdict
    if "verify" in done and done["verify"].count_id is not None:
        verdict = await _verdict(unit, course, option, done, ending.done_on if ending else planned.ending.window.ideal)
    if abandoned_why:
        state: CourseState = "abandoned"
    elif "close" in done and verdict is not None:
        state = CLOSED_BY_VERDICT[verdict["word"]]
    elif ending is not None:
        state = "awaiting_verification"
    else:
        state = "under_way" if placed is not None else "planned"
    await store.replace_steps(unit.connection, course.id, planned, set(done))
    await store.move_course(
        unit.connection,
        id=course.id,
        state=state,
        occupies_from=placed.done_on if placed else course.start_on,
        occupies_to=max(
            ending.done_on if ending else planned.ending.window.ideal, placed.done_on if placed else date.min
        ),
        placed_on=placed.done_on if placed else None,
        ended_on=ending.done_on if ending else None,
        honey_clear_on=planned.honey_clear,
        verdict=Jsonb(verdict) if verdict is not None else None,
        abandoned_why=abandoned_why,
    )
    if placed is not None:
        await recompute_status(unit, [course.colony_id])


async def amend_act(
    unit: UnitOfWork, course_id: UUID, act_id: UUID, version: int, *, done_on: date, quantity: float | None, lot: str,
    count_id: UUID | None, note: str,
) -> CourseView:  # fmt: skip
    """Amend what was recorded of a step; the transaction carries the reason, and the dates behind it move.

    Raises InvalidInput naming `done_on` for an impossible day, Conflict when the act has changed since `version`.
    """
    require(unit.who, "record")
    await store.lock_course(unit.connection, course_id)
    course = await store.course(unit.connection, course_id)
    option = default_catalogue().option(course.option_id)
    if done_on > unit.today:
        raise InvalidInput("done_on", "lies in the future", code="out_of_range")
    acts = await store.acts_of_courses(unit.connection, [course_id])
    _check_order(_planned(course, option, acts), {act.step: act.done_on for act in acts}, act_id, acts, done_on)
    await store.amend_act(
        unit.connection,
        id=act_id,
        course_id=course_id,
        version=version,
        done_on=done_on,
        quantity=quantity,
        lot=lot,
        count_id=count_id,
        note=note,
    )
    try:
        await _move_on(unit, course, option)
    except InvalidInput as error:
        raise InvalidInput("done_on", error.message, code=error.code) from error
    return await course_view(unit, course_id)


def _check_order(
    planned: PlannedCourse, done: Mapping[str, date], act_id: UUID, acts: Sequence[CourseAct], done_on: date
) -> None:
    """An amended day stays between the step that comes before it and those that follow it."""
    own = next((act.step for act in acts if act.id == act_id), None)
    for step in planned.steps:
        before = done.get(step.after) if step.after is not None else None
        if step.name == own and before is not None and done_on < before:
            raise InvalidInput("done_on", f"is before the step that comes before it ({before})", code="out_of_range")
        behind = done.get(step.name)
        if step.after == own and behind is not None and done_on > behind:
            raise InvalidInput("done_on", f"is after the step that follows it ({behind})", code="out_of_range")


async def abandon(unit: UnitOfWork, course_id: UUID, why: str, removed_on: date | None) -> CourseView:
    """Abandon a course. Where something was placed that does not vanish, the day of its removal is asked for."""
    require(unit.who, "record")
    await store.lock_course(unit.connection, course_id)
    course = await store.course(unit.connection, course_id)
    if not is_open(course.state):
        raise Refused("closed", f"this course is {course.state.replace('_', ' ')}")
    if not why.strip():
        raise InvalidInput("why", "say why the course is abandoned", code="missing")
    option = default_catalogue().option(course.option_id)
    if course.placed_on is not None and course.ended_on is None:
        if removed_on is None:
            raise InvalidInput("removed_on", "say when the product came out of the hive", code="missing")
        if not course.placed_on <= removed_on <= unit.today:
            raise InvalidInput("removed_on", "must be between the placing and today", code="out_of_range")
        course = replace(course, ended_on=removed_on)
    await _move_on(unit, course, option, abandoned_why=why.strip())
    return await course_view(unit, course_id)


async def history(unit: UnitOfWork, course_id: UUID) -> list[records.HistoryEntry]:
    """The history of a course, newest first. Raises NotFound."""
    await store.course(unit.connection, course_id)
    return await records.history_of(unit.connection, "course", course_id)
