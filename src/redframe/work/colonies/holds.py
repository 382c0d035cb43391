"""Holds on colonies, put on and lifted."""

from __future__ import annotations

from datetime import date
from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.store import colonies, holds
from redframe.work.roles import require
from redframe.work.unit_of_work import Work


async def hold(work: Work, colony_id: UUID, hold_id: UUID, since: date, why: str) -> None:
    """Put a colony on hold: no comb leaves it. Accepted once."""
    require(work.who, "record")
    await colonies.colony(work.connection, colony_id)
    if since > work.today:
        raise InvalidInput("since", "lies in the future", code="out_of_range")
    if await work.accept(hold_id, "hold", {"colony": colony_id, "since": since, "why": why}):
        if await holds.hold_of_colony(work.connection, colony_id) is not None:
            raise InvalidInput("since", "it is on hold already", code="taken")
        await holds.add_hold(work.connection, id=hold_id, colony_id=colony_id, since=since, why=why)


async def lift(work: Work, colony_id: UUID, why: str) -> None:
    """Lift the hold of a colony."""
    require(work.who, "release_combs")
    await holds.lift_hold(work.connection, colony_id, work.today, why)
