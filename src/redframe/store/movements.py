"""Movements as they were seen or told, and where colonies, combs and queens have been."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from typing import Any
from uuid import UUID

from redframe.core.colonies.queens import MarkColour, QueenState
from redframe.core.tracing.elsewhere import OutsideMovement
from redframe.core.tracing.movements import Certainty, MovementKind
from redframe.store.database import Connection, columns, many, one, run, scalar
from redframe.store.errors import Conflict, NotFound

MOST_LINES = 300


@dataclass(frozen=True, slots=True)
class ContactLine:
    """Something that came to a colony or went from it: each end by its label and apiary of that day, a place elsewhere
    in words, or a comb in store; `is_by_hand`: recorded by hand at this colony, and may be withdrawn."""

    id: str
    earliest: date
    latest: date
    from_colony: UUID | None
    to_colony: UUID | None
    from_label: str | None
    to_label: str | None
    from_apiary: str | None
    to_apiary: str | None
    kind: MovementKind
    certainty: Certainty
    is_disinfected: bool
    elsewhere: str
    frame_id: UUID | None
    note: str
    is_by_hand: bool


@dataclass(frozen=True, slots=True)
class StayLine:
    """Where a colony stood from a day to a day (None: it is there), under which label."""

    apiary_id: UUID
    apiary: str
    since: date
    until: date | None
    label: str


@dataclass(frozen=True, slots=True)
class CombRow:
    """A comb and where it is: in a colony's hive, or away (in store, in the freezer, gone)."""

    id: UUID
    kind: str
    frame_format: str
    comb_year: int | None
    away: str | None
    apiary: str
    slot: int | None
    colony_id: UUID | None
    label: str | None


@dataclass(frozen=True, slots=True)
class CombMove:
    """A move of a comb, each end by the label and the apiary of that day."""

    id: UUID
    moved_on: date
    from_colony: UUID | None
    to_colony: UUID | None
    from_label: str | None
    to_label: str | None
    from_apiary: str | None
    to_apiary: str | None
    from_away: str | None
    to_away: str | None
    from_slot: int | None
    to_slot: int | None
    note: str
    by_name: str


@dataclass(frozen=True, slots=True)
class CombSeen:
    """What was recorded of a comb at a visit."""

    visit_id: UUID
    visited_on: date
    colony_id: UUID
    label: str
    record: Mapping[str, Any]


@dataclass(frozen=True, slots=True)
class QueenRow:
    """A queen in her colony."""

    id: UUID
    colony_id: UUID
    label: str
    year: int | None
    mark_seen: MarkColour | None
    status: QueenState
    since: date
    until: date | None


async def add_movement(connection: Connection, movement_id: UUID, moved: OutsideMovement, node: str) -> None:
    """Record what came or went."""
    await run(connection, "add_movement", **{**columns(moved), "id": movement_id, "node": node})


async def withdraw_movement(connection: Connection, movement_id: UUID, why: str) -> None:
    """Say that it was not so; the transaction carries the reason. Raises NotFound, Conflict when it was said before."""
    if await run(connection, "withdraw_movement", id=movement_id, why=why) == 0:
        if await scalar(connection, "movement_is_there", id=movement_id) is None:
            raise NotFound("movement")
        raise Conflict("it was withdrawn before")


async def contacts_of_colony(connection: Connection, colony_id: UUID) -> list[ContactLine]:
    """What came to a colony and went from it, latest first."""
    return await many(connection, ContactLine, "contacts_of_colony", colony_id=colony_id, most=MOST_LINES)


async def stays_of_colony(connection: Connection, colony_id: UUID, today: date) -> list[StayLine]:
    """Where a colony stood, the latest first."""
    return await many(connection, StayLine, "stays_of_colony", colony_id=colony_id, today=today)


async def comb(connection: Connection, frame_id: UUID) -> CombRow:
    """A comb and where it is. Raises NotFound."""
    return await one(connection, CombRow, "comb_of", what="comb", frame_id=frame_id)


async def moves_of_comb(connection: Connection, frame_id: UUID) -> list[CombMove]:
    """The moves of a comb, the latest first."""
    return await many(connection, CombMove, "moves_of_comb", frame_id=frame_id, most=MOST_LINES)


async def seen_on_comb(connection: Connection, frame_id: UUID) -> list[CombSeen]:
    """What was recorded of a comb, the latest first."""
    return await many(connection, CombSeen, "seen_on_comb", frame_id=frame_id, most=MOST_LINES)


async def queen(connection: Connection, queen_id: UUID) -> QueenRow:
    """A queen. Raises NotFound."""
    return await one(connection, QueenRow, "queen_of", what="queen", queen_id=queen_id)
