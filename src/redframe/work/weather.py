"""Forecasts for apiaries, one call a place and day."""

from __future__ import annotations

from redframe.core.treatments.weather import Forecast
from redframe.work.unit_of_work import Work


def forecast_at(work: Work, latitude: float, longitude: float) -> Forecast:
    """The forecast of a place from today on."""
    return work.weather.forecast(latitude, longitude, work.today)
