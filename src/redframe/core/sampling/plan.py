"""How many colonies of an apiary to count so that one that is over is found.

Sampling is without replacement, so the finite apiary counts (docs/methods/counting.md, "How many colonies").
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy import stats

from redframe.core.errors import InvalidInput

SLACK = 1e-12


@dataclass(frozen=True, slots=True)
class DetectionSample:
    """Colonies to count (None: not even all of them are enough), and the chance of finding one with them."""

    sample: int | None
    achieved: float
    reachable: bool


def chance_to_detect(colonies: int, over: int, sampled: int, sensitivity: float = 1.0) -> float:
    """Chance that at least one of `over` colonies is called over when `sampled` of `colonies` are counted.

    `sensitivity`: chance that the count of a colony that is over says so.
    """
    found = np.arange(min(over, sampled) + 1)
    missed = stats.hypergeom.pmf(found, colonies, over, sampled) * (1.0 - sensitivity) ** found
    return float(1.0 - missed.sum())


def detection_sample(colonies: int, over: int, confidence: float, sensitivity: float = 1.0) -> DetectionSample:
    """The fewest colonies to count so that one of those over is found with this confidence.

    Raises InvalidInput("over") for more colonies over than there are.
    """
    if over > colonies:
        raise InvalidInput("over", "there are not so many colonies", code="out_of_range", allowed=f"1 to {colonies}")
    achieved = chance_to_detect(colonies, over, colonies, sensitivity)
    if achieved < confidence - SLACK:
        return DetectionSample(None, achieved, False)
    low, high = 1, colonies
    while low < high:
        middle = (low + high) // 2
        if chance_to_detect(colonies, over, middle, sensitivity) >= confidence - SLACK:
            high = middle
        else:
            low = middle + 1
    return DetectionSample(low, chance_to_detect(colonies, over, low, sensitivity), True)
