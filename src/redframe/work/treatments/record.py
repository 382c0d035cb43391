"""Courses carried out: steps recorded and amended, the course verified and closed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from uuid import UUID

from psycopg.types.json import Jsonb

from redframe.core.errors import InvalidInput, Refused
from redframe.core.treatments.course import Step
from redframe.core.treatments.overrides import Override
from redframe.core.treatments.progress import (
    ActOutcome,
    Plan,
    Report,
    check_amended_day,
    check_report,
    progress,
    said_state,
    said_step,
)
from redframe.core.treatments.set_up import against_course
from redframe.core.treatments.states import COURSE_STATES
from redframe.core.treatments.step_facts import NOTHING, StepFacts, check_dose, check_facts, check_taken_out
from redframe.core.treatments.weather import Forecast, blocked_on, next_usable
from redframe.store import places, records, sampling, stock
from redframe.store import treatments as store
from redframe.store.errors import NOT_UNDONE, AlreadyDone, Conflict, NotFound
from redframe.store.stock import Lot
from redframe.store.treatments import Course, CourseAct
from redframe.wording.sentences import sentence, written_day
from redframe.work.colonies.changes import release
from redframe.work.colonies.condition import recorded_of
from redframe.work.registers.record import enter_course
from redframe.work.roles import require
from redframe.work.status.recompute import recompute_status
from redframe.work.to_json import to_json
from redframe.work.treatments.options import options_for
from redframe.work.treatments.queen_follows import queen_follows
from redframe.work.treatments.read import CourseView, course_view, plan_of
from redframe.work.treatments.verification import verdict_of
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.weather import forecast_at


@dataclass(frozen=True, slots=True)
class NewAct:
    """A step as a person reports it."""

    id: UUID
    step: str
    outcome: ActOutcome
    done_on: date
    quantity: float | None
    lot: str
    count_id: UUID | None
    note: str
    override: Override | None
    supers_on: bool | None = None
    lot_id: UUID | None = None
    facts: StepFacts = NOTHING

    @property
    def report(self) -> Report:
        """What the rules ask of it."""
        named = self.override is not None and self.override.authorised_by.strip() and self.override.reason.strip()
        return Report(
            self.step,
            self.outcome,
            self.done_on,
            self.quantity,
            self.count_id is not None,
            self.note,
            bool(named),
            self.supers_on,
        )


async def record_act(unit: UnitOfWork, course_id: UUID, act: NewAct) -> CourseView:
    """Record a step of a course once; everything behind it moves with the day it was done.

    Raises Refused with the rule (too early, the step before it not done, weather, a hold), AlreadyDone with who and
    when, InvalidInput naming `done_on`, `quantity`, `count_id` or `note`.
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
        plan = plan_of(course)
        step = _may_be_recorded(unit, course, plan, acts, act)
        facts = check_facts(plan.option, step.kind, step.placing, act.facts)
        lot = await _lot_of(unit, course, act) if step.kind == "place" else None
        if step.kind == "place":
            await _check_placing(unit, course, plan, act)
        if step.kind == "remove":
            check_taken_out(_last_dose(acts), facts, act.note)
        if act.count_id is not None:
            # One that is not there, or not to be seen, is said as such.
            await sampling.count_by_id(unit.connection, act.count_id)
        await store.add_acts(unit.connection, {act.id: _done(course, step, act, facts, lot)})
        await move_on(unit, course, said=f"with {said_step(act.step)}")
    return await course_view(unit, course_id)


def _may_be_recorded(unit: UnitOfWork, course: Course, plan: Plan, acts: Sequence[CourseAct], act: NewAct) -> Step:
    return check_report(plan, course.state, acts, act.report, today=unit.today, dose_unit=course.dose_unit)


def _done(course: Course, step: Step, act: NewAct, facts: StepFacts, lot: Lot | None) -> store.NewCourseAct:
    return store.NewCourseAct(
        course_id=course.id,
        step=act.step,
        outcome=act.outcome,
        done_on=act.done_on,
        quantity=act.quantity if step.kind == "place" else None,
        quantity_unit=course.dose_unit if step.kind == "place" and act.quantity else None,
        lot=lot.lot if lot is not None and lot.lot else act.lot,
        lot_id=lot.id if lot is not None else None,
        facts=facts,
        count_id=act.count_id if step.kind in ("verify", "baseline_count") else None,
        supers_on=act.supers_on if step.kind == "close_supers_feeder" else None,
        note=act.note,
        override_by=act.override.authorised_by if act.override else "",
        override_why=act.override.reason if act.override else "",
    )


