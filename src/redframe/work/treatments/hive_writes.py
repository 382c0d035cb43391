"""What an act of a course changes in the record of the hive: queen, boxes, combs, floor."""

from __future__ import annotations

from collections.abc import Awaitable, Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from uuid import UUID, uuid4

from redframe.core.colonies.frame_places import Away
from redframe.core.colonies.hive_state import BoxPurpose, FrameKind, HiveState, WantedBox
from redframe.core.colonies.queens import MarkColour
from redframe.core.errors import InvalidInput
from redframe.core.treatments.hive_work import Writes
from redframe.core.visits.record import Feed
from redframe.store import colonies, frames, queens
from redframe.store.colonies import Colony
from redframe.store.frames import Frame
from redframe.wording.sentences import written_day
from redframe.work.colonies.frames import NewFrame, bring_in, take_out
from redframe.work.colonies.queens import QueenRecord, add_queen, present_queen
from redframe.work.colonies.record import amend_colony
from redframe.work.treatments.brood_elsewhere import hatch_with
from redframe.work.treatments.hive_stack import (
    change_boxes,
    hive_alone,
    hive_of_colony,
    on_the_nest,
    own_slots,
    stays,
    without,
)
from redframe.work.unit_of_work import UnitOfWork

ACCEPTED_AFTER_DAYS = 7
"""A new queen is looked for so long after she was put in."""


@dataclass(frozen=True, slots=True)
class HiveActDetails:
    """What an act was done with; empty where it does not ask for it.

    `frame_ids`: the combs taken out, `fate`: where they went, or `hatch_with`: the colony with which they hatch;
    `fill`: what hangs in their slots now. `box_id` and `slot` of a comb put in; `frame_format` and `box_frames` of a
    box put on, which hangs full of `fill`, the `excluder_id` that came with it and the `old_box_ids` of the brood boxes
    that stood before. `year` and `mark_seen` of a new queen, whether she was `accepted` and lays (`eggs_seen`). `feed`
    in litres of syrup or kg.
    """

    frame_ids: Sequence[UUID] = ()
    fate: Away | None = None
    hatch_with: UUID | None = None
    fill: FrameKind | None = None
    box_id: UUID | None = None
    slot: int | None = None
    frame_format: str | None = None
    box_frames: int | None = None
    year: int | None = None
    mark_seen: MarkColour | None = None
    accepted: bool | None = None
    eggs_seen: bool | None = None
    feed: Feed | None = None
    feed_amount: float | None = None
    excluder_id: UUID | None = None
    old_box_ids: Sequence[UUID] = ()


@dataclass(frozen=True, slots=True)
class Writing:
    """An act to be written: the colony, the day, its details, why a hold is set aside; `earlier` acts of the course by
    what they wrote."""

    colony: Colony
    on: date
    details: HiveActDetails
    override_why: str
    earlier: Mapping[Writes, HiveActDetails]
    note: str


async def write(unit: UnitOfWork, writes: Writes, act: Writing) -> HiveActDetails:
    """Change what an act changes; its details with what became of them.

    Raises InvalidInput naming the detail that is missing or cannot be, Refused where a hold or another colony in the
    hive stands against it, Conflict.
    """
    found = WRITES.get(writes)
    return await found(unit, act) if found is not None else HiveActDetails()


async def _queen_held(unit: UnitOfWork, act: Writing) -> HiveActDetails:
    await _queen_is(unit, act, caged=True)
    return HiveActDetails()


async def _queen_free(unit: UnitOfWork, act: Writing) -> HiveActDetails:
    await _queen_is(unit, act, caged=False)
    return HiveActDetails()


async def _queen_is(unit: UnitOfWork, act: Writing, *, caged: bool, laying_since: date | None = None) -> None:
    """Say of the present queen that she is caged, or free; nothing of one that is not known to be there."""
    queen = await present_queen(unit, act.colony.id)
    if queen is None or queen.status not in ("mated", "caged"):
        return
    await queens.amend_queen(
        unit.connection, act.colony.id, queen.version, year=queen.year, mark_seen=queen.mark_seen,
        status="caged" if caged else "mated", laying_since=laying_since or queen.laying_since,
        release_on=act.on if caged else None,
    )  # fmt: skip


async def _queen_out(unit: UnitOfWork, act: Writing) -> HiveActDetails:
    colony = await colonies.colony_for_update(unit.connection, act.colony.id)
    if colony.state == "queenless":
        return HiveActDetails()
    if act.on < colony.state_since:
        raise InvalidInput(
            "done_on", f"its state was changed on {written_day(colony.state_since)}", code="out_of_range"
        )
    await amend_colony(
        unit, colony.id, colony.version, label=colony.label, state="queenless", state_since=act.on, note=colony.note
    )
    return HiveActDetails()


