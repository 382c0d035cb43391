"""Examinations for disease, as visits recorded them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
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


async def examinations_of_colonies(
    connection: Connection, colony_ids: Sequence[UUID], since: date
) -> list[ExaminationRow]:
    """Examinations of these colonies since a day, oldest first."""
    return await many(connection, ExaminationRow, "examinations_of_colonies", colony_ids=list(colony_ids), since=since)


async def suspicious_colonies(connection: Connection, colony_ids: Sequence[UUID]) -> list[UUID]:
    """Those of which the last visit saw a sign that is not explained."""
    return await scalars(connection, "suspicious_colonies", colony_ids=list(colony_ids))
