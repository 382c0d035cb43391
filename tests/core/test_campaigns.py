"""A count week: shares with honest intervals, percentiles, change, and cells that give no place away."""

from __future__ import annotations

import math
import unittest
from uuid import UUID, uuid4

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from redframe.core.campaigns.cells import Cell, Placed, cell_of, near, shown_cells
from redframe.core.campaigns.results import (
    distribution,
    local_recovery,
    paired_change,
    percentile,
    quarter,
    share_over,
)


class Shares(unittest.TestCase):
    def test_the_references_examples(self) -> None:
        """39 of 168 at 4.2 an apiary: 23.2 % (15.5 to 33.2), worth 85.7; 12 of 60 at 2: 20.0 % (11.0 to 33.6)."""
        for over, counted, each, effective, share, low, high in (
            (39, 168, 4.2, 85.7, 23.2, 15.5, 33.2), (12, 60, 2.0, 46.2, 20.0, 11.0, 33.6),
        ):  # fmt: skip
            found = share_over(over, counted, each)
            assert found is not None
            answer = [round(100 * one, 1) for one in (found.share, found.low, found.high)]
            self.assertEqual([round(found.effective, 1), *answer], [effective, share, low, high])
        self.assertIsNone(share_over(0, 0, 1.0))

    def test_one_colony_an_apiary_is_wilson_itself(self) -> None:
        """Without clustering the interval is the textbook's, from an independent implementation."""
        found = share_over(7, 40, 1.0)
        exact = stats.binomtest(7, 40).proportion_ci(method="wilson")
        assert found is not None
        self.assertAlmostEqual(found.low, exact.low, places=9)
        self.assertAlmostEqual(found.high, exact.high, places=9)

    def test_percentiles_and_quarters(self) -> None:
        """11 below and 2 equal of 40 are 30; the lowest and the highest quarter are reached."""
        self.assertAlmostEqual(percentile([0.0] * 11 + [1.0] * 2 + [2.0] * 27, 1.0), 30)
        self.assertEqual([quarter(one) for one in (0, 24.9, 25, 50, 75, 100)], [1, 1, 2, 3, 4, 4])

    def test_every_colony_has_one_bar(self) -> None:
        """None found apart; the rest adds up, the last bar is open above."""
        bars = distribution([0.2, 0.5, 1.9, 2.0, 40.0], 3)
        self.assertEqual(sum(bar.colonies for bar in bars), 8)
        self.assertEqual((bars[0].low, bars[0].colonies, bars[-1].high, bars[-1].colonies), (None, 3, None, 1))

    def test_change_in_the_same_colonies(self) -> None:
        """Thrice the mites in every colony is thrice, surely; shuffled noise is no change; two colonies say nothing."""
        before = [(20 + n, 300.0) for n in range(12)]
        found = paired_change(before, [(3 * m, e) for m, e in before], 28)
        assert found is not None
        self.assertTrue(2.8 < found.low <= found.ratio <= found.high < 3.2, found)
        draw = np.random.default_rng(2)
        noise = paired_change(*([(int(draw.poisson(6)), 300.0) for _ in range(30)] for _ in range(2)), 21)
        assert noise is not None
        self.assertTrue(noise.low < 1 < noise.high)
        self.assertIsNone(paired_change(before[:2], before[:2], 21))

    def test_the_share_found_by_sugar_is_learnt(self) -> None:
        """Washes of 20 in 285 beside rolls of 12 in 300 draw the share from 0.75 towards 0.57."""
        found = local_recovery([((20, 285.0), (12, 300.0))] * 10)
        self.assertTrue(0.57 < found.mean < 0.62, found)
        self.assertAlmostEqual(local_recovery([]).mean, 0.75)


class Cells(unittest.TestCase):
    def test_the_references_cell(self) -> None:
        """51.3721, -0.4418: row 513, column -3, centre 51.350, -0.4003, 0.16011 wide."""
        cell = cell_of(51.3721, -0.4418)
        self.assertEqual((cell.row, cell.column), (513, -3))
        self.assertAlmostEqual(cell.width_degrees, 0.16011, places=5)
        self.assertAlmostEqual(cell.centre[0], 51.350, places=6)
        self.assertAlmostEqual(cell.centre[1], -0.4003, places=4)

    @given(st.floats(-66, 66), st.floats(-179, 179), st.sampled_from([0.1, 0.2]))
    def test_a_place_lies_in_its_cell_which_is_about_square(
        self, latitude: float, longitude: float, size: float
    ) -> None:
        """Between its corners, about as wide as high on the ground."""
        cell = cell_of(latitude, longitude, size)
        (south, west), (north, east) = cell.corners
        self.assertTrue(south - 1e-9 <= latitude <= north + 1e-9 and west - 1e-9 <= longitude <= east + 1e-9)
        wide = (east - west) * math.cos(math.radians((south + north) / 2))
        self.assertAlmostEqual(wide, north - south, delta=1e-9)

    def apiaries(self, *places: tuple[float, float, UUID]) -> list[Placed]:
        """Apiaries of keepers at places."""
        return [Placed.at(uuid4(), keeper, latitude, longitude) for latitude, longitude, keeper in places]

    @given(st.lists(st.tuples(st.floats(44.0, 44.6), st.floats(-31.6, -31.0), st.integers(0, 6)), max_size=40))
    def test_no_cell_is_shown_with_few(self, places: list[tuple[float, float, int]]) -> None:
        """Whatever the places: each apiary is counted once, and every cell shown holds three apiaries of three keepers."""
        keepers = [uuid4() for _ in range(7)]
        apiaries = self.apiaries(*((lat, lon, keepers[number]) for lat, lon, number in places))
        shown = shown_cells(apiaries)
        self.assertEqual(set(shown), {one.apiary_id for one in apiaries})
        for cell in {one for one in shown.values() if one is not None}:
            inside = [one for one in apiaries if shown[one.apiary_id] == cell]
            self.assertGreaterEqual(len(inside), 3)
            self.assertGreaterEqual(len({one.keeper_id for one in inside}), 3)

    def test_few_are_taken_together_or_told_as_elsewhere(self) -> None:
        """Two and one in neighbouring cells make one of double size; one far away is elsewhere."""
        a, b, c = (uuid4() for _ in range(3))
        apiaries = self.apiaries((44.01, -31.45, a), (44.02, -31.44, b), (44.15, -31.43, c), (44.9, -30.0, a))
        shown = list(shown_cells(apiaries).values())
        self.assertEqual(shown[:3], [cell_of(44.01, -31.45, 0.2)] * 3)
        self.assertIsNone(shown[3])
        self.assertEqual(Cell(0.2, 220, -110).id, "0.2:220:-110")

    def test_near_is_two_cells_and_no_more(self) -> None:
        """Up and down, along, across the corner, and from a double cell; the cell itself is near too."""
        own = Cell(0.1, 440, -220)
        for row, column, expected in ((0, 0, True), (2, 0, True), (-2, 1, True), (3, 0, False), (0, -3, False), (1, 3, False)):  # fmt: skip
            with self.subTest(row=row, column=column):
                self.assertEqual(near(own, Cell(0.1, 440 + row, -220 + column)), expected)
        self.assertTrue(near(own, Cell(0.2, 221, -110)), "one single cell lies between")
        self.assertFalse(near(own, Cell(0.2, 222, -110)))
