"""What each option is expected to leave by the first winter bees: as the forecast says, for many colonies at once."""

from __future__ import annotations

import unittest
from datetime import date, timedelta
from uuid import uuid4

from redframe.core.errors import InvalidInput
from redframe.demo.scenario import made_id
from redframe.work.forecast import expected as forecast_expected
from redframe.work.forecast import read as forecast_read
from redframe.work.forecast.expected import Expected
from redframe.work.forecast.read import Scenario
from tests.support import at_work, demo_template, identity, new_database

TODAY = date(2031, 8, 2)
MOOR = made_id("corrane", "apiary", "Whin Moor")
W2 = made_id("corrane", "Whin Moor", "W2")


class ExpectedLeft(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def expected(self, *colonies, start: date = TODAY, who=None) -> Expected:  # type: ignore[no-untyped-def]
        """What is expected in colonies of the moor."""
        return at_work(self.url, lambda unit: forecast_expected.expected_of(unit, MOOR, list(colonies), start), who)

    def test_it_is_what_the_forecast_of_the_colony_says(self) -> None:
        """Fewer members, the same middle: within a tenth of the forecast with the same course, on the same day."""
        found = self.expected(W2)
        self.assertTrue(found.is_winter_bees)
        left = {one.option_id: one.left for one in found.colonies[0].options}
        for option in (None, "FA_STRIP2", "OX_TRICKLE"):
            scenarios = [Scenario("course", option, TODAY)] if option else []
            whole = at_work(self.url, lambda unit, of=scenarios: forecast_read.colony_forecast(unit, W2, of))  # type: ignore[misc]
            band = next(one for one in whole.views[-1].days if one.date == found.on)
            with self.subTest(option=option):
                self.assertAlmostEqual(left[option].median / band.median, 1, delta=0.1)
                self.assertAlmostEqual(left[option].high80 / band.high80, 1, delta=0.15)

    def test_what_kills_leaves_less_and_later_is_not_better(self) -> None:
        """With sealed brood formic acid leaves less than a trickle, and that less than nothing at all."""
        left = {one.option_id: one.left.median for one in self.expected(W2).colonies[0].options}
        self.assertLess(left["FA_STRIP2"], left["OX_TRICKLE"])
        self.assertLess(left["OX_TRICKLE"], left[None])
        late = {one.option_id: one.left.median for one in self.expected(W2, start=TODAY + timedelta(days=18)).colonies[0].options}  # fmt: skip
        self.assertGreater(late["FA_STRIP2"], left["FA_STRIP2"])
        # What is not used here is not compared; what needs nobody's leave is.
        self.assertNotIn("AMZ_STRIP", left)
        self.assertIn("BROOD_OUT", left)

    def test_of_whom_nothing_is_known(self) -> None:
        """A colony that was never counted says why; after the day that is compared there is nothing to compare."""
        quay = made_id("corrane", "apiary", "Orrin Quay")
        found = at_work(self.url, lambda unit: forecast_expected.expected_of(unit, quay, [made_id("corrane", "Orrin Quay", "Q1")], TODAY))  # fmt: skip
        self.assertEqual((len(found.colonies[0].options), bool(found.colonies[0].why_not)), (0, True))
        beyond = self.expected(W2, start=date(2031, 9, 20)).colonies[0]
        self.assertEqual([one.option_id for one in beyond.options], [None])

    def test_what_is_refused(self) -> None:
        with self.assertRaises(InvalidInput) as past:
            self.expected(W2, start=TODAY - timedelta(days=1))
        self.assertEqual(past.exception.field, "start_on")
        with self.assertRaises(InvalidInput) as foreign:
            self.expected(W2, uuid4())
        self.assertEqual(foreign.exception.field, "colony_ids[1]")
        with self.assertRaises(InvalidInput):
            self.expected(W2, who=identity("keeper", "Orla Fenwick"))
