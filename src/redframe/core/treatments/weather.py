"""Does the forecast allow a placing, day by day? Days without a forecast are never taken to be good."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from math import cos, pi
from typing import Literal

from redframe.core.errors import InvalidInput
from redframe.core.said import Params
from redframe.core.treatments.catalogue import Option
from redframe.core.treatments.reasons import Figure, Reason

RAIN_STOPS_MM = 5.0
RAIN_CAUTION_MM = 2.0
SHARE_COVER_DAYS = 5
SHARE_DAYS = 10
SHARE_HARD_DAYS = 3
SHARE_NEEDED = 0.7
HOT_SPELL_DAYS = 2
HOTTEST_HOUR = 15
NEAR_LIMIT_C = 2.5

Level = Literal["caution", "not_now"]
NO_FORECAST = "T62"


@dataclass(frozen=True, slots=True)
class Forecast:
    """Daily maxima and minima (°C) and rain (mm) from `start` on, one value a day."""

    start: date
    tmax: Sequence[float]
    tmin: Sequence[float]
    rain_mm: Sequence[float]

    def __len__(self) -> int:
        return len(self.tmax)

    def day(self, index: int) -> date:
        """The date of the day with this index."""
        return self.start + timedelta(days=index)

    def index(self, day: date) -> int:
        """The index of a date; may lie outside the forecast."""
        return (day - self.start).days


def weather_on(option: Option, forecast: Forecast | None, day: date) -> list[Reason]:
    """The weather rules that fire for a placing on `day`; [] when nothing speaks against it."""
    rule = option.temperature
    first = forecast.index(day) if forecast is not None else 0
    needs_temperature = rule.sensitive_days > 0
    cover = min(SHARE_COVER_DAYS, rule.sensitive_days) if rule.rule == "share" else rule.sensitive_days
    if needs_temperature and (forecast is None or first < 0 or first + cover > len(forecast)):
        return [_no_forecast(day, cover)]
    if forecast is None or not 0 <= first < len(forecast):
        return [_no_forecast(day, 1)] if option.opens_hive and needs_temperature else []
    found: list[Reason] = []
    if needs_temperature:
        sensitive = range(first, min(first + rule.sensitive_days, len(forecast)))
        found += _temperature(option, forecast, sensitive) + _later(option, forecast, first)
    if option.opens_hive:
        rain = forecast.rain_mm[first]
        if rain >= RAIN_CAUTION_MM:
            level: Level = "not_now" if rain >= RAIN_STOPS_MM else "caution"
            limit = RAIN_STOPS_MM if level == "not_now" else RAIN_CAUTION_MM
            found.append(Reason("T63", level, "E", {"rain_mm": rain, "limit": limit}, "rain", {"rain": rain}))
    return found


def _no_forecast(day: date, days: int) -> Reason:
    last = day + timedelta(days=max(days, 1) - 1)
    compared: dict[str, Figure] = {"forecast": None, "limit": None}
    if last == day:
        return Reason(NO_FORECAST, "not_now", "L", compared, "no_forecast", {"day": day})
    return Reason(NO_FORECAST, "not_now", "L", compared, "no_forecast_days", {"first": day, "last": last})


def _maximum(value: float, limit: float | None) -> dict[str, Figure]:
    return {"daily_max_c": value, "limit": limit}


def _temperature(option: Option, forecast: Forecast, sensitive: range) -> list[Reason]:
    rule = option.temperature
    low, high = rule.min_daily_max_c, rule.max_daily_max_c
    found: list[Reason] = []
    hard = sensitive if rule.rule == "all" else sensitive[:SHARE_HARD_DAYS]
    if high is not None:
        over = [i for i in hard if forecast.tmax[i] > high]
        if over:
            value = forecast.tmax[over[0]]
            said: Params = {"day": forecast.day(over[0]), "value": value, "limit": high}
            found.append(Reason("T60", "not_now", "L", _maximum(value, high), "day_too_hot", said))
    if low is not None:
        window = sensitive if rule.rule == "all" else sensitive[:SHARE_DAYS]
        reach = sum(1 for i in window if forecast.tmax[i] >= low)
        short = reach < len(window) if rule.rule == "all" else reach < SHARE_NEEDED * len(window)
        if short:
            coldest = min(forecast.tmax[i] for i in window)
            said = {"reach": reach, "days": len(window), "limit": low}
            found.append(Reason("T61", "not_now", "L", _maximum(coldest, low), "days_too_cold", said))
    if not found:
        near_high = [i for i in hard if high is not None and high - forecast.tmax[i] < rule.margin_c]
        near_low = [
            i for i in hard if rule.rule == "all" and low is not None and forecast.tmax[i] - low < rule.margin_c
        ]
        if near_high or near_low:
            index = (near_high or near_low)[0]
            limit = high if near_high else low
            assert limit is not None
            value = forecast.tmax[index]
            said = {"day": forecast.day(index), "value": value, "limit": limit}
            found.append(Reason("T64", "caution", "E", _maximum(value, limit), "near_limit", said))
    return found


def _later(option: Option, forecast: Forecast, first: int) -> list[Reason]:
    rule = option.temperature
    high, spell = rule.max_daily_max_c, rule.later_hot_spell_c
    if high is None:
        return []
    if rule.rule == "share":
        start, stop = SHARE_HARD_DAYS, SHARE_DAYS
    else:
        start = rule.sensitive_days
        stop = (option.interval_days or option.stay_days)[1]
    later = range(first + start, min(first + stop, len(forecast)))
    if rule.rule == "all" and spell is not None:
        for i in list(later)[: len(later) - HOT_SPELL_DAYS + 1]:
            pair = forecast.tmax[i : i + HOT_SPELL_DAYS]
            if len(pair) == HOT_SPELL_DAYS and min(pair) >= spell:
                said: Params = {"day": forecast.day(i)}
                return [Reason("T65", "not_now", "E", _maximum(min(pair), spell), "hot_spell", said)]
    over = [i for i in later if forecast.tmax[i] > high]
    if not over:
        return []
    value = forecast.tmax[over[0]]
    said = {"day": forecast.day(over[0]), "value": value}
    return [Reason("T65", "caution", "E", _maximum(value, high), "hot_later", said)]


def blocked_on(option: Option, forecast: Forecast | None, day: date) -> Reason | None:
    """The first rule that forbids a placing on this day."""
    return next((reason for reason in weather_on(option, forecast, day) if reason.level == "not_now"), None)


def usable(option: Option, forecast: Forecast | None, day: date) -> bool:
    """Whether no weather rule forbids a placing on this day."""
    return blocked_on(option, forecast, day) is None


def next_usable(option: Option, forecast: Forecast | None, day: date) -> date | None:
    """The first day from `day` on, within the forecast, on which the weather allows a placing."""
    if forecast is None:
        return None
    for index in range(max(forecast.index(day), 0), len(forecast)):
        if usable(option, forecast, forecast.day(index)):
            return forecast.day(index)
    return None


class WeatherHere:
    """What the forecast of one place says of the options of one catalogue; each option and day is looked up once."""

    def __init__(self, forecast: Forecast | None) -> None:
        self.forecast = forecast
        self._on: dict[tuple[str, date], list[Reason]] = {}
        self._next: dict[tuple[str, date], date | None] = {}

    def covers(self, day: date) -> bool:
        """Whether the forecast reaches to a day."""
        return self.forecast is not None and self.forecast.index(day) < len(self.forecast)

    def on(self, option: Option, day: date) -> list[Reason]:
        """What the weather says of a placing on a day (`weather_on`)."""
        key = (option.id, day)
        if key not in self._on:
            self._on[key] = weather_on(option, self.forecast, day)
        return self._on[key]

    def usable(self, option: Option, day: date) -> bool:
        """Whether no weather rule forbids a placing on this day."""
        return all(reason.level != "not_now" for reason in self.on(option, day))

    def next_usable(self, option: Option, day: date) -> date | None:
        """The first day from `day` on, within the forecast, on which the weather allows a placing."""
        key = (option.id, day)
        if key not in self._next:
            days = [] if self.forecast is None else map(self.forecast.day, range(len(self.forecast)))
            self._next[key] = next((one for one in days if one >= day and self.usable(option, one)), None)
        return self._next[key]


@dataclass(frozen=True, slots=True)
class HotHours:
    """Hours of a day above a limit and near it, those above included, and what they say of a placing on it."""

    hours_over: int
    hours_near: int
    risk: Literal["low", "moderate", "high"]


def hot_hours(tmin: float, tmax: float, limit: float) -> HotHours:
    """The course of a day between its extremes, hottest at 15:00, against the limit of an option.

    The daily maximum stays the rule; hours rank the days and choose the evening. Raises InvalidInput("tmin").
    """
    hours = _hours(tmin, tmax)
    over = sum(one > limit for one in hours)
    near = sum(one > limit - NEAR_LIMIT_C for one in hours)
    return HotHours(over, near, "high" if over else "moderate" if near else "low")


def cool_from(tmin: float, tmax: float, limit: float) -> int | None:
    """The hour of the day from which on it is no longer near the limit; None where it never is, or until midnight."""
    near = [hour for hour, one in enumerate(_hours(tmin, tmax)) if one > limit - NEAR_LIMIT_C]
    return near[-1] + 1 if near and near[-1] < 23 else None


def _hours(tmin: float, tmax: float) -> list[float]:
    if tmin > tmax:
        raise InvalidInput("tmin", "minimum above maximum", code="out_of_range")
    return [tmin + (tmax - tmin) * (1 + cos(2 * pi * (hour - HOTTEST_HOUR) / 24)) / 2 for hour in range(24)]


WindowResult = Literal["ok", "caution", "no", "unknown"]


@dataclass(frozen=True, slots=True)
class WindowDay:
    """One day of the window finder."""

    date: date
    result: WindowResult
    rules: Sequence[str]


def window_result(found: Sequence[Reason]) -> WindowResult:
    """What the weather rules that fire say of a day together."""
    if any(one.rule == NO_FORECAST for one in found):
        return "unknown"
    if any(one.level == "not_now" for one in found):
        return "no"
    return "caution" if found else "ok"


def window(option: Option, forecast: Forecast) -> list[WindowDay]:
    """For each day of the forecast: may a placing be made, and which rules speak."""
    days: list[WindowDay] = []
    for index in range(len(forecast)):
        day = forecast.day(index)
        found = weather_on(option, forecast, day)
        days.append(WindowDay(day, window_result(found), [finding.rule for finding in found]))
    return days
