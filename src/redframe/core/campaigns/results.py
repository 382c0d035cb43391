"""What the counts of a week say together: shares with honest intervals, percentiles, distribution, change.

Colonies of one apiary are alike, so a share over a level counts fewer than it has: the design effect is
1 + (m - 1) rho with rho 0.3, and Wilson's interval takes the effective number (docs/methods/count-week.md).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from redframe.core.distributions import student_quantile

WITHIN_APIARY = 0.3
Z95 = 1.959963984540054
FEWEST_TO_RANK = 3
LOW_COVERAGE = 0.4
EDGES = (0.0, 0.5, 1.0, 2.0, 3.0, 4.0, 6.0, 10.0)
"""Lower edges of the distribution's bars, mites per 100 bees; counts without a mite have a bar of their own."""


@dataclass(frozen=True, slots=True)
class Share:
    """A share of colonies with its 95 % interval; `effective` is how many independent colonies they are worth."""

    over: int
    counted: int
    effective: float
    share: float
    low: float
    high: float


def share_over(over: int, counted: int, per_apiary: float) -> Share | None:
    """The share of colonies over a level, `per_apiary` counted in each on the average; None where none was counted."""
    if counted == 0:
        return None
    effective = counted / (1 + max(0.0, per_apiary - 1) * WITHIN_APIARY)
    share = over / counted
    z2 = Z95**2
    middle = (share + z2 / (2 * effective)) / (1 + z2 / effective)
    reach = Z95 / (1 + z2 / effective) * math.sqrt(share * (1 - share) / effective + z2 / (4 * effective**2))
    return Share(over, counted, effective, share, max(0.0, middle - reach), min(1.0, middle + reach))


def percentile(values: Sequence[float], own: float) -> float:
    """Percent of the values below one's own, half of the equal ones with them."""
    below = sum(1 for value in values if value < own)
    equal = sum(1 for value in values if value == own)
    return 100 * (below + 0.5 * equal) / len(values)


def quarter(of_hundred: float) -> int:
    """The quarter, 1 the lowest, in which a percentile lies: a rank is given no finer."""
    return min(4, int(of_hundred // 25) + 1)


@dataclass(frozen=True, slots=True)
class Bar:
    """A bar of the distribution: rates from `low` to `high` (None: and more); `low` None: no mite found."""

    low: float | None
    high: float | None
    colonies: int


def distribution(rates: Sequence[float], none_found: int) -> list[Bar]:
    """Colonies by their rate (`rates` of those with a mite), those without a mite apart."""
    bars = [Bar(None, None, none_found)]
    for low, high in zip(EDGES, (*EDGES[1:], None), strict=True):
        inside = sum(1 for rate in rates if rate >= low and (high is None or rate < high))
        bars.append(Bar(low, high, inside))
    return bars


@dataclass(frozen=True, slots=True)
class Change:
    """Change from a week to the next in the same colonies: the mean ratio of their rates with its 95 % interval, and
    how many were counted both times."""

    colonies: int
    ratio: float
    low: float
    high: float
    days: float


def paired_change(
    before: Sequence[tuple[int, float]], after: Sequence[tuple[int, float]], days: float
) -> Change | None:
    """The paired change of colonies counted in both weeks: mites and exposures of each, in the same order.

    The mean of the log ratios of (m + 1/2)/E with Student's t; None for fewer than three colonies.
    """
    if len(before) < 3:
        return None
    logs = np.array([
        math.log((m2 + 0.5) / e2) - math.log((m1 + 0.5) / e1)
        for (m1, e1), (m2, e2) in zip(before, after, strict=True)
    ])  # fmt: skip
    middle = float(logs.mean())
    reach = student_quantile(0.975, len(logs) - 1) * float(logs.std(ddof=1)) / math.sqrt(len(logs))
    return Change(len(logs), math.exp(middle), math.exp(middle - reach), math.exp(middle + reach), days)


@dataclass(frozen=True, slots=True)
class Recovery:
    """Share of mites that a sugar roll finds here, from jars of the same colonies washed and rolled: Beta(a, b)."""

    pairs: int
    a: float
    b: float

    @property
    def mean(self) -> float:
        """The mean share."""
        return self.a / (self.a + self.b)


def local_recovery(
    pairs: Sequence[tuple[tuple[int, float], tuple[int, float]]], prior: tuple[float, float] = (15.0, 5.0)
) -> Recovery:
    """The sugar roll's share found, updated by pairs of (mites, bees times the wash's share found) and (mites, bees) of
    the same colony.

    Mites of the roll against those that the wash says were there: each pair adds the roll's mites to a and the missing
    to b, as if each mite were one trial.
    """
    a, b = prior
    for (washed, exposure), (rolled, bees) in pairs:
        there = max(float(rolled), washed / exposure * bees)
        a, b = a + rolled, b + there - rolled
    return Recovery(len(pairs), a, b)
