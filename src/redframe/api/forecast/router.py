"""What comes: the forecast of a colony, alone and beside scenarios."""

from __future__ import annotations

from uuid import UUID

from fastapi import APIRouter

from redframe.api import views as present
from redframe.api.access import TheDesk, Who
from redframe.api.forecast.schemas import ForecastRequest, ForecastView
from redframe.work.forecast import read as forecast_read
from redframe.work.forecast.read import Scenario

router = APIRouter(tags=["forecast"])


@router.get("/colonies/{colony_id}/forecast")
async def colony_forecast(colony_id: UUID, who: Who, desk: TheDesk) -> ForecastView:
    """What comes if nothing more is done than what is under way."""
    async with desk.work(who) as work:
        return present.forecast(await forecast_read.colony_forecast(work, colony_id))


@router.post("/colonies/{colony_id}/forecast")
async def compare_futures(colony_id: UUID, given: ForecastRequest, who: Who, desk: TheDesk) -> ForecastView:
    """The same beside scenarios. Nothing is recorded."""
    async with desk.work(who) as work:
        scenarios = [Scenario(one.kind, one.option_id, one.start) for one in given.scenarios]
        return present.forecast(await forecast_read.colony_forecast(work, colony_id, scenarios))
