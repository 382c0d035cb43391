"""What follows from the counts of a colony: its dated levels, and the day of the next count."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields
from datetime import date, timedelta
from operator import attrgetter
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

from redframe.core.sampling.method import TreatmentSpan
from redframe.core.sampling.reading import AnyReading, CellReading, FallReading, Reading
from redframe.core.status.samples import Counted, judged_samples, prompted_on
from redframe.core.status.status import recount_on, statuses
from redframe.core.treatments.states import is_abandoned
from redframe.store import sampling, treatments
from redframe.store.sampling import Count, ReadingOnRecord
from redframe.store.status import Outlook
from redframe.store.treatments import BriefCourse, Course
from redframe.work.policy.read import PolicyInForce
from redframe.work.sampling.samples import sample_of
from redframe.work.unit_of_work import UnitOfWork

HISTORY_DAYS = 400
"""How far back a status looks: past a winter, so that a held level is never forgotten by a season."""


@dataclass(frozen=True, slots=True)
class Judging:
    """What colonies are judged by: their counts of HISTORY_DAYS, newest first, and their courses; `verifying`: the
    counts that verified a treatment."""

    counts: Sequence[Count]
    courses: Sequence[Course]
    verifying: frozenset[UUID]


async def judging(unit: UnitOfWork, colony_ids: Sequence[UUID]) -> Judging:
    """What some colonies are judged by, as it is on record now."""
    counts = await sampling.counts_of_colonies(unit.connection, colony_ids, unit.today - timedelta(days=HISTORY_DAYS))
    courses = await treatments.courses_of_colonies(unit.connection, colony_ids)
    acts = await treatments.acts_of_courses(unit.connection, [course.id for course in courses])
    verifying = frozenset(act.count_id for act in acts if act.step == "verify" and act.count_id is not None)
    return Judging(counts, courses, verifying)


async def outlooks_of(unit: UnitOfWork, policies: Mapping[UUID, PolicyInForce]) -> list[Outlook]:
    """What follows from the counts and courses of these colonies, each under its policy, in their order.

    Colony by colony: for a whole association `outlooks_of_many` says the same sooner.
    """
    return outlooks_by(policies, await judging(unit, list(policies)), unit.zone)


def outlooks_by(policies: Mapping[UUID, PolicyInForce], by: Judging, zone: ZoneInfo) -> list[Outlook]:
    """The same by what is known already."""
    own_courses: dict[UUID, list[Course]] = defaultdict(list)
    for course in by.courses:
        own_courses[course.colony_id].append(course)
    own_counts: dict[UUID, list[Counted]] = defaultdict(list)
    # They come newest first; of two taken at one moment the one recorded last counts as the later.
    for count in reversed(by.counts):
        own_counts[count.colony_id].append(counted(count, zone, count.id in by.verifying))
    return [_outlook(one, own_counts[one], own_courses[one], policy) for one, policy in policies.items()]


def counted(count: Count, zone: ZoneInfo, verifies: bool = False) -> Counted:
    """A count on record as the core judges it."""
    return Counted(count.id, count.taken_on, sample_of(count, zone), reading_on_record(count), verifies)


def spans_of(courses: Sequence[Course | BriefCourse]) -> list[TreatmentSpan]:
    """When treatments were in a colony."""
    return [TreatmentSpan(course.placed_on, course.ended_on) for course in courses if course.placed_on is not None]


def ends_of(courses: Sequence[Course | BriefCourse]) -> list[date]:
    """The days on which treatments that were not broken off ended."""
    return [one.ended_on for one in courses if one.ended_on is not None and not is_abandoned(one.state)]


def _outlook(colony_id: UUID, counts: Sequence[Counted], courses: Sequence[Course], in_force: PolicyInForce) -> Outlook:
    policy, spans = in_force.policy, spans_of(courses)
    judged = judged_samples(counts, policy, spans)
    if not judged:
        return Outlook(colony_id, [], in_force.scheme, None, None, None, None)
    treated = ends_of(courses)
    last = judged[-1]
    due = recount_on(last.sample, policy)
    asked = prompted_on(counts, policy, spans)
    return Outlook(
        colony_id,
        statuses([one.sample for one in judged], policy, treated),
        in_force.scheme,
        last.counted.id,
        last.counted.taken_on,
        last.reading,
        min(due, asked) if asked is not None else due,
    )


def _fields(
    kind: type[Reading | FallReading | CellReading],
) -> tuple[type[Reading | FallReading | CellReading], attrgetter[Any]]:
    return kind, attrgetter(*(field.name for field in fields(kind)))


_READINGS = {
    "mites_per_100": _fields(Reading),
    "mites_per_day": _fields(FallReading),
    "percent_of_cells": _fields(CellReading),
}


def reading_on_record(count: Count | ReadingOnRecord) -> AnyReading | None:
    """The reading that is kept with a count."""
    if count.scale is None:
        return None
    kind, taken = _READINGS[count.scale]
    return kind(*taken(count))
