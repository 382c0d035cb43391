"""Suspect cases: raised, moved step by step, their samples, their papers, the apiaries around."""

from __future__ import annotations

import asyncio
from collections.abc import Callable
from typing import Annotated, Literal
from uuid import UUID

from fastapi import Query, Request, Response

from redframe.api import pictures
from redframe.api.access import TheServices, Version, Who
from redframe.api.again import topic
from redframe.api.bodies import body_of
from redframe.api.cases.schemas import AroundVisitInput, CaseCaption, CaseInput, CustodyInput, SampleInput, StepInput
from redframe.core.cases.laboratory import Laboratory
from redframe.outlets.pictures import MOST_BYTES
from redframe.store.case_photos import CasePhoto, CasePicture
from redframe.work.cases import around, photos, read, record, samples, sources, traces, vocabulary
from redframe.work.cases.around import Around
from redframe.work.cases.read import CaseLine, CaseView
from redframe.work.cases.sources import Source
from redframe.work.cases.traces import Traces
from redframe.work.cases.vocabulary import CaseVocabulary

router = topic("cases")
Paper = Literal["keeper", "notice", "neighbours", "order"]
PDF: dict[int | str, dict[str, object]] = {200: {"content": {"application/pdf": {}}}}


def _printed(made: bytes, name: str) -> Response:
    return Response(made, media_type="application/pdf", headers={"Content-Disposition": f'inline; filename="{name}"'})


async def _paper(services: TheServices, who: Who, case_id: UUID, paper: Paper) -> Response:
    """A paper of a case; what prints is loaded when something is printed."""
    from redframe.outlets import case_sheets

    made: dict[Paper, Callable[[CaseView], bytes]] = {
        "keeper": case_sheets.keeper_sheet,
        "notice": case_sheets.authority_notice,
        "neighbours": case_sheets.neighbours_sheet,
        "order": case_sheets.order_sheet,
    }
    async with services.unit_of_work(who) as unit:
        view = await read.case_view(unit, case_id)
    return _printed(await asyncio.to_thread(made[paper], view), f"case-{view.line.case.number}-{paper}.pdf")


@router.get("/cases")
async def list_cases(
    who: Who,
    services: TheServices,
    closed: Annotated[bool, Query(description="the closed ones")] = False,
    apiary: Annotated[UUID | None, Query(description="only of this apiary")] = None,
) -> list[CaseLine]:
    """Suspect cases with where they stand and for whom they wait, newest first."""
    async with services.unit_of_work(who) as unit:
        return await read.case_list(unit, closed=closed, apiary_id=apiary)


@router.get("/case-words")
async def describe_cases(who: Who) -> CaseVocabulary:
    """What a case says: its states, acts and fields, how samples are taken."""
    return vocabulary.case_vocabulary()


@router.post("/cases", status_code=201)
async def raise_case(given: CaseInput, who: Who, services: TheServices) -> CaseView:
    """Raise a suspicion by judgement; its apiary stands still from then on."""
    async with services.unit_of_work(who) as unit:
        return await record.raise_case(unit, given.as_new())


@router.get("/cases/{case_id}")
async def read_case(case_id: UUID, who: Who, services: TheServices) -> CaseView:
    """A case: what may follow and by whom, its clocks, its record, its samples."""
    async with services.unit_of_work(who) as unit:
        return await read.case_view(unit, case_id)


@router.post("/cases/{case_id}/steps")
async def record_case_step(
    case_id: UUID, given: StepInput, version: Version, who: Who, services: TheServices
) -> CaseView:
    """Record a step of a case; nothing of it is ever taken back, only corrected by a later entry."""
    async with services.unit_of_work(who, wide=given.act in record.KEEPS_TRACES) as unit:
        return await record.record_step(unit, case_id, given.as_wanted(version))


@router.post("/cases/{case_id}/samples", status_code=201)
async def take_case_sample(case_id: UUID, given: SampleInput, who: Who, services: TheServices) -> CaseView:
    """Record a sample under its blind code."""
    async with services.unit_of_work(who) as unit:
        return await samples.take_sample(unit, case_id, given.as_new())


@router.post("/case-samples/{sample_id}/custody", status_code=201)
async def hand_on_sample(sample_id: UUID, given: CustodyInput, who: Who, services: TheServices) -> CaseView:
    """Add a line to the chain of custody of a sample."""
    async with services.unit_of_work(who) as unit:
        return await samples.hand_on(unit, sample_id, given.as_new())


@router.post("/cases/{case_id}/laboratory")
async def ask_laboratory(case_id: UUID, request: Request, who: Who, services: TheServices) -> CaseView:
    """Take in what the laboratory has signed of the samples of a case."""
    laboratory: Laboratory = request.app.state.laboratory
    async with services.unit_of_work(who) as unit:
        return await samples.ask_laboratory(unit, laboratory, case_id)


