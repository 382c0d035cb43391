"""Photos of the steps of an examination."""

from __future__ import annotations

import hashlib
from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.store import deadouts as store
from redframe.store.deadouts import DeadOut, DeadOutPhoto, StepPicture
from redframe.store.errors import Conflict
from redframe.work.roles import require
from redframe.work.unit_of_work import UnitOfWork

MOST_PHOTOS = 60


async def may_add(unit: UnitOfWork, deadout_id: UUID) -> DeadOut:
    """Asked before a photo is read. Raises NotFound, Conflict for a dropped examination."""
    require(unit.who, "record")
    found = await store.deadout(unit.connection, deadout_id)
    if found.state == "dropped":
        raise Conflict("this draft was dropped")
    return found


async def add_photo(unit: UnitOfWork, deadout_id: UUID, photo_id: UUID, photo: StepPicture) -> list[DeadOutPhoto]:
    """Keep a photo of a step once; all photos. Raises InvalidInput where it keeps as many as it may."""
    found = await may_add(unit, deadout_id)
    content = {
        "deadout": str(deadout_id), "step": photo.step, "caption": photo.caption,
        "picture": hashlib.sha256(photo.picture).hexdigest(),
    }  # fmt: skip
    if await unit.accept(photo_id, "deadout_photo", content):
        if len(await store.photos(unit.connection, deadout_id)) >= MOST_PHOTOS:
            raise InvalidInput("photo", f"an examination keeps {MOST_PHOTOS} photos", code="out_of_range")
        await store.add_photo(unit.connection, photo_id, deadout_id, found.colony_id, photo)
    return await store.photos(unit.connection, deadout_id)


async def picture_of(unit: UnitOfWork, photo_id: UUID, *, small: bool) -> bytes:
    """A photo's picture as JPEG. Raises NotFound."""
    return await store.picture(unit.connection, photo_id, small=small)
