"""What falls on a board while a treatment works, and what that says: is it killing, and is it over.

The members that agree with the counts before the first dose are run with the course and, beside it, as if the course
did nothing. Of the mites killed on bees a share reaches the board at once; those killed under cappings fall when their
cells open; to both comes the natural fall. A fall is never a rate (docs/methods/forecast.md, "The fall after a dose").
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from datetime import date as Day
from typing import Literal

import numpy as np
import numpy.typing as npt
from scipy import special

from redframe.core.distributions import log_negative_binomial
from redframe.core.forecast.ensemble import Fitted
from redframe.core.forecast.events import Event, on_day
from redframe.core.forecast.model import DRONE_CAPPED_DAYS, WORKER_CAPPED_DAYS, Model, State
from redframe.core.sampling.conversion import FACTORS, LOG_SD_K
from redframe.core.sampling.trend import PATCHINESS_SIZE
from redframe.core.season.calendar import Calendar

Values = npt.NDArray[np.float64]

REACHES_BOARD = (8.0, 2.0)
"""Share of the killed mites that are found on the board, as a beta distribution; the rest are carried out or lost."""
SURE = 0.80
"""As for the other verdicts on a treatment."""
LATE_FROM_DAY = 21
FEWEST_EXPECTED = 30.0
"""Fewer mites than these on the boards, if the course kills, are too few for their absence to say that it does not."""
OVER_FROM_DAYS = 2.5

FallVerdict = Literal["killing", "over", "goes_on", "not_killing", "cannot_tell"]


@dataclass(frozen=True, slots=True)
class FallenOn:
    """A board read after a dose: when it was put in and read, its mites, its days (times the share counted)."""

    first: date
    last: date
    mites: int
    board_days: float


@dataclass(frozen=True, slots=True)
class ExpectedFalls:
    """Mites a day on the board of each member from `first` on, shape (days, members): if the course kills as it should,
    the natural part of it, and if it does nothing."""

    first: date
    working: Values
    natural: Values
    idle: Values

    def over(self, what: Values, fallen: FallenOn) -> Values:
        """Mean fall a day of each member while a board was in (the day of its reading does not count)."""
        begin = (fallen.first - self.first).days
        end = max(begin + 1, (fallen.last - self.first).days)
        return np.asarray(what[begin:end].mean(axis=0))


@dataclass(frozen=True, slots=True)
class FallDay:
    """A day's fall: the middle and the central 80 % with the kill, and the upper 90 % of the natural fall alone."""

    date: Day
    median: float
    low80: float
    high80: float
    natural90: float


@dataclass(frozen=True, slots=True)
class FallReadout:
    """What the boards say together: the chance that the course kills rather than does nothing (both held equally likely
    before), and the verdict."""

    p_killing: float
    verdict: FallVerdict


def expected_falls(
    fitted: Fitted,
    known: Sequence[Event],
    course: Sequence[Event],
    calendar: Calendar,
    first: date,
    last: date,
    generator: np.random.Generator,
) -> ExpectedFalls:
    """Falls from `first` to `last`. `known` are earlier events that bear on these days, `course` those of the course;
    the last count of `fitted` must not be later than `first`."""
    members = len(fitted.rates)
    reaches = generator.beta(*REACHES_BOARD, members)
    strays = np.exp(LOG_SD_K * generator.standard_normal(members))
    working, natural = _falls(fitted, [*known, *course], calendar, first, last, reaches, strays)
    idle, _ = _falls(fitted, known, calendar, first, last, reaches, strays)
    return ExpectedFalls(first, working, natural, idle)


def _falls(
    fitted: Fitted,
    events: Sequence[Event],
    calendar: Calendar,
    first: date,
    last: date,
    reaches: Values,
    strays: Values,
) -> tuple[Values, Values]:
    """All that falls a day, and its natural part."""
    model, state = fitted.model, fitted.state.copy()
    span = (last - first).days + 1
    falls, natural = np.zeros((span, len(reaches))), np.zeros((span, len(reaches)))
    dead = _DeadInCells(len(reaches))
    for number in range(1, (last - fitted.on).days + 1):
        day = fitted.on + timedelta(days=number)
        fallen = dead.step(model, state, day, events)
        at = (day - first).days
        if at < 0:
            continue
        factors = FACTORS[calendar.base_phase(day)]
        mites = state.on_bees + state.mites_in_cells(model.parameters)
        natural[at] = mites / factors.k * strays
        falls[at] = natural[at] + reaches * fallen
    if first == fitted.on:
        natural[0], falls[0] = natural[min(1, span - 1)], falls[min(1, span - 1)]
    return falls, natural


