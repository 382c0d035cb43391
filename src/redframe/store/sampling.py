"""Counts, what they say, and the standings that follow."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from datetime import date, datetime
from uuid import UUID

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


async def lay_reading(connection: Connection, count_id: UUID, colony_id: UUID, reading: Reading | None) -> None:
    """Lay the reading of a count anew; None lifts it."""
    if reading is None:
        await run(connection, "lift_reading", count_id=count_id)
        return
    fields = asdict(reading)
    await run(connection, "lay_reading", count_id=count_id, colony_id=colony_id, model=READING_MODEL, **fields)


async def lock_colony(connection: Connection, colony_id: UUID) -> None:
    """Hold the derived rows of a colony until the transaction ends."""
    await run(connection, "lock_colony", colony_id=colony_id)


async def lay_outlook(
    connection: Connection,
    colony_id: UUID,
    standings: Sequence[Standing],
    latest: Count | None,
    recount_on: date | None,
    policy_version: int,
) -> None:
    """Lay the standings and the outlook of a colony anew; without a count there are none and it is unknown."""
    await run(connection, "lift_standings", colony_id=colony_id)
    await run(connection, "lift_outlook", colony_id=colony_id)
    if latest is None or recount_on is None:
        return
    ends = [step.since for step in standings[1:]] + [None]
    rows = [{**asdict(step), "until": end} for step, end in zip(standings, ends, strict=True)]
    plain = json.dumps(rows, default=date.isoformat)
    await run(connection, "lay_standings", colony_id=colony_id, standings=plain)
    await run(
        connection,
        "lay_outlook",
        colony_id=colony_id,
        count_id=latest.id,
        counted_on=latest.taken_on,
        mites=latest.mites,
        bees_mean=latest.bees_mean,
        median=latest.median,
        low=latest.low,
        high=latest.high,
        recount_on=recount_on,
        policy_version=policy_version,
    )


async def counted_colonies(connection: Connection) -> list[UUID]:
    """Colonies that have been counted, of those that the person may see."""
    return [row.id for row in await many(connection, _Id, "counted_colonies")]


@dataclass(frozen=True, slots=True)
class _Id:
    id: UUID
