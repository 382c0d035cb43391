"""The apiaries and colonies that are fed for the winter."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.store.database import Connection, many


@dataclass(frozen=True, slots=True)
class ToFeed:
    """A living colony; `strength` in frames of bees as they were seen last (None: never); `is_over` its level."""

    id: UUID
    apiary_id: UUID
    label: str
    strength: float | None
    is_over: bool


@dataclass(frozen=True, slots=True)
class FedApiary:
    """An apiary with living colonies; `key` puts it among others."""

    id: UUID
    name: str
    keeper: str
    key: str


async def apiaries_to_feed(connection: Connection, find: str, after: tuple[str, UUID], most: int) -> list[FedApiary]:
    """Apiaries that hold these letters in their name or their keeper's, by name, behind a key and an apiary."""
    return await many(
        connection, FedApiary, "apiaries_to_feed", find=find, after_key=after[0], after_id=after[1], most=most
    )


async def colonies_to_feed(connection: Connection, apiary_ids: Sequence[UUID], today: date) -> list[ToFeed]:
    """The living colonies of these apiaries as they stand on a day, by label."""
    return await many(connection, ToFeed, "colonies_to_feed", apiary_ids=list(apiary_ids), today=today)
