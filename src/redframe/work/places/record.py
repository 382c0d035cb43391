"""Keepers and apiaries, added and amended."""

from __future__ import annotations

from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.store import places as store
from redframe.store.places import Apiary, Keeper
from redframe.work.roles import require
from redframe.work.unit_of_work import UnitOfWork


async def add_keeper(unit: UnitOfWork, keeper_id: UUID, *, name: str, phone: str, registration: str) -> list[Keeper]:
    """Add a keeper once; the list of keepers comes back."""
    require(unit.who, "keep_keepers")
    fields = {"name": name, "phone": phone, "registration": registration}
    if await unit.accept(keeper_id, "keeper", fields):
        await store.add_keeper(unit.connection, id=keeper_id, **fields)
    return await store.keepers(unit.connection)


async def add_apiary(unit: UnitOfWork, apiary_id: UUID, **fields: object) -> Apiary:
    """Add an apiary once. Raises InvalidInput for a keeper who is not of this association."""
    require(unit.who, "keep_places")
    if fields["keeper_id"] not in {keeper.id for keeper in await store.keepers(unit.connection)}:
        raise InvalidInput("keeper_id", "is not a keeper of this association", code="unknown")
    if await unit.accept(apiary_id, "apiary", dict(fields)):
        await store.add_apiary(unit.connection, id=apiary_id, **fields)
    return await store.apiary(unit.connection, apiary_id)


async def amend_apiary(unit: UnitOfWork, apiary_id: UUID, version: int, **fields: object) -> Apiary:
    """Amend an apiary. Raises Conflict when it has changed since `version`."""
    require(unit.who, "keep_places")
    await store.apiary(unit.connection, apiary_id)
    await store.amend_apiary(unit.connection, id=apiary_id, version=version, **fields)
    return await store.apiary(unit.connection, apiary_id)
