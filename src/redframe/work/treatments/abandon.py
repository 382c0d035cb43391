"""A course broken off."""

from __future__ import annotations

from datetime import date
from uuid import UUID

from redframe.core.treatments.progress import check_abandoned
from redframe.store import treatments as store
from redframe.work.roles import require
from redframe.work.treatments.hive_work import enter_decided
from redframe.work.treatments.read import CourseView, course_view
from redframe.work.treatments.record import move_on
from redframe.work.unit_of_work import UnitOfWork


async def abandon(unit: UnitOfWork, course_id: UUID, why: str, removed_on: date | None) -> CourseView:
    """Abandon a course. Where something was placed that does not vanish, the day of its removal is asked for."""
    require(unit.who, "record")
    await store.lock_course(unit.connection, course_id)
    course = await enter_decided(unit, await store.course(unit.connection, course_id))
    check_abandoned(course.state, course.placed_on, course.ended_on, why, removed_on, today=unit.today)
    await move_on(unit, course, why.strip(), removed_on)
    return await course_view(unit, course_id)
