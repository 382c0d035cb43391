"""Counts, what they say, and the standings that follow."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass
from datetime import date, datetime
from functools import partial
from json import dumps
from uuid import UUID

from psycopg.types.json import Jsonb

from redframe.core.sampling.method import Method, Scale
from redframe.core.sampling.reading import READING_MODEL, AnyReading
from redframe.core.thresholds.standing import Standing
from redframe.store.database import Connection, many, one, run
from redframe.store.errors import Conflict


@dataclass(frozen=True, slots=True)
class Count:
    """A count as it was taken, with its reading beside it: a jar (wash, sugar, co2), a board, drone brood, or bees
    looked at; what does not belong to its method is None, and so is the reading where there is none to give."""

    id: UUID
    colony_id: UUID
    method: Method
    taken_at: datetime
    taken_on: date
    shakes: list[int] | None
    bees_known_by: str | None
    bees: int | None
    volume_ml: float | None
    mass_g: float | None
    place_of_bees: str | None
    brood_state: str
    queen_safe: str | None
    rested_s: int | None
    wet: str | None
    placed_at: datetime | None
    squares: list[int] | None
    squares_in_all: int | None
    cleaned: str | None
    greased: str | None
    ants: str | None
    cells_opened: int | None
    cells_infested: int | None
    mites_in_cells: int | None
    patches: int | None
    mites_seen: bool | None
    on_purpose: bool
    note: str
    by_name: str
    version: int
    picture_id: UUID | None
    scale: Scale | None
    mites: int | None
    board_days: float | None
    board_cv: float | None
    bees_mean: float | None
    bees_cv: float | None
    recovery: str | None
    as_counted: float | None
    median: float | None
    low: float | None
    high: float | None
    upper80: float | None


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


async def strip_visits(connection: Connection, apiary_id: UUID, since: date) -> list[StripVisit]:
    """Visits of an apiary's colonies for their strips, oldest first."""
    return await many(connection, StripVisit, "strip_visits", apiary_id=apiary_id, since=since)


async def lay_readings(connection: Connection, readings: Sequence[tuple[UUID, UUID, AnyReading]]) -> None:
    """Lay the readings of counts anew: (count, colony, reading)."""
    rows: list[dict[str, object]] = [
        {"count_id": count, "colony_id": colony, **asdict(reading)} for count, colony, reading in readings
    ]
    await run(connection, "lay_readings", readings=_json(rows), model=READING_MODEL)


async def lay_reading(connection: Connection, count_id: UUID, colony_id: UUID, reading: AnyReading | None) -> None:
    """Lay the reading of one count anew; None lifts it."""
    if reading is None:
        await run(connection, "lift_reading", count_id=count_id)
    else:
        await lay_readings(connection, [(count_id, colony_id, reading)])


@dataclass(frozen=True, slots=True)
class InsertBoard:
    """A board that lies under a colony and waits to be read."""

    id: UUID
    colony_id: UUID
    placed_at: datetime
    cleaned: str
    greased: str
    by_name: str
    version: int


@dataclass(frozen=True, slots=True)
class WithSigns:
    """A colony with signs of mites."""

    colony_id: UUID


async def colonies_with_mite_signs(connection: Connection, apiary_id: UUID, today: date) -> list[UUID]:
    """Colonies of an apiary in whose brood mites or their dirt were seen within two months."""
    rows = await many(connection, WithSigns, "colonies_with_mite_signs", apiary_id=apiary_id, today=today)
    return [row.colony_id for row in rows]


async def boards_lying(connection: Connection, colony_ids: Sequence[UUID]) -> list[InsertBoard]:
    """Boards that lie under these colonies, the longest first."""
    return await many(connection, InsertBoard, "boards_lying", colony_ids=list(colony_ids))


async def place_board(connection: Connection, **fields: object) -> None:
    """Lay a board. Raises Conflict where one lies already."""
    if await run(connection, "place_board", **fields) == 0:
        raise Conflict("a board lies under this colony already: read it, or take it away first")


async def lift_board(connection: Connection, board_id: UUID, lifted_at: datetime, count_id: UUID | None = None) -> None:
    """Take a board away, read by a count or unread. Raises Conflict for one that lies no longer."""
    if await run(connection, "lift_board", id=board_id, lifted_at=lifted_at, count_id=count_id) == 0:
        raise Conflict("this board was read or taken away meanwhile")


async def lock_colonies(connection: Connection, colony_ids: Sequence[UUID]) -> None:
    """Hold the derived rows of these colonies until the transaction ends."""
    await run(connection, "lock_colonies", ids=list(colony_ids))


async def lock_association(connection: Connection) -> None:
    """Hold the derived rows of every colony of the association until the transaction ends."""
    await run(connection, "lock_association")


@dataclass(frozen=True, slots=True)
class Outlook:
    """What follows from a colony's counts under its school: its standings from the latest on, that count with what it
    says (of both jars where it was the second), and the day of the next.

    A colony without a count that judges it has no standings and is unknown.
    """

    colony_id: UUID
    standings: Sequence[Standing]
    school: str
    count_id: UUID | None
    counted_on: date | None
    reading: AnyReading | None
    recount_on: date | None


async def lay_outlooks(connection: Connection, outlooks: Sequence[Outlook], policy_version: int) -> None:
    """Lay standings and outlooks of these colonies anew."""
    ids = [outlook.colony_id for outlook in outlooks]
    await run(connection, "lift_standings", colony_ids=ids)
    await run(connection, "lift_outlooks", colony_ids=ids)
    standings: list[dict[str, object]] = []
    rows: list[dict[str, object]] = []
    for outlook in outlooks:
        if outlook.count_id is None or outlook.reading is None:
            continue
        ends = [step.since for step in outlook.standings[1:]] + [None]
        standings += [
            {**asdict(step), "until": end, "colony_id": outlook.colony_id, "school": outlook.school}
            for step, end in zip(outlook.standings, ends, strict=True)
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
    await run(connection, "lay_standings", standings=_json(standings))
    await run(connection, "lay_outlooks", outlooks=_json(rows), policy_version=policy_version)


def _json(rows: list[dict[str, object]]) -> Jsonb:
    return Jsonb(rows, dumps=partial(dumps, default=str))


@dataclass(frozen=True, slots=True)
class CountedColony:
    """A colony that has been counted."""

    id: UUID
    lives: bool


async def counted_colonies(connection: Connection, apiary_id: UUID | None = None) -> list[CountedColony]:
    """Colonies that have been counted, of those that the person may see; of one apiary where one is named."""
    return await many(connection, CountedColony, "counted_colonies", apiary_id=apiary_id)
