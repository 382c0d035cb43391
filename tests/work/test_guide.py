"""The guide: what is recorded is seen to be done; only who keeps the association is led."""

from __future__ import annotations

import unittest

from redframe.demo.scenario import made_id
from redframe.store.errors import NotAllowed
from redframe.work.guide import guide
from redframe.work.guide.guide import Guide
from tests.support import at_work, demo_template, identity, new_database, owner_rows

STEPS = ["season", "scoop", "people", "apiary", "colonies"]


class Led(unittest.TestCase):
    def test_parts_are_done_by_what_is_recorded(self) -> None:
        """An association without its own scoop and season has these two left; what fits is said once or twice."""
        url = new_database(demo_template())
        admin = identity("administrator", association="corrane")
        owner_rows(url, "DELETE FROM guide_step WHERE association_id = %s RETURNING step", made_id("corrane"))
        owner_rows(url, "UPDATE policy SET scoops = '[]', calendar = (SELECT calendar FROM policy WHERE association_id = %s LIMIT 1) WHERE association_id = %s RETURNING version", made_id("corrane"), made_id("corrane"))  # fmt: skip

        def left() -> list[str]:
            found: Guide = at_work(url, guide.guide, admin)
            self.assertIn(len(found.steps), (0, len(STEPS)))
            return [one.step for one in found.steps if not one.done]

        self.assertEqual(left(), ["season", "scoop"])
        for _ in range(2):
            at_work(url, lambda unit: guide.say_fits(unit, "season"), admin)
        self.assertEqual(left(), ["scoop"])
        at_work(url, lambda unit: guide.say_fits(unit, "scoop"), admin)
        self.assertEqual(left(), [])
        self.assertEqual(at_work(url, guide.guide, identity("mentor")).steps, ())
        with self.assertRaises(NotAllowed):
            at_work(url, lambda unit: guide.say_fits(unit, "people"), identity("mentor"))
