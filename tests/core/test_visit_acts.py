"""What is done at a visit and taken from it: supers and feed against courses, small acts, ripe honey above the reserve."""

from __future__ import annotations

import unittest
from collections.abc import Sequence
from datetime import date, timedelta
from typing import Any

from redframe.core.visits.assessment import assess
from redframe.core.visits.estimates import SeenFrame
from redframe.core.visits.finding import VisitFinding
from redframe.core.visits.place import CoursePlanned, CourseThen
from redframe.core.visits.record import After, FrameRecord
from redframe.core.visits.with_course import CoursesThen
from tests.core.test_visit_assessment import (
    AMITRAZ,
    BROOD_BOX,
    FORMIC,
    NEST,
    SUPER,
    THYMOL_SOON,
    by_code,
    facts,
    frames,
)


class SupersAndFeed(unittest.TestCase):
    """What a visit leaves on the hive against the courses of that day."""

    def codes(self, after: dict[str, Any], *given: CourseThen, planned: Sequence[CoursePlanned] = ()) -> dict[str, str]:
        """The findings of supers and feed, with their levels."""
        found = assess(facts((), after, courses=CoursesThen(given, tuple(planned)))).findings
        return {one.code: one.level for one in found if one.code.startswith(("supers_", "feed_"))}

    def test_what_is_in_the_hive(self) -> None:
        on = {"supers_on": True, "feed": "syrup_2_1"}
        self.assertEqual(self.codes(on, FORMIC), {"supers_with_course_by_label": "watch", "feed_with_course": "act"})
        self.assertEqual(self.codes(on, AMITRAZ), {"supers_with_course": "act"})
        self.assertEqual(self.codes({"supers_on": False, "feed": "none"}, FORMIC, AMITRAZ), {})
        self.assertEqual(self.codes({}, FORMIC, AMITRAZ), {})
        out = CourseThen("Formic strips", date(2031, 5, 2), date(2031, 5, 9), None, "no", False)
        self.assertEqual(self.codes(on, out), {})

    def test_what_is_planned(self) -> None:
        on = {"supers_on": True, "feeder": "refilled"}
        self.assertEqual(
            self.codes(on, planned=[THYMOL_SOON]), {"supers_before_course": "watch", "feed_before_course": "watch"}
        )

    def test_the_feeder_says_whether_there_is_feed(self) -> None:
        """Put on or filled: fed; emptied or taken off: not; left as it was: fed, and a finding."""
        for feeder, fed in (
            ("put_on", True),
            ("refilled", True),
            ("taken", False),
            ("untouched", True),
            ("removed", False),
        ):
            self.assertIs(After.model_validate({"feeder": feeder}).fed, fed)
        self.assertEqual(self.codes({"feeder": "untouched"}), {"feed_untouched": "act"})
        with self.assertRaisesRegex(ValueError, "feeder: say that it was put on"):
            After.model_validate({"feeder": "removed", "feed": "fondant"})


class QuickActs(unittest.TestCase):
    """Drone comb cut, queen cells removed, sugar dusted: recorded, and what follows from them."""

    def codes(self, **after: Any) -> dict[str, str]:
        """Their findings, with their levels."""
        found = assess(facts((), after)).findings
        return {one.code: one.level for one in found if one.code.startswith(("drone_comb", "cells_removed", "sugar"))}

    def test_recorded_for_what_they_are(self) -> None:
        self.assertEqual(
            self.codes(drone_combs_cut=2, sugar_dusted=True), {"drone_comb_cut": "note", "sugar_dusted": "note"}
        )
        self.assertEqual(self.codes(drone_combs_cut=0, queen_cells_removed=0), {})

    def test_cells_are_not_removed_without_a_queen(self) -> None:
        """Where no eggs are seen that is pressing, and it is looked at again within days; else the urge is watched."""
        self.assertEqual(self.codes(queen_cells_removed=6, eggs_seen=True), {"cells_removed": "watch"})
        none = {
            "eggs_seen": False,
            "open_brood": False,
            "capped_brood": True,
            "queen": "neither",
            "queen_cells_removed": 6,
        }
        self.assertEqual(self.codes(**none), {"cells_removed_no_eggs": "act"})
        self.assertEqual(assess(facts((), none)).suggested.on, facts((), none).on + timedelta(days=4))
        # Not looked for is not missing.
        self.assertEqual(self.codes(queen_cells_removed=6), {"cells_removed": "watch"})


