"""Growth between two counts of one colony, or along several, with its interval.

With a_i = m_i + 0.5 the ratio of the two true rates has a Beta form, so the interval is exact for known bees.
The words come from a more cautious variance that adds how well the bees are known and the patchiness of mites
between brood frames (negative binomial, size 6). A treatment, split or brood break between the counts is not
growth: callers compare across it with `treatments.verification` instead.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

import numpy as np
from scipy import special

from redframe.core.errors import InvalidInput
from redframe.core.sampling.rates import PRIOR_SHAPE

PATCHINESS_SIZE = 6.0
NO_GROWTH = 1e-9
FEWEST_IN_LINE = 3

TrendWord = Literal["really_rose", "probably_rose", "no_clear_change", "probably_fell", "really_fell"]
NotCompared = Literal["same_day", "scale", "no_rate", "treated", "divided"]
"""Why growth cannot be told between two counts."""


@dataclass(frozen=True, slots=True)
class Growth:
    """Growth of the infestation per day (natural log), its 95 % interval, and the chance that it rose at all."""

    days: int
    rate_per_day: float
    low_per_day: float
    high_per_day: float
    doubling_days: float | None
    p_rose: float
    p_rose_cautious: float
    words: TrendWord


def growth(
    mites_1: int,
    bees_1: float,
    date_1: date,
    mites_2: int,
    bees_2: float,
    date_2: date,
    *,
    cv_1: float = 0.0,
    cv_2: float = 0.0,
    recovery_cv2: float = 0.0,
) -> Growth:
    """Growth from count 1 to count 2. `cv_*` are coefficients of variation of the bees, `recovery_cv2` the sum of
    the squared ones of the recoveries where the methods differ. Raises InvalidInput("date_2") unless it is later.
    """
    days = (date_2 - date_1).days
    if days <= 0:
        raise InvalidInput("date_2", "the second count must be later than the first", code="out_of_range")
    a1, a2 = mites_1 + PRIOR_SHAPE, mites_2 + PRIOR_SHAPE
    log_ratio = math.log((a2 / bees_2) / (a1 / bees_1))

    def log_ratio_at(level: float) -> float:
        q = float(special.betaincinv(a1, a2, level))
        return math.log(bees_1 / bees_2) + math.log1p(-q) - math.log(q)

    rate = log_ratio / days
    variance = 1 / a1 + 1 / a2 + cv_1**2 + cv_2**2 + recovery_cv2 + 2 / PATCHINESS_SIZE
    cautious = float(special.ndtr(log_ratio / math.sqrt(variance)))
    return Growth(
        days=days,
        rate_per_day=rate,
        low_per_day=log_ratio_at(0.975) / days,
        high_per_day=log_ratio_at(0.025) / days,
        doubling_days=math.log(2) / rate if rate > NO_GROWTH else None,
        p_rose=float(special.betainc(a1, a2, bees_1 / (bees_1 + bees_2))),
        p_rose_cautious=cautious,
        words=trend_words(cautious),
    )


def trend_words(p_rose: float) -> TrendWord:
    """The plain word for a cautious probability of having risen."""
    if p_rose >= 0.95:
        return "really_rose"
    if p_rose >= 0.80:
        return "probably_rose"
    if p_rose > 0.20:
        return "no_clear_change"
    if p_rose > 0.05:
        return "probably_fell"
    return "really_fell"


@dataclass(frozen=True, slots=True)
class TrendPoint:
    """A count on the line: its day, its mites, what they are counted in (bees, or days of a board), the coefficient of
    variation of that, and the squared one of the recovery where methods differ along the line."""

    day: date
    mites: int
    exposure: float
    cv: float = 0.0
    recovery_cv2: float = 0.0

    @property
    def log_rate(self) -> float:
        """Logarithm of the rate, half a mite added."""
        return math.log((self.mites + PRIOR_SHAPE) / self.exposure)

    @property
    def variance(self) -> float:
        """Variance of that logarithm: of the count, of what it is counted in, of the recovery, of patchiness."""
        return 1 / (self.mites + PRIOR_SHAPE) + self.cv**2 + self.recovery_cv2 + 1 / PATCHINESS_SIZE


@dataclass(frozen=True, slots=True)
class TrendLine:
    """The weighted line through the logarithms of several counts: growth a day with its 95 % interval, and the chance
    that the infestation rose at all."""

    counts: int
    first: date
    last: date
    rate_per_day: float
    low_per_day: float
    high_per_day: float
    doubling_days: float | None
    p_rose: float
    words: TrendWord


def trend_line(points: Sequence[TrendPoint]) -> TrendLine | None:
    """The line through three or more counts on two or more days, weighted by 1/variance; None for fewer.

    Callers leave out what lies across a treatment, a split or a break in laying: a line is not fitted across those.
    """
    days = np.array([point.day.toordinal() for point in points], dtype=np.float64)
    if len(points) < FEWEST_IN_LINE or np.ptp(days) == 0:
        return None
    weights = np.array([1 / point.variance for point in points])
    rates = np.array([point.log_rate for point in points])
    middle = np.average(days, weights=weights)
    spread = float((weights * (days - middle) ** 2).sum())
    slope = float((weights * (days - middle) * rates).sum()) / spread
    error = 1 / math.sqrt(spread)
    p_rose = float(special.ndtr(slope / error))
    reach = float(special.ndtri(0.975)) * error
    return TrendLine(
        counts=len(points),
        first=min(point.day for point in points),
        last=max(point.day for point in points),
        rate_per_day=slope,
        low_per_day=slope - reach,
        high_per_day=slope + reach,
        doubling_days=math.log(2) / slope if slope > NO_GROWTH else None,
        p_rose=p_rose,
        words=trend_words(p_rose),
    )
