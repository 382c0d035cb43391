"""Treatments: options, courses, steps."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from fastapi import Query, Response

from redframe.api import views
from redframe.api.access import TheServices, Version, Who
from redframe.api.again import topic
from redframe.api.kept import OfCourse
from redframe.api.treatments.schemas import (
    AbandonInput,
    ActAmendment,
    ActInput,
    ApiaryOptions,
    CourseView,
    EarlierAmendment,
    EarlierCheck,
    EarlierInput,
    ExpectedInput,
    OptionsInput,
    OptionView,
    PlanInput,
    PlannedRow,
    PlanView,
    TreatmentRoundView,
    TreatmentsKnownInput,
    WasGivenInput,
    WithdrawInput,
)
from redframe.core.inputs import IsoDate
from redframe.core.season.calendar import TreatmentSeason
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.overrides import Override
from redframe.core.treatments.placing_days import PlacingDays
from redframe.core.treatments.step_facts import StepFacts
from redframe.core.treatments.why_failed import WhyFailed
from redframe.outlets.what_works_table import what_works_csv
from redframe.store.records import HistoryEntry
from redframe.store.treatments import CourseActDetails
from redframe.work.forecast import expected as forecast_expected
from redframe.work.forecast.expected import Expected
from redframe.work.treatments import abandon as treatments_abandon
from redframe.work.treatments import earlier as treatments_earlier
from redframe.work.treatments import fall_curve as treatments_fall_curve
from redframe.work.treatments import options as treatments_options
from redframe.work.treatments import plan as treatments_plan
from redframe.work.treatments import read as treatments_read
from redframe.work.treatments import record as treatments_record
from redframe.work.treatments import round as treatments_round
from redframe.work.treatments import schools as treatments_schools
from redframe.work.treatments import what_works as treatments_what_works
from redframe.work.treatments import why_failed as treatments_why_failed
from redframe.work.treatments.earlier import EarlierRow
from redframe.work.treatments.fall_curve import FallCurve
from redframe.work.treatments.schools import SchoolHere
from redframe.work.treatments.what_works import WhatWorks
from redframe.work.unit_of_work import UnitOfWork

router = topic("treatments")

OptionId = Annotated[str, Query(max_length=40)]
Since = Annotated[IsoDate | None, Query(description="placed on this day or later")]


@router.post("/courses/options")
async def list_treatment_options(given: OptionsInput, who: Who, services: TheServices) -> ApiaryOptions:
    """Which treatments suit these colonies on a day (the first usable one where none is named), with every reason, and
    on which days of the forecast each could be placed."""
    async with services.unit_of_work(who) as unit:
        found, by_day = await treatments_options.options_by_day(unit, given.apiary_id, given.colony_ids, given.start_on)
        return views.options(found, by_day)


@router.post("/courses/expected")
async def expect_treatments(given: ExpectedInput, who: Who, services: TheServices) -> Expected:
    """What each option in use would leave in these colonies by the first winter bees, after a first dose on a day."""
    async with services.unit_of_work(who) as unit:
        return await forecast_expected.expected_of(unit, given.apiary_id, given.colony_ids, given.start_on)


@router.get("/treatment-options")
async def list_catalogue(who: Who) -> list[OptionView]:
    """The options of the catalogue, by their names."""
    found = sorted(default_catalogue().options, key=lambda one: one.name)
    return [OptionView.model_validate(one) for one in found]


@router.get("/treatment-schools")
async def list_schools(who: Who, services: TheServices) -> list[SchoolHere]:
    """Where schools of treating differ, and which side the policy in force follows."""
    async with services.unit_of_work(who) as unit:
        return list(await treatments_schools.schools_here(unit))


@router.post("/plans", status_code=201)
async def plan_courses(given: PlanInput, who: Who, services: TheServices) -> list[PlannedRow]:
    """Plan one option on several colonies; a colony that a rule holds back does not stop the others."""
    async with services.unit_of_work(who) as unit:
        rows = await treatments_plan.plan_courses(
            unit,
            plan_id=given.id,
            apiary_id=given.apiary_id,
            option_id=given.option_id,
            start_on=given.start_on,
            interval_override=given.interval_override,
            order=given.order,
            wanted=[
                treatments_plan.WantedCourse(
                    item.id, item.colony_id, [Override(**one.model_dump()) for one in item.overrides]
                )
                for item in given.courses
            ],
        )
        return [views.planned(row) for row in rows]


@router.get("/plans/{plan_id}")
async def read_plan(plan_id: UUID, who: Who, services: TheServices) -> PlanView:
    """All courses planned together."""
    async with services.unit_of_work(who) as unit:
        found = await treatments_read.plan_view(unit, plan_id)
        together = [views.course_view(view) for view in found.courses]
        return PlanView(
            today=unit.today, courses=together, steps={one: list(steps) for one, steps in found.steps.items()}
        )


@router.get("/courses/{course_id}/placing-days")
async def read_placing_days(course_id: UUID, who: Who, services: TheServices) -> PlacingDays:
    """Each day of the forecast for the next dose of a course, with what speaks against it."""
    async with services.unit_of_work(who) as unit:
        return await treatments_read.placing_days_of_course(unit, course_id)


@router.get("/apiaries/{apiary_id}/placing-days")
async def read_placing_days_of_option(
    apiary_id: UUID, option_id: OptionId, who: Who, services: TheServices
) -> PlacingDays:
    """Each day of the forecast at an apiary for a dose of an option, with what speaks against it."""
    async with services.unit_of_work(who) as unit:
        return await treatments_read.placing_days_of_option(unit, apiary_id, option_id)


@router.get("/apiaries/{apiary_id}/treatment-round")
async def read_treatment_round(apiary_id: UUID, who: Who, services: TheServices) -> TreatmentRoundView:
    """The steps of courses that today asks for at an apiary, hive by hive, and what to take along."""
    async with services.unit_of_work(who) as unit:
        return views.treatment_round(await treatments_round.treatment_round(unit, apiary_id), unit.today)


@router.get("/courses/{course_id}", response_model=CourseView)
async def read_course(course_id: UUID, asked: OfCourse) -> Response:
    """A course with its steps as they stand today."""

    async def make(unit: UnitOfWork) -> CourseView:
        return views.course_view(await treatments_read.course_view(unit, course_id))

    return await asked.answer(make)


@router.post("/courses/{course_id}/acts", status_code=201)
async def record_act(course_id: UUID, given: ActInput, who: Who, services: TheServices) -> CourseView:
    """Record a step; everything behind it moves with the day it was done."""
    override = Override(**given.override.model_dump()) if given.override else None
    async with services.unit_of_work(who) as unit:
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
            supers_on=given.supers_on,
            lot_id=given.lot_id,
            facts=StepFacts(**given.facts.model_dump()),
        )
        return views.course_view(await treatments_record.record_act(unit, course_id, act))


@router.put("/courses/{course_id}/acts/{act_id}")
async def amend_act(
    course_id: UUID, act_id: UUID, given: ActAmendment, version: Version, who: Who, services: TheServices
) -> CourseView:
    """Amend what was recorded of a step; the dates behind it move."""
    async with services.unit_of_work(who, given.reason) as unit:
        facts = StepFacts(**given.facts.model_dump())
        details = CourseActDetails(**given.model_dump(exclude={"reason", "facts"}), facts=facts)
        return views.course_view(await treatments_record.amend_act(unit, course_id, act_id, version, details))


@router.delete("/courses/{course_id}/acts/{act_id}")
async def undo_act(course_id: UUID, act_id: UUID, who: Who, services: TheServices) -> CourseView:
    """Take back what the person recorded of a step a short while ago; its history keeps it."""
    async with services.unit_of_work(who, "undone") as unit:
        return views.course_view(await treatments_record.undo_act(unit, course_id, act_id))


@router.post("/courses/{course_id}/abandon")
async def abandon_course(course_id: UUID, given: AbandonInput, who: Who, services: TheServices) -> CourseView:
    """Abandon a course."""
    async with services.unit_of_work(who, given.why) as unit:
        return views.course_view(await treatments_abandon.abandon(unit, course_id, given.why, given.removed_on))


@router.post("/courses/earlier/check")
async def check_earlier_treatment(given: EarlierCheck, who: Who, services: TheServices) -> list[EarlierRow]:
    """What would speak against a treatment that was given before it was known here, colony by colony."""
    async with services.unit_of_work(who) as unit:
        return await treatments_earlier.check_earlier(unit, given.apiary_id, _was_given(given), given.colony_ids)


@router.post("/courses/earlier", status_code=201)
async def record_earlier_treatment(given: EarlierInput, who: Who, services: TheServices) -> list[EarlierRow]:
    """Record a treatment that was given before it was known here; what is still in the hive goes on as a course."""
    async with services.unit_of_work(who) as unit:
        of = [treatments_earlier.OfColony(one.id, one.colony_id) for one in given.colonies]
        return await treatments_earlier.record_earlier(unit, given.id, given.apiary_id, _was_given(given), of)


@router.put("/courses/{course_id}/earlier")
async def amend_earlier_treatment(
    course_id: UUID, given: EarlierAmendment, version: Version, who: Who, services: TheServices
) -> CourseView:
    """Amend what was said of a treatment that is over."""
    async with services.unit_of_work(who, given.reason) as unit:
        return views.course_view(
            await treatments_earlier.amend_earlier(unit, course_id, version, _was_given(given))
        )  # fmt: skip


@router.post("/courses/{course_id}/earlier/withdraw")
async def withdraw_earlier_treatment(
    course_id: UUID, given: WithdrawInput, version: Version, who: Who, services: TheServices
) -> CourseView:
    """Say that it was never given; what was said stays on record."""
    async with services.unit_of_work(who, given.why) as unit:
        return views.course_view(await treatments_earlier.withdraw_earlier(unit, course_id, version, given.why))


@router.post("/treatments-known", status_code=204)
async def record_treatments_known(given: TreatmentsKnownInput, who: Who, services: TheServices) -> None:
    """Record that all treatments of these colonies since a day are on record."""
    async with services.unit_of_work(who) as unit:
        await treatments_earlier.say_known(
            unit, given.id, given.apiary_id, given.colony_ids, given.known_since, given.known_from
        )


def _was_given(given: WasGivenInput) -> treatments_earlier.WasGiven:
    names = WasGivenInput.model_fields
    return treatments_earlier.WasGiven(**{name: getattr(given, name) for name in names})


@router.get("/courses/{course_id}/falls")
async def read_course_falls(course_id: UUID, who: Who, services: TheServices) -> FallCurve:
    """What falls on boards while a course is at work, and what should fall if it kills."""
    async with services.unit_of_work(who) as unit:
        return await treatments_fall_curve.fall_curve(unit, course_id)


@router.get("/courses/{course_id}/why-failed")
async def explain_failure(course_id: UUID, who: Who, services: TheServices) -> WhyFailed:
    """Why a course did not do what it should: each cause with what speaks for and against it, the likeliest first."""
    async with services.unit_of_work(who) as unit:
        return await treatments_why_failed.why_failed_of(unit, course_id)


@router.get("/what-works")
async def read_what_works(
    who: Who, services: TheServices, since: Since = None, season: TreatmentSeason | None = None
) -> WhatWorks:
    """Verified efficacy by option, over apiaries and in each, with numbers and intervals."""
    async with services.unit_of_work(who, wide=True) as unit:
        return await treatments_what_works.what_works_here(unit, since, season)


@router.get("/what-works.csv", response_class=Response, responses={200: {"content": {"text/csv": {}}}})
async def export_what_works(
    who: Who, services: TheServices, since: Since = None, season: TreatmentSeason | None = None
) -> Response:
    """The same as CSV."""
    async with services.unit_of_work(who, wide=True) as unit:
        found = await treatments_what_works.what_works_here(unit, since, season)
    headers = {"Content-Disposition": 'attachment; filename="what-works.csv"'}
    return Response(what_works_csv(found), media_type="text/csv", headers=headers)


@router.get("/courses/{course_id}/history")
async def list_course_versions(course_id: UUID, who: Who, services: TheServices) -> list[HistoryEntry]:
    """Every version of a course, newest first."""
    async with services.unit_of_work(who) as unit:
        return list(await treatments_record.history(unit, course_id))
