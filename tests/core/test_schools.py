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
        values = {"approach": get_args(Approach), "trickle_repeat": ("false", "true"), "vapour_series": ("false", "true"), "scope": get_args(Scope)}  # fmt: skip
        rules = TreatmentRules()
        by_default = {"approach": rules.approach, "trickle_repeat": str(rules.trickle_repeat).lower(), "vapour_series": str(rules.vapour_series).lower(), "scope": "whole_apiary"}  # fmt: skip
        switched = [one for one in schools() if one.switch is not None]
        self.assertEqual({one.switch.setting for one in switched if one.switch}, set(values))
        for one in switched:
            assert one.switch is not None
            self.assertEqual(set(one.switch.sides), set(values[one.switch.setting]))
            self.assertLessEqual(set(one.switch.sides.values()), {side.name for side in one.sides})
            self.assertEqual(one.followed(by_default), one.usual)
            self.assertIsNone(one.followed({}))
