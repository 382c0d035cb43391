"""Photos of a visit: of the visit as a whole, of a frame, or of a sign on it."""

from __future__ import annotations

import hashlib
from uuid import UUID

from redframe.core.disease.signs import signs
from redframe.core.errors import InvalidInput
from redframe.store import photos
from redframe.store import visits as store
from redframe.store.errors import Conflict
from redframe.store.photos import Photo
from redframe.store.visits import VisitRecord
from redframe.work.roles import require
from redframe.work.unit_of_work import UnitOfWork

MOST_PHOTOS = 60


async def may_add(unit: UnitOfWork, visit_id: UUID) -> VisitRecord:
    """The visit that a photo is of, asked for before the photo is read. Raises NotFound, Conflict for a dropped one."""
    require(unit.who, "record")
    visit = await store.visit(unit.connection, visit_id)
    if visit.state == "dropped":
        raise Conflict("this draft was dropped")
    return visit


async def add_photo(
    unit: UnitOfWork,
    visit_id: UUID,
    photo_id: UUID,
    *,
    picture: bytes,
    thumbnail: bytes,
    width: int,
    height: int,
    box_id: UUID | None,
    slot: int | None,
    sign: str,
    caption: str,
) -> list[Photo]:
    """Keep a photo of a visit once; the photos of the visit.

    Raises InvalidInput for an unknown sign or a slot without its box, Conflict for a dropped visit.
    """
    visit = await may_add(unit, visit_id)
    if sign and sign not in signs():
        raise InvalidInput("sign", f"{sign} is not a sign", code="unknown")
    if (box_id is None) != (slot is None):
        raise InvalidInput("slot", "name the box and the slot, or neither", code="missing")
    content = {
        "visit": visit_id, "picture": hashlib.sha256(picture).hexdigest(), "box": box_id, "slot": slot, "sign": sign,
        "caption": caption,
    }  # fmt: skip
    if await unit.accept(photo_id, "photo", content):
        if len(await photos.photos_of_visit(unit.connection, visit_id)) >= MOST_PHOTOS:
            raise InvalidInput("photo", f"a visit keeps {MOST_PHOTOS} photos", code="out_of_range")
        photo = photos.NewPhoto(
            colony_id=visit.colony_id, visit_id=visit_id, box_id=box_id, slot=slot, sign=sign, caption=caption,
            width=width, height=height, picture=picture, thumbnail=thumbnail,
        )  # fmt: skip
        await photos.add_photo(unit.connection, photo_id, photo)
    return await photos.photos_of_visit(unit.connection, visit_id)


async def picture_of(unit: UnitOfWork, photo_id: UUID, *, small: bool) -> bytes:
    """A photo's picture as JPEG. Raises NotFound."""
    return await photos.picture(unit.connection, photo_id, small=small)
