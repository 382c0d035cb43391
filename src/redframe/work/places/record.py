"""Keepers and apiaries, added and amended."""

from __future__ import annotations

from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.store import places as store
from redframe.store.places import Apiary, Keeper
from redframe.work.roles import require
from redframe.work.unit_of_work import Work


async def add_keeper(work: Work, keeper_id: UUID, *, name: str, phone: str, registration: str) -> list[Keeper]:
    """Add a keeper once; the list of keepers comes back."""
    require(work.who, "keep_keepers")
    fields = {"name": name, "phone": phone, "registration": registration}
    if await work.accept(keeper_id, "keeper", fields):
        await store.add_keeper(work.connection, id=keeper_id, **fields)
    return await store.keepers(work.connection)


async def add_apiary(work: Work, apiary_id: UUID, **fields: object) -> Apiary:
    """Add an apiary once. Raises InvalidInput for a keeper who is not of this association."""
    require(work.who, "keep_places")
    if fields["keeper_id"] not in {keeper.id for keeper in await store.keepers(work.connection)}:
        raise InvalidInput("keeper_id", "is not a keeper of this association", code="unknown")
    if await work.accept(apiary_id, "apiary", dict(fields)):
        await store.add_apiary(work.connection, id=apiary_id, **fields)
    return await store.apiary(work.connection, apiary_id)


async def amend_apiary(work: Work, apiary_id: UUID, version: int, **fields: object) -> Apiary:
    """Amend an apiary. Raises Conflict when it has changed since `version`."""
    require(work.who, "keep_places")
    await store.apiary(work.connection, apiary_id)
    await store.amend_apiary(work.connection, id=apiary_id, version=version, **fields)
    return await store.apiary(work.connection, apiary_id)
