"""What all records share: each write is accepted once, and each amendment is kept."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from redframe.store.database import Connection, many, scalar
from redframe.store.errors import Conflict


@dataclass(frozen=True, slots=True)
class HistoryEntry:
    """One entry of a record's history."""

    seq: int
    act: str
    at: datetime
    by_name: str
    reason: str
    previous: dict[str, Any] | None
    current: dict[str, Any]


async def accept_write(connection: Connection, write_id: UUID, kind: str, digest: bytes) -> bool:
    """Accept a device's write once. False: the same write came before and is already kept.

    Raises Conflict when the id was used before for something else.
    """
    if await scalar(connection, "accept_write", id=write_id, kind=kind, digest=digest) is not None:
        return True
    before = await scalar(connection, "accepted_digest", id=write_id, kind=kind)
    if before is None or bytes(before) != digest:
        raise Conflict("this id was used before for another record", "id")
    return False


async def history_of(connection: Connection, table_name: str, record_id: UUID) -> list[HistoryEntry]:
    """The history of a record, newest first."""
    return await many(connection, HistoryEntry, "history_of", table_name=table_name, record_id=record_id)
