"""Which treatments suit colonies now: the situation of each, put together from its records."""

from __future__ import annotations

import asyncio
from collections.abc import Mapping, Sequence
from contextlib import AbstractContextManager
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from redframe.core.colonies.brood_state import BroodRecord
from redframe.core.colonies.condition import Recorded
from redframe.core.colonies.holds import Held, reasons_of
from redframe.core.colonies.queens import QueenState
from redframe.core.errors import InvalidInput
from redframe.core.status.apiary import quarter_over
from redframe.core.treatments.catalogue import Option
from redframe.core.treatments.days import OptionDays, first_usable, option_days
from redframe.core.treatments.earlier import looks_back_to
from redframe.core.treatments.eligibility import Choice, Suitability, Verdict, choice_of
from redframe.core.treatments.facts import (
    GivenCourse,
    KnownQueen,
    KnownRate,
    KnownStrength,
    colony_facts,
    policy_facts,
)
from redframe.core.treatments.many import ManyColonies
from redframe.core.treatments.mix import Proposed, propose
from redframe.core.treatments.situation import ForecastFacts, Situation
from redframe.core.treatments.states import is_open
from redframe.core.treatments.together import OptionTogether, rank_together
from redframe.core.treatments.weather import Forecast
from redframe.store import colonies, earlier_treatments, hives, holds, places, sampling, treatments
from redframe.store.colonies import ColonyOverview
from redframe.store.database import together
from redframe.store.treatments import Course, CourseAct
from redframe.work.colonies.brood import brood_records_of, in_drone_season
from redframe.work.colonies.condition import recorded_of
from redframe.work.policy.read import PolicyInForce, policy_in_force
from redframe.work.treatments.judges import Pair, judges
from redframe.work.treatments.read import plan_of
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.weather import forecast_at

RATE_BACK_DAYS = 60
"""So far back a jar is looked for where the association judges by what falls on boards."""
MOST_BOXES = 6
"""Doses go by brood boxes up to so many."""


@dataclass(frozen=True, slots=True)
class ColonyChoice:
    """The options for one colony on a day, and the situation that they were judged by; `known_since`: the day from
    which on all its treatments are on record."""

    colony: ColonyOverview
    brood_boxes: int
    situation: Situation
    choice: Choice
    open_courses: Sequence[Course]
    known_since: date

    @property
    def judged(self) -> Sequence[Suitability]:
        """All options, in the order of the catalogue."""
        return list(self.choice.options.values())

    def needs_known_since(self, option: Option) -> date | None:
        """So far back the rules ask for treatments where the record does not reach it, None where it does."""
        now = self.situation
        needed = looks_back_to(option, now.today, now.policy.treatment_year_start)
        return needed if needed is not None and needed < self.known_since else None


@dataclass(frozen=True, slots=True)
class ApiaryChoice:
    """The options for colonies of one apiary on a day, with the forecast that they were judged by."""

    apiary: places.Apiary
    day: date
    forecast: Forecast
    colonies: list[ColonyChoice]
    together: list[OptionTogether]
    mix: list[Proposed]
    policy: PolicyInForce

    @property
    def verdicts(self) -> Mapping[str, Verdict]:
        """The verdict on each option for the colonies together."""
        return {one.option_id: one.verdict for one in self.together}


async def options_for(
    unit: UnitOfWork, apiary_id: UUID, colony_ids: Sequence[UUID], day: date | None = None
) -> ApiaryChoice:
    """Judge every option for these colonies of an apiary, placed on `day` (today when None).

    Raises NotFound for an apiary or colony that the person does not see, InvalidInput for a day in the past.
    """
    _check_day(unit, day)
    asked = await _question(unit, apiary_id, colony_ids)
    return await asyncio.to_thread(_on_day, asked, day or unit.today)


async def options_by_day(
    unit: UnitOfWork, apiary_id: UUID, colony_ids: Sequence[UUID], day: date | None = None
) -> tuple[ApiaryChoice, list[OptionDays]]:
    """The options on `day` (the first usable one when None), and on which days of the forecast each could be placed.

    Raises as `options_for`.
    """
    _check_day(unit, day)
    # A large apiary takes seconds: other people's requests go on meanwhile.
    return await asyncio.to_thread(_by_day, await _question(unit, apiary_id, colony_ids), day)


