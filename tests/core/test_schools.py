"""Where schools differ: the file holds together with the catalogue and the policy."""

from __future__ import annotations

import unittest
from typing import get_args

from redframe.core.policy.policy import Scope
from redframe.core.policy.treatment_rules import Approach, TreatmentRules
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.schools import schools


class Schools(unittest.TestCase):
    def test_the_file(self) -> None:
        """At least two sides each, on options that there are; each question once."""
        options = {one.id for one in default_catalogue().options}
        self.assertEqual(len({one.id for one in schools()}), len(schools()))
        for one in schools():
            with self.subTest(question=one.id):
                self.assertGreaterEqual(len(one.sides), 2)
                self.assertLessEqual(set(one.options), options)
                self.assertEqual(len({side.name for side in one.sides}), len(one.sides))

    def test_switches(self) -> None:
        """Every value of a setting has a side, the default of the policy that which is usual."""
        values: dict[str, tuple[bool | str, ...]] = {
            "approach": get_args(Approach), "trickle_repeat": (False, True), "vapour_series": (False, True),
            "scope": get_args(Scope),
        }  # fmt: skip
        switched = {one.switch.setting: (one, one.switch.sides) for one in schools() if one.switch is not None}
        self.assertEqual(set(switched), set(values))
        for setting, (one, sides) in switched.items():
            self.assertEqual(set(sides), set(values[setting]))
            self.assertLessEqual(set(sides.values()), {side.name for side in one.sides})
            self.assertEqual(one.followed(TreatmentRules(), "whole_apiary"), one.usual)

    def test_followed(self) -> None:
        """A setting moves its own question and no other; a question without one is nobody's to follow."""
        usual = {one.id: one.followed(TreatmentRules(), "whole_apiary") for one in schools()}
        moved = TreatmentRules(trickle_repeat=True, approach="calendar")
        now = {one.id: one.followed(moved, "single_colony") for one in schools()}
        self.assertEqual(
            {one for one in usual if usual[one] != now[one]}, {"trickle_again", "count_or_calendar", "all_or_some"}
        )
        self.assertIsNone(usual["thymol_heat"])
