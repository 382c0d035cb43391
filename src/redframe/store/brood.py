"""What stopped the laying of colonies, and since when queens lay."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal
from uuid import UUID

from redframe.core.colonies.brood_state import CellAge, StopKind, StopSource
from redframe.store.database import Connection, columns, many, one, run
from redframe.store.errors import Conflict

BroodEventKind = Literal["queen_caged", "queen_removed", "swarm_left"]


@dataclass(frozen=True, slots=True)
class BroodStop:
    """Something that stopped the laying; `event_id` where somebody said it."""

    colony_id: UUID
    kind: StopKind
    on: date
    release_on: date | None
    source: StopSource
    event_id: UUID | None


@dataclass(frozen=True, slots=True)
class LayingDay:
    """A day from which a queen of a colony lays."""

    colony_id: UUID
    on: date


@dataclass(frozen=True, slots=True)
class CellsOfColony:
    """Queen cells that a visit saw in a colony."""

    colony_id: UUID
    on: date
    age: CellAge


@dataclass(frozen=True, slots=True)
class QueenOfColony:
    """A queen that came to a colony, mated or just emerged."""

    colony_id: UUID
    on: date
    is_mated: bool


async def cells_seen(connection: Connection, colony_ids: Sequence[UUID], since: date) -> list[CellsOfColony]:
    """Queen cells that visits saw in these colonies since a day."""
    return await many(connection, CellsOfColony, "cells_seen", colony_ids=list(colony_ids), since=since)


async def queens_came(connection: Connection, colony_ids: Sequence[UUID], since: date) -> list[QueenOfColony]:
    """Queens of these colonies since a day of whom nobody has said since when they lay."""
    return await many(connection, QueenOfColony, "queens_came", colony_ids=list(colony_ids), since=since)


async def brood_stops(
    connection: Connection, colony_ids: Sequence[UUID], since: date, cages: Sequence[str], clears: Sequence[str]
) -> list[BroodStop]:
    """What stopped the laying of these colonies since a day; `cages` and `clears` are the options that do."""
    return await many(
        connection, BroodStop, "brood_stops", colony_ids=list(colony_ids), since=since, cages=list(cages),
        clears=list(clears),
    )  # fmt: skip


async def laying_days(connection: Connection, colony_ids: Sequence[UUID], since: date) -> list[LayingDay]:
    """The days since a day from which queens of these colonies lay."""
    return await many(connection, LayingDay, "laying_days", colony_ids=list(colony_ids), since=since)


@dataclass(frozen=True, slots=True)
class BroodEvent:
    """What somebody said that stopped the laying."""

    id: UUID
    colony_id: UUID
    kind: BroodEventKind
    happened_on: date
    release_on: date | None
    withdrawn_why: str
    version: int


@dataclass(frozen=True, slots=True)
class NewBroodEvent:
    """What somebody says that stopped the laying of a colony; `release_on` only of a caged queen."""

    colony_id: UUID
    kind: BroodEventKind
    happened_on: date
    release_on: date | None


async def brood_event(connection: Connection, event_id: UUID) -> BroodEvent:
    """One event. Raises NotFound."""
    return await one(connection, BroodEvent, "brood_event", what="event", id=event_id)


async def add_brood_event(connection: Connection, event_id: UUID, event: NewBroodEvent) -> None:
    """Record what stopped the laying."""
    await run(connection, "add_brood_event", id=event_id, **columns(event))


async def withdraw_brood_event(connection: Connection, event_id: UUID, why: str) -> None:
    """Say that it was not so; the transaction carries the reason. Raises Conflict when somebody did before."""
    if await run(connection, "withdraw_brood_event", id=event_id, why=why) == 0:
        raise Conflict("it was withdrawn before")
