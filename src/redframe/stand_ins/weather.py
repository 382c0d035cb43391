"""A weather service that is not there: a forecast made from the place, the date and nothing else.

The same place and day always give the same weather. A slow sine makes the year, sums of sines of the place and day
make the week; the demo's first half of August 2031 has a hot spell inland and a rainy week that comes in from the west.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date, timedelta
from math import pi, sin

from redframe.core.season.calendar import day_index
from redframe.core.treatments.weather import Forecast

FORECAST_DAYS = 12
HOT_SPELL: Mapping[date, float] = {date(2031, 8, 3): 6.0, date(2031, 8, 4): 9.3, date(2031, 8, 5): 8.6}
RAINY_WEEK: Mapping[date, float] = {
    date(2031, 8, 8): 3.4, date(2031, 8, 9): 8.2, date(2031, 8, 10): 11.5, date(2031, 8, 11): 6.4,
    date(2031, 8, 12): 9.8, date(2031, 8, 13): 4.1, date(2031, 8, 14): 2.6,
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class StandInWeather:
    """Forecasts for any place. `inland_east_of` is the longitude east of which the hot spell is felt in full."""

    inland_east_of: float = -31.42
    hot_spell: Mapping[date, float] = field(default_factory=lambda: HOT_SPELL)
    rainy_week: Mapping[date, float] = field(default_factory=lambda: RAINY_WEEK)

    def forecast(self, latitude: float, longitude: float, start: date) -> Forecast:
        """Twelve days of daily maxima and minima (°C) and rain (mm) from `start` on."""
        days = [start + timedelta(days=number) for number in range(FORECAST_DAYS)]
        weather = [self._day(latitude, longitude, day) for day in days]
        return Forecast(
            start, [tmax for tmax, _, _ in weather], [tmin for _, tmin, _ in weather], [mm for _, _, mm in weather]
        )

    def _day(self, latitude: float, longitude: float, day: date) -> tuple[float, float, float]:
        season = sin(2 * pi * (day_index(day) - 110) / 366) * (1 if latitude >= 0 else -1)
        count = day.toordinal()
        unrest = sin(count * 1.7 + longitude * 3) + 0.7 * sin(count * 0.61 + latitude * 5) + 0.4 * sin(count * 2.9)
        inland = longitude > self.inland_east_of
        hot = self.hot_spell.get(day, 0.0) * (1.0 if inland else 0.35)
        rain = self.rainy_week.get(day, 0.0) * (0.7 if inland else 1.2)
        tmax = 15.0 + 8.0 * season + 1.4 * unrest + (1.6 if inland else 0.0) + hot - (3.0 if rain > 0 else 0.0)
        tmin = tmax - 7.5 - 0.8 * sin(count * 0.9)
        if not rain and unrest > 1.45 and day not in self.hot_spell:
            rain = round(4 * (unrest - 1.45), 1)
        return round(tmax, 1), round(tmin, 1), round(rain, 1)
