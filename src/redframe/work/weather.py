"""Forecasts for apiaries, one call a place and day."""

from __future__ import annotations

from redframe.core.treatments.weather import Forecast
from redframe.work.unit_of_work import UnitOfWork


def forecast_at(unit: UnitOfWork, latitude: float, longitude: float) -> Forecast:
    """The forecast of a place from today on."""
    return unit.weather.forecast(latitude, longitude, unit.today)
