"""What a count says: the posterior of mites per 100 bees (bees and recovery uncertain), or of the daily fall.

The count tells nothing about the number of bees or the share of mites found, so both keep their priors: 41
mid-quantiles of each make a grid of exposures E = n r of equal weight, and the posterior of theta is the even
mixture of Gamma(m + 0.5, E) over it (docs/methods/counting.md).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np
import numpy.typing as npt
from scipy import special

from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.method import JarMethod, Scale
from redframe.core.sampling.rates import PRIOR_SHAPE, rate_interval

READING_MODEL = 1
"""Version of this computation: readings kept in the store under another version are computed again."""

GRID = 41
NEWTON_STEPS = 40
ThresholdBasis = Literal["corrected", "as_counted"]
Recovery = Literal["wash_shakes", "wash_one_shake", "sugar_roll", "co2_roll", "all"]

RECOVERY_PRIOR: dict[Recovery, tuple[float, float] | None] = {
    "wash_shakes": (47.5, 2.5),
    "wash_one_shake": (17.0, 3.0),
    "sugar_roll": (15.0, 5.0),
    "co2_roll": (9.6, 6.4),
    "all": None,
}
"""Beta(a, b) of the share of mites that reach the count; None: every mite is found."""


@dataclass(frozen=True, slots=True)
class Reading:
    """Mites per 100 bees as a count shows them.

    `median`, `low` and `high` are the 50, 2.5 and 97.5 % points of the posterior, `upper80` its 80 % point.
    The cut points of a status are statements about them: P(theta >= t) >= 0.5 just when median >= t, and
    P(theta >= t) >= 0.2 just when upper80 >= t.
    """

    mites: int
    bees_mean: float
    bees_cv: float
    recovery: Recovery
    as_counted: float
    median: float
    low: float
    high: float
    upper80: float
    scale: Scale = "mites_per_100"

    def p_over(self, threshold_per_100: float) -> float:
        """Probability that the true rate is at or over the threshold (mites per 100 bees)."""
        if threshold_per_100 <= 0:
            return 1.0
        exposures = _exposures(self.bees_mean, self.bees_cv, self.recovery)
        return float(np.mean(special.gammaincc(self.mites + PRIOR_SHAPE, exposures * threshold_per_100 / 100)))


@dataclass(frozen=True, slots=True)
class FallReading:
    """Mites a day as a board shows them.

    `board_days` are the days that it was in times the share of it that was counted; `board_cv` says how far that share
    may miss the whole. The interval of a board counted whole is exact (Garwood 1936); `median` and `upper80` are of
    the posterior Gamma(m + 0.5, days), by which the level is judged.
    """

    mites: int
    board_days: float
    board_cv: float
    as_counted: float
    median: float
    low: float
    high: float
    upper80: float
    scale: Scale = "mites_per_day"

    def p_over(self, threshold_per_day: float) -> float:
        """Probability that the true fall is at or over the threshold (mites a day)."""
        if threshold_per_day <= 0:
            return 1.0
        exposures = _exposures(self.board_days, self.board_cv, "all")
        return float(np.mean(special.gammaincc(self.mites + PRIOR_SHAPE, exposures * threshold_per_day)))


@dataclass(frozen=True, slots=True)
class CellReading:
    """Drone cells infested, in percent of those opened, with the exact interval of a share. `mites` are the cells
    found infested; it is never a rate of mites per 100 bees."""

    mites: int
    as_counted: float
    median: float
    low: float
    high: float
    upper80: float
    scale: Scale = "percent_of_cells"


AnyReading = Reading | FallReading | CellReading

INCOMPLETE_SHARE = 0.15
"""Above this expected share of mites left on the bees, several shakes count for no more than one."""


def recovery_of(
    method: JarMethod, shakes: int, share_left: float | None, basis: ThresholdBasis = "corrected"
) -> Recovery:
    """Which share of the mites the count is taken to have found.

    Two or more shakes count as a full wash unless more than 15 % of the mites are expected to be still on
    the bees; `remaining` is never added as well, which would correct twice.
    """
    if basis == "as_counted":
        return "all"
    if method != "wash":
        return "sugar_roll" if method == "sugar" else "co2_roll"
    if shakes < 2 or (share_left is not None and share_left > INCOMPLETE_SHARE):
        return "wash_one_shake"
    return "wash_shakes"


def exposures_of(bees: BeesInSample, recovery: Recovery) -> npt.NDArray[np.float64]:
    """The grid of exposures (bee-equivalents) behind a sample, equal weights, shape (k,)."""
    return _exposures(bees.mean, bees.cv, recovery)


@lru_cache(maxsize=2048)
def _exposures(mean: float, cv: float, recovery: Recovery) -> npt.NDArray[np.float64]:
    levels = (np.arange(1, GRID + 1) - 0.5) / GRID
    bees = BeesInSample(mean, cv).quantiles(levels) if cv else np.array([mean])
    prior = RECOVERY_PRIOR[recovery]
    found = np.ones(1) if prior is None else special.betaincinv(prior[0], prior[1], levels)
    grid: npt.NDArray[np.float64] = np.outer(bees, found).ravel()
    grid.setflags(write=False)
    return grid


@lru_cache(maxsize=16384)
def read_jar(mites: int, bees: BeesInSample, recovery: Recovery) -> Reading:
    """The posterior of mites per 100 bees from a count of `mites` on `bees` with the given recovery."""
    exposures = _exposures(bees.mean, bees.cv, recovery)
    shape = mites + PRIOR_SHAPE

    def quantile(level: float) -> float:
        return 100.0 * _mixture_quantile(shape, exposures, level)

    return Reading(
        mites=mites,
        bees_mean=bees.mean,
        bees_cv=bees.cv,
        recovery=recovery,
        as_counted=100.0 * mites / bees.mean,
        median=quantile(0.5),
        low=quantile(0.025),
        high=quantile(0.975),
        upper80=quantile(0.8),
    )


def _mixture_quantile(shape: float, exposures: npt.NDArray[np.float64], level: float) -> float:
    """Quantile of the even mixture of Gamma(shape, exposure).

    Newton's steps in log theta on the normal score of the cdf, which is nearly a straight line there: three or four
    steps where a bracketing search takes seventeen.
    """
    log_exposures = np.log(exposures)
    u = math.log(float(special.gammaincinv(shape, level))) - float(np.mean(log_exposures))
    wanted = float(special.ndtri(level))
    norm = float(special.gammaln(shape))
    for _ in range(NEWTON_STEPS):
        log_x = log_exposures + u
        x = np.exp(log_x)
        reached = float(special.ndtri(np.mean(special.gammainc(shape, x))))
        density = float(np.mean(np.exp(shape * log_x - x - norm)))
        slope = density * math.sqrt(2 * math.pi) * math.exp(reached * reached / 2)
        step = (wanted - reached) / slope
        u += step
        if abs(step) < 1e-9:
            return math.exp(u)
    raise ArithmeticError(f"quantile {level} of a count with shape {shape} was not found")


def mean_recovery(recovery: Recovery) -> float:
    """The mean share of mites that reach the count."""
    prior = RECOVERY_PRIOR[recovery]
    return 1.0 if prior is None else prior[0] / (prior[0] + prior[1])


FOUND_WITH = 0.95


def would_have_found(reading: Reading) -> float:
    """The rate per 100 bees that a count of so many bees would have shown by one mite at least, with 95 %: what "none
    found" excludes, and no more."""
    return -100 * math.log(1 - FOUND_WITH) / (reading.bees_mean * mean_recovery(reading.recovery))


