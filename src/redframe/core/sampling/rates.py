"""Rates, exact intervals and probabilities for a known number of bees.

Two models stand side by side. The *share* form (Clopper and Pearson 1934) treats mites as marked bees and so
refuses more mites than bees. The *gamma-Poisson* form counts mites per bee, m ~ Poisson(n r theta) with the
Jeffreys prior theta^(-1/2), whose posterior for known n and r is Gamma(m + 0.5, n r); it judges the status,
because a bee can carry several mites. See docs/methods/counting.md.
"""

from __future__ import annotations

from dataclasses import dataclass

from scipy import special

from redframe.core.errors import InvalidInput

PRIOR_SHAPE = 0.5
"""Shape that the Jeffreys prior of a Poisson rate adds to the mites counted."""


@dataclass(frozen=True, slots=True)
class RateInterval:
    """Mites per 100 bees with a two-sided interval on the same scale."""

    rate_per_100: float
    low_per_100: float
    high_per_100: float


def rate_interval(mites: int, bees: int, confidence: float = 0.95) -> RateInterval:
    """Mites per 100 bees with the exact Clopper-Pearson interval of a share.

    Raises InvalidInput("mites") when there are more mites than bees: a share has no meaning there; use the
    gamma form of `reading.read_wash`.
    """
    if mites > bees:
        raise InvalidInput(
            "mites",
            "more mites than bees is not a share; count mites per bee instead",
            code="out_of_range",
            allowed=f"0 to {bees}",
        )
    tail = (1.0 - confidence) / 2.0
    low = 0.0 if mites == 0 else float(special.betaincinv(mites, bees - mites + 1, tail))
    high = 1.0 if mites == bees else float(special.betaincinv(mites + 1, bees - mites, 1.0 - tail))
    return RateInterval(100.0 * mites / bees, 100.0 * low, 100.0 * high)


def p_over(mites: int, bees: int, threshold_per_100: float) -> float:
    """Probability that the true rate is at or over the threshold, bees known and every mite found.

    Q(m + 0.5, n t), the upper regularised incomplete gamma function.
    """
    return float(special.gammaincc(mites + PRIOR_SHAPE, bees * threshold_per_100 / 100.0))
