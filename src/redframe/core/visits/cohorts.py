"""Brood by its age: what was eggs and open brood at an earlier visit should be sealed by now, or emerged.

Eggs stand for 3 days, open brood for 6, sealed for 12; within each the ages are taken to be even. What was laid since
comes on top and is not known, so that what is expected is the least there should be. Comb by comb: a comb that hangs
elsewhere now is followed by what it is, not by where it hung. See docs/methods/visits.md, "Brood by its age".
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from redframe.core.visits.estimates import SURVIVE_TO_EMERGE, SeenFrame
from redframe.core.visits.finding import Said, VisitFinding

EGGS, OPEN, SEALED = (0.0, 3.0), (3.0, 9.0), (9.0, 21.0)
"""Ages of a worker in days from the laying of the egg."""
EMERGED_DAYS = 21
FULL_COMB = 20
"""Tenths of both sides."""
COMB_LEAST, COMB_SHORT = 2.0, 0.5
"""A comb on which at least so many tenths should be sealed lacks brood where it has less than this share of them."""
COLONY_LEAST, COLONY_SHORT = 6.0, 0.6
"""The same of all combs together, where more evens out."""


@dataclass(frozen=True, slots=True)
class CombCohort:
    """A comb that was looked at last time, where it hangs now: tenths of both sides that should be sealed and open at
    the least, tenths that are sealed (None: not looked at yet), and whether they fall short."""

    box: int
    slot: int
    sealed_expected: float
    open_expected: float
    sealed_found: int | None
    is_short: bool


@dataclass(frozen=True, slots=True)
class Cohorts:
    """The brood of last time by its age, so many days on; of the combs looked at again the tenths that should be
    sealed, and those that are."""

    days: int
    combs: Sequence[CombCohort]
    sealed_expected: float
    sealed_found: float

    @property
    def is_short(self) -> bool:
        """Whether so much of it is missing that it does not come from reading covers by eye."""
        return self.sealed_expected >= COLONY_LEAST and self.sealed_found < COLONY_SHORT * self.sealed_expected


def grown(ages: tuple[float, float], into: tuple[float, float], days: float) -> float:
    """The share of brood with these ages that has those so many days later."""
    low, high = ages[0] + days, ages[1] + days
    return max(0.0, min(high, into[1]) - max(low, into[0])) / (ages[1] - ages[0])


def cohorts(then: Sequence[SeenFrame], now: Sequence[SeenFrame], days: int) -> Cohorts | None:
    """What became of the brood of an earlier visit; None where it was today, or so long ago that all has emerged."""
    if not 0 < days < EMERGED_DAYS or not then:
        return None
    found = {_comb(frame): frame for frame in now}
    looked = [_followed(frame, found.get(_comb(frame)), days) for frame in then if frame.record.sides]
    again = [one for one in looked if one.sealed_found is not None]
    return Cohorts(
        days, looked, sum(one.sealed_expected for one in again), float(sum(one.sealed_found or 0 for one in again))
    )


def _comb(frame: SeenFrame) -> UUID | tuple[UUID | int, int]:
    return frame.frame_id or (frame.box_id or frame.box, frame.slot)


def _followed(then: SeenFrame, now: SeenFrame | None, days: int) -> CombCohort:
    sides = then.record.sides
    eggs, open_brood = sum(side.eggs for side in sides), sum(side.open for side in sides)
    sealed = sum(side.capped for side in sides)
    expected = sealed * grown(SEALED, SEALED, days) + SURVIVE_TO_EMERGE * (
        open_brood * grown(OPEN, SEALED, days) + eggs * grown(EGGS, SEALED, days)
    )
    still_open = SURVIVE_TO_EMERGE * (open_brood * grown(OPEN, OPEN, days) + eggs * grown(EGGS, OPEN, days))
    here = now or then
    both = now is not None and len(now.record.sides) == len(sides)
    found = sum(side.capped for side in now.record.sides) if now is not None and both else None
    short = found is not None and expected >= COMB_LEAST and found < COMB_SHORT * expected
    return CombCohort(here.box, here.slot, expected, still_open, found, short)


def brood_lost(found: Cohorts | None) -> VisitFinding | None:
    """Brood that should be sealed by now and is not, with what may have become of it."""
    if found is None or not found.is_short:
        return None
    frames = {"expected": found.sealed_expected / FULL_COMB, "found": found.sealed_found / FULL_COMB}
    return VisitFinding("brood_lost", "watch", {**frames, "days": found.days}, (Said("causes_of_lost_brood"),))


def brood_combs(now: Sequence[SeenFrame], then: Sequence[SeenFrame], *, through: bool) -> int | None:
    """How many combs hold brood: those of today where the nest was looked `through`, else no fewer than last time; None
    where neither visit looked at combs with brood."""
    today, before = (sum(frame.record.tenths_of_brood > 0 for frame in seen) for seen in (now, then))
    return (today if through else max(today, before)) or None
