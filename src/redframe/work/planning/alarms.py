"""Heat over doses that are in hives: what cannot wait for anybody to open the course."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.reasons import Reason
from redframe.core.treatments.watch import watch_placed, watched_days
from redframe.core.treatments.weather import Forecast
from redframe.store import planning as store
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.weather import forecast_at


@dataclass(frozen=True, slots=True)
class HeatAlarm:
    """Colonies of an apiary in which a dose is in its sensitive days while the forecast is too hot."""

    apiary_id: UUID
    apiary: str
    option_name: str
    placed_on: date
    labels: Sequence[str]
    course_id: UUID
    reason: Reason


async def heat_alarms(unit: UnitOfWork) -> list[HeatAlarm]:
    """Every alarm of today, by apiary."""
    watched = {one.id: days for one in default_catalogue().options if (days := watched_days(one)) > 0}
    since = {one: unit.today - timedelta(days=days) for one, days in watched.items()}
    found: list[HeatAlarm] = []
    forecasts: dict[UUID, Forecast] = {}
    for dose in await store.doses_in_hives(unit.connection, since):
        if dose.apiary_id not in forecasts:
            forecasts[dose.apiary_id] = forecast_at(unit, dose.latitude, dose.longitude)
        reasons = watch_placed(dose.option, dose.placed_on, forecasts[dose.apiary_id], unit.today)
        found += [
            HeatAlarm(
                dose.apiary_id, dose.apiary, dose.option.name, dose.placed_on, dose.labels, dose.course_id, reason
            )
            for reason in reasons
            if reason.level == "not_now"
        ]
    return found
