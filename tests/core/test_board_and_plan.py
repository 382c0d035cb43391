"""The board and how many colonies to count: the reference's worked figures, exact counting, and a clock that changes."""

from __future__ import annotations

import unittest
from math import comb
from typing import Any

from scipy import stats

from redframe.core.calculators import calculator
from redframe.core.errors import InvalidInput
from redframe.core.sampling.board import pooled_fall
from redframe.core.sampling.plan import chance_to_detect, detection_sample


def board(mites: int, placed: str, removed: str) -> Any:
    return calculator("board_fall")({"mites": mites, "placed": placed, "removed": removed})


class Board(unittest.TestCase):
    def test_worked_figures(self) -> None:
        """37 in three days, none in three days, and 47 hours over a change of the clock."""
        for given, expected in (
            ((37, "2025-06-01T10:00Z", "2025-06-04T10:00Z"), (3.0, 12.33, 8.68, 17.00)),
            ((0, "2025-06-01T10:00Z", "2025-06-04T10:00Z"), (3.0, 0.0, 0.0, 1.23)),
            ((12, "2025-03-29T10:00+01:00", "2025-03-31T10:00+02:00"), (1.958, 6.13, 3.17, 10.70)),
        ):
            found = board(*given)
            for name, value in zip(("days", "fall_per_day", "low_per_day", "high_per_day"), expected, strict=True):
                self.assertAlmostEqual(found[name], value, delta=0.0051, msg=name)

    def test_the_interval_is_exact(self) -> None:
        """At its ends the Poisson tails are 2.5 % each, over a grid of counts."""
        for mites in (0, 1, 2, 5, 9, 30, 200, 4000):
            found = board(mites, "2025-06-01T00:00Z", "2025-06-02T00:00Z")
            self.assertAlmostEqual(stats.poisson.cdf(mites, found["high_per_day"]), 0.025, places=6)
            if mites:
                self.assertAlmostEqual(stats.poisson.sf(mites - 1, found["low_per_day"]), 0.025, places=6)

    def test_boards_together(self) -> None:
        """Mites and days are added; whether they differ is the chi-square test of a common daily fall."""
        boards = [(12, 3.0), (4, 2.0), (31, 3.0)]
        found = pooled_fall(boards)
        assert found is not None
        self.assertEqual((found.mites, found.days), (47, 8.0))
        expected = [47 * days / 8 for _, days in boards]
        self.assertAlmostEqual(found.p_same, stats.chisquare([12, 4, 31], expected).pvalue, places=9)
        self.assertTrue(found.differ)
        self.assertAlmostEqual(stats.poisson.cdf(47, 8 * found.high_per_day), 0.025, places=6)
        same, none = pooled_fall([(3, 3.0), (3, 3.0)]), pooled_fall([(0, 3.0), (0, 2.0)])
        assert same and none
        self.assertEqual((same.differ, none.differ, none.fall_per_day), (False, False, 0.0))
        self.assertIsNone(pooled_fall(boards[:1]))

    def test_what_is_refused(self) -> None:
        """Moments without an offset, calendar days, too short a stay, parts of mites."""
        for given, field in (
            ({"mites": 1.5, "placed": "2025-06-01T10:00Z", "removed": "2025-06-04T10:00Z"}, "mites"),
            ({"mites": 1, "placed": "2025-06-01T10:00", "removed": "2025-06-04T10:00Z"}, "placed"),
            ({"mites": 1, "placed": "2025-06-01", "removed": "2025-06-04T10:00Z"}, "placed"),
            ({"mites": 1, "placed": "2025-06-01T10:00Z", "removed": "2025-06-01T21:00Z"}, "removed"),
            ({"mites": 1, "placed": "2025-06-01T10:00Z", "removed": "2025-05-01T21:00Z"}, "removed"),
            ({"mites": 1, "placed": "2025-06-01T10:00Z"}, "removed"),
        ):
            with self.subTest(field=field), self.assertRaises(InvalidInput) as caught:
                calculator("board_fall")(given)
            self.assertEqual(caught.exception.field, field)


def missed_by_counting(colonies: int, over: int, sampled: int, sensitivity: float) -> float:
    """Chance that none is found, from whole numbers of ways."""
    ways = [comb(over, j) * comb(colonies - over, sampled - j) for j in range(min(over, sampled) + 1)]
    return sum(way * (1 - sensitivity) ** j for j, way in enumerate(ways)) / comb(colonies, sampled)


class HowMany(unittest.TestCase):
    def test_worked_figures(self) -> None:
        """The reference's table: fewest colonies and what they achieve; one colony in twelve that a count may miss."""
        for given, sample, achieved in (
            ((24, 3, 0.95, 1.0), 15, 0.958),
            ((24, 3, 0.95, 0.85), 18, 0.959),
            ((10, 1, 0.90, 1.0), 9, 0.900),
            ((40, 4, 0.95, 1.0), 21, 0.958),
            ((40, 4, 0.95, 0.8), 26, 0.952),
            ((12, 1, 0.95, 0.9), None, 0.900),
            ((200, 20, 0.95, 1.0), 27, 0.953),
        ):
            found = detection_sample(*given)
            self.assertEqual((found.sample, found.reachable), (sample, sample is not None), given)
            self.assertAlmostEqual(found.achieved, achieved, delta=0.0006)

    def test_the_chance_is_exact_and_the_sample_the_fewest(self) -> None:
        """Against whole-number counting for every apiary up to 30 colonies; one colony fewer is not enough."""
        for colonies in range(1, 31, 4):
            for over in range(1, colonies + 1, 3):
                for sensitivity in (1.0, 0.85, 0.3):
                    for sampled in range(1, colonies + 1):
                        exact = 1 - missed_by_counting(colonies, over, sampled, sensitivity)
                        self.assertAlmostEqual(chance_to_detect(colonies, over, sampled, sensitivity), exact, places=11)
                    found = detection_sample(colonies, over, 0.9, sensitivity)
                    if found.sample is not None and found.sample > 1:
                        fewer = 1 - missed_by_counting(colonies, over, found.sample - 1, sensitivity)
                        self.assertLess(fewer, 0.9)

    def test_bad_fields_are_named(self) -> None:
        """In the order of the contract."""
        good: dict[str, Any] = {"colonies": 24, "over": 3, "confidence": 0.95}
        for part, field in (
            ({"colonies": 0}, "colonies"),
            ({"over": 25}, "over"),
            ({"over": True}, "over"),
            ({"confidence": 1.0}, "confidence"),
            ({"sensitivity": 0.0}, "sensitivity"),
        ):
            with self.subTest(field=field), self.assertRaises(InvalidInput) as caught:
                calculator("detection_sample")({**good, **part})
            self.assertEqual(caught.exception.field, field)


if __name__ == "__main__":
    unittest.main()
