"""The weather stand-in behaves as weather does, and says the same whenever it is asked."""

from __future__ import annotations

import unittest
from datetime import date, timedelta
from statistics import mean

from redframe.core.treatments.weather import Forecast
from redframe.stand_ins.weather import FORECAST_DAYS, StandInWeather

CORRANE = (44.2, -31.4)
ELLERY = (-38.6, -24.1)


class Weather(unittest.TestCase):
    weather = StandInWeather()

    def year(self, place: tuple[float, float]) -> list[Forecast]:
        """The forecasts of a year, end to end."""
        first = date(2031, 1, 1)
        return [self.weather.forecast(*place, first + timedelta(days=at)) for at in range(0, 365, FORECAST_DAYS)]

    def test_days_are_as_days_are(self) -> None:
        """Warmer by day than by night, rain never less than none, dry and wet days, nothing that no island sees."""
        for place in (CORRANE, ELLERY):
            for forecast in self.year(place):
                self.assertEqual({len(forecast), len(forecast.tmin), len(forecast.rain_mm)}, {FORECAST_DAYS})
                for high, low, rain in zip(forecast.tmax, forecast.tmin, forecast.rain_mm, strict=True):
                    self.assertTrue(-10 < low < high < 40, (low, high))
                    self.assertTrue(0 <= rain < 60, rain)
            dry = [rain == 0 for forecast in self.year(place) for rain in forecast.rain_mm]
            self.assertTrue(0.5 < mean(dry) < 0.98, mean(dry))

    def test_the_south_has_its_summer_in_january(self) -> None:
        """The warmest forecasts of the year lie half a year apart."""
        warmest = {
            place: max(self.year(place), key=lambda forecast: mean(forecast.tmax)).start for place in (CORRANE, ELLERY)
        }
        self.assertIn(warmest[CORRANE].month, (6, 7, 8))
        self.assertIn(warmest[ELLERY].month, (12, 1, 2))

    def test_a_day_is_the_same_whenever_it_is_asked_for(self) -> None:
        """Forecasts made on neighbouring days agree on the days they share; other places have other days."""
        today = date(2031, 8, 2)
        now, tomorrow = (self.weather.forecast(*CORRANE, today + timedelta(days=days)) for days in (0, 1))
        self.assertEqual(list(now.tmax)[1:], list(tomorrow.tmax)[:-1])
        self.assertEqual(list(now.rain_mm)[1:], list(tomorrow.rain_mm)[:-1])
        self.assertNotEqual(list(now.tmax), list(self.weather.forecast(CORRANE[0], -31.6, today).tmax))
