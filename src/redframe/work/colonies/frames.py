"""Where frames go: from slot to slot, box to box, colony to colony, into store, into the freezer, melted, burned.

Each move is kept for tracing. A comb does not leave a colony that is on hold, shows unexplained signs or died without
an explanation, unless somebody whose role allows it says why.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from uuid import UUID, uuid4

from redframe.core.colonies.frame_places import (
    Away,
    Box,
    Place,
    Shift,
    Slot,
    between_colonies,
    check_formats,
    colonies_left,
    from_away,
    move,
)
from redframe.core.colonies.hive_state import FrameKind, Hive, HiveState
from redframe.core.colonies.states import is_lost
from redframe.core.errors import InvalidInput, Refused
from redframe.store import colonies, frames, holds, places
from redframe.store.frames import Frame, FrameMove, FramePlace
from redframe.work.colonies.changes import come_in, release
from redframe.work.colonies.hive_state import state_of_hive
from redframe.work.roles import may, require
from redframe.work.to_json import to_json
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class NewFrame:
    """A frame that comes into the hive from outside: foundation, drone comb, a dummy board, a frame feeder."""

    kind: FrameKind
    comb_year: int | None


@dataclass(frozen=True, slots=True)
class WantedMove:
    """A move: a known frame, or a new one; into a slot, or away. `override_why` sets a hold aside; `swap` lets it
    change places with the frame that hangs there."""

    id: UUID
    frame_id: UUID | None
    new: NewFrame | None
    to_box: UUID | None
    to_slot: int | None
    to_away: Away | None
    moved_on: date
    visit_id: UUID | None
    override_why: str
    note: str
    swap: bool = False


async def move_frame(unit: UnitOfWork, wanted: WantedMove) -> list[Frame]:
    """Move a frame, or bring a new one in; the frames that moved, where they are now. Accepted once.

    Raises InvalidInput for a slot or frame that is not there; Refused for a comb that is held back (a role that may can
    set it aside with a reason), for a slot in which another hangs (unless they are to change places), for one of
    another format, and for one that was melted or burned.
    """
    require(unit.who, "record")
    if wanted.moved_on > unit.today:
        raise InvalidInput("moved_on", "lies in the future", code="out_of_range")
    content = to_json(replace(wanted, override_why=""))
    if not await unit.accept(wanted.id, "frame_move", content):
        frame_ids = [wanted.frame_id or wanted.id]
        return await frames.lock_frames(unit.connection, frame_ids, wanted.to_box or uuid4(), wanted.to_slot or 0)
    target: Place = _target(wanted)
    boxes: dict[UUID, Box] = {}
    hives: dict[UUID, Hive] = {}
    if wanted.to_box is not None:
        await _add_hive_of_box(unit, wanted.to_box, boxes, hives)
    if wanted.new is not None:
        frame_id = wanted.id
        await _bring_in(unit, wanted, boxes, hives)
    elif wanted.frame_id is not None:
        frame_id = wanted.frame_id
    else:
        raise InvalidInput("frame_id", "there is no frame in this slot", code="missing")
    found = await frames.lock_frames(unit.connection, [frame_id], wanted.to_box or uuid4(), wanted.to_slot or 0)
    moving = next((frame for frame in found if frame.id == frame_id), None)
    if moving is None:
        raise InvalidInput("frame_id", "there is no such frame here", code="unknown")
    if moving.box_id is not None and moving.box_id not in boxes:
        await _add_hive_of_box(unit, moving.box_id, boxes, hives)
    at: dict[UUID, Place] = {frame.id: _place(frame) for frame in found}
    # What holds a colony back weighs more than a slot that is taken: it is said first.
    rule = await _released(unit, wanted, move(at, boxes, frame_id, target, swap=True), boxes)
    apiaries = {frame.apiary_id for frame in found} | ({hives[wanted.to_box].apiary_id} if wanted.to_box else set())
    if len(apiaries) > 1:
        await _stays_if_from_the_dead(unit, moving, boxes, wanted.override_why)
        rule = await come_in(unit, sorted(apiaries), wanted.override_why, on=wanted.moved_on) or rule
    shifts = move(at, boxes, frame_id, target, swap=wanted.swap)
    by_id = {frame.id: frame for frame in found}
    check_formats(shifts, {frame.id: frame.frame_format for frame in found}, boxes)
    for shift in shifts:
        await record_shift(unit, wanted, shift, by_id[shift.frame], boxes, hives, rule)
    return await frames.lock_frames(unit.connection, [shift.frame for shift in shifts], uuid4(), 0)


async def _stays_if_from_the_dead(unit: UnitOfWork, frame: Frame, boxes: Mapping[UUID, Box], why: str) -> None:
    """Raise Refused for a comb of a colony that died: bees of its own apiary may have it once it is released, no
    others, but on the word of who may release combs."""
    box = boxes.get(frame.box_id) if frame.box_id is not None else None
    hangs_in = box.colony_at(frame.slot) if box is not None and frame.slot is not None else None
    colony = hangs_in or await frames.last_colony_of_frame(unit.connection, frame.id)
    may_say = may(unit.who, "release_combs")
    if colony is None or (may_say and why.strip()):
        return
    held = await holds.held_back(unit.connection, [colony], unit.today)
    if any(is_lost(one.state) for one in held):
        text = f"{held[0].label} died: its combs go to bees of the same apiary or to none"
        raise Refused("dead_other_apiary", text, field="override_why", can_override=may_say)


def _target(wanted: WantedMove) -> Place:
    if wanted.to_away is not None and wanted.to_box is None:
        return wanted.to_away
    if wanted.to_box is None or wanted.to_slot is None or wanted.to_away is not None:
        raise InvalidInput("to_box", "say a slot, or where else it goes", code="missing")
    return Slot(wanted.to_box, wanted.to_slot)


def _place(frame: Frame) -> Place:
    if frame.box_id is not None and frame.slot is not None:
        return Slot(frame.box_id, frame.slot)
    return frame.away or "store"


async def _add_hive_of_box(unit: UnitOfWork, box_id: UUID, boxes: dict[UUID, Box], hives: dict[UUID, Hive]) -> None:
    hive_id = await frames.hive_of_box(unit.connection, box_id)
    if hive_id is None:
        raise InvalidInput("to_box", "is not a box that stands", code="unknown")
    state = await state_of_hive(unit, hive_id)
    for box in state.as_boxes().values():
        boxes[box.id] = box
        hives[box.id] = state.hive


async def _bring_in(unit: UnitOfWork, wanted: WantedMove, boxes: dict[UUID, Box], hives: dict[UUID, Hive]) -> None:
    assert wanted.new is not None
    if wanted.to_box is None or wanted.to_box not in boxes:
        raise InvalidInput("to_box", "say the slot that the new frame goes into", code="missing")
    new = frames.FrameDetails(
        apiary_id=hives[wanted.to_box].apiary_id,
        kind=wanted.new.kind,
        frame_format=boxes[wanted.to_box].frame_format,
        comb_year=wanted.new.comb_year,
    )
    await frames.add_frame(unit.connection, wanted.id, new)


async def _released(unit: UnitOfWork, wanted: WantedMove, shifts: Sequence[Shift], boxes: dict[UUID, Box]) -> str:
    """The hold that was set aside, if any. Raises Refused where a comb may not go to another colony."""
    hung_in = {frame: await frames.last_colony_of_frame(unit.connection, frame) for frame in from_away(shifts)}
    left = colonies_left(shifts, boxes, hung_in)
    return await release(unit, "comb_out", left, wanted.override_why, on=wanted.moved_on)


async def record_shift(
    unit: UnitOfWork,
    wanted: WantedMove,
    shift: Shift,
    frame: Frame,
    boxes: dict[UUID, Box],
    hives: dict[UUID, Hive],
    rule: str,
) -> None:
    from_colony, to_colony = between_colonies(shift, boxes)
    there = hives[shift.target.box].apiary_id if isinstance(shift.target, Slot) else frame.apiary_id
    origin, target = _frame_place(frame.apiary_id, shift.origin), _frame_place(there, shift.target)
    await frames.place_frame(unit.connection, frame.id, target)
    move = frames.NewFrameMove(
        act_id=wanted.id,
        frame_id=frame.id,
        visit_id=wanted.visit_id,
        moved_on=wanted.moved_on,
        origin=origin,
        from_colony=from_colony,
        target=target,
        to_colony=to_colony,
        rule=rule,
        override_why=wanted.override_why if rule else "",
        note=wanted.note,
    )
    await frames.add_frame_move(unit.connection, uuid4(), move)


def _frame_place(apiary: UUID, place: Place) -> FramePlace:
    if isinstance(place, Slot):
        return FramePlace(apiary, place.box, place.number, None)
    return FramePlace(apiary, None, None, place)


async def take_out(unit: UnitOfWork, state: HiveState, taken: Sequence[Frame], to: Away, on: date, note: str) -> None:
    """Frames of a hive go away from all hives, each with its move."""
    act_id = uuid4()
    boxes = state.as_boxes()
    for frame in taken:
        wanted = WantedMove(act_id, frame.id, None, None, None, to, on, None, "", note)
        shift = Shift(frame.id, _place(frame), to)
        await record_shift(unit, wanted, shift, frame, boxes, dict.fromkeys(boxes, state.hive), "")


async def bring_in(
    unit: UnitOfWork, state: HiveState, box_id: UUID, slots: Sequence[int], new: NewFrame, on: date, note: str
) -> list[UUID]:
    """New frames come into empty slots of a box, each with its move; their ids."""
    act_id = uuid4()
    boxes = state.as_boxes()
    ids = []
    for slot in slots:
        details = frames.FrameDetails(state.hive.apiary_id, new.kind, boxes[box_id].frame_format, new.comb_year)
        frame_id = uuid4()
        await frames.add_frame(unit.connection, frame_id, details)
        frame = Frame(
            frame_id, details.apiary_id, new.kind, details.frame_format, new.comb_year, None, None, "store", 1
        )
        wanted = WantedMove(act_id, None, new, box_id, slot, None, on, None, "", note)
        shift = Shift(frame_id, "store", Slot(box_id, slot))
        await record_shift(unit, wanted, shift, frame, boxes, dict.fromkeys(boxes, state.hive), "")
        ids.append(frame_id)
    return ids


async def into_store(unit: UnitOfWork, hive: Hive, box_ids: Sequence[UUID], on: date) -> None:
    """The frames of boxes that are taken off a hive go into store, each with its move."""
    state = await state_of_hive(unit, hive.id)
    await take_out(unit, state, await frames.frames_of_boxes(unit.connection, box_ids), "store", on, "box taken off")


async def frames_in_store(unit: UnitOfWork, apiary_id: UUID) -> list[Frame]:
    """Frames of an apiary in store or in the freezer."""
    await places.apiary(unit.connection, apiary_id)
    return await frames.frames_away(unit.connection, apiary_id)


async def moves_of_colony(unit: UnitOfWork, colony_id: UUID) -> list[FrameMove]:
    """Frames that came to a colony and left it, newest first."""
    await colonies.colony(unit.connection, colony_id)
    return await frames.moves_of_colony(unit.connection, colony_id)
