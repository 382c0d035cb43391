"""The weather over a product that is in the hive already: an alarm while it is sensitive, a word after that."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date, timedelta

from redframe.core.said import Params
from redframe.core.treatments.catalogue import Option
from redframe.core.treatments.reasons import Reason
from redframe.core.treatments.weather import Forecast


def may_be_alarmed(option: Option) -> bool:
    """Whether heat on the days after a dose of this option can harm the bees."""
    return option.temperature.max_daily_max_c is not None


def alarm_days(options: Iterable[Option]) -> int:
    """For so many days after a dose heat is an alarm, of the option that is sensitive longest."""
    return max((one.temperature.sensitive_days for one in options), default=0)


def watch_placed(option: Option, placed_on: date, forecast: Forecast, today: date) -> list[Reason]:
    """What the days to come do to a dose that was placed: too hot on one of its sensitive days is an alarm to whoever
    placed it, hot on a later day of its stay a caution. Nothing of days that have passed."""
    high = option.temperature.max_daily_max_c
    if high is None:
        return []
    sensitive_to = placed_on + timedelta(days=option.temperature.sensitive_days - 1)
    stays_to = placed_on + timedelta(days=(option.interval_days or option.stay_days)[1])
    hot = [
        (forecast.day(number), warmest)
        for number, warmest in enumerate(forecast.tmax)
        if warmest > high and max(today, placed_on) <= forecast.day(number) <= max(sensitive_to, stays_to)
    ]
    if not hot:
        return []
    day, value = hot[0]
    said: Params = {"day": day, "value": value, "limit": high}
    compared = {"daily_max_c": value, "limit": high}
    if day <= sensitive_to:
        return [Reason("T60", "not_now", "L", compared, "hot_in_course", said)]
    return [Reason("T65", "caution", "E", compared, "hot_after_start", said)]
