"""Feeding: the autumn programme."""

from __future__ import annotations

from uuid import UUID

from redframe.api.access import TheServices, Who
from redframe.api.again import topic
from redframe.api.base import FindPlace, PageAfter
from redframe.api.feeding.schemas import AutumnsView, AutumnView
from redframe.work.feeding import read as feeding_read

router = topic("feeding")


@router.get("/apiaries/{apiary_id}/autumn")
async def read_autumn(apiary_id: UUID, who: Who, services: TheServices) -> AutumnView:
    """The autumn programme of an apiary: each colony's stores, rounds and dates, and what to buy."""
    async with services.unit_of_work(who) as unit:
        return AutumnView(today=unit.today, autumn=await feeding_read.autumn(unit, apiary_id))


@router.get("/autumn")
async def read_autumns(who: Who, services: TheServices, find: FindPlace = "", after: PageAfter = None) -> AutumnsView:
    """The autumn of all apiaries, in a line each, a page at a time."""
    async with services.unit_of_work(who) as unit:
        found = await feeding_read.autumns(unit, find, after)
        return AutumnsView(today=unit.today, apiaries=list(found.apiaries), next=found.next)
