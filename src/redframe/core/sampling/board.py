"""Mites fallen on an insert board: the fall a day with its exact interval.

The fall stands on a scale of its own, mites a day. It is never a rate of mites per 100 bees
(docs/methods/counting.md, "The board").
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime

from scipy import special

from redframe.core.errors import InvalidInput

LEAST_DAYS = 0.5


@dataclass(frozen=True, slots=True)
class BoardFall:
    """Days that the board lay (elapsed hours / 24) and mites a day with the 95 % interval of a Poisson count."""

    days: float
    fall_per_day: float
    low_per_day: float
    high_per_day: float


def board_fall(mites: int, placed: datetime, removed: datetime) -> BoardFall:
    """Fall a day of a board placed and removed at two moments with their offsets.

    Elapsed hours count, not calendar days: a change of the clock between them changes nothing. The interval is exact
    (Garwood 1936). Raises InvalidInput("removed") for less than half a day.
    """
    days = (removed.astimezone(UTC) - placed.astimezone(UTC)).total_seconds() / 86_400
    if days < LEAST_DAYS:
        raise InvalidInput("removed", "the board must lie for half a day at least", code="out_of_range")
    low = 0.0 if mites == 0 else float(special.gammaincinv(mites, 0.025))
    high = float(special.gammaincinv(mites + 1, 0.975))
    return BoardFall(days, mites / days, low / days, high / days)
