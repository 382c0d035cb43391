"""Why a course failed: what the record, the weather and the neighbourhood say, brought to the engine that weighs it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date, timedelta
from uuid import UUID

from redframe.core.colonies.condition import Recorded
from redframe.core.errors import InvalidInput
from redframe.core.forecast.fall_curve import FallVerdict
from redframe.core.treatments.catalogue import Option, default_catalogue
from redframe.core.treatments.check_counts import CourseVerdict
from redframe.core.treatments.why_failed import CourseFacts, GivenDose, WhyFailed, why_failed
from redframe.store import places, sampling, stock
from redframe.store import treatments as store
from redframe.store.treatments import Course, CourseAct
from redframe.work.colonies.condition import recorded_of
from redframe.work.policy.read import policy_in_force
from redframe.work.treatments.fall_curve import fall_curve
from redframe.work.treatments.read import CourseView, course_view
from redframe.work.unit_of_work import UnitOfWork

SEEN_BEFORE_DAYS = 30
NEAR_KM = 3.0
NEIGHBOURS_KNOWN_DAYS = 60
"""Who is urgent near by is known of today: of a course that ended longer ago it says nothing."""
OTHERS_DAYS = 400
LOWER_BY = 0.5
FALLS_KILL: Mapping[FallVerdict, bool] = {"killing": True, "over": True, "not_killing": False}
"""What boards under a course say of whether it killed; the others leave it open."""


async def why_failed_of(unit: UnitOfWork, course_id: UUID) -> WhyFailed:
    """The causes of a course that did not do what it should. Raises NotFound, InvalidInput where it has no verdict."""
    view = await course_view(unit, course_id)
    course, verdict = view.course, view.course.verdict
    if verdict is None or course.placed_on is None:
        raise InvalidInput("course_id", "has no result yet", code="refused")
    acts = await store.acts_of_courses(unit.connection, [course_id])
    end = course.ended_on or unit.today
    apiary = await places.apiary(unit.connection, course.apiary_id)
    policy = await policy_in_force(unit, course.apiary_id)
    recorded = (await recorded_of(unit, [course.colony_id]))[course.colony_id]
    seen_on, seen = _capped_before(recorded, course.placed_on)
    weather = unit.weather.forecast(apiary.latitude, apiary.longitude, course.placed_on)
    days = min(len(weather), (end - course.placed_on).days + 1)
    near = []
    if (unit.today - end).days <= NEIGHBOURS_KNOWN_DAYS:
        near = await places.urgent_neighbours(unit.connection, course.apiary_id, NEAR_KM)
    others = await _others(unit, course)
    falls = (await fall_curve(unit, course_id)).readout
    facts = CourseFacts(
        option=course.option,
        verdict=verdict,
        start=course.placed_on,
        end=end,
        doses=await _doses(unit, course, acts),
        findings=[one for step in view.steps for one in step.findings],
        capped_seen_on=seen_on,
        capped_seen=seen,
        broodless=course.broodless,
        outside=_outside(course.option, course.placed_on, weather.tmax[:days]),
        weather_days=days,
        winter_bee_date=policy.calendar.winter_bee_date(course.placed_on),
        urgent_near=len(near),
        low_between=await _low_between(unit, course, verdict, end),
        falls_kill=None if falls is None else FALLS_KILL.get(falls.verdict),
        same_group_uses=await _same_group_before(unit, view),
        others_failed=sum(one.outcome == "failed" for one in others),
        others_failed_apiaries=len({one.apiary_id for one in others if one.outcome == "failed"}),
        others_worked=sum(one.outcome == "worked" for one in others),
    )
    return why_failed(facts)


async def _doses(unit: UnitOfWork, course: Course, acts: Sequence[CourseAct]) -> list[GivenDose]:
    given = [one for one in acts if one.step.startswith("place_") and one.outcome == "done"]
    found = []
    for act in given:
        lot = await stock.lot(unit.connection, act.lot_id) if act.lot_id is not None else None
        good = None if lot is None or lot.expires_on is None else lot.expires_on >= act.done_on
        found.append(GivenDose(act.done_on, act.quantity, course.dose_quantity, good))
    return found


def _capped_before(recorded: Recorded, start: date) -> tuple[date | None, bool | None]:
    """What the last visit before the first dose saw of capped brood."""
    looked = [
        one
        for one in recorded.visits
        if one.capped_brood != "unknown" and 0 <= (start - one.visited_on).days <= SEEN_BEFORE_DAYS
    ]
    last = max(looked, key=lambda one: one.order, default=None)
    return (None, None) if last is None else (last.visited_on, last.capped_brood == "yes")


def _outside(option: Option, start: date, maxima: Sequence[float]) -> list[date]:
    low, high = option.temperature.min_daily_max_c, option.temperature.max_daily_max_c
    return [
        start + timedelta(days=number)
        for number, warmest in enumerate(maxima)
        if (low is not None and warmest < low) or (high is not None and warmest > high)
    ]


async def _low_between(unit: UnitOfWork, course: Course, verdict: CourseVerdict, end: date) -> float | None:
    post = verdict.post
    if post is None or post.median is None:
        return None
    counts = await sampling.counts_of_colonies(unit.connection, [course.colony_id], end)
    lower = [
        one.median
        for one in counts
        if one.scale == "mites_per_100" and one.median is not None and end <= one.taken_on < post.taken_on
        and one.median < LOWER_BY * post.median
    ]  # fmt: skip
    return min(lower, default=None)


async def _same_group_before(unit: UnitOfWork, view: CourseView) -> int:
    course = view.course
    assert course.placed_on is not None
    return sum(
        one.option.moa_group == course.option.moa_group
        and one.placed_on is not None
        and one.placed_on < course.placed_on
        for one in await store.courses_of_colonies(unit.connection, [course.colony_id])
    )


async def _others(unit: UnitOfWork, course: Course) -> list[store.VerifiedCourse]:
    assert course.placed_on is not None
    group = course.option.moa_group
    alike = [one.id for one in default_catalogue().options if one.moa_group == group]
    since = course.placed_on - timedelta(days=OTHERS_DAYS)
    return [one for one in await store.outcomes_of_options(unit.connection, alike, since) if one.id != course.id]
