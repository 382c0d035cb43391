"""The autumn programme of an apiary: each colony's food and dates from its records, and what to buy for all of them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from math import hypot
from uuid import UUID

from redframe.core.feeding.programme import (
    RATIO,
    Barred,
    ColonyFood,
    Fed,
    FeedingRules,
    Programme,
    StoresSeen,
    programme,
)
from redframe.core.feeding.syrup import SUGAR_PER_WATER
from redframe.core.season.calendar import TreatmentSeason, month_day_index
from redframe.core.treatments.states import is_open
from redframe.core.visits.estimates import BY_EYE, BY_WORD, THICKNESS_OF_HONEY
from redframe.store import colonies, places, treatments, visits
from redframe.store.colonies import ColonyOverview
from redframe.store.treatments import CourseAct
from redframe.store.visits import FoodSeen
from redframe.work.colonies.condition import recorded_of
from redframe.work.policy.read import PolicyInForce, policy_in_force
from redframe.work.treatments.read import plan_of
from redframe.work.unit_of_work import UnitOfWork

STORES_HOLD_DAYS = 45
"""So long stores that were judged say what is there."""


@dataclass(frozen=True, slots=True)
class CourseAhead:
    """A course that goes before feeding: what, from when feed is off, until when, and when it is checked."""

    id: UUID
    name: str
    feed_off_on: date
    ends_on: date
    bears_feed: bool
    check_on: date | None


@dataclass(frozen=True, slots=True)
class ColonyAutumn:
    """One colony of the programme; `stores_on` and `stores_by`: when and how its stores were judged; `fed`: the rounds
    that were given since, `untouched_on`: the last day on which feed was found as it had been given."""

    colony_id: UUID
    label: str
    frames: float | None
    stores_on: date | None
    stores_by: str | None
    fed: Sequence[Fed]
    untouched_on: date | None
    course: CourseAhead | None
    programme: Programme


@dataclass(frozen=True, slots=True)
class Autumn:
    """The programme of an apiary: what it aims at, its colonies, and what to buy for the rounds that are still to come
    (kilograms of sugar, litres of water and of syrup); `finish_by`: the last day on which syrup may be in a feeder."""

    apiary: places.Apiary
    rules: FeedingRules
    finish_by: date | None
    colonies: Sequence[ColonyAutumn]
    sugar_kg: float
    water_l: float
    syrup_l: float


async def autumn(unit: UnitOfWork, apiary_id: UUID) -> Autumn:
    """The autumn programme of an apiary from today on. Raises NotFound."""
    apiary = await places.apiary(unit.connection, apiary_id)
    policy = await policy_in_force(unit, apiary_id)
    living = [one for one in await colonies.colonies_of_apiary(unit.connection, apiary_id, unit.today) if one.is_living]
    ids = [one.id for one in living]
    rules = _rules(policy, unit.today)
    season = policy.calendar.treatment_season(unit.today, policy.honey_off)
    food: dict[UUID, list[FoodSeen]] = defaultdict(list)
    since = unit.today - timedelta(days=STORES_HOLD_DAYS)
    for seen in await visits.food_of_colonies(unit.connection, ids, since):
        food[seen.colony_id].append(seen)
    ahead = await _courses_ahead(unit, ids)
    recorded = await recorded_of(unit, ids)
    found = []
    for one in living:
        supers = recorded[one.id].on(unit.today).supers
        on_hive = supers.value if supers is not None else None
        found.append(_colony(one, food[one.id], ahead[one.id], rules, season, unit.today, supers_on=on_hive))
    sugar = sum(one.programme.sugar_kg or 0.0 for one in found)
    litres = sum(one.programme.syrup_l or 0.0 for one in found)
    return Autumn(apiary, rules, rules.finish_by, found, sugar, sugar / SUGAR_PER_WATER[RATIO], litres)


def _colony(
    colony: ColonyOverview, food: Sequence[FoodSeen], ahead: Sequence[CourseAhead], rules: FeedingRules,
    season: TreatmentSeason, today: date, *, supers_on: bool | None,
) -> ColonyAutumn:  # fmt: skip
    judged = _stores(food)
    stores, by = judged if judged is not None else (None, None)
    fed = [Fed(one.visited_on, one.feed, one.feed_amount) for one in food if one.feed not in (None, "none")]
    barred = [Barred(one.feed_off_on, one.ends_on, one.name) for one in ahead if not one.bears_feed]
    facts = ColonyFood(colony.strength, stores, fed, barred, supers_on)
    return ColonyAutumn(
        colony_id=colony.id,
        label=colony.label,
        frames=colony.strength,
        stores_on=stores.on if stores is not None else None,
        stores_by=by,
        fed=[one for one in fed if stores is None or one.on >= stores.on],
        untouched_on=_untouched(food),
        course=max(ahead, key=lambda one: one.ends_on, default=None),
        programme=programme(facts, rules, season, today),
    )


def _rules(policy: PolicyInForce, today: date) -> FeedingRules:
    given = policy.treatment_rules

    def of_season(month_day: str | None) -> date | None:
        return None if month_day is None else policy.calendar.in_running_season(today, month_day_index(month_day))

    return FeedingRules(
        given.winter_target_kg, given.feeder_l, given.feed_l_day, of_season(given.cold), of_season(given.crystals)
    )


def _stores(food: Sequence[FoodSeen]) -> tuple[StoresSeen, str | None] | None:
    """The stores as they were judged last, with how far the figure may be off by how they were judged."""
    judged = [one for one in food if one.stores_kg is not None]
    if not judged:
        return None
    last = judged[-1]
    assert last.stores_kg is not None
    spread = BY_WORD[last.stores_by][1] if last.stores_by is not None else hypot(BY_EYE, THICKNESS_OF_HONEY)
    return StoresSeen(last.visited_on, last.stores_kg, spread), last.stores_by


def _untouched(food: Sequence[FoodSeen]) -> date | None:
    last = next((one for one in reversed(food) if one.feeder is not None), None)
    return last.visited_on if last is not None and last.feeder == "untouched" else None


async def _courses_ahead(unit: UnitOfWork, colony_ids: Sequence[UUID]) -> dict[UUID, list[CourseAhead]]:
    """The open courses of these colonies that are not over; feed is off from the day before the first dose."""
    found: dict[UUID, list[CourseAhead]] = defaultdict(list)
    courses = [
        one
        for one in await treatments.courses_of_colonies(unit.connection, colony_ids)
        if is_open(one.state) and one.ended_on is None
    ]
    acts: dict[UUID, list[CourseAct]] = {one.id: [] for one in courses}
    for act in await treatments.acts_of_courses(unit.connection, list(acts)):
        acts[act.course_id].append(act)
    for course in courses:
        plan = plan_of(course)
        dated = plan.course(plan.days(acts[course.id]))
        check = next((step.window.ideal for step in dated.steps if step.kind == "verify"), None)
        off = course.placed_on or course.start_on - timedelta(days=1)
        found[course.colony_id].append(
            CourseAhead(
                course.id, course.option.name, off, dated.ending.window.ideal, course.option.feeding_during, check
            )
        )  # fmt: skip
    return found
