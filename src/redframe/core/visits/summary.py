"""What lists, options and trends read of a visit: one row, from everything that was recorded of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

from redframe.core.visits.estimates import Estimates, SeenFrame
from redframe.core.visits.queen import brood_ages
from redframe.core.visits.record import After

StrengthUnit = Literal["frames", "seams"]
BroodSeen = Literal["yes", "no", "unknown"]


@dataclass(frozen=True, slots=True)
class VisitSummary:
    """A visit in one row. None and "unknown" stand for what was not looked at; figures are of the whole hive."""

    strength: float | None
    strength_unit: StrengthUnit | None
    capped_brood: BroodSeen
    eggs_seen: bool | None
    queen_seen: bool | None
    supers_on: bool | None
    fed: bool | None
    note: str
    frames_of_bees: float | None
    seams_of_bees: float | None
    frames_of_brood: float | None
    capped_cells: float | None
    stores_kg: float | None
    temper: int | None
    pattern_empty_pct: float | None
    suspicious: list[str]
    next_visit: date | None


def summarise(
    frames: Sequence[SeenFrame], after: After, estimates: Estimates, suspicious: Sequence[str], *, supers_stand: bool
) -> VisitSummary:
    """The row of a visit. `supers_stand`: the boxes of its day say that supers are on, where nobody answered.

    Sealed brood is "no" only where the nest was looked through or somebody said so.
    """
    ages = brood_ages(frames, after)
    capped = ages.capped
    if capped is False and after.capped_brood is None and not estimates.nest.through:
        capped = None
    strength, unit = _strength(estimates)
    seen = after.queen == "seen" or any(frame.record.queen for frame in frames)
    return VisitSummary(
        strength=strength,
        strength_unit=unit,
        capped_brood="unknown" if capped is None else "yes" if capped else "no",
        eggs_seen=True if after.queen == "eggs_only" else ages.eggs,
        queen_seen=seen if after.queen is not None or frames else None,
        supers_on=after.supers_on if after.supers_on is not None else True if supers_stand else None,
        fed=after.fed,
        note=after.note,
        frames_of_bees=estimates.frames_of_bees,
        seams_of_bees=estimates.seams_of_bees,
        frames_of_brood=estimates.frames_of_brood,
        capped_cells=estimates.capped.value if estimates.capped is not None else None,
        stores_kg=estimates.stores_kg.value if estimates.stores_kg is not None else None,
        temper=after.temper,
        pattern_empty_pct=after.pattern_empty_pct,
        suspicious=list(suspicious),
        next_visit=after.next_visit,
    )


def _strength(estimates: Estimates) -> tuple[float | None, StrengthUnit | None]:
    if estimates.frames_of_bees is not None:
        return estimates.frames_of_bees, "frames"
    if estimates.seams_of_bees is not None:
        return estimates.seams_of_bees, "seams"
    return None, None
