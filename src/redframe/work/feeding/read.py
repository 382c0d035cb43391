"""The autumn programme of an apiary: each colony's food and dates from its records, and what to buy for all of them;
and of all apiaries, in a line each."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
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
    ProgrammeWord,
    StoresSeen,
    programme,
)
from redframe.core.feeding.syrup import SUGAR_PER_WATER
from redframe.core.season.calendar import TreatmentSeason, month_day_index
from redframe.core.treatments.states import is_open
from redframe.core.visits.estimates import BY_EYE, BY_WORD, THICKNESS_OF_HONEY
from redframe.store import feeding, places, treatments, visits
from redframe.store.feeding import FedApiary, ToFeed
from redframe.store.treatments import CourseAct
from redframe.store.visits import FoodSeen
from redframe.work.colonies.condition import recorded_of
from redframe.work.pages import place, place_after
from redframe.work.policy.read import PolicyInForce, policies_of, policy_in_force
from redframe.work.treatments.read import plan_of
from redframe.work.unit_of_work import UnitOfWork

PAGE = 20
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
    that were given since, `untouched_on`: the last day on which feed was found as it had been given; `to_treat`:
    over its level and no course is open; `supers_on`: honey supers are on (None: not recorded)."""

    colony_id: UUID
    apiary_id: UUID
    label: str
    frames: float | None
    stores_on: date | None
    stores_by: str | None
    fed: Sequence[Fed]
    untouched_on: date | None
    course: CourseAhead | None
    to_treat: bool
    supers_on: bool | None
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


@dataclass(frozen=True, slots=True)
class ApiaryAutumn:
    """The autumn of an apiary in a line. `of`: colonies by the word of their programme; `supers_on` colonies with honey
    supers on; `to_treat` colonies over their level without a course, `in_course` colonies that are treated first, the
    last of them until `treated_until`. `first_round` still to give, `begin_by` the earliest last day to begin,
    `ends_on` when the last feeder is empty; `sugar_kg` still to buy or to feed, `untouched` colonies that leave their
    feed."""

    apiary_id: UUID
    name: str
    keeper: str
    colonies: int
    of: Mapping[ProgrammeWord, int]
    supers_on: int
    to_treat: int
    in_course: int
    treated_until: date | None
    first_round: date | None
    begin_by: date | None
    ends_on: date | None
    finish_by: date | None
    close_on: date | None
    untouched: int
    sugar_kg: float


@dataclass(frozen=True, slots=True)
class Autumns:
    """A page of apiaries by name, each with its autumn; `next`: where the next page begins, None for the last."""

    apiaries: Sequence[ApiaryAutumn]
    next: str | None


async def autumns(unit: UnitOfWork, find: str = "", after: str | None = None, most: int = PAGE) -> Autumns:
    """The autumn of the apiaries that the person may see, a page at a time. Raises InvalidInput for an `after` that no
    page gave."""
    listed = await feeding.apiaries_to_feed(unit.connection, find.strip().lower(), place_after(after), most + 1)
    shown = listed[:most]
    by_apiary: dict[UUID, list[ColonyAutumn]] = defaultdict(list)
    for one in await _programmes(unit, [apiary.id for apiary in shown]):
        by_apiary[one.apiary_id].append(one)
    following = place(shown[-1].key, shown[-1].id) if len(listed) > most else None
    return Autumns([_in_a_line(one, by_apiary[one.id]) for one in shown], following)


