"""Photos of visits."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from redframe.store.database import Connection, columns, many, run, scalar
from redframe.store.errors import NotFound


@dataclass(frozen=True, slots=True)
class Photo:
    """A photo without its picture."""

    id: UUID
    visit_id: UUID
    box_id: UUID | None
    slot: int | None
    sign: str
    caption: str
    width: int
    height: int
    created_at: datetime
    by_name: str


@dataclass(frozen=True, slots=True)
class NewPhoto:
    """A photo of a visit with its picture and a small one, both JPEG; of a slot of a box where one is named."""

    colony_id: UUID
    visit_id: UUID
    box_id: UUID | None
    slot: int | None
    sign: str
    caption: str
    width: int
    height: int
    picture: bytes
    thumbnail: bytes


async def add_photo(connection: Connection, photo_id: UUID, photo: NewPhoto) -> None:
    """Keep a photo."""
    await run(connection, "add_photo", id=photo_id, **columns(photo))


async def photos_of_visit(connection: Connection, visit_id: UUID) -> list[Photo]:
    """The photos of a visit, without their pictures."""
    return await many(connection, Photo, "photos_of_visit", visit_id=visit_id)


async def picture(connection: Connection, photo_id: UUID, *, small: bool) -> bytes:
    """A photo's picture as JPEG. Raises NotFound."""
    found: bytes | None = await scalar(connection, "thumbnail" if small else "picture", id=photo_id)
    if found is None:
        raise NotFound("photo")
    return found
