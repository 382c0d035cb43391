"""Handlings of brood disease, what later visits recorded of them, where the combs hang that they follow."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, Literal
from uuid import UUID

from redframe.core.handling.options import HandledCondition, HandlingId
from redframe.core.handling.outcome import Outcome
from redframe.store.database import Connection, columns, many, one, run
from redframe.store.errors import Conflict, NotFound

HandlingState = Literal["open", "ended", "withdrawn"]


@dataclass(frozen=True, slots=True)
class NewHandling:
    """A way of handling a condition that is chosen for a colony at a visit: why, when to look again, the sick cells and
    combs with a sign as it begins, the combs that are followed."""

    colony_id: UUID
    visit_id: UUID
    condition: HandledCondition
    option: HandlingId
    reason: str
    chosen_on: date
    recheck_from: date
    recheck_to: date
    cells: float
    combs_with_sign: int
    combs: list[UUID]


@dataclass(frozen=True, slots=True)
class Handling(NewHandling):
    """A handling on record; `outcome` is that of its end, by the look of `looked_on`."""

    id: UUID
    state: HandlingState
    ended_on: date | None
    outcome: Outcome | None
    looked_on: date | None
    ended_why: str
    version: int
    by_name: str


@dataclass(frozen=True, slots=True)
class LookRow:
    """What a later visit recorded of one comb, or that it recorded none (`is_comb` False)."""

    handling_id: UUID
    visit_id: UUID
    visited_on: date
    frame_id: UUID | None
    signs: list[Mapping[str, Any]]
    is_comb: bool
    combs_read: int | None
    brood_combs: int | None


@dataclass(frozen=True, slots=True)
class CombFollowed:
    """A comb that is followed, where it hangs now (`away`: in store), and its signs as it began."""

    handling_id: UUID
    frame_id: UUID
    colony_id: UUID | None
    label: str | None
    slot: int | None
    away: str | None
    signs: list[Mapping[str, Any]]


@dataclass(frozen=True, slots=True)
class AboutHandling:
    """What else bears on a choice: an earlier season with the signs, a strong colony near then."""

    had_before: bool
    strong_neighbour: bool


async def add_handling(connection: Connection, handling_id: UUID, new: NewHandling) -> None:
    """Record a choice."""
    await run(connection, "add_handling", **{**columns(new), "id": handling_id})


async def handlings_of_colony(connection: Connection, colony_id: UUID) -> list[Handling]:
    """The handlings of a colony, newest first."""
    return await many(connection, Handling, "handlings", colony_id=colony_id, handling_id=None)


async def handling(connection: Connection, handling_id: UUID) -> Handling:
    """One handling. Raises NotFound."""
    found = await many(connection, Handling, "handlings", colony_id=None, handling_id=handling_id)
    if not found:
        raise NotFound("handling")
    return found[0]


async def handlings_of_region(connection: Connection) -> list[Handling]:
    """What the association chose, but for what was withdrawn, newest first."""
    return await many(connection, Handling, "handlings_of_region")


async def end_handling(
    connection: Connection, handling_id: UUID, version: int, *, state: HandlingState, ended_on: date,
    outcome: Outcome | None, looked_on: date | None, why: str,
) -> None:  # fmt: skip
    """End a handling; the transaction carries the reason. Raises Conflict when it was ended or changed meanwhile."""
    touched = await run(
        connection, "end_handling", id=handling_id, version=version, state=state, ended_on=ended_on, outcome=outcome,
        looked_on=looked_on, why=why,
    )  # fmt: skip
    if touched == 0:
        raise Conflict("it was ended or changed by somebody else meanwhile")


async def looks(connection: Connection, handling_ids: Sequence[UUID]) -> list[LookRow]:
    """What later visits recorded, oldest first."""
    return await many(connection, LookRow, "looks_of_handlings", ids=list(handling_ids))


async def combs_followed(connection: Connection, handling_ids: Sequence[UUID]) -> list[CombFollowed]:
    """The combs that are followed."""
    return await many(connection, CombFollowed, "combs_followed", ids=list(handling_ids))


async def about(
    connection: Connection, colony_id: UUID, apiary_id: UUID, on: date, signs: Sequence[str], frames: float
) -> AboutHandling:
    """What else bears on a choice at a visit of a day."""
    return await one(
        connection, AboutHandling, "about_handling", colony_id=colony_id, apiary_id=apiary_id, on=on, signs=list(signs),
        frames=frames,
    )  # fmt: skip