def read_fall(mites: int, board_days: float, board_cv: float = 0.0) -> FallReading:
    """The daily fall from mites counted on a board for `board_days` (days times the share counted)."""
    exposures = _exposures(board_days, board_cv, "all")
    shape = mites + PRIOR_SHAPE
    if board_cv == 0.0:
        low = 0.0 if mites == 0 else float(special.gammaincinv(mites, 0.025)) / board_days
        high = float(special.gammaincinv(mites + 1, 0.975)) / board_days
    else:
        low, high = _mixture_quantile(shape, exposures, 0.025), _mixture_quantile(shape, exposures, 0.975)
    return FallReading(
        mites=mites,
        board_days=board_days,
        board_cv=board_cv,
        as_counted=mites / board_days,
        median=_mixture_quantile(shape, exposures, 0.5),
        low=low,
        high=high,
        upper80=_mixture_quantile(shape, exposures, 0.8),
    )


def read_cells(opened: int, infested: int) -> CellReading:
    """Percent of drone cells infested with the exact interval of Clopper and Pearson."""
    found = rate_interval(infested, opened)
    middle, upper = special.betaincinv(infested + PRIOR_SHAPE, opened - infested + PRIOR_SHAPE, [0.5, 0.8])
    return CellReading(
        mites=infested,
        as_counted=found.rate_per_100,
        median=100 * float(middle),
        low=found.low_per_100,
        high=found.high_per_100,
        upper80=100 * float(upper),
    )
