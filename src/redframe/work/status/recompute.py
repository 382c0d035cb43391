"""The dated levels of colonies, computed again after anything that bears on them."""

from __future__ import annotations

import asyncio
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import asdict, fields, replace
from datetime import timedelta
from typing import cast
from uuid import UUID
from zoneinfo import ZoneInfo

from redframe.core.sampling.bees import BeesKnownBy, bees_in_sample
from redframe.core.sampling.jar import reading_of
from redframe.core.sampling.method import JAR_METHODS, JarMethod, TreatmentSpan
from redframe.core.sampling.reading import AnyReading, CellReading, FallReading, Reading
from redframe.core.status.samples import Counted, judged_samples, prompted_on
from redframe.core.status.status import recount_on, statuses
from redframe.core.treatments.states import is_abandoned
from redframe.store import sampling, status, treatments
from redframe.store.sampling import Count
from redframe.store.status import Outlook
from redframe.store.treatments import Course
from redframe.work.policy.read import (
    PolicyInForce,
    policies_of,
)
from redframe.work.sampling.samples import sample_of
from redframe.work.unit_of_work import UnitOfWork

FEW_COLONIES = 20


HISTORY_DAYS = 400
"""How far back a status looks: past a winter, so that a held level is never forgotten by a season."""


async def recompute_status(unit: UnitOfWork, colony_ids: Sequence[UUID]) -> None:
    """Recompute status and outlook of colonies from their counts and courses.

    The policy is read once they are held: one that came into force while this waited is the one that judges.
    """
    await status.lock_colonies(unit.connection, colony_ids)
    await _recompute(unit, colony_ids, read_again=False)


async def _recompute(unit: UnitOfWork, colony_ids: Sequence[UUID], *, read_again: bool) -> None:
    policies = await policies_of(unit, colony_ids)
    outlooks = await _outlooks(unit, policies, read_again=read_again, keep_readings=True)
    version = next(iter(policies.values())).version if policies else 0
    await status.replace_outlooks(unit.connection, outlooks, version)


async def _outlooks(
    unit: UnitOfWork, policies: Mapping[UUID, PolicyInForce], *, read_again: bool = False, keep_readings: bool = False
) -> list[Outlook]:
    """What follows from the counts and courses of these colonies, each under its policy, in their order."""
    colony_ids = list(policies)
    since = unit.today - timedelta(days=HISTORY_DAYS)
    counts = await sampling.counts_of_colonies(unit.connection, colony_ids, since)
    if read_again:
        counts = await asyncio.to_thread(lambda: [_read_again(one, policies[one.colony_id]) for one in counts])
        if keep_readings:
            found = [(one.id, one.colony_id, reading) for one in counts if (reading := reading_on_record(one))]
            await sampling.replace_readings(unit.connection, found)
    courses = await treatments.courses_of_colonies(unit.connection, colony_ids)
    acts = await treatments.acts_of_courses(unit.connection, [course.id for course in courses])
    verifying = {act.count_id for act in acts if act.step == "verify" and act.count_id is not None}
    own_courses: dict[UUID, list[Course]] = defaultdict(list)
    for course in courses:
        own_courses[course.colony_id].append(course)
    own_counts: dict[UUID, list[Count]] = defaultdict(list)
    # They come newest first; of two taken at one moment the one recorded last counts as the later.
    for count in reversed(counts):
        own_counts[count.colony_id].append(count)
    zone = unit.zone

    def judge() -> list[Outlook]:
        return [
            _outlook(
                one, [counted(each, zone, each.id in verifying) for each in own_counts[one]], own_courses[one], policy
            )
            for one, policy in policies.items()
        ]

    # A whole association takes seconds: other people's requests go on meanwhile.
    return await asyncio.to_thread(judge) if len(colony_ids) > FEW_COLONIES else judge()


def counted(count: Count, zone: ZoneInfo, verifies: bool = False) -> Counted:
    """A count on record as the core judges it."""
    return Counted(count.id, count.taken_on, sample_of(count, zone), reading_on_record(count), verifies)


def spans_of(courses: Sequence[Course]) -> list[TreatmentSpan]:
    """When treatments were in a colony."""
    return [TreatmentSpan(course.placed_on, course.ended_on) for course in courses if course.placed_on is not None]


def _outlook(colony_id: UUID, counts: Sequence[Counted], courses: Sequence[Course], in_force: PolicyInForce) -> Outlook:
    policy, spans = in_force.policy, spans_of(courses)
    judged = judged_samples(counts, policy, spans)
    if not judged:
        return Outlook(colony_id, [], in_force.scheme, None, None, None, None)
    treated = [one.ended_on for one in courses if one.ended_on is not None and not is_abandoned(one.state)]
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


def _reads_otherwise(one: PolicyInForce, other: PolicyInForce) -> bool:
    """Whether counts read otherwise under two policies."""
    return one.basis != other.basis or one.scoop != other.scoop


def _read_again(count: Count, policy: PolicyInForce) -> Count:
    if count.method not in JAR_METHODS or count.bees_mean is None:
        return count
    known_by = cast(BeesKnownBy, count.bees_known_by)
    bees = bees_in_sample(known_by, bees=count.bees, volume_ml=count.volume_ml, mass_g=count.mass_g, scoop=policy.scoop)
    if bees is None:
        return count
    return replace(count, **asdict(reading_of(cast(JarMethod, count.method), count.shakes or [], bees, policy.basis)))


def reading_on_record(count: Count) -> AnyReading | None:
    """The reading that is kept with a count."""
    if count.scale is None:
        return None
    kind: type[Reading] | type[FallReading] | type[CellReading] = {
        "mites_per_100": Reading, "mites_per_day": FallReading, "percent_of_cells": CellReading
    }[count.scale]  # fmt: skip
    return kind(**{field.name: getattr(count, field.name) for field in fields(kind)})
