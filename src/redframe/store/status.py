"""The dated levels of colonies and the latest count of each, derived from counts and courses."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.sampling.reading import AnyReading
from redframe.core.status.status import Level, Status
from redframe.store.database import Connection, columns, many, run
from redframe.store.sampling import (
    _json,
)


async def lock_colonies(connection: Connection, colony_ids: Sequence[UUID]) -> None:
    """Hold the derived rows of these colonies until the transaction ends."""
    await run(connection, "lock_colonies", ids=list(colony_ids))


async def lock_association(connection: Connection) -> None:
    """Hold the derived rows of every colony of the association until the transaction ends."""
    await run(connection, "lock_association")


@dataclass(frozen=True, slots=True)
class Outlook:
    """What follows from a colony's counts under its scheme: its levels from the latest on, that count with what it
    says (of both jars where it was the second), and the day of the next.

    A colony without a count that judges it has no levels and is unknown.
    """

    colony_id: UUID
    statuses: Sequence[Status]
    scheme: str
    count_id: UUID | None
    counted_on: date | None
    reading: AnyReading | None
    recount_on: date | None


async def replace_outlooks(connection: Connection, outlooks: Sequence[Outlook], policy_version: int) -> None:
    """Replace status and outlook of these colonies."""
    ids = [outlook.colony_id for outlook in outlooks]
    statuses: list[dict[str, object]] = []
    rows: list[dict[str, object]] = []
    for outlook in outlooks:
        if outlook.count_id is None or outlook.reading is None:
            continue
        ends = [step.since for step in outlook.statuses[1:]] + [None]
        statuses += [
            {**columns(step), "until": end, "colony_id": outlook.colony_id, "scheme": outlook.scheme}
            for step, end in zip(outlook.statuses, ends, strict=True)
        ]
        rows.append(
            {
                "colony_id": outlook.colony_id,
                "count_id": outlook.count_id,
                "counted_on": outlook.counted_on,
                "scale": outlook.reading.scale,
                "recovery": getattr(outlook.reading, "recovery", None),
                "mites": outlook.reading.mites,
                "bees_mean": getattr(outlook.reading, "bees_mean", None),
                "median": outlook.reading.median,
                "low": outlook.reading.low,
                "high": outlook.reading.high,
                "recount_on": outlook.recount_on,
            }
        )
    await run(connection, "replace_statuses", colony_ids=ids, statuses=_json(statuses))
    await run(connection, "replace_outlooks", colony_ids=ids, outlooks=_json(rows), policy_version=policy_version)


@dataclass(frozen=True, slots=True)
class LevelOn:
    """The level on record of a colony on a day."""

    colony_id: UUID
    level: Level


async def levels_on(connection: Connection, day: date) -> dict[UUID, Level]:
    """The level of every colony that has one on a day; the others are unknown."""
    return {one.colony_id: one.level for one in await many(connection, LevelOn, "levels_on", day=day)}


@dataclass(frozen=True, slots=True)
class CountedColony:
    """A colony that has been counted."""

    id: UUID
    is_living: bool


async def counted_colonies(connection: Connection, apiary_id: UUID | None = None) -> list[CountedColony]:
    """Colonies that have been counted, of those that the person may see; of one apiary where one is named."""
    return await many(connection, CountedColony, "counted_colonies", apiary_id=apiary_id)
