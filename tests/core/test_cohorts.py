"""Brood by its age: against a comb whose cells grow one by one, and what counts as missing."""

from __future__ import annotations

import random
import unittest
from typing import Any
from uuid import UUID

from redframe.core.visits.cohorts import EGGS, OPEN, SEALED, brood_combs, brood_lost, cohorts, grown
from redframe.core.visits.estimates import SURVIVE_TO_EMERGE, SeenFrame
from redframe.core.visits.record import FrameRecord


def frame(slot: int, comb: int | None = None, **side: Any) -> SeenFrame:
    """A comb of which one side was looked at."""
    record = FrameRecord.model_validate({"a": side})
    return SeenFrame(1, slot, "A_deep", record, UUID(int=1), UUID(int=comb) if comb is not None else None)


class Growing(unittest.TestCase):
    def test_cell_by_cell(self) -> None:
        """Forty thousand cells of each stage, laid at even times, looked at so many days later."""
        chance = random.Random(5)
        for days in (0, 1, 4, 6, 9, 12, 15, 20, 21):
            for ages in (EGGS, OPEN, SEALED):
                cells = [chance.uniform(*ages) + days for _ in range(40_000)]
                for into in (OPEN, SEALED):
                    counted = sum(into[0] <= age < into[1] for age in cells) / len(cells)
                    self.assertAlmostEqual(grown(ages, into, days), counted, delta=0.01)

    def test_nothing_is_counted_twice(self) -> None:
        """Open, sealed or emerged: of any stage and day the shares come to no more than all."""
        for days in range(25):
            for ages in (EGGS, OPEN, SEALED):
                shares = [grown(ages, into, days) for into in (EGGS, OPEN, SEALED, (21.0, 99.0))]
                self.assertAlmostEqual(sum(shares), 1)


class OnCombs(unittest.TestCase):
    def test_open_brood_is_sealed_nine_days_later(self) -> None:
        """All six tenths of open brood and none of the sealed but the youngest quarter."""
        found = cohorts([frame(4, open=6, capped=4)], [frame(4, capped=6)], 9)
        assert found is not None
        self.assertAlmostEqual(found.sealed_expected, 6 * SURVIVE_TO_EMERGE + 4 * 0.25)
        self.assertFalse(found.combs[0].is_short)
        self.assertIsNone(brood_lost(found))

    def test_brood_that_is_gone(self) -> None:
        """A comb that lacks it lights up; the finding stands where little is left of all."""
        then = [frame(slot, open=8) for slot in (4, 5)]
        found = cohorts(then, [frame(4, capped=3), frame(5, capped=7)], 9)
        assert found is not None
        self.assertEqual([one.is_short for one in found.combs], [True, False])
        self.assertIsNone(brood_lost(found))
        lost = brood_lost(cohorts(then, [frame(4, capped=1), frame(5, capped=2)], 9))
        assert lost is not None
        self.assertEqual((lost.code, lost.params["days"]), ("brood_lost", 9))

    def test_a_comb_is_followed_where_it_hangs(self) -> None:
        """Moved to slot 8, another comb in its place: the comb is what is compared, not the slot."""
        found = cohorts([frame(4, 11, open=8)], [frame(8, 11, capped=7), frame(4, 12, capped=0)], 9)
        assert found is not None
        self.assertEqual([(one.slot, one.sealed_found, one.is_short) for one in found.combs], [(8, 7, False)])

    def test_what_nobody_looked_at_says_nothing(self) -> None:
        """No comb again, one side of two, the same day, or so long ago that all has emerged."""
        then = [frame(4, open=8)]
        found = cohorts(then, [], 9)
        assert found is not None
        self.assertEqual((found.combs[0].sealed_found, found.sealed_expected), (None, 0))
        both = FrameRecord.model_validate({"a": {"open": 8}, "b": {"open": 8}})
        half = cohorts([SeenFrame(1, 4, "A_deep", both, UUID(int=1))], [frame(4, capped=0)], 9)
        assert half is not None
        self.assertIsNone(half.combs[0].sealed_found)
        self.assertIsNone(cohorts(then, [frame(4)], 0))
        self.assertIsNone(cohorts(then, [frame(4)], 21))

    def test_a_part_of_the_combs_is_not_the_nest(self) -> None:
        """Three of last time's eight brood combs looked at so far: eight; the nest looked through: what is there."""
        then, now = [frame(slot, open=4) for slot in range(2, 10)], [frame(slot, open=4) for slot in range(2, 5)]
        self.assertEqual(brood_combs(now, then, through=False), 8)
        self.assertEqual(brood_combs(now, then, through=True), 3)
        self.assertIsNone(brood_combs([], [], through=False))


if __name__ == "__main__":
    unittest.main()
