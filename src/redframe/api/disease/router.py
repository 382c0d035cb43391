"""Disease: what an examination can look for, and what those of an apiary say together."""

from __future__ import annotations

from uuid import UUID

from fastapi import Response

from redframe.api.access import Who
from redframe.api.again import topic
from redframe.api.kept import OfApiary
from redframe.core.disease.examination_words import ExaminationWords, examination_words
from redframe.work.disease.unseen import UnseenHere, unseen_here

router = topic("disease")


@router.get("/examinations")
async def describe_examinations(who: Who) -> ExaminationWords:
    """What an examination can look for, and what of late bears on disease."""
    return examination_words()


@router.get("/apiaries/{apiary_id}/unseen", response_model=UnseenHere)
async def read_unseen(apiary_id: UUID, asked: OfApiary) -> Response:
    """The chance of each notifiable disease being at an apiary unseen, by what its examinations found nothing of."""
    return await asked.answer(lambda unit: unseen_here(unit, apiary_id))
