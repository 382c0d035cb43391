"""What came or went and no other act says, recorded once; what was not so is withdrawn."""

from __future__ import annotations

from uuid import UUID

from redframe.core.tracing.elsewhere import OutsideMovement, check_movement, node_elsewhere
from redframe.store import colonies, holds
from redframe.store import movements as store
from redframe.work.colonies.changes import note_movement
from redframe.work.roles import require
from redframe.work.to_json import to_json
from redframe.work.unit_of_work import UnitOfWork


async def record_movement(unit: UnitOfWork, movement_id: UUID, moved: OutsideMovement) -> None:
    """Record what came to a colony or went from it, once. What did so under a standstill is noted in its case: it is a
    record of what was, no permission.

    Raises InvalidInput naming the field, NotFound for a colony that the person does not see.
    """
    require(unit.who, "record")
    check_movement(moved, unit.today)
    await colonies.colony(unit.connection, moved.colony_id)
    if moved.other_colony_id is not None:
        await colonies.colony(unit.connection, moved.other_colony_id)
    if not await unit.accept(movement_id, "movement", to_json(moved)):
        return
    await store.add_movement(unit.connection, movement_id, moved, node_elsewhere(moved.elsewhere, movement_id))
    ends = [moved.colony_id, *([moved.other_colony_id] if moved.other_colony_id is not None else [])]
    await note_movement(unit, await holds.held_back(unit.connection, ends, moved.latest), moved.kind, moved.note)


async def withdraw_movement(unit: UnitOfWork, movement_id: UUID, why: str) -> None:
    """Say that it was not so. Raises NotFound, Conflict when it was said before."""
    require(unit.who, "record")
    await store.withdraw_movement(unit.connection, movement_id, why)
