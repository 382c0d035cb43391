"""Treatments: options, courses, steps."""

from __future__ import annotations

from uuid import UUID

from fastapi import APIRouter

from redframe.api import views as present
from redframe.api.access import TheDesk, Version, Who
from redframe.api.sampling.schemas import TrailEntry
from redframe.api.treatments.schemas import (
    AbandonInput,
    ActAmendment,
    ActInput,
    ApiaryOptions,
    CourseView,
    FallCurve,
    OptionsInput,
    PlanInput,
    PlannedRow,
    PlanView,
)
from redframe.work.treatments import fall_curve as treatments_fall_curve
from redframe.work.treatments import options as treatments_options
from redframe.work.treatments import plan as treatments_plan
from redframe.work.treatments import read as treatments_read
from redframe.work.treatments import record as treatments_record

router = APIRouter(tags=["treatments"])


@router.post("/courses/options")
async def options(given: OptionsInput, who: Who, desk: TheDesk) -> ApiaryOptions:
    """Which treatments suit these colonies on a day, with every reason."""
    async with desk.work(who) as work:
        return present.options(
            await treatments_options.options_for(work, given.apiary_id, given.colony_ids, given.start_on)
        )


@router.post("/plans", status_code=201)
async def plan(given: PlanInput, who: Who, desk: TheDesk) -> list[PlannedRow]:
    """Plan one option on several colonies; a colony that a rule holds back does not stop the others."""
    async with desk.work(who) as work:
        rows = await treatments_plan.plan_courses(
            work,
            plan_id=given.id,
            apiary_id=given.apiary_id,
            option_id=given.option_id,
            start_on=given.start_on,
            interval_override=given.interval_override,
            wanted=[
                treatments_plan.WantedCourse(
                    item.id, item.colony_id, [treatments_plan.Override(**one.model_dump()) for one in item.overrides]
                )
                for item in given.courses
            ],
        )
        return [present.planned(row) for row in rows]


@router.get("/plans/{plan_id}")
async def one_plan(plan_id: UUID, who: Who, desk: TheDesk) -> PlanView:
    """All courses planned together."""
    async with desk.work(who) as work:
        found = [present.course_view(view) for view in await treatments_read.courses_of_plan(work, plan_id)]
        return PlanView(today=work.today, courses=found)


@router.get("/courses/{course_id}")
async def one_course(course_id: UUID, who: Who, desk: TheDesk) -> CourseView:
    """A course with its steps as they stand today."""
    async with desk.work(who) as work:
        return present.course_view(await treatments_read.course_view(work, course_id))


@router.post("/courses/{course_id}/acts", status_code=201)
async def record_act(course_id: UUID, given: ActInput, who: Who, desk: TheDesk) -> CourseView:
    """Record a step; everything behind it moves with the day it was done."""
    override = treatments_plan.Override(**given.override.model_dump()) if given.override else None
    async with desk.work(who) as work:
        act = treatments_record.NewAct(
            id=given.id,
            step=given.step,
            outcome=given.outcome,
            done_on=given.done_on,
            quantity=given.quantity,
            lot=given.lot,
            count_id=given.count_id,
            note=given.note,
            override=override,
        )
        return present.course_view(await treatments_record.record_act(work, course_id, act))


@router.put("/courses/{course_id}/acts/{act_id}")
async def amend_act(
    course_id: UUID, act_id: UUID, given: ActAmendment, version: Version, who: Who, desk: TheDesk
) -> CourseView:
    """Amend what was recorded of a step; the dates behind it move."""
    async with desk.work(who, given.reason) as work:
        fields = given.model_dump(exclude={"reason"})
        return present.course_view(await treatments_record.amend_act(work, course_id, act_id, version, **fields))


@router.post("/courses/{course_id}/abandon")
async def abandon(course_id: UUID, given: AbandonInput, who: Who, desk: TheDesk) -> CourseView:
    """Abandon a course."""
    async with desk.work(who, given.why) as work:
        return present.course_view(await treatments_record.abandon(work, course_id, given.why, given.removed_on))


@router.get("/courses/{course_id}/falls")
async def falls(course_id: UUID, who: Who, desk: TheDesk) -> FallCurve:
    """What falls on boards while a course is at work, beside what should fall if it kills."""
    async with desk.work(who) as work:
        return FallCurve.model_validate(await treatments_fall_curve.fall_curve(work, course_id))


@router.get("/courses/{course_id}/history")
async def course_history(course_id: UUID, who: Who, desk: TheDesk) -> list[TrailEntry]:
    """Every version of a course, newest first."""
    async with desk.work(who) as work:
        return [TrailEntry.model_validate(entry) for entry in await treatments_record.trail(work, course_id)]
