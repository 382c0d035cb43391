"""When a colony died: an interval between the last sign of life and the first of death, and what its brood tells.

Bounds that contradict each other are shown, never averaged. Days of brood: docs/methods/dead-outs.md.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal, get_args

AliveCode = Literal[
    "visit_alive", "count_alive", "fed_alive", "noted_alive", "sensor_warm", "weight_falls", "bees_soft"
]
DeadCode = Literal["found_dead", "no_flight", "sensor_cold", "moth_cocoons", "robbing_seen", "bees_dry"]
Youngest = Literal["eggs", "open", "capped", "none"]
DroneBrood = Literal["capped", "emerged"]
EmergencyCells = Literal["sealed", "opened"]

ALIVE: frozenset[str] = frozenset(get_args(AliveCode))
WEAK: frozenset[str] = frozenset({"bees_soft", "bees_dry"})
"""Bounds from how the dead look: they narrow the best guess, never the interval."""
SOFT_DAYS, DRY_DAYS, COCOON_DAYS = 14, 28, 28
"""Below 10 C bees are soft for a week or two, and dry and brittle after four; moth spins after four warm weeks."""
CARE_ENDED: dict[Youngest, tuple[int, int | None]] = {
    "eggs": (0, 3),
    "open": (3, 9),
    "capped": (9, 21),
    "none": (21, None),
}
"""Days from the laying of the last worker egg to the end of care, by the youngest worker brood."""
DRONE_EGGS: dict[DroneBrood, int] = {"capped": 10, "emerged": 24}
"""Least days from the first drone egg in a worker cell to the end of care."""
QUEEN_LOST: dict[DroneBrood, int] = {"capped": 31, "emerged": 45}
"""The same for the loss of the queen where workers laid: they begin three to four weeks after queen and open brood."""
CELL_OPENED, CELL_SEALED = 10, (2, 16)


@dataclass(frozen=True, slots=True)
class Bound:
    """A day on which the colony still lived, or no longer did, and how that is known."""

    code: AliveCode | DeadCode
    on: date

    @property
    def is_alive(self) -> bool:
        """Whether it lived on that day."""
        return self.code in (
            "visit_alive",
            "count_alive",
            "fed_alive",
            "noted_alive",
            "sensor_warm",
            "weight_falls",
            "bees_soft",
        )

    @property
    def is_weak(self) -> bool:
        """Whether it only narrows the best guess."""
        return self.code in WEAK


@dataclass(frozen=True, slots=True)
class DaySpan:
    """A span of days; None: open on that side."""

    earliest: date | None
    latest: date | None


@dataclass(frozen=True, slots=True)
class BroodTold:
    """What brood and queen cells say of the time before: of the last worker egg, of the first drone eggs in worker
    cells, of the loss of the queen. `code` says from what."""

    code: Literal["last_worker_egg", "no_worker_brood", "drone_eggs", "queen_lost_workers_laid", "queen_lost_cell"]
    span: DaySpan


@dataclass(frozen=True, slots=True)
class Contradiction:
    """A sign of life that is later than one of death."""

    alive: Bound
    dead: Bound


@dataclass(frozen=True, slots=True)
class Timeline:
    """The interval of the death (`earliest` None: no sign of life on record), the best guess, the bounds that make it
    in order of time, two that contradict each other (the life that is later than a death), and what the brood tells."""

    earliest: date | None
    latest: date
    best_guess: date | None
    bounds: Sequence[Bound]
    conflict: Contradiction | None
    brood: Sequence[BroodTold]


@dataclass(frozen=True, slots=True)
class BroodLeft:
    """What brood was found: the youngest worker stage, drone brood in worker cells, whether workers laid, and emergency
    queen cells; None where it was not looked at."""

    youngest: Youngest | None = None
    drone: DroneBrood | None = None
    workers_laid: bool = False
    cells: EmergencyCells | None = None


def timeline(bounds: Sequence[Bound], found_on: date, brood: BroodLeft) -> Timeline:
    """The interval from its bounds; the day on which it was found dead is always one."""
    every = sorted({*bounds, Bound("found_dead", found_on)}, key=lambda one: (one.on, not one.is_alive, one.code))
    firm = [one for one in every if not one.is_weak]
    alive = max((one for one in firm if one.is_alive), key=lambda one: one.on, default=None)
    dead = min((one for one in firm if not one.is_alive), key=lambda one: one.on)
    if alive is not None and alive.on > dead.on:
        return Timeline(dead.on, alive.on, None, every, Contradiction(alive, dead), ())
    earliest = alive.on if alive is not None else None
    return Timeline(
        earliest, dead.on, _best_guess(earliest, dead.on, every), every, None, _brood(earliest, dead.on, brood)
    )


def _best_guess(earliest: date | None, latest: date, bounds: Sequence[Bound]) -> date | None:
    """The middle of the interval, narrowed by how the dead look where that agrees with it."""
    if earliest is None:
        return None
    low, high = earliest, latest
    for one in bounds:
        if one.is_weak and earliest <= one.on <= latest:
            low, high = (max(low, one.on), high) if one.is_alive else (low, min(high, one.on))
    if low > high:
        low, high = earliest, latest
    return low + (high - low) // 2


def _brood(earliest: date | None, latest: date, left: BroodLeft) -> list[BroodTold]:
    found: list[BroodTold] = []
    if left.youngest is not None:
        least, most = CARE_ENDED[left.youngest]
        code: Literal["last_worker_egg", "no_worker_brood"] = "no_worker_brood" if most is None else "last_worker_egg"
        found.append(BroodTold(code, _before(earliest, latest, least, most)))
    if left.drone is not None:
        found.append(BroodTold("drone_eggs", _before(None, latest, DRONE_EGGS[left.drone], None)))
        if left.workers_laid:
            span = _before(None, latest, QUEEN_LOST[left.drone], None)
            found.append(BroodTold("queen_lost_workers_laid", span))
    if left.cells is not None:
        least, most = (CELL_OPENED, None) if left.cells == "opened" else CELL_SEALED
        found.append(BroodTold("queen_lost_cell", _before(earliest, latest, least, most)))
    return found


def _before(earliest: date | None, latest: date, least: int, most: int | None) -> DaySpan:
    """So many days before a day within the interval."""
    first = earliest - timedelta(days=most) if earliest is not None and most is not None else None
    return DaySpan(first, latest - timedelta(days=least))


def softness(looks: Literal["soft", "dry"], examined_on: date) -> Bound:
    """What the dead bees look like as a weak bound."""
    if looks == "soft":
        return Bound("bees_soft", examined_on - timedelta(days=SOFT_DAYS))
    return Bound("bees_dry", examined_on - timedelta(days=DRY_DAYS))


def cocoons(examined_on: date) -> Bound:
    """Moth cocoons: no bees for four warm weeks at least."""
    return Bound("moth_cocoons", examined_on - timedelta(days=COCOON_DAYS))
