"""Ways to handle brood disease: side by side, chosen, followed, ended, compared."""

from __future__ import annotations

from uuid import UUID

from redframe.api.access import TheServices, Version, Who
from redframe.api.again import topic
from redframe.api.handling.schemas import EndHandling, HandlingInput
from redframe.core.handling.options import HandledCondition
from redframe.work.handling import choose, compare
from redframe.work.handling.choose import HandlingChoice
from redframe.work.handling.compare import ConditionCompared
from redframe.work.handling.follow import HandlingView

router = topic("handling")


@router.get("/visits/{visit_id}/handling/{condition}")
async def list_handling_options(
    visit_id: UUID, condition: HandledCondition, who: Who, services: TheServices
) -> HandlingChoice:
    """The ways to handle a condition that a visit found, side by side, each with how it stands for this colony."""
    async with services.unit_of_work(who) as unit:
        return await choose.choice_at(unit, visit_id, condition)


@router.post("/handlings", status_code=204)
async def choose_handling(given: HandlingInput, who: Who, services: TheServices) -> None:
    """Choose a way; what the visit found is how it begins."""
    async with services.unit_of_work(who) as unit:
        await choose.choose(unit, given.as_wanted())


@router.get("/colonies/{colony_id}/handlings")
async def list_handlings(colony_id: UUID, who: Who, services: TheServices) -> list[HandlingView]:
    """What was tried in a colony and what became of it, newest first."""
    async with services.unit_of_work(who) as unit:
        return await choose.handlings_of(unit, colony_id)


@router.post("/handlings/{handling_id}/end", status_code=204)
async def end_handling(
    handling_id: UUID, given: EndHandling, version: Version, who: Who, services: TheServices
) -> None:
    """End a handling with the outcome of its last look."""
    async with services.unit_of_work(who, given.why) as unit:
        await choose.end(unit, handling_id, version, given.why, by_mistake=given.by_mistake)


@router.get("/handling-outcomes")
async def compare_handlings(who: Who, services: TheServices) -> list[ConditionCompared]:
    """What became of the ways that were chosen, by condition, with intervals."""
    async with services.unit_of_work(who, wide=True) as unit:
        return await compare.outcomes(unit)
