"""Combs with brood taken out of one colony that hatch with another: collected from one hive or many on top of a third.

The brood is not lost, and its mites come out with the bees: that colony is counted and treated when the workers have
hatched (docs/methods/hive-work.md).
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from math import ceil
from uuid import UUID, uuid4

from redframe.core.colonies.frame_places import Shift, Slot
from redframe.core.colonies.hive_state import HiveState, PlacedBox, WantedBox
from redframe.core.errors import InvalidInput
from redframe.store import colonies, frames
from redframe.store.frames import Frame
from redframe.work.colonies.changes import release
from redframe.work.colonies.frames import WantedMove, record_shift
from redframe.work.treatments.hive_stack import change_boxes, hive_alone, on_the_nest, stays
from redframe.work.unit_of_work import UnitOfWork


async def hatch_with(
    unit: UnitOfWork, state: HiveState, taken: Sequence[Frame], colony_id: UUID, on: date, why: str, note: str
) -> None:
    """Hang combs of a hive into the brood boxes of another colony of its apiary, in free slots first, then in boxes put
    on for them; each comb with its move.

    Raises InvalidInput naming `hatch_with` for a colony that cannot take them, Refused where a hold or a second colony
    in that hive stands against it.
    """
    receiver = await colonies.colony_for_update(unit.connection, colony_id)
    if any(one.id == colony_id for one in state.colonies):
        raise InvalidInput("hatch_with", "they came out of this hive", code="refused")
    if receiver.apiary_id != state.hive.apiary_id or not receiver.is_living:
        raise InvalidInput("hatch_with", "is not a living colony of this apiary", code="refused")
    rule = await release(unit, "receive_merger", [colony_id], why, on=on)
    hive = await hive_alone(unit, colony_id)
    if hive is None:
        raise InvalidInput("hatch_with", f"say the boxes of {receiver.label} first", code="refused")
    await frames.fill_boxes(unit.connection, hive.hive.id)
    for frame_format in dict.fromkeys(one.frame_format for one in taken):
        combs = [one for one in taken if one.frame_format == frame_format]
        like = next(box for box in state.boxes if box.frame_format == frame_format)
        hive = await _with_room(unit, hive, colony_id, like, len(combs), on)
        boxes = {**state.as_boxes(), **hive.as_boxes()}
        hives = {**dict.fromkeys(state.as_boxes(), state.hive), **dict.fromkeys(hive.as_boxes(), hive.hive)}
        act_id = uuid4()
        free = await _free_slots(unit, hive, frame_format)
        for comb, slot in zip(combs, free, strict=False):
            assert comb.box_id is not None and comb.slot is not None
            shift = Shift(comb.id, Slot(comb.box_id, comb.slot), slot)
            moved = WantedMove(act_id, comb.id, None, slot.box, slot.number, None, on, None, why, note)
            await record_shift(unit, moved, shift, comb, boxes, hives, rule)


async def _free_slots(unit: UnitOfWork, hive: HiveState, frame_format: str) -> list[Slot]:
    """The free slots of the brood boxes that take these combs, from the lowest box up."""
    boxes = [box for box in hive.boxes if box.purpose == "brood" and box.frame_format == frame_format]
    hung = await frames.frames_of_boxes(unit.connection, [box.id for box in boxes])
    used = {(one.box_id, one.slot) for one in hung}
    return [
        Slot(box.id, slot) for box in boxes for slot in range(1, box.frames + 1) if (box.id, slot) not in used
    ]  # fmt: skip


async def _with_room(
    unit: UnitOfWork, hive: HiveState, colony_id: UUID, like: PlacedBox, combs: int, on: date
) -> HiveState:
    """The hive with so many boxes more on its nest as the combs ask for beyond the free slots."""
    assert like.frame_format is not None
    missing = combs - len(await _free_slots(unit, hive, like.frame_format))
    if missing <= 0:
        return hive
    new = [WantedBox("brood", like.frame_format, like.frames)] * ceil(missing / like.frames)
    await change_boxes(unit, colony_id, hive, on, on_the_nest([stays(box) for box in hive.boxes], new))
    after = await hive_alone(unit, colony_id)
    assert after is not None
    return after
