"""Colonies merged, and moved to another apiary or hive."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from typing import Literal
from uuid import UUID, uuid4

from redframe.core.errors import InvalidInput
from redframe.store import colonies as store
from redframe.store import hives, places, queens
from redframe.store.colonies import Colony, ColonyOverview
from redframe.store.errors import Conflict
from redframe.work.colonies.record import (
    _amend,
    _event,
    _label_is_free,
    _not_in_future,
)
from redframe.work.roles import require
from redframe.work.unit_of_work import Work

Home = Literal["along", "own", "shared"]
"""How a colony is housed where it moves to: its hive goes along, a hive of its own, or one that it shares."""


async def merge(work: Work, colony_id: UUID, version: int, into: UUID, on: date, note: str) -> ColonyOverview:
    """Merge a colony into another; its own record ends as merged and both keep their history."""
    require(work.who, "record")
    before = await store.colony_for_update(work.connection, colony_id)
    other = await store.colony(work.connection, into)
    _not_in_future(work, "on", on)
    if other.id == colony_id:
        raise InvalidInput("into", "a colony cannot be merged into itself")
    if other.state not in ("alive", "queenless"):
        raise InvalidInput("into", f"colony {other.label} is {other.state}")
    if before.state not in ("alive", "queenless"):
        raise Conflict(f"this colony is {before.state} already")
    await _amend(work, before, version, label=before.label, state="merged", state_since=on, note=before.note)
    await queens.retire_queen(work.connection, colony_id, on)
    await _event(work, colony_id, "merged_into", on, other=into, note=note)
    return await store.colony_overview(work.connection, colony_id, work.today)


async def move(
    work: Work,
    colony_id: UUID,
    version: int,
    *,
    apiary_id: UUID,
    hive: Home,
    hive_id: UUID | None,
    hive_type: str,
    boxes: Sequence[dict[str, object]],
    label: str,
    on: date,
    note: str,
) -> ColonyOverview:
    """Move a colony to another apiary or into another hive; its history goes with it.

    `hive` says how: "along" takes its hive with it, "own" puts it into a new hive of `boxes`, "shared" into `hive_id`.
    Raises InvalidInput naming the field for a hive that it cannot take or a label that is taken there, Conflict when
    the colony has changed since `version`.
    """
    require(work.who, "record")
    before = await store.colony_for_update(work.connection, colony_id)
    there = await places.apiary(work.connection, apiary_id)
    here = await places.apiary(work.connection, before.apiary_id)
    _not_in_future(work, "on", on)
    if before.state not in ("alive", "queenless"):
        raise Conflict(f"this colony is {before.state}")
    await _label_is_free(work, apiary_id, label, colony_id)
    if hive == "along":
        if apiary_id == before.apiary_id:
            raise InvalidInput("apiary_id", "it stands there already", code="unchanged")
        home = before.hive_id
        if home is not None:
            shared = await _others_in(work, before)
            if shared:
                raise InvalidInput("hive", f"{', '.join(shared)} lives in this hive too: choose another hive for it")
            await hives.move_hive(work.connection, home, apiary_id)
    elif hive == "shared":
        if hive_id is None or hive_id not in {
            box.id for box in await hives.hives_of_apiary(work.connection, apiary_id)
        }:
            raise InvalidInput("hive_id", "is not a hive of that apiary", code="unknown")
        if hive_id == before.hive_id:
            raise InvalidInput("hive_id", "it lives in this hive already", code="unchanged")
        home = hive_id
    else:
        if not boxes:
            raise InvalidInput("boxes", "say which boxes the new hive has", code="missing")
        home = uuid4()
        await hives.add_hive(work.connection, home, apiary_id, hive_type, boxes, on)
    await _amend(
        work, before, version, label=label, state=before.state, state_since=before.state_since, note=before.note,
        apiary_id=apiary_id, hive_id=home,
    )  # fmt: skip
    await _event(work, colony_id, "moved", on, former=here.name, present=there.name, note=note)
    if label != before.label:
        await _event(work, colony_id, "renumbered", on, former=before.label, present=label)
    return await store.colony_overview(work.connection, colony_id, work.today)


async def _others_in(work: Work, colony: Colony) -> list[str]:
    boxes = await hives.hives_of_apiary(work.connection, colony.apiary_id)
    labels = next((box.labels or [] for box in boxes if box.id == colony.hive_id), [])
    return [label for label in labels if label != colony.label]
