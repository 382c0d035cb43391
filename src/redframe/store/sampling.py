"""Counts, what they say, and the standings that follow."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass
from datetime import date, datetime
from functools import partial
from json import dumps
from uuid import UUID

from psycopg.types.json import Jsonb

from redframe.core.sampling.reading import READING_MODEL, Reading
from redframe.core.thresholds.standing import Standing
from redframe.store.database import Connection, many, one, run
from redframe.store.errors import Conflict


@dataclass(frozen=True, slots=True)
class Count:
    """A wash as it was taken, with its reading beside it (None where the bees are not known)."""

    id: UUID
    colony_id: UUID
    taken_at: datetime
    taken_on: date
    shakes: list[int]
    bees_known_by: str
    bees: int | None
    volume_ml: float | None
    mass_g: float | None
    place_of_bees: str
    brood_state: str
    queen_safe: str
    note: str
    by_name: str
    version: int
    mites: int | None
    bees_mean: float | None
    bees_cv: float | None
    recovery: str | None
    as_counted: float | None
    median: float | None
    low: float | None
    high: float | None
    upper80: float | None


@dataclass(frozen=True, slots=True)
class StripCount:
    """A count as a season strip draws it."""

    colony_id: UUID
    id: UUID
    taken_on: date
    mites: int | None
    bees_mean: float | None
    median: float | None
    low: float | None
    high: float | None


@dataclass(frozen=True, slots=True)
class StripVisit:
    """A visit as a season strip draws it."""

    colony_id: UUID
    visited_on: date


async def add_count(connection: Connection, **fields: object) -> None:
    """Add a count."""
    await run(connection, "add_count", **fields)


async def amend_count(connection: Connection, **fields: object) -> None:
    """Amend a count; the transaction carries the reason. Raises Conflict when it has changed since `version`."""
    if await run(connection, "amend_count", **fields) == 0:
        raise Conflict("this count was amended by somebody else meanwhile")


async def count_by_id(connection: Connection, count_id: UUID) -> Count:
    """One count. Raises NotFound."""
    return await one(connection, Count, "count_by_id", what="count", id=count_id)


async def counts_of_colonies(connection: Connection, colony_ids: Sequence[UUID], since: date) -> list[Count]:
    """Counts of these colonies since a day, newest first."""
    return await many(connection, Count, "counts_of_colonies", colony_ids=list(colony_ids), since=since)


async def strip_counts(connection: Connection, apiary_id: UUID, since: date) -> list[StripCount]:
    """Counts of an apiary's colonies for their strips, oldest first."""
    return await many(connection, StripCount, "strip_counts", apiary_id=apiary_id, since=since)


async def strip_visits(connection: Connection, apiary_id: UUID, since: date) -> list[StripVisit]:
    """Visits of an apiary's colonies for their strips, oldest first."""
    return await many(connection, StripVisit, "strip_visits", apiary_id=apiary_id, since=since)


async def lay_readings(connection: Connection, readings: Sequence[tuple[UUID, UUID, Reading]]) -> None:
    """Lay the readings of counts anew: (count, colony, reading)."""
    rows: list[dict[str, object]] = [
        {"count_id": count, "colony_id": colony, **asdict(reading)} for count, colony, reading in readings
    ]
    await run(connection, "lay_readings", readings=_json(rows), model=READING_MODEL)


async def lay_reading(connection: Connection, count_id: UUID, colony_id: UUID, reading: Reading | None) -> None:
    """Lay the reading of one count anew; None lifts it."""
    if reading is None:
        await run(connection, "lift_reading", count_id=count_id)
    else:
        await lay_readings(connection, [(count_id, colony_id, reading)])


async def lock_colonies(connection: Connection, colony_ids: Sequence[UUID]) -> None:
    """Hold the derived rows of these colonies until the transaction ends."""
    await run(connection, "lock_colonies", ids=list(colony_ids))


async def lock_association(connection: Connection) -> None:
    """Hold the derived rows of every colony of the association until the transaction ends."""
    await run(connection, "lock_association")


@dataclass(frozen=True, slots=True)
class Outlook:
    """What follows from a colony's counts: its standings from the latest on, that count, and the day of the next.

    A colony without a valid count has no standings and is unknown.
    """

    colony_id: UUID
    standings: Sequence[Standing]
    latest: Count | None
    recount_on: date | None


async def lay_outlooks(connection: Connection, outlooks: Sequence[Outlook], policy_version: int) -> None:
    """Lay standings and outlooks of these colonies anew."""
    ids = [outlook.colony_id for outlook in outlooks]
    await run(connection, "lift_standings", colony_ids=ids)
    await run(connection, "lift_outlooks", colony_ids=ids)
    standings: list[dict[str, object]] = []
    rows: list[dict[str, object]] = []
    for outlook in outlooks:
        if outlook.latest is None or outlook.recount_on is None:
            continue
        ends = [step.since for step in outlook.standings[1:]] + [None]
        standings += [
            {**asdict(step), "until": end, "colony_id": outlook.colony_id}
            for step, end in zip(outlook.standings, ends, strict=True)
        ]
        rows.append(
            {
                "colony_id": outlook.colony_id,
                "count_id": outlook.latest.id,
                "counted_on": outlook.latest.taken_on,
                "mites": outlook.latest.mites,
                "bees_mean": outlook.latest.bees_mean,
                "median": outlook.latest.median,
                "low": outlook.latest.low,
                "high": outlook.latest.high,
                "recount_on": outlook.recount_on,
            }
        )
    await run(connection, "lay_standings", standings=_json(standings))
    await run(connection, "lay_outlooks", outlooks=_json(rows), policy_version=policy_version)


def _json(rows: list[dict[str, object]]) -> Jsonb:
    return Jsonb(rows, dumps=partial(dumps, default=str))


@dataclass(frozen=True, slots=True)
class CountedColony:
    """A colony that has been counted."""

    id: UUID
    lives: bool


async def counted_colonies(connection: Connection) -> list[CountedColony]:
    """Colonies that have been counted, of those that the person may see."""
    return await many(connection, CountedColony, "counted_colonies")
