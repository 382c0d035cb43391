"""Today: what is due, overdue, waiting for the weather or for its check count, across all apiaries."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal
from uuid import UUID

from redframe.core.policy.schemes import SchemeId
from redframe.core.treatments.reasons import Reason
from redframe.core.treatments.weather import Forecast, blocked_on, next_usable
from redframe.store import places
from redframe.store import planning as store
from redframe.store.planning import BoardsDue, CountsDue, OverWithoutCourse, StepsDue, VisitsDue
from redframe.work.pages import place, place_after
from redframe.work.planning.alarms import HeatAlarm, heat_alarms
from redframe.work.planning.apiaries import (
    SOON_DAYS,
    ApiaryWork,
    apiary_works,
    as_due,
    find_work,
    judge_what_turned,
)
from redframe.work.policy.read import policy_in_force
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.weather import forecast_at

PAGE = 24

Urgency = Literal["overdue", "due", "soon", "waiting_for_weather"]
Kind = Literal["treatments", "counts"]


@dataclass(frozen=True, slots=True)
class StepLine:
    """Colonies of one apiary that wait for one step; of so many `placings`; `weather` says what stops one today."""

    due: StepsDue
    option_name: str
    placings: int
    chemical: bool
    urgency: Urgency
    weather: Reason | None
    next_usable: date | None


@dataclass(frozen=True, slots=True)
class WorkLines:
    """Lines of work by kind, each kind in the order of its urgency."""

    over: Sequence[OverWithoutCourse]
    steps: Sequence[StepLine]
    counts: Sequence[CountsDue]
    boards: Sequence[BoardsDue]
    visits: Sequence[VisitsDue]


@dataclass(frozen=True, slots=True)
class Worklist(WorkLines):
    """The day's work in the order of its urgency, by apiary and by kind, from some apiary on.

    `colonies` counts all that live, `apiaries` all that there are, `with_work` those where something is due; `next`:
    where the next page begins, None where this one is the last. `winter_bees`: the day on which the first are laid,
    None where it has gone by or none are reared. `alarms` stand on the first page.
    """

    today: date
    phase: str
    act_at: float
    scheme: SchemeId
    winter_bees: date | None
    colonies: int
    apiaries: int
    with_work: int
    work: Sequence[ApiaryWork]
    next: str | None
    alarms: Sequence[HeatAlarm]


@dataclass(frozen=True, slots=True)
class WorkOfKind(WorkLines):
    """What is due of some kinds across apiaries; `more`: lines were left off."""

    today: date
    more: bool


async def worklist(unit: UnitOfWork, after: str | None = None, most: int = PAGE) -> Worklist:
    """What is due today and soon at the apiaries whose work must begin first, of those that the person may see.

    Raises InvalidInput for an `after` that no page has given.
    """
    policy = await policy_in_force(unit)
    phase = policy.calendar.phase(unit.today)
    await judge_what_turned(unit, policy)
    kept = await store.work_in_order(unit.connection, place_after(after), most + 1)
    works = [as_due(unit, one) for one in kept[:most]]
    totals = await store.totals(unit.connection)
    found = await find_work(unit, [one.apiary_id for one in works])
    winter = policy.calendar.winter_bee_date(unit.today)
    return Worklist(
        today=unit.today,
        phase=phase,
        act_at=policy.policy.levels[phase].act,
        scheme=policy.scheme,
        winter_bees=winter if winter is not None and winter > unit.today else None,
        colonies=totals.colonies,
        apiaries=totals.apiaries,
        with_work=totals.with_work,
        work=await apiary_works(unit, works, found, policy),
        alarms=await heat_alarms(unit) if after is None else [],
        next=place(kept[most - 1].key, kept[most - 1].apiary_id) if len(kept) > most else None,
        over=found.over,
        steps=_lines(unit, found.steps),
        counts=found.counts,
        boards=found.boards,
        visits=found.visits,
    )


async def work_of_kind(unit: UnitOfWork, kind: Kind, most: int) -> WorkOfKind:
    """What is due across apiaries about treatments or about counts, the most pressing first."""
    until, connection = unit.today + timedelta(days=SOON_DAYS), unit.connection
    treats = kind == "treatments"
    over = await store.over_without_course(connection, most + 1) if treats else []
    steps = await store.steps_due(connection, until, most + 1) if treats else []
    counts = [] if treats else await store.counts_due(connection, until, most + 1)
    boards = [] if treats else await store.boards_due(connection, unit.now, most + 1)
    return WorkOfKind(
        today=unit.today,
        over=over[:most],
        steps=_lines(unit, steps[:most]),
        counts=counts[:most],
        boards=boards[:most],
        visits=[],
        more=max(len(over), len(steps), len(counts), len(boards)) > most,
    )


async def work_at(unit: UnitOfWork, apiary_id: UUID) -> WorkOfKind:
    """All that is due at one apiary. Raises NotFound."""
    await places.apiary(unit.connection, apiary_id)
    found = await find_work(unit, [apiary_id])
    return WorkOfKind(
        today=unit.today,
        over=found.over,
        steps=_lines(unit, found.steps),
        counts=found.counts,
        boards=found.boards,
        visits=found.visits,
        more=False,
    )


def _lines(unit: UnitOfWork, steps: Sequence[StepsDue]) -> list[StepLine]:
    forecasts: dict[UUID, Forecast] = {}
    lines = [_line(unit, due, forecasts) for due in steps]
    order: tuple[Urgency, ...] = ("overdue", "due", "waiting_for_weather", "soon")
    lines.sort(key=lambda line: (order.index(line.urgency), not line.due.hard_stop, line.due.latest, line.due.apiary))
    return lines


def _line(unit: UnitOfWork, due: StepsDue, forecasts: dict[UUID, Forecast]) -> StepLine:
    option = due.option
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
    return StepLine(due, option.name, option.applications, option.chemical, urgency, weather, following)