class _DeadInCells:
    """Mites killed under cappings, in rings like those of the cells: they fall when their cells open."""

    def __init__(self, members: int) -> None:
        self.workers = np.zeros((WORKER_CAPPED_DAYS, members))
        self.drones = np.zeros((DRONE_CAPPED_DAYS, members))

    def step(self, model: Model, state: State, day: date, events: Sequence[Event]) -> Values:
        """Step a day; the dead that fall on it."""
        of_day = on_day(events, day)
        in_cells = any(np.any(one.kc) for one in of_day.treatments)
        rings = ((self.workers, state.worker_mites), (self.drones, state.drone_mites))
        slots = [state.turn % len(dead) for dead, _ in rings]
        before = [ring.copy() for _, ring in rings] if in_cells else []
        fallen = np.zeros(self.workers.shape[1])
        for (dead, _), slot in zip(rings, slots, strict=True):
            fallen += dead[slot]
            dead[slot] = 0.0
        fallen += model.step(state, day, of_day)
        for (dead, ring), slot, earlier in zip(rings, slots, before, strict=False):
            killed = earlier - ring
            killed[slot] = 0.0  # that cohort opened, and another was capped in its place
            dead += killed
        return fallen


def fall_days(expected: ExpectedFalls) -> list[FallDay]:
    """The bands day by day."""
    low, middle, high = np.quantile(expected.working, (0.1, 0.5, 0.9), axis=1)
    most = np.quantile(expected.natural, 0.9, axis=1)
    return [
        FallDay(expected.first + timedelta(days=number), float(middle[number]), float(low[number]), float(high[number]),
                float(most[number]))
        for number in range(len(middle))
    ]  # fmt: skip


def read_falls(expected: ExpectedFalls, boards: Sequence[FallenOn], start: date) -> FallReadout | None:
    """What the boards after a first dose on `start` say together, in their order; None without one.

    Each member says how likely these boards are if the course kills, and if it does nothing; the likelihoods of the
    members are averaged, and the two set against one another, over the boards of the first three weeks where there are
    any. A steady low fall under a loaded colony is evidence that it does not kill; where the load is low both look
    alike, and nothing can be concluded.
    """
    if not boards:
        return None
    early = [board for board in boards if (board.first - start).days < LATE_FROM_DAY] or boards
    killing, idle = (_log_evidence(expected, what, early) for what in (expected.working, expected.idle))
    p = float(special.expit(killing - idle))
    wanted = sum(float(np.median(expected.over(expected.working, board))) * board.board_days for board in early)
    if p <= 1 - SURE and wanted >= FEWEST_EXPECTED:
        return FallReadout(p, "not_killing")
    if p < SURE:
        return FallReadout(p, "cannot_tell")
    last = boards[-1]
    daily = last.mites / last.board_days
    if daily <= float(np.quantile(expected.over(expected.natural, last), 0.9)) and last.board_days >= OVER_FROM_DAYS:
        return FallReadout(p, "over")
    least = float(special.gammaincinv(last.mites + 0.5, 0.05)) / last.board_days
    late = (last.first - start).days >= LATE_FROM_DAY
    if late and least > float(np.quantile(expected.over(expected.working, last), 0.9)):
        return FallReadout(p, "goes_on")
    return FallReadout(p, "killing")


def _log_evidence(expected: ExpectedFalls, what: Values, boards: Sequence[FallenOn]) -> float:
    each = np.zeros(what.shape[1])
    for board in boards:
        mean = np.maximum(expected.over(what, board) * board.board_days, 1e-12)
        each += log_negative_binomial(board.mites, PATCHINESS_SIZE, PATCHINESS_SIZE / (PATCHINESS_SIZE + mean))
    return float(special.logsumexp(each) - np.log(len(each)))
