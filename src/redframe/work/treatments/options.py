"""Which treatments suit colonies now: the situation of each, put together from its records."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from redframe.core.colonies.queens import QueenState
from redframe.core.errors import InvalidInput
from redframe.core.season.calendar import month_day_index, next_day
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.eligibility import Choice, choose
from redframe.core.treatments.situation import (
    ColonyFacts,
    ForecastFacts,
    PastTreatment,
    PolicyFacts,
    Situation,
    StrengthFacts,
)
from redframe.core.treatments.states import is_open, outcome_of
from redframe.core.treatments.weather import Forecast
from redframe.store import colonies, hives, places, treatments, visits
from redframe.store.colonies import ColonyOverview
from redframe.store.treatments import Course
from redframe.store.visits import Visit
from redframe.work.policy.read import PolicyInForce, policy_in_force
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.weather import forecast_at

STRENGTH_HOLDS_DAYS = 60
HIVE_SET_UP_HOLDS_DAYS = 42
QUARTER = 0.25


@dataclass(frozen=True, slots=True)
class ColonyChoice:
    """The options for one colony on a day, and the situation that they were judged by."""

    colony: ColonyOverview
    brood_boxes: int
    situation: Situation
    choice: Choice
    open_courses: Sequence[Course]


@dataclass(frozen=True, slots=True)
class ApiaryChoice:
    """The options for colonies of one apiary, with the forecast that they were judged by."""

    apiary: places.Apiary
    day: date
    forecast: Forecast
    colonies: list[ColonyChoice]
    policy: PolicyInForce


async def options_for(
    unit: UnitOfWork, apiary_id: UUID, colony_ids: Sequence[UUID], day: date | None = None
) -> ApiaryChoice:
    """Judge every option for these colonies of an apiary, placed on `day` (today when None).

    Raises NotFound for an apiary or colony that the person does not see, InvalidInput for a day in the past.
    """
    today = unit.today
    placed_on = day or today
    if placed_on < today:
        raise InvalidInput("start_on", "a course cannot start in the past", code="out_of_range")
    if placed_on > today + timedelta(days=366):
        raise InvalidInput("start_on", "plan at most a year ahead", code="out_of_range")
    apiary = await places.apiary(unit.connection, apiary_id)
    all_colonies = await colonies.colonies_of_apiary(unit.connection, apiary_id, today)
    wanted = [colony for colony in all_colonies if colony.id in set(colony_ids)]
    if len(wanted) != len(set(colony_ids)):
        missing = next(index for index, one in enumerate(colony_ids) if one not in {colony.id for colony in wanted})
        raise InvalidInput(f"colony_ids[{missing}]", "is not a colony of this apiary", code="unknown")
    ended = next((colony for colony in wanted if not colony.is_living), None)
    if ended is not None:
        raise InvalidInput("colony_ids", f"colony {ended.label} is {ended.state}", code="refused")
    policy = await policy_in_force(unit, apiary_id)
    forecast = forecast_at(unit, apiary.latitude, apiary.longitude)
    ids = [colony.id for colony in wanted]
    seen = await visits.visits_of_colonies(unit.connection, ids, today - timedelta(days=180))
    courses = await treatments.courses_of_colonies(unit.connection, ids)
    boxes = await brood_boxes(unit, apiary_id)
    over = _apiary_over(all_colonies)
    judged = []
    for colony in wanted:
        count = boxes.get(colony.hive_id, 1) if colony.hive_id else 1
        own = [course for course in courses if course.colony_id == colony.id]
        situation = _situation(
            placed_on,
            colony,
            [visit for visit in seen if visit.colony_id == colony.id],
            own,
            forecast,
            policy,
            over,
            count,
        )
        unfinished = [course for course in own if is_open(course.state)]
        judged.append(ColonyChoice(colony, count, situation, choose(default_catalogue(), situation), unfinished))
    return ApiaryChoice(apiary, placed_on, forecast, judged, policy)


async def brood_boxes(unit: UnitOfWork, apiary_id: UUID) -> dict[UUID, int]:
    """Number of brood boxes of each hive of an apiary, at least 1."""
    boxes = await hives.hives_of_apiary(unit.connection, apiary_id)
    counted: dict[UUID, int] = {}
    for box in boxes:
        counted[box.id] = counted.get(box.id, 0) + (1 if box.purpose == "brood" else 0)
    return {hive: min(6, max(1, number)) for hive, number in counted.items()}


def _apiary_over(found: Sequence[ColonyOverview]) -> bool:
    known = [colony.level for colony in found if colony.level != "unknown" and colony.is_living]
    return bool(known) and sum(level in ("act", "urgent") for level in known) >= QUARTER * len(known)


def _situation(
    day: date,
    colony: ColonyOverview,
    visits: Sequence[Visit],
    courses: Sequence[Course],
    forecast: Forecast,
    policy: PolicyInForce,
    apiary_over: bool,
    boxes: int,
) -> Situation:
    brood = next((visit for visit in visits if visit.capped_brood != "unknown"), None)
    eggs = next((visit for visit in visits if visit.eggs_seen is not None), None)
    supers = next((visit for visit in visits if visit.supers_on is not None), None)
    fed = next((visit for visit in visits if visit.fed is not None), None)
    known_supers = supers.supers_on if supers and _fresh(supers.visited_on, day, HIVE_SET_UP_HOLDS_DAYS) else None
    known_fed = fed.fed if fed and _fresh(fed.visited_on, day, HIVE_SET_UP_HOLDS_DAYS) else None
    strength = None
    if colony.strength is not None and colony.strength_on and _fresh(colony.strength_on, day, STRENGTH_HOLDS_DAYS):
        unit = colony.strength_unit or "frames"
        strength = StrengthFacts.model_validate({"value": colony.strength, "unit": unit})
    queen: QueenState = "queenless" if colony.state == "queenless" else colony.queen_status or "unknown"
    rules = policy.treatment_rules
    season = policy.calendar.treatment_season(day, policy.honey_off)
    past = [
        PastTreatment(
            option=course.option_id,
            start=course.placed_on,
            end=course.ended_on,
            due_out=None,
            outcome=outcome_of(course.state),
        )
        for course in courses
        if course.placed_on is not None and course.placed_on <= day
    ]
    return Situation(
        today=day,
        season_phase=season,
        colony=ColonyFacts(
            strength=strength,
            brood_boxes=boxes,
            capped_worker_brood=brood.capped_brood if brood else "unknown",
            brood_seen_on=brood.visited_on if brood else None,
            queen=queen,
            queen_since=colony.queen_since,
            laying_since=colony.laying_since,
            release_on=colony.release_on,
            eggs_seen_on=eggs.visited_on if eggs and eggs.eggs_seen else None,
            supers_on=known_supers,
            fed=known_fed,
            last_treatments=past,
            infestation_pct=colony.median,
            counted_on=colony.counted_on,
        ),
        forecast=ForecastFacts(
            start=forecast.start, tmax=list(forecast.tmax), tmin=list(forecast.tmin), rain_mm=list(forecast.rain_mm)
        ),
        policy=PolicyFacts(
            authorised=rules.get("authorised"),
            excluded_groups=rules.get("excluded_groups", []),
            respirator_ok=bool(rules.get("respirator_ok", False)),
            trickle_repeat=bool(rules.get("trickle_repeat", False)),
            strict_rotation=bool(rules.get("strict_rotation", False)),
            approach=rules.get("approach", "counting_first"),
            whole_apiary=policy.scope == "whole_apiary",
            apiary_over=apiary_over,
            threshold_pct=policy.policy.levels[policy.calendar.phase(day)].act,
            winter_bee_date=policy.calendar.winter_bee_date(day),
            cold_date=next_day(day, month_day_index(rules["cold"], "cold")) if rules.get("cold") else None,
        ),
    )


def _fresh(seen_on: date, day: date, holds_days: int) -> bool:
    return (day - seen_on).days <= holds_days
