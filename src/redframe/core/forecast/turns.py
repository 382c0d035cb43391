"""When what is expected of a colony crosses its act level, in one sentence: under it from a day, over it again by one.

Where the colony is under the level now, the day is that by which half of what may come has been over it; later turns
follow the middle of the forecast.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

from redframe.core.said import Params

TurnCode = Literal[
    "over_throughout", "over_then_under", "over_under_over", "under_then_over", "under_over_under", "may_be_over",
    "under_throughout",
]  # fmt: skip


@dataclass(frozen=True, slots=True)
class Turns:
    """How the forecast goes against the level, as a code with the level and the days of its first two turns."""

    code: TurnCode
    params: Params


def turns(
    days: Sequence[date], median: Sequence[float], level: float, *, half_over: date | None, tenth_over: date | None
) -> Turns:
    """The sentence of a forecast.

    `days` and `median` (mites per 100 bees) are its middle from today on, in order, at whatever distance; `half_over`
    and `tenth_over` the days by which 50 and 10 % of what may come have been over `level`, None where not within the
    days looked at; one that has passed, as before a course, says nothing. Raises ValueError without a day.
    """
    if not days:
        raise ValueError("a forecast has at least one day")
    last = days[-1]
    if median[0] >= level:
        under = _turn(days, median, level, 0, over=False)
        if under is None:
            return Turns("over_throughout", {"level": level, "last": last})
        again = _turn(days, median, level, under, over=True)
        if again is None:
            return Turns("over_then_under", {"level": level, "on": days[under]})
        return Turns("over_under_over", {"level": level, "on": days[under], "again": days[again]})
    over = _turn(days, median, level, 0, over=True)
    on = half_over if half_over is not None and half_over > days[0] else None if over is None else days[over]
    if on is None:
        if tenth_over is None or tenth_over <= days[0]:
            return Turns("under_throughout", {"level": level, "last": last})
        return Turns("may_be_over", {"level": level, "on": tenth_over})
    under = None if over is None else _turn(days, median, level, over, over=False)
    if under is None:
        return Turns("under_then_over", {"level": level, "on": on})
    return Turns("under_over_under", {"level": level, "on": on, "again": days[under]})


def _turn(days: Sequence[date], median: Sequence[float], level: float, begin: int, *, over: bool) -> int | None:
    """The first place from `begin` on where the middle is over the level, or under it."""
    return next((at for at in range(begin, len(days)) if (median[at] >= level) is over), None)
