"""Keepers and apiaries."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query

from redframe.api import views as present
from redframe.api.access import TheDesk, Version, Who
from redframe.api.places.schemas import (
    Apiary,
    ApiaryFields,
    ApiaryInput,
    ApiaryView,
    Keeper,
    KeeperInput,
    PlacesView,
    SamplingPlan,
)
from redframe.work.places import read as places_read
from redframe.work.places import record as places_record
from redframe.work.sampling.plan import sampling_plan

router = APIRouter(tags=["places"])


@router.get("/places")
async def all_places(who: Who, desk: TheDesk) -> PlacesView:
    """Every apiary with how its colonies stand and how old that knowledge is."""
    async with desk.work(who) as work:
        return present.places(await places_read.places_view(work), work.today)


@router.post("/keepers", status_code=201)
async def add_keeper(given: KeeperInput, who: Who, desk: TheDesk) -> list[Keeper]:
    """Add a keeper."""
    async with desk.work(who) as work:
        fields = given.model_dump(exclude={"id"})
        return [Keeper.model_validate(one) for one in await places_record.add_keeper(work, given.id, **fields)]


@router.post("/apiaries", status_code=201)
async def add_apiary(given: ApiaryInput, who: Who, desk: TheDesk) -> Apiary:
    """Add an apiary."""
    async with desk.work(who) as work:
        added = await places_record.add_apiary(work, given.id, **given.model_dump(exclude={"id"}))
        return Apiary.model_validate(added)


@router.get("/apiaries/{apiary_id}")
async def one_apiary(apiary_id: UUID, who: Who, desk: TheDesk) -> ApiaryView:
    """An apiary with its colonies and their season strips."""
    async with desk.work(who) as work:
        return present.apiary(await places_read.apiary_view(work, apiary_id), work.today)


@router.get("/apiaries/{apiary_id}/sampling-plan")
async def plan_of_sampling(
    apiary_id: UUID,
    who: Who,
    desk: TheDesk,
    half_width: Annotated[float, Query(gt=0.05, le=2)] = 0.4,
    find: bool = False,
) -> SamplingPlan:
    """How many colonies to count, and which: for the apiary's mean, or (`find`) to find one that is over."""
    async with desk.work(who) as work:
        plan = await sampling_plan(work, apiary_id, half_width, find=find)
        return SamplingPlan.model_validate(plan)


@router.put("/apiaries/{apiary_id}")
async def amend_apiary(apiary_id: UUID, given: ApiaryFields, version: Version, who: Who, desk: TheDesk) -> Apiary:
    """Amend an apiary."""
    async with desk.work(who) as work:
        return Apiary.model_validate(await places_record.amend_apiary(work, apiary_id, version, **given.model_dump()))
