"""Today: what is due, overdue, waiting for the weather or for its check count, across all apiaries."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal
from uuid import UUID

from redframe.core.policy.schemes import SchemeId
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.reasons import Reason
from redframe.core.treatments.weather import Forecast, blocked_on, next_usable
from redframe.store import planning as store
from redframe.store.planning import BoardsDue, CountsDue, OverWithoutCourse, StepsDue, VisitsDue
from redframe.work.planning.apiaries import ApiaryWork, apiary_works, find_work
from redframe.work.policy.read import policy_in_force
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.weather import forecast_at

MOST_LINES = 60

Urgency = Literal["overdue", "due", "soon", "waiting_for_weather"]


@dataclass(frozen=True, slots=True)
class StepLine:
    """Colonies of one apiary that wait for one step; of so many `placings`; `weather` says what stops one today."""

    due: StepsDue
    option_name: str
    placings: int
    urgency: Urgency
    weather: Reason | None
    next_usable: date | None


@dataclass(frozen=True, slots=True)
class Worklist:
    """The day's work in the order of its urgency, by apiary and by kind.

    `colonies` counts all that live, `apiaries` all that there are; `more`: lines were left off. `winter_bees`: the day
    on which the first are laid, None where it has gone by or none are reared.
    """

    today: date
    phase: str
    act_at: float
    scheme: SchemeId
    winter_bees: date | None
    colonies: int
    apiaries: int
    work: Sequence[ApiaryWork]
    over: Sequence[OverWithoutCourse]
    steps: Sequence[StepLine]
    counts: Sequence[CountsDue]
    boards: Sequence[BoardsDue]
    visits: Sequence[VisitsDue]
    more: bool


async def worklist(unit: UnitOfWork) -> Worklist:
    """What is due today and soon, for everything that the person may see."""
    policy = await policy_in_force(unit)
    phase = policy.calendar.phase(unit.today)
    found = await find_work(unit, MOST_LINES + 1)
    totals = await store.totals(unit.connection)
    winter = policy.calendar.winter_bee_date(unit.today)
    forecasts: dict[UUID, Forecast] = {}
    lines = [_line(unit, due, forecasts) for due in found.steps[:MOST_LINES]]
    order: tuple[Urgency, ...] = ("overdue", "due", "waiting_for_weather", "soon")
    lines.sort(key=lambda line: (order.index(line.urgency), not line.due.hard_stop, line.due.latest, line.due.apiary))
    return Worklist(
        today=unit.today,
        phase=phase,
        act_at=policy.policy.levels[phase].act,
        scheme=policy.scheme,
        winter_bees=winter if winter is not None and winter > unit.today else None,
        colonies=totals.colonies,
        apiaries=totals.apiaries,
        work=await apiary_works(unit, found, policy, MOST_LINES),
        over=found.over[:MOST_LINES],
        steps=lines,
        counts=found.counts[:MOST_LINES],
        boards=found.boards[:MOST_LINES],
        visits=found.visits[:MOST_LINES],
        more=max(map(len, (found.over, found.steps, found.counts, found.boards, found.visits))) > MOST_LINES,
    )


def _line(unit: UnitOfWork, due: StepsDue, forecasts: dict[UUID, Forecast]) -> StepLine:
    option = default_catalogue().option(due.option_id)
    weather: Reason | None = None
    following: date | None = None
    urgency: Urgency = "due" if due.ideal <= unit.today else "soon"
    if due.latest < unit.today:
        urgency = "overdue"
    if due.kind == "place" and due.earliest <= unit.today:
        if due.apiary_id not in forecasts:
            forecasts[due.apiary_id] = forecast_at(unit, due.latitude, due.longitude)
        forecast = forecasts[due.apiary_id]
        weather = blocked_on(option, forecast, unit.today)
        if weather is not None:
            following = next_usable(option, forecast, unit.today)
            urgency = "waiting_for_weather"
    return StepLine(due, option.name, option.applications, urgency, weather, following)
