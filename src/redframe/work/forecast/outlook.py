"""What is forecast of colonies, as the run of the night found it, with its sentence."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from redframe.core.forecast.many import BAND_EVERY_DAYS
from redframe.core.forecast.turns import Turns, turns
from redframe.store import association_forecast as store
from redframe.store.association_forecast import StoredForecast
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class ColonyOutlook:
    """What is forecast of a colony: `days` with its middle and 80 % band in mites per 100 bees, the days by which 10
    and 50 % of what may come are over `act_per_100`, and when it turns, as a sentence."""

    colony_id: UUID
    days: Sequence[date]
    median: Sequence[float]
    low80: Sequence[float]
    high80: Sequence[float]
    act_per_100: float
    date10: date | None
    date50: date | None
    p_over_ahead: float
    danger_from: date | None
    disagree: bool
    counted_since: bool
    turns: Turns


async def outlooks_of(unit: UnitOfWork, colony_ids: Sequence[UUID]) -> dict[UUID, ColonyOutlook]:
    """What is forecast of some colonies; those without a forecast are left out."""
    found = await store.forecasts_of_colonies(unit.connection, colony_ids)
    return {one.colony_id: _outlook(one, unit.today) for one in found}


def _outlook(one: StoredForecast, today: date) -> ColonyOutlook:
    days = [one.for_day + timedelta(days=BAND_EVERY_DAYS * number) for number in range(len(one.median))]
    # A run of an earlier day is read from today on; of one whose days have all gone by its last stands.
    first = next((at for at, day in enumerate(days) if day >= today), len(days) - 1)
    said = turns(days[first:], one.median[first:], one.act_per_100, half_over=one.date50, tenth_over=one.date10)
    return ColonyOutlook(
        colony_id=one.colony_id, days=days[first:], median=one.median[first:], low80=one.low80[first:],
        high80=one.high80[first:], act_per_100=one.act_per_100, date10=one.date10, date50=one.date50,
        p_over_ahead=one.p_over_ahead, danger_from=one.danger_from, disagree=one.disagree,
        counted_since=bool(one.counted_since), turns=said,
    )  # fmt: skip
