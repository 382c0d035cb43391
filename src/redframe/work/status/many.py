"""Levels of a whole association: what a policy would do to them, or does."""

from __future__ import annotations

import asyncio
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from redframe.core.sampling.bees import bees_in_sample
from redframe.core.sampling.board import BoardSample
from redframe.core.sampling.jar import reading_of
from redframe.core.sampling.reading import AnyReading, Reading
from redframe.core.status.many import (
    LEVELS,
    BriefCount,
    SampleGatherer,
    held_before_last,
    is_last,
    levels_on,
    sample_at,
)
from redframe.core.status.status import Level, recount_on, statuses_after
from redframe.store import sampling, treatments
from redframe.store.sampling import MeasuredJar
from redframe.store.status import Outlook
from redframe.store.treatments import BriefCourse
from redframe.work.policy.read import PolicyInForce
from redframe.work.status.outlooks import HISTORY_DAYS, ends_of, outlooks_of, reading_on_record, spans_of
from redframe.work.unit_of_work import UnitOfWork

Readings = Mapping[str, AnyReading]
"""Readings by the counts that they belong to."""


@dataclass(frozen=True, slots=True)
class Gathered:
    """The samples of the colonies that one policy judges; `ends` of completed treatments by the numbers of colonies."""

    policy: PolicyInForce
    colony_ids: Sequence[UUID]
    gatherer: SampleGatherer
    ends: Mapping[int, Sequence[date]]


async def levels_of_many(
    unit: UnitOfWork, policies: Mapping[UUID, PolicyInForce], readings: Readings
) -> dict[UUID, Level]:
    """The level of each of these colonies today under its policy, with `readings` in the place of those on record."""
    found: dict[UUID, Level] = {}
    for one in await _gather(unit, policies, readings):
        levels = await asyncio.to_thread(
            levels_on, one.gatherer.samples(), one.policy.policy, len(one.colony_ids), unit.today
        )
        found |= {colony: LEVELS[level] for colony, level in zip(one.colony_ids, levels, strict=True)}
    return found


async def outlooks_of_many(unit: UnitOfWork, policies: Mapping[UUID, PolicyInForce]) -> list[Outlook]:
    """What follows from the counts and courses of these colonies, each under its policy (`outlooks_of` for many)."""
    found: list[Outlook] = []
    for one in await _gather(unit, policies, {}):
        last = [one.gatherer.count_ids[index] for index in is_last(one.gatherer.samples()).nonzero()[0]]
        rows = {row.count_id: row for row in await sampling.readings_on_record(unit.connection, last)}
        judged = await asyncio.to_thread(_outlooks, one, {name: reading_on_record(row) for name, row in rows.items()})
        # A board newer than the last jar may ask for a jar sooner than the growth of the last count does.
        asked = {one.colony_ids[number] for number in one.gatherer.boards_since_jar}
        found += [outlook for outlook in judged if outlook.colony_id not in asked]
        found += await outlooks_of(unit, dict.fromkeys(asked, one.policy))
    return found


def _outlooks(one: Gathered, readings: Mapping[str, AnyReading | None]) -> list[Outlook]:
    policy, scheme, samples = one.policy.policy, one.policy.scheme, one.gatherer.samples()
    held = held_before_last(samples, policy, len(one.colony_ids))
    found = {colony: Outlook(colony, [], scheme, None, None, None, None) for colony in one.colony_ids}
    for index in is_last(samples).nonzero()[0].tolist():
        number, count_id = int(samples["colony"][index]), one.gatherer.count_ids[index]
        colony, sample = one.colony_ids[number], sample_at(samples, index)
        levels = statuses_after(sample, LEVELS[held[number]], policy, one.ends.get(number, ()))
        reading = one.gatherer.pairs.get(count_id) or readings[count_id]
        due = recount_on(sample, policy)
        found[colony] = Outlook(colony, levels, scheme, UUID(count_id), sample.taken_on, reading, due)
    return list(found.values())


