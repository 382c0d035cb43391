"""The guide of a new association."""

from __future__ import annotations

from redframe.api.access import TheServices, Who
from redframe.api.again import topic
from redframe.api.base import Output
from redframe.store.guide import FittingStep
from redframe.work.guide import guide as work
from redframe.work.guide.guide import GuideStep

router = topic("guide")


class Guide(Output):
    """The parts of an association's beginning in their order; empty once all is done."""

    steps: list[GuideStep]


@router.get("/guide")
async def read_guide(who: Who, services: TheServices) -> Guide:
    """What is left to do of the beginning, for who keeps the association."""
    async with services.unit_of_work(who) as unit:
        return Guide.model_validate(await work.guide(unit))


@router.put("/guide/{step}")
async def say_fits(step: FittingStep, who: Who, services: TheServices) -> Guide:
    """Say that a part fits as it is."""
    async with services.unit_of_work(who) as unit:
        return Guide.model_validate(await work.say_fits(unit, step))