async def check_step(unit: UnitOfWork, course: Course, act: NewAct) -> None:
    """What speaks against beginning a step that is done act by act; raises as `record_act` does."""
    plan = plan_of(course)
    acts = await store.acts_of_courses(unit.connection, [course.id])
    if _may_be_recorded(unit, course, plan, acts, act).kind == "place":
        await _check_placing(unit, course, plan, act)


async def enter_step(unit: UnitOfWork, course: Course, act: NewAct) -> None:
    """Record a step whose acts are on record: it was checked as they were."""
    plan = plan_of(course)
    acts = await store.acts_of_courses(unit.connection, [course.id])
    step = plan.course(plan.days(acts)).step(act.step)
    await store.add_acts(unit.connection, {act.id: _done(course, step, act, NOTHING, None)})
    await move_on(unit, course, said=f"with {said_step(act.step)}")


async def _lot_of(unit: UnitOfWork, course: Course, act: NewAct) -> Lot | None:
    """The lot in stock that a dose is taken from. Raises InvalidInput naming `lot_id`, Refused("expired")."""
    if act.lot_id is None:
        return None
    lot = await stock.lot(unit.connection, act.lot_id)
    await _check_lot(unit, course, lot)
    if lot.expires_on is not None and lot.expires_on < act.done_on and not act.report.is_set_aside:
        text = f"{lot.product} {lot.lot} was to be used by {written_day(lot.expires_on)}"
        raise Refused("expired", text, field="lot_id", can_override=True)
    return lot


async def _check_lot(unit: UnitOfWork, course: Course, lot: Lot) -> None:
    if course.option_id not in lot.option_ids:
        raise InvalidInput("lot_id", f"{lot.product} is not for {course.option.name}", code="refused")
    if lot.keeper_id is not None:
        apiary = await places.apiary(unit.connection, course.apiary_id)
        if apiary.keeper_id != lot.keeper_id:
            raise InvalidInput("lot_id", f"belongs to {lot.keeper}, this colony to {apiary.keeper}", code="refused")


def _last_dose(acts: Sequence[CourseAct]) -> float | None:
    return next((one.quantity for one in reversed(acts) if one.step.startswith("place_")), None)


async def _check_placing(unit: UnitOfWork, course: Course, plan: Plan, act: NewAct) -> None:
    """What speaks against a dose on its day: a hold of the colony, supers and feed on the hive, the weather, and for
    one that is placed before its planned day the rules of that day.

    The weather is looked at on the day of the placing; that of a placing entered later was seen by who placed it.
    """
    why = act.override.reason if act.override else ""
    await release(unit, "treat", [course.colony_id], why)
    assert act.quantity is not None
    check_dose(plan.option, course.dose_quantity, act.quantity, act.note, is_set_aside=act.report.is_set_aside)
    if not act.report.is_set_aside:
        hive = (await recorded_of(unit, [course.colony_id]))[course.colony_id].on(act.done_on)
        for reason in against_course(plan.option, hive, is_placed=False, dose_to_come=True):
            if reason.level == "not_now":
                raise Refused(reason.rule, sentence(reason.code, reason.params), field="done_on", can_override=True)
    if act.step == "place_1" and act.done_on < course.start_on and not act.report.is_set_aside:
        choices = await options_for(unit, course.apiary_id, [course.colony_id], act.done_on)
        set_aside = {one.rule for one in course.overrides}
        for reason in choices.colonies[0].choice.options[course.option_id].holding:
            if reason.rule not in set_aside:
                raise Refused(reason.rule, sentence(reason.code, reason.params), field="done_on", can_override=True)
    if act.done_on == unit.today and not why.strip():
        apiary = await places.apiary(unit.connection, course.apiary_id)
        _check_weather(plan, forecast_at(unit, apiary.latitude, apiary.longitude), act.done_on)


def _check_weather(plan: Plan, forecast: Forecast, day: date) -> None:
    """Raise Refused with the rule of the weather that speaks against a placing on a day, and the next usable day."""
    blocked = blocked_on(plan.option, forecast, day)
    if blocked is not None:
        following = next_usable(plan.option, forecast, day)
        then = f"next usable day {written_day(following)}" if following else "no usable day in the forecast"
        text = f"{sentence(blocked.code, blocked.params)}; {then}"
        raise Refused(blocked.rule, text, field="done_on", can_override=True)


