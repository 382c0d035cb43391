"""A board read from its picture, mark by mark: nothing is counted that nobody decided, and nothing decided is lost."""

from __future__ import annotations

import math
import random
import unittest
from typing import Any
from uuid import NAMESPACE_URL, uuid5

from tests.web.test_pure import calls

MODULE = "features/sampling/picture.ts"
Reading = dict[str, Any]


def picture(spots: list[tuple[float, float]], columns: int = 2, rows: int = 2, number: str = "picture-1") -> Reading:
    """A picture of 400 by 200 with spots, ready to be read."""
    given = {"id": number, "width": 400, "height": 200, "width_mm": 300, "grid_columns": columns, "grid_rows": rows, "candidates": [{"x": x, "y": y} for x, y in spots]}  # fmt: skip
    [reading] = calls(MODULE, ["newReading", given])
    return dict(reading)


def after(reading: Reading, *acts: list[Any]) -> Reading:
    """The reading after acts in their order."""
    for name, *given in acts:
        [reading] = calls(MODULE, [name, reading, *given])
    return reading


FOUR = [(0.1, 0.1), (0.9, 0.1), (0.1, 0.9), (0.9, 0.9)]
"""One spot in each of four squares."""


class Squares(unittest.TestCase):
    def test_every_place_is_in_one_square(self) -> None:
        """By the grid, the far edges with the last square; as independent arithmetic has it."""
        chance = random.Random(7)
        for columns, rows in ((1, 1), (2, 2), (5, 3), (20, 20)):
            reading = picture([], columns, rows)
            places = [(chance.random(), chance.random()) for _ in range(30)] + [(0, 0), (1, 1), (1, 0), (0, 1)]
            wanted = [["squareOf", reading, {"x": x, "y": y, "found": True, "kept": None}] for x, y in places]
            expected = [min(int(y * rows), rows - 1) * columns + min(int(x * columns), columns - 1) for x, y in places]
            with self.subTest(grid=(columns, rows)):
                self.assertEqual(calls(MODULE, *wanted), expected)

    def test_few_spots_are_read_in_order_many_by_lot(self) -> None:
        """Up to 150 spots square by square; with more, squares are drawn: all of them, each once, the same for the same
        picture and another order for another."""
        self.assertEqual(picture(FOUR)["order"], [0, 1, 2, 3])
        many = [(index / 200, 0.5) for index in range(151)]
        drawn = picture(many, 5, 4)["order"]
        self.assertEqual(sorted(drawn), list(range(20)))
        self.assertNotEqual(drawn, list(range(20)))
        self.assertEqual(picture(many, 5, 4)["order"], drawn)
        self.assertNotEqual(picture(many, 5, 4, "picture-2")["order"], drawn)

    def test_the_lot_is_fair(self) -> None:
        """Over many pictures each square comes first about equally often: none is favoured for looking worst."""
        firsts = [calls(MODULE, ["byLot", str(uuid5(NAMESPACE_URL, str(number))), 6])[0][0] for number in range(600)]
        for square in range(6):
            self.assertAlmostEqual(firsts.count(square), 100, delta=40)

    def test_done_only_when_all_is_decided(self) -> None:
        """A square with an undecided spot stays in hand; decided, it is counted once, and the next is in hand."""
        reading = picture(FOUR)
        self.assertEqual(after(reading, ["squareDone"])["counted"], [])
        once = after(reading, ["decide", True], ["squareDone"])
        self.assertEqual((once["counted"], once["at"]), ([0], 1))
        again = after(once, ["goTo", 0], ["squareDone"])
        self.assertEqual(again["counted"], [0])
        last = after(again, ["goTo", 3], ["decide", False], ["squareDone"])
        self.assertEqual((last["counted"], last["at"]), ([0, 3], 3), "after the last there is no further one")

    def test_enough_is_three_squares_or_all(self) -> None:
        """Two of four are not enough, three are; a board of one square needs that one."""
        reading = picture(FOUR)
        for squares, enough in (([], False), ([0, 1], False), ([0, 1, 2], True)):
            self.assertIs(calls(MODULE, ["enough", {**reading, "counted": squares}])[0], enough)
        self.assertIs(calls(MODULE, ["enough", {**picture([], 1, 1), "counted": [0]}])[0], True)


