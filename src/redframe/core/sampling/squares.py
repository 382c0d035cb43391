"""A crowded board counted by some of its squares: the whole from a part, with what the part does not tell.

Mites lie in stripes under the seams of bees, so squares differ by more than chance. The spread between the squares
counted widens the total (docs/methods/counting.md, "Some squares of a board").
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy import special

from redframe.core.distributions import student_quantile
from redframe.core.errors import InvalidInput

MOST_SQUARES = 400
FEWEST_FOR_SPREAD = 3
UNKNOWN_SPREAD_CV = 0.5
"""Taken for the coefficient of variation between squares where fewer than three were counted."""


@dataclass(frozen=True, slots=True)
class SquaresSeen:
    """Mites in the squares counted, the share of the board they are, and how far the share misses the whole:
    `cv`, the coefficient of variation of the total beyond that of a Poisson count (0 when all were counted)."""

    mites: int
    share_counted: float
    cv: float


def squares_seen(squares: Sequence[int], squares_in_all: int) -> SquaresSeen:
    """The mites of the counted squares and what they leave open about the others.

    With k of N squares, mean c and variance s2 between them, the total's squared CV beyond chance is
    (1 - k/N) max(0, s2 - c) / (k c^2), widened by Student's t for few squares. Raises InvalidInput naming `squares`,
    `squares[i]` or `squares_in_all`.
    """
    if not 1 <= len(squares) <= MOST_SQUARES:
        raise InvalidInput("squares", "count one square at least", code="out_of_range", allowed=f"1 to {MOST_SQUARES}")
    for index, mites in enumerate(squares):
        if not 0 <= mites <= 10_000:
            raise InvalidInput(f"squares[{index}]", "must be 0 to 10000 mites", code="out_of_range")
    if not len(squares) <= squares_in_all <= MOST_SQUARES:
        raise InvalidInput("squares_in_all", "must be the squares counted at least", code="out_of_range",
                           allowed=f"{len(squares)} to {MOST_SQUARES}")  # fmt: skip
    counted = np.asarray(squares, dtype=np.float64)
    share = len(squares) / squares_in_all
    mean = float(counted.mean())
    if share == 1.0 or mean == 0.0:
        return SquaresSeen(int(counted.sum()), share, 0.0)
    if len(squares) < FEWEST_FOR_SPREAD:
        extra = UNKNOWN_SPREAD_CV**2 * mean**2
    else:
        extra = max(0.0, float(counted.var(ddof=1)) - mean)
    few = student_quantile(0.975, max(2, len(squares) - 1)) / float(special.ndtri(0.975))
    return SquaresSeen(int(counted.sum()), share, float(few) * math.sqrt((1 - share) * extra / len(squares)) / mean)
