"""Today: what is due across apiaries."""

from __future__ import annotations

from fastapi import APIRouter

from redframe.api import views
from redframe.api.access import TheServices, Who
from redframe.api.planning.schemas import WorklistView
from redframe.work.planning import read as planning_read

router = APIRouter(tags=["planning"])


@router.get("/worklist")
async def read_worklist(who: Who, services: TheServices) -> WorklistView:
    """What is due, overdue, waiting for the weather or for its check count, across apiaries."""
    async with services.unit_of_work(who) as unit:
        return views.worklist(await planning_read.worklist(unit))
