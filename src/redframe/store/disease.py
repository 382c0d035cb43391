"""Examinations for disease, as visits recorded them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any
from uuid import UUID

from redframe.core.disease.settings import Season
from redframe.core.season.calendar import Phase
from redframe.store.database import Connection, many, scalars


@dataclass(frozen=True, slots=True)
class ExaminationRow:
    """An examination as it is kept; the season that the visit kept, None where it kept only the phase."""

    colony_id: UUID
    visited_on: date
    examination: dict[str, Any]
    season: Season | None
    phase: Phase | None


@dataclass(frozen=True, slots=True)
class RegionRow:
    """What a version of the policy says of disease in the region."""

    version: int
    created_at: datetime
    by_name: str
    disease_region: dict[str, Any]


async def examinations_of_colonies(
    connection: Connection, colony_ids: Sequence[UUID], since: date
) -> list[ExaminationRow]:
    """Examinations of these colonies since a day, oldest first."""
    return await many(connection, ExaminationRow, "examinations_of_colonies", colony_ids=list(colony_ids), since=since)


async def suspicious_colonies(connection: Connection, colony_ids: Sequence[UUID]) -> list[UUID]:
    """Those of which the last visit saw a sign that is not explained."""
    return await scalars(connection, "suspicious_colonies", colony_ids=list(colony_ids))


async def visits_with_signs(connection: Connection, since: date, most: int) -> list[UUID]:
    """The latest closed visits since a day that recorded a sign on a comb."""
    return await scalars(connection, "visits_with_signs", since=since, most=most)


async def regions_said(connection: Connection) -> list[RegionRow]:
    """What each version of the policy says of the region, the newest first."""
    return await many(connection, RegionRow, "regions_said")
