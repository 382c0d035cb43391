"""Visits: opened, kept piece by piece, closed; frames moved; combs held back."""

from __future__ import annotations

import asyncio
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query, Request, Response

from redframe.api.access import TheDesk, Who
from redframe.api.visits.schemas import (
    AfterInput,
    BeforeInput,
    Frame,
    FrameMove,
    FramesInput,
    HoldInput,
    LiftInput,
    LineInput,
    MoveFrameInput,
    OpenInput,
    Photo,
    PhotoCaption,
    ReadLine,
    RoundStop,
    Sign,
    VisitView,
)
from redframe.core.disease.signs import signs
from redframe.core.visits.shorthand import print_line, read_line
from redframe.outlets.pictures import MOST_BYTES, read_picture
from redframe.outlets.visit_sheet import visit_sheet
from redframe.work.colonies import frames as colonies_frames
from redframe.work.colonies import holds as colonies_holds
from redframe.work.unit_of_work import Work
from redframe.work.visits import photos as visits_photos
from redframe.work.visits import read as visits_read
from redframe.work.visits import record as visits_record

router = APIRouter(tags=["visits"])


def _view(work: Work, found: visits_read.VisitView) -> VisitView:
    return VisitView.model_validate(
        {
            "today": work.today,
            "hive": found.standing.hive,
            "dwellers": found.standing.dwellers,
            "boxes": found.standing.boxes,
            **{name: getattr(found, name) for name in found.__slots__ if name != "standing"},
        }
    )


@router.get("/signs")
async def vocabulary(who: Who) -> list[Sign]:
    """The signs that can be recorded on a comb."""
    return [Sign.model_validate(sign) for sign in signs().values() if sign.on_frame]


@router.post("/colonies/{colony_id}/visits", status_code=201)
async def open_visit(colony_id: UUID, given: OpenInput, who: Who, desk: TheDesk) -> VisitView:
    """Open a visit of a colony, or go on with the draft that is open."""
    async with desk.work(who) as work:
        return _view(work, await visits_record.open_visit(work, given.id, colony_id, given.opened_at))


@router.get("/visits/{visit_id}")
async def one_visit(
    visit_id: UUID, who: Who, desk: TheDesk, against: Annotated[UUID | None, Query()] = None
) -> VisitView:
    """A visit beside an earlier one: the last that looked at frames, or the one named."""
    async with desk.work(who) as work:
        return _view(work, await visits_read.visit_view(work, visit_id, against))


@router.put("/visits/{visit_id}/before")
async def keep_before(visit_id: UUID, given: BeforeInput, who: Who, desk: TheDesk) -> VisitView:
    """Keep what was seen before opening."""
    async with desk.work(who, given.reason) as work:
        return _view(work, await visits_record.keep_part(work, visit_id, "before", given.version, given.content))


@router.put("/visits/{visit_id}/after")
async def keep_after(visit_id: UUID, given: AfterInput, who: Who, desk: TheDesk) -> VisitView:
    """Keep what was recorded of the colony after the last frame."""
    async with desk.work(who, given.reason) as work:
        return _view(work, await visits_record.keep_part(work, visit_id, "after", given.version, given.content))


@router.put("/visits/{visit_id}/frames")
async def keep_frames(visit_id: UUID, given: FramesInput, who: Who, desk: TheDesk) -> VisitView:
    """Keep what was seen in one slot or several, all or none."""
    async with desk.work(who, given.reason) as work:
        entries = [visits_record.FrameEntry(one.box_id, one.slot, one.version, one.record) for one in given.frames]
        return _view(work, await visits_record.keep_frames(work, visit_id, entries))


@router.post("/visits/{visit_id}/close")
async def close_visit(visit_id: UUID, who: Who, desk: TheDesk) -> VisitView:
    """Close a visit; from then on it is amended, not edited."""
    async with desk.work(who) as work:
        return _view(work, await visits_record.close_visit(work, visit_id))


@router.post("/visits/{visit_id}/drop", status_code=204)
async def drop_visit(visit_id: UUID, who: Who, desk: TheDesk) -> None:
    """Drop a draft that was opened by mistake."""
    async with desk.work(who) as work:
        await visits_record.drop_visit(work, visit_id)


