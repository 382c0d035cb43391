"""Honey taken from colonies: each recorded on its own, refused where it is not clear."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.colonies.holds import HeldAct, check
from redframe.core.errors import InvalidInput, Refused
from redframe.core.treatments.honey import HoneyBarred, HoneyFor, check_harvest, harvest_barred
from redframe.core.treatments.overrides import Override
from redframe.store import colonies, earlier_treatments, holds
from redframe.store import harvests as store
from redframe.store.errors import NotFound
from redframe.store.harvests import Harvest, NewHarvest
from redframe.wording.sentences import written_day
from redframe.work.colonies.changes import note_anyway
from redframe.work.roles import may, require
from redframe.work.to_json import to_json
from redframe.work.treatments.in_hive import in_hives_of
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class Taken:
    """Honey taken from one colony; not weighed: None."""

    id: UUID
    colony_id: UUID
    honey_kg: float | None


@dataclass(frozen=True, slots=True)
class HarvestOf:
    """A harvest from some colonies on one day, for people or for bees."""

    harvested_on: date
    honey_for: HoneyFor
    batch: str
    note: str
    override: Override | None


@dataclass(frozen=True, slots=True)
class HeldHoney:
    """The hold that keeps honey in a colony, and whether this person may set it aside."""

    rule: str
    text: str
    can_override: bool


@dataclass(frozen=True, slots=True)
class TakenRow:
    """What became of one colony: recorded, or barred by a treatment until a day (None: not known before it is out), or
    held back."""

    colony_id: UUID
    label: str
    barred: HoneyBarred | None = None
    held: HeldHoney | None = None


async def record_harvest(unit: UnitOfWork, of: HarvestOf, taken: Sequence[Taken]) -> list[TakenRow]:
    """Record honey taken from colonies, each once; what is not clear or held back on that day is left out and said,
    unless somebody named takes it on. The name stays only with what there was to take on.

    Raises InvalidInput naming `harvested_on` or `rows[2].honey_kg`, NotFound for a colony that is not there.
    """
    require(unit.who, "record")
    _check(unit, of, taken)
    ids = [one.colony_id for one in taken]
    known = {one.colony_id: one for one in await earlier_treatments.treatments_known(unit.connection, ids)}
    if not known.keys() >= set(ids):
        raise NotFound("colony")
    for colony in known.values():
        if of.harvested_on < colony.came_on:
            text = f"is before {colony.label} was there ({written_day(colony.came_on)})"
            raise InvalidInput("harvested_on", text, code="out_of_range")
    barred, held = await _barred(unit, ids, of), await _held(unit, ids, of)
    rows, free, contents = [], {}, {}
    for one in taken:
        bar, hold = barred.get(one.colony_id), held.get(one.colony_id)
        shut = bar is not None and of.override is None
        let = hold is None or (hold.can_override and of.override is not None)
        rows.append(TakenRow(one.colony_id, known[one.colony_id].label, bar if shut else None, None if let else hold))
        if not shut and let:
            set_aside = of.override if bar is not None or hold is not None else None
            free[one.id] = _new(of, one, set_aside)
            contents[one.id] = to_json((of, one))
    new = await unit.accept_all("harvest", contents)
    await store.add_harvests(unit.connection, {one: harvest for one, harvest in free.items() if one in new})
    stood = [one.colony_id for one in taken if one.id in new and one.colony_id in held]
    if stood and of.override is not None:
        against = await holds.held_back(unit.connection, stood, of.harvested_on)
        await note_anyway(unit, _act(of), against, of.override.reason)
    return rows


def _check(unit: UnitOfWork, of: HarvestOf, taken: Sequence[Taken]) -> None:
    for index, one in enumerate(taken):
        try:
            check_harvest(one.honey_kg, of.harvested_on, today=unit.today)
        except InvalidInput as error:
            if error.field != "honey_kg":
                raise
            raise InvalidInput(f"rows[{index}].honey_kg", error.message, code=error.code) from error


def _new(of: HarvestOf, one: Taken, set_aside: Override | None) -> NewHarvest:
    return NewHarvest(
        one.colony_id, of.harvested_on, of.honey_for, one.honey_kg, of.batch, of.note,
        set_aside.authorised_by.strip() if set_aside else "", set_aside.reason.strip() if set_aside else "",
    )  # fmt: skip


def _act(of: HarvestOf) -> HeldAct:
    return "honey" if of.honey_for == "people" else "honey_for_bees"


async def _held(unit: UnitOfWork, colony_ids: Sequence[UUID], of: HarvestOf) -> dict[UUID, HeldHoney]:
    act = _act(of)
    may_release = may(unit.who, "release_combs")
    found = {}
    for one in await holds.held_back(unit.connection, colony_ids, of.harvested_on):
        try:
            check(act, [one], may_release=may_release, why="")
        except Refused as refused:
            found[one.colony_id] = HeldHoney(refused.rule, refused.message, refused.can_override)
    return found


async def _barred(unit: UnitOfWork, colony_ids: Sequence[UUID], of: HarvestOf) -> dict[UUID, HoneyBarred]:
    if of.honey_for == "bees":
        return {}
    given = await in_hives_of(unit, colony_ids)
    found = {one: harvest_barred(given[one], of.harvested_on) for one in colony_ids}
    return {one: barred for one, barred in found.items() if barred is not None}


async def harvests_of(unit: UnitOfWork, colony_id: UUID) -> list[Harvest]:
    """What was taken from a colony, newest first. Raises NotFound."""
    await colonies.colony_overview(unit.connection, colony_id, unit.today)
    return await store.harvests_of_colony(unit.connection, colony_id)


async def withdraw_harvest(unit: UnitOfWork, harvest_id: UUID, why: str) -> None:
    """Say that it was not so; what was said stays on record. Raises NotFound, Conflict when it was withdrawn before."""
    require(unit.who, "record")
    await store.withdraw_harvest(unit.connection, harvest_id, why.strip())
