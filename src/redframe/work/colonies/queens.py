"""The queen of a colony: another one given to it, or the current one amended."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from uuid import UUID

from redframe.core.colonies.lineage import check_requeened
from redframe.core.colonies.queens import MarkColour, QueenState, mark_colour, mark_differs
from redframe.store import colonies, queens
from redframe.store.database import columns
from redframe.store.queens import Queen
from redframe.work.colonies.changes import add_event, not_in_future, release
from redframe.work.roles import require
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class QueenView:
    """A queen with the colour that her year is marked with and a sentence when the mark seen differs."""

    queen: Queen
    mark_expected: MarkColour | None
    mark_differs: str | None


@dataclass(frozen=True, slots=True)
class QueenRecord:
    """A queen as somebody describes her."""

    year: int | None
    mark_seen: MarkColour | None
    status: QueenState
    since: date
    laying_since: date | None
    release_on: date | None


async def queens_of(unit: UnitOfWork, colony_id: UUID) -> list[QueenView]:
    """The queens of a colony, the latest first."""
    return [_view(queen) for queen in await queens.queens_of_colony(unit.connection, colony_id)]


def _view(queen: Queen) -> QueenView:
    expected = mark_colour(queen.year) if queen.year is not None else None
    return QueenView(queen, expected, mark_differs(queen.year, queen.mark_seen))


async def present_queen(unit: UnitOfWork, colony_id: UUID) -> Queen | None:
    """The queen that heads a colony, as far as is on record."""
    found = await queens.queens_of_colony(unit.connection, colony_id)
    return next((one for one in found if one.until is None and one.status != "queenless"), None)


async def insert_queen(unit: UnitOfWork, queen_id: UUID, colony_id: UUID, queen: QueenRecord) -> None:
    """Write a queen down."""
    await queens.add_queen(
        unit.connection, queen_id, colony_id, year=queen.year, mark_seen=queen.mark_seen, status=queen.status,
        since=queen.since, laying_since=queen.laying_since, release_on=queen.release_on,
    )  # fmt: skip


async def add_queen(
    unit: UnitOfWork, queen_id: UUID, colony_id: UUID, queen: QueenRecord, override_why: str = ""
) -> Sequence[QueenView]:
    """Give a colony another queen, once; the one before her ends on that day.

    Raises InvalidInput for a day in the future or on which the colony lives no more, or a year that is none; Refused
    for a colony held back.
    """
    require(unit.who, "record")
    colony = await colonies.colony_for_update(unit.connection, colony_id)
    not_in_future(unit, "since", queen.since)
    check_requeened(colony.label, colony.state, colony.state_since, queen.since)
    if queen.year is not None:
        mark_colour(queen.year)
    if await unit.accept(queen_id, "queen", {"colony": colony_id, **columns(queen)}):
        await release(unit, "requeen", [colony_id], override_why, on=queen.since)
        await queens.retire_queen(unit.connection, colony_id, queen.since)
        await insert_queen(unit, queen_id, colony_id, queen)
        if colony.state == "queenless" and queen.status != "queenless" and queen.since >= colony.state_since:
            await colonies.amend_colony(unit.connection, replace(colony, state="alive", state_since=queen.since))
            await add_event(unit, colony_id, "state", queen.since, previous=colony.state, current="alive")
    return await queens_of(unit, colony_id)


async def amend_queen(unit: UnitOfWork, colony_id: UUID, version: int, queen: QueenRecord) -> Sequence[QueenView]:
    """Amend the current queen. Raises Conflict when her record has changed since `version`."""
    require(unit.who, "record")
    await colonies.colony_for_update(unit.connection, colony_id)
    if queen.year is not None:
        mark_colour(queen.year)
    await queens.amend_queen(
        unit.connection, colony_id, version, year=queen.year, mark_seen=queen.mark_seen, status=queen.status,
        laying_since=queen.laying_since, release_on=queen.release_on,
    )  # fmt: skip
    return await queens_of(unit, colony_id)