async def _gather(unit: UnitOfWork, policies: Mapping[UUID, PolicyInForce], readings: Readings) -> list[Gathered]:
    """The samples of these colonies, policy by policy."""
    judged_by: dict[int, list[UUID]] = defaultdict(list)
    for colony, policy in policies.items():
        judged_by[id(policy)].append(colony)
    return [await _gather_by(unit, policies[ids[0]], ids, readings) for ids in judged_by.values()]


async def _gather_by(
    unit: UnitOfWork, policy: PolicyInForce, colony_ids: Sequence[UUID], readings: Readings
) -> Gathered:
    numbers = {colony: number for number, colony in enumerate(colony_ids)}
    courses: dict[int, list[BriefCourse]] = defaultdict(list)
    for course in await treatments.brief_courses(unit.connection, colony_ids):
        courses[numbers[course.colony_id]].append(course)
    ends = {number: ends_of(own) for number, own in courses.items()}
    gatherer = SampleGatherer(policy.policy, {number: spans_of(own) for number, own in courses.items()}, ends)
    since = unit.today - timedelta(days=HISTORY_DAYS)
    boards: Mapping[str, BoardSample] = {}
    if policy.policy.scale == "mites_per_day":
        boards = await _boards(unit, colony_ids, since)
    async for piece in sampling.brief_counts(unit.connection, colony_ids, since):
        gatherer.add(_with(piece, readings, boards) if readings or boards else piece)
    return Gathered(policy, colony_ids, gatherer, ends)


def _with(counts: Sequence[BriefCount], readings: Readings, boards: Mapping[str, BoardSample]) -> list[BriefCount]:
    """Counts with other readings, and with the boards behind them."""
    found = []
    for one in counts:
        reading = readings.get(one.id)
        if isinstance(reading, Reading):
            one = one._replace(
                median=reading.median, upper80=reading.upper80, bees_mean=reading.bees_mean, bees_cv=reading.bees_cv,
                recovery=reading.recovery,
            )  # fmt: skip
        found.append(one._replace(board=boards.get(one.id)))
    return found


async def _boards(unit: UnitOfWork, colony_ids: Sequence[UUID], since: date) -> dict[str, BoardSample]:
    zone = unit.zone
    return {
        one.count_id: BoardSample(
            one.placed_at.astimezone(zone), one.removed_at.astimezone(zone), (), cleaned=one.cleaned,
            greased=one.greased, ants=one.ants, method=one.method,
        )
        for one in await sampling.brief_boards(unit.connection, colony_ids, since)
    }  # fmt: skip


def reads_otherwise(one: PolicyInForce, other: PolicyInForce) -> bool:
    """Whether counts read otherwise under two policies."""
    return one.basis != other.basis or one.scoop != other.scoop


async def read_jars_again(unit: UnitOfWork, policies: Mapping[UUID, PolicyInForce], *, keep: bool = False) -> Readings:
    """What the jars of these colonies read under their policies; kept in the place of the readings on record if wanted.

    How a jar reads is the same at every apiary of an association.
    """
    policy = next(iter(policies.values()))
    since = unit.today - timedelta(days=HISTORY_DAYS)
    jars = await sampling.measured_jars(unit.connection, list(policies), since)
    readings = await asyncio.to_thread(_read, jars, policy)
    if keep:
        await sampling.replace_readings(unit.connection, readings)
    return readings


def _read(jars: Sequence[MeasuredJar], policy: PolicyInForce) -> dict[str, AnyReading]:
    """Of ten thousand jars there are some hundred kinds: each is read once."""
    known: dict[object, AnyReading | None] = {}
    found: dict[str, AnyReading] = {}
    for one in jars:
        kind = (one.method, tuple(one.shakes), *one[3:])
        if kind not in known:
            bees = bees_in_sample(
                one.bees_known_by, bees=one.bees, volume_ml=one.volume_ml, mass_g=one.mass_g, scoop=policy.scoop
            )
            known[kind] = reading_of(one.method, one.shakes, bees, policy.basis) if bees is not None else None
        reading = known[kind]
        if reading is not None:
            found[one.count_id] = reading
    return found
