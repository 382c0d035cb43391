"""How many colonies of an apiary to count, for a wanted precision of the mean or to find one that is over; and which.

Sampling is without replacement, so the finite apiary counts (docs/methods/counting.md, "How many colonies").
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal
from uuid import UUID

import numpy as np
from scipy import stats

from redframe.core.errors import InvalidInput

SLACK = 1e-12
Z95 = 1.959963984540054
USUAL_CV = 0.9
"""Coefficient of variation of one colony's observed rate: colonies of an apiary and counting together."""
NEAR_SENSITIVITY = 0.85
"""Chance that the count of a colony near the threshold, truly over, says so."""
USUAL_SHARE_OVER = 0.10


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


def rate_cv(kappa: float, mean_per_100: float, bees: float, recovery: float = 1.0) -> float:
    """Coefficient of variation of one colony's observed rate: 1/kappa between colonies, 1/(n mu r) from counting."""
    return math.sqrt(1 / kappa + 1 / (bees * mean_per_100 / 100 * recovery))


def precision_sample(colonies: int, half_width: float, cv: float = USUAL_CV) -> int:
    """Colonies to count so that the 95 % interval of the apiary's mean is no wider than +- `half_width` of it (a
    share), with the correction for a finite apiary. Raises InvalidInput("half_width")."""
    if not 0 < half_width <= 2:
        raise InvalidInput("half_width", "must be more than 0", code="out_of_range", allowed="0 to 2")
    endless = (Z95 * cv / half_width) ** 2
    return min(colonies, math.ceil(endless / (1 + endless / colonies) - SLACK))


def over_to_find(colonies: int) -> int:
    """How many colonies over the threshold a plan is made to find: one in ten, one at least."""
    return max(1, math.ceil(USUAL_SHARE_OVER * colonies - SLACK))


Why = Literal["over_last_time", "signs", "strongest", "close_call", "never_counted", "drawn"]


@dataclass(frozen=True, slots=True)
class Candidate:
    """A colony that may be counted: what is known of it. `p_act` is the chance that it is at or over the act level now
    (None where nothing is known), `signs` mites or their dirt seen in brood, `strength` in frames of bees."""

    colony_id: UUID
    p_act: float | None
    over: bool
    signs: bool
    strength: float | None
    counted_on: date | None


@dataclass(frozen=True, slots=True)
class Chosen:
    """A colony to count and why; one that was not `drawn` enters its own standing, never the apiary's mean."""

    colony_id: UUID
    why: Why


def choose(candidates: Sequence[Candidate], sample: int, generator: np.random.Generator) -> list[Chosen]:
    """The colonies to count: those that must be looked at whatever the plan (over last time, with signs, the
    strongest), then `sample` drawn so that the ones that tell most come first.

    A count tells most where it is hardest to guess: the never counted, then those whose chance of being over is nearest
    to one half. Half of the sample is drawn by lot from all, so that the apiary's mean stays an honest one.
    """
    chosen: dict[UUID, Chosen] = {}
    for one in candidates:
        if one.over:
            chosen[one.colony_id] = Chosen(one.colony_id, "over_last_time")
        elif one.signs:
            chosen[one.colony_id] = Chosen(one.colony_id, "signs")
    known = [one for one in candidates if one.strength is not None]
    if known:
        strongest = max(known, key=lambda one: one.strength or 0.0)
        chosen.setdefault(strongest.colony_id, Chosen(strongest.colony_id, "strongest"))
    others = [one for one in candidates if one.colony_id not in chosen]
    by_lot = {others[index].colony_id for index in generator.permutation(len(others))[: math.ceil(sample / 2)]}
    telling = sorted(
        (one for one in others if one.colony_id not in by_lot), key=lambda one: -_tells(one.p_act)
    )[: sample - len(by_lot)]  # fmt: skip
    for one in others:
        if one.colony_id in by_lot:
            chosen[one.colony_id] = Chosen(one.colony_id, "drawn")
        elif one in telling:
            chosen[one.colony_id] = Chosen(one.colony_id, "never_counted" if one.p_act is None else "close_call")
    return list(chosen.values())


def _tells(p_act: float | None) -> float:
    """Bits that the verdict of a colony is worth: one where nothing is known, none where it is sure."""
    if p_act is None:
        return 1.0
    p = min(max(p_act, 1e-12), 1 - 1e-12)
    return -(p * math.log2(p) + (1 - p) * math.log2(1 - p))
