"""The treatments of a colony as they bear on its honey."""

from __future__ import annotations

from uuid import UUID

from redframe.core.treatments.honey import InHive
from redframe.store import treatments
from redframe.work.unit_of_work import UnitOfWork


async def in_hive_of(unit: UnitOfWork, colony_id: UUID) -> list[InHive]:
    """What was ever placed in a colony, with its end and the day from which honey is clear."""
    courses = await treatments.courses_of_colonies(unit.connection, [colony_id])
    return [
        InHive(one.option, one.placed_on, one.ended_on, one.honey_clear_on)
        for one in courses
        if one.placed_on is not None
    ]
