"""Forecasts of a whole association, computed in the background."""

from __future__ import annotations

from typing import Annotated

from fastapi import Query

from redframe.api import views
from redframe.api.access import TheServices, Who
from redframe.api.again import topic
from redframe.api.forecast.association_schemas import AskedRun, AssociationForecast, ForecastRun, RunInput
from redframe.store.association_forecast import ListOrder
from redframe.work.forecast import association as forecast_association

router = topic("forecast")


@router.get("/forecasts")
async def list_forecasts(
    who: Who, services: TheServices, skip: Annotated[int, Query(ge=0, le=1_000_000)] = 0, sort: ListOrder = "forecast"
) -> AssociationForecast:
    """Every colony with what is forecast of it, a hundred at a time, and how far its computation has come."""
    async with services.unit_of_work(who) as unit:
        return views.association_forecast(await forecast_association.view(unit, skip, sort))


@router.post("/forecasts", status_code=202)
async def request_forecasts(given: RunInput, who: Who, services: TheServices) -> AskedRun:
    """Ask for the forecasts of all colonies; they are computed in the background."""
    async with services.unit_of_work(who) as unit:
        run = await forecast_association.ask(unit, given.id)
        return AskedRun(run=ForecastRun.model_validate(run) if run else None)
