"""Queens and their colours, and how what comes in from outside is read."""

from __future__ import annotations

import unittest
from datetime import date, datetime
from math import inf, nan
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from redframe.core.colonies.queens import mark_colour, mark_differs
from redframe.core.errors import InvalidInput, Refused
from redframe.core.inputs import Bees, Input, IsoDate, Mites, Number, Whole, path_of, read


class Queens(unittest.TestCase):
    def test_the_five_colours_of_the_craft(self) -> None:
        """1 and 6 white, 2 and 7 yellow, 3 and 8 red, 4 and 9 green, 5 and 0 blue."""
        answer = {2026: "white", 2027: "yellow", 2028: "red", 2029: "green", 2030: "blue", 2031: "white", 1999: "green"}
        self.assertEqual({year: mark_colour(year) for year in answer}, answer)

    @given(st.integers(1950, 2195))
    def test_a_colour_comes_back_after_five_years_and_not_before(self, year: int) -> None:
        """Five years run through five colours."""
        self.assertEqual(mark_colour(year), mark_colour(year + 5))
        self.assertEqual(len({mark_colour(year + back) for back in range(5)}), 5)

    def test_a_mark_that_does_not_fit_is_said(self) -> None:
        """The sentence names both colours; without a year or a mark nothing is claimed."""
        self.assertIsNone(mark_differs(2031, "white"))
        self.assertIsNone(mark_differs(None, "red"))
        self.assertIsNone(mark_differs(2031, None))
        answer = mark_differs(2030, "yellow") or ""
        for word in ("yellow", "blue", "2030"):
            self.assertIn(word, answer)

    def test_years_of_no_queen(self) -> None:
        """A slip of the finger is named at its field."""
        for year in (203, 1949, 2201, 20311):
            with self.subTest(year=year), self.assertRaises(InvalidInput) as refused:
                mark_colour(year)
            self.assertEqual((refused.exception.field, refused.exception.code), ("year", "out_of_range"))


class Frame(Input):
    """A frame with a side, for reading."""

    cover_pct: Number


class Inspection(Input):
    """An input with everything in it."""

    mites: Mites
    bees: Bees = 300
    on: IsoDate = date(2031, 8, 2)
    steps: Whole = 1
    frames: list[Frame] = []


class Reading(unittest.TestCase):
    def fault(self, data: dict[str, Any]) -> InvalidInput:
        """The first fault of an input."""
        with self.assertRaises(InvalidInput) as refused:
            read(Inspection, data)
        return refused.exception

    def test_the_first_bad_field_in_the_order_of_the_model(self) -> None:
        """Whatever order they are sent in, the fault is the one that stands first in the form."""
        self.assertEqual(self.fault({"frames": 3, "bees": "many", "mites": -1}).field, "mites")
        self.assertEqual(self.fault({"frames": 3, "mites": 1}).field, "frames")

    def test_paths_are_written_as_the_field_writes_them(self) -> None:
        """frames[1].cover_pct, not frames.1.cover_pct."""
        fault = self.fault({"mites": 1, "frames": [{"cover_pct": 10}, {"cover_pct": "half"}]})
        self.assertEqual(fault.field, "frames[1].cover_pct")
        self.assertEqual(path_of(("shakes", 0)), "shakes[0]")
        self.assertEqual(path_of(("calendar", "winter_bees")), "calendar.winter_bees")

    def test_whole_numbers_are_whole(self) -> None:
        """No halves, no truths, no figures in quotes, nothing endless; a whole float is a slip too."""
        for value in (2.5, True, "3", None, [3], 3.0):
            with self.subTest(value=value):
                self.assertEqual(self.fault({"mites": value}).field, "mites")
        for value in (nan, inf, -inf, "9", True):
            with self.subTest(value=value):
                self.assertEqual(
                    self.fault({"mites": 1, "frames": [{"cover_pct": value}]}).field, "frames[0].cover_pct"
                )

    def test_days_are_days(self) -> None:
        """29 February only in leap years; no times, no other orders, no far-away years."""
        self.assertEqual(read(Inspection, {"mites": 1, "on": "2032-02-29"}).on, date(2032, 2, 29))
        for value in ("2031-02-29", "2031-8-2", "02.08.2031", "2031-08-02T00:00", 20310802, datetime(2031, 8, 2), "1899-12-31", "2201-01-01", ""):  # fmt: skip
            with self.subTest(value=value):
                self.assertEqual(self.fault({"mites": 1, "on": value}).field, "on")

    def test_limits_have_a_code_and_strangers_are_refused(self) -> None:
        """Out of range says so; a misspelt optional field is never silently a default."""
        self.assertEqual(self.fault({"mites": 100_001}).code, "out_of_range")
        self.assertEqual(self.fault({}).code, "missing")
        stranger = self.fault({"mites": 1, "bess": 299})
        self.assertEqual((stranger.field, stranger.code), ("bess", "extra_forbidden"))

    @given(st.integers(0, 100_000), st.integers(1, 1_000_000), st.dates(date(1900, 1, 1), date(2200, 12, 31)))
    def test_what_is_written_is_what_is_read(self, mites: int, bees: int, on: date) -> None:
        """Good values go through unchanged, days as text or as days."""
        for given_day in (on, on.isoformat()):
            found = read(Inspection, {"mites": mites, "bees": bees, "on": given_day})
            self.assertEqual((found.mites, found.bees, found.on), (mites, bees, on))

    def test_a_refusal_says_who_may_go_on(self) -> None:
        """The rule's id and whether somebody named may set it aside travel with it."""
        refused = Refused("S2", "too early", field="done_on", can_override=True)
        self.assertEqual((refused.rule, refused.field, refused.can_override, str(refused)), ("S2", "done_on", True, "too early"))  # fmt: skip
