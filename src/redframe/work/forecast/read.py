"""The forecast of a colony from its counts and courses, alone and with scenarios."""

from __future__ import annotations

import asyncio
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import lru_cache
from typing import Literal, cast
from uuid import UUID

import numpy as np

from redframe.core.errors import InvalidInput
from redframe.core.forecast.advice import Outcome, StartWindow, last_start, outcome, start_window
from redframe.core.forecast.effects import effects, kill_of, modelled, reaches_brood
from redframe.core.forecast.ensemble import Fitted, fit
from redframe.core.forecast.evaluation import NextCount, next_count
from redframe.core.forecast.events import Event, Reinvasion, Treat
from redframe.core.forecast.projection import (
    HORIZON_DAYS,
    Band,
    Crossing,
    bands,
    crossing,
    danger_from,
    project,
)
from redframe.core.forecast.seen import CountSeen, FallSeen, Seen
from redframe.core.forecast.starting import BACK_DAYS, fall_seen, start_from, why_not
from redframe.core.forecast.turns import Turns, turns
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.board import BoardSample
from redframe.core.sampling.conversion import fall_as_rate
from redframe.core.sampling.method import TreatmentSpan
from redframe.core.sampling.reading import FallReading, Recovery
from redframe.core.season.calendar import Calendar
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.states import is_abandoned
from redframe.store import colonies, treatments
from redframe.store import forecast_evaluation as store_hindsight
from redframe.store import sampling as store
from redframe.store.colonies import ColonyOverview
from redframe.store.forecast_evaluation import ForecastEvaluation
from redframe.store.sampling import Count
from redframe.store.treatments import Course
from redframe.work.policy.read import PolicyInForce, policy_in_force
from redframe.work.status.outlooks import counted, spans_of
from redframe.work.unit_of_work import UnitOfWork

WINDOW_MEMBERS = 800
FEW_MEMBERS = 400
FARTHEST_ASK_DAYS = 120
ARRIVALS_A_DAY = 10.0
USUAL_SCOOP_ML = 120.0
NEXT_COUNT_AFTER = timedelta(days=21)

ScenarioKind = Literal["course", "arrivals"]


@dataclass(frozen=True, slots=True)
class Scenario:
    """Something that could be done, or happen: a course of an option, or mites arriving for a month, from a day on."""

    kind: ScenarioKind
    option_id: str | None
    start: date


@dataclass(frozen=True, slots=True)
class ScenarioView:
    """A scenario with its bands and what it leads to; `window` dates the sensible starts of a course that kills."""

    scenario: Scenario | None
    name: str
    days: Sequence[Band]
    crossing: Crossing
    turns: Turns
    outcome: Outcome
    window: StartWindow | None


@dataclass(frozen=True, slots=True)
class StartCount:
    """A count that the forecast starts from or passes through, in mites per 100 bees; `converted` from a board."""

    count: Count
    median: float
    low: float
    high: float
    converted: bool


@dataclass(frozen=True, slots=True)
class ColonyForecast:
    """The forecast of a colony from the day of its last count on; `why_not` says why there is none.

    `act_per_100` is the level in force whose crossing is dated, `winter_level` that before winter bees;
    `ask` are the days on which the scenarios are compared; `next_counts` say what a wash today and in three weeks
    would find, and `evaluation` how forecasts did here in colonies left alone.
    """

    colony: ColonyOverview
    today: date
    why_not: str
    counts: Sequence[StartCount]
    courses: Sequence[Course]
    act_per_100: float
    winter_level: float
    ask: Sequence[date]
    danger_from: date | None
    members: int
    effective: float
    disagree: bool
    views: Sequence[ScenarioView]
    next_counts: Sequence[NextCount]
    evaluation: ForecastEvaluation | None


async def colony_forecast(unit: UnitOfWork, colony_id: UUID, scenarios: Sequence[Scenario] = ()) -> ColonyForecast:
    """What comes if nothing more is done than what is under way, and with each scenario.

    Raises NotFound, and InvalidInput for a scenario without a modelled effect or that starts out of reach.
    """
    colony = await colonies.colony_overview(unit.connection, colony_id, unit.today)
    policy = await policy_in_force(unit, colony.apiary_id)
    rates = policy.for_scale("mites_per_100").levels
    record = await record_of(unit, colony_id, policy)
    counts, shown, courses = record.counts, record.shown, record.courses
    phase = policy.calendar.phase(unit.today)
    empty = ColonyForecast(
        colony, unit.today, "", shown, courses, rates[phase].act, rates["pre_winter"].act,
        (), None, 0, 0.0, False, (), (), None,
    )  # fmt: skip
    if not colony.is_living:
        return _without(empty, f"this colony is {colony.state}")
    if why := why_not(counts, unit.today):
        return _without(empty, why)
    for number, scenario in enumerate(scenarios):
        _check(scenario, number, unit.today)
    did = next((one for one in await store_hindsight.evaluation(unit.connection) if one.between == "untreated"), None)
    return await asyncio.to_thread(_compute, replace(empty, evaluation=did), counts, policy, scenarios)


