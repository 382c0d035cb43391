"""When a forecast crosses its level, in a sentence: against a walk through every day, and at its edges."""

from __future__ import annotations

import unittest
from datetime import date, timedelta

from hypothesis import given
from hypothesis import strategies as st

from redframe.core.forecast.turns import Turns, turns

TODAY = date(2031, 8, 2)


def day(number: int) -> date:
    """So many days from today."""
    return TODAY + timedelta(days=number)


def of(*median: float, half: int | None = None, tenth: int | None = None, level: float = 2.0) -> Turns:
    """The sentence of a middle, a figure a day."""
    days = [day(number) for number in range(len(median))]
    at = [None if one is None else day(one) for one in (half, tenth)]
    return turns(days, median, level, half_over=at[0], tenth_over=at[1])


class Sentences(unittest.TestCase):
    def test_each_way_it_can_go(self) -> None:
        """Named days are the first of their turn; the half of what may come dates a first crossing."""
        cases = [
            (of(3.0, 4.0, 5.0, half=0, tenth=0), "over_throughout", {"last": day(2)}),
            (of(3.0, 1.9, 1.0, half=0, tenth=0), "over_then_under", {"on": day(1)}),
            (of(3.0, 1.0, 1.0, 2.0, half=0), "over_under_over", {"on": day(1), "again": day(3)}),
            (of(1.0, 1.5, 1.8, 2.2, half=2, tenth=1), "under_then_over", {"on": day(2)}),
            (of(1.0, 2.2, 1.0, half=1), "under_over_under", {"on": day(1), "again": day(2)}),
            (of(1.0, 1.2, tenth=1), "may_be_over", {"on": day(1)}),
            (of(1.0, 1.2), "under_throughout", {"last": day(1)}),
        ]
        for found, code, params in cases:
            with self.subTest(code=code):
                self.assertEqual((found.code, found.params), (code, {"level": 2.0, **params}))

    def test_what_was_before_a_course_says_nothing_of_now(self) -> None:
        """Over before today, under now: the day gone by is not named as one to come."""
        self.assertEqual(of(1.0, 1.1, half=-9, tenth=-20).code, "under_throughout")
        self.assertEqual(of(1.0, 2.1, half=-9).params["on"], day(1))
        with self.assertRaises(ValueError):
            turns([], [], 2.0, half_over=None, tenth_over=None)

    @given(st.lists(st.floats(0, 6), min_size=1, max_size=40))
    def test_the_words_and_the_figures_say_the_same(self, median: list[float]) -> None:
        """Between the days named the middle is on the side that the sentence says."""
        found = of(*median)
        sides = [one >= 2.0 for one in median]
        if found.code == "under_throughout":
            self.assertFalse(any(sides))
        elif found.code == "over_throughout":
            self.assertTrue(all(sides))
        else:
            on = found.params["on"]
            assert isinstance(on, date)
            number = (on - TODAY).days
            self.assertEqual(set(sides[:number]), {sides[0]})
            self.assertNotEqual(sides[number], sides[0])
            again = found.params.get("again")
            if isinstance(again, date):
                self.assertEqual(set(sides[number : (again - TODAY).days]), {not sides[0]})
                self.assertEqual(sides[(again - TODAY).days], sides[0])
            else:
                self.assertEqual(set(sides[number:]), {not sides[0]})