class Marks(unittest.TestCase):
    def test_decided_one_after_the_other(self) -> None:
        """The first undecided of the square is in hand; deciding goes on to the next; the count is of those kept."""
        reading = picture([(0.1, 0.1), (0.2, 0.2), (0.3, 0.3), (0.9, 0.9)])
        self.assertEqual(calls(MODULE, ["inHand", reading], ["undecided", reading]), [0, 3])
        reading = after(reading, ["decide", True], ["decide", False], ["decide", True])
        self.assertEqual(calls(MODULE, ["undecided", reading])[0], 0)
        reading = after(reading, ["squareDone"])
        self.assertEqual(calls(MODULE, ["squares", reading])[0], [2])

    def test_the_rest_is_taken_together(self) -> None:
        """All that is left undecided in this square is a mite; what was struck stays struck, other squares wait."""
        reading = after(picture([(0.1, 0.1), (0.2, 0.2), (0.9, 0.9)]), ["decide", False], ["acceptRest"])
        self.assertEqual([mark["kept"] for mark in reading["marks"]], [False, True, None])

    def test_steps_go_round(self) -> None:
        """Forward from the last comes the first, backward from the first the last; an empty square has none."""
        reading = picture([(0.1, 0.1), (0.2, 0.2), (0.3, 0.3)])
        seen = []
        for _ in range(4):
            reading = after(reading, ["step", 1])
            seen.append(reading["current"])
        self.assertEqual(seen, [1, 2, 0, 1])
        self.assertEqual(after(reading, ["step", -1], ["step", -1])["current"], 2)
        empty = after(picture(FOUR[1:]), ["step", 1], ["decide", True])
        self.assertEqual((empty["current"], calls(MODULE, ["inHand", empty])[0]), (None, None))

    def test_a_tap_adds_turns_and_takes_back(self) -> None:
        """Away from all marks it adds a mite; on a spot it turns it; on one that the person added and struck it takes
        it away again."""
        reading = after(picture([(0.1, 0.1)]), ["tap", 0.3, 0.3, 0.02])
        self.assertEqual(reading["marks"][1], {"x": 0.3, "y": 0.3, "found": False, "kept": True})
        struck = after(reading, ["tap", 0.3, 0.3, 0.02])
        self.assertIs(struck["marks"][1]["kept"], False)
        gone = after(struck, ["tap", 0.3, 0.3, 0.02])
        self.assertEqual(len(gone["marks"]), 1)
        spot = after(gone, ["tap", 0.1, 0.1, 0.02])
        self.assertIs(spot["marks"][0]["kept"], True)
        self.assertEqual(len(after(spot, ["tap", 0.1, 0.1, 0.02], ["tap", 0.1, 0.1, 0.02])["marks"]), 1, "a found spot stays")  # fmt: skip

    def test_reach_is_the_same_both_ways(self) -> None:
        """The picture is twice as wide as high: a tap 20 px off hits or misses alike along either side."""
        reading = picture([(0.2, 0.2)], 1, 1)
        reach = 20 / 400
        for dx, dy, hit in ((19 / 400, 0, True), (0, 19 / 200, True), (21 / 400, 0, False), (0, 21 / 200, False)):
            found = after(reading, ["tap", 0.2 + dx, 0.2 + dy, reach])
            with self.subTest(dx=dx, dy=dy):
                self.assertEqual(len(found["marks"]) == 1, hit)
                self.assertLessEqual(math.hypot(dx * 400, dy * 200), 21)

    def test_the_nearest_of_two_is_meant(self) -> None:
        """Between two spots the tap turns the nearer."""
        reading = after(picture([(0.2, 0.2), (0.24, 0.2)], 1, 1), ["tap", 0.23, 0.2, 0.05])
        self.assertEqual([mark["kept"] for mark in reading["marks"]], [None, True])


class Sent(unittest.TestCase):
    def test_only_what_was_decided_in_counted_squares(self) -> None:
        """Marks of squares that were not counted are not sent, decided or not; added ones are sent as added."""
        reading = picture([(0.1, 0.1), (0.2, 0.2), (0.9, 0.9)])
        reading = after(reading, ["decide", True], ["decide", False], ["tap", 0.3, 0.3, 0.02], ["squareDone"], ["goTo", 3], ["decide", True])  # fmt: skip
        [sent] = calls(MODULE, ["asReadFrom", reading])
        self.assertEqual(sent["counted"], [0])
        self.assertEqual([(mark["found"], mark["kept"]) for mark in sent["marks"]], [(True, True), (True, False), (False, True)])  # fmt: skip
        self.assertEqual(calls(MODULE, ["squares", reading])[0], [2])

    def test_squares_come_in_the_order_of_counting(self) -> None:
        """The figures of the squares and their names are in the same order, however one went about."""
        reading = picture([*FOUR, (0.15, 0.15)])
        for square in (2, 0, 3):
            reading = after(reading, ["goTo", square], ["acceptRest"], ["squareDone"])
        self.assertEqual(reading["counted"], [2, 0, 3])
        self.assertEqual(calls(MODULE, ["squares", reading])[0], [1, 2, 1])

    def test_any_order_of_acts_keeps_the_tally(self) -> None:
        """Two hundred acts by chance: what is counted is never more than what is marked, and every mark is somewhere."""
        chance = random.Random(11)
        reading = picture([(chance.random(), chance.random()) for _ in range(12)], 3, 2)
        for _ in range(200):
            act = chance.choice([["decide", True], ["decide", False], ["acceptRest"], ["step", 1], ["step", -1], ["squareDone"],
                                 ["goTo", chance.randrange(6)], ["tap", chance.random(), chance.random(), 0.03]])  # fmt: skip
            reading = after(reading, act)
            tally = calls(MODULE, ["squares", reading])[0]
            self.assertEqual(len(tally), len(reading["counted"]))
            self.assertLessEqual(sum(tally), sum(mark["kept"] is True for mark in reading["marks"]))
            self.assertEqual(len(set(reading["counted"])), len(reading["counted"]))
            self.assertTrue(0 <= reading["at"] < 6)
