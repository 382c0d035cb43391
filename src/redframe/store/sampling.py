"""Counts, what they say, and the levels that follow."""

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
from redframe.store.database import Connection, columns, many, one, run, scalar
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


async def replace_readings(connection: Connection, readings: Sequence[tuple[UUID, UUID, AnyReading]]) -> None:
    """Replace the readings of counts: (count, colony, reading)."""
    rows: list[dict[str, object]] = [
        {"count_id": count, "colony_id": colony, **asdict(reading)} for count, colony, reading in readings
    ]
    await run(connection, "replace_readings", readings=_json(rows), model=READING_MODEL)


async def replace_reading(connection: Connection, count_id: UUID, colony_id: UUID, reading: AnyReading | None) -> None:
    """Replace the reading of one count; None deletes it."""
    if reading is None:
        await run(connection, "delete_reading", count_id=count_id)
    else:
        await replace_readings(connection, [(count_id, colony_id, reading)])


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
