"""From what was counted to a score: adults on the lid, wasps in five minutes, tunnelled combs."""

from __future__ import annotations

from dataclasses import dataclass

from redframe.core.errors import InvalidInput
from redframe.core.pests.pests import PestId, pests

BEETLES = ((21, 3), (6, 2), (1, 1))
WASPS = ((11, 3), (3, 2), (1, 1))
"""Scores by the least count that has them, the greatest first."""
WASPS_IN = ((3, 3), (1, 2))
"""The same of those that go in."""
TRAP_DAYS_LEAST = 1.0


@dataclass(frozen=True, slots=True)
class Counted:
    """What was counted of a pest; None where it was not. `adults`: beetles on the lid and bars; `larvae`, `slime`,
    `eggs`: of the beetle; `hovering`, `going_in`: wasps or hornets in five minutes; `stopped`: bees no longer defend or
    fly; `combs`: combs with moth, `abandoned`: the nest is given up to it."""

    adults: int | None = None
    eggs: bool = False
    larvae: bool = False
    slime: bool = False
    hovering: int | None = None
    going_in: int | None = None
    stopped: bool = False
    combs: int | None = None
    abandoned: bool = False


def score_of(pest: PestId, counted: Counted) -> int | None:
    """The score that counts say of beetle, wasps and moth; None for pests that are scored by eye, or where nothing was
    counted."""
    if pest == "beetle":
        return _beetle(counted)
    if pest == "wasps":
        if counted.stopped:
            return 4
        if counted.hovering is None and counted.going_in is None:
            return None
        return max(_by(counted.hovering or 0, WASPS), _by(counted.going_in or 0, WASPS_IN))
    if pest == "moth":
        if counted.abandoned:
            return 4
        return None if counted.combs is None else min(counted.combs, 1) if counted.combs < 2 else 3
    return None


def _beetle(counted: Counted) -> int | None:
    if counted.slime:
        return 5
    if counted.larvae:
        return 4
    if counted.eggs:
        return 3
    return None if counted.adults is None else _by(counted.adults, BEETLES)


def _by(count: int, steps: tuple[tuple[int, int], ...]) -> int:
    return next((score for least, score in steps if count >= least), 0)


def check_score(pest: PestId, score: int) -> None:
    """Raise InvalidInput("score") for one that the pest does not have."""
    if score != 0 and score not in pests()[pest].scores:
        raise InvalidInput("score", f"goes from 0 to {max(pests()[pest].scores)}", code="out_of_range")


def per_trap_day(beetles: int, traps: int, days: float) -> float:
    """Beetles a trap and day. Raises InvalidInput for no trap or less than a day."""
    if traps < 1:
        raise InvalidInput("traps", "at least one trap", code="out_of_range")
    if days < TRAP_DAYS_LEAST:
        raise InvalidInput("emptied_on", "a trap stands for a day at least", code="out_of_range")
    return beetles / traps / days