@dataclass(frozen=True, slots=True)
class Record:
    """What a forecast starts from: counts as the core takes them and as they are shown, and courses that bear on it."""

    counts: tuple[Seen, ...]
    shown: Sequence[StartCount]
    courses: Sequence[Course]


async def record_of(unit: UnitOfWork, colony_id: UUID, policy: PolicyInForce) -> Record:
    since = unit.today - timedelta(days=BACK_DAYS)
    found = await treatments.courses_of_colonies(unit.connection, [colony_id])
    spans = spans_of(found)
    courses = [
        one for one in found
        if (one.placed_on is not None or not is_abandoned(one.state))
        and (one.ended_on is None or one.ended_on >= since)
    ]  # fmt: skip
    paired: list[tuple[Seen, StartCount]] = []
    for count in await store.counts_of_colonies(unit.connection, [colony_id], since):
        if (seen := seen_of(count, policy, spans, unit)) is not None:
            paired.append((seen, _start_count(count, seen, policy)))
    counts = start_from([seen for seen, _ in paired])
    return Record(counts, [start for seen, start in paired if any(seen is one for one in counts)], courses)


@dataclass(frozen=True, slots=True)
class LastStartView:
    """The last day on which a treatment still makes sense before the winter bees, and of which option; where none is
    `enough` alone, the last start that ends before them."""

    on: date
    option_id: str
    name: str
    enough: bool
    winter: date


async def last_start_of(unit: UnitOfWork, colony_id: UUID, policy: PolicyInForce) -> LastStartView | None:
    """The last sensible start before winter bees of any single treatment that the association may use; None where none
    are reared within reach, or where the colony has no record to forecast from."""
    winter = policy.calendar.winter_bee_date(unit.today)
    if winter is None or not unit.today < winter <= unit.today + timedelta(days=FARTHEST_ASK_DAYS):
        return None
    record = await record_of(unit, colony_id, policy)
    allowed = [one for one in modelled() if policy.treatment_rules.offers(one)]
    kinds = {
        kill: one
        for one in reversed(allowed)
        if (kill := kill_of(one)) is not None and kill.placings == 1 and reaches_brood(kill)
    }  # of several that act alike the first of the catalogue is named
    if why_not(record.counts, unit.today) or not kinds:
        return None
    rates = policy.for_scale("mites_per_100").levels

    def compute() -> LastStartView | None:
        known = known_events(record.courses, unit.today)
        fitted = fitted_members(record.counts, policy.calendar, tuple(known), colony_id.int % 2**32)
        treatments = [Treat(unit.today, one.days, one.on_bees, one.in_cells) for one in kinds]
        found = last_start(
            some_members(fitted, FEW_MEMBERS), known, treatments,
            policy.calendar, not_before=unit.today, winter_level=rates["pre_winter"].act,
            urgent_level=rates[policy.calendar.phase(unit.today)].urgent,
        )  # fmt: skip
        if found is None:
            return None
        option = list(kinds.values())[found.which]
        return LastStartView(found.on, option, default_catalogue().option(option).name, found.enough, found.winter)

    return await asyncio.to_thread(compute)


def _without(empty: ColonyForecast, why: str) -> ColonyForecast:
    return replace(empty, why_not=why)


def _check(scenario: Scenario, number: int, today: date) -> None:
    if scenario.kind == "course" and scenario.option_id not in modelled():
        raise InvalidInput(f"scenarios[{number}].option_id", "has no effect that the forecast knows", code="unknown")
    if not today <= scenario.start <= today + timedelta(days=HORIZON_DAYS):
        raise InvalidInput(
            f"scenarios[{number}].start", f"choose a day from today to {HORIZON_DAYS} days ahead", code="out_of_range"
        )


def seen_of(count: Count, policy: PolicyInForce, spans: Sequence[TreatmentSpan], unit: UnitOfWork) -> Seen | None:
    """A count as a forecast takes it; None for one that says nothing of the load."""
    if count.recovery is not None:
        mites, bees, cv = cast(int, count.mites), cast(float, count.bees_mean), cast(float, count.bees_cv)
        return CountSeen(count.taken_on, mites, BeesInSample(bees, cv), cast(Recovery, count.recovery))
    one = counted(count, unit.zone)
    if isinstance(one.sample, BoardSample) and isinstance(one.reading, FallReading):
        return fall_seen(one.sample, one.reading, policy.calendar, spans)
    return None


