"""The last change of a colony taken back: a hold, a queen, a label, a move, a split, a merger, boxes, a frame."""

from __future__ import annotations

from uuid import UUID

from redframe.store import colonies
from redframe.store import undo as store
from redframe.store.errors import NOT_UNDONE, Conflict
from redframe.work.roles import require
from redframe.work.status.recompute import recompute_status
from redframe.work.unit_of_work import UnitOfWork


async def undo_change(unit: UnitOfWork, colony_id: UUID, change: str) -> None:
    """Take back what the same person changed of a colony a short while ago; its history keeps it.

    Raises NotFound, and Conflict where it is another person's, too long ago, changed since, or something rests on it.
    """
    require(unit.who, "record")
    await colonies.colony(unit.connection, colony_id)
    touched = await store.undo_change(unit.connection, colony_id, change)
    if touched is None:
        raise Conflict(NOT_UNDONE)
    there = await colonies.colonies_by_id(unit.connection, touched)
    await recompute_status(unit, [one.id for one in there])