@router.get("/cases/{case_id}/around")
async def list_around(case_id: UUID, who: Who, services: TheServices) -> Around:
    """The apiaries around a case in the order of their inspection; for inspectors and administrators."""
    async with services.unit_of_work(who) as unit:
        return await around.around_case(unit, case_id)


@router.post("/cases/{case_id}/around", status_code=201)
async def record_around_visit(case_id: UUID, given: AroundVisitInput, who: Who, services: TheServices) -> Around:
    """Record a visit to an apiary around a case; for inspectors."""
    async with services.unit_of_work(who) as unit:
        return await around.record_around_visit(unit, case_id, given.as_new())


@router.get("/cases/{case_id}/traces")
async def read_traces(case_id: UUID, who: Who, services: TheServices) -> Traces:
    """From whom a disease may have come and to whom it may have gone; for inspectors and administrators."""
    async with services.unit_of_work(who, wide=True) as unit:
        return await traces.traces_of(unit, case_id)


@router.get("/cases/{case_id}/traces/{number}")
async def read_kept_traces(case_id: UUID, number: int, who: Who, services: TheServices) -> Traces:
    """The traces as they were kept when the case was confirmed or tracing was opened."""
    async with services.unit_of_work(who) as unit:
        return await traces.traces_kept(unit, case_id, number)


@router.get("/case-sources")
async def list_common_sources(who: Who, services: TheServices) -> list[Source]:
    """From where several open cases of a disease may have come; for inspectors and administrators."""
    async with services.unit_of_work(who, wide=True) as unit:
        return await sources.sources_in_common(unit)


@router.put(
    "/cases/{case_id}/photos/{photo_id}",
    openapi_extra=pictures.PHOTO_BODY,
)
async def add_case_photo(
    case_id: UUID,
    photo_id: UUID,
    request: Request,
    who: Who,
    services: TheServices,
    caption: Annotated[CaseCaption, Query()] = "",
) -> list[CasePhoto]:
    """Keep a photo (JPEG or PNG) that a case shows for its record. Its place and camera are not kept."""
    async with services.unit_of_work(who) as unit:
        await photos.may_add(unit, case_id)
    read_in = await pictures.read_photo(await body_of(request, MOST_BYTES))
    picture = CasePicture(read_in.jpeg, read_in.thumbnail, read_in.width, read_in.height)
    async with services.unit_of_work(who) as unit:
        return await photos.add_photo(unit, case_id, photo_id, picture, caption)


@router.get("/case-photos/{case_photo_id}", response_class=Response, responses={200: {"content": {"image/jpeg": {}}}})
async def read_case_photo(
    case_photo_id: UUID, who: Who, services: TheServices, small: Annotated[bool, Query()] = False
) -> Response:
    """A photo of a case as JPEG."""
    async with services.unit_of_work(who) as unit:
        picture = await photos.picture_of(unit, case_photo_id, small=small)
    return Response(picture, media_type="image/jpeg", headers={"Cache-Control": "private, max-age=86400, immutable"})


@router.get("/cases/{case_id}/keeper-sheet.pdf", response_class=Response, responses=PDF)
async def print_keeper_sheet(case_id: UUID, who: Who, services: TheServices) -> Response:
    """What the keeper does now, what not, and whom to ask."""
    return await _paper(services, who, case_id, "keeper")


@router.get("/cases/{case_id}/notice.pdf", response_class=Response, responses=PDF)
async def print_notice(case_id: UUID, who: Who, services: TheServices) -> Response:
    """The notice to the authority: what was found, where, when, by whom, and what was done so far."""
    return await _paper(services, who, case_id, "notice")


@router.get("/cases/{case_id}/neighbours.pdf", response_class=Response, responses=PDF)
async def print_neighbours_sheet(case_id: UUID, who: Who, services: TheServices) -> Response:
    """What the keepers around are told: no keeper, apiary or colony is named."""
    return await _paper(services, who, case_id, "neighbours")


@router.get("/cases/{case_id}/order.pdf", response_class=Response, responses=PDF)
async def print_order(case_id: UUID, who: Who, services: TheServices) -> Response:
    """The order as it was recorded: what, by when, under which number, and what is to be shown of it."""
    return await _paper(services, who, case_id, "order")


@router.get("/case-samples/{sample_id}/label.pdf", response_class=Response, responses=PDF)
async def print_sample_label(sample_id: UUID, who: Who, services: TheServices) -> Response:
    """The blind label of a sample: its code, what it is, when it was taken."""
    from redframe.outlets.case_sheets import sample_label

    async with services.unit_of_work(who) as unit:
        sample, taken = await samples.for_label(unit, sample_id)
    return _printed(await asyncio.to_thread(sample_label, sample, taken), f"sample-{sample.code}.pdf")
