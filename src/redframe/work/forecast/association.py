"""What comes of every colony of an association: asked for, computed in the background with its progress, and shown."""

from __future__ import annotations

import asyncio
import os
from collections import defaultdict
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import asdict, dataclass
from datetime import date, timedelta
from uuid import UUID
from zoneinfo import ZoneInfo

import numpy as np

from redframe.core.errors import CoreError
from redframe.core.forecast.effects import effects
from redframe.core.forecast.events import Treat
from redframe.core.forecast.many import LOOK_AHEAD_DAYS, Outlook, outlooks
from redframe.core.forecast.seen import CountSeen, Seen
from redframe.core.forecast.side_by_side import Ensemble, Record, prepare
from redframe.core.forecast.starting import BACK_DAYS, MOST_JARS, OLDEST_START_DAYS, fall_seen, start_from, why_not
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.board import BoardSample
from redframe.core.sampling.method import TreatmentSpan
from redframe.core.sampling.reading import read_fall
from redframe.core.season.calendar import Calendar
from redframe.store import association_forecast as store
from redframe.store import forecast_evaluation as store_hindsight
from redframe.store.association_forecast import (
    CountToForecast,
    CourseToForecast,
    Crossings,
    ForecastRun,
    ForecastTally,
    ListedColony,
    ListOrder,
)
from redframe.store.database import Identity
from redframe.store.errors import StoreError
from redframe.store.forecast_evaluation import ForecastEvaluation
from redframe.work.forecast.outlook import ColonyOutlook, outlooks_of
from redframe.work.policy.read import policies_of
from redframe.work.roles import require
from redframe.work.unit_of_work import Services, UnitOfWork

TASK = "forecast_association"
EVALUATE = "evaluate_forecasts"
HORIZON_DAYS = 60
AT_ONCE = 256
MOST_ROWS = 100


@dataclass(frozen=True, slots=True)
class ToForecast:
    """A colony that can be forecast: its record, the day of its latest count, and its place's calendar."""

    colony_id: UUID
    counted_on: date
    record: Record
    calendar: Calendar


@dataclass(frozen=True, slots=True)
class AssociationForecast:
    """All colonies, a page at a time: how they stand, what is forecast of them, how many go over when, the latest run
    and how earlier forecasts did. The chance to be over looks `look_ahead_days` ahead; `last` is as far as a forecast
    reaches."""

    today: date
    last: date
    run: ForecastRun | None
    tally: ForecastTally
    crossings: Sequence[Crossings]
    colonies: Sequence[tuple[ListedColony, ColonyOutlook | None]]
    evaluation: Sequence[ForecastEvaluation]
    look_ahead_days: int


async def ask(unit: UnitOfWork, run_id: UUID, *, by_night: bool = False) -> ForecastRun | None:
    """Ask for the forecasts of all colonies; where they are being computed already, that run is the answer."""
    require(unit.who, "ask_forecasts")
    await store.fail_runs_given_up(unit.connection, TASK)
    asked_by = None if by_night else unit.who.person_id
    if await store.ask_for_run(unit.connection, run_id, asked_by, unit.today):
        await store.defer_job(unit.connection, TASK, _job(unit.who, run_id))
    return await store.latest_run(unit.connection)


def _job(who: Identity, run_id: UUID) -> dict[str, object]:
    return {"association_id": who.association_id, "run_id": run_id, "timezone": who.timezone}


async def ask_first(unit: UnitOfWork, run_id: UUID) -> None:
    """Ask for an association that was never forecast, so that nobody meets an empty page on the first day."""
    if await store.latest_run(unit.connection) is None:
        await ask(unit, run_id, by_night=True)


async def end_given_up(services: Services) -> None:
    """End the runs, of any association, whose computation the queue has given up: nobody waits for them any longer."""
    for association_id, timezone in await associations_at_night(services):
        async with services.unit_of_work(Identity.itself(association_id, timezone)) as unit:
            await store.fail_runs_given_up(unit.connection, TASK)


async def view(unit: UnitOfWork, skip: int = 0, sort: ListOrder = "forecast") -> AssociationForecast:
    """All colonies with what is forecast of them, those that go over soonest first."""
    listed = await store.colonies_to_list(unit.connection, unit.today, sort, MOST_ROWS, skip)
    ahead = await outlooks_of(unit, [one.colony_id for one in listed])
    return AssociationForecast(
        today=unit.today,
        last=unit.today + timedelta(days=HORIZON_DAYS),
        run=await store.latest_run(unit.connection),
        tally=await store.forecast_tally(unit.connection),
        crossings=await store.forecast_crossings(unit.connection),
        colonies=[(one, ahead.get(one.colony_id)) for one in listed],
        evaluation=await store_hindsight.evaluation(unit.connection),
        look_ahead_days=LOOK_AHEAD_DAYS,
    )


async def associations_at_night(services: Services) -> list[tuple[UUID, str]]:
    """Every association with its time zone."""
    async with services.database.as_nobody() as connection:
        return [(one.association_id, one.timezone) for one in await store.associations_at_night(connection)]


async def forecast_association(services: Services, who: Identity, run_id: UUID) -> None:
    """Compute a run. Some hundred colonies at a time are laid and columns as progress, so that a killed worker loses
    little and nobody waits for the last; a run that fails says so."""
    try:
        await _forecast(services, who, run_id)
    except (CoreError, StoreError, ArithmeticError) as error:
        async with services.unit_of_work(who, wide=True) as unit:
            await store.end_run(unit.connection, run_id, "failed", str(error)[:400])


