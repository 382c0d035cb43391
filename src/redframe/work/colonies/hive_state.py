"""A hive as it stands now."""

from __future__ import annotations

from uuid import UUID

from redframe.core.colonies.hive_state import HiveState
from redframe.store import hives
from redframe.work.unit_of_work import UnitOfWork


async def state_of_hive(unit: UnitOfWork, hive_id: UUID) -> HiveState:
    """A hive as it stands."""
    return HiveState(
        await hives.hive(unit.connection, hive_id),
        await hives.boxes_of_hive(unit.connection, hive_id),
        await hives.colonies_of_hive(unit.connection, hive_id),
    )
