"""Pests: what each score asks for, checks, traps, the entrance, and what is to be looked at again."""

from __future__ import annotations

from uuid import UUID

from redframe.api.access import TheServices, Who
from redframe.api.again import topic
from redframe.api.pests.schemas import EntranceInput, NotSo, PestCheckInput, TrapEmptied, TrapInput, TrapOut
from redframe.core.pests.pests import Pest, PestId, pests
from redframe.work.pests import read, record
from redframe.work.pests.read import ColonyPests, PestsAhead, StoredCombs

router = topic("pests")


@router.get("/pests")
async def list_pests(who: Who) -> dict[PestId, Pest]:
    """Each pest with its scores and what they ask for."""
    return dict(pests())


@router.get("/pests/ahead")
async def list_pests_ahead(who: Who, services: TheServices) -> PestsAhead:
    """Pests that are to be looked at again, the most pressing first."""
    async with services.unit_of_work(who) as unit:
        return await read.pests_ahead(unit)


@router.get("/colonies/{colony_id}/pests")
async def read_colony_pests(colony_id: UUID, who: Who, services: TheServices) -> ColonyPests:
    """The pests of a colony, its traps and its entrance."""
    async with services.unit_of_work(who) as unit:
        return await read.pests_of_colony(unit, colony_id)


@router.get("/apiaries/{apiary_id}/stored-combs")
async def read_stored_combs(apiary_id: UUID, who: Who, services: TheServices) -> StoredCombs:
    """What was found of combs in store."""
    async with services.unit_of_work(who) as unit:
        return await read.pests_in_store(unit, apiary_id)


@router.post("/pest-checks", status_code=204)
async def record_pest_check(given: PestCheckInput, who: Who, services: TheServices) -> None:
    """Record what was scored of a pest, and what was done."""
    async with services.unit_of_work(who) as unit:
        await record.record_check(unit, given.as_wanted())


@router.post("/pest-checks/{pest_check_id}/withdraw", status_code=204)
async def withdraw_pest_check(pest_check_id: UUID, given: NotSo, who: Who, services: TheServices) -> None:
    """Say that it was not so."""
    async with services.unit_of_work(who, given.why) as unit:
        await record.withdraw_check(unit, pest_check_id, given.why)


@router.post("/pest-traps", status_code=204)
async def set_pest_trap(given: TrapInput, who: Who, services: TheServices) -> None:
    """Record traps that were set."""
    async with services.unit_of_work(who) as unit:
        await record.set_trap(unit, given.as_wanted())


@router.post("/pest-traps/{trap_id}/empty", status_code=204)
async def empty_pest_trap(trap_id: UUID, given: TrapEmptied, who: Who, services: TheServices) -> None:
    """Record what was in traps when they were emptied."""
    async with services.unit_of_work(who) as unit:
        await record.empty_trap(unit, trap_id, given.id, given.emptied_on, given.caught)


@router.post("/pest-traps/{trap_id}/remove", status_code=204)
async def remove_pest_trap(trap_id: UUID, given: TrapOut, who: Who, services: TheServices) -> None:
    """Say that traps were taken out."""
    async with services.unit_of_work(who) as unit:
        await record.remove_trap(unit, trap_id, given.on)


@router.post("/entrances", status_code=204)
async def set_entrance(given: EntranceInput, who: Who, services: TheServices) -> None:
    """Record how an entrance stands from a day on."""
    async with services.unit_of_work(who) as unit:
        await record.set_entrance(unit, given.as_wanted())
