"""The disease examination: what "not seen" reaches, and what is refused."""

from __future__ import annotations

import unittest
from typing import Any

from redframe.core.disease.groups import groups
from redframe.core.disease.signs import signs
from redframe.core.errors import InvalidInput
from redframe.core.inputs import read
from redframe.core.visits.examination import Examination

FULL = {
    "brood_combs": 6, "combs_read": 6, "bees_off": "shaken", "scale_read": True, "smelled": True, "cells_opened": 10,
    "bees_looked_at": 100, "not_seen": list(groups()),
}  # fmt: skip


def absent(**changed: Any) -> dict[str, str]:
    """The effort by sign of what was looked for and not seen, where an examination differs from a full one."""
    return dict(Examination.model_validate({**FULL, **changed}).absences())


class Groups(unittest.TestCase):
    def test_every_sign_is_known_and_stands_once(self) -> None:
        """A group of a sign that is none would say nothing, and nobody would know."""
        named = [one for group in groups().values() for one in group.signs]
        self.assertLessEqual(set(named), set(signs()))
        self.assertEqual(len(named), len(set(named)))


class NotSeen(unittest.TestCase):
    def test_a_full_examination_covers_every_group(self) -> None:
        """In full: all brood combs shaken clear, scale read, ten cells opened, smelled, bees looked at."""
        found = absent()
        self.assertEqual(set(found), {one for group in groups().values() for one in group.signs})
        self.assertEqual(found["scale_stuck"], "thorough")
        self.assertEqual(found["dwv"], "standard")

    def test_nothing_is_said_of_what_was_not_done(self) -> None:
        """With the bees on no larva is seen; unopened cells, a scale not read, no smelling, no bees looked at."""
        self.assertNotIn("larva_twisted", absent(bees_off="on"))
        self.assertEqual(absent(bees_off="on")["mummy_white"], "glance")
        self.assertNotIn("larva_brown_capped", absent(cells_opened=9))
        self.assertNotIn("pupa_tongue", absent(cells_opened=None))
        self.assertNotIn("scale_stuck", absent(scale_read=False))
        self.assertNotIn("scale_stuck", absent(bees_off="on"))
        self.assertNotIn("smell_foul", absent(smelled=False))
        self.assertNotIn("dwv", absent(bees_looked_at=None, not_seen=["foulbrood"]))
        self.assertEqual((absent()["dwv"], absent(bees_looked_at=99)["dwv"]), ("standard", "glance"))
        self.assertEqual(absent(not_seen=[]), {})

    def test_thorough_takes_every_brood_comb(self) -> None:
        """Five of six shaken clear are a standard look; all shaken lowers the floor of foulbrood only then."""
        self.assertEqual(absent(combs_read=5)["cap_sunken"], "standard")
        self.assertEqual(absent(brood_combs=None)["cap_sunken"], "standard")
        self.assertFalse(Examination.model_validate({**FULL, "combs_read": 5}).all_shaken)
        self.assertTrue(Examination.model_validate(FULL).all_shaken)


class Refused(unittest.TestCase):
    def test_each_at_its_field(self) -> None:
        """In words of the trade, at the field that is wrong."""
        for changed, field in (
            ({"combs_read": 7}, "combs_read"),
            ({"combs_read": 0}, "combs_read"),
            ({"bees_off": None}, "combs_read"),
            ({"bees_looked_at": None}, "bees_looked_at"),
            ({"thread_mm": 20}, "thread_cells"),
            ({"thread_cells": 5}, "thread_mm"),
            ({"signs": [{"sign": "ropy_short"}]}, "signs[0].sign"),
            ({"signs": [{"sign": "dwv", "number": 9, "of": 5}]}, "signs[0].number"),
            ({"signs": [{"sign": "dwv"}, {"sign": "dwv"}]}, "signs"),
            ({"lately": ["a_comet"]}, "lately"),
        ):
            with self.assertRaises(InvalidInput, msg=changed) as refused:
                read(Examination, {**FULL, **changed})
            self.assertTrue(refused.exception.field.endswith(field), (refused.exception.field, field))


if __name__ == "__main__":
    unittest.main()
