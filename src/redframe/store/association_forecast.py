"""Forecasts of a whole association: what they start from, runs with their progress, and what they found."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from functools import partial
from json import dumps
from typing import Literal
from uuid import UUID

from psycopg.types.json import Jsonb

from redframe.core.sampling.method import Scale
from redframe.core.sampling.reading import Recovery
from redframe.core.status.status import Level
from redframe.core.treatments.states import CourseOutcome, CourseState, outcome_of
from redframe.store.database import Connection, many, maybe, one, run, scalar


@dataclass(frozen=True, slots=True)
class CountToForecast:
    """A jar, or a board that was clean (with `placed_at`), that a forecast starts from or passes through."""

    colony_id: UUID
    taken_on: date
    taken_at: datetime
    mites: int
    bees_mean: float | None
    bees_cv: float | None
    recovery: Recovery | None
    placed_at: datetime | None
    board_days: float | None
    board_cv: float | None


@dataclass(frozen=True, slots=True)
class CourseToForecast:
    """A course that bears on a forecast; `said_outcome` is somebody's word of one that was given earlier."""

    colony_id: UUID
    option_id: str
    state: CourseState
    start_on: date
    placed_on: date | None
    ended_on: date | None
    said_outcome: CourseOutcome | None

    @property
    def outcome(self) -> CourseOutcome | None:
        """What a check count said of it, or somebody's word."""
        return outcome_of(self.state) or self.said_outcome


@dataclass(frozen=True, slots=True)
class ForecastRun:
    """A run over all colonies, with its progress."""

    id: UUID
    asked_by_name: str
    asked_at: datetime
    for_day: date
    state: str
    colonies: int
    done: int
    finished_at: datetime | None
    note: str


ListOrder = Literal["forecast", "level", "counted", "name"]


@dataclass(frozen=True, slots=True)
class ListedColony:
    """A living colony in the list of all: its level, and the figure of its latest count in the unit of its `scale`."""

    colony_id: UUID
    label: str
    apiary_id: UUID
    apiary: str
    keeper: str
    level: Level
    rate: float | None
    scale: Scale | None
    counted_on: date | None
    in_course: bool


@dataclass(frozen=True, slots=True)
class StoredForecast:
    """What is forecast of a colony; rates in mites per 100 bees, every third day from `for_day` on. `counted_since`:
    there is a newer count than the forecast knows."""

    colony_id: UUID
    for_day: date
    counted_since: bool | None
    act_per_100: float
    median: list[float]
    low80: list[float]
    high80: list[float]
    date10: date | None
    date50: date | None
    date90: date | None
    p_over_ahead: float
    danger_from: date | None
    disagree: bool


@dataclass(frozen=True, slots=True)
class ForecastTally:
    """Of the colonies that live, how many are forecast (`colonies`), and of those how many are over now, within three
    weeks, later within what was looked at, or not within it."""

    living: int
    colonies: int
    over_now: int
    within_three_weeks: int
    later: int
    not_within: int


@dataclass(frozen=True, slots=True)
class Crossings:
    """How many colonies go over their level on a day ahead."""

    on_day: date
    colonies: int


@dataclass(frozen=True, slots=True)
class AtNight:
    """An association and its time zone."""

    association_id: UUID
    timezone: str


async def counts_to_forecast(connection: Connection, since: date, last_since: date, most: int) -> list[CountToForecast]:
    """The latest jars and boards of every living colony, oldest first: at most so many of each."""
    return await many(connection, CountToForecast, "counts_to_forecast", since=since, last_since=last_since, most=most)


async def courses_to_forecast(connection: Connection, since: date) -> list[CourseToForecast]:
    """Courses that bear on the days since, or still to come."""
    return await many(connection, CourseToForecast, "courses_to_forecast", since=since)


async def fail_runs_given_up(connection: Connection, task: str) -> None:
    """Say of runs whose job the queue has given up that they failed; `task`: the name of their jobs."""
    await run(connection, "fail_runs_given_up", task=task)


async def ask_for_run(connection: Connection, run_id: UUID, asked_by: UUID | None, for_day: date) -> bool:
    """Ask for a run; False where one is waiting or running already."""
    return await run(connection, "ask_for_run", id=run_id, asked_by=asked_by, for_day=for_day) == 1


async def defer_job(connection: Connection, task: str, args: dict[str, object]) -> None:
    """Put a job on the queue, in this transaction."""
    await scalar(connection, "defer_job", task=task, args=Jsonb(args, dumps=partial(dumps, default=str)))


async def latest_run(connection: Connection) -> ForecastRun | None:
    """The latest run of the association; None before the first."""
    return await maybe(connection, ForecastRun, "latest_run")


async def begin_run(connection: Connection, run_id: UUID, colonies: int) -> None:
    """A run begins over so many colonies."""
    await run(connection, "begin_run", id=run_id, colonies=colonies)


async def end_run(connection: Connection, run_id: UUID, state: str, note: str = "") -> None:
    """A run is done, or failed."""
    await run(connection, "end_run", id=run_id, state=state, note=note)


async def replace_forecasts(
    connection: Connection, run_id: UUID, for_day: date, rows: Sequence[dict[str, object]], done: int
) -> None:
    """Lay what was found of some colonies, and how far the run has come."""
    await run(
        connection,
        "replace_forecasts",
        run_id=run_id,
        for_day=for_day,
        rows=Jsonb(list(rows), dumps=partial(dumps, default=str)),
    )
    await run(connection, "move_run", id=run_id, done=done)


async def delete_old_forecasts(connection: Connection, run_id: UUID) -> None:
    """Take away what earlier runs found of colonies that this one did not reach."""
    await run(connection, "delete_old_forecasts", run_id=run_id)


async def colonies_to_list(
    connection: Connection, today: date, sort: ListOrder, most: int, skip: int
) -> list[ListedColony]:
    """Living colonies, those that cross their level soonest first, or in another order."""
    return await many(connection, ListedColony, "colonies_to_list", today=today, sort=sort, most=most, skip=skip)


async def forecasts_of_colonies(connection: Connection, colony_ids: Sequence[UUID]) -> list[StoredForecast]:
    """What is forecast of some colonies; those without a forecast are left out."""
    return await many(connection, StoredForecast, "forecasts_of_colonies", colony_ids=list(colony_ids))


async def forecast_crossings(connection: Connection) -> list[Crossings]:
    """How many colonies go over their level on which day ahead."""
    return await many(connection, Crossings, "forecast_crossings")


async def forecast_tally(connection: Connection) -> ForecastTally:
    """How many cross when."""
    return await one(connection, ForecastTally, "forecast_tally")


async def associations_at_night(connection: Connection) -> list[AtNight]:
    """Every association, for the work of the night."""
    return await many(connection, AtNight, "associations_at_night")
