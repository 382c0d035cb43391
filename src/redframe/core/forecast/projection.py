"""Days ahead of the last count: bands, when a threshold is crossed, from when the colony is in danger."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from datetime import date as Day
from math import ceil

import numpy as np
import numpy.typing as npt

from redframe.core.forecast.ensemble import Fitted
from redframe.core.forecast.events import Event, on_day

Values = npt.NDArray[np.float64]

LEVELS = (0.5, 0.25, 0.75, 0.1, 0.9, 0.025, 0.975)
DANGER_PER_100 = 20.0
DANGER_ADULTS = 3000.0
HORIZON_DAYS = 60
"""So far ahead by default: beyond it what arrives from outside decides."""


@dataclass(frozen=True, slots=True)
class Projection:
    """Members from day to day, first the day of the last count: mites per 100 bees and adults, shape (days, members).

    `mites` are all mites of each member, on bees and in cells.
    """

    first: date
    rates: Values
    adults: Values
    mites: Values

    def at(self, day: date) -> Values:
        """Mites per 100 bees of each member on a day."""
        return np.asarray(self.rates[(day - self.first).days])

    @property
    def last(self) -> date:
        """The last day."""
        return self.first + timedelta(days=len(self.rates) - 1)


@dataclass(frozen=True, slots=True)
class Band:
    """The middle and the central 50, 80 and 95 % of the members on a day, mites per 100 bees."""

    date: Day
    median: float
    low50: float
    high50: float
    low80: float
    high80: float
    low95: float
    high95: float


@dataclass(frozen=True, slots=True)
class Crossing:
    """The days by which 10, 50 and 90 % of the members have reached a level (None: not within the days looked at), and
    the share that ever does."""

    date10: date | None
    date50: date | None
    date90: date | None
    share: float


def project(fitted: Fitted, days: int, events: Sequence[Event] = ()) -> Projection:
    """Run the members on for so many days; `events` are all that bear on these days, past ones that last included."""
    model, state = fitted.model, fitted.state.copy()
    rates, adults, mites = (np.empty((days + 1, len(fitted.rates))) for _ in range(3))
    for number in range(days + 1):
        day = fitted.on + timedelta(days=number)
        if number:
            model.step(state, day, on_day(events, day))
        rates[number], adults[number] = model.per_100(state), state.adults
        mites[number] = state.on_bees + state.mites_in_cells(model.parameters)
    return Projection(fitted.on, rates, adults, mites)


def lived_until(fitted: Fitted, day: date, events: Sequence[Event] = ()) -> Fitted:
    """The members as they are on a later day, so that several futures go on from there; `events` as in `project`."""
    state = fitted.state.copy()
    for number in range(1, (day - fitted.on).days + 1):
        now = fitted.on + timedelta(days=number)
        fitted.model.step(state, now, on_day(events, now))
    rates = np.asarray(fitted.model.per_100(state), dtype=np.float64)
    return replace(fitted, state=state, on=max(day, fitted.on), rates=rates)


def bands(projection: Projection) -> list[Band]:
    """The bands of the true infestation, day by day."""
    points = np.quantile(projection.rates, LEVELS, axis=1).T
    return [
        Band(projection.first + timedelta(days=number), *(float(value) for value in row))
        for number, row in enumerate(points)
    ]


def crossing(projection: Projection, threshold_per_100: float) -> Crossing:
    """When the members first reach a level (mites per 100 bees)."""
    over = projection.rates >= threshold_per_100
    ever = over.any(axis=0)
    first = np.where(ever, over.argmax(axis=0), len(over))
    ordered = np.sort(first)

    def by(share: float) -> date | None:
        number = int(ordered[ceil(share * len(ordered)) - 1])
        return None if number >= len(over) else projection.first + timedelta(days=number)

    return Crossing(by(0.1), by(0.5), by(0.9), float(ever.mean()))


def danger_from(projection: Projection) -> date | None:
    """The first day on which half of the members carry 20 mites per 100 bees or have shrunk below 3000 bees."""
    lost = (projection.rates >= DANGER_PER_100) | (projection.adults < DANGER_ADULTS)
    days = np.flatnonzero(lost.mean(axis=1) >= 0.5)
    return projection.first + timedelta(days=int(days[0])) if len(days) else None