async def move_on(
    unit: UnitOfWork, course: Course, abandoned_why: str = "", removed_on: date | None = None, said: str = ""
) -> None:
    """Recompute steps, state and dates of a course from what has been done of it, and enter in the register what has
    changed by it (`said`: what was done, where the transaction carries no reason)."""
    acts = await store.acts_of_courses(unit.connection, [course.id])
    plan = plan_of(course)
    by_step = {act.step: act for act in acts}
    verdict = course.verdict if "verify" in by_step else None
    if "verify" in by_step and by_step["verify"].count_id is not None:
        verdict = await verdict_of(unit, course, plan, acts)
    now = progress(
        plan,
        acts,
        verdict=verdict.word if verdict is not None else None,
        is_abandoned=bool(abandoned_why),
        removed_on=removed_on,
    )
    await store.replace_steps(unit.connection, {course.id: (now.course, now.done)})
    moved = store.CourseNow(
        state=now.state,
        occupies_from=now.occupies_from,
        occupies_to=now.occupies_to,
        placed_on=now.placed_on,
        ended_on=now.ended_on,
        honey_clear_on=now.honey_clear_on,
        verdict=Jsonb(to_json(verdict)) if verdict is not None else None,
        abandoned_why=abandoned_why,
    )
    await store.move_course(unit.connection, course.id, moved)
    if now.placed_on is not None:
        await recompute_status(unit, [course.colony_id])
    await queen_follows(
        unit, course, plan.option, caged=now.placed_on is not None and now.ended_on is None,
        release_on=now.course.ending.window.ideal,
    )  # fmt: skip
    await enter_course(unit, course.id, said)


async def amend_act(
    unit: UnitOfWork, course_id: UUID, act_id: UUID, version: int, details: store.CourseActDetails
) -> CourseView:
    """Amend what was recorded of a step; the transaction carries the reason, and the dates behind it move.

    Raises InvalidInput naming `done_on` for an impossible day, Conflict when the act has changed since `version`.
    """
    require(unit.who, "record")
    await store.lock_course(unit.connection, course_id)
    course = await store.course(unit.connection, course_id)
    acts = await store.acts_of_courses(unit.connection, [course_id])
    amended = next((act.step for act in acts if act.id == act_id), None)
    if amended is None:
        raise NotFound("step")
    if not COURSE_STATES[course.state].has_steps:
        raise Refused("closed", f"this course is {said_state(course.state)}")
    plan = plan_of(course)
    check_amended_day(plan, acts, amended, details.done_on, today=unit.today)
    step = plan.course(plan.days(acts)).step(amended)
    facts = check_facts(plan.option, step.kind, step.placing, details.facts)
    lot = await stock.lot(unit.connection, details.lot_id) if step.kind == "place" and details.lot_id else None
    if lot is not None:
        await _check_lot(unit, course, lot)
    kept = replace(
        details, facts=facts, lot_id=lot.id if lot is not None else None,
        lot=lot.lot if lot is not None and lot.lot else details.lot,
    )  # fmt: skip
    await store.amend_act(unit.connection, act_id, course_id, version, kept)
    try:
        await move_on(unit, course, course.abandoned_why, course.ended_on)
    except InvalidInput as error:
        raise InvalidInput("done_on", error.message, code=error.code) from error
    return await course_view(unit, course_id)


async def undo_act(unit: UnitOfWork, course_id: UUID, act_id: UUID) -> CourseView:
    """Take back what was recorded of a step a short while ago; what follows moves back, the history keeps it.

    Raises NotFound, and Conflict where it is another person's, too long ago, amended since, or a later step is
    recorded.
    """
    require(unit.who, "record")
    await store.lock_course(unit.connection, course_id)
    course = await store.course(unit.connection, course_id)
    acts = await store.acts_of_courses(unit.connection, [course_id])
    undone = next((act for act in acts if act.id == act_id), None)
    if undone is None:
        raise NotFound("step")
    if course.abandoned_why or not undone.may_undo or not await store.undo_act(unit.connection, act_id):
        raise Conflict(NOT_UNDONE)
    await move_on(unit, course)
    if course.placed_on is not None:
        await recompute_status(unit, [course.colony_id])
    return await course_view(unit, course_id)


async def history(unit: UnitOfWork, course_id: UUID) -> list[records.HistoryEntry]:
    """The history of a course, newest first. Raises NotFound."""
    await store.course(unit.connection, course_id)
    return await records.history_of(unit.connection, "course", course_id)
