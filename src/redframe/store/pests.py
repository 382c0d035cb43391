"""Pests: checks, traps with what was in them, and the entrance of a colony."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, Literal
from uuid import UUID

from psycopg.types.json import Jsonb

from redframe.core.pests.entrance import Device
from redframe.core.pests.pests import PestId
from redframe.store.database import Connection, many, one, run, scalar
from redframe.store.errors import Conflict

TrapKind = Literal["bar_trap", "floor_tray", "cloth", "wasp_trap"]
MOST_CHECKS, MOST_AHEAD = 200, 300


@dataclass(frozen=True, slots=True)
class NewCheck:
    """What was scored of a pest at a colony, or at combs in store (`colony_id` None); `answer`: what the score said and
    asked for there and then."""

    apiary_id: UUID
    colony_id: UUID | None
    pest: PestId
    seen_on: date
    score: int
    counted: dict[str, Any]
    answer: dict[str, Any]
    done: str
    look_from: date | None
    look_by: date | None
    disease_by: date | None
    note: str


@dataclass(frozen=True, slots=True)
class PestCheck(NewCheck):
    """A check as it is on record."""

    id: UUID
    by_name: str
    version: int


@dataclass(frozen=True, slots=True)
class PestAhead:
    """A pest that is to be looked at again, and where; `label` is empty for combs in store."""

    id: UUID
    pest: PestId
    seen_on: date
    score: int
    look_from: date
    look_by: date
    disease_by: date | None
    done: str
    apiary_id: UUID
    apiary: str
    keeper: str
    colony_id: UUID | None
    label: str


@dataclass(frozen=True, slots=True)
class Trap:
    """Traps of a kind that stand in a hive."""

    id: UUID
    colony_id: UUID
    kind: TrapKind
    place: str
    number: int
    placed_on: date
    removed_on: date | None
    version: int


@dataclass(frozen=True, slots=True)
class TrapReading:
    """What was in traps when they were emptied, after so many days."""

    trap_id: UUID
    emptied_on: date
    caught: int
    days: float
    by_name: str


@dataclass(frozen=True, slots=True)
class Entrance:
    """An entrance from a day on."""

    since: date
    width_mm: int | None
    device: Device
    mesh_shut: bool
    why: str
    by_name: str


async def add_check(connection: Connection, id: UUID, new: NewCheck) -> None:
    """Record a check."""
    await run(
        connection, "add_pest_check", id=id, apiary_id=new.apiary_id, colony_id=new.colony_id, pest=new.pest,
        seen_on=new.seen_on, score=new.score, counted=Jsonb(new.counted),
        answer=Jsonb(new.answer), done=new.done, look_from=new.look_from,
        look_by=new.look_by, disease_by=new.disease_by, note=new.note,
    )  # fmt: skip


async def check(connection: Connection, id: UUID) -> PestCheck:
    """A check. Raises NotFound."""
    return await one(connection, PestCheck, "pest_check_by_id", what="check", id=id)


async def withdraw_check(connection: Connection, id: UUID, why: str) -> None:
    """Say that a check was not so. Raises Conflict where that was said before."""
    if await run(connection, "withdraw_pest_check", id=id, why=why) != 1:
        raise Conflict("it was withdrawn before")


async def checks_of_colony(connection: Connection, colony_id: UUID) -> list[PestCheck]:
    """The checks of a colony, newest first."""
    return await many(connection, PestCheck, "pest_checks_of_colony", colony_id=colony_id, most=MOST_CHECKS)


async def checks_in_store(connection: Connection, apiary_id: UUID) -> list[PestCheck]:
    """The checks of combs in store at an apiary, newest first."""
    return await many(connection, PestCheck, "pest_checks_in_store", apiary_id=apiary_id, most=MOST_CHECKS)


async def ahead(connection: Connection) -> list[PestAhead]:
    """Pests that are to be looked at again, the most pressing first."""
    return await many(connection, PestAhead, "pests_ahead", most=MOST_AHEAD)


async def add_trap(
    connection: Connection, id: UUID, colony_id: UUID, kind: TrapKind, place: str, number: int, placed_on: date
) -> None:
    """Record traps that were set."""
    await run(
        connection, "add_trap", id=id, colony_id=colony_id, kind=kind, place=place, number=number, placed_on=placed_on
    )  # fmt: skip


async def trap(connection: Connection, id: UUID) -> Trap:
    """Traps. Raises NotFound."""
    return await one(connection, Trap, "trap_by_id", what="trap", id=id)


async def remove_trap(connection: Connection, id: UUID, on: date) -> None:
    """Say that traps were taken out. Raises Conflict where they were before, or were not yet there."""
    if await run(connection, "remove_trap", id=id, on=on) != 1:
        raise Conflict("it was taken out before, or was not set yet", "on")


async def traps_of_colony(connection: Connection, colony_id: UUID) -> list[Trap]:
    """The traps of a colony, those that stand first."""
    return await many(connection, Trap, "traps_of_colony", colony_id=colony_id)


async def add_reading(
    connection: Connection, id: UUID, of: Trap, emptied_on: date, caught: int, days: float
) -> None:  # fmt: skip
    """Record what was in traps."""
    await run(
        connection, "add_trap_reading", id=id, colony_id=of.colony_id, trap_id=of.id, emptied_on=emptied_on,
        caught=caught, days=days,
    )  # fmt: skip


async def readings(connection: Connection, traps: Sequence[UUID]) -> list[TrapReading]:
    """What was in these traps, in order of time."""
    return await many(connection, TrapReading, "trap_readings", traps=list(traps))


async def add_entrance(
    connection: Connection, id: UUID, colony_id: UUID, since: date, width_mm: int | None, device: Device,
    mesh_shut: bool, why: str,
) -> None:  # fmt: skip
    """Record how an entrance stands from a day on."""
    await run(
        connection, "add_entrance", id=id, colony_id=colony_id, since=since, width_mm=width_mm, device=device,
        mesh_shut=mesh_shut, why=why,
    )  # fmt: skip


async def entrances_of_colony(connection: Connection, colony_id: UUID) -> list[Entrance]:
    """How the entrance of a colony stood, the latest first."""
    return await many(connection, Entrance, "entrances_of_colony", colony_id=colony_id)


async def frames_of_bees(connection: Connection, colony_id: UUID, on: date) -> float | None:
    """The frames of bees last seen within two months before a day."""
    found: float | None = await scalar(connection, "frames_of_bees_seen", colony_id=colony_id, on=on)
    return found
