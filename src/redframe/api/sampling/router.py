"""Counts: recorded, amended, and what they mean; boards that lie."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from fastapi import Query, Request, Response

from redframe.api import pictures
from redframe.api.access import TheServices, Version, Who
from redframe.api.again import topic
from redframe.api.bodies import body_of
from redframe.api.sampling.schemas import (
    BoardFields,
    BoardInput,
    BoardLifting,
    BoardPicture,
    BoardPlacing,
    Comparison,
    CountAmendment,
    CountFields,
    CountInput,
    CountMeaning,
    DroneFields,
    InsertBoard,
    JarFields,
    JarRuler,
    LookFields,
    RulerInput,
)
from redframe.core.sampling.board import BoardSample
from redframe.core.sampling.board_marks import Mark
from redframe.core.sampling.count import AnySample, LookSample
from redframe.core.sampling.drone_brood import DroneSample
from redframe.core.sampling.jar import JarSample
from redframe.outlets.pictures import MOST_BYTES
from redframe.store.records import HistoryEntry
from redframe.work.sampling import board_pictures as sampling_board_pictures
from redframe.work.sampling import boards as sampling_boards
from redframe.work.sampling import read as sampling_read
from redframe.work.sampling import record as sampling_record
from redframe.work.sampling import ruler as sampling_ruler
from redframe.work.sampling import trends as sampling_trends

router = topic("sampling")
BOARD_LONGEST_SIDE = 4096
"""A board is kept larger than other photos: a mite must be some ten pixels long."""


def _sample(given: CountFields) -> AnySample:
    if isinstance(given, JarFields):
        known_by = given.bees_known_by
        return JarSample(
            taken_at=given.taken_at,
            shakes=tuple(given.shakes),
            known_by=known_by,
            bees=given.bees if known_by in ("counted", "photo") else None,
            volume_ml=given.volume_ml if known_by in ("volume_level", "volume_heaped") else None,
            mass_g=given.mass_g if known_by in ("mass_dry", "mass_wet") else None,
            place_of_bees=given.place_of_bees,
            brood_state=given.brood_state,
            queen_safe=given.queen_safe,
            method=given.method,
            rested_s=given.rested_s,
            wet=given.wet,
        )
    if isinstance(given, BoardFields):
        return BoardSample(
            given.placed_at, given.taken_at, tuple(given.squares), given.squares_in_all, given.cleaned, given.greased,
            given.ants, given.method,
        )  # fmt: skip
    if isinstance(given, DroneFields):
        return DroneSample(given.cells_opened, given.cells_infested, given.mites_in_cells, given.patches)
    assert isinstance(given, LookFields)
    return LookSample(given.mites_seen)


def _new(count_id: UUID, given: CountFields) -> sampling_record.NewCount:
    board_id, picture = None, None
    if isinstance(given, BoardInput):
        board_id, read_from = given.board_id, given.picture
        if read_from is not None:
            marks = tuple(Mark(one.x, one.y, one.found, one.kept) for one in read_from.marks)
            picture = sampling_record.ReadFrom(read_from.picture_id, tuple(read_from.counted), marks)
    return sampling_record.NewCount(
        count_id,
        given.colony_id,
        given.taken_at,
        _sample(given),
        given.brood_state,
        given.note,
        board_id,
        picture,
        given.targeted,
    )


@router.post("/counts", status_code=201)
async def record_count(given: CountInput, who: Who, services: TheServices) -> CountMeaning:
    """Record a count as it was taken; what it means comes back."""
    async with services.unit_of_work(who) as unit:
        return CountMeaning.model_validate(
            await sampling_record.record_count(unit, _new(given.id, given), look_ahead=True)
        )


@router.post("/counts/ruler")
async def rule_jar(given: RulerInput, who: Who, services: TheServices) -> JarRuler:
    """What each number of mites would mean, so that the bench needs no signal while it counts."""
    measure = sampling_ruler.Measure(
        given.method,
        given.bees_known_by,
        given.bees,
        given.volume_ml,
        given.mass_g,
        given.place_of_bees,
        given.board_days,
    )
    async with services.unit_of_work(who) as unit:
        found = await sampling_ruler.ruler(unit, given.apiary_id, measure, given.mites_from, given.mites_to)
        return JarRuler(ruler=found if found else None)


@router.get("/counts/compare")
async def compare_counts(first: UUID, second: UUID, who: Who, services: TheServices) -> Comparison:
    """Whether a colony's infestation really rose between two of its counts."""
    async with services.unit_of_work(who) as unit:
        return Comparison.model_validate(await sampling_trends.compare(unit, first, second))


