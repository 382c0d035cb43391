"""Keepers and apiaries, added and amended."""

from __future__ import annotations

from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.core.names import look_of
from redframe.store import places as store
from redframe.store.database import columns
from redframe.store.places import Apiary, ApiaryDetails, Keeper, NewKeeper
from redframe.work.roles import require
from redframe.work.unit_of_work import UnitOfWork


async def add_keeper(unit: UnitOfWork, keeper_id: UUID, keeper: NewKeeper) -> list[Keeper]:
    """Add a keeper once; the list of keepers comes back."""
    require(unit.who, "keep_keepers")
    if await unit.accept(keeper_id, "keeper", columns(keeper)):
        await store.add_keeper(unit.connection, keeper_id, keeper)
    return await store.keepers(unit.connection)


async def add_apiary(unit: UnitOfWork, apiary_id: UUID, keeper_id: UUID, details: ApiaryDetails) -> Apiary:
    """Add an apiary once. Raises InvalidInput for a keeper who is not of this association."""
    require(unit.who, "keep_places")
    if keeper_id not in {keeper.id for keeper in await store.keepers(unit.connection)}:
        raise InvalidInput("keeper_id", "is not a keeper of this association", code="unknown")
    if await unit.accept(apiary_id, "apiary", {"keeper_id": keeper_id, **columns(details)}):
        await _name_is_free(unit, keeper_id, details.name, None)
        await store.add_apiary(unit.connection, apiary_id, keeper_id, details)
    return await store.apiary(unit.connection, apiary_id)


async def amend_apiary(unit: UnitOfWork, apiary_id: UUID, version: int, details: ApiaryDetails) -> Apiary:
    """Amend an apiary. Raises Conflict when it has changed since `version`."""
    require(unit.who, "keep_places")
    before = await store.apiary(unit.connection, apiary_id)
    if details.name != before.name:
        await _name_is_free(unit, before.keeper_id, details.name, apiary_id)
    await store.amend_apiary(unit.connection, apiary_id, version, details)
    return await store.apiary(unit.connection, apiary_id)


async def _name_is_free(unit: UnitOfWork, keeper_id: UUID, name: str, own: UUID | None) -> None:
    """Raise InvalidInput("name") where the keeper has an apiary of this name, or of one that looks like it."""
    for one in await store.apiary_names(unit.connection):
        if one.keeper_id == keeper_id and one.id != own and look_of(one.name) == look_of(name):
            raise InvalidInput("name", f"this keeper has {one.name} already", code="taken")
