"""Today: what is due across apiaries."""

from __future__ import annotations

from fastapi import APIRouter

from redframe.api import views as present
from redframe.api.access import TheDesk, Who
from redframe.api.planning.schemas import WorklistView
from redframe.work.planning import read as planning_read

router = APIRouter(tags=["planning"])


@router.get("/worklist")
async def worklist(who: Who, desk: TheDesk) -> WorklistView:
    """What is due, overdue, waiting for the weather or for its proof, across apiaries."""
    async with desk.work(who) as work:
        return present.worklist(await planning_read.worklist(work))
