"""How firm is what is likeliest at a visit."""

from __future__ import annotations

import asyncio
from dataclasses import dataclass
from uuid import UUID

from redframe.core.disease.conditions import conditions
from redframe.core.disease.firmness import firmness
from redframe.store import visits
from redframe.work.disease.found import found_at
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.visits.read import view_of


@dataclass(frozen=True, slots=True)
class Instead:
    """A condition that was the likeliest in some of the shaken runs."""

    name: str
    times: int


@dataclass(frozen=True, slots=True)
class VisitFirmness:
    """What is likeliest, in how many of the runs with a shaken matrix it still was, and what was instead."""

    leader: str
    kept: int
    runs: int
    instead: list[Instead]


async def firmness_of_visit(unit: UnitOfWork, visit_id: UUID) -> VisitFirmness | None:
    """How firm the reading of a visit is; None where it reads nothing. Raises NotFound."""
    view = await view_of(unit, await visits.visit(unit.connection, visit_id))
    if view.assessment.disease is None:
        return None
    found_then = found_at(view)
    # Fifty readings take most of a second: other people's requests go on meanwhile.
    found = await asyncio.to_thread(firmness, found_then.findings, found_then.context)
    return VisitFirmness(
        _name(found.leader), found.kept, found.runs, [Instead(_name(one), times) for one, times in found.instead]
    )


def _name(condition: str) -> str:
    return conditions()[condition].name if condition in conditions() else "none of these"
