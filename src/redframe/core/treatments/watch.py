"""The weather over a product that is in the hive already: an alarm while it is sensitive, a word after that."""

from __future__ import annotations

from datetime import date, timedelta

from redframe.core.said import Params
from redframe.core.treatments.catalogue import Option
from redframe.core.treatments.reasons import Reason
from redframe.core.treatments.weather import Forecast


def watched_days(option: Option) -> int:
    """For so many days after the first dose a course may have one in its sensitive days; 0 for an option that has none.

    Whether heat is too much for it the label says: it may set a limit where the catalogue has none.
    """
    if not option.chemical or option.temperature.sensitive_days == 0:
        return 0
    between = option.interval_days[2] if option.interval_days is not None else 0
    return option.temperature.sensitive_days + between * (option.applications - 1)


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
