"""What a place's calendar makes of a colony through the year: brood, drones, and the share of long-lived bees.

All on a 365-day axis (29 February reads as 28 February). The shapes are those of docs/methods/forecast.md, "Season".
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from redframe.core.season.calendar import BasePhase, Calendar

Days = npt.NDArray[np.float64]
Mask = npt.NDArray[np.bool_]

YEAR = 365
FLOOR_WITHOUT_BREAK = 0.35
"""Brood at its lowest, as a share of the peak, where brood never stops."""
DRONES_FROM, DRONES_OVER = 0.35, 0.5
"""Drones come at this fraction of build-up and are full this fraction later."""
DRONES_GO_DAYS = 35
WINTER_BEES_DAYS = 60
WINTER_BEES_GO_DAYS = 50


def day_of_year(day: date) -> int:
    """Index on the 365-day axis, 0 for 1 January."""
    return (date(2001, day.month, 28 if (day.month, day.day) == (2, 29) else day.day) - date(2001, 1, 1)).days


def smooth(share: Days | float) -> Days:
    """The smooth step u^2 (3 - 2u) of a share held between 0 and 1."""
    u = np.clip(share, 0.0, 1.0)
    return np.asarray(u * u * (3 - 2 * u))


@dataclass(frozen=True, slots=True)
class Season:
    """Day by day of the year, each of shape (365,).

    Worker brood is `brood + late_share * brood_late` of its greatest extent; `drones` scales drone brood, `winter` is
    the share of the adults that are long-lived; `decline` and `dormant` say in which phase arrivals come how.
    """

    brood: Days
    brood_late: Days
    drones: Days
    winter: Days
    decline: Mask
    dormant: Mask


@lru_cache(maxsize=64)
def season_of(calendar: Calendar) -> Season:
    """The tables of a calendar. Without a dormant phase brood never stops and no bee is long-lived."""
    starts = sorted((_on_axis(index), phase) for index, phase in calendar.starts)
    has_dormant = any(phase == "dormant" for _, phase in starts)
    floor = 0.0 if has_dormant else FLOOR_WITHOUT_BREAK
    brood, late, drones, winter = (np.zeros(YEAR) for _ in range(4))
    phase_of: list[BasePhase] = ["dormant"] * YEAR
    for number, (start, phase) in enumerate(starts):
        length = (starts[(number + 1) % len(starts)][0] - start) % YEAR or YEAR
        since = np.arange(length)
        at = (start + since) % YEAR
        share = since / length
        for index in at:
            phase_of[index] = phase
        if phase == "build_up":
            brood[at] = floor + (1 - floor) * smooth(share)
            drones[at] = smooth((share - DRONES_FROM) / DRONES_OVER)
            if has_dormant:
                winter[at] = 1 - smooth(since / WINTER_BEES_GO_DAYS)
        elif phase == "peak":
            brood[at], late[at], drones[at] = 1 - share, share, 1.0
        elif phase == "decline":
            brood[at], late[at] = floor * smooth(share), 1 - smooth(share)
            drones[at] = 1 - smooth(since / DRONES_GO_DAYS)
            if has_dormant and calendar.winter_bees is not None:
                eggs_from = (_on_axis(calendar.winter_bees) - start) % YEAR
                winter[at] = smooth((since - eggs_from) / WINTER_BEES_DAYS)
        else:
            winter[at] = 1.0
    phases = np.array(phase_of)
    return Season(brood, late, drones, winter, phases == "decline", phases == "dormant")


def _on_axis(leap_index: int) -> int:
    """An index of the 366-day calendar on the 365-day axis."""
    return leap_index if leap_index < 59 else leap_index - 1
