"""Colonies added, renumbered, and their state changed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from uuid import UUID, uuid4, uuid5

from redframe.core.colonies.hive_state import WantedBox
from redframe.core.colonies.lineage import EventKind, check_parent
from redframe.core.colonies.states import ColonyState, has_queen
from redframe.core.errors import InvalidInput
from redframe.store import colonies as store
from redframe.store import hives, holds, places, queens
from redframe.store.colonies import ColonyOverview
from redframe.work.colonies.changes import add_event, come_in, label_is_free, not_in_future, release
from redframe.work.colonies.queens import QueenRecord, insert_queen
from redframe.work.roles import require
from redframe.work.to_json import to_json
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class NewColony:
    """A colony as somebody adds it: in a hive of its own (`boxes` from the floor up) or in `hive_id`, with its queen
    and the colony it was split from. `override_why` sets a hold aside."""

    id: UUID
    apiary_id: UUID
    label: str
    since: date
    note: str = ""
    hive_id: UUID | None = None
    hive_type: str = "stacked boxes"
    boxes: Sequence[WantedBox] = ()
    queen: QueenRecord | None = None
    split_from: UUID | None = None
    override_why: str = ""


async def add_colony(unit: UnitOfWork, new: NewColony) -> ColonyOverview:
    """Add a colony once.

    Raises InvalidInput for a label that is taken, a hive that is not there and a colony that nothing can be split from;
    Refused where a hold stands against the split or against putting a colony into that hive.
    """
    require(unit.who, "record")
    await places.apiary(unit.connection, new.apiary_id)
    not_in_future(unit, "since", new.since)
    content = to_json(replace(new, override_why=""))
    if await unit.accept(new.id, "colony", content):
        await _add(unit, new)
    return await store.colony_overview(unit.connection, new.id, unit.today)


async def _add(unit: UnitOfWork, new: NewColony) -> None:
    rule = ""
    parent = await store.colony(unit.connection, new.split_from) if new.split_from is not None else None
    if parent is None or parent.apiary_id != new.apiary_id:
        rule = await come_in(unit, [new.apiary_id], new.override_why, on=new.since)
    if parent is not None:
        check_parent(parent.label, parent.state, parent.state_since, new.since)
        rule = await release(unit, "split", [parent.id], new.override_why, on=new.since) or rule
    if new.hive_id is not None:
        rule = await house_in(unit, new.apiary_id, new.hive_id, new.override_why) or rule
    home = new.hive_id
    if home is None and new.boxes:
        home = uuid4()
        await hives.add_hive(unit.connection, home, new.apiary_id, new.hive_type, new.boxes, new.since)
    await label_is_free(unit, new.apiary_id, new.label, None)
    await store.add_colony(
        unit.connection, id=new.id, apiary_id=new.apiary_id, hive_id=home, label=new.label, since=new.since,
        note=new.note,
    )  # fmt: skip
    if new.queen is not None:
        await insert_queen(unit, uuid5(new.id, "queen"), new.id, new.queen)
    kind: EventKind = "split_from" if new.split_from is not None else "started"
    await add_event(unit, new.id, kind, new.since, other=new.split_from, rule=rule, why=new.override_why)


async def house_in(unit: UnitOfWork, apiary_id: UUID, hive_id: UUID, why: str) -> str:
    """Let a colony be put into a hive of an apiary; the hold that was set aside for it, if any.

    Raises InvalidInput("hive_id") for a hive that is not there, Refused where it holds a colony that is held back or
    was lost and not explained.
    """
    if hive_id not in {box.id for box in await hives.hives_of_apiary(unit.connection, apiary_id)}:
        raise InvalidInput("hive_id", "is not a hive of this apiary", code="unknown")
    return await release(unit, "house", await holds.colonies_held_in_hive(unit.connection, hive_id), why)


async def amend_colony(
    unit: UnitOfWork, colony_id: UUID, version: int, *, label: str, state: ColonyState, state_since: date, note: str
) -> ColonyOverview:
    """Renumber a colony, from today on, or change its state from a day on; the history stays with it.

    Raises InvalidInput for a label that is taken, Conflict when it has changed since `version`.
    """
    require(unit.who, "record")
    before = await store.colony_for_update(unit.connection, colony_id)
    not_in_future(unit, "state_since", state_since)
    if label != before.label:
        await label_is_free(unit, before.apiary_id, label, colony_id)
    await store.amend_colony(
        unit.connection,
        replace(before, version=version, label=label, state=state, state_since=state_since, note=note),
    )
    if label != before.label:
        await add_event(unit, colony_id, "renumbered", unit.today, previous=before.label, current=label)
    if state != before.state:
        await add_event(unit, colony_id, "state", state_since, previous=before.state, current=state)
        if not has_queen(state):
            await queens.retire_queen(unit.connection, colony_id, state_since)
    return await store.colony_overview(unit.connection, colony_id, unit.today)
