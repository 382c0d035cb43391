"""Distributions in closed form, by special functions alone.

`scipy.stats` gives the same numbers (a test holds the two together), but takes longer to import than the whole of the
core, and its general checks cost more than the sums themselves.
"""

from __future__ import annotations

import numpy as np
import numpy.typing as npt
from scipy import special

Numbers = npt.NDArray[np.float64] | float


def log_negative_binomial(count: Numbers, size: Numbers, share: Numbers) -> npt.NDArray[np.float64]:
    """Log of the probability of `count` failures before `size` successes, each with the chance `share`."""
    ways = special.gammaln(count + size) - special.gammaln(count + 1.0) - special.gammaln(size)
    return np.asarray(ways + size * np.log(share) + special.xlog1py(count, -share))


def negative_binomial_over(count: float, size: float, share: float) -> float:
    """Probability of more than `count` failures before `size` successes: I_(1-share)(count + 1, size)."""
    return float(special.betainc(count + 1.0, size, 1.0 - share))


def log_choices(things: Numbers, taken: Numbers) -> npt.NDArray[np.float64]:
    """Log of the number of ways to take so many of so many things."""
    return np.asarray(-special.betaln(things - taken + 1.0, taken + 1.0) - np.log1p(things))


def hypergeometric(found: Numbers, colonies: int, marked: int, sampled: int) -> npt.NDArray[np.float64]:
    """Probability of `found` marked ones among `sampled` of `colonies`, drawn without putting back."""
    rest = np.asarray(sampled - found)
    possible = (rest >= 0) & (rest <= colonies - marked)
    drawn = np.where(possible, rest, 0)
    logs = log_choices(marked, found) + log_choices(colonies - marked, drawn) - log_choices(colonies, sampled)
    return np.where(possible, np.exp(logs), 0.0)


def student_quantile(level: float, freedom: float) -> float:
    """The value below which a Student's t with so many degrees of freedom lies with this probability."""
    return float(special.stdtrit(freedom, level))


def student_over(value: float, freedom: float) -> float:
    """Probability that a Student's t lies over a value."""
    return float(special.stdtr(freedom, -value))
