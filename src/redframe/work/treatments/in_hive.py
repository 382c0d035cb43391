"""The treatments of colonies as they bear on their honey."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from uuid import UUID

from redframe.core.treatments.honey import InHive
from redframe.store import treatments
from redframe.work.unit_of_work import UnitOfWork


async def in_hives_of(unit: UnitOfWork, colony_ids: Sequence[UUID]) -> Mapping[UUID, Sequence[InHive]]:
    """What was ever placed in each of these colonies, with its end and the day from which honey is clear."""
    found: dict[UUID, list[InHive]] = {one: [] for one in colony_ids}
    for one in await treatments.courses_of_colonies(unit.connection, list(found)):
        if one.placed_on is not None:
            found[one.colony_id].append(InHive(one.option, one.placed_on, one.ended_on, one.honey_clear_on))
    return found