def _in_a_line(apiary: FedApiary, colonies: Sequence[ColonyAutumn]) -> ApiaryAutumn:
    plans = [one.programme for one in colonies]
    courses = [one.course for one in colonies if one.course is not None]
    return ApiaryAutumn(
        apiary_id=apiary.id,
        name=apiary.name,
        keeper=apiary.keeper,
        colonies=len(colonies),
        of=Counter(one.word for one in plans),
        supers_on=sum(one.supers_on is True for one in colonies),
        to_treat=sum(one.to_treat for one in colonies),
        in_course=len(courses),
        treated_until=max((one.ends_on for one in courses), default=None),
        first_round=min((one.rounds[0].on for one in plans if one.rounds), default=None),
        begin_by=min((one.begin_by for one in plans if one.begin_by is not None), default=None),
        ends_on=max((one.ends_on for one in plans if one.ends_on is not None), default=None),
        finish_by=min((one.finish_by for one in plans if one.finish_by is not None), default=None),
        close_on=max((one.close_on for one in plans if one.close_on is not None), default=None),
        untouched=sum(one.untouched_on is not None for one in colonies),
        sugar_kg=sum(one.sugar_kg or 0.0 for one in plans),
    )


async def autumn(unit: UnitOfWork, apiary_id: UUID) -> Autumn:
    """The autumn programme of an apiary from today on. Raises NotFound."""
    apiary = await places.apiary(unit.connection, apiary_id)
    rules = _rules(await policy_in_force(unit, apiary_id), unit.today)
    found = await _programmes(unit, [apiary_id])
    sugar = sum(one.programme.sugar_kg or 0.0 for one in found)
    litres = sum(one.programme.syrup_l or 0.0 for one in found)
    return Autumn(apiary, rules, rules.finish_by, found, sugar, sugar / SUGAR_PER_WATER[RATIO], litres)


async def _programmes(unit: UnitOfWork, apiary_ids: Sequence[UUID]) -> list[ColonyAutumn]:
    """Each living colony of these apiaries with its programme, in the order of their labels."""
    living = await feeding.colonies_to_feed(unit.connection, apiary_ids, unit.today)
    ids = [one.id for one in living]
    policies = await policies_of(unit, ids)
    food: dict[UUID, list[FoodSeen]] = defaultdict(list)
    since = unit.today - timedelta(days=STORES_HOLD_DAYS)
    for seen in await visits.food_of_colonies(unit.connection, ids, since):
        food[seen.colony_id].append(seen)
    ahead = await _courses_ahead(unit, ids)
    recorded = await recorded_of(unit, ids)
    # Most colonies share a policy: what follows from it is asked once.
    by_policy: dict[int, tuple[FeedingRules, TreatmentSeason]] = {}
    found = []
    for one in living:
        policy = policies[one.id]
        if id(policy) not in by_policy:
            season = policy.calendar.treatment_season(unit.today, policy.honey_off)
            by_policy[id(policy)] = _rules(policy, unit.today), season
        rules, season = by_policy[id(policy)]
        supers = recorded[one.id].on(unit.today).supers
        on_hive = supers.value if supers is not None else None
        found.append(_colony(one, food[one.id], ahead[one.id], rules, season, unit.today, supers_on=on_hive))
    return found


def _colony(
    colony: ToFeed, food: Sequence[FoodSeen], ahead: Sequence[CourseAhead], rules: FeedingRules,
    season: TreatmentSeason, today: date, *, supers_on: bool | None,
) -> ColonyAutumn:  # fmt: skip
    judged = _stores(food)
    stores, by = judged if judged is not None else (None, None)
    fed = [Fed(one.visited_on, one.feed, one.feed_amount) for one in food if one.feed not in (None, "none")]
    barred = [Barred(one.feed_off_on, one.ends_on, one.name) for one in ahead if not one.bears_feed]
    facts = ColonyFood(colony.strength, stores, fed, barred, supers_on)
    return ColonyAutumn(
        colony_id=colony.id,
        apiary_id=colony.apiary_id,
        label=colony.label,
        frames=colony.strength,
        stores_on=stores.on if stores is not None else None,
        stores_by=by,
        fed=[one for one in fed if stores is None or one.on >= stores.on],
        untouched_on=_untouched(food),
        course=max(ahead, key=lambda one: one.ends_on, default=None),
        to_treat=colony.is_over and not ahead,
        supers_on=supers_on,
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
    return StoresSeen(last.visited_on, last.stores_kg, spread, last.stores_are), last.stores_by


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
