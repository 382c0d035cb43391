"""The demo's own model of bees and mites, simpler than and apart from anything that the application forecasts with.

Mites grow exponentially at a rate that follows the season and the colony; bees swell and shrink with the year; a wash
samples the mites on the bees. It exists so that counts, treatments, deaths and reinvasion hang together.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta
from math import cos, exp, pi

import numpy as np

from redframe.core.season.calendar import BasePhase, Calendar, day_index

GROWTH: dict[BasePhase, float] = {"dormant": -0.004, "build_up": 0.0200, "peak": 0.0225, "decline": 0.0195}
ON_BEES: dict[BasePhase, float] = {"dormant": 0.98, "build_up": 0.42, "peak": 0.45, "decline": 0.55}
NURSE_BIAS = 1.2
PATCHINESS = 6.0
"""Shape of the gamma by which frames of one colony differ: as the application reckons with."""
SHAKE_RELEASE = 0.72
DEADLY_IN_WINTER = 22.0
DEADLY_IN_DECLINE = 40.0
"""Mites per 100 bees at which the demo's colonies die: at once in the cluster, within weeks while they shrink."""


@dataclass
class Life:
    """A colony from day to day. `vigour` scales the growth of its mites, `size` its bees; `arrivals` is mites a day."""

    calendar: Calendar
    generator: np.random.Generator
    mites: float
    vigour: float = 1.0
    size: float = 1.0
    arrivals: float = 0.1
    southern: bool = False
    alive: bool = True

    def bees(self, day: date) -> float:
        """Adult bees: about 9 000 in winter and 27 000 at the height of summer."""
        peak_day = 186 if not self.southern else 3
        swing = (1 + cos(2 * pi * (day_index(day) - peak_day) / 366)) / 2
        return self.size * (9_000 + 18_000 * swing)

    def frames(self, day: date) -> float:
        """Frames of bees, about 2 300 bees each, to the half frame."""
        return max(2.0, round(self.bees(day) / 2_300 * 2) / 2)

    def step(self, day: date) -> None:
        """One day of growth, arrivals and, under a deadly load in the cold, of dying."""
        phase = self.calendar.base_phase(day)
        rate = GROWTH[phase] * (self.vigour if phase != "dormant" else 1.0)
        self.mites = self.mites * exp(rate + self.generator.normal(0, 0.002)) + (
            0 if phase == "dormant" else self.generator.poisson(self.arrivals)
        )
        load = self.per_100(day)
        if phase == "dormant" and load > DEADLY_IN_WINTER:
            self.alive = False
        if phase != "dormant" and load > DEADLY_IN_DECLINE and self.generator.random() < 0.05:
            self.alive = False

    def per_100(self, day: date) -> float:
        """What a perfect wash of nurse bees would read."""
        phase = self.calendar.base_phase(day)
        bias = 1.0 if phase == "dormant" else NURSE_BIAS
        return 100 * bias * self.mites * ON_BEES[phase] / self.bees(day)

    def mites_for(self, per_100: float, today: date, day: date) -> float:
        """The mites today that grow into a load by a day, as far as the season and the colony let them."""
        growth = 0.0
        for number in range((day - today).days):
            phase = self.calendar.base_phase(today + timedelta(days=number + 1))
            growth += GROWTH[phase] * (self.vigour if phase != "dormant" else 1.0)
        phase = self.calendar.base_phase(day)
        bias = 1.0 if phase == "dormant" else NURSE_BIAS
        return per_100 / 100 * self.bees(day) / (bias * ON_BEES[phase]) * exp(-growth)

    def kill(self, share: float) -> None:
        """A treatment takes this share of all mites."""
        self.mites *= 1 - share

    def wash(self, day: date, shakes: int = 3) -> list[int]:
        """Mites of one level scoop (about 300 bees), shake by shake; patchy between frames."""
        bees = self.generator.normal(300, 30)
        mean = max(0.02, self.per_100(day) / 100 * bees)
        patchy = self.generator.gamma(PATCHINESS, mean / PATCHINESS)
        on_bees = int(self.generator.poisson(patchy))
        counted = []
        for _ in range(shakes):
            fell = int(self.generator.binomial(on_bees, SHAKE_RELEASE))
            counted.append(fell)
            on_bees -= fell
        return counted
