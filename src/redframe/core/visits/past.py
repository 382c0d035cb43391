"""Visits that a visit is compared with: the colony's own earlier ones, and the latest of the apiary's other
colonies."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from statistics import median
from typing import Literal
from uuid import UUID

from redframe.core.visits.estimates import Estimates

TrendName = Literal["frames_of_bees", "seams_of_bees", "frames_of_brood", "stores_kg"]
TRENDS: tuple[TrendName, ...] = ("frames_of_bees", "seams_of_bees", "frames_of_brood", "stores_kg")


@dataclass(frozen=True, slots=True)
class PastVisit:
    """An earlier visit: how many frames it looked at and what it found of the whole hive."""

    id: UUID
    visited_on: date
    frames: int
    frames_of_bees: float | None
    seams_of_bees: float | None
    frames_of_brood: float | None
    stores_kg: float | None
    capped_cells: float | None
    temper: int | None
    pattern_empty_pct: float | None


@dataclass(frozen=True, slots=True)
class Neighbour:
    """Another colony of the apiary at its latest visit."""

    colony_id: UUID
    visited_on: date
    frames_of_bees: float | None
    seams_of_bees: float | None
    frames_of_brood: float | None
    capped_cells: float | None
    stores_kg: float | None


@dataclass(frozen=True, slots=True)
class VisitTrend:
    """A figure of the colony now, at the visit compared with, and the median of the apiary's other colonies."""

    name: TrendName
    now: float | None
    then: float | None
    apiary_median: float | None
    colonies: int


def trends(estimates: Estimates, compared_with: PastVisit | None, near: Sequence[Neighbour]) -> list[VisitTrend]:
    """Strength, brood and stores of the whole hive: now, then, and at the apiary's other colonies.

    Frames and seams of bees are each compared in their own unit; a unit that nobody used is left out.
    """
    now: dict[TrendName, float | None] = {
        "frames_of_bees": estimates.frames_of_bees,
        "seams_of_bees": estimates.seams_of_bees,
        "frames_of_brood": estimates.frames_of_brood,
        "stores_kg": estimates.stores_kg.value if estimates.stores_kg else None,
    }
    found = []
    for name in TRENDS:
        known: list[float] = [value for value in (getattr(one, name) for one in near) if value is not None]
        then: float | None = getattr(compared_with, name) if compared_with is not None else None
        if name == "seams_of_bees" and now[name] is None and then is None:
            continue
        found.append(VisitTrend(name, now[name], then, median(known) if known else None, len(known)))
    return found
