"""The weather over a dose that is in the hive."""

from __future__ import annotations

import unittest
from datetime import date, timedelta

from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.watch import watch_placed
from redframe.core.treatments.weather import Forecast

TODAY = date(2031, 8, 2)
STRIPS = default_catalogue().option("FA_STRIP2")


def said(placed: int, *maxima: float, option: str = "FA_STRIP2") -> list[tuple[str, int]]:
    """Code and day (from today) for a dose placed so many days ago, with these daily maxima from today on."""
    forecast = Forecast(TODAY, list(maxima), [12.0] * len(maxima), [0.0] * len(maxima))
    found = watch_placed(default_catalogue().option(option), TODAY - timedelta(days=placed), forecast, TODAY)
    return [(one.code, (one.params["day"] - TODAY).days) for one in found]  # type: ignore[operator]


class Watched(unittest.TestCase):
    def test_hot_on_a_sensitive_day_is_an_alarm(self) -> None:
        """Days 0 to 2 of the strips; 29.5 itself is allowed."""
        self.assertEqual(said(0, 25, 31, 25, 25), [("hot_in_course", 1)])
        self.assertEqual(said(2, 31, 25), [("hot_in_course", 0)])
        self.assertEqual(said(0, 29.5, 29.5, 29.5), [])

    def test_hot_later_is_said_more_calmly(self) -> None:
        """From day 3 on, as long as it stays; not of days after that."""
        self.assertEqual(said(3, 31, 25), [("hot_after_start", 0)])
        self.assertEqual(said(0, 25, 25, 25, 31), [("hot_after_start", 3)])
        self.assertEqual(said(5, 25, 25, 25, 25, 31), [])

    def test_what_has_passed_or_bears_heat_says_nothing(self) -> None:
        """Yesterday's heat is over; strips of amitraz have no upper limit."""
        forecast = Forecast(TODAY - timedelta(days=2), [35.0, 35.0, 25.0], [12.0] * 3, [0.0] * 3)
        self.assertEqual(watch_placed(STRIPS, TODAY - timedelta(days=2), forecast, TODAY), [])
        self.assertEqual(said(0, 35, 35, 35, option="AMZ_STRIP"), [])
