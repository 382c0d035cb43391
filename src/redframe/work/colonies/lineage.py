"""Colonies merged, and moved to another apiary or into another hive."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Literal
from uuid import UUID, uuid4

from redframe.core.colonies.frame_places import Shift, Slot
from redframe.core.colonies.hive_state import WantedBox
from redframe.core.colonies.lineage import CombsOfMerger, QueenOfMerger, check_merger
from redframe.core.errors import InvalidInput
from redframe.store import colonies as store
from redframe.store import frames, hives, places, queens
from redframe.store.colonies import Colony, ColonyOverview
from redframe.store.errors import Conflict
from redframe.store.queens import Queen
from redframe.work.colonies.changes import add_event, come_in, label_is_free, not_in_future, release
from redframe.work.colonies.frames import WantedMove, into_store, record_shift
from redframe.work.colonies.hive_state import state_of_hive
from redframe.work.colonies.queens import QueenRecord, insert_queen, present_queen
from redframe.work.colonies.record import house_in
from redframe.work.roles import require
from redframe.work.status.recompute import recompute_status
from redframe.work.unit_of_work import UnitOfWork

Home = Literal["along", "own", "shared"]
"""How a colony is housed where it moves to: its hive goes along, a hive of its own, or one that it shares."""


@dataclass(frozen=True, slots=True)
class Merger:
    """A colony merged into another: whose queen stays, where the combs go. `override_why` sets a hold aside."""

    into: UUID
    on: date
    queen: QueenOfMerger | None = None
    combs: CombsOfMerger | None = None
    note: str = ""
    override_why: str = ""


async def merge(unit: UnitOfWork, colony_id: UUID, version: int, wanted: Merger) -> ColonyOverview:
    """Merge a colony into another; its own record ends as merged, and both keep their history.

    Raises InvalidInput naming `into`, `queen` or `combs` for what does not fit, Refused for a colony that is held back,
    Conflict when it has changed since `version`.
    """
    require(unit.who, "record")
    not_in_future(unit, "on", wanted.on)
    locked = await store.colonies_for_update(unit.connection, [colony_id, wanted.into])
    if wanted.into == colony_id:
        raise InvalidInput("into", "a colony cannot be merged into itself")
    before, other = locked[colony_id], locked[wanted.into]
    if not other.is_living:
        raise InvalidInput("into", f"colony {other.label} is {other.state}")
    if not before.is_living:
        raise Conflict(f"this colony is {before.state} already")
    rule = await release(unit, "merge", [colony_id], wanted.override_why, on=wanted.on)
    rule = await release(unit, "receive_merger", [wanted.into], wanted.override_why, on=wanted.on) or rule
    own_queen, other_queen = await present_queen(unit, colony_id), await present_queen(unit, wanted.into)
    together = before.hive_id is not None and before.hive_id == other.hive_id
    own_combs = before.hive_id is not None and not together and await _has_boxes(unit, before.hive_id)
    check_merger(
        own_queen=own_queen is not None, other_queen=other_queen is not None, queen=wanted.queen,
        own_combs=own_combs, combs=wanted.combs,
    )  # fmt: skip
    ended = replace(before, version=version, state="merged", state_since=wanted.on)
    await store.amend_colony(unit.connection, ended)
    await _settle_queens(unit, before, other, own_queen, other_queen, wanted)
    if together and other.hive_id is not None:
        await hives.remove_divider(unit.connection, other.hive_id)
    elif own_combs:
        await _settle_combs(unit, before, other, wanted)
    await add_event(
        unit, colony_id, "merged_into", wanted.on, other=wanted.into, rule=rule, why=wanted.override_why,
        note=wanted.note,
    )  # fmt: skip
    return await store.colony_overview(unit.connection, colony_id, unit.today)


async def _has_boxes(unit: UnitOfWork, hive_id: UUID) -> bool:
    return any(box.frames for box in await hives.boxes_of_hive(unit.connection, hive_id))


async def _settle_queens(
    unit: UnitOfWork, before: Colony, other: Colony, own: Queen | None, others: Queen | None, wanted: Merger
) -> None:
    """One queen at the most is left: where only one colony has one, she heads both."""
    await queens.retire_queen(unit.connection, before.id, wanted.on)
    stays = wanted.queen or ("of_this" if own is not None and others is None else "of_other")
    if stays == "of_this" and own is not None:
        await queens.retire_queen(unit.connection, other.id, wanted.on)
        record = QueenRecord(own.year, own.mark_seen, own.status, wanted.on, own.laying_since, own.release_on)
        await insert_queen(unit, uuid4(), other.id, record)
    elif stays == "none":
        await queens.retire_queen(unit.connection, other.id, wanted.on)
        await store.amend_colony(unit.connection, replace(other, state="queenless", state_since=wanted.on))
        await add_event(unit, other.id, "state", wanted.on, previous=other.state, current="queenless")
    elif stays == "not_known":
        await queens.retire_queen(unit.connection, other.id, wanted.on)
        await insert_queen(unit, uuid4(), other.id, QueenRecord(None, None, "unknown", wanted.on, None, None))


async def _settle_combs(unit: UnitOfWork, before: Colony, other: Colony, wanted: Merger) -> None:
    """The boxes of the merged colony go onto the other hive, comb for comb, or its combs into store."""
    assert before.hive_id is not None
    hive = await hives.hive(unit.connection, before.hive_id)
    state = await state_of_hive(unit, before.hive_id)
    if len(state.colonies) > 1:
        raise InvalidInput("combs", "another colony lives in this hive: move its own combs first", code="refused")
    await frames.fill_boxes(unit.connection, before.hive_id)
    if wanted.combs == "store":
        await into_store(unit, hive, [box.id for box in state.boxes], wanted.on)
    else:
        if other.hive_id is None:
            raise InvalidInput("combs", "say first in which boxes the other colony lives", code="missing")
        there = await state_of_hive(unit, other.hive_id)
        new = {box.id: uuid4() for box in state.boxes if box.frames}
        in_place = [WantedBox(box.purpose, box.frame_format, box.frames, box.id) for box in there.boxes]
        added = [WantedBox(box.purpose, box.frame_format, box.frames, new[box.id]) for box in state.boxes if box.frames]
        await hives.replace_boxes(unit.connection, other.hive_id, [*in_place, *added], wanted.on)
        there = await state_of_hive(unit, other.hive_id)
        boxes = {**state.as_boxes(), **there.as_boxes()}
        places_of = {**dict.fromkeys(state.as_boxes(), hive), **dict.fromkeys(there.as_boxes(), there.hive)}
        act_id = uuid4()
        for frame in await frames.frames_of_boxes(unit.connection, list(new)):
            assert frame.box_id is not None and frame.slot is not None
            target = Slot(new[frame.box_id], frame.slot)
            move = WantedMove(
                act_id, frame.id, None, target.box, target.number, None, wanted.on, None, "", "colonies merged"
            )
            shift = Shift(frame.id, Slot(frame.box_id, frame.slot), target)
            await record_shift(unit, move, shift, frame, boxes, places_of, "")
    await hives.replace_boxes(unit.connection, before.hive_id, [], wanted.on)


@dataclass(frozen=True, slots=True)
class WantedPlace:
    """Where a colony goes: `hive` says how it is housed there, "along" in its hive, "own" in a new hive of `boxes`,
    "shared" in `hive_id`. `override_why` sets a hold aside."""

    apiary_id: UUID
    label: str
    on: date
    hive: Home = "along"
    hive_id: UUID | None = None
    hive_type: str = "stacked boxes"
    boxes: Sequence[WantedBox] = ()
    note: str = ""
    override_why: str = ""


async def move(unit: UnitOfWork, colony_id: UUID, version: int, wanted: WantedPlace) -> ColonyOverview:
    """Move a colony to another apiary or into another hive; its history goes with it.

    Raises InvalidInput naming the field for a hive that it cannot take or a label that is taken there, Refused for a
    colony that is held back, Conflict when it has changed since `version`.
    """
    require(unit.who, "record")
    before = await store.colony_for_update(unit.connection, colony_id)
    there = await places.apiary(unit.connection, wanted.apiary_id)
    here = await places.apiary(unit.connection, before.apiary_id)
    not_in_future(unit, "on", wanted.on)
    if not before.is_living:
        raise Conflict(f"this colony is {before.state}")
    await label_is_free(unit, wanted.apiary_id, wanted.label, colony_id)
    act: Literal["rehouse", "move"] = "rehouse" if wanted.apiary_id == before.apiary_id else "move"
    rule = await release(unit, act, [colony_id], wanted.override_why, on=wanted.on)
    if act == "move":
        rule = await come_in(unit, [wanted.apiary_id], wanted.override_why, on=wanted.on) or rule
    home, housed = await _home(unit, before, wanted)
    moved = replace(before, version=version, label=wanted.label, apiary_id=wanted.apiary_id, hive_id=home)
    await store.amend_colony(unit.connection, moved)
    await add_event(
        unit, colony_id, "moved", wanted.on, previous=here.name, current=there.name, previous_apiary=here.id,
        rule=rule or housed, why=wanted.override_why, note=wanted.note,
    )  # fmt: skip
    if wanted.label != before.label:
        await add_event(unit, colony_id, "renumbered", wanted.on, previous=before.label, current=wanted.label)
    if wanted.apiary_id != before.apiary_id:
        # The policy of the apiary that it came to judges its counts from now on.
        await recompute_status(unit, [colony_id])
    return await store.colony_overview(unit.connection, colony_id, unit.today)


async def _home(unit: UnitOfWork, before: Colony, wanted: WantedPlace) -> tuple[UUID | None, str]:
    """The hive that a colony lives in from now on, and the hold that was set aside for it."""
    if wanted.hive == "along":
        if wanted.apiary_id == before.apiary_id:
            raise InvalidInput("apiary_id", "it stands there already", code="unchanged")
        if before.hive_id is not None:
            shared = await _others_in(unit, before)
            if shared:
                raise InvalidInput("hive", f"{', '.join(shared)} lives in this hive too: choose another hive for it")
            await hives.move_hive(unit.connection, before.hive_id, wanted.apiary_id)
        return before.hive_id, ""
    if wanted.hive == "shared":
        if wanted.hive_id is None:
            raise InvalidInput("hive_id", "say which hive it goes into", code="missing")
        if wanted.hive_id == before.hive_id:
            raise InvalidInput("hive_id", "it lives in this hive already", code="unchanged")
        return wanted.hive_id, await house_in(unit, wanted.apiary_id, wanted.hive_id, wanted.override_why)
    if not wanted.boxes:
        raise InvalidInput("boxes", "say which boxes the new hive has", code="missing")
    home = uuid4()
    await hives.add_hive(unit.connection, home, wanted.apiary_id, wanted.hive_type, wanted.boxes, wanted.on)
    return home, ""


async def _others_in(unit: UnitOfWork, colony: Colony) -> list[str]:
    boxes = await hives.hives_of_apiary(unit.connection, colony.apiary_id)
    labels = next((box.labels or [] for box in boxes if box.id == colony.hive_id), [])
    return [label for label in labels if label != colony.label]