async def _forecast(services: Services, who: Identity, run_id: UUID) -> None:
    async with services.unit_of_work(who, wide=True) as unit:
        today = unit.today
        found = await to_forecast(unit)
        await store.begin_run(unit.connection, run_id, len(found))
    places: dict[Calendar, list[ToForecast]] = defaultdict(list)
    for one in found:
        places[one.calendar].append(one)
    done = 0
    with ThreadPoolExecutor(max_workers=os.cpu_count()) as pool:
        for calendar, colonies in places.items():
            draw = np.random.default_rng([run_id.int % 2**63, len(colonies)])
            colonies.sort(key=lambda one: one.record.start)
            ensemble = await asyncio.to_thread(prepare, [one.record for one in colonies], calendar, draw)
            for begin in range(0, len(colonies), AT_ONCE * 2):
                part = colonies[begin : begin + AT_ONCE * 2]
                outlook = await _side_by_side(pool, ensemble, part, today, draw)
                done += len(part)
                async with services.unit_of_work(who, wide=True) as unit:
                    rows = [_row(one, each) for one, each in zip(part, outlook, strict=True)]
                    await store.replace_forecasts(unit.connection, run_id, today, rows, done)
    async with services.unit_of_work(who, wide=True) as unit:
        await store.delete_old_forecasts(unit.connection, run_id)
        await store.end_run(unit.connection, run_id, "done")
        await store.defer_job(unit.connection, EVALUATE, _job(who, run_id))


async def _side_by_side(
    pool: ThreadPoolExecutor, ensemble: Ensemble, part: Sequence[ToForecast], today: date, draw: np.random.Generator
) -> list[Outlook]:
    """The outlooks of some colonies, on as many threads as there are cores: array arithmetic runs beside itself."""
    loop = asyncio.get_running_loop()
    size = -(-len(part) // (os.cpu_count() or 1))
    pieces = [part[at : at + size] for at in range(0, len(part), size)]
    draws = draw.spawn(len(pieces))
    jobs = [
        loop.run_in_executor(pool, outlooks, ensemble, [one.record for one in piece], today, HORIZON_DAYS, own)
        for piece, own in zip(pieces, draws, strict=True)
    ]
    return [outlook for piece in await asyncio.gather(*jobs) for outlook in piece]


def _row(one: ToForecast, found: Outlook) -> dict[str, object]:
    columns = asdict(found)
    columns.pop("first")
    columns["p_over_ahead"] = min(1.0, max(0.0, found.p_over_ahead))
    return {"colony_id": one.colony_id, "counted_on": one.counted_on, "act_per_100": one.record.level, **columns}


async def to_forecast(unit: UnitOfWork) -> list[ToForecast]:
    """Every living colony whose last count is not too old to start from."""
    since = unit.today - timedelta(days=BACK_DAYS)
    last_since = unit.today - timedelta(days=OLDEST_START_DAYS)
    counts: dict[UUID, list[CountToForecast]] = defaultdict(list)
    for count in await store.counts_to_forecast(unit.connection, since, last_since, MOST_JARS):
        counts[count.colony_id].append(count)
    courses: dict[UUID, list[CourseToForecast]] = defaultdict(list)
    for course in await store.courses_to_forecast(unit.connection, since):
        courses[course.colony_id].append(course)
    policies = await policies_of(unit, list(counts))
    found = []
    for colony_id, own in counts.items():
        policy = policies[colony_id]
        level = policy.for_scale("mites_per_100").levels[policy.calendar.phase(unit.today)].act
        spans = [TreatmentSpan(one.placed_on, one.ended_on) for one in courses[colony_id] if one.placed_on is not None]
        columns = [seen_of_row(one, policy.calendar, spans, unit.zone) for one in own]
        seen = start_from([one for one in columns if one is not None])
        if why_not(seen, unit.today):
            continue
        record = Record(seen, treatments_of(courses[colony_id], unit.today), level)
        found.append(ToForecast(colony_id, seen[-1].taken_on, record, policy.calendar))
    return found


def seen_of_row(
    one: CountToForecast, calendar: Calendar, spans: Sequence[TreatmentSpan], zone: ZoneInfo
) -> Seen | None:
    """A jar or a board as a forecast takes it; None for a board that is not judged."""
    if one.bees_mean is not None and one.bees_cv is not None and one.recovery is not None:
        return CountSeen(one.taken_on, one.mites, BeesInSample(one.bees_mean, one.bees_cv), one.recovery)
    if one.placed_at is None or one.board_days is None or one.board_cv is None:
        return None
    board = BoardSample(one.placed_at.astimezone(zone), one.taken_at.astimezone(zone), (one.mites,), cleaned="yes")
    return fall_seen(board, read_fall(one.mites, one.board_days, one.board_cv), calendar, spans)


def treatments_of(courses: Sequence[CourseToForecast], today: date) -> tuple[Treat, ...]:
    """Courses as what they kill. A course verified to have failed killed nothing to speak of; one planned begins today
    at the earliest; breaks in laying and drone brood cut, which act otherwise, are left to the colony's own
    forecast."""
    found: list[Treat] = []
    for one in courses:
        if one.outcome != "failed":
            events = effects(one.option_id, one.placed_on or max(one.start_on, today), one.ended_on)
            found += [event for event in events if isinstance(event, Treat)]
    return tuple(found)
