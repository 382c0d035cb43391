"""Feeding: the autumn programme."""

from __future__ import annotations

from uuid import UUID

from redframe.api.access import TheServices, Who
from redframe.api.again import topic
from redframe.api.feeding.schemas import AutumnView
from redframe.work.feeding import read as feeding_read

router = topic("feeding")


@router.get("/apiaries/{apiary_id}/autumn")
async def read_autumn(apiary_id: UUID, who: Who, services: TheServices) -> AutumnView:
    """The autumn programme of an apiary: each colony's stores, rounds and dates, and what to buy."""
    async with services.unit_of_work(who) as unit:
        return AutumnView(today=unit.today, autumn=await feeding_read.autumn(unit, apiary_id))
