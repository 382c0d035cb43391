"""Counts, what they say, and the levels that follow."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator, Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from functools import partial
from json import dumps
from typing import NamedTuple
from uuid import UUID

from psycopg.rows import args_row
from psycopg.types.json import Jsonb

from redframe.core.sampling.bees import BeesKnownBy
from redframe.core.sampling.method import Answer, BoardMethod, JarMethod, Method, Scale
from redframe.core.sampling.reading import READING_MODEL, AnyReading
from redframe.core.status.many import BriefCount
from redframe.store.database import Connection, Row, columns, many, one, run, scalar, sql
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
    targeted: bool
    note: str
    by_name: str
    created_at: datetime
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
    may_undo: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class CountDetails:
    """What can be amended of a count; what does not belong to its method is None."""

    method: Method
    taken_at: datetime
    taken_on: date
    brood_state: str
    targeted: bool
    note: str
    shakes: list[int] | None = None
    bees_known_by: str | None = None
    bees: int | None = None
    volume_ml: float | None = None
    mass_g: float | None = None
    place_of_bees: str | None = None
    queen_safe: str | None = None
    rested_s: int | None = None
    wet: str | None = None
    placed_at: datetime | None = None
    squares: list[int] | None = None
    squares_in_all: int | None = None
    cleaned: str | None = None
    greased: str | None = None
    ants: str | None = None
    cells_opened: int | None = None
    cells_infested: int | None = None
    mites_in_cells: int | None = None
    patches: int | None = None
    mites_seen: bool | None = None


async def add_count(connection: Connection, count_id: UUID, colony_id: UUID, details: CountDetails) -> None:
    """Add a count."""
    await run(connection, "add_count", id=count_id, colony_id=colony_id, **columns(details))


async def amend_count(connection: Connection, count_id: UUID, version: int, details: CountDetails) -> None:
    """Amend a count; the transaction carries the reason. Raises Conflict when it has changed since `version`."""
    if await run(connection, "amend_count", id=count_id, version=version, **columns(details)) == 0:
        raise Conflict("this count was amended by somebody else meanwhile")


async def count_by_id(connection: Connection, count_id: UUID) -> Count:
    """One count. Raises NotFound."""
    return await one(connection, Count, "count_by_id", what="count", id=count_id)


async def counts_of_colonies(connection: Connection, colony_ids: Sequence[UUID], since: date) -> list[Count]:
    """Counts of these colonies since a day, newest first."""
    return await many(connection, Count, "counts_of_colonies", colony_ids=list(colony_ids), since=since)


@dataclass(frozen=True, slots=True)
class ReadingOnRecord:
    """What a count says, as it is kept; what does not belong to its scale is None."""

    count_id: str
    scale: Scale
    mites: int
    board_days: float | None
    board_cv: float | None
    bees_mean: float | None
    bees_cv: float | None
    recovery: str | None
    as_counted: float
    median: float
    low: float
    high: float
    upper80: float


async def readings_on_record(connection: Connection, count_ids: Sequence[str]) -> list[ReadingOnRecord]:
    """The readings of counts."""
    return await many(connection, ReadingOnRecord, "readings_on_record", count_ids=list(count_ids))


class BriefBoard(NamedTuple):
    """A board as its faults are judged."""

    count_id: str
    placed_at: datetime
    removed_at: datetime
    cleaned: Answer
    greased: Answer
    ants: Answer
    method: BoardMethod


class MeasuredJar(NamedTuple):
    """What the reading of a jar is computed from."""

    count_id: str
    method: JarMethod
    shakes: list[int]
    bees_known_by: BeesKnownBy
    bees: int | None
    volume_ml: float | None
    mass_g: float | None


PIECE = 1000
"""Rows that are made into records at a time: other people's requests go on between."""


async def _in_pieces(
    connection: Connection, row: Callable[..., Row], name: str, /, **parameters: object
) -> AsyncIterator[list[Row]]:
    async with connection.cursor(row_factory=args_row(row)) as cursor:
        await cursor.execute(sql(name), parameters)
        while piece := await cursor.fetchmany(PIECE):
            yield piece
            await asyncio.sleep(0)


def brief_counts(connection: Connection, colony_ids: Sequence[UUID], since: date) -> AsyncIterator[list[BriefCount]]:
    """Counts of these colonies since a day as their levels take them, colony by colony, each in its order."""
    return _in_pieces(connection, BriefCount, "brief_counts", colony_ids=list(colony_ids), since=since)


async def brief_boards(connection: Connection, colony_ids: Sequence[UUID], since: date) -> list[BriefBoard]:
    """Boards of these colonies since a day."""
    pieces = _in_pieces(connection, BriefBoard, "brief_boards", colony_ids=list(colony_ids), since=since)
    return [one async for piece in pieces for one in piece]


async def measured_jars(connection: Connection, colony_ids: Sequence[UUID], since: date) -> list[MeasuredJar]:
    """Jars of these colonies since a day, of those that have a reading."""
    pieces = _in_pieces(connection, MeasuredJar, "measured_jars", colony_ids=list(colony_ids), since=since)
    return [one async for piece in pieces for one in piece]


async def replace_readings(connection: Connection, readings: Mapping[str, AnyReading]) -> None:
    """Replace the readings of counts. Many share one, which is sent once."""
    numbers = {reading: number for number, reading in enumerate(dict.fromkeys(readings.values()))}
    rows: list[dict[str, object]] = [{"number": number, **columns(reading)} for reading, number in numbers.items()]
    await run(
        connection, "replace_readings", count_ids=list(readings), numbers=[numbers[one] for one in readings.values()],
        readings=_json(rows), model=READING_MODEL,
    )  # fmt: skip


async def replace_reading(connection: Connection, count_id: UUID, reading: AnyReading | None) -> None:
    """Replace the reading of one count; None deletes it."""
    if reading is None:
        await run(connection, "delete_reading", count_id=count_id)
    else:
        await replace_readings(connection, {str(count_id): reading})


@dataclass(frozen=True, slots=True)
class WithSigns:
    """A colony with signs of mites."""

    colony_id: UUID


async def colonies_with_mite_signs(connection: Connection, apiary_id: UUID, today: date) -> list[UUID]:
    """Colonies of an apiary in whose brood mites or their dirt were seen within two months."""
    rows = await many(connection, WithSigns, "colonies_with_mite_signs", apiary_id=apiary_id, today=today)
    return [row.colony_id for row in rows]


def _json(rows: list[dict[str, object]]) -> Jsonb:
    return Jsonb(rows, dumps=partial(dumps, default=str))


async def undo_count(connection: Connection, id: UUID) -> bool:
    """Take a count back, with its board and picture as they were; False where it is not to be undone."""
    return bool(await scalar(connection, "undo_count", id=id))
