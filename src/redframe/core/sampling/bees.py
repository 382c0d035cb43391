"""How many bees were in the jar, and how well that is known.

Counted bees are exact. A volume or a mass stands for a lognormal number of bees with the mean and the
coefficient of variation below (docs/methods/counting.md, "Bees in the jar").
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np
import numpy.typing as npt
from scipy import special

from redframe.core.errors import InvalidInput

BeesKnownBy = Literal["counted", "photo", "volume_level", "volume_heaped", "mass_dry", "mass_wet", "not_recorded"]

BEES_PER_ML = 2.5
BEES_PER_GRAM = 8.0
MEASURE_CV: dict[BeesKnownBy, float] = {
    "counted": 0.0,
    "photo": 0.05,
    "volume_level": 0.12,
    "volume_heaped": 0.18,
    "mass_dry": 0.10,
}
"""Coefficient of variation of the number of bees behind each measure."""

SAME_SCOOP_CV = 0.08
"""Fill-to-fill part of a scoop's variation: what is left between two counts by one person with one scoop."""


@dataclass(frozen=True, slots=True)
class BeesInSample:
    """Mean number of bees and the coefficient of variation of that number (0 when they were counted)."""

    mean: float
    cv: float

    def quantiles(self, levels: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
        """Numbers of bees at the given quantile levels of the lognormal; the mean throughout when cv is 0."""
        if self.cv == 0.0:
            return np.full(levels.shape, self.mean)
        s2 = math.log1p(self.cv**2)
        return np.asarray(np.exp(math.log(self.mean) - s2 / 2 + math.sqrt(s2) * special.ndtri(levels)))

    def interval(self) -> tuple[float, float]:
        """Central 95 % of the number of bees."""
        low, high = self.quantiles(np.array([0.025, 0.975]))
        return float(low), float(high)


@lru_cache(maxsize=4096)
def bees_in_sample(
    known_by: BeesKnownBy,
    *,
    bees: int | None = None,
    volume_ml: float | None = None,
    mass_g: float | None = None,
) -> BeesInSample | None:
    """The number of bees behind what was recorded; None when nothing was ("not_recorded").

    Units: millilitres of settled live bees, grams of dry bees. Raises InvalidInput for a measure without its
    figure, for a figure out of range, and for wet bees on a scale (the liquid adds tens of percent).
    """
    if known_by == "not_recorded":
        return None
    if known_by == "mass_wet":
        raise InvalidInput(
            "mass_g",
            "wet bees cannot be weighed: the liquid on them adds tens of percent. Count them, or record the volume",
            code="refused",
        )
    if known_by in ("counted", "photo"):
        if bees is None or not 1 <= bees <= 5000:
            raise InvalidInput("bees", "enter the bees counted, 1 to 5000", code="out_of_range", allowed="1 to 5000")
        return BeesInSample(float(bees), MEASURE_CV[known_by])
    if known_by == "mass_dry":
        if mass_g is None or not 1 <= mass_g <= 500:
            raise InvalidInput(
                "mass_g", "enter the mass of dry bees, 1 to 500 g", code="out_of_range", allowed="1 to 500"
            )
        return BeesInSample(BEES_PER_GRAM * mass_g, MEASURE_CV[known_by])
    if volume_ml is None or not 5 <= volume_ml <= 1000:
        raise InvalidInput(
            "volume_ml", "enter the volume of bees, 5 to 1000 ml", code="out_of_range", allowed="5 to 1000"
        )
    return BeesInSample(BEES_PER_ML * volume_ml, MEASURE_CV[known_by])
