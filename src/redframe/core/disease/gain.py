"""What a test would tell for its minutes.

Gain in bits by single mode: the entropy of the shares less what is expected to be left of it; `safe` the same of the
question whether it is notifiable. Ranked by (gain + 2 safe) / sqrt(2 + minutes). See docs/methods/brood-diagnosis.md.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import product
from math import sqrt

import numpy as np

from redframe.core.disease.evidence import Weighed, Weighing
from redframe.core.disease.matrix import Values


@dataclass(frozen=True, slots=True)
class NextTest:
    """A test with what it would tell in bits, in all and of the notifiable; `forced_by`: the rule that comes first."""

    id: str
    gain_bits: float
    safe_bits: float
    minutes: float
    forced_by: str | None


def by_gain(
    weighing: Weighing, weighed: Weighed, left: Mapping[str, Sequence[str]], forced: Mapping[str, str]
) -> list[NextTest]:
    """Tests with the signs that each would still tell (`left`), those that a rule forces first in their order, then by
    what they tell for their time."""
    shares = np.array(list(weighed.singles.values()))
    notifiable = np.array([name in weighing.notifiable for name in weighed.singles])
    found = []
    for name, unknown in left.items():
        gain, safe = _gain(_seen_by_each(weighing, unknown), shares, notifiable)
        found.append(NextTest(name, gain, safe, weighing.settings.tests[name].minutes, forced.get(name)))
    order = list(forced)
    return sorted(
        found,
        key=lambda one: (
            order.index(one.id) if one.id in forced else len(order),
            -(one.gain_bits + 2 * one.safe_bits) / sqrt(2 + one.minutes),
            one.id,
        ),
    )


def _seen_by_each(weighing: Weighing, signs: Sequence[str]) -> Values:
    """The chance of each sign with none of the conditions, and with each condition alone."""
    matrix = weighing.matrix
    rows = [matrix.row(one) for one in signs]
    alone = np.vstack([np.zeros(len(matrix.conditions)), np.eye(len(matrix.conditions))])
    normal = np.array([weighing.baseline(one) for one in signs])
    return weighing.seen_in(alone, rows, normal, matrix.chances[rows])


def _gain(seen: Values, shares: Values, notifiable: Values) -> tuple[float, float]:
    """Bits that the outcomes of signs not yet known are expected to tell, of the shares and of the notifiable."""
    outcomes = np.array(list(product((0.0, 1.0), repeat=len(seen))))
    chance = np.exp(outcomes @ np.log(seen) + (1 - outcomes) @ np.log(1 - seen)) * shares
    of_outcome = chance.sum(axis=1)
    after = chance / of_outcome[:, None]
    left = float(of_outcome @ _bits(after))
    safe_left = float(of_outcome @ _bits(_two(after, notifiable)))
    before, safe_before = _bits(shares[None, :]), _bits(_two(shares[None, :], notifiable))
    return max(0.0, float(before[0]) - left), max(0.0, float(safe_before[0]) - safe_left)


def _two(shares: Values, notifiable: Values) -> Values:
    yes = np.minimum(shares @ notifiable.astype(float), 1.0)
    return np.stack([yes, 1 - yes], axis=1)


def _bits(shares: Values) -> Values:
    return np.asarray(-(shares * np.log2(np.maximum(shares, 1e-300))).sum(axis=1))
