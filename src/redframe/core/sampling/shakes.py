"""Repeated shakes of one jar: has the jar given up its mites?

The removal estimator of Carle and Strub 1978, which exists for every sequence of catches, beside an expected
share of mites still on the bees under a Beta(6, 2) prior for the release per shake.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from redframe.core.errors import InvalidInput

PRIOR_RELEASED, PRIOR_KEPT = 6.0, 2.0
ENOUGH_SHARE_LEFT = 0.05
MOST_SHAKES = 6


@dataclass(frozen=True, slots=True)
class Removal:
    """What a sequence of shakes says.

    `estimate` is a mode-type number that may equal the total while mites remain: it is never shown as "true
    mites". `share_left` is the expected share of the mites still on the bees. None stands for "no mites, so
    nothing to tell".
    """

    total_counted: int
    estimate: int
    remaining: int
    release_per_shake: float | None
    depleting: bool | None
    share_left: float | None
    shake_again: bool


def removal(shakes: Sequence[int]) -> Removal:
    """Removal estimate from two to eight shakes, in the order in which they were counted.

    Raises InvalidInput("shakes") for fewer than two or more than eight, and names the shake that is negative.
    """
    if not 2 <= len(shakes) <= 8:
        raise InvalidInput("shakes", "give two to eight shakes", code="out_of_range", allowed="2 to 8 shakes")
    for index, mites in enumerate(shakes):
        if mites < 0:
            raise InvalidInput(f"shakes[{index}]", "a shake cannot bring down fewer than no mites", code="out_of_range")
    k = len(shakes)
    total = sum(shakes)
    if total == 0:
        return Removal(0, 0, 0, None, None, None, False)
    weighted = sum((k - i) * mites for i, mites in enumerate(shakes, start=1))
    estimate = total
    while not _carle_strub_satisfied(estimate, k, total, weighted):
        estimate += 1
    effort = k * estimate - weighted
    release = (total + PRIOR_RELEASED) / (effort + PRIOR_RELEASED + PRIOR_KEPT)
    share_left = (1.0 - release) ** k
    return Removal(
        total_counted=total,
        estimate=estimate,
        remaining=estimate - total,
        release_per_shake=total / effort,
        depleting=weighted > (total - 1) * (k - 1) / 2,
        share_left=share_left,
        shake_again=share_left > ENOUGH_SHARE_LEFT and k < MOST_SHAKES,
    )


def _carle_strub_satisfied(n: int, k: int, total: int, weighted: int) -> bool:
    ratio = (n + 1) / (n - total + 1)
    for i in range(1, k + 1):
        ratio *= (k * n - weighted - total + 1 + k - i) / (k * n - weighted + 2 + k - i)
    return ratio <= 1.0


def shake_again(shakes: Sequence[int]) -> bool:
    """Whether another shake is worth it: always after one, never after two without a mite, else by share left."""
    if len(shakes) < 2:
        return True
    if len(shakes) >= 8:
        return False
    return removal(shakes).shake_again
