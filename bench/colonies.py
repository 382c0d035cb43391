"""Colonies for the back-test of the forecast, made by rules of their own: nothing here is shared with its model.

Brood is a bell over the year shaken by weather from day to day; a mite stays a set number of days on bees, around a mean
of its colony, then enters a cell; its fertility varies between colonies and from day to day; washes are patchy and their scoops are not level.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

import numpy as np
import numpy.typing as npt

Values = npt.NDArray[np.float64]

FIRST = date(2025, 3, 1)
DAYS = 230
IN_CELLS = 12
NURSES = 1.25
FOUND = 0.93


@dataclass(frozen=True, slots=True)
class Season:
    """Mites per 100 bees of so many colonies day by day, as a perfect wash of nurse bees reads them: (days, colonies)."""

    rates: Values

    def at(self, day: date) -> Values:
        """The rates on a day."""
        return np.asarray(self.rates[(day - FIRST).days])

    def wash(self, day: date, colonies: npt.NDArray[np.intp], generator: np.random.Generator) -> npt.NDArray[np.int64]:
        """Mites counted in a scoop taken for 300 bees: its bees vary, mites sit in patches."""
        bees = np.maximum(120, generator.normal(295, 38, len(colonies)))
        patch = generator.gamma(5.0, 1 / 5.0, len(colonies))
        return np.asarray(generator.poisson(bees * FOUND * self.at(day)[colonies] / 100 * patch))


def _shaken(generator: np.random.Generator, colonies: int, keep: float, spread: float) -> Values:
    """Noise that remembers yesterday, around 0: (days, colonies)."""
    noise = np.zeros((DAYS, colonies))
    for day in range(1, DAYS):
        noise[day] = keep * noise[day - 1] + generator.normal(0, spread, colonies)
    return noise


def live(colonies: int, generator: np.random.Generator) -> Season:
    """A season from 1 March on, no treatment."""
    middle, width = generator.normal(112, 9, colonies), generator.normal(52, 6, colonies)
    greatest = np.exp(generator.normal(np.log(1150), 0.2, colonies))
    weather = _shaken(generator, colonies, 0.85, 0.08)
    fertile = _shaken(generator, colonies, 0.7, 0.08)
    stay = generator.integers(6, 9, colonies)
    offspring = generator.normal(1.18, 0.06, colonies)
    survive = generator.normal(0.82, 0.02, colonies)
    adults = generator.normal(9000, 1200, colonies)
    day_of = np.arange(DAYS)
    capped = greatest * np.exp(-(((day_of[:, None] - middle) / width) ** 2) / 2 + weather)
    mites = np.exp(generator.normal(np.log(55), 0.9, colonies))
    # Ages of a population that grows steadily, so that no wave runs through the season.
    yields = 0.9 + offspring
    grows = np.log(yields * survive) / (stay + IN_CELLS)
    ages = np.arange(12)[:, None]
    waiting = np.where(ages < stay, np.exp(grows * ages), 0.0)  # by days still to stay on bees
    in_cells = yields * np.exp(-grows * ages)  # by days since capping
    scale = mites / (waiting.sum(axis=0) + in_cells.sum(axis=0))
    waiting, in_cells = waiting * scale, in_cells * scale
    brood = np.zeros((IN_CELLS, colonies))
    rates = np.empty((DAYS, colonies))
    for day in range(DAYS):
        life = 30 if day < 170 else 30 + (day - 170) * 1.5
        out = in_cells[-1] * survive
        adults = adults * (1 - 1 / life) + 0.93 * brood[-1]
        entering = waiting[0] + generator.exponential(0.4, colonies) / 4
        waiting[:-1], waiting[-1] = waiting[1:].copy(), 0.0
        for off, share in enumerate((1, 2, 3, 4, 3, 2, 1)):
            waiting[stay - 1 + off - 3, np.arange(colonies)] += out * share / 16
        waiting *= 0.995
        entering = np.minimum(entering, 2.0 * capped[day])
        in_cells[1:] = in_cells[:-1].copy()
        in_cells[0] = entering * (0.9 + offspring * np.exp(fertile[day]))
        brood[1:] = brood[:-1].copy()
        brood[0] = capped[day]
        rates[day] = 100 * NURSES * waiting.sum(axis=0) / np.maximum(adults, 500)
    return Season(rates)
