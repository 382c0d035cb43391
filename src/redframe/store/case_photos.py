"""Photos of suspect cases."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from redframe.store.database import Connection, many, run, scalar
from redframe.store.errors import NotFound


@dataclass(frozen=True, slots=True)
class CasePhoto:
    """A photo of a case without its picture."""

    id: UUID
    caption: str
    width: int
    height: int
    created_at: datetime
    by_name: str


@dataclass(frozen=True, slots=True)
class CasePicture:
    """A picture and a small one, both JPEG, and the size of the first in pixels."""

    picture: bytes
    thumbnail: bytes
    width: int
    height: int


async def add_case_photo(
    connection: Connection, photo_id: UUID, case_id: UUID, caption: str, picture: CasePicture
) -> None:
    """Keep a photo."""
    await run(
        connection, "add_case_photo", id=photo_id, case_id=case_id, caption=caption, width=picture.width,
        height=picture.height, picture=picture.picture, thumbnail=picture.thumbnail,
    )  # fmt: skip


async def photos_of_case(connection: Connection, case_id: UUID) -> list[CasePhoto]:
    """The photos of a case, the first first."""
    return await many(connection, CasePhoto, "photos_of_case", case_id=case_id)


async def case_picture(connection: Connection, photo_id: UUID, *, small: bool) -> bytes:
    """A photo's picture as JPEG. Raises NotFound."""
    found: bytes | None = await scalar(connection, "case_photo_small" if small else "case_photo_whole", id=photo_id)
    if found is None:
        raise NotFound("photo")
    return found
