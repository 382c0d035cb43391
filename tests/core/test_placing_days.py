"""When a dose can be placed: the reference's own example, and the hours of a day by brute force."""

from __future__ import annotations

import unittest
from datetime import date
from math import cos, pi

from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.placing_days import placing_days
from redframe.core.treatments.weather import Forecast, cool_from, window

AUGUST = Forecast(
    date(2026, 8, 15),
    [28, 31, 30.2, 29.4, 28.7, 27.5, 26, 25, 26, 27, 25.5, 24],
    [15.0] * 12,
    [0, 0, 0, 0, 0, 0, 7, 1, 3, 0, 0, 0],
)


class PlacingDays(unittest.TestCase):
    def test_the_example(self) -> None:
        """Formic strips in a hot week: usable on the 18th with care, clear on the 20th; near the limit it is looked at
        again."""
        found = placing_days(default_catalogue().option("FA_STRIP2"), AUGUST)
        self.assertEqual(
            [one.result for one in found.days],
            ["no", "no", "no", "caution", "caution", "ok", "no", "ok", "caution", "ok", "unknown", "unknown"],
        )
        self.assertEqual((found.first_usable, found.first_clear), (date(2026, 8, 18), date(2026, 8, 20)))
        self.assertEqual([one.day.day for one in found.days if one.look_again], [18, 19])

    def test_as_the_window_says(self) -> None:
        """Day by day the same as the calculator, for every option; only one with an upper limit has hours near it."""
        for option in default_catalogue().options:
            found = placing_days(option, AUGUST)
            self.assertEqual([one.result for one in found.days], [one.result for one in window(option, AUGUST)])
            limited = option.temperature.max_daily_max_c is not None
            self.assertEqual({one.hours is not None for one in found.days}, {limited})

    def test_cool_again(self) -> None:
        """From the hour named on no hour is near the limit, and the one before it is."""
        for tmin, tmax, limit in ((15, 29, 29.5), (17, 31, 29.5), (12, 24, 29.5), (24, 31, 29.5), (28, 33, 29.5)):
            near = [
                hour
                for hour in range(24)
                if tmin + (tmax - tmin) * (1 + cos(2 * pi * (hour - 15) / 24)) / 2 > limit - 2.5
            ]
            found = cool_from(tmin, tmax, limit)
            with self.subTest(tmin=tmin, tmax=tmax):
                if not near or 23 in near:
                    self.assertIsNone(found)
                else:
                    assert found is not None
                    self.assertEqual((found - 1 in near, [hour for hour in near if hour >= found]), (True, []))


if __name__ == "__main__":
    unittest.main()