class SpareHoney(unittest.TestCase):
    """Ripe combs above the reserve: which, and what bars them."""

    def found(self, *seen: SeenFrame, after: dict[str, Any] | None = None, **rest: Any) -> VisitFinding | None:
        """What is said of spare honey of a hive of a brood box and a super."""
        boxes = [BROOD_BOX, SUPER]
        codes = by_code(assess(facts(seen, after, boxes=boxes, **rest)))
        return next((one for code, one in codes.items() if code.startswith("spare_honey")), None)

    def hive(self, ripe: int, *, honey: int = 10) -> list[SeenFrame]:
        """Ten combs of brood below, ten above of which so many are full."""
        full, light = {"honey": honey, "bees": 5}, {"honey": 3, "bees": 5}
        return [*frames(10, NEST), *frames(ripe, full, box=2), *frames(10 - ripe, light, box=2, first=ripe + 1)]

    def test_the_super_first(self) -> None:
        """Three full combs of the super over a nest with food: all three, none of the nest."""
        found = self.found(*self.hive(3))
        assert found is not None
        self.assertEqual(
            (found.code, found.params["combs"], found.params["places"]), ("spare_honey", 3, ["2/1", "2/2", "2/3"])
        )
        self.assertAlmostEqual(float(str(found.params["kg"])), 3 * 2.7)

    def test_unripe_and_brood_stay(self) -> None:
        """Three quarters capped is not ripe; one side only was not seen whole; a comb with brood is none to take."""
        self.assertIsNone(self.found(*self.hive(3, honey=7)))
        one_side = [SeenFrame(2, 1, "A_deep", FrameRecord.model_validate({"a": {"honey": 10}}))]
        self.assertIsNone(self.found(*frames(10, NEST), *one_side, after={"stores_kg": 30, "stores_by": "hefting"}))
        with_brood = frames(10, {"honey": 8, "capped": 1})
        self.assertIsNone(self.found(*with_brood, after={"stores_kg": 30, "stores_by": "weighing"}))

    def test_the_reserve_stays_at_the_low_end(self) -> None:
        """However much is ripe: what is left of the least that was seen is the reserve; toward winter more stays."""
        for ripe in range(1, 11):
            for phase, target, reserve in (("peak", 20.0, 5.0), ("decline", 20.0, 20.0), ("decline", 30.0, 30.0)):
                seen = facts(self.hive(ripe), boxes=[BROOD_BOX, SUPER], phase=phase, winter_target_kg=target)
                whole = assess(seen)
                assert whole.estimates.stores_kg is not None
                found = by_code(whole).get("spare_honey")
                low = whole.estimates.stores_kg.low
                with self.subTest(ripe=ripe, phase=phase, target=target):
                    if found is None:
                        self.assertLess(low - 2.7, reserve)
                        continue
                    left = low - float(str(found.params["kg"]))
                    self.assertGreaterEqual(left, reserve)
                    more = int(str(found.params["combs"])) < ripe
                    self.assertTrue(not more or left - 2.7 < reserve)

    def test_what_bars_it(self) -> None:
        """A treatment in the hive or not clear; feed, a suspicion, autumn: nothing is offered."""
        seen = self.hive(3)
        found = self.found(*seen, courses=CoursesThen((FORMIC,)))
        assert found is not None
        self.assertEqual((found.code, found.because[-1].code), ("spare_honey_not_clear", "not_clear_before_out"))
        out = CourseThen("Amitraz strips", date(2031, 4, 2), date(2031, 6, 5), date(2031, 6, 19), "no", True)
        found = self.found(*seen, courses=CoursesThen((out,)))
        self.assertEqual(found and found.because[-1].params["until"], date(2031, 6, 19))
        caged = CourseThen("Queen caged", date(2031, 6, 2), None, None, "yes", True)
        found = self.found(*seen, courses=CoursesThen((caged,)))
        self.assertEqual(found and found.code, "spare_honey")
        self.assertIsNone(self.found(*seen, after={"feed": "syrup_1_1", "feed_amount": 1}))
        self.assertIsNone(self.found(*seen, after={"stores_are": ["fermenting"]}))
        self.assertIsNone(self.found(*seen, phase="pre_winter"))
        syrup = self.found(*seen, after={"stores_are": ["set_hard", "syrup"]})
        assert syrup is not None
        self.assertEqual((syrup.code, syrup.because[-1].code), ("spare_honey_not_clear", "syrup_in_combs"))
