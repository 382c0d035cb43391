"""How many bees were in the jar, and how well that is known.

Counted bees are exact. A volume or a mass stands for a lognormal number of bees with the mean and the
coefficient of variation below (docs/methods/counting.md, "Bees in the jar").
"""

from __future__ import annotations

import math
from collections.abc import Sequence
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

FEWEST_SCOOPS = 3
PRIOR_SCOOPS = 6
"""The default is worth so many scoops counted by hand."""
SAME_SCOOP_CV = 0.08
"""Fill-to-fill part of a scoop's variation: what is left between two counts by one person with one scoop."""


@dataclass(frozen=True, slots=True)
class Scoop:
    """Bees a millilitre of settled bees, and the coefficient of variation of a level scoop."""

    bees_per_ml: float = BEES_PER_ML
    cv: float = MEASURE_CV["volume_level"]


DEFAULT_SCOOP = Scoop()


def calibrated_scoop(counted: Sequence[tuple[float, int]]) -> Scoop:
    """What a scoop holds where bees of scoops (ml, bees) were counted by hand; the default for fewer than three.

    The default weighs in as six scoops of its own (docs/methods/counting.md, "Bees in the jar"). Raises InvalidInput
    naming `scoops[i].ml` or `scoops[i].bees`.
    """
    for index, (ml, bees) in enumerate(counted):
        if not 5 <= ml <= 1000:
            raise InvalidInput(f"scoops[{index}].ml", "enter the volume, 5 to 1000 ml", code="out_of_range")
        if not 0.5 * BEES_PER_ML <= bees / ml <= 2 * BEES_PER_ML:
            few, most = round(0.5 * BEES_PER_ML * ml), round(2 * BEES_PER_ML * ml)
            raise InvalidInput(
                f"scoops[{index}].bees",
                f"{ml:g} ml hold between {few} and {most} bees: check both",
                code="out_of_range",
            )
    if len(counted) < FEWEST_SCOOPS:
        return DEFAULT_SCOOP
    found = [bees / ml for ml, bees in counted]
    k, mean = len(found), sum(found) / len(found)
    cv2 = sum((one - mean) ** 2 for one in found) / (k - 1) / mean**2
    weight = PRIOR_SCOOPS + k
    spread = (PRIOR_SCOOPS * DEFAULT_SCOOP.cv**2 + (k - 1) * cv2) / (weight - 1)
    return Scoop((PRIOR_SCOOPS * BEES_PER_ML + sum(found)) / weight, math.sqrt(spread))


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
    scoop: Scoop = DEFAULT_SCOOP,
) -> BeesInSample | None:
    """The number of bees behind what was recorded; None when nothing was ("not_recorded").

    Units: millilitres of settled live bees, grams of dry bees; `scoop` says what a millilitre holds. Raises
    InvalidInput for a measure without its figure, for a figure out of range, and for wet bees on a scale (the liquid
    adds tens of percent).
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
    cv = scoop.cv if known_by == "volume_level" else MEASURE_CV[known_by]
    return BeesInSample(scoop.bees_per_ml * volume_ml, cv)
