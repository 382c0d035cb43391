"""Drawing on the box plan: ends that are tapped become tenths, nothing above is taken from, nothing below is lost."""

from __future__ import annotations

import random
import unittest
from itertools import accumulate, pairwise
from typing import Any

from tests.web.test_pure import calls

BRUSH = "features/visits/brush.ts"
STACK = ("honey", "nectar", "pollen", "capped", "open", "eggs", "drone")
Side = dict[str, Any]


def side(**tenths: int) -> Side:
    """A side with some covers."""
    return {**dict.fromkeys(STACK, 0), "eggs_seen": False, "bees": None, **tenths}


def ends(one: Side) -> list[int]:
    """Down to where each cover reaches, from the top bar."""
    return list(accumulate(one[name] for name in STACK))


def drawn(one: Side, cover: str, tenths: int) -> Side:
    """A side on which a cover was drawn down to a tenth."""
    [found] = calls(BRUSH, ["withEnd", one, cover, tenths])
    return dict(found)


def frame(a: Side | None, b: Side | None) -> dict[str, Any]:
    """A frame of two sides with nothing else seen on it."""
    return {"a": a, "b": b, "comb": [], "cells": [], "queen": False, "signs": [], "note": ""}


class Ends(unittest.TestCase):
    def test_a_comb_from_its_ends(self) -> None:
        """Honey to 2, sealed to 7, open to 9: two, five and two tenths, the rest empty."""
        one = side()
        for cover, end in (("honey", 2), ("capped", 7), ("open", 9)):
            one = drawn(one, cover, end)
        self.assertEqual(one, side(honey=2, capped=5, open=2))

    def test_an_end_that_is_moved_moves_no_other(self) -> None:
        """Random sides and taps: the end is where it was tapped or where what lies above ends, ends above stay, ends
        below stay or are pushed by it, and no side gets over its ten tenths."""
        chance = random.Random(31)
        for _ in range(150):
            cuts = sorted(chance.randint(0, 10) for _ in STACK)
            tenths = [cuts[0], *(b - a for a, b in pairwise(cuts))]
            old = side(**dict(zip(STACK, tenths, strict=True)))
            at, tapped = chance.randrange(len(STACK)), chance.randint(0, 10)
            new = drawn(old, STACK[at], tapped)
            before, after = ends(old), ends(new)
            above = before[at - 1] if at else 0
            self.assertEqual(after[at], max(above, tapped))
            self.assertEqual(after[:at], before[:at])
            self.assertEqual(after[at + 1 :], [max(end, after[at]) for end in before[at + 1 :]])
            self.assertLessEqual(after[-1], 10)
            self.assertGreaterEqual(min(new[name] for name in STACK), 0)

    def test_bees_walk_over_all_of_it(self) -> None:
        """Bees are counted apart from the covers and take nothing from them."""
        self.assertEqual(drawn(side(honey=4, capped=5), "bees", 8), side(honey=4, capped=5, bees=8))

    def test_both_sides_while_they_are_alike(self) -> None:
        """A frame without a record or with like sides is drawn on both; one whose sides differ on the half tapped."""
        stroke = {"slot": 3, "half": "b", "tenths": 6}
        [fresh] = calls(BRUSH, ["withStroke", None, "honey", stroke])
        self.assertEqual((fresh["a"], fresh["b"]), (side(honey=6), side(honey=6)))
        [differing] = calls(BRUSH, ["withStroke", frame(side(honey=1), side(honey=2)), "honey", stroke])
        self.assertEqual((differing["a"], differing["b"]), (side(honey=1), side(honey=6)))

    def test_the_next_tap_goes_down(self) -> None:
        """After stores sealed brood, then open, then eggs; there it stays. Bees and rare covers stay themselves."""
        order = ["honey", "capped", "open", "eggs", "bees", "drone"]
        found = calls(BRUSH, *(["following", cover] for cover in order))
        self.assertEqual(found, ["capped", "open", "eggs", "eggs", "bees", "drone"])


class Strokes(unittest.TestCase):
    """Ten slots of 36 by 300 in a row from (0, 0)."""

    SLOTS = [{"slot": n + 1, "left": 36 * n, "right": 36 * (n + 1), "top": 0, "height": 300} for n in range(10)]

    def drawn(self, *points: tuple[float, float]) -> dict[int, int]:
        """Tenths by slot of a hand that went through points."""
        found: list[Any] = []
        for (x, y), (to_x, to_y) in pairwise([points[0], *points]):
            [found] = calls("instruments/plan-stroke.ts", ["drawnBy", found, self.SLOTS, {"x": x, "y": y}, {"x": to_x, "y": to_y}])  # fmt: skip
        return {one["slot"]: one["tenths"] for one in found}

    def test_a_fast_hand_leaves_no_frame_out(self) -> None:
        """One straight line over the box, reported at its ends or at every pixel: each frame what it crosses inside."""
        line = [(18 + x, 300 * (0.1 + 0.8 * x / 324)) for x in range(325)]
        wanted = {n + 1: round(10 * (0.1 + 0.8 * n / 9)) for n in range(10)}
        self.assertEqual(self.drawn(line[0], line[-1]), wanted)
        self.assertEqual(self.drawn(*line[::5], line[-1]), wanted)
        self.assertEqual(self.drawn(line[-1], line[0]), wanted, "from right to left the same")

    def test_a_hand_that_corrects_itself(self) -> None:
        """Up and down on one frame, also across its middle: the last place counts. A frame passed keeps its middle."""
        self.assertEqual(self.drawn((10, 60), (25, 150), (12, 210)), {1: 7})
        self.assertEqual(self.drawn((18, 60), (54, 60), (60, 240)), {1: 2, 2: 2})


class QueenAndEggs(unittest.TestCase):
    MODULE = "features/visits/queen-and-eggs.ts"

    def test_every_answer_reads_as_itself(self) -> None:
        """What a tap records is shown as that tap, and the six answers are six different records."""
        answers = {
            "both": ("seen", True),
            "queen": ("seen", None),
            "queen_no_eggs": ("seen", False),
            "eggs": ("eggs_only", True),
            "neither": ("neither", False),
            "not_looked": ("not_looked", None),
        }
        for answer, (queen, eggs) in answers.items():
            self.assertEqual(calls(self.MODULE, ["queenAndEggs", {"queen": queen, "eggs_seen": eggs}]), [answer])

    def test_what_older_records_say(self) -> None:
        """Nothing recorded is no answer; eggs seen are never hidden behind a word about the queen."""
        for queen, eggs, said in ((None, None, None), (None, True, "eggs"), (None, False, "neither"), ("not_looked", True, "eggs"), ("neither", True, "eggs")):  # fmt: skip
            self.assertEqual(calls(self.MODULE, ["queenAndEggs", {"queen": queen, "eggs_seen": eggs}]), [said])
