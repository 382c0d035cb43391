"""The queens of a colony."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.colonies.queens import MarkColour, QueenState
from redframe.store.database import Connection, many, run
from redframe.store.errors import Conflict


@dataclass(frozen=True, slots=True)
class Queen:
    """A queen of a colony, present while `until` is None."""

    id: UUID
    year: int | None
    mark_seen: MarkColour | None
    status: QueenState
    since: date
    until: date | None
    laying_since: date | None
    release_on: date | None
    version: int


async def add_queen(
    connection: Connection, queen_id: UUID, colony_id: UUID, *, year: int | None, mark_seen: MarkColour | None,
    status: QueenState, since: date, laying_since: date | None, release_on: date | None,
) -> None:  # fmt: skip
    """Give a colony a queen."""
    await run(
        connection, "add_queen", id=queen_id, colony_id=colony_id, year=year, mark_seen=mark_seen, status=status,
        since=since, laying_since=laying_since, release_on=release_on,
    )  # fmt: skip


async def retire_queen(connection: Connection, colony_id: UUID, until: date) -> None:
    """End the record of the current queen, if there is one."""
    await run(connection, "retire_queen", colony_id=colony_id, until=until)


async def amend_queen(
    connection: Connection, colony_id: UUID, version: int, *, year: int | None, mark_seen: MarkColour | None,
    status: QueenState, laying_since: date | None, release_on: date | None,
) -> None:  # fmt: skip
    """Amend the current queen. Raises Conflict when she has changed since version `version`."""
    changed = await run(
        connection, "amend_queen", colony_id=colony_id, version=version, year=year, mark_seen=mark_seen, status=status,
        laying_since=laying_since, release_on=release_on,
    )  # fmt: skip
    if changed == 0:
        raise Conflict("the queen's record was changed by somebody else meanwhile")


async def queens_of_colony(connection: Connection, colony_id: UUID) -> list[Queen]:
    """The queens of a colony, the latest first."""
    return await many(connection, Queen, "queens_of_colony", colony_id=colony_id)
