"""Whether a board and a jar of the same days can be of one colony.

A natural fall converts to a rate only within wide bounds (`conversion.py`). Where even so the one is higher than a jar
taken within three days with 97.5 %, or lower, one of the two was taken or read wrongly: neither is believed in silence.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from redframe.core.said import Params
from redframe.core.sampling.conversion import chance_under, fall_as_rate
from redframe.core.sampling.method import CountFinding
from redframe.core.sampling.reading import AnyReading, FallReading, Reading
from redframe.core.sampling.sequential import TOGETHER_WITHIN_DAYS
from redframe.core.season.calendar import BasePhase, Calendar

UNLIKELY = 0.025


@dataclass(frozen=True, slots=True)
class CountOfDay:
    """A count's day and what it read; of counts that may stand for the colony only, no fall under a treatment."""

    taken_on: date
    reading: AnyReading


def disagreement(count: CountOfDay, others: Sequence[CountOfDay], calendar: Calendar) -> CountFinding | None:
    """A warning where a count and one of the other kind within three days exclude each other; else None."""
    for other in sorted(others, key=lambda one: abs((one.taken_on - count.taken_on).days)):
        if abs((other.taken_on - count.taken_on).days) > TOGETHER_WITHIN_DAYS:
            continue
        board, jar = (count, other) if isinstance(count.reading, FallReading) else (other, count)
        if not isinstance(board.reading, FallReading) or not isinstance(jar.reading, Reading):
            continue
        fall, phase = board.reading, calendar.base_phase(board.taken_on)
        lower = chance_under(fall.mites, fall.board_days, phase, jar.reading.p_over)
        if not UNLIKELY <= lower <= 1 - UNLIKELY:
            return _finding(board.taken_on, fall, phase, jar.taken_on, jar.reading, board_is_higher=lower < UNLIKELY)
    return None


def _finding(
    board_on: date, fall: FallReading, phase: BasePhase, jar_on: date, jar: Reading, *, board_is_higher: bool
) -> CountFinding:
    bounds = fall_as_rate(fall.mites, fall.board_days, phase)
    params: Params = {
        "board_on": board_on, "board_low": bounds.low, "board_high": bounds.high,
        "jar_on": jar_on, "jar_low": jar.low, "jar_high": jar.high,
    }  # fmt: skip
    return CountFinding("BOARD_HIGHER" if board_is_higher else "JAR_HIGHER", "warning", "taken_at", params)
