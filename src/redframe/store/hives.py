"""Hives, the boxes that stand on them, and who lives in them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from psycopg.types.json import Jsonb

from redframe.store.database import Connection, many, one, run
from redframe.store.errors import Conflict


@dataclass(frozen=True, slots=True)
class Hive:
    """A hive: its floor, the side from which its frames are numbered, the slot after which it is divided."""

    id: UUID
    apiary_id: UUID
    hive_type: str
    floor: str
    numbered_from: str
    divided_after: int | None
    version: int


@dataclass(frozen=True, slots=True)
class StandingBox:
    """A box that stands on a hive, from the floor up."""

    id: UUID
    position: int
    purpose: str
    frame_format: str | None
    frames: int
    since: date


@dataclass(frozen=True, slots=True)
class Dweller:
    """A living colony of a hive, with its side where two share it."""

    id: UUID
    label: str
    hive_side: str | None


async def hive(connection: Connection, hive_id: UUID) -> Hive:
    """A hive. Raises NotFound."""
    return await one(connection, Hive, "hive_by_id", what="hive", id=hive_id)


async def boxes_of_hive(connection: Connection, hive_id: UUID) -> list[StandingBox]:
    """The boxes that stand, from the floor up."""
    return await many(connection, StandingBox, "boxes_of_hive", hive_id=hive_id)


async def dwellers(connection: Connection, hive_id: UUID) -> list[Dweller]:
    """The living colonies of a hive."""
    return await many(connection, Dweller, "colonies_of_hive", hive_id=hive_id)


@dataclass(frozen=True, slots=True)
class HiveBox:
    """One box of a hive (from the floor up), with the labels of the living colonies that share the hive and of the one
    that lives left of its divider."""

    id: UUID
    hive_type: str
    floor: str
    numbered_from: str
    divided_after: int | None
    version: int
    box_id: UUID | None
    position: int | None
    purpose: str | None
    frame_format: str | None
    frames: int | None
    since: date | None
    labels: list[str] | None
    left_label: str | None


@dataclass(frozen=True, slots=True)
class FrameFormat:
    """A frame by its outer size."""

    id: str
    name: str
    width_mm: int
    height_mm: int


async def frame_formats(connection: Connection) -> list[FrameFormat]:
    """The frame formats that a box may have."""
    return await many(connection, FrameFormat, "frame_formats")


async def add_hive(
    connection: Connection,
    hive_id: UUID,
    apiary_id: UUID,
    hive_type: str,
    boxes: Sequence[dict[str, object]],
    since: date,
) -> None:
    """Add a hive with its boxes from the floor up."""
    await run(connection, "add_hive", id=hive_id, apiary_id=apiary_id, hive_type=hive_type)
    await lay_boxes(connection, hive_id, [{**box, "id": None} for box in boxes], since)


async def lay_boxes(connection: Connection, hive_id: UUID, boxes: Sequence[dict[str, object]], on: date) -> None:
    """Record the boxes of a hive, from the floor up, as they stand from a day on.

    Boxes with an `id` stay, perhaps elsewhere in the stack; those taken off keep their days.
    """
    rows = [{"position": number, **box} for number, box in enumerate(boxes, start=1)]
    await run(connection, "lay_hive_boxes", hive_id=hive_id, boxes=Jsonb(plain_ids(rows)), on=on)


def plain_ids(rows: Sequence[dict[str, object]]) -> list[dict[str, object]]:
    """Ids as text, as JSON takes them."""
    return [{name: str(value) if isinstance(value, UUID) else value for name, value in row.items()} for row in rows]


async def amend_hive(connection: Connection, hive_id: UUID, version: int, **fields: object) -> None:
    """Amend a hive. Raises Conflict when it has changed since `version`."""
    if await run(connection, "amend_hive", id=hive_id, version=version, **fields) == 0:
        raise Conflict("this hive was changed by somebody else meanwhile")


async def set_side(connection: Connection, hive_id: UUID, colony_id: UUID, side: str | None) -> None:
    """Say on which side of the divider a colony lives (None: nothing divides it); the other one gets the other side."""
    await run(connection, "set_hive_side", hive_id=hive_id, colony_id=colony_id, side=side)


async def move_hive(connection: Connection, hive_id: UUID, apiary_id: UUID) -> None:
    """Let a hive stand in another apiary."""
    await run(connection, "move_hive", id=hive_id, apiary_id=apiary_id)


async def hives_of_apiary(connection: Connection, apiary_id: UUID) -> list[HiveBox]:
    """Boxes of every hive of an apiary; a hive without boxes has one row without a position."""
    return await many(connection, HiveBox, "hives_of_apiary", apiary_id=apiary_id)
