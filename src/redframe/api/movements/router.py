"""Movements seen or told, and where colonies, combs and queens have been."""

from __future__ import annotations

from uuid import UUID

from redframe.api.access import TheServices, Who
from redframe.api.again import topic
from redframe.api.movements.schemas import MovementInput, WithdrawMovement
from redframe.work.movements import record, where
from redframe.work.movements.where import ColonyWhere, CombWhere, QueenWhere

router = topic("movements")


@router.post("/movements", status_code=204)
async def record_movement(given: MovementInput, who: Who, services: TheServices) -> None:
    """Record what came to a colony or went from it that no other act says."""
    async with services.unit_of_work(who) as unit:
        await record.record_movement(unit, given.id, given.as_movement())


@router.post("/movements/{movement_id}/withdraw", status_code=204)
async def withdraw_movement(movement_id: UUID, given: WithdrawMovement, who: Who, services: TheServices) -> None:
    """Say that it was not so; what was said stays on record."""
    async with services.unit_of_work(who, given.why) as unit:
        await record.withdraw_movement(unit, movement_id, given.why)


@router.get("/colonies/{colony_id}/where")
async def read_colony_where(colony_id: UUID, who: Who, services: TheServices) -> ColonyWhere:
    """Where a colony stood, what came to it and what went from it."""
    async with services.unit_of_work(who) as unit:
        return await where.colony_where(unit, colony_id)


@router.get("/frames/{frame_id}/where")
async def read_comb_where(frame_id: UUID, who: Who, services: TheServices) -> CombWhere:
    """Where a comb has been and what was seen of it."""
    async with services.unit_of_work(who) as unit:
        return await where.comb_where(unit, frame_id)


@router.get("/queens/{queen_id}/where")
async def read_queen_where(queen_id: UUID, who: Who, services: TheServices) -> QueenWhere:
    """Where a queen has been."""
    async with services.unit_of_work(who) as unit:
        return await where.queen_where(unit, queen_id)
