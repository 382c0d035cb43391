"""The counts that a course is verified by, as they are on record."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta
from uuid import UUID

from redframe.core.sampling.reading import Reading
from redframe.core.treatments.check_counts import (
    BEFORE_DAYS,
    CONTROL_NEAR_DAYS,
    Controls,
    CourseVerdict,
    JarCount,
    Treated,
    check_post,
    choose_controls,
    choose_pre,
    verify,
)
from redframe.core.treatments.progress import Plan
from redframe.store import colonies, sampling
from redframe.store import treatments as store
from redframe.store.sampling import Count
from redframe.store.treatments import Course, CourseAct
from redframe.work.policy.read import policy_in_force
from redframe.work.status.outlooks import reading_on_record
from redframe.work.unit_of_work import UnitOfWork


async def verdict_of(unit: UnitOfWork, course: Course, plan: Plan, acts: Sequence[CourseAct]) -> CourseVerdict:
    """Judge a course by the count before and its check count, with untreated neighbours where they were counted.

    Raises InvalidInput("count_id") or Refused for a check count that cannot verify it.
    """
    policy = await policy_in_force(unit, course.apiary_id)
    done = {act.step: act for act in acts}
    days = plan.days(acts)
    ending = plan.course(days).ending
    end = days.get(ending.name, ending.window.ideal)
    treated = Treated(course.colony_id, plan.option, days["place_1"], end, course.broodless, seed=course.id.int % 2**63)
    check_id = done["verify"].count_id
    assert check_id is not None
    counted = await sampling.count_by_id(unit.connection, check_id)
    post = check_post(_jar(counted), treated, counted.colony_id, counted.taken_on)
    named = done.get("baseline_count")
    since = treated.start - timedelta(days=BEFORE_DAYS)
    pre = choose_pre(await _jars(unit, [course.colony_id], since), treated, named.count_id if named else None)
    controls = await _controls(unit, course, pre, post) if pre is not None else None
    names = await colonies.colonies_by_id(unit.connection, list(controls.colonies)) if controls else []
    return verify(
        treated, pre, post, controls, policy.for_scale("mites_per_100"),
        labels={one.id: one.label for one in names}, policy_version=policy.version,
    )  # fmt: skip


async def _controls(unit: UnitOfWork, course: Course, pre: JarCount, post: JarCount) -> Controls:
    """Untreated colonies of the apiary with their counts near both days."""
    since = pre.taken_on - timedelta(days=CONTROL_NEAR_DAYS)
    ids = await store.untreated_colonies(unit.connection, course.apiary_id, since, post.taken_on)
    untreated = [one for one in ids if one != course.colony_id]
    return choose_controls(await _jars(unit, untreated, since), untreated, pre, post)


async def _jars(unit: UnitOfWork, ids: Sequence[UUID], since: date) -> list[JarCount]:
    counts = await sampling.counts_of_colonies(unit.connection, ids, since) if ids else []
    return [jar for jar in map(_jar, counts) if jar is not None]


def _jar(count: Count) -> JarCount | None:
    """A count as a jar with a rate; None for a board, a look, or bees that are not known."""
    reading = reading_on_record(count)
    return JarCount(count.id, count.colony_id, count.taken_on, reading) if isinstance(reading, Reading) else None
