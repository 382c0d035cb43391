"""Disease: what an examination can look for, and what those of an apiary say together."""

from __future__ import annotations

from uuid import UUID

from fastapi import Response

from redframe.api.access import TheServices, Who
from redframe.api.again import topic
from redframe.api.kept import OfApiary
from redframe.core.disease.examination_words import ExaminationWords, examination_words
from redframe.core.disease.region import DiseaseRegion
from redframe.work.disease import preview
from redframe.work.disease.firmness import VisitFirmness, firmness_of_visit
from redframe.work.disease.preview import RegionPreview, RegionRecord
from redframe.work.disease.unseen import UnseenHere, unseen_here

router = topic("disease")


@router.get("/visits/{visit_id}/firmness")
async def read_firmness(visit_id: UUID, who: Who, services: TheServices) -> VisitFirmness | None:
    """How firm what is likeliest is: how often it still is where every estimate is moved a little."""
    async with services.unit_of_work(who) as unit:
        return await firmness_of_visit(unit, visit_id)


@router.get("/disease-region")
async def read_region_record(who: Who, services: TheServices) -> RegionRecord:
    """Which conditions it can be said of how common they are, and what was said, by whom and when."""
    async with services.unit_of_work(who) as unit:
        return await preview.region_record(unit)


@router.post("/disease-region/preview")
async def preview_region(given: DiseaseRegion, who: Who, services: TheServices) -> RegionPreview:
    """Which of the latest visits with a sign would be read otherwise; nothing is written."""
    async with services.unit_of_work(who) as unit:
        return await preview.preview_region(unit, given)


@router.get("/examinations")
async def describe_examinations(who: Who) -> ExaminationWords:
    """What an examination can look for, and what of late bears on disease."""
    return examination_words()


@router.get("/apiaries/{apiary_id}/unseen", response_model=UnseenHere)
async def read_unseen(apiary_id: UUID, asked: OfApiary) -> Response:
    """The chance of each notifiable disease being at an apiary unseen, by what its examinations found nothing of."""
    return await asked.answer(lambda unit: unseen_here(unit, apiary_id))
