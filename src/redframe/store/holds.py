"""Holds of colonies, and what else keeps their combs where they are."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.colonies.holds import HeldBack, HoldKind, Standstill
from redframe.store.database import Connection, many, maybe, run
from redframe.store.errors import NotFound


@dataclass(frozen=True, slots=True)
class Hold:
    """An open hold of a colony."""

    id: UUID
    colony_id: UUID
    kind: HoldKind
    since: date
    why: str
    by_name: str


@dataclass(frozen=True, slots=True)
class StandstillHere:
    """A standstill that an apiary lies under, with its case."""

    apiary_id: UUID
    apiary: str
    kind: Standstill
    number: str
    case_id: UUID


@dataclass(frozen=True, slots=True)
class _Id:
    id: UUID


async def held_back(connection: Connection, colony_ids: Sequence[UUID], on: date) -> list[HeldBack]:
    """What keeps these colonies back on a day."""
    return await many(connection, HeldBack, "held_back", ids=list(colony_ids), on=on)


async def standstills(connection: Connection, apiary_ids: Sequence[UUID], on: date) -> list[StandstillHere]:
    """The standstills that these apiaries lie under on a day, the official ones first."""
    return await many(connection, StandstillHere, "standstills_of_apiaries", ids=list(apiary_ids), on=on)


async def colonies_held_in_hive(connection: Connection, hive_id: UUID) -> list[UUID]:
    """Colonies whose state bears on putting another into their hive: those that live there, and those that were lost
    there unless a colony was put in after them against a hold."""
    return [one.id for one in await many(connection, _Id, "colonies_held_in_hive", hive_id=hive_id)]


async def add_hold(connection: Connection, *, id: UUID, colony_id: UUID, kind: HoldKind, since: date, why: str) -> None:
    """Put a colony on hold."""
    await run(connection, "add_hold", id=id, colony_id=colony_id, kind=kind, since=since, why=why)


async def lift_hold(connection: Connection, colony_id: UUID, until: date, why: str) -> None:
    """End the hold of a colony. Raises NotFound where none is open."""
    if await run(connection, "lift_hold", colony_id=colony_id, until=until, why=why) == 0:
        raise NotFound("hold")


async def hold_of_colony(connection: Connection, colony_id: UUID) -> Hold | None:
    """The open hold of a colony, if any."""
    return await maybe(connection, Hold, "hold_of_colony", colony_id=colony_id)


async def hold_on_day(connection: Connection, colony_id: UUID, day: date) -> Hold | None:
    """The hold of a colony that was in force on a day, if any."""
    return await maybe(connection, Hold, "hold_on_day", colony_id=colony_id, day=day)
