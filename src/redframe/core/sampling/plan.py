"""How many colonies of an apiary to count, for a wanted precision of the mean or to find one that is over; and which.

Sampling is without replacement, so the finite apiary counts (docs/methods/counting.md, "How many colonies").
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal
from uuid import UUID

import numpy as np

from redframe.core.distributions import hypergeometric
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
    found = np.arange(min(over, sampled) + 1.0)
    missed = hypergeometric(found, colonies, over, sampled) * (1.0 - sensitivity) ** found
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


Aim = Literal["mean", "find"]
"""What is counted for: the apiary's mean, or to find a colony that is over."""


@dataclass(frozen=True, slots=True)
class Chosen:
    """A colony to count and why; one that was not `drawn` at random was targeted: it enters its own level,
    never the apiary's mean."""

    colony_id: UUID
    why: Why

    @property
    def targeted(self) -> bool:
        """Whether it was chosen for what is known of it."""
        return self.why != "drawn"


def choose(candidates: Sequence[Candidate], sample: int, aim: Aim, generator: np.random.Generator) -> list[Chosen]:
    """The colonies to count, at least `sample` of them as far as there are.

    For the mean so many are drawn at random from all, each as likely as any other; those that must be looked at in any
    case (over last time, with signs, the strongest) are added where chance left them out. To find one that is over
    those come first, and then the ones that tell most: the never counted, then those whose chance of being over is
    nearest to one half.
    """
    chosen: dict[UUID, Chosen] = {}
    if aim == "mean":
        for number in generator.permutation(len(candidates))[:sample]:
            colony = candidates[number].colony_id
            chosen[colony] = Chosen(colony, "drawn")
    for one in _must_be_looked_at(candidates):
        chosen.setdefault(one.colony_id, one)
    if aim == "find":
        others = [one for one in candidates if one.colony_id not in chosen]
        telling = sorted(others, key=lambda one: -_tells(one.p_act))[: max(0, sample - len(chosen))]
        for each in telling:
            why: Why = "never_counted" if each.p_act is None else "close_call"
            chosen[each.colony_id] = Chosen(each.colony_id, why)
    return [chosen[one.colony_id] for one in candidates if one.colony_id in chosen]


def _must_be_looked_at(candidates: Sequence[Candidate]) -> Iterator[Chosen]:
    for one in candidates:
        if one.over:
            yield Chosen(one.colony_id, "over_last_time")
        elif one.signs:
            yield Chosen(one.colony_id, "signs")
    known = [one for one in candidates if one.strength is not None]
    if known:
        yield Chosen(max(known, key=lambda one: one.strength or 0.0).colony_id, "strongest")


def _tells(p_act: float | None) -> float:
    """Bits that the verdict of a colony is worth: one where nothing is known, none where it is sure."""
    if p_act is None:
        return 1.0
    p = min(max(p_act, 1e-12), 1 - 1e-12)
    return -(p * math.log2(p) + (1 - p) * math.log2(1 - p))
