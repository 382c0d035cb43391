"""Photos that a case shows for its record."""

from __future__ import annotations

import hashlib
from uuid import UUID

from redframe.core.errors import InvalidInput, Refused
from redframe.store import case_photos, cases
from redframe.store.case_photos import CasePhoto, CasePicture
from redframe.work.roles import require
from redframe.work.unit_of_work import UnitOfWork

MOST_PHOTOS = 60


async def may_add(unit: UnitOfWork, case_id: UUID) -> None:
    """Asked before a photo of a case is read. Raises NotFound, Refused for a closed case."""
    require(unit.who, "record")
    row = await cases.case(unit.connection, case_id)
    if row.state == "closed":
        raise Refused("case_order", "this case is closed", field="photo")


async def add_photo(
    unit: UnitOfWork, case_id: UUID, photo_id: UUID, picture: CasePicture, caption: str
) -> list[CasePhoto]:
    """Keep a photo of a case once; its photos. Raises InvalidInput where it keeps as many as it may."""
    await may_add(unit, case_id)
    content = {
        "case": str(case_id), "picture": hashlib.sha256(picture.picture).hexdigest(), "caption": caption
    }  # fmt: skip
    if await unit.accept(photo_id, "case_photo", content):
        if len(await case_photos.photos_of_case(unit.connection, case_id)) >= MOST_PHOTOS:
            raise InvalidInput("photo", f"a case keeps {MOST_PHOTOS} photos", code="out_of_range")
        await case_photos.add_case_photo(unit.connection, photo_id, case_id, caption, picture)
    return await case_photos.photos_of_case(unit.connection, case_id)


async def picture_of(unit: UnitOfWork, photo_id: UUID, *, small: bool) -> bytes:
    """A photo's picture as JPEG. Raises NotFound."""
    return await case_photos.case_picture(unit.connection, photo_id, small=small)