@router.put(
    "/visits/{visit_id}/photos/{photo_id}",
    openapi_extra={
        "requestBody": {
            "required": True,
            "content": {
                kind: {"schema": {"type": "string", "format": "binary"}} for kind in ("image/jpeg", "image/png")
            },
        }
    },
)
async def add_photo(
    visit_id: UUID,
    photo_id: UUID,
    request: Request,
    who: Who,
    desk: TheDesk,
    box_id: Annotated[UUID | None, Query()] = None,
    slot: Annotated[int | None, Query(ge=1, le=40)] = None,
    sign: Annotated[str, Query(max_length=40)] = "",
    caption: Annotated[PhotoCaption, Query()] = "",
) -> list[Photo]:
    """Keep a photo (JPEG or PNG) of a visit, of a frame or of a sign on it. Its place and camera are not kept."""
    content = b""
    async for part in request.stream():
        content += part
        if len(content) > MOST_BYTES:
            break
    picture = await asyncio.to_thread(read_picture, content)
    async with desk.work(who) as work:
        kept = await visits_photos.add_photo(
            work, visit_id, photo_id, picture=picture.jpeg, thumbnail=picture.thumbnail, width=picture.width,
            height=picture.height, box_id=box_id, slot=slot, sign=sign, caption=caption,
        )  # fmt: skip
        return [Photo.model_validate(one) for one in kept]


@router.get("/photos/{photo_id}", response_class=Response, responses={200: {"content": {"image/jpeg": {}}}})
async def one_photo(photo_id: UUID, who: Who, desk: TheDesk, small: Annotated[bool, Query()] = False) -> Response:
    """A photo as JPEG."""
    async with desk.work(who) as work:
        picture = await visits_photos.picture_of(work, photo_id, small=small)
    return Response(picture, media_type="image/jpeg", headers={"Cache-Control": "private, max-age=86400, immutable"})


@router.get(
    "/visits/{visit_id}/sheet.pdf", response_class=Response, responses={200: {"content": {"application/pdf": {}}}}
)
async def sheet(visit_id: UUID, who: Who, desk: TheDesk) -> Response:
    """The keeper's sheet of a visit, one page to print."""
    async with desk.work(who) as work:
        view = await visits_read.visit_view(work, visit_id)
    content = await asyncio.to_thread(visit_sheet, view)
    name = f"visit-{view.visit.visited_on.isoformat()}.pdf"
    return Response(
        content, media_type="application/pdf", headers={"Content-Disposition": f'inline; filename="{name}"'}
    )


@router.post("/frame-lines")
async def read_frame_line(given: LineInput, who: Who) -> ReadLine:
    """Read a line of shorthand back: what was understood, and which stretches were not."""
    found = read_line(given.text)
    printed = ""
    if found.record is not None and found.slot is not None:
        printed = print_line(found.box or 1, found.slot, found.record)
    return ReadLine.model_validate({**{name: getattr(found, name) for name in found.__slots__}, "printed": printed})


@router.post("/frame-moves", status_code=201)
async def move_frame(given: MoveFrameInput, who: Who, desk: TheDesk) -> list[Frame]:
    """Move a frame, or bring a new one in; the frames that moved, where they are now."""
    async with desk.work(who) as work:
        new = colonies_frames.NewFrame(given.new.kind, given.new.comb_year) if given.new else None
        fields = given.model_dump(exclude={"new"})
        moved = await colonies_frames.move_frame(work, colonies_frames.WantedMove(new=new, **fields))
        return [Frame.model_validate(one) for one in moved]


@router.get("/colonies/{colony_id}/frame-moves")
async def frame_moves(colony_id: UUID, who: Who, desk: TheDesk) -> list[FrameMove]:
    """Frames that came to a colony and left it, newest first."""
    async with desk.work(who) as work:
        return [FrameMove.model_validate(one) for one in await colonies_frames.moves_of_colony(work, colony_id)]


@router.get("/apiaries/{apiary_id}/frames-in-store")
async def frames_in_store(apiary_id: UUID, who: Who, desk: TheDesk) -> list[Frame]:
    """Frames of an apiary in store or in the freezer."""
    async with desk.work(who) as work:
        return [Frame.model_validate(one) for one in await colonies_frames.frames_in_store(work, apiary_id)]


@router.get("/apiaries/{apiary_id}/round")
async def round_of_apiary(apiary_id: UUID, who: Who, desk: TheDesk) -> list[RoundStop]:
    """The colonies of an apiary in the order of a round, suspects last."""
    async with desk.work(who) as work:
        return [RoundStop.model_validate(one) for one in await visits_read.round_of(work, apiary_id)]


@router.post("/colonies/{colony_id}/hold", status_code=204)
async def hold_colony(colony_id: UUID, given: HoldInput, who: Who, desk: TheDesk) -> None:
    """Put a colony on hold: no comb leaves it."""
    async with desk.work(who) as work:
        await colonies_holds.hold(work, colony_id, given.id, given.since, given.why)


@router.post("/colonies/{colony_id}/hold/lift", status_code=204)
async def lift_hold(colony_id: UUID, given: LiftInput, who: Who, desk: TheDesk) -> None:
    """Lift the hold of a colony."""
    async with desk.work(who) as work:
        await colonies_holds.lift(work, colony_id, given.why)
