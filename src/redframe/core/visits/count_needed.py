"""A count that the signs of a visit ask for: dead brood and crippled bees are read against the mites of the colony."""

from __future__ import annotations

from datetime import date

from redframe.core.visits.disease_reading import DiseaseReading
from redframe.core.visits.finding import Level, VisitFinding

FRESH_DAYS = 28
"""So long a count tells how many mites there are."""
OF_MITES = "varroa_pms"


def count_needed(reading: DiseaseReading, counted_on: date | None, on: date) -> VisitFinding | None:
    """A count, where mites are among what the signs may fit and none is fresh. Pressing where a rule names them."""
    fit = next((one for one in reading.fits if one.id == OF_MITES), None)
    if fit is None or (counted_on is not None and 0 <= (on - counted_on).days <= FRESH_DAYS):
        return None
    level: Level = "act" if fit.pinned_by or fit is reading.fits[0] else "watch"
    if counted_on is None:
        return VisitFinding("count_needed_never", level)
    return VisitFinding("count_needed", level, {"counted": counted_on})
