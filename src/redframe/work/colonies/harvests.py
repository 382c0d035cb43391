"""Honey taken from colonies: each recorded on its own, refused where it is not clear."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.colonies.holds import HeldAct
from redframe.core.errors import InvalidInput, Refused
from redframe.core.treatments.honey import HoneyBarred, HoneyFor, check_harvest, harvest_barred
from redframe.core.treatments.overrides import Override
from redframe.store import colonies
from redframe.store import harvests as store
from redframe.store.harvests import Harvest, NewHarvest
from redframe.work.colonies.changes import release
from redframe.work.roles import require
from redframe.work.to_json import to_json
from redframe.work.treatments.in_hive import in_hive_of
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
    """Record honey taken from colonies, each once; what is not clear is left out and said, unless somebody named takes
    it on.

    Raises InvalidInput naming `harvested_on` or `rows[2].honey_kg`, NotFound for a colony that is not there.
    """
    require(unit.who, "record")
    rows = []
    for index, one in enumerate(taken):
        try:
            check_harvest(one.honey_kg, of.harvested_on, today=unit.today)
        except InvalidInput as error:
            if error.field != "honey_kg":
                raise
            raise InvalidInput(f"rows[{index}].honey_kg", error.message, code=error.code) from error
        colony = await colonies.colony_for_update(unit.connection, one.colony_id)
        barred = await _barred(unit, one.colony_id, of) if of.override is None else None
        held = await _held(unit, one.colony_id, of)
        rows.append(TakenRow(one.colony_id, colony.label, barred, held))
        if barred is None and held is None and await unit.accept(one.id, "harvest", to_json((of, one))):
            why = of.override
            await store.add_harvest(
                unit.connection,
                one.id,
                NewHarvest(
                    one.colony_id, of.harvested_on, of.honey_for, one.honey_kg, of.batch, of.note,
                    why.authorised_by.strip() if why else "", why.reason.strip() if why else "",
                ),
            )  # fmt: skip
    return rows


async def _held(unit: UnitOfWork, colony_id: UUID, of: HarvestOf) -> HeldHoney | None:
    act: HeldAct = "honey" if of.honey_for == "people" else "honey_for_bees"
    try:
        await release(unit, act, [colony_id], of.override.reason if of.override else "")
    except Refused as refused:
        return HeldHoney(refused.rule, refused.message, refused.can_override)
    return None


async def _barred(unit: UnitOfWork, colony_id: UUID, of: HarvestOf) -> HoneyBarred | None:
    if of.honey_for == "bees":
        return None
    return harvest_barred(await in_hive_of(unit, colony_id), of.harvested_on)


async def harvests_of(unit: UnitOfWork, colony_id: UUID) -> list[Harvest]:
    """What was taken from a colony, newest first. Raises NotFound."""
    await colonies.colony_overview(unit.connection, colony_id, unit.today)
    return await store.harvests_of_colonies(unit.connection, [colony_id])


async def withdraw_harvest(unit: UnitOfWork, harvest_id: UUID, why: str) -> None:
    """Say that it was not so; what was said stays on record. Raises NotFound, Conflict when it was withdrawn before."""
    require(unit.who, "record")
    await store.harvest(unit.connection, harvest_id)
    await store.withdraw_harvest(unit.connection, harvest_id, why.strip())
