"""Visits: opened, kept piece by piece, closed; frames moved; combs held back."""

from __future__ import annotations

import asyncio
from dataclasses import replace
from typing import Annotated
from uuid import UUID

from fastapi import Query, Request, Response

from redframe.api import pictures
from redframe.api.access import TheServices, Who
from redframe.api.again import topic
from redframe.api.bodies import body_of
from redframe.api.kept import OfApiary, OfVisit
from redframe.api.visits.schemas import (
    AfterInput,
    BeforeInput,
    FramesInput,
    LineInput,
    OpenInput,
    PastVisitInput,
    PhotoCaption,
    SignId,
)
from redframe.core.combs.cards import Cards, cards
from redframe.core.disease.findings import COUNTED, NOT_ENTERED
from redframe.core.disease.signs import Sign, signs
from redframe.core.visits.disease_reading import DiseaseReading
from redframe.core.visits.shorthand import ReadLine, print_line, read_line
from redframe.outlets.pictures import MOST_BYTES
from redframe.store.photos import Photo
from redframe.store.visits import RoundStop
from redframe.work.visits import photos, read, record
from redframe.work.visits.read import VisitView

router = topic("visits")


@router.get("/signs")
async def list_signs(who: Who) -> list[Sign]:
    """The signs that can be recorded: those of a comb (`on_frame`), of the bees and of the hive."""
    return [sign for sign in signs().values() if sign.id not in (NOT_ENTERED, COUNTED)]


@router.get("/sign-cards")
async def list_sign_cards(who: Who) -> Cards:
    """Pieces of comb to compare with what is in hand, and what tells those apart that look alike."""
    return cards()


@router.post("/colonies/{colony_id}/visits", status_code=201)
async def open_visit(colony_id: UUID, given: OpenInput, who: Who, services: TheServices) -> VisitView:
    """Open a visit of a colony, or go on with the draft that is open."""
    async with services.unit_of_work(who) as unit:
        return await record.open_visit(unit, given.id, colony_id, given.opened_at)


@router.post("/colonies/{colony_id}/past-visits", status_code=201)
async def record_visit(colony_id: UUID, given: PastVisitInput, who: Who, services: TheServices) -> VisitView:
    """Record a visit that looked at the colony as a whole."""
    async with services.unit_of_work(who) as unit:
        return await record.record_visit(
            unit, given.id, colony_id=colony_id, visited_on=given.visited_on, after=given.after
        )


@router.get("/visits/{visit_id}", response_model=VisitView)
async def read_visit(visit_id: UUID, asked: OfVisit, compare_with: Annotated[UUID | None, Query()] = None) -> Response:
    """A visit compared with an earlier one: the last that looked at frames, or the one named."""
    return await asked.answer(lambda unit: read.visit_view(unit, visit_id, compare_with))


@router.get("/visits/{visit_id}/disease", response_model=DiseaseReading | None)
async def read_disease(
    visit_id: UUID, asked: OfVisit, without: Annotated[list[SignId] | None, Query(max_length=40)] = None
) -> Response:
    """What the signs of a visit fit, as if some of its findings had not been made."""
    return await asked.answer(lambda unit: read.disease_of_visit(unit, visit_id, without or []))


@router.put("/visits/{visit_id}/before")
async def save_before(visit_id: UUID, given: BeforeInput, who: Who, services: TheServices) -> VisitView:
    """Keep what was seen before opening."""
    async with services.unit_of_work(who, given.reason) as unit:
        return await record.save_part(unit, visit_id, "before", given.version, given.content)


@router.put("/visits/{visit_id}/after")
async def save_after(visit_id: UUID, given: AfterInput, who: Who, services: TheServices) -> VisitView:
    """Keep what was recorded of the colony after the last frame."""
    async with services.unit_of_work(who, given.reason) as unit:
        return await record.save_part(unit, visit_id, "after", given.version, given.content)


@router.put("/visits/{visit_id}/frames")
async def save_frames(visit_id: UUID, given: FramesInput, who: Who, services: TheServices) -> VisitView:
    """Keep what was seen in one slot or several, all or none."""
    async with services.unit_of_work(who, given.reason) as unit:
        return await record.save_frames(unit, visit_id, [one.as_entry() for one in given.frames])


