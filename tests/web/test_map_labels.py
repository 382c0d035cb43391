"""Names on the map: none on another, none on a mark, all inside the frame; a name has its place where there is room."""

from __future__ import annotations

import random
import unittest
from itertools import combinations
from typing import Any

from tests.web.test_pure import calls

MODULE = "instruments/map-labels.ts"
MARK, HIGH = 26, 34
FRAME = {"width": 500, "height": 520}
Box = tuple[float, float, float, float]


def box(label: dict[str, Any]) -> Box:
    """Left, top, right, bottom."""
    return label["left"], label["top"], label["left"] + label["width"], label["top"] + label["height"]


def around(spot: dict[str, float]) -> Box:
    """The mark of a spot."""
    return spot["x"] - MARK / 2, spot["y"] - MARK / 2, spot["x"] + MARK / 2, spot["y"] + MARK / 2


def meet(a: Box, b: Box) -> bool:
    """Whether two boxes share any ground."""
    return a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3]


class Labels(unittest.TestCase):
    def place(self, spots: list[dict[str, float]], widths: list[int]) -> list[dict[str, Any] | None]:
        [found] = calls(MODULE, ["placeLabels", spots, widths, HIGH, MARK, FRAME])
        return list(found)

    def test_none_lies_on_another_or_on_a_mark(self) -> None:
        """Random places, few and many: what is named is named clearly, in the frame, with its line free of other names."""
        chance = random.Random(7)
        for number in (3, 17, 40, 120):
            with self.subTest(spots=number):
                spots = [{"x": chance.uniform(20, 480), "y": chance.uniform(20, 500)} for _ in range(number)]
                found = self.place(spots, [chance.randint(40, 140) for _ in spots])
                named = [(at, label) for at, label in enumerate(found) if label is not None]
                for (_, a), (_, b) in combinations(named, 2):
                    self.assertFalse(meet(box(a), box(b)))
                for at, label in named:
                    self.assertFalse(any(meet(box(label), around(one)) for n, one in enumerate(spots) if n != at))
                    left, top, right, bottom = box(label)
                    self.assertTrue(left >= 0 and top >= 0 and right <= 500 and bottom <= 520)
                if number <= 17:
                    self.assertEqual(len(named), number, "there is room for a few")

    def test_alone_it_stands_beside_its_mark(self) -> None:
        """To the right, without a line; at the right edge to the left."""
        [middle] = self.place([{"x": 200, "y": 200}], [100])
        [edge] = self.place([{"x": 480, "y": 200}], [100])
        assert middle is not None and edge is not None
        self.assertEqual((middle["left"], middle["leader"]), (216, None))
        self.assertLess(edge["left"] + edge["width"], 480)

    def test_two_in_one_place_are_told_apart_by_a_line(self) -> None:
        """Five apiaries in a village: each has its name, those without room beside it at the end of a line."""
        spots = [{"x": 250 + 8 * (n % 3), "y": 250 + 9 * (n // 3)} for n in range(5)]
        found = self.place(spots, [90] * 5)
        self.assertTrue(all(found))
        self.assertTrue(any(label and label["leader"] for label in found))
