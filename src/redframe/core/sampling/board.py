"""Mites fallen on an insert board: the fall a day with its exact interval, and what is wrong with the board.

The fall stands on a scale of its own, mites a day. It is never a rate of mites per 100 bees
(docs/methods/counting.md, "The board").
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime

from scipy import special

from redframe.core.errors import InvalidInput
from redframe.core.said import Param
from redframe.core.sampling.method import Answer, BoardMethod, CountCode, CountFinding, FindingLevel, TreatmentSpan, Use
from redframe.core.sampling.reading import FallReading, read_fall
from redframe.core.sampling.squares import SquaresSeen, squares_seen

LEAST_DAYS = 0.5
LONG_DAYS, TOO_LONG_DAYS, DORMANT_TOO_LONG_DAYS = 3.0, 7.0, 14.0
LONGEST_DAYS = 60.0
DIFFER_BELOW = 0.01
HOUR = 1 / 24


@dataclass(frozen=True, slots=True)
class BoardFall:
    """Days that the board was in (elapsed hours / 24) and mites a day with the 95 % interval of a Poisson count."""

    days: float
    fall_per_day: float
    low_per_day: float
    high_per_day: float


def days_between(placed: datetime, removed: datetime) -> float:
    """Elapsed days between two moments with their offsets: hours / 24, whatever the clocks did between them."""
    return (removed.astimezone(UTC) - placed.astimezone(UTC)).total_seconds() / 86_400


def board_fall(mites: int, placed: datetime, removed: datetime) -> BoardFall:
    """Fall a day of a board placed and removed at two moments with their offsets.

    Elapsed hours count, not calendar days: a change of the clock between them changes nothing. The interval is exact
    (Garwood 1936). Raises InvalidInput("removed") for less than half a day.
    """
    days = days_between(placed, removed)
    if days < LEAST_DAYS:
        raise InvalidInput("removed", "the board must lie for half a day at least", code="out_of_range")
    low = 0.0 if mites == 0 else float(special.gammaincinv(mites, 0.025))
    high = float(special.gammaincinv(mites + 1, 0.975))
    return BoardFall(days, mites / days, low / days, high / days)


@dataclass(frozen=True, slots=True)
class PooledFall:
    """Boards of one colony taken together: mites and days added, the fall a day with its exact interval, and the chance
    of boards that differ so much if the fall had been the same throughout."""

    boards: int
    mites: int
    days: float
    fall_per_day: float
    low_per_day: float
    high_per_day: float
    p_same: float

    @property
    def differ(self) -> bool:
        """Whether the boards differ by more than chance, so that the interval is too narrow."""
        return self.p_same < DIFFER_BELOW


def pooled_fall(boards: Sequence[tuple[int, float]]) -> PooledFall | None:
    """Two or more boards, each as (mites, days times the share counted), together; None for fewer.

    The interval is Garwood's on the sum; `p_same` is the chi-square test of a common daily fall.
    """
    if len(boards) < 2:
        return None
    mites, days = sum(one for one, _ in boards), sum(one for _, one in boards)
    low = 0.0 if mites == 0 else float(special.gammaincinv(mites, 0.025))
    high = float(special.gammaincinv(mites + 1, 0.975))
    spread = sum((one - mites * each / days) ** 2 / (mites * each / days) for one, each in boards) if mites else 0.0
    p_same = float(special.chdtrc(len(boards) - 1, spread))
    return PooledFall(len(boards), mites, days, mites / days, low / days, high / days, p_same)


@dataclass(frozen=True, slots=True)
class BoardSample:
    """A board as it was read: mites in each square counted, of so many squares in all (a board without a grid is one
    square of one), when it was placed and removed, and what can hide mites or bring old ones."""

    placed_at: datetime
    removed_at: datetime
    squares: tuple[int, ...]
    squares_in_all: int = 1
    cleaned: Answer = "not_looked"
    greased: Answer = "not_looked"
    ants: Answer = "not_looked"
    method: BoardMethod = "board"

    @property
    def days(self) -> float:
        """Days that the board was in."""
        return days_between(self.placed_at, self.removed_at)


@dataclass(frozen=True, slots=True)
class BoardResult:
    """The fall, the squares behind it, whether a treatment was at work, and findings."""

    reading: FallReading
    seen: SquaresSeen
    after_treatment: bool
    findings: tuple[CountFinding, ...]


def check_board(board: BoardSample) -> SquaresSeen:
    """Refuse what cannot be a board; return what its squares say.

    Raises InvalidInput naming `placed_at`, `squares`, `squares[i]` or `squares_in_all`.
    """
    if board.days < LEAST_DAYS:
        raise InvalidInput("placed_at", "the board must lie for half a day at least", code="out_of_range")
    if board.days > LONGEST_DAYS:
        raise InvalidInput("placed_at", "no board lies for longer than 60 days", code="out_of_range")
    return squares_seen(board.squares, board.squares_in_all)


def reading_of_board(board: BoardSample) -> FallReading:
    """The daily fall of a board."""
    seen = check_board(board)
    return read_fall(seen.mites, board.days * seen.share_counted, seen.cv)


def after_treatment(board: BoardSample, treatments: Sequence[TreatmentSpan]) -> bool:
    """Whether the fall is a treatment's: told so, or placed before 14 days after the end of one."""
    placed_on = board.placed_at.date()
    return board.method == "board_after_treatment" or any(span.moves(placed_on) for span in treatments)


