"""What all records share: each write is accepted once, and each amendment is kept."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from redframe.store.database import Connection, many, scalars
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


@dataclass(frozen=True, slots=True)
class _Accepted:
    id: UUID
    digest: bytes


async def accept_writes(connection: Connection, kind: str, digests: Mapping[UUID, bytes]) -> set[UUID]:
    """Accept a device's writes once; return the ids of those that are new. The others came before and are already kept.

    Raises Conflict when an id was used before for something else.
    """
    ids, sums = list(digests), list(digests.values())
    new = set(await scalars(connection, "accept_writes", kind=kind, ids=ids, digests=sums))
    old = [one for one in ids if one not in new]
    if old:
        kept = await many(connection, _Accepted, "accepted_digests", kind=kind, ids=old)
        same = {one.id for one in kept if bytes(one.digest) == digests[one.id]}
        if len(same) < len(old):
            raise Conflict("this id was used before for another record", "id")
    return new


async def history_of(connection: Connection, table_name: str, record_id: UUID) -> list[HistoryEntry]:
    """The history of a record, newest first."""
    return await many(connection, HistoryEntry, "history_of", table_name=table_name, record_id=record_id)
