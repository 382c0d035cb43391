"""A natural fall as it would stand on the scale of a wash: for the eye only, and marked as converted.

Mites in the colony are K times the daily fall (Martin 1998: about 30 with much brood, 100 in spring and autumn, 400 in
winter); a share phi of them is on A adult bees, of which nurses carry b times the average. K alone is uncertain by a
factor of about three either way and is common to all boards of a colony, so that many boards do not average it out
(docs/methods/counting.md, "A board on the axis of a wash").
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from scipy import special

from redframe.core.sampling.rates import PRIOR_SHAPE
from redframe.core.season.calendar import BasePhase

LOG_SD_K = 0.6
CV_ADULTS = 0.25
NODES = 41


@dataclass(frozen=True, slots=True)
class FallFactors:
    """K (median mites in the colony per mite fallen a day), phi as Beta(a, b), adult bees (median), nurse bias."""

    k: float
    phi: tuple[float, float]
    adults: float
    bias: float


FACTORS: dict[BasePhase, FallFactors] = {
    "dormant": FallFactors(400, (200, 2), 12_000, 1.0),
    "build_up": FallFactors(100, (20, 20), 12_000, 1.2),
    "peak": FallFactors(30, (20, 25), 25_000, 1.2),
    "decline": FallFactors(100, (20, 20), 20_000, 1.1),
}


@dataclass(frozen=True, slots=True)
class Converted:
    """Mites per 100 bees that a wash might read, median and 95 %: wide, and never a verdict by itself."""

    median: float
    low: float
    high: float


def fall_as_rate(mites: int, board_days: float, phase: BasePhase) -> Converted:
    """A fall of `mites` in `board_days` as a rate, in the base phase of the day."""
    cdf = _cdf(mites, board_days, phase)
    return Converted(*(_quantile(cdf, level) for level in (0.5, 0.025, 0.975)))


def chance_over(mites: int, board_days: float, phase: BasePhase, threshold_per_100: float) -> float:
    """Chance that the rate behind a fall is at or over a threshold: a prompt to sample, not a status."""
    return 1.0 - _cdf(mites, board_days, phase)(math.log(threshold_per_100))


def chance_under(mites: int, board_days: float, phase: BasePhase, over: Callable[[float], float]) -> float:
    """Chance that the rate behind a fall is under another rate, of which `over` gives the chance of being at or over a
    threshold (mites per 100 bees); the two taken as independent."""
    cdf = _cdf(mites, board_days, phase)
    edges = np.linspace(-14.0, 9.0, 461)
    below = np.array([cdf(float(edge)) for edge in edges])
    middles = np.exp((edges[:-1] + edges[1:]) / 2)
    return float(np.dot(np.diff(below), [over(float(rate)) for rate in middles]))


@lru_cache(maxsize=4096)
def _cdf(mites: int, board_days: float, phase: BasePhase) -> Callable[[float], float]:
    factors = FACTORS[phase]
    levels = (np.arange(1, NODES + 1) - 0.5) / NODES
    fall = special.gammaincinv(mites + PRIOR_SHAPE, levels) / board_days
    phi = special.betaincinv(*factors.phi, levels)
    middle = np.log(np.outer(fall, phi).ravel()) + math.log(100 * factors.bias * factors.k / factors.adults)
    spread = math.sqrt(LOG_SD_K**2 + math.log1p(CV_ADULTS**2))
    return lambda log_rate: float(np.mean(special.ndtr((log_rate - middle) / spread)))


def _quantile(cdf: Callable[[float], float], level: float) -> float:
    from scipy import optimize

    return math.exp(float(optimize.brentq(lambda x: cdf(x) - level, -40.0, 12.0)))