def _start_count(count: Count, seen: Seen, policy: PolicyInForce) -> StartCount:
    if isinstance(seen, FallSeen):
        rate = fall_as_rate(seen.mites, seen.board_days, policy.calendar.base_phase(seen.taken_on))
        return StartCount(count, rate.median, rate.low, rate.high, converted=True)
    return StartCount(
        count, cast(float, count.median), cast(float, count.low), cast(float, count.high), converted=False
    )


def known_events(courses: Sequence[Course], today: date) -> list[Event]:
    """Courses as events; one that is verified to have failed killed nothing to speak of, and one that is planned but
    not yet placed begins today at the earliest, whatever its plan said."""
    events: list[Event] = []
    for one in courses:
        if one.outcome != "failed":
            events += effects(one.option_id, one.placed_on or max(one.start_on, today), one.ended_on)
    return events


def _compute(
    empty: ColonyForecast, counts: tuple[Seen, ...], policy: PolicyInForce, scenarios: Sequence[Scenario]
) -> ColonyForecast:
    today, known = empty.today, known_events(empty.courses, empty.today)
    fitted = fitted_members(counts, policy.calendar, tuple(known), empty.colony.id.int % 2**32)
    ask = compared_on(policy.calendar, today)
    days = max((today - fitted.on).days + HORIZON_DAYS, (ask[-1] - fitted.on).days if ask else 0)
    cases: list[tuple[Scenario | None, str, Sequence[Event]]] = [(None, "nothing more", ())]
    cases += [(one, _name(one), _events(one)) for one in scenarios]
    some, alone = some_members(fitted), project(fitted, days, known)
    views = []
    for scenario, name, events in cases:
        run = project(fitted, days, [*known, *events]) if events else alone
        shown, crossed = bands(run), crossing(run, empty.act_per_100)
        ahead = [band for band in shown if band.date >= today]
        views.append(
            ScenarioView(
                scenario=scenario,
                name=name,
                days=shown,
                crossing=crossed,
                turns=turns(
                    [band.date for band in ahead],
                    [band.median for band in ahead],
                    empty.act_per_100,
                    half_over=crossed.date50,
                    tenth_over=crossed.date10,
                ),
                outcome=outcome(run, alone, ask, empty.winter_level, today),
                window=_window(some, known, events, empty, policy),
            )
        )
    draw = np.random.default_rng(empty.colony.id.int % 2**32)
    scoop = BeesInSample(USUAL_SCOOP_ML * policy.scoop.bees_per_ml, policy.scoop.cv)
    return replace(
        empty, ask=ask, danger_from=danger_from(alone), members=fitted.drawn, effective=fitted.effective,
        disagree=fitted.disagree, views=views,
        next_counts=[next_count(day, scoop, alone.at(day), draw) for day in (today, today + NEXT_COUNT_AFTER)],
    )  # fmt: skip


@lru_cache(maxsize=16)
def fitted_members(counts: tuple[Seen, ...], calendar: Calendar, known: tuple[Event, ...], state: int) -> Fitted:
    """The members that agree with a record: the same record shows the same picture whenever it is opened, and while
    cases are moved in time they are not sought again (about 3 MB each)."""
    return fit(counts, calendar, known, np.random.default_rng(state))


def compared_on(calendar: Calendar, today: date) -> list[date]:
    """The days on which cases are compared: the first winter bees and three weeks on, where they lie ahead within
    reach; four and eight weeks from today otherwise."""
    winter = calendar.winter_bee_date(today)
    if winter is not None and today < winter <= today + timedelta(days=FARTHEST_ASK_DAYS):
        return [winter, winter + timedelta(days=21)]
    return [today + timedelta(days=28), today + timedelta(days=56)]


def some_members(fitted: Fitted, members: int = WINDOW_MEMBERS) -> Fitted:
    """A few of the members, for what is computed many times."""
    return fitted.take(np.arange(0, len(fitted.rates), max(1, len(fitted.rates) // members)))


def _window(
    some: Fitted, known: Sequence[Event], events: Sequence[Event], empty: ColonyForecast, policy: PolicyInForce
) -> StartWindow | None:
    if len(events) != 1 or not isinstance(events[0], Treat):
        return None
    urgent = policy.for_scale("mites_per_100").levels[policy.calendar.phase(empty.today)].urgent
    return start_window(
        some, known, events[0], policy.calendar, not_before=empty.today, winter_level=empty.winter_level,
        urgent_level=urgent,
    )  # fmt: skip


def _name(scenario: Scenario) -> str:
    if scenario.kind == "arrivals" or scenario.option_id is None:
        return f"{ARRIVALS_A_DAY:.0f} mites a day arriving for 30 days"
    return default_catalogue().option(scenario.option_id).name


def _events(scenario: Scenario) -> Sequence[Event]:
    if scenario.kind == "arrivals" or scenario.option_id is None:
        return [Reinvasion(scenario.start, 30, ARRIVALS_A_DAY)]
    return effects(scenario.option_id, scenario.start)