@router.post("/visits/{visit_id}/close")
async def close_visit(visit_id: UUID, who: Who, services: TheServices) -> VisitView:
    """Close a visit; from then on it is amended, not edited."""
    async with services.unit_of_work(who) as unit:
        return await record.close_visit(unit, visit_id)


@router.delete("/visits/{visit_id}/close")
async def reopen_visit(visit_id: UUID, who: Who, services: TheServices) -> VisitView:
    """Undo the closing of a visit a short while ago: it is a draft again."""
    async with services.unit_of_work(who, "undone") as unit:
        return await record.reopen_visit(unit, visit_id)


@router.post("/visits/{visit_id}/drop", status_code=204)
async def drop_visit(visit_id: UUID, who: Who, services: TheServices) -> None:
    """Drop a draft that was opened by mistake."""
    async with services.unit_of_work(who) as unit:
        await record.drop_visit(unit, visit_id)


@router.put(
    "/visits/{visit_id}/photos/{photo_id}",
    openapi_extra=pictures.PHOTO_BODY,
)
async def add_photo(
    visit_id: UUID,
    photo_id: UUID,
    request: Request,
    who: Who,
    services: TheServices,
    box_id: Annotated[UUID | None, Query()] = None,
    slot: Annotated[int | None, Query(ge=1, le=40)] = None,
    sign: Annotated[str, Query(max_length=40)] = "",
    caption: Annotated[PhotoCaption, Query()] = "",
) -> list[Photo]:
    """Keep a photo (JPEG or PNG) of a visit, of a frame or of a sign on it. Its place and camera are not kept."""
    async with services.unit_of_work(who) as unit:
        await photos.may_add(unit, visit_id)
    picture = await pictures.read_photo(await body_of(request, MOST_BYTES))
    async with services.unit_of_work(who) as unit:
        return await photos.add_photo(
            unit, visit_id, photo_id, picture=picture.jpeg, thumbnail=picture.thumbnail, width=picture.width,
            height=picture.height, box_id=box_id, slot=slot, sign=sign, caption=caption,
        )  # fmt: skip


@router.get("/photos/{photo_id}", response_class=Response, responses={200: {"content": {"image/jpeg": {}}}})
async def read_photo(
    photo_id: UUID, who: Who, services: TheServices, small: Annotated[bool, Query()] = False
) -> Response:
    """A photo as JPEG."""
    async with services.unit_of_work(who) as unit:
        picture = await photos.picture_of(unit, photo_id, small=small)
    return Response(picture, media_type="image/jpeg", headers={"Cache-Control": "private, max-age=86400, immutable"})


@router.get(
    "/visits/{visit_id}/sheet.pdf", response_class=Response, responses={200: {"content": {"application/pdf": {}}}}
)
async def read_visit_sheet(visit_id: UUID, who: Who, services: TheServices) -> Response:
    """The keeper's sheet of a visit, one page to print."""
    from redframe.outlets.visit_sheet import visit_sheet

    async with services.unit_of_work(who) as unit:
        view = await read.visit_view(unit, visit_id)
    content = await asyncio.to_thread(visit_sheet, view)
    name = f"visit-{view.visit.visited_on.isoformat()}.pdf"
    return Response(
        content, media_type="application/pdf", headers={"Content-Disposition": f'inline; filename="{name}"'}
    )


@router.post("/frame-lines")
async def read_frame_line(given: LineInput, who: Who) -> ReadLine:
    """Read a line of shorthand back: what was understood, and which stretches were not."""
    found = read_line(given.text)
    if found.record is None or found.slot is None:
        return found
    return replace(found, printed=print_line(found.box or 1, found.slot, found.record))


@router.get("/apiaries/{apiary_id}/round", response_model=list[RoundStop])
async def read_round(apiary_id: UUID, asked: OfApiary) -> Response:
    """The colonies of an apiary in the order of a round, suspects last."""
    return await asked.answer(lambda unit: read.round_of(unit, apiary_id))