async def _queen_in(unit: UnitOfWork, act: Writing) -> HiveActDetails:
    release_on = act.on + timedelta(days=ACCEPTED_AFTER_DAYS)
    queen = QueenRecord(act.details.year, act.details.mark_seen, "caged", act.on, None, release_on)
    await add_queen(unit, uuid4(), act.colony.id, queen, act.override_why)
    return HiveActDetails(year=queen.year, mark_seen=queen.mark_seen)


async def _queen_accepted(unit: UnitOfWork, act: Writing) -> HiveActDetails:
    if act.details.accepted is None:
        raise InvalidInput("accepted", "say whether she was accepted", code="missing")
    if not act.details.accepted:
        await _queen_out(unit, act)
        return HiveActDetails(accepted=False)
    await _queen_is(unit, act, caged=False, laying_since=act.on if act.details.eggs_seen else None)
    return HiveActDetails(accepted=True, eggs_seen=act.details.eggs_seen)


async def _comb_in(unit: UnitOfWork, act: Writing) -> HiveActDetails:
    box_id, slot = act.details.box_id, act.details.slot
    state = await hive_of_colony(unit, act.colony.id)
    if state is None:
        return HiveActDetails()
    if box_id is None or slot is None:
        raise InvalidInput("slot", "say the slot that it hangs in", code="missing")
    if slot not in own_slots(state, act.colony.id).get(box_id, ()):
        raise InvalidInput("slot", "is not a slot of this colony", code="unknown")
    there = [one for one in await frames.frames_of_boxes(unit.connection, [box_id]) if one.slot == slot]
    await take_out(unit, state, there, "store", act.on, act.note)
    put_in = await bring_in(unit, state, box_id, [slot], NewFrame("drone_comb", act.on.year), act.on, act.note)
    return HiveActDetails(frame_ids=put_in, box_id=box_id, slot=slot)


async def _comb_out(unit: UnitOfWork, act: Writing) -> HiveActDetails:
    """The comb that was put in comes out, if it hangs in the colony still: a visit may have moved it."""
    put_in = act.earlier.get("comb_in", HiveActDetails()).frame_ids
    there = [one.id for one in await _own_combs(unit, act) if one.id in put_in]
    return await _take(unit, replace(act, details=replace(act.details, frame_ids=there)))


async def _combs_out(unit: UnitOfWork, act: Writing) -> HiveActDetails:
    if not act.details.frame_ids and await hive_of_colony(unit, act.colony.id) is not None:
        raise InvalidInput("frame_ids", "tick the combs that came out", code="missing")
    return await _take(unit, act)


async def _take(unit: UnitOfWork, act: Writing) -> HiveActDetails:
    """The combs named come out of the colony, and others hang in their slots where that is said."""
    taken = await _combs_of(unit, act)
    if not taken:
        return HiveActDetails()
    state = await hive_of_colony(unit, act.colony.id)
    assert state is not None
    await _send(unit, act, state, taken)
    if act.details.fill is not None:
        for box_id in dict.fromkeys(one.box_id for one in taken if one.box_id is not None):
            slots = [one.slot for one in taken if one.box_id == box_id and one.slot is not None]
            await bring_in(unit, state, box_id, slots, NewFrame(act.details.fill, None), act.on, act.note)
    return HiveActDetails(
        frame_ids=[one.id for one in taken], fate=act.details.fate, hatch_with=act.details.hatch_with,
        fill=act.details.fill,
    )  # fmt: skip


async def _send(unit: UnitOfWork, act: Writing, state: HiveState, taken: Sequence[Frame]) -> None:
    """The combs go where the act says. Raises InvalidInput naming `fate` where it does not, or says two things."""
    if (act.details.fate is None) == (act.details.hatch_with is None):
        raise InvalidInput("fate", "say where they went", code="missing")
    if act.details.hatch_with is not None:
        await hatch_with(unit, state, taken, act.details.hatch_with, act.on, act.override_why, act.note)
    elif act.details.fate is not None:
        await take_out(unit, state, taken, act.details.fate, act.on, act.note)


async def _combs_of(unit: UnitOfWork, act: Writing) -> list[Frame]:
    """The combs named, which hang in the colony still. Raises InvalidInput naming `frame_ids`."""
    if not act.details.frame_ids:
        return []
    named = set(act.details.frame_ids)
    found = [one for one in await _own_combs(unit, act) if one.id in named]
    if len(found) < len(named):
        raise InvalidInput("frame_ids", "one of them hangs there no more: look again", code="unknown")
    return found


