"""Holds of colonies, and what else keeps their combs where they are."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.store.database import Connection, many, maybe, run
from redframe.store.errors import NotFound


@dataclass(frozen=True, slots=True)
class HeldBack:
    """What keeps the combs of a colony where they are: a hold, its death, unexplained signs."""

    colony_id: UUID
    label: str
    state: str
    hold: str | None
    suspicious: list[str] | None


@dataclass(frozen=True, slots=True)
class Hold:
    """An open hold of a colony."""

    id: UUID
    colony_id: UUID
    since: date
    why: str
    by_name: str


async def held_back(connection: Connection, colony_ids: Sequence[UUID], on: date) -> list[HeldBack]:
    """What keeps the combs of these colonies where they are."""
    return await many(connection, HeldBack, "held_back", ids=list(colony_ids), on=on)


async def add_hold(connection: Connection, **fields: object) -> None:
    """Put a colony on hold."""
    await run(connection, "add_hold", **fields)


async def lift_hold(connection: Connection, colony_id: UUID, until: date, why: str) -> None:
    """End the hold of a colony. Raises NotFound where none is open."""
    if await run(connection, "lift_hold", colony_id=colony_id, until=until, why=why) == 0:
        raise NotFound("hold")


async def hold_of_colony(connection: Connection, colony_id: UUID) -> Hold | None:
    """The open hold of a colony, if any."""
    return await maybe(connection, Hold, "hold_of_colony", colony_id=colony_id)
