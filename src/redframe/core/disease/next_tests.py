"""The next best test of a living colony: which are left, and what must come first whatever it tells.

See docs/methods/brood-diagnosis.md.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence, Set

from redframe.core.disease.brood_weighing import BroodWeighing
from redframe.core.disease.evidence import Weighed
from redframe.core.disease.gain import NextTest, by_gain
from redframe.core.disease.safety import DEAD_BROOD, SUSPICIONS, Flag, Rule, rope_was_done

SICK_LARVAE = ("larva_discoloured", "larva_twisted", "larva_melted", "larva_tracheae")
REMAINS = ("matchstick", "lfd_afb")
"""Tests that need remains of dead brood."""
KIT_AND_LABORATORY: Mapping[Flag, tuple[str, ...]] = {
    "AFB_SUSPECT": ("lfd_afb", "lab_brood"),
    "EFB_SUSPECT": ("lfd_efb", "lab_brood"),
    "EFB_CHECK": ("lfd_efb", "lab_brood"),
}


def next_tests(weighing: BroodWeighing, weighed: Weighed, rules: Sequence[Rule]) -> list[NextTest]:
    """The tests that are left, those that a rule forces first, then by what they tell for their time."""
    flags: set[Flag] = {flag for rule in rules for flag in rule.flags}
    forced = _forced(weighing, rules)
    left: dict[str, list[str]] = {}
    for name, test in weighing.settings.tests.items():
        unknown = [sign for sign in test.tells if sign not in weighing.findings]
        if name == "matchstick" and rope_was_done(weighing):
            unknown = []
        if not unknown or not (name in forced or _possible(name, weighing, flags)):
            continue
        # A suspicion is settled by kit and laboratory; nothing else sends anybody back into the hive.
        if "AFB_SUSPECT" in flags and name not in forced:
            continue
        left[name] = unknown
    return by_gain(weighing, weighed, left, forced)


def _forced(weighing: BroodWeighing, rules: Sequence[Rule]) -> dict[str, str]:
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


def _possible(name: str, weighing: BroodWeighing, flags: Set[Flag]) -> bool:
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
