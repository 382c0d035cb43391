"""Does the forecast allow a placing, day by day? Days without a forecast are never taken to be good."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal

from redframe.core.treatments.catalogue import Option

RAIN_STOPS_MM = 5.0
RAIN_CAUTION_MM = 2.0
SHARE_COVER_DAYS = 5
SHARE_DAYS = 10
SHARE_HARD_DAYS = 3
SHARE_NEEDED = 0.7
HOT_SPELL_DAYS = 2

WeatherRule = Literal["T60", "T61", "T62", "T63", "T64", "T65"]
Level = Literal["caution", "not_now"]
NO_FORECAST: WeatherRule = "T62"


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


@dataclass(frozen=True, slots=True)
class WeatherFinding:
    """A weather rule that fires, with the figure and the limit that made it fire."""

    rule: WeatherRule
    level: Level
    quantity: str
    value: float | str | None
    limit: float | None
    text: str


def weather_on(option: Option, forecast: Forecast | None, day: date) -> list[WeatherFinding]:
    """The weather rules that fire for a placing on `day`; [] when nothing speaks against it."""
    rule = option.temperature
    first = forecast.index(day) if forecast is not None else 0
    needs_temperature = rule.sensitive_days > 0
    cover = min(SHARE_COVER_DAYS, rule.sensitive_days) if rule.rule == "share" else rule.sensitive_days
    if needs_temperature and (forecast is None or first < 0 or first + cover > len(forecast)):
        return [_no_forecast(day, cover)]
    if forecast is None or not 0 <= first < len(forecast):
        return [_no_forecast(day, 1)] if option.opens_hive and needs_temperature else []
    found: list[WeatherFinding] = []
    if needs_temperature:
        sensitive = range(first, min(first + rule.sensitive_days, len(forecast)))
        found += _temperature(option, forecast, sensitive) + _later(option, forecast, first)
    if option.opens_hive:
        rain = forecast.rain_mm[first]
        if rain >= RAIN_CAUTION_MM:
            level: Level = "not_now" if rain >= RAIN_STOPS_MM else "caution"
            limit = RAIN_STOPS_MM if level == "not_now" else RAIN_CAUTION_MM
            found.append(WeatherFinding("T63", level, "rain_mm", rain, limit, f"rain {rain:g} mm on the placing day"))
    return found


def _no_forecast(day: date, days: int) -> WeatherFinding:
    last = day + timedelta(days=max(days, 1) - 1)
    dates = day.isoformat() if last == day else f"{day.isoformat()} to {last.isoformat()}"
    return WeatherFinding(NO_FORECAST, "not_now", "forecast", None, None, f"no forecast for {dates}")


def _temperature(option: Option, forecast: Forecast, sensitive: range) -> list[WeatherFinding]:
    rule = option.temperature
    low, high = rule.min_daily_max_c, rule.max_daily_max_c
    found: list[WeatherFinding] = []
    hard = sensitive if rule.rule == "all" else sensitive[:SHARE_HARD_DAYS]
    if high is not None:
        over = [i for i in hard if forecast.tmax[i] > high]
        if over:
            day = over[0]
            found.append(
                WeatherFinding(
                    "T60",
                    "not_now",
                    "daily_max_c",
                    forecast.tmax[day],
                    high,
                    f"too hot: {forecast.day(day).isoformat()} {forecast.tmax[day]:g} °C, limit {high:g} °C",
                )
            )
    if low is not None:
        window = sensitive if rule.rule == "all" else sensitive[:SHARE_DAYS]
        reach = sum(1 for i in window if forecast.tmax[i] >= low)
        short = reach < len(window) if rule.rule == "all" else reach < SHARE_NEEDED * len(window)
        if short:
            found.append(
                WeatherFinding(
                    "T61",
                    "not_now",
                    "daily_max_c",
                    min(forecast.tmax[i] for i in window),
                    low,
                    f"too cold: {reach} of {len(window)} days reach {low:g} °C",
                )
            )
    if not found:
        near_high = [i for i in hard if high is not None and high - forecast.tmax[i] <= rule.margin_c]
        near_low = [
            i for i in hard if rule.rule == "all" and low is not None and forecast.tmax[i] - low <= rule.margin_c
        ]
        if near_high or near_low:
            day = (near_high or near_low)[0]
            limit = high if near_high else low
            found.append(
                WeatherFinding(
                    "T64",
                    "caution",
                    "daily_max_c",
                    forecast.tmax[day],
                    limit,
                    f"near the limit: {forecast.day(day).isoformat()} {forecast.tmax[day]:g} °C, limit {limit:g} °C; "
                    "forecasts err by more than this",
                )
            )
    return found


def _later(option: Option, forecast: Forecast, first: int) -> list[WeatherFinding]:
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
                day = forecast.day(i).isoformat()
                return [
                    WeatherFinding("T65", "not_now", "daily_max_c", min(pair), spell, f"hot spell from {day} cancels")
                ]
    over = [i for i in later if forecast.tmax[i] > high]
    if not over:
        return []
    day = forecast.day(over[0]).isoformat()
    value = forecast.tmax[over[0]]
    return [
        WeatherFinding("T65", "caution", "daily_max_c", value, high, f"hot later in the course: {day} {value:g} °C")
    ]


def usable(option: Option, forecast: Forecast | None, day: date) -> bool:
    """Whether no weather rule forbids a placing on this day."""
    return all(finding.level != "not_now" for finding in weather_on(option, forecast, day))


def next_usable(option: Option, forecast: Forecast | None, day: date) -> date | None:
    """The first day from `day` on, within the forecast, on which the weather allows a placing."""
    if forecast is None:
        return None
    for index in range(max(forecast.index(day), 0), len(forecast)):
        if usable(option, forecast, forecast.day(index)):
            return forecast.day(index)
    return None


@dataclass(frozen=True, slots=True)
class WindowDay:
    """One day of the window finder."""

    date: date
    result: Literal["ok", "caution", "no", "unknown"]
    rules: Sequence[str]


def window(option: Option, forecast: Forecast) -> list[WindowDay]:
    """For each day of the forecast: may a placing be made, and which rules speak."""
    days: list[WindowDay] = []
    for index in range(len(forecast)):
        day = forecast.day(index)
        found = weather_on(option, forecast, day)
        rules = [finding.rule for finding in found]
        if "T62" in rules:
            result: Literal["ok", "caution", "no", "unknown"] = "unknown"
        elif any(finding.level == "not_now" for finding in found):
            result = "no"
        else:
            result = "caution" if found else "ok"
        days.append(WindowDay(day, result, rules))
    return days