def _on_day(asked: _Question, day: date) -> ApiaryChoice:
    with asked.judges() as pair:
        return _on(asked, day, pair.whole)


def _by_day(asked: _Question, day: date | None) -> tuple[ApiaryChoice, list[OptionDays]]:
    with asked.judges() as pair:
        return _by_day_of(asked, day, pair)


def _by_day_of(asked: _Question, day: date | None, pair: Pair) -> tuple[ApiaryChoice, list[OptionDays]]:
    today, judge = asked.today, pair.whole
    now = _on(asked, today, judge)
    # What may never be had here may not on another day either.
    possible = [one.option for one in now.colonies[0].judged if now.verdicts[one.option.id] != "never_here"]
    ids, fewer = {one.id for one in possible}, pair.among(possible)
    first = [[one for one in each.judged if one.option.id in ids] for each in now.colonies]
    later = [today + timedelta(days=number) for number in range(1, len(asked.forecast))]
    days = option_days([first, *([fewer.suit(one) for one in asked.on(another)] for another in later)])
    if day is None:
        day = first_usable(days) or today
    return now if day == today else _on(asked, day, judge), days


def _check_day(unit: UnitOfWork, day: date | None) -> None:
    if day is not None and day < unit.today:
        raise InvalidInput("start_on", "a course cannot start in the past", code="out_of_range")
    if day is not None and day > unit.today + timedelta(days=366):
        raise InvalidInput("start_on", "plan at most a year ahead", code="out_of_range")


def _on(asked: _Question, day: date, judge: ManyColonies) -> ApiaryChoice:
    """Every option judged for a day."""
    judged = [
        ColonyChoice(
            colony=colony,
            brood_boxes=asked.boxes[colony.id],
            situation=situation,
            choice=choice_of(judge.suit(situation)),
            open_courses=[one for one in asked.found.courses[colony.id] if is_open(one.state)],
            known_since=asked.found.known_since[colony.id],
        )
        for colony, situation in zip(asked.wanted, asked.on(day), strict=True)
    ]
    choices = [one.choice for one in judged]
    return ApiaryChoice(
        asked.apiary, day, asked.forecast, judged, rank_together(choices), propose(choices), asked.policy
    )


@dataclass(frozen=True, slots=True)
class _Question:
    """For which colonies a treatment is sought, and all that is on record of them: asked of any day."""

    today: date
    apiary: places.Apiary
    apiary_over: bool
    wanted: Sequence[ColonyOverview]
    boxes: Mapping[UUID, int]
    found: _Records
    forecast: Forecast
    policy: PolicyInForce

    def judges(self) -> AbstractContextManager[Pair]:
        """What judges the options of the policy in force here."""
        return judges.of(self.apiary.id, self.today, self.policy.treatment_rules)

    def on(self, day: date) -> list[Situation]:
        """The situation of each colony, were the dose placed on a day."""
        policy, forecast, found = self.policy, self.forecast, self.found
        here = policy_facts(
            day,
            rules=policy.treatment_rules,
            calendar=policy.calendar,
            scope=policy.scope,
            act_per_100=policy.for_scale("mites_per_100").levels[policy.calendar.phase(day)].act,
            apiary_over=self.apiary_over,
        )
        season = policy.calendar.treatment_season(day, policy.honey_off)
        weather = ForecastFacts(
            start=forecast.start, tmax=list(forecast.tmax), tmin=list(forecast.tmin), rain_mm=list(forecast.rain_mm)
        )
        return [
            Situation(
                today=day,
                season_phase=season,
                colony=colony_facts(
                    day,
                    today=self.today,
                    strength=_strength(colony),
                    brood_boxes=self.boxes[colony.id],
                    queen=_queen(colony),
                    now=found.recorded[colony.id].on(day),
                    brood=found.brood[colony.id].on(day, drone_season=in_drone_season(policy.calendar, day)),
                    courses=[_given(one, found.acts) for one in found.courses[colony.id]],
                    rate=found.rates.get(colony.id),
                    held=found.held[colony.id],
                ),
                forecast=weather,
                policy=here,
            )
            for colony in self.wanted
        ]


