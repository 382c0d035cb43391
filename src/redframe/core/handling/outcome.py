"""What became of a handling: gone, less, the same or more, in cells on the combs that were looked at, against how it
began; and how the options of a region compare.

Extents stand for cells: few 3, some 33, many 200, the geometric middle of their ranges (docs/methods/handling.md).
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from statistics import median
from typing import Literal

from scipy import special

from redframe.core.disease.signs import Extent
from redframe.core.handling.options import HandlingId

Outcome = Literal["gone", "less", "same", "more"]
CELLS: Mapping[Extent, float] = {"few": 3.0, "some": 33.0, "many": 200.0}
LESS_BELOW, MORE_ABOVE = 0.7, 1.4
"""Ratios to the cells at the beginning between which it counts as the same."""
LEVEL = 0.9


@dataclass(frozen=True, slots=True)
class SignOnComb:
    """A sign that is followed, as it was recorded of a comb."""

    sign: str
    extent: Extent | None
    number: float | None


@dataclass(frozen=True, slots=True)
class Look:
    """What a later look found: cells on the combs that were looked at, how many of these had a sign, how many combs
    there were to be looked at (None: not known)."""

    on: date
    cells: float
    with_sign: int
    looked_at: int
    of: int | None

    @property
    def is_whole(self) -> bool:
        """Every comb that there was to look at was looked at."""
        return self.of is not None and 0 < self.of <= self.looked_at


def cells_on(signs: Iterable[SignOnComb], followed: Sequence[str]) -> float:
    """The sick cells of a comb by the signs that are followed: the most that one of them says, for one cell shows
    several."""
    return max((_cells(one) for one in signs if one.sign in followed), default=0.0)


def _cells(sign: SignOnComb) -> float:
    if sign.number is not None:
        return sign.number
    return CELLS[sign.extent] if sign.extent is not None else CELLS["few"]


def outcome_of(before: float, look: Look) -> Outcome | None:
    """What a look says against the cells at the beginning. Where only a part was looked at it can say no more than that
    there are more: what was not looked at may be as sick as it was (None)."""
    if look.looked_at == 0:
        return None
    if look.cells > MORE_ABOVE * before:
        return "more"
    if not look.is_whole:
        return None
    if look.cells == 0:
        return "gone"
    return "less" if look.cells < LESS_BELOW * before else "same"


@dataclass(frozen=True, slots=True)
class Ended:
    """A handling with its outcome (None: nobody looked again) and the days from the choice to the last look."""

    option: HandlingId
    outcome: Outcome | None
    days: int | None


@dataclass(frozen=True, slots=True)
class Compared:
    """What became of an option in a region: how many chose it, of how many an outcome is known, how many of each, the
    share that is gone or less with its 90 % interval, the days until it was gone (median)."""

    option: HandlingId
    chosen: int
    known: int
    outcomes: Mapping[Outcome, int]
    better: float | None
    low: float | None
    high: float | None
    days_to_gone: float | None


def compare(handlings: Sequence[Ended]) -> list[Compared]:
    """The options that were chosen, the most often chosen first."""
    found = []
    for option in dict.fromkeys(one.option for one in handlings):
        own = [one for one in handlings if one.option == option]
        known = [one for one in own if one.outcome is not None]
        counts: dict[Outcome, int] = {
            word: sum(one.outcome == word for one in known) for word in ("gone", "less", "same", "more")
        }
        better = counts["gone"] + counts["less"]
        low, high = share_interval(better, len(known)) if known else (None, None)
        gone = [one.days for one in known if one.outcome == "gone" and one.days is not None]
        found.append(
            Compared(
                option, len(own), len(known), counts, better / len(known) if known else None, low, high,
                median(gone) if gone else None,
            )
        )  # fmt: skip
    return sorted(found, key=lambda one: (-one.chosen, one.option))


def share_interval(hits: int, of: int) -> tuple[float, float]:
    """The 90 % interval of a share by Jeffreys' prior (Brown, Cai and DasGupta, Statistical Science 16, 2001)."""
    tail = (1 - LEVEL) / 2
    low = 0.0 if hits == 0 else float(special.betaincinv(hits + 0.5, of - hits + 0.5, tail))
    high = 1.0 if hits == of else float(special.betaincinv(hits + 0.5, of - hits + 0.5, 1 - tail))
    return low, high