async def _own_combs(unit: UnitOfWork, act: Writing) -> list[Frame]:
    own = own_slots(await hive_of_colony(unit, act.colony.id), act.colony.id)
    hung = await frames.frames_of_boxes(unit.connection, list(own))
    return [one for one in hung if one.box_id is not None and one.slot in own[one.box_id]]


async def _box_under(unit: UnitOfWork, act: Writing) -> HiveActDetails:
    return await _new_box(unit, act, lambda placed, new: [*new, *placed])


async def _box_above(unit: UnitOfWork, act: Writing) -> HiveActDetails:
    return await _new_box(unit, act, on_the_nest)


Stack = Callable[[Sequence[WantedBox], Sequence[WantedBox]], list[WantedBox]]


async def _new_box(unit: UnitOfWork, act: Writing, stack: Stack) -> HiveActDetails:
    frame_format, number = act.details.frame_format, act.details.box_frames
    if frame_format is None:
        raise InvalidInput("frame_format", "say which frames the box takes", code="missing")
    if number is None:
        raise InvalidInput("box_frames", "say how many frames the box takes", code="missing")
    state = await hive_alone(unit, act.colony.id)
    placed = state.boxes if state is not None else ()
    new = [WantedBox("excluder"), WantedBox("brood", frame_format, number)]
    await change_boxes(unit, act.colony.id, state, act.on, stack([stays(box) for box in placed], new))
    after = await hive_of_colony(unit, act.colony.id)
    assert after is not None
    known = {box.id for box in placed}

    def added(purpose: BoxPurpose) -> UUID:
        return next(box.id for box in after.boxes if box.id not in known and box.purpose == purpose)

    box_id, kind = added("brood"), act.details.fill or "foundation"
    await bring_in(unit, after, box_id, range(1, number + 1), NewFrame(kind, None), act.on, act.note)
    return HiveActDetails(
        fill=kind, box_id=box_id, frame_format=frame_format, box_frames=number, excluder_id=added("excluder"),
        old_box_ids=[box.id for box in placed if box.purpose == "brood"],
    )  # fmt: skip


async def _boxes_off(unit: UnitOfWork, act: Writing) -> HiveActDetails:
    """The brood boxes that stood before the new one go, with the excluder that parted them, as far as they stand there
    still; combs that are not named go into store."""
    state = await hive_alone(unit, act.colony.id)
    put_on = act.earlier.get("box_above") or act.earlier.get("box_under")
    if state is None or put_on is None:
        return HiveActDetails()
    going = {box.id for box in state.boxes if box.id in put_on.old_box_ids}
    if "box_above" in act.earlier and put_on.excluder_id is not None:
        going.add(put_on.excluder_id)
    taken = await _combs_of(unit, act)
    if any(one.box_id not in going for one in taken):
        raise InvalidInput("frame_ids", "only combs of the boxes that come off", code="refused")
    if taken:
        await _send(unit, act, state, taken)
    await change_boxes(unit, act.colony.id, state, act.on, without(state.boxes, going))
    if not taken:
        return HiveActDetails()
    frame_ids = [one.id for one in taken]
    return HiveActDetails(frame_ids=frame_ids, fate=act.details.fate, hatch_with=act.details.hatch_with)


async def _excluder_out(unit: UnitOfWork, act: Writing) -> HiveActDetails:
    state = await hive_alone(unit, act.colony.id)
    put_on = act.earlier.get("box_under")
    if state is not None and put_on is not None and any(box.id == put_on.excluder_id for box in state.boxes):
        await change_boxes(unit, act.colony.id, state, act.on, without(state.boxes, {put_on.excluder_id}))
    return HiveActDetails()


async def _floor(unit: UnitOfWork, act: Writing) -> HiveActDetails:
    state = await hive_of_colony(unit, act.colony.id)
    if state is not None:
        await change_boxes(unit, act.colony.id, state, act.on, without(state.boxes, ()), floor="mesh_with_board")
    return HiveActDetails()


async def _feed(unit: UnitOfWork, act: Writing) -> HiveActDetails:
    del unit
    if act.details.feed in (None, "none"):
        raise InvalidInput("feed", "say what was fed", code="missing")
    return HiveActDetails(feed=act.details.feed, feed_amount=act.details.feed_amount)


WRITES: Mapping[Writes, Callable[[UnitOfWork, Writing], Awaitable[HiveActDetails]]] = {
    "queen_held": _queen_held,
    "queen_free": _queen_free,
    "queen_out": _queen_out,
    "queen_in": _queen_in,
    "queen_accepted": _queen_accepted,
    "comb_in": _comb_in,
    "comb_out": _comb_out,
    "combs_out": _combs_out,
    "box_under": _box_under,
    "box_above": _box_above,
    "boxes_off": _boxes_off,
    "excluder_out": _excluder_out,
    "floor": _floor,
    "feed": _feed,
}
