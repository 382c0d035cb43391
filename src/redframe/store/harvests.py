"""Honey taken from colonies."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.treatments.honey import HoneyFor
from redframe.store.database import Connection, columns, many, one, run
from redframe.store.errors import Conflict


@dataclass(frozen=True, slots=True)
class Harvest:
    """Honey taken from a colony (`honey_kg` None: not weighed) into a batch; where it was not clear, taken on by
    somebody named; `withdrawn_why`: it was not so."""

    id: UUID
    colony_id: UUID
    label: str
    apiary_id: UUID
    apiary: str
    harvested_on: date
    honey_for: HoneyFor
    honey_kg: float | None
    batch: str
    note: str
    override_by: str
    override_why: str
    withdrawn_why: str
    by_name: str


@dataclass(frozen=True, slots=True)
class NewHarvest:
    """Honey that is taken from a colony."""

    colony_id: UUID
    harvested_on: date
    honey_for: HoneyFor
    honey_kg: float | None
    batch: str
    note: str
    override_by: str
    override_why: str


async def harvests_of_colonies(connection: Connection, colony_ids: Sequence[UUID]) -> list[Harvest]:
    """What was taken from these colonies, newest first."""
    return await many(connection, Harvest, "harvests_of_colonies", colony_ids=list(colony_ids))


async def harvest(connection: Connection, harvest_id: UUID) -> Harvest:
    """One harvest. Raises NotFound."""
    return await one(connection, Harvest, "harvest", what="harvest", id=harvest_id)


async def add_harvest(connection: Connection, harvest_id: UUID, new: NewHarvest) -> None:
    """Record what was taken."""
    await run(connection, "add_harvest", id=harvest_id, **columns(new))


async def withdraw_harvest(connection: Connection, harvest_id: UUID, why: str) -> None:
    """Say that it was not so; the transaction carries the reason. Raises Conflict when somebody did before."""
    if await run(connection, "withdraw_harvest", id=harvest_id, why=why) == 0:
        raise Conflict("it was withdrawn before")
