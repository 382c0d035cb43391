"""Could a second sample change the verdict? And two samples taken together.

Given m1 mites, those of a second sample of the same size are negative binomial, m2 ~ NegBin(m1 + 1/2, E1/(E1 + E2));
two samples from one colony within three days are one: their mites and their bees are added, and half decides
(docs/methods/thresholds.md, "A second sample").
"""

from __future__ import annotations

import math
from typing import NamedTuple

from redframe.core.distributions import negative_binomial_over
from redframe.core.errors import InvalidInput
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.rates import PRIOR_SHAPE
from redframe.core.sampling.reading import FallReading, Reading, Recovery, read_fall, read_jar

TOGETHER_WITHIN_DAYS = 3
HALF = 0.5


def chance_of_flip(reading: Reading | FallReading, threshold: float) -> float:
    """Chance that a second sample of the same size, added to this one, turns P(at or over) across one half."""
    now = reading.p_over(threshold) >= HALF
    size = reading.mites + PRIOR_SHAPE
    most = _reached(size)
    cut = _fewest_over(reading, threshold, 2 * reading.mites + most + 1) - reading.mites
    over = negative_binomial_over(cut - 1, size, 0.5) if cut > 0 else 1.0
    return 1.0 - over if now else over


def _reached(size: float) -> int:
    """A number of mites that a second sample exceeds once in a thousand million times at the most."""
    most = 8
    while negative_binomial_over(most, size, 0.5) > 1e-9:
        most *= 2
    return most


def _fewest_over(reading: Reading | FallReading, threshold: float, most: int) -> int:
    """Fewest mites in two such samples with which P(at or over) reaches one half; `most` + 1 when none does."""
    low, high = 0, most + 1
    while low < high:
        middle = (low + high) // 2
        if _doubled(reading, middle).p_over(threshold) >= HALF:
            high = middle
        else:
            low = middle + 1
    return low


def _doubled(reading: Reading | FallReading, mites: int) -> Reading | FallReading:
    if isinstance(reading, FallReading):
        return read_fall(mites, 2 * reading.board_days, reading.board_cv)
    return read_jar(mites, BeesInSample(2 * reading.bees_mean, reading.bees_cv), reading.recovery)


class JarFigures(NamedTuple):
    """What a jar was counted to hold: mites, and bees with their coefficient of variation; how many mites it missed."""

    mites: int
    bees_mean: float
    bees_cv: float
    recovery: Recovery


def together(first: Reading | JarFigures, second: Reading | JarFigures) -> Reading:
    """Two samples of one colony as one: mites and bees added; the poorer recovery of the two is taken for both.

    Raises InvalidInput("recovery") for samples of different kinds of count, whose mites do not add.
    """
    kinds = {first.recovery, second.recovery}
    washes = {"wash_shakes", "wash_one_shake"}
    if len(kinds) > 1 and not kinds <= washes:
        raise InvalidInput("recovery", "only samples of one method are taken together", code="refused")
    recovery: Recovery = "wash_one_shake" if len(kinds) > 1 else first.recovery
    bees = first.bees_mean + second.bees_mean
    spread = math.hypot(first.bees_mean * first.bees_cv, second.bees_mean * second.bees_cv)
    return read_jar(first.mites + second.mites, BeesInSample(bees, spread / bees), recovery)
