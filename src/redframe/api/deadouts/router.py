"""Dead colonies: examined step by step, closed, cleared of foulbrood, their combs and boxes sent on; winters."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from fastapi import Query, Request, Response

from redframe.api import pictures
from redframe.api.access import TheServices, Who
from redframe.api.again import topic
from redframe.api.base import Note
from redframe.api.bodies import body_of
from redframe.api.deadouts.schemas import (
    CarriedOut,
    DeadOutInput,
    DeadStepInput,
    ExclusionInput,
    FatesInput,
    WithdrawalInput,
)
from redframe.core.deadouts.reading import DeadReading
from redframe.core.deadouts.signs import DeadSign, DeadStep, dead_signs
from redframe.outlets.pictures import MOST_BYTES
from redframe.outlets.winters_table import winters_csv
from redframe.store.deadouts import DeadOutPhoto, StepPicture
from redframe.work.deadouts import exclusion, fates, photos, read, record, winters
from redframe.work.deadouts.fates import FatesView
from redframe.work.deadouts.read import DeadOutList, DeadOutView
from redframe.work.deadouts.winters import Winters

router = topic("deadouts")
DeadSignId = Annotated[str, Query(max_length=40)]


@router.get("/dead-signs")
async def list_dead_signs(who: Who) -> list[DeadSign]:
    """What is looked for at a dead colony, in the order of the walk."""
    return list(dead_signs().values())


@router.get("/deadouts")
async def list_deadouts(
    who: Who, services: TheServices, apiary_id: Annotated[UUID | None, Query()] = None
) -> DeadOutList:
    """Colonies that died within thirteen months, those not examined yet first."""
    async with services.unit_of_work(who) as unit:
        return await read.deadout_list(unit, apiary_id)


@router.post("/deadouts", status_code=201)
async def open_deadout(given: DeadOutInput, who: Who, services: TheServices) -> DeadOutView:
    """Begin the examination of a dead colony, or go on with it."""
    async with services.unit_of_work(who) as unit:
        return await record.open_deadout(unit, given.as_new())


@router.get("/deadouts/{deadout_id}")
async def read_deadout(deadout_id: UUID, who: Who, services: TheServices) -> DeadOutView:
    """An examination, and what it comes to."""
    async with services.unit_of_work(who) as unit:
        return await read.deadout_view(unit, deadout_id)


@router.get("/deadouts/{deadout_id}/reading")
async def read_deadout_without(
    deadout_id: UUID,
    who: Who,
    services: TheServices,
    without: Annotated[list[DeadSignId] | None, Query(max_length=60)] = None,
) -> DeadReading:
    """What an examination fits as if some of its findings had not been made."""
    async with services.unit_of_work(who) as unit:
        return await read.reading_without(unit, deadout_id, without or [])


@router.put("/deadouts/{deadout_id}/steps/{step}")
async def save_deadout_step(
    deadout_id: UUID, step: DeadStep, given: DeadStepInput, who: Who, services: TheServices
) -> DeadOutView:
    """Keep what was found at a step."""
    async with services.unit_of_work(who, given.reason) as unit:
        return await record.save_step(unit, deadout_id, step, given.version, given.content)


@router.post("/deadouts/{deadout_id}/close")
async def close_deadout(deadout_id: UUID, who: Who, services: TheServices) -> DeadOutView:
    """Close an examination; from then on it is amended, not edited."""
    async with services.unit_of_work(who) as unit:
        return await record.close_deadout(unit, deadout_id)


@router.post("/deadouts/{deadout_id}/drop", status_code=204)
async def drop_deadout(deadout_id: UUID, who: Who, services: TheServices) -> None:
    """Drop an examination that was opened by mistake."""
    async with services.unit_of_work(who) as unit:
        await record.drop_deadout(unit, deadout_id)


@router.put("/deadouts/{deadout_id}/photos/{photo_id}", openapi_extra=pictures.PHOTO_BODY)
async def add_deadout_photo(
    deadout_id: UUID,
    photo_id: UUID,
    request: Request,
    who: Who,
    services: TheServices,
    step: Annotated[DeadStep, Query()],
    caption: Annotated[Note, Query(max_length=400)] = "",
) -> list[DeadOutPhoto]:
    """Keep a photo (JPEG or PNG) of a step. Its place and camera are not kept."""
    async with services.unit_of_work(who) as unit:
        await photos.may_add(unit, deadout_id)
    picture = await pictures.read_photo(await body_of(request, MOST_BYTES))
    kept = StepPicture(step, caption, picture.jpeg, picture.thumbnail, picture.width, picture.height)
    async with services.unit_of_work(who) as unit:
        return await photos.add_photo(unit, deadout_id, photo_id, kept)


@router.get(
    "/deadout-photos/{deadout_photo_id}", response_class=Response, responses={200: {"content": {"image/jpeg": {}}}}
)
async def read_deadout_photo(
    deadout_photo_id: UUID, who: Who, services: TheServices, small: Annotated[bool, Query()] = False
) -> Response:
    """A photo as JPEG."""
    async with services.unit_of_work(who) as unit:
        picture = await photos.picture_of(unit, deadout_photo_id, small=small)
    return Response(picture, media_type="image/jpeg", headers={"Cache-Control": "private, max-age=86400, immutable"})


@router.get("/colonies/{colony_id}/fates")
async def read_fates(colony_id: UUID, who: Who, services: TheServices) -> FatesView:
    """Where the combs and boxes of a dead colony go, and what is open to each."""
    async with services.unit_of_work(who) as unit:
        return await fates.fates_view(unit, colony_id)


@router.put("/colonies/{colony_id}/fates")
async def decide_fates(colony_id: UUID, given: FatesInput, who: Who, services: TheServices) -> FatesView:
    """Decide where some combs or boxes go."""
    async with services.unit_of_work(who) as unit:
        return await fates.decide_fates(unit, colony_id, given.as_items(), given.fate, given.reason)


@router.post("/colonies/{colony_id}/fates/carried-out")
async def carry_out_fates(colony_id: UUID, given: CarriedOut, who: Who, services: TheServices) -> FatesView:
    """Say that everything that was to go one way went it."""
    async with services.unit_of_work(who) as unit:
        return await fates.carry_out(unit, colony_id, given.fate, given.on)


@router.post("/colonies/{colony_id}/exclusion", status_code=204)
async def exclude_foulbrood(colony_id: UUID, given: ExclusionInput, who: Who, services: TheServices) -> None:
    """Record that foulbrood is excluded: what the colony left is released."""
    async with services.unit_of_work(who) as unit:
        await exclusion.exclude_foulbrood(unit, colony_id, given.as_wanted())


@router.post("/colonies/{colony_id}/exclusion/withdraw", status_code=204)
async def withdraw_exclusion(colony_id: UUID, given: WithdrawalInput, who: Who, services: TheServices) -> None:
    """Withdraw an exclusion: everything that is left is held again."""
    async with services.unit_of_work(who) as unit:
        await exclusion.withdraw_exclusion(unit, colony_id, given.why)


@router.get("/winters")
async def list_winters(who: Who, services: TheServices) -> Winters:
    """What was lost in the last winters, by treatment, size, apiary and cause."""
    async with services.unit_of_work(who, wide=True) as unit:
        return await winters.winters(unit)


@router.get("/winters.csv", response_class=Response, responses={200: {"content": {"text/csv": {}}}})
async def export_winters(who: Who, services: TheServices) -> Response:
    """The same as CSV."""
    async with services.unit_of_work(who, wide=True) as unit:
        lost = await winters.winters(unit)
    headers = {"Content-Disposition": 'attachment; filename="winter-losses.csv"'}
    return Response(winters_csv(lost), media_type="text/csv", headers=headers)
