"""Today: what is due, overdue, waiting for the weather or for its check count, across all apiaries."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal
from uuid import UUID

from redframe.core.policy.schemes import SchemeId
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.reasons import Reason
from redframe.core.treatments.weather import Forecast, blocked_on, next_usable
from redframe.store import planning as store
from redframe.store.planning import BoardsDue, CountsDue, OverWithoutCourse, StepsDue, VisitsDue
from redframe.work.policy.read import policy_in_force
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.weather import forecast_at

SOON_DAYS = 3
MOST_LINES = 60

Urgency = Literal["overdue", "due", "soon", "waiting_for_weather"]


@dataclass(frozen=True, slots=True)
class StepLine:
    """Colonies of one apiary that wait for one step; `weather` says what stops a placing today."""

    due: StepsDue
    option_name: str
    urgency: Urgency
    weather: Reason | None
    next_usable: date | None


@dataclass(frozen=True, slots=True)
class Worklist:
    """The day's work in the order of its urgency. `colonies` counts all that live; `more`: lines were left off."""

    today: date
    phase: str
    act_at: float
    scheme: SchemeId
    colonies: int
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
    until = unit.today + timedelta(days=SOON_DAYS)
    over = await store.over_without_course(unit.connection, unit.today, MOST_LINES + 1)
    steps = await store.steps_due(unit.connection, until, MOST_LINES + 1)
    counts = await store.counts_due(unit.connection, unit.today, until, MOST_LINES + 1)
    boards = await store.boards_due(unit.connection, unit.now, MOST_LINES + 1)
    visits = await store.visits_due(unit.connection, unit.today, until, MOST_LINES + 1)
    forecasts: dict[UUID, Forecast] = {}
    lines = [_line(unit, due, forecasts) for due in steps[:MOST_LINES]]
    order: tuple[Urgency, ...] = ("overdue", "due", "waiting_for_weather", "soon")
    lines.sort(key=lambda line: (order.index(line.urgency), not line.due.hard_stop, line.due.latest, line.due.apiary))
    return Worklist(
        today=unit.today,
        phase=phase,
        act_at=policy.policy.levels[phase].act,
        scheme=policy.scheme,
        colonies=await store.living_colonies(unit.connection),
        over=over[:MOST_LINES],
        steps=lines,
        counts=counts[:MOST_LINES],
        boards=boards[:MOST_LINES],
        visits=visits[:MOST_LINES],
        more=max(len(over), len(steps), len(counts), len(boards), len(visits)) > MOST_LINES,
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
    return StepLine(due, option.name, urgency, weather, following)
