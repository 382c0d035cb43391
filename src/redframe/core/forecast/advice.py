"""What to do with a forecast: scenarios side by side on the same members, and how late a treatment makes sense."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np

from redframe.core.forecast.ensemble import Fitted
from redframe.core.forecast.events import Event, Treat
from redframe.core.forecast.projection import Projection, project
from redframe.core.season.calendar import Calendar

WINTER_DAYS = 21
"""So many days from the first winter bees on the load must stay down."""
NEED = 0.70
MOST_WAITING = 0.20
SCAN_DAYS = 3


@dataclass(frozen=True, slots=True)
class OnDay:
    """The middle of the members and their central 80 % on a day, mites per 100 bees."""

    on: date
    median: float
    low80: float
    high80: float


@dataclass(frozen=True, slots=True)
class Outcome:
    """What a scenario leads to.

    `at` are the asked days; `p_below` is the chance to stay at or under the level on all the asked span (None without
    one); `peak_per_100` and `lowest_on` are those of the median; `killed` mites fewer at the end than when nothing is
    done, in the middle of the members.
    """

    at: Sequence[OnDay]
    p_below: float | None
    peak_per_100: float
    lowest_on: date
    killed: float


@dataclass(frozen=True, slots=True)
class StartWindow:
    """First and last sensible start of a treatment with the chances that they give; None where no start is enough,
    with the best start and its chance. `waiting` is the chance of reaching urgent untreated before the last start."""

    earliest: date | None
    latest: date | None
    p_earliest: float
    p_latest: float
    waiting: float


def p_below(projection: Projection, first: date, last: date, level: float) -> float:
    """Share of the members at or under a level on every day of a span (that lies within the projection)."""
    days = slice((first - projection.first).days, (last - projection.first).days + 1)
    return float((projection.rates[days] <= level).all(axis=0).mean())


def outcome(run: Projection, untreated: Projection, ask: Sequence[date], level: float, today: date) -> Outcome:
    """What a scenario leads to from today on, compared with the same members left alone; `ask` are days, of which the
    first to the last must stay at or under `level` (mites per 100 bees)."""
    middle = np.median(run.rates[(today - run.first).days :], axis=1)
    within = [day for day in ask if run.first <= day <= run.last]
    return Outcome(
        at=[OnDay(day, *(float(v) for v in np.quantile(run.at(day), (0.5, 0.1, 0.9)))) for day in within],
        p_below=p_below(run, within[0], within[-1], level) if within and len(within) == len(ask) else None,
        peak_per_100=float(middle.max()),
        lowest_on=today + timedelta(days=int(middle.argmin())),
        killed=float(np.median(untreated.mites[-1] - run.mites[-1])),
    )


def start_window(
    fitted: Fitted,
    known: Sequence[Event],
    treatment: Treat,
    calendar: Calendar,
    *,
    not_before: date,
    winter_level: float,
    urgent_level: float,
    need: float = NEED,
) -> StartWindow | None:
    """Starts of a treatment that end before the first winter bees and keep the load down while they are reared.

    None where the place rears no winter bees. A start qualifies when the members stay at or under `winter_level` for
    three weeks with a chance of `need`, and when waiting for it leaves at most 20 % of them urgent.
    """
    winter = calendar.winter_bee_date(not_before)
    if winter is None or winter < not_before:
        return None
    last = winter + timedelta(days=WINTER_DAYS)
    days = (last - fitted.on).days
    untreated = project(fitted, days, known)
    reached = np.maximum.accumulate(untreated.rates >= urgent_level, axis=0).mean(axis=1)
    tried: list[tuple[date, float, float]] = []
    start = max(not_before, fitted.on + timedelta(days=1))
    while start + timedelta(days=treatment.days) <= winter:
        run = project(fitted, days, [*known, Treat(start, treatment.days, treatment.kp, treatment.kc)])
        waited = float(reached[(start - fitted.on).days - 1])
        tried.append((start, p_below(run, winter, last, winter_level), waited))
        start += timedelta(days=SCAN_DAYS)
    if not tried:
        return StartWindow(None, None, 0.0, 0.0, 0.0)
    enough = [one for one in tried if one[1] >= need and one[2] <= MOST_WAITING]
    if not enough:
        best = max(tried, key=lambda one: one[1])
        return StartWindow(None, None, best[1], best[1], best[2])
    return StartWindow(enough[0][0], enough[-1][0], enough[0][1], enough[-1][1], enough[-1][2])


@dataclass(frozen=True, slots=True)
class LastStart:
    """The last day on which any of some treatments still makes sense before the winter bees, and which of them (its
    number). Where none is `enough` by itself, the last start that ends before the winter bees at all. `winter` is the
    day of the first of these."""

    on: date
    which: int
    enough: bool
    winter: date


def last_start(
    fitted: Fitted,
    known: Sequence[Event],
    treatments: Sequence[Treat],
    calendar: Calendar,
    *,
    not_before: date,
    winter_level: float,
    urgent_level: float,
    need: float = NEED,
) -> LastStart | None:
    """The latest of the last sensible starts of treatments (whose own `start` does not matter), by the rules of
    `start_window`, looked for from the end; None where no winter bees are ahead, or no treatment ends before them."""
    winter = calendar.winter_bee_date(not_before)
    if winter is None or winter <= not_before:
        return None
    last = winter + timedelta(days=WINTER_DAYS)
    days = (last - fitted.on).days
    untreated = project(fitted, days, known)
    reached = np.maximum.accumulate(untreated.rates >= urgent_level, axis=0).mean(axis=1)
    begin = max(not_before, fitted.on + timedelta(days=1))
    found: tuple[date, int] | None = None
    for number in sorted(range(len(treatments)), key=lambda one: treatments[one].days):
        one = treatments[number]
        start = winter - timedelta(days=one.days)
        while start >= begin and (found is None or start > found[0]):
            if reached[(start - fitted.on).days - 1] <= MOST_WAITING:
                run = project(fitted, days, [*known, Treat(start, one.days, one.kp, one.kc)])
                if p_below(run, winter, last, winter_level) >= need:
                    found = (start, number)
                    break
            start -= timedelta(days=SCAN_DAYS)
    if found is not None:
        return LastStart(found[0], found[1], True, winter)
    shortest = min(range(len(treatments)), key=lambda number: treatments[number].days)
    ends = winter - timedelta(days=treatments[shortest].days)
    return LastStart(ends, shortest, False, winter) if ends >= not_before else None
