"""The forecast of a colony, alone and with scenarios."""

from __future__ import annotations

from uuid import UUID

from fastapi import Response

from redframe.api import views
from redframe.api.access import TheServices, Who
from redframe.api.again import topic
from redframe.api.forecast.schemas import ForecastRequest, ForecastView
from redframe.api.kept import OfColony
from redframe.work.forecast import read as forecast_read
from redframe.work.forecast.read import Scenario
from redframe.work.unit_of_work import UnitOfWork

router = topic("forecast")


@router.get("/colonies/{colony_id}/forecast", response_model=ForecastView)
async def read_forecast(colony_id: UUID, asked: OfColony) -> Response:
    """What comes if nothing more is done than what is under way."""

    async def make(unit: UnitOfWork) -> ForecastView:
        return views.forecast(await forecast_read.colony_forecast(unit, colony_id))

    return await asked.answer(make)


@router.post("/colonies/{colony_id}/forecast")
async def compare_scenarios(colony_id: UUID, given: ForecastRequest, who: Who, services: TheServices) -> ForecastView:
    """The same with scenarios. Nothing is recorded."""
    async with services.unit_of_work(who) as unit:
        scenarios = [Scenario(one.kind, one.option_id, one.start) for one in given.scenarios]
        return views.forecast(await forecast_read.colony_forecast(unit, colony_id, scenarios))
