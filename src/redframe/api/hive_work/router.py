"""The work at the hive in a course without a product."""

from __future__ import annotations

from uuid import UUID

from redframe.api.access import TheServices, Who
from redframe.api.again import topic
from redframe.api.hive_work.schemas import HiveActInput, HiveActWithdrawal, HiveWorkNow, hive_work_now
from redframe.work.treatments import hive_work as treatments_hive_work

router = topic("hive work")


@router.get("/courses/{course_id}/hive-work")
async def read_hive_work(course_id: UUID, who: Who, services: TheServices) -> HiveWorkNow | None:
    """What is done at the hive in a course, act by act, and how things stand; nothing for one with a product."""
    async with services.unit_of_work(who) as unit:
        found = await treatments_hive_work.hive_work_of(unit, course_id)
        return hive_work_now(found) if found is not None else None


@router.post("/courses/{course_id}/hive-acts", status_code=201)
async def record_hive_act(course_id: UUID, given: HiveActInput, who: Who, services: TheServices) -> HiveWorkNow:
    """Record an act at the hive with what it changes of queen, boxes and combs; the last of a step records the step."""
    async with services.unit_of_work(who) as unit:
        return hive_work_now(await treatments_hive_work.record_hive_act(unit, course_id, given.as_new()))


@router.post("/hive-acts/{hive_act_id}/withdraw")
async def withdraw_hive_act(
    hive_act_id: UUID, given: HiveActWithdrawal, who: Who, services: TheServices
) -> HiveWorkNow:
    """Say that an act was not done; what it changed stays as it is on record, and is put right there."""
    async with services.unit_of_work(who, given.why) as unit:
        return hive_work_now(await treatments_hive_work.withdraw_hive_act(unit, hive_act_id, given.why))
