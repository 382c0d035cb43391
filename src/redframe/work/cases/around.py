"""The apiaries around a case, in the order in which they are to be inspected."""

from __future__ import annotations

from dataclasses import dataclass
from uuid import UUID

from redframe.core.cases.law import law_packs
from redframe.store import cases as store
from redframe.store.cases import ApiaryAround
from redframe.store.errors import NotAllowed
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class Around:
    """Apiaries within the inner and the outer radius, in kilometres, the nearest first."""

    inner_km: float
    outer_km: float
    apiaries: list[ApiaryAround]


async def around_case(unit: UnitOfWork, case_id: UUID) -> Around:
    """The apiaries around a case. Raises NotFound, NotAllowed for a role to which places are coarse."""
    if unit.who.role not in ("inspector", "administrator"):
        raise NotAllowed("exact places around a case are the inspector's")
    row = await store.case(unit.connection, case_id)
    law = law_packs()[row.law].diseases[row.disease]
    found = await store.apiaries_around(unit.connection, row.apiary_id, law.outer_km)
    return Around(law.inner_km, law.outer_km, found)
