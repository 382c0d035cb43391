"""Counts: recorded, amended, and what they mean."""

from __future__ import annotations

from uuid import UUID

from fastapi import APIRouter

from redframe.api.access import TheDesk, Version, Who
from redframe.api.schemas.sampling import (
    CountAmendment,
    CountFields,
    CountInput,
    CountMeaning,
    JarRuler,
    Ruler,
    RulerInput,
    TrailEntry,
)
from redframe.work import sampling

router = APIRouter(tags=["sampling"])


def _new(count_id: UUID, given: CountFields) -> sampling.NewCount:
    return sampling.NewCount(
        id=count_id,
        colony_id=given.colony_id,
        taken_at=given.taken_at,
        shakes=tuple(given.shakes),
        bees_known_by=given.bees_known_by,
        bees=given.bees if given.bees_known_by in ("counted", "photo") else None,
        volume_ml=given.volume_ml if given.bees_known_by in ("volume_level", "volume_heaped") else None,
        mass_g=given.mass_g if given.bees_known_by in ("mass_dry", "mass_wet") else None,
        place_of_bees=given.place_of_bees,
        brood_state=given.brood_state,
        queen_safe=given.queen_safe,
        note=given.note,
    )


@router.post("/counts", status_code=201)
async def record_count(given: CountInput, who: Who, desk: TheDesk) -> CountMeaning:
    """Record a wash as it was taken, shake by shake; what it means comes back."""
    async with desk.work(who) as work:
        return CountMeaning.model_validate(await sampling.record_count(work, _new(given.id, given)))


@router.post("/counts/ruler")
async def jar_ruler(given: RulerInput, who: Who, desk: TheDesk) -> JarRuler:
    """What each number of mites in a jar would mean, so that the bench needs no signal while it counts."""
    async with desk.work(who) as work:
        found = await sampling.ruler(
            work,
            known_by=given.bees_known_by,
            bees=given.bees,
            volume_ml=given.volume_ml,
            mass_g=given.mass_g,
            place_of_bees=given.place_of_bees,
            mites_from=given.mites_from,
            mites_to=given.mites_to,
        )
        return JarRuler(ruler=Ruler.model_validate(found) if found else None)


@router.get("/counts/{count_id}")
async def one_count(count_id: UUID, who: Who, desk: TheDesk) -> CountMeaning:
    """A count and what it means under the policy in force."""
    async with desk.work(who) as work:
        return CountMeaning.model_validate(await sampling.meaning_of(work, count_id))


@router.put("/counts/{count_id}")
async def amend_count(count_id: UUID, given: CountAmendment, version: Version, who: Who, desk: TheDesk) -> CountMeaning:
    """Amend a count; the former version and the reason are kept."""
    async with desk.work(who, given.reason) as work:
        amended = await sampling.amend_count(work, count_id, version, _new(count_id, given))
        return CountMeaning.model_validate(amended)


@router.get("/counts/{count_id}/history")
async def count_history(count_id: UUID, who: Who, desk: TheDesk) -> list[TrailEntry]:
    """Every version of a count, newest first."""
    async with desk.work(who) as work:
        return [TrailEntry.model_validate(entry) for entry in await sampling.trail(work, count_id)]
