"""Holds on colonies, put on and lifted."""

from __future__ import annotations

from datetime import date
from uuid import UUID

from redframe.core.colonies.holds import HoldKind
from redframe.core.errors import InvalidInput
from redframe.store import colonies, holds
from redframe.work.colonies.changes import not_in_future
from redframe.work.roles import require
from redframe.work.unit_of_work import UnitOfWork


async def hold_colony(
    unit: UnitOfWork, colony_id: UUID, hold_id: UUID, *, kind: HoldKind, since: date, why: str
) -> None:
    """Put a colony on hold, once: what the table of core/colonies/holds.py stops is refused from now on."""
    require(unit.who, "record")
    await colonies.colony_for_update(unit.connection, colony_id)
    not_in_future(unit, "since", since)
    if await unit.accept(hold_id, "hold", {"colony": colony_id, "kind": kind, "since": since, "why": why}):
        if await holds.hold_of_colony(unit.connection, colony_id) is not None:
            raise InvalidInput("since", "it is on hold already", code="taken")
        await holds.add_hold(unit.connection, id=hold_id, colony_id=colony_id, kind=kind, since=since, why=why)


async def lift_hold(unit: UnitOfWork, colony_id: UUID, why: str) -> None:
    """Lift the hold of a colony. Raises NotFound where none is open."""
    require(unit.who, "release_combs")
    await holds.lift_hold(unit.connection, colony_id, unit.today, why)
