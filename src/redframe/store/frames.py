"""Where every frame is, and how it came there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.colonies.frame_places import Away
from redframe.core.colonies.hive_state import FrameKind
from redframe.store.database import Connection, columns, many, run, scalar


@dataclass(frozen=True, slots=True)
class Frame:
    """A frame and where it is."""

    id: UUID
    apiary_id: UUID
    kind: FrameKind
    frame_format: str
    comb_year: int | None
    box_id: UUID | None
    slot: int | None
    away: Away | None
    version: int


@dataclass(frozen=True, slots=True)
class FrameMove:
    """One move of one frame, as tracing reads it."""

    id: UUID
    act_id: UUID
    frame_id: UUID
    visit_id: UUID | None
    moved_on: date
    from_colony: UUID | None
    from_box: UUID | None
    from_slot: int | None
    from_away: str | None
    to_colony: UUID | None
    to_box: UUID | None
    to_slot: int | None
    to_away: str | None
    rule: str
    override_why: str
    note: str
    by_name: str
    from_label: str | None
    to_label: str | None


async def hive_of_box(connection: Connection, box_id: UUID) -> UUID | None:
    """The hive on which a box stands, None where it does not stand."""
    found: UUID | None = await scalar(connection, "hive_of_box", box_id=box_id)
    return found


async def last_colony_of_frame(connection: Connection, frame_id: UUID) -> UUID | None:
    """The colony that a frame was taken from last, None where it never hung in one."""
    found: UUID | None = await scalar(connection, "last_colony_of_frame", frame_id=frame_id)
    return found


async def fill_boxes(connection: Connection, hive_id: UUID) -> None:
    """Give each box that was never recorded to have frames a comb in every slot."""
    await run(connection, "fill_boxes", hive_id=hive_id)


async def frames_of_boxes(connection: Connection, box_ids: Sequence[UUID]) -> list[Frame]:
    """The frames that hang in these boxes."""
    return await many(connection, Frame, "frames_of_boxes", box_ids=list(box_ids))


async def frames_away(connection: Connection, apiary_id: UUID) -> list[Frame]:
    """Frames of an apiary in store or in the freezer."""
    return await many(connection, Frame, "frames_away", apiary_id=apiary_id)


async def lock_frames(connection: Connection, ids: Sequence[UUID], box_id: UUID, slot: int) -> list[Frame]:
    """These frames and the one in a slot, held until the transaction ends."""
    return await many(connection, Frame, "lock_frames", ids=list(ids), box_id=box_id, slot=slot)


@dataclass(frozen=True, slots=True)
class FrameDetails:
    """What a frame is; `comb_year` is the year in which its comb was drawn."""

    apiary_id: UUID
    kind: FrameKind
    frame_format: str
    comb_year: int | None


async def add_frame(connection: Connection, frame_id: UUID, frame: FrameDetails) -> None:
    """Add a frame to the store of an apiary."""
    await run(connection, "add_frame", id=frame_id, **columns(frame))


@dataclass(frozen=True, slots=True)
class FramePlace:
    """Where a frame is: in a slot of a box of an apiary, or away from all hives."""

    apiary: UUID
    box: UUID | None
    slot: int | None
    away: Away | None


async def place_frame(connection: Connection, frame_id: UUID, place: FramePlace) -> None:
    """Say where a frame is from now on."""
    await run(
        connection, "place_frame", id=frame_id, apiary_id=place.apiary, box_id=place.box, slot=place.slot,
        away=place.away,
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class NewFrameMove:
    """A move of one frame: the act that it is part of, from where and to where with the colonies there, and the hold
    that was set aside for it (`rule`, "" for none)."""

    act_id: UUID
    frame_id: UUID
    visit_id: UUID | None
    moved_on: date
    origin: FramePlace
    from_colony: UUID | None
    target: FramePlace
    to_colony: UUID | None
    rule: str
    override_why: str
    note: str


async def add_frame_move(connection: Connection, move_id: UUID, move: NewFrameMove) -> None:
    """Record one frame's move."""
    origin, target = move.origin, move.target
    await run(
        connection, "add_frame_move", id=move_id, act_id=move.act_id, frame_id=move.frame_id, visit_id=move.visit_id,
        moved_on=move.moved_on, from_apiary=origin.apiary, from_colony=move.from_colony, from_box=origin.box,
        from_slot=origin.slot, from_away=origin.away, to_apiary=target.apiary, to_colony=move.to_colony,
        to_box=target.box, to_slot=target.slot, to_away=target.away, rule=move.rule, override_why=move.override_why,
        note=move.note,
    )  # fmt: skip


async def moves_of_colony(connection: Connection, colony_id: UUID) -> list[FrameMove]:
    """Moves of frames from and to a colony, newest first."""
    return await many(connection, FrameMove, "moves_of_colony", colony_id=colony_id)
