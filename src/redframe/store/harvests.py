"""Honey taken from colonies."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.treatments.honey import HoneyFor
from redframe.store.database import Connection, columns, json_rows, many, run, scalar
from redframe.store.errors import Conflict, NotFound


@dataclass(frozen=True, slots=True)
class NewHarvest:
    """Honey taken from a colony (`honey_kg` None: not weighed) into a batch; what was not clear or held back somebody
    named took on."""

    colony_id: UUID
    harvested_on: date
    honey_for: HoneyFor
    honey_kg: float | None
    batch: str
    note: str
    override_by: str
    override_why: str


@dataclass(frozen=True, slots=True)
class Harvest(NewHarvest):
    """A harvest on record; `withdrawn_why`: it was not so."""

    id: UUID
    withdrawn_why: str
    by_name: str


async def harvests_of_colony(connection: Connection, colony_id: UUID) -> list[Harvest]:
    """What was taken from a colony, newest first."""
    return await many(connection, Harvest, "harvests_of_colony", colony_id=colony_id)


async def add_harvests(connection: Connection, harvests: Mapping[UUID, NewHarvest]) -> None:
    """Record what was taken, under its ids."""
    if harvests:
        rows = ({**columns(one), "id": harvest_id} for harvest_id, one in harvests.items())
        await run(connection, "add_harvests", harvests=json_rows(rows))


async def withdraw_harvest(connection: Connection, harvest_id: UUID, why: str) -> None:
    """Say that it was not so; the transaction carries the reason. Raises NotFound, Conflict when it was said before."""
    if await run(connection, "withdraw_harvest", id=harvest_id, why=why) == 0:
        if await scalar(connection, "harvest_is_there", id=harvest_id) is None:
            raise NotFound("harvest")
        raise Conflict("it was withdrawn before")
