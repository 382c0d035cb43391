"""Today: what is due across apiaries."""

from __future__ import annotations

from fastapi import APIRouter, Response

from redframe.api import views
from redframe.api.kept import OfWork
from redframe.api.planning.schemas import WorklistView
from redframe.work.planning import read as planning_read
from redframe.work.unit_of_work import UnitOfWork

router = APIRouter(tags=["planning"])


@router.get("/worklist", response_model=WorklistView)
async def read_worklist(asked: OfWork) -> Response:
    """What is due, overdue, waiting for the weather or for its check count, across apiaries."""

    async def make(unit: UnitOfWork) -> WorklistView:
        return views.worklist(await planning_read.worklist(unit))

    return await asked.answer(make)
