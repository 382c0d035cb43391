"""When a dose can be placed: each day of the forecast with what speaks against it, and its hours near the limit.

The daily maximum stays the rule. Hours rank the days and say from when on an evening is cool enough; a day within a
degree of a limit is looked at again, for forecasts err by more than that. See docs/methods/eligibility.md.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from redframe.core.treatments.catalogue import Option
from redframe.core.treatments.reasons import Reason
from redframe.core.treatments.weather import (
    Forecast,
    HotHours,
    WindowResult,
    cool_from,
    hot_hours,
    weather_on,
    window_result,
)


@dataclass(frozen=True, slots=True)
class PlacingDay:
    """A day of the forecast for a placing. `hours` near the upper limit on it and `cool_from`, the hour after the last
    of them (None: there is no limit, or no such hour); `look_again`: so near a limit that it is looked at once more the
    evening before at 18:00 and on the morning."""

    day: date
    tmax_c: float
    tmin_c: float
    rain_mm: float
    result: WindowResult
    reasons: Sequence[Reason]
    hours: HotHours | None
    cool_from: int | None
    look_again: bool


@dataclass(frozen=True, slots=True)
class PlacingDays:
    """All days of the forecast, the first that is usable and the first against which nothing speaks (None: none)."""

    days: Sequence[PlacingDay]
    first_usable: date | None
    first_clear: date | None


def placing_days(option: Option, forecast: Forecast) -> PlacingDays:
    """Each day of the forecast for a placing of an option."""
    days = [_day(option, forecast, index) for index in range(len(forecast))]
    return PlacingDays(
        days,
        next((one.day for one in days if one.result in ("ok", "caution")), None),
        next((one.day for one in days if one.result == "ok"), None),
    )


def _day(option: Option, forecast: Forecast, index: int) -> PlacingDay:
    day, tmax, tmin = forecast.day(index), forecast.tmax[index], forecast.tmin[index]
    reasons = weather_on(option, forecast, day)
    limit = option.temperature.max_daily_max_c
    return PlacingDay(
        day, tmax, tmin, forecast.rain_mm[index], window_result(reasons), reasons,
        hot_hours(tmin, tmax, limit) if limit is not None else None,
        cool_from(tmin, tmax, limit) if limit is not None else None,
        any(one.code == "near_limit" for one in reasons),
    )  # fmt: skip