def board_use(board: BoardSample, *, treated: bool, dormant: bool) -> Use:
    """What a board may do to a level that is judged by daily fall.

    Not at all: a treatment's fall, a board not known to have been clean, one that was in too long. A board with ants or
    without grease raises but never lowers.
    """
    too_long = board.days > (DORMANT_TOO_LONG_DAYS if dormant else TOO_LONG_DAYS) + HOUR
    if treated or board.cleaned != "yes" or too_long:
        return Use(enters=False, can_lower=False, can_clear=False)
    lossy = board.ants == "yes" or board.greased == "no"
    return Use(enters=True, can_lower=not lossy, can_clear=not lossy)


def read_board(board: BoardSample, *, treatments: Sequence[TreatmentSpan] = (), dormant: bool = False) -> BoardResult:
    """Check a board and read it. `treatments` are those of the same colony; `dormant`: the colony is in that phase."""
    seen = check_board(board)
    treated = after_treatment(board, treatments)
    return BoardResult(
        reading=reading_of_board(board),
        seen=seen,
        after_treatment=treated,
        findings=tuple(_findings(board, seen, treated, dormant)),
    )


def _findings(board: BoardSample, seen: SquaresSeen, treated: bool, dormant: bool) -> list[CountFinding]:
    found: list[CountFinding] = []

    def say(code: CountCode, level: FindingLevel, field: str, **params: Param) -> None:
        found.append(CountFinding(code, level, field, params))

    if board.cleaned != "yes":
        say("BOARD_DIRTY", "warning", "cleaned", cleaned=board.cleaned)
    if board.ants == "yes":
        say("ANTS", "warning", "ants")
    elif board.greased == "no":
        say("NO_GREASE", "warning", "greased")
    long = DORMANT_TOO_LONG_DAYS if dormant or treated else TOO_LONG_DAYS
    if board.days > long + HOUR:
        say("BOARD_LONG", "warning", "placed_at", days=board.days)
    elif board.days > LONG_DAYS + HOUR and not (dormant or treated):
        say("BOARD_LOW", "warning", "placed_at", days=board.days)
    if treated:
        say("BOARD_TREATED", "note", "placed_at")
    if seen.share_counted < 1.0 and len(board.squares) < 3:
        say("FEW_SQUARES", "warning", "squares")
    return found
