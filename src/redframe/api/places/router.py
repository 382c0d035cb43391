"""Keepers and apiaries."""

from __future__ import annotations

import asyncio
from typing import Annotated
from uuid import UUID

from fastapi import Query, Request, Response

from redframe.api import views
from redframe.api.access import TheServices, Version, Who
from redframe.api.again import topic
from redframe.api.base import FindPlace, PageAfter
from redframe.api.bodies import CSV, body_of
from redframe.api.kept import OfApiary, OfWork
from redframe.api.places.schemas import (
    ApiariesTaken,
    ApiaryFields,
    ApiaryInput,
    ApiaryView,
    KeeperInput,
    PlacesView,
    SamplingPlan,
)
from redframe.core.status.status import Level
from redframe.outlets.apiary_table import read_apiaries
from redframe.outlets.tables import MOST_BYTES
from redframe.store.places import Apiary, ApiaryDetails, ApiaryOrder, Fit, Keeper, NewKeeper
from redframe.work.places import read as places_read
from redframe.work.places import record as places_record
from redframe.work.places.read import ApiaryPlaces
from redframe.work.places.table import take_apiaries
from redframe.work.sampling.plan import sampling_plan
from redframe.work.unit_of_work import UnitOfWork

router = topic("places")


OfLevel = Annotated[Level | None, Query(description="the level that needs attention first")]


@router.get("/apiaries", response_model=PlacesView)
async def list_apiaries(
    asked: OfWork, sort: ApiaryOrder = "by", find: FindPlace = "", level: OfLevel = None, after: PageAfter = None
) -> Response:
    """Apiaries with how their colonies stand, how old that knowledge is and what is due there, a page at a time."""

    async def make(unit: UnitOfWork) -> PlacesView:
        return views.places(await places_read.places_view(unit, sort, Fit(find, level), after), unit.today)

    return await asked.answer(make)


@router.get("/apiary-places", response_model=ApiaryPlaces)
async def list_apiary_places(asked: OfWork, find: FindPlace = "", level: OfLevel = None) -> Response:
    """Every apiary where it stands: for a map, and to choose one from."""
    return await asked.answer(lambda unit: places_read.places_on_map(unit, Fit(find, level)))


@router.get("/keepers", response_model=list[Keeper])
async def list_keepers(asked: OfWork) -> Response:
    """The keepers whom the person may see."""
    return await asked.answer(lambda unit: places_read.keepers(unit))


@router.post("/keepers", status_code=201)
async def add_keeper(given: KeeperInput, who: Who, services: TheServices) -> list[Keeper]:
    """Add a keeper."""
    async with services.unit_of_work(who) as unit:
        keeper = NewKeeper(**given.model_dump(exclude={"id"}))
        return list(await places_record.add_keeper(unit, given.id, keeper))


@router.post("/apiaries", status_code=201)
async def add_apiary(given: ApiaryInput, who: Who, services: TheServices) -> Apiary:
    """Add an apiary."""
    async with services.unit_of_work(who) as unit:
        details = ApiaryDetails(**given.model_dump(exclude={"id", "keeper_id"}))
        return await places_record.add_apiary(unit, given.id, given.keeper_id, details)


@router.post("/apiaries/import", openapi_extra=CSV)
async def import_apiaries(
    request: Request, who: Who, services: TheServices, take: Annotated[bool, Query()] = False
) -> ApiariesTaken:
    """Apiaries with their keepers and colonies from a CSV: without `take` a preview of what would be taken and what
    not, and why."""
    content = await body_of(request, MOST_BYTES)
    async with services.unit_of_work(who) as unit:
        read = await asyncio.to_thread(read_apiaries, content)
        found = await take_apiaries(unit, read.rows, take=take)
        rows = sorted([*found, *read.refused], key=lambda row: row.line)
        taken = sum(row.taken for row in rows)
        return ApiariesTaken(took=take, taken=taken, refused=len(rows) - taken, rows=rows)


@router.get("/apiaries/{apiary_id}", response_model=ApiaryView)
async def read_apiary(apiary_id: UUID, asked: OfApiary) -> Response:
    """An apiary with its colonies and their season strips."""

    async def make(unit: UnitOfWork) -> ApiaryView:
        return views.apiary(await places_read.apiary_view(unit, apiary_id), unit.today)

    return await asked.answer(make)


@router.get("/apiaries/{apiary_id}/sampling-plan")
async def plan_sampling(
    apiary_id: UUID,
    who: Who,
    services: TheServices,
    half_width: Annotated[float, Query(gt=0.05, le=2)] = 0.4,
    find: bool = False,
) -> SamplingPlan:
    """How many colonies to count, and which: for the apiary's mean, or (`find`) to find one that is over."""
    async with services.unit_of_work(who) as unit:
        plan = await sampling_plan(unit, apiary_id, half_width, find=find)
        return SamplingPlan.model_validate(plan)


@router.put("/apiaries/{apiary_id}")
async def amend_apiary(
    apiary_id: UUID, given: ApiaryFields, version: Version, who: Who, services: TheServices
) -> Apiary:
    """Amend an apiary."""
    async with services.unit_of_work(who) as unit:
        details = ApiaryDetails(**given.model_dump())
        return await places_record.amend_apiary(unit, apiary_id, version, details)
