"""What is due across apiaries: Today, and by kind."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from fastapi import Query, Response

from redframe.api import views
from redframe.api.again import topic
from redframe.api.base import PageAfter
from redframe.api.kept import OfApiary, OfWork
from redframe.api.planning.schemas import WorkLinesView, WorklistView
from redframe.work.planning import read as planning_read
from redframe.work.planning.read import Kind
from redframe.work.unit_of_work import UnitOfWork

router = topic("planning")


@router.get("/worklist", response_model=WorklistView)
async def read_worklist(asked: OfWork, after: PageAfter = None) -> Response:
    """What is due, overdue, waiting for the weather or for its check count, an apiary at a time."""

    async def make(unit: UnitOfWork) -> WorklistView:
        return views.worklist(await planning_read.worklist(unit, after))

    return await asked.answer(make)


@router.get("/apiaries/{apiary_id}/due", response_model=WorkLinesView)
async def list_work_at(apiary_id: UUID, asked: OfApiary) -> Response:
    """All that is due at one apiary."""

    async def make(unit: UnitOfWork) -> WorkLinesView:
        return views.work_of_kind(await planning_read.work_at(unit, apiary_id))

    return await asked.answer(make)


@router.get("/due/{kind}", response_model=WorkLinesView)
async def list_work(kind: Kind, asked: OfWork, most: Annotated[int, Query(ge=1, le=1000)] = 60) -> Response:
    """What is due of a kind across apiaries, the most pressing first."""

    async def make(unit: UnitOfWork) -> WorkLinesView:
        return views.work_of_kind(await planning_read.work_of_kind(unit, kind, most))

    return await asked.answer(make)
