"""Hives, the boxes that stand on them, and who lives in them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from psycopg.types.json import Jsonb

from redframe.core.colonies.hive_state import BoxPurpose, Floor, Hive, HiveColony, PlacedBox, Side, WantedBox
from redframe.store.database import Connection, many, one, run
from redframe.store.errors import Conflict


async def hive(connection: Connection, hive_id: UUID) -> Hive:
    """A hive. Raises NotFound."""
    return await one(connection, Hive, "hive_by_id", what="hive", id=hive_id)


@dataclass(frozen=True, slots=True)
class SuperOfColony:
    """A super on the hive of a colony, from a day to another (None: it stands there still)."""

    colony_id: UUID
    since: date
    until: date | None


async def super_boxes(connection: Connection, colony_ids: Sequence[UUID], since: date) -> list[SuperOfColony]:
    """Supers that stand on the hives of these colonies, or were taken off since a day."""
    return await many(connection, SuperOfColony, "super_boxes", colony_ids=list(colony_ids), since=since)


async def boxes_of_hive(connection: Connection, hive_id: UUID, on: date | None = None) -> list[PlacedBox]:
    """The boxes that stand, from the floor up; those that stood on a day where one is named."""
    return await many(connection, PlacedBox, "boxes_of_hive", hive_id=hive_id, on=on)


async def boxes_by_id(connection: Connection, ids: Sequence[UUID]) -> list[PlacedBox]:
    """Boxes whether they stand or not, from the floor up."""
    return await many(connection, PlacedBox, "boxes_by_id", ids=list(ids))


async def colonies_of_hive(connection: Connection, hive_id: UUID) -> list[HiveColony]:
    """The living colonies of a hive."""
    return await many(connection, HiveColony, "colonies_of_hive", hive_id=hive_id)


@dataclass(frozen=True, slots=True)
class HiveBox:
    """One box of a hive (from the floor up), with the labels of the living colonies that share the hive and of the one
    that lives left of its divider."""

    id: UUID
    hive_type: str
    floor: Floor
    numbered_from: Side
    divided_after: int | None
    version: int
    box_id: UUID | None
    position: int | None
    purpose: BoxPurpose | None
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
    connection: Connection, hive_id: UUID, apiary_id: UUID, hive_type: str, boxes: Sequence[WantedBox], since: date
) -> None:
    """Add a hive with its boxes from the floor up."""
    await run(connection, "add_hive", id=hive_id, apiary_id=apiary_id, hive_type=hive_type)
    await replace_boxes(connection, hive_id, boxes, since)


async def replace_boxes(connection: Connection, hive_id: UUID, boxes: Sequence[WantedBox], on: date) -> None:
    """Record the boxes of a hive, from the floor up, as they stand from a day on.

    Boxes with the `id` of one that stands stay, perhaps elsewhere in the stack; those taken off keep their days.
    """
    rows = [
        {"id": str(box.id) if box.id else None, "position": number, "purpose": box.purpose,
         "frame_format": box.frame_format, "frames": box.frames}
        for number, box in enumerate(boxes, start=1)
    ]  # fmt: skip
    await run(connection, "replace_hive_boxes", hive_id=hive_id, boxes=Jsonb(rows), on=on)


async def remove_divider(connection: Connection, hive_id: UUID) -> None:
    """Take the divider out of a hive: one colony lives in all of it."""
    await run(connection, "remove_divider", hive_id=hive_id)


async def amend_hive(
    connection: Connection, hive_id: UUID, version: int, *, hive_type: str, floor: Floor, numbered_from: Side,
    divided_after: int | None,
) -> None:  # fmt: skip
    """Amend a hive. Raises Conflict when it has changed since `version`."""
    changed = await run(
        connection, "amend_hive", id=hive_id, version=version, hive_type=hive_type, floor=floor,
        numbered_from=numbered_from, divided_after=divided_after,
    )  # fmt: skip
    if changed == 0:
        raise Conflict("this hive was changed by somebody else meanwhile")


async def set_side(connection: Connection, hive_id: UUID, colony_id: UUID, side: str | None) -> None:
    """Say on which side of the divider a colony lives (None: nothing divides it); the other one gets the other side."""
    await run(connection, "set_hive_side", hive_id=hive_id, colony_id=colony_id, side=side)


async def move_hive(connection: Connection, hive_id: UUID, apiary_id: UUID) -> None:
    """Let a hive stand in another apiary."""
    await run(connection, "move_hive", id=hive_id, apiary_id=apiary_id)


@dataclass(frozen=True, slots=True)
class _BroodBoxes:
    colony_id: UUID
    boxes: int


async def brood_boxes(connection: Connection, colony_ids: Sequence[UUID]) -> dict[UUID, int]:
    """How many brood boxes the hive of each of these colonies has; a colony without any is missing."""
    found = await many(connection, _BroodBoxes, "brood_boxes", colony_ids=list(colony_ids))
    return {one.colony_id: one.boxes for one in found}


async def hives_of_apiary(connection: Connection, apiary_id: UUID) -> list[HiveBox]:
    """Boxes of every hive of an apiary; a hive without boxes has one row without a position."""
    return await many(connection, HiveBox, "hives_of_apiary", apiary_id=apiary_id)
