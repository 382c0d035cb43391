"""Forecasts of a whole association, computed in the background."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from redframe.api.access import TheDesk, Who
from redframe.api.forecast.association_schemas import AheadView, AskedRun, ForecastRun, RunInput
from redframe.work.forecast import association as forecast_association

router = APIRouter(tags=["forecast"])


@router.get("/forecasts")
async def forecasts_ahead(who: Who, desk: TheDesk, skip: Annotated[int, Query(ge=0, le=1_000_000)] = 0) -> AheadView:
    """What comes of every colony, a hundred at a time, and how far its computation has come."""
    async with desk.work(who) as work:
        return AheadView.model_validate(await forecast_association.view(work, skip))


@router.post("/forecasts", status_code=202)
async def ask_forecasts(given: RunInput, who: Who, desk: TheDesk) -> AskedRun:
    """Ask for the forecasts of all colonies; they are computed in the background."""
    async with desk.work(who) as work:
        run = await forecast_association.ask(work, given.id)
        return AskedRun(run=ForecastRun.model_validate(run) if run else None)
