"""The queens of a colony."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.store.database import Connection, many, run
from redframe.store.errors import Conflict


@dataclass(frozen=True, slots=True)
class Queen:
    """A queen of a colony, in office while `until` is None."""

    id: UUID
    year: int | None
    mark_seen: str | None
    status: str
    since: date
    until: date | None
    laying_since: date | None
    release_on: date | None
    version: int


async def add_queen(connection: Connection, **fields: object) -> None:
    """Put a queen in office."""
    await run(connection, "add_queen", **fields)


async def retire_queen(connection: Connection, colony_id: UUID, until: date) -> None:
    """End the office of the present queen, if there is one."""
    await run(connection, "retire_queen", colony_id=colony_id, until=until)


async def amend_queen(connection: Connection, **fields: object) -> None:
    """Amend the queen in office. Raises Conflict when she has changed since version `version`."""
    if await run(connection, "amend_queen", **fields) == 0:
        raise Conflict("the queen's record was changed by somebody else meanwhile")


async def queens_of_colony(connection: Connection, colony_id: UUID) -> list[Queen]:
    """The queens of a colony, the latest first."""
    return await many(connection, Queen, "queens_of_colony", colony_id=colony_id)
