"""What is done to a colony, or happens to it, on dated days: treatments, breaks in laying, splits, drone comb cut."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

import numpy as np
import numpy.typing as npt

DAYS_TO_CAP_WORKER = 9
DAYS_TO_CAP_DRONE = 10
"""Days from the egg to the capping of its cell: a break in laying reaches the cappings so much later."""


@dataclass(frozen=True, slots=True)
class Treat:
    """A treatment: shares of the mites on bees (`kp`) and in cells (`kc`) killed a day, from `start` for `days`."""

    start: date
    days: int
    kp: float
    kc: float


@dataclass(frozen=True, slots=True)
class LayingBreak:
    """No egg from `start` for `days`."""

    start: date
    days: int


@dataclass(frozen=True, slots=True)
class Split:
    """Shares of the bees and of the brood that leave, and the days without laying after it."""

    date: date
    bees: float
    brood: float
    gap: int


@dataclass(frozen=True, slots=True)
class DroneCut:
    """A share of the capped drone brood cut out."""

    date: date
    share: float


@dataclass(frozen=True, slots=True)
class Reinvasion:
    """Mites arriving a day, beyond the usual, from `start` for `days`."""

    start: date
    days: int
    mites_per_day: float


Event = Treat | LayingBreak | Split | DroneCut | Reinvasion


Share = float | npt.NDArray[np.floating[Any]]


@dataclass(frozen=True, slots=True)
class Killing:
    """Shares of the mites on bees and in cells that treatments kill on a day; of several colonies at once, shape
    (colonies, 1)."""

    kp: Share
    kc: Share


@dataclass(frozen=True, slots=True)
class DayOfEvents:
    """All that happens on one day."""

    treatments: Sequence[Killing] = ()
    bees_leaving: float = 0.0
    brood_leaving: float = 0.0
    drones_cut: float = 0.0
    arriving: float = 0.0
    worker_capping: bool = True
    drone_capping: bool = True


QUIET = DayOfEvents()


def on_day(events: Sequence[Event], day: date) -> DayOfEvents:
    """What the events do on a day."""
    if not events:
        return QUIET
    treatments: list[Killing] = []
    staying_bees = staying_brood = staying_drones = 1.0
    arriving = 0.0
    worker = drone = True
    for event in events:
        match event:
            case Treat(start, days, kp, kc) if 0 <= (day - start).days < days:
                treatments.append(Killing(kp, kc))
            case LayingBreak(start, days):
                since = (day - start).days
                worker &= not 0 <= since - DAYS_TO_CAP_WORKER < days
                drone &= not 0 <= since - DAYS_TO_CAP_DRONE < days
            case Split(on, bees, brood, gap):
                since = (day - on).days
                if since == 0:
                    staying_bees *= 1 - bees
                    staying_brood *= 1 - brood
                worker &= not 0 <= since - DAYS_TO_CAP_WORKER < gap
                drone &= not 0 <= since - DAYS_TO_CAP_DRONE < gap
            case DroneCut(on, share) if on == day:
                staying_drones *= 1 - share
            case Reinvasion(start, days, mites) if 0 <= (day - start).days < days:
                arriving += mites
            case _:
                pass
    return DayOfEvents(treatments, 1 - staying_bees, 1 - staying_brood, 1 - staying_drones, arriving, worker, drone)
