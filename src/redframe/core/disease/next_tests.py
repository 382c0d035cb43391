"""The next best test: what it would tell for its minutes, and what must come first whatever it tells.

Gain in bits by single mode: the entropy of the shares less what is expected to be left of it; `safe` the same of the
question whether it is notifiable. Ranked by (gain + 2 safe) / sqrt(2 + minutes). See docs/methods/brood-diagnosis.md.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence, Set
from dataclasses import dataclass
from itertools import product
from math import sqrt

import numpy as np

from redframe.core.disease.evidence import Weighed, Weighing
from redframe.core.disease.matrix import Values
from redframe.core.disease.safety import DEAD_BROOD, SUSPICIONS, Flag, Rule, rope_was_done

SICK_LARVAE = ("larva_discoloured", "larva_twisted", "larva_melted", "larva_tracheae")
REMAINS = ("matchstick", "lfd_afb")
"""Tests that need remains of dead brood."""
KIT_AND_LABORATORY: Mapping[Flag, tuple[str, ...]] = {
    "AFB_SUSPECT": ("lfd_afb", "lab_brood"),
    "EFB_SUSPECT": ("lfd_efb", "lab_brood"),
    "EFB_CHECK": ("lfd_efb", "lab_brood"),
}


@dataclass(frozen=True, slots=True)
class NextTest:
    """A test with what it would tell in bits, in all and of the notifiable; `forced_by`: the rule that comes first."""

    id: str
    gain_bits: float
    safe_bits: float
    minutes: float
    forced_by: str | None


def next_tests(weighing: Weighing, weighed: Weighed, rules: Sequence[Rule]) -> list[NextTest]:
    """The tests that are left, those that a rule forces first, then by what they tell for their time."""
    flags: set[Flag] = {flag for rule in rules for flag in rule.flags}
    forced = _forced(weighing, rules)
    shares = np.array(list(weighed.singles.values()))
    notifiable = np.array([name in weighing.notifiable for name in weighed.singles])
    found = []
    for name, test in weighing.settings.tests.items():
        unknown = [sign for sign in test.tells if sign not in weighing.findings]
        if name == "matchstick" and rope_was_done(weighing):
            unknown = []
        if not unknown or not (name in forced or _possible(name, weighing, flags)):
            continue
        # A suspicion is settled by kit and laboratory; nothing else sends anybody back into the hive.
        if "AFB_SUSPECT" in flags and name not in forced:
            continue
        gain, safe = _gain(_seen_by_each(weighing, unknown), shares, notifiable)
        found.append(NextTest(name, gain, safe, test.minutes, forced.get(name)))
    order = list(forced)
    return sorted(
        found,
        key=lambda one: (
            order.index(one.id) if one.id in forced else len(order),
            -(one.gain_bits + 2 * one.safe_bits) / sqrt(2 + one.minutes),
            one.id,
        ),
    )


def _forced(weighing: Weighing, rules: Sequence[Rule]) -> dict[str, str]:
    """The tests that rules put first, in that order."""
    forced: dict[str, str] = {}
    for rule in rules:
        if "ROPE_TEST_NOW" in rule.flags:
            forced.setdefault("matchstick", rule.id)
    for flag, tests in KIT_AND_LABORATORY.items():
        by = next((rule.id for rule in rules if flag in rule.flags), None)
        for test in tests if by is not None else ():
            forced.setdefault(test, by or "")
    if any("EXOTIC_MITE" in rule.flags for rule in rules):
        forced.setdefault("bump_for_mites", "R8")
    return forced


def _possible(name: str, weighing: Weighing, flags: Set[Flag]) -> bool:
    if name in REMAINS:
        dead = any(weighing.is_present(one) for one in DEAD_BROOD)
        return dead or not weighing.is_absent("larva_brown_capped")
    if name == "lfd_efb":
        return not all(weighing.is_absent(one) for one in SICK_LARVAE)
    if name == "drone_uncap":
        return not weighing.is_present("no_brood")
    if name == "test_frame":
        return not flags & SUSPICIONS
    return True


def _seen_by_each(weighing: Weighing, signs: Sequence[str]) -> Values:
    """The chance of each sign in a colony with nothing, and with each condition alone."""
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
