"""Count weeks as their screens show them."""

from __future__ import annotations

import statistics
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.campaigns.results import (
    FEWEST_TO_RANK,
    percentile,
    quarter,
)
from redframe.core.errors import InvalidInput
from redframe.store import campaigns as store
from redframe.store import places
from redframe.store.campaigns import CountWeek
from redframe.work.campaigns.results import Results, own_near_urgent, results
from redframe.work.roles import may
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class OwnApiary:
    """What a keeper learns of their own apiary: its mean rate, the quarter in which it lies among all, and whether it
    is within two cells of an urgent one."""

    apiary_id: UUID
    name: str
    counted: int
    colonies: int
    rate: float | None
    quarter: int | None
    of: int
    near_urgent: bool


@dataclass(frozen=True, slots=True)
class WeekView:
    """A count week: its results for those who keep the association or read, their own apiaries for a keeper."""

    week: CountWeek
    today: date
    results: Results | None
    own: Sequence[OwnApiary]


async def weeks(unit: UnitOfWork) -> list[CountWeek]:
    """All count weeks, the latest first."""
    return await store.count_weeks(unit.connection)


async def _invited(unit: UnitOfWork, keepers: Sequence[UUID] | None) -> list[UUID]:
    known = [keeper.id for keeper in await places.keepers(unit.connection)]
    if keepers is None:
        return known
    for index, keeper in enumerate(keepers):
        if keeper not in known:
            raise InvalidInput(f"keepers[{index}]", "is not a keeper of this association", code="unknown")
    return list(dict.fromkeys(keepers))


async def week_view(unit: UnitOfWork, week_id: UUID) -> WeekView:
    """A count week as the person may see it. Raises NotFound."""
    week = await store.count_week(unit.connection, week_id)
    if may(unit.who, "read_count_week"):
        return WeekView(week, unit.today, await results(unit, week), ())
    return WeekView(week, unit.today, None, await _own(unit, week))


async def _own(unit: UnitOfWork, week: CountWeek) -> list[OwnApiary]:
    counts = await store.week_counts(unit.connection, week.id, week.first_on, week.last_on)
    rates = await store.apiary_rates_between(unit.connection, week.first_on, week.last_on)
    endangered = await own_near_urgent(unit, week.id)
    own = []
    for apiary in await store.week_apiaries(unit.connection, week.id):
        own_rates = [one.median for one in counts if one.apiary_id == apiary.id and one.median is not None]
        rate = statistics.fmean(own_rates) if own_rates else None
        ranked = rate is not None and len(own_rates) >= FEWEST_TO_RANK and len(rates) > 0
        place = quarter(percentile(rates, min(rates, key=lambda one: abs(one - rate)))) if ranked and rate else None
        own.append(
            OwnApiary(
                apiary.id,
                apiary.name,
                len(own_rates),
                apiary.colonies,
                rate,
                place,
                len(rates),
                apiary.id in endangered,
            )
        )
    return own
