"""How earlier forecasts of an association did, by its own later counts: looked back on after each run of forecasts."""

from __future__ import annotations

import asyncio
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import asdict, dataclass, replace
from datetime import date, timedelta
from uuid import UUID

import numpy as np

from redframe.core.forecast.evaluation import Later, Predicted, known_before, predict, sum_up
from redframe.core.forecast.seen import CountSeen
from redframe.core.forecast.side_by_side import Record
from redframe.core.forecast.starting import BACK_DAYS
from redframe.core.sampling.method import TreatmentSpan
from redframe.core.season.calendar import Calendar
from redframe.store import forecast_evaluation as store
from redframe.store.association_forecast import CountToForecast, CourseToForecast
from redframe.store.database import Identity
from redframe.store.forecast_evaluation import Between, ForecastEvaluation
from redframe.work.forecast.association import seen_of_row, treatments_of
from redframe.work.policy.read import PolicyInForce, policies_of
from redframe.work.unit_of_work import Services, UnitOfWork

BACK_ON_DAYS = 400
"""Later counts of so many days are looked back on: a season and the end of the one before."""
MOST_COLONIES = 600
STILL_TELLS_DAYS = 14
"""So long after its end a treatment still tells on a colony."""
MOST_COUNTS = 1000
"""Counts set against forecasts, drawn by seed: enough for a coverage within three in a hundred, computed in seconds."""


@dataclass(frozen=True, slots=True)
class LaterCount:
    """A count with what was known before it, and its place; `treated`: a treatment was in the colony meanwhile."""

    later: Later
    calendar: Calendar
    treated: bool


async def evaluate_forecasts(services: Services, who: Identity, run_id: UUID) -> None:
    """Look back on the association's later counts, a random sample of very many, and write what they say of its
    forecasts."""
    seed = run_id.int % 2**62
    async with services.unit_of_work(who, wide=True) as unit:
        today, since = unit.today, unit.today - timedelta(days=BACK_ON_DAYS)
        later = drawn(await later_counts(unit, since, seed), MOST_COUNTS, np.random.default_rng(seed))
    found = await asyncio.to_thread(evaluations, later, since, today, np.random.default_rng([seed, 1]))
    async with services.unit_of_work(who, wide=True) as unit:
        await store.replace_evaluation(unit.connection, found, today)


def drawn(later: Sequence[LaterCount], most: int, generator: np.random.Generator) -> list[LaterCount]:
    """So many of them by seed."""
    chosen = generator.permutation(len(later))[:most]
    return [later[number] for number in sorted(chosen)]


def evaluations(
    later: Sequence[LaterCount], since: date, today: date, generator: np.random.Generator
) -> list[ForecastEvaluation]:
    """What these counts say of their forecasts, in colonies left alone and in those treated meanwhile."""
    places: dict[Calendar, list[LaterCount]] = defaultdict(list)
    for one in later:
        places[one.calendar].append(one)
    predicted: dict[bool, list[Predicted]] = {False: [], True: []}
    for calendar, counts in places.items():
        for own, usable in zip(counts, predict([one.later for one in counts], calendar, generator), strict=True):
            predicted[own.treated].append(usable)
    found = []
    kinds: tuple[tuple[Between, bool], ...] = (("untreated", False), ("treated", True))
    for between, treated in kinds:
        together = sum_up(predicted[treated])
        if together is not None:
            found.append(ForecastEvaluation(**asdict(together), between=between, looked_on=today, since=since))
    return found


async def later_counts(unit: UnitOfWork, since: date, seed: int = 0, most: int = MOST_COLONIES) -> list[LaterCount]:
    """The jars since a day, of so many colonies by seed, that counts before them predict something of."""
    rows: dict[UUID, list[CountToForecast]] = defaultdict(list)
    for row in await store.counts_to_evaluate(unit.connection, since - timedelta(days=BACK_DAYS), most, seed):
        rows[row.colony_id].append(row)
    courses: dict[UUID, list[CourseToForecast]] = defaultdict(list)
    for course in await store.courses_to_evaluate(unit.connection, list(rows)):
        courses[course.colony_id].append(course)
    policies = await policies_of(unit, list(rows))
    return [
        one for colony, own in rows.items() for one in _of_colony(own, courses[colony], policies[colony], since, unit)
    ]


def _of_colony(
    rows: Sequence[CountToForecast],
    courses: Sequence[CourseToForecast],
    policy: PolicyInForce,
    since: date,
    unit: UnitOfWork,
) -> list[LaterCount]:
    spans = [TreatmentSpan(one.placed_on, one.ended_on) for one in courses if one.placed_on is not None]
    seen = [seen_of_row(row, policy.calendar, spans, unit.zone) for row in rows]
    usable = [one for one in seen if one is not None]
    levels = policy.for_scale("mites_per_100").levels
    found = []
    for count in usable:
        if not isinstance(count, CountSeen) or count.taken_on <= since:
            continue
        before = known_before(usable, count)
        if before:
            # Whatever became of them: a forecast of that time did not know.
            placed = [
                replace(one, state="under_way")
                for one in courses
                if one.placed_on is not None and one.placed_on < count.taken_on
            ]
            level = levels[policy.calendar.phase(count.taken_on)].act
            treated = _still_told(placed, before[-1].taken_on)
            record = Record(before, treatments_of(placed, count.taken_on), level)
            found.append(LaterCount(Later(count, record), policy.calendar, treated))
    return found


def _still_told(placed: Sequence[CourseToForecast], day: date) -> bool:
    """Whether a treatment was in the colony, or still usable on it, on a day or after it."""
    return any((one.ended_on or day) + timedelta(days=STILL_TELLS_DAYS) > day for one in placed)
