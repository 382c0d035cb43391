"""Which counts of a colony a forecast starts from and passes through."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta

from redframe.core.forecast.seen import FallSeen, Seen
from redframe.core.sampling.board import BoardSample, after_treatment, board_use
from redframe.core.sampling.conversion import FACTORS
from redframe.core.sampling.method import TreatmentSpan
from redframe.core.sampling.reading import FallReading
from redframe.core.season.calendar import Calendar

BACK_DAYS = 150
MOST_JARS = 5
MOST_FALLS = 3
"""So many of each, the latest of the last months: older ones say little of today's load, and of boards, whose error is
common to them all, more say little more."""
OLDEST_START_DAYS = 90


def fall_seen(
    board: BoardSample, reading: FallReading, calendar: Calendar, treatments: Sequence[TreatmentSpan]
) -> FallSeen | None:
    """A board as a forecast takes it; None for one that is not judged: dirty, left too long, or of a treatment."""
    day = board.removed_at.date()
    dormant = calendar.phase(day) == "dormant"
    if not board_use(board, treated=after_treatment(board, treatments), dormant=dormant).enters:
        return None
    factors = FACTORS[calendar.base_phase(day)]
    return FallSeen(day, reading.mites, reading.board_days, reading.board_cv, factors)


def start_from(recorded: Sequence[Seen]) -> tuple[Seen, ...]:
    """The latest jars and boards of a colony's record, in the order of their days."""
    falls = sorted((one for one in recorded if isinstance(one, FallSeen)), key=lambda one: one.taken_on)
    jars = sorted((one for one in recorded if not isinstance(one, FallSeen)), key=lambda one: one.taken_on)
    return tuple(sorted([*jars[-MOST_JARS:], *falls[-MOST_FALLS:]], key=lambda one: one.taken_on))


def why_not(seen: Sequence[Seen], today: date) -> str:
    """Why no forecast can start from these counts; empty where one can."""
    if not seen:
        return f"no count that a forecast can start from in the last {BACK_DAYS} days: count first"
    if seen[-1].taken_on < today - timedelta(days=OLDEST_START_DAYS):
        return f"the last count is older than {OLDEST_START_DAYS} days: count first"
    return ""