@router.get("/counts/{count_id}")
async def read_count(count_id: UUID, who: Who, services: TheServices) -> CountMeaning:
    """A count and what it means under the policy in force."""
    async with services.unit_of_work(who) as unit:
        return CountMeaning.model_validate(await sampling_read.meaning_of(unit, count_id, look_ahead=True))


@router.put("/counts/{count_id}")
async def amend_count(
    count_id: UUID, given: CountAmendment, version: Version, who: Who, services: TheServices
) -> CountMeaning:
    """Amend a count; the version before and the reason are kept."""
    async with services.unit_of_work(who, given.reason) as unit:
        amended = await sampling_record.amend_count(unit, count_id, version, _new(count_id, given), look_ahead=True)
        return CountMeaning.model_validate(amended)


@router.delete("/counts/{count_id}", status_code=204)
async def undo_count(count_id: UUID, who: Who, services: TheServices) -> None:
    """Take back a count that the person recorded a short while ago; its history keeps it."""
    async with services.unit_of_work(who, "undone") as unit:
        await sampling_record.undo_count(unit, count_id)


@router.get("/counts/{count_id}/history")
async def list_count_versions(count_id: UUID, who: Who, services: TheServices) -> list[HistoryEntry]:
    """Every version of a count, newest first."""
    async with services.unit_of_work(who) as unit:
        return list(await sampling_read.history(unit, count_id))


@router.get("/boards")
async def list_boards(
    colony: Annotated[list[UUID], Query(min_length=1, max_length=200)], who: Who, services: TheServices
) -> list[InsertBoard]:
    """Boards that lie under these colonies and wait to be read."""
    async with services.unit_of_work(who) as unit:
        return [InsertBoard.model_validate(board) for board in await sampling_boards.boards_lying(unit, colony)]


@router.post("/boards", status_code=201)
async def place_board(given: BoardPlacing, who: Who, services: TheServices) -> InsertBoard:
    """Lay a board under a colony."""
    async with services.unit_of_work(who) as unit:
        placed = await sampling_boards.place_board(
            unit, given.id, given.colony_id, placed_at=given.placed_at, cleaned=given.cleaned, greased=given.greased
        )
        return InsertBoard.model_validate(placed)


@router.post("/boards/{board_id}/lifted", status_code=204)
async def remove_board(board_id: UUID, given: BoardLifting, who: Who, services: TheServices) -> Response:
    """Take a board away unread."""
    async with services.unit_of_work(who) as unit:
        await sampling_boards.take_board_away(unit, board_id, given.removed_at)
    return Response(status_code=204)


@router.put(
    "/colonies/{colony_id}/board-pictures/{picture_id}",
    openapi_extra={
        "requestBody": {
            "required": True,
            "content": {
                kind: {"schema": {"type": "string", "format": "binary"}} for kind in ("image/jpeg", "image/png")
            },
        }
    },
)
async def add_board_picture(
    colony_id: UUID,
    picture_id: UUID,
    request: Request,
    who: Who,
    services: TheServices,
    width_mm: Annotated[float, Query(ge=20, le=2000, allow_inf_nan=False)],
    columns: Annotated[int, Query(ge=1, le=20)] = 6,
    rows: Annotated[int, Query(ge=1, le=20)] = 4,
) -> BoardPicture:
    """Keep the picture (JPEG or PNG) of a board and find on it what may be mites; a person accepts or strikes each.
    `width_mm` is the width of what the picture shows."""
    async with services.unit_of_work(who) as unit:
        await sampling_board_pictures.may_add(unit, colony_id)
    content = await body_of(request, MOST_BYTES)
    read, found = await pictures.read_board(content, BOARD_LONGEST_SIDE, width_mm)
    async with services.unit_of_work(who) as unit:
        kept = await sampling_board_pictures.add_picture(
            unit, picture_id, colony_id, jpeg=read.jpeg, width=read.width, height=read.height, found=found,
            width_mm=width_mm, columns=columns, rows=rows,
        )  # fmt: skip
        return BoardPicture.model_validate(kept)


@router.get("/board-pictures/{picture_id}")
async def read_board_picture(picture_id: UUID, who: Who, services: TheServices) -> BoardPicture:
    """A picture of a board: what was found on it, and what a person made of that."""
    async with services.unit_of_work(who) as unit:
        return BoardPicture.model_validate(await sampling_board_pictures.picture(unit, picture_id))


@router.get(
    "/board-pictures/{picture_id}/image",
    response_class=Response,
    responses={200: {"content": {"image/jpeg": {}}}},
)
async def read_board_image(picture_id: UUID, who: Who, services: TheServices) -> Response:
    """The picture of a board as JPEG."""
    async with services.unit_of_work(who) as unit:
        found = await sampling_board_pictures.image(unit, picture_id)
    return Response(found, media_type="image/jpeg", headers={"Cache-Control": "private, max-age=86400, immutable"})
