"""What another word on disease in the region would have changed of the latest visits, and who said what when."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from uuid import UUID

from redframe.core.disease.region import DiseaseRegion, adjustable
from redframe.core.visits.disease_reading import DiseaseReading, read_disease
from redframe.store import disease, visits
from redframe.work.disease.found import found_at
from redframe.work.roles import require
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.visits.read import view_of

BACK = timedelta(days=180)
MOST_VISITS = 40
TELLS_FROM = 0.05
"""A chance that moves by less is no change."""


@dataclass(frozen=True, slots=True)
class Leading:
    """The condition that stands first, with its chance."""

    name: str
    chance: float


@dataclass(frozen=True, slots=True)
class ReadingChange:
    """A visit that would be read otherwise: what stands first now and then (None: nothing would be said)."""

    visit_id: UUID
    label: str
    apiary: str
    visited_on: date
    before: Leading | None
    after: Leading | None


@dataclass(frozen=True, slots=True)
class RegionPreview:
    """The latest visits that recorded a sign, and those of them that would be read otherwise."""

    visits: int
    changes: list[ReadingChange]


@dataclass(frozen=True, slots=True)
class RegionSaid:
    """What was said of the region with a version of the policy, by whom and when."""

    version: int
    at: datetime
    by_name: str
    region: DiseaseRegion


@dataclass(frozen=True, slots=True)
class RegionRecord:
    """The conditions of which it can be said how common they are, and everything that was said, newest first."""

    conditions: dict[str, str]
    said: list[RegionSaid]


async def preview_region(unit: UnitOfWork, region: DiseaseRegion) -> RegionPreview:
    """Read the latest visits with a sign as if this had been said of the region; nothing is written. Raises NotAllowed
    for who sets no policy."""
    require(unit.who, "set_policy")
    ids = await disease.visits_with_signs(unit.connection, unit.today - BACK, MOST_VISITS)
    found = []
    for visit_id in ids:
        view = await view_of(unit, await visits.visit(unit.connection, visit_id))
        as_if = found_at(view, region)
        on = view.visit.visited_on
        before = _leading(view.assessment.disease)
        after = _leading(read_disease(as_if.findings, as_if.context, on=on))
        if _differs(before, after):
            found.append(ReadingChange(visit_id, view.place.label, view.place.apiary, on, before, after))
    return RegionPreview(len(ids), found)


async def region_record(unit: UnitOfWork) -> RegionRecord:
    """What was said of the region, and of which conditions it can be."""
    rows = await disease.regions_said(unit.connection)
    said = [
        RegionSaid(row.version, row.created_at, row.by_name, DiseaseRegion.model_validate(row.disease_region))
        for row in rows
    ]
    # Versions that changed something else of the policy say the same again.
    before = [*(one.region for one in said[1:]), None]
    kept = [one for one, older in zip(said, before, strict=True) if one.region != older]
    return RegionRecord(adjustable(), kept)


def _leading(reading: DiseaseReading | None) -> Leading | None:
    if reading is None or not reading.fits:
        return None
    first = reading.fits[0]
    return Leading(first.name, first.chance)


def _differs(before: Leading | None, after: Leading | None) -> bool:
    if before is None or after is None:
        return before is not after
    return before.name != after.name or abs(before.chance - after.chance) >= TELLS_FROM