async def _question(unit: UnitOfWork, apiary_id: UUID, colony_ids: Sequence[UUID]) -> _Question:
    async with together(unit.connection) as begin:
        place = begin(places.apiary(unit.connection, apiary_id))
        seen = begin(colonies.colony_overviews(unit.connection, colony_ids, unit.today))
        levels = begin(colonies.levels_of_apiary(unit.connection, apiary_id, unit.today))
        counted = begin(hives.brood_boxes(unit.connection, colony_ids))
        policy = begin(policy_in_force(unit, apiary_id))
    apiary, boxes = place.result(), counted.result()
    wanted = [colony for colony in seen.result() if colony.apiary_id == apiary_id]
    if len(wanted) != len(set(colony_ids)):
        missing = next(index for index, one in enumerate(colony_ids) if one not in {colony.id for colony in wanted})
        raise InvalidInput(f"colony_ids[{missing}]", "is not a colony of this apiary", code="unknown")
    ended = next((colony for colony in wanted if not colony.is_living), None)
    if ended is not None:
        raise InvalidInput("colony_ids", f"colony {ended.label} is {ended.state}", code="refused")
    return _Question(
        today=unit.today,
        apiary=apiary,
        apiary_over=quarter_over(levels.result()),
        wanted=wanted,
        boxes={one.id: min(MOST_BOXES, max(1, boxes.get(one.id, 1))) for one in wanted},
        found=await _records_of(unit, wanted),
        forecast=forecast_at(unit, apiary.latitude, apiary.longitude),
        policy=policy.result(),
    )


@dataclass(frozen=True, slots=True)
class _Records:
    """What is on record of the colonies that a choice is made for."""

    recorded: Mapping[UUID, Recorded]
    brood: Mapping[UUID, BroodRecord]
    courses: Mapping[UUID, Sequence[Course]]
    acts: Mapping[UUID, Sequence[CourseAct]]
    rates: Mapping[UUID, KnownRate]
    held: Mapping[UUID, Sequence[Held]]
    known_since: Mapping[UUID, date]


async def _records_of(unit: UnitOfWork, wanted: Sequence[ColonyOverview]) -> _Records:
    ids, today = [colony.id for colony in wanted], unit.today
    async with together(unit.connection) as begin:
        of_courses = begin(treatments.courses_of_colonies(unit.connection, ids))
        counts = begin(sampling.counts_of_colonies(unit.connection, ids, today - timedelta(days=RATE_BACK_DAYS)))
        held = begin(holds.held_back(unit.connection, ids, today))
        known = begin(earlier_treatments.treatments_known(unit.connection, ids))
        seen = begin(recorded_of(unit, ids))
    courses, recorded = of_courses.result(), seen.result()
    async with together(unit.connection) as begin:
        of_acts = begin(treatments.acts_of_courses(unit.connection, [one.id for one in courses]))
        of_brood = begin(brood_records_of(unit, ids, recorded))
    given: dict[UUID, list[Course]] = {one: [] for one in ids}
    for course in courses:
        given[course.colony_id].append(course)
    acts: dict[UUID, list[CourseAct]] = {one.id: [] for one in courses}
    for act in of_acts.result():
        acts[act.course_id].append(act)
    rates = {
        one.id: KnownRate(one.median, one.counted_on)
        for one in wanted
        if one.scale == "mites_per_100" and one.median is not None and one.counted_on is not None
    }
    for count in counts.result():
        if count.scale == "mites_per_100" and count.median is not None and count.colony_id not in rates:
            rates[count.colony_id] = KnownRate(count.median, count.taken_on)
    return _Records(
        recorded, of_brood.result(), given, acts, rates,
        {one.colony_id: reasons_of(one) for one in held.result()},
        {one.colony_id: one.known_since for one in known.result()},
    )  # fmt: skip


def _given(course: Course, acts: Mapping[UUID, Sequence[CourseAct]]) -> GivenCourse:
    plan = plan_of(course)
    return GivenCourse(
        plan, course.state, course.outcome, course.placed_on, course.ended_on, plan.days(acts[course.id])
    )


def _strength(colony: ColonyOverview) -> KnownStrength | None:
    if colony.strength is None or colony.strength_on is None:
        return None
    return KnownStrength(colony.strength, colony.strength_unit or "frames", colony.strength_on)


def _queen(colony: ColonyOverview) -> KnownQueen:
    state: QueenState = "queenless" if colony.state == "queenless" else colony.queen_status or "unknown"
    return KnownQueen(state, colony.queen_since, colony.laying_since, colony.release_on)
