"""The infestation of an apiary from the colonies counted, each counting equally.

The interval is on the log scale with Student's t. The correction for a finite apiary takes off what is known once every
colony is counted, which is the spread between colonies but never the chance in each count: with s2 the variance of the
rates and v the mean Poisson variance of one, se2 = (1 - k/N) s2/k + v/N. The spread between colonies is
a gamma whose shape kappa is fitted by maximum likelihood (negative binomial counts) from six colonies on. Shrunk rates
rank colonies and speak for the uncounted; a colony's level never uses them (docs/methods/counting.md, "The apiary").
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import numpy.typing as npt
from scipy import special

from redframe.core.distributions import log_negative_binomial, student_over, student_quantile

USUAL_KAPPA = 1.2
FEWEST_FOR_KAPPA = 6


@dataclass(frozen=True, slots=True)
class ColonyCount:
    """Mites of a colony's count and its exposure: bees times the share of mites found."""

    mites: int
    exposure: float


@dataclass(frozen=True, slots=True)
class ApiaryEstimate:
    """Mean of the colonies' rates per 100 bees with its 95 % interval (None for one colony), the spread between them,
    and what it says of colonies not counted.

    `mu` and `kappa` are mean and shape of the gamma between colonies; `variance_ratio` the variance of the
    mites counted over their mean (1 if only chance were at work).
    """

    counted: int
    colonies: int
    mean: float
    low: float | None
    high: float | None
    se: float | None
    mu: float
    kappa: float
    kappa_fitted: bool
    variance_ratio: float | None
    counts: Sequence[ColonyCount]

    def mean_of(self, numbers: Sequence[int]) -> tuple[float, float, float]:
        """Mean of the rates per 100 bees, drawn to the apiary's mean, of some of the colonies counted (their numbers in
        `counts`), with its 95 % interval: the gammas of its colonies added, as one gamma of their mean and variance."""
        own = [self.counts[number] for number in numbers]
        if self.mu <= 0:
            return 0.0, 0.0, _most_without_a_mite(own)
        rates = [100 * self.kappa / self.mu + one.exposure for one in own]
        shapes = [self.kappa + one.mites for one in own]
        mean = sum(shape / rate for shape, rate in zip(shapes, rates, strict=True)) / len(own)
        variance = sum(shape / rate**2 for shape, rate in zip(shapes, rates, strict=True)) / len(own) ** 2
        low, high = (
            float(special.gammaincinv(mean**2 / variance, level)) * variance / mean for level in (0.025, 0.975)
        )
        return 100 * mean, 100 * low, 100 * high

    def expected_over(self, threshold_per_100: float) -> float:
        """How many of the apiary's colonies are expected at or over the threshold, counted and not."""
        if self.mu <= 0:
            return 0.0
        t, rate = threshold_per_100 / 100, 100 * self.kappa / self.mu
        counted = sum(
            float(special.gammaincc(self.kappa + one.mites, (rate + one.exposure) * t)) for one in self.counts
        )
        return counted + (self.colonies - self.counted) * self.p_uncounted_over(threshold_per_100)

    def p_mean_over(self, threshold_per_100: float) -> float | None:
        """P(the apiary's mean is at or over the threshold); None where one colony was counted or none has a mite."""
        if self.se is None or self.mean <= 0:
            return None
        if self.se == 0:
            return 1.0 if self.mean >= threshold_per_100 else 0.0
        t = (math.log(threshold_per_100) - math.log(self.mean)) / (self.se / self.mean)
        return student_over(t, self.counted - 1)

    def p_uncounted_over(self, threshold_per_100: float) -> float:
        """P(a colony that was not counted is at or over the threshold)."""
        if self.mu <= 0:
            return 0.0
        return float(special.gammaincc(self.kappa, self.kappa * threshold_per_100 / self.mu))


def apiary_estimate(counts: Sequence[ColonyCount], colonies: int) -> ApiaryEstimate | None:
    """Estimate an apiary of so many living colonies from those counted; None where none was."""
    if not counts:
        return None
    k = len(counts)
    mites = np.array([one.mites for one in counts], dtype=np.float64)
    exposure = np.array([one.exposure for one in counts])
    rates = 100 * mites / exposure
    mean = float(rates.mean())
    low = high = se = None
    if k >= 2:
        finite = max(0.0, 1 - k / max(colonies, k))
        counting = float(np.mean(1e4 * mites / exposure**2))
        se = math.sqrt(finite * float(rates.var(ddof=1)) / k + counting / max(colonies, k))
        if mean > 0:
            reach = student_quantile(0.975, k - 1) * se / mean
            low, high = mean * math.exp(-reach), mean * math.exp(reach)
        else:
            low, high = 0.0, _most_without_a_mite(counts)
    fitted = k >= FEWEST_FOR_KAPPA and mean > 0
    mu, kappa = between_colonies(mites, exposure) if fitted else (mean, USUAL_KAPPA)
    ratio = float(mites.var(ddof=1) / mites.mean()) if k >= 2 and mean > 0 else None
    return ApiaryEstimate(k, max(colonies, k), mean, low, high, se, mu, kappa, fitted, ratio, tuple(counts))


def _most_without_a_mite(counts: Sequence[ColonyCount]) -> float:
    """Upper limit of the rate per 100 bees where no mite was found, all counts taken together."""
    return 100 * float(special.gammaincinv(0.5, 0.975)) / sum(one.exposure for one in counts)


def between_colonies(mites: npt.NDArray[np.float64], exposure: npt.NDArray[np.float64]) -> tuple[float, float]:
    """Mean rate per 100 bees and shape of the gamma between colonies: maximum likelihood of negative binomial counts
    (size kappa, mean exposure times rate). Shapes beyond 0.05 to 100 tell nothing and are not sought."""
    return _fitted(tuple(mites.tolist()), tuple(exposure.tolist()))


@lru_cache(maxsize=8192)
def _fitted(counted: tuple[float, ...], exposed: tuple[float, ...]) -> tuple[float, float]:
    """The search takes milliseconds, and its answer changes only with a count."""
    from scipy import optimize

    mites, exposure = np.array(counted), np.array(exposed)

    def loss(x: npt.NDArray[np.float64]) -> float:
        expected, size = exposure * math.exp(x[0]), math.exp(x[1])
        return -float(np.sum(log_negative_binomial(mites, size, size / (size + expected))))

    start = np.array([math.log(max(1e-6, float((mites / exposure).mean()))), 0.0])
    bounds = [(math.log(1e-7), math.log(5.0)), (math.log(0.05), math.log(100.0))]
    found = optimize.minimize(loss, start, method="L-BFGS-B", bounds=bounds, options={"ftol": 1e-13, "gtol": 1e-9})
    return 100 * math.exp(found.x[0]), math.exp(found.x[1])
