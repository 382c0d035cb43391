"""Boards read while a course is at work, and what should fall if it kills."""

from __future__ import annotations

import asyncio
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

import numpy as np

from redframe.core.forecast.effects import effects, kill_of, span_days
from redframe.core.forecast.fall_curve import FallDay, FallenOn, FallReadout, expected_falls, fall_days, read_falls
from redframe.core.forecast.seen import Seen
from redframe.core.forecast.starting import BACK_DAYS, start_from, why_not
from redframe.core.sampling.board import BoardSample
from redframe.core.sampling.reading import FallReading
from redframe.store import sampling, treatments
from redframe.store.sampling import Count
from redframe.store.treatments import Course
from redframe.work.forecast.read import fitted_members, known_events, seen_of, some_members
from redframe.work.policy.read import PolicyInForce, policy_in_force
from redframe.work.status.outlooks import counted, spans_of
from redframe.work.unit_of_work import UnitOfWork

DAYS_AFTER = 14
"""So many days after the end of a course its boards are still drawn: what falls then shows whether it is over."""


@dataclass(frozen=True, slots=True)
class FallBoard:
    """A board of the course: its days on the place's calendar, its fall a day with the exact interval; `judged` is
    False for one that may have held old mites."""

    id: UUID
    first: date
    last: date
    mites: int
    board_days: float
    per_day: float
    low: float
    high: float
    judged: bool


@dataclass(frozen=True, slots=True)
class FallCurve:
    """Falls after the first dose: what is expected day by day, the boards read, and what they say together.

    `why_not` says why nothing can be expected: then there are only boards. `counted_on` is the last count before the
    dose, `span_days` how long the course works (0: no daily
    kill is known of it).
    """

    today: date
    start: date | None
    span_days: int
    counted_on: date | None
    why_not: str
    days: Sequence[FallDay]
    boards: Sequence[FallBoard]
    readout: FallReadout | None


async def fall_curve(unit: UnitOfWork, course_id: UUID) -> FallCurve:
    """The falls of a course. Raises NotFound."""
    course = await treatments.course(unit.connection, course_id)
    span = span_days(course.option_id)
    if kill_of(course.option_id) is None:
        return _nothing(unit, course, 0, "No daily kill is known of this kind of treatment.")
    if course.placed_on is None:
        return _nothing(unit, course, span, "Nothing was placed yet.")
    start, end = course.placed_on, course.placed_on + timedelta(days=span + DAYS_AFTER)
    policy = await policy_in_force(unit, course.apiary_id)
    since = start - timedelta(days=BACK_DAYS)
    every = await sampling.counts_of_colonies(unit.connection, [course.colony_id], since)
    boards = _boards(every, start, end, unit)
    others = [
        one for one in await treatments.courses_of_colonies(unit.connection, [course.colony_id])
        if one.id != course.id and one.placed_on is not None and one.placed_on < start
    ]  # fmt: skip
    spans = spans_of(others)
    readings = [seen_of(one, policy, spans, unit) for one in every if one.taken_on <= start]
    seen = start_from([one for one in readings if one is not None])
    without = why_not(seen, start)
    base = FallCurve(unit.today, start, span, seen[-1].taken_on if seen else None, without, (), boards, None)
    if without:
        return base
    return await asyncio.to_thread(_compute, base, course, seen, others, policy, end)


def _nothing(unit: UnitOfWork, course: Course, span: int, why: str) -> FallCurve:
    return FallCurve(unit.today, course.placed_on, span, None, why, (), (), None)


def _boards(every: Sequence[Count], start: date, end: date, unit: UnitOfWork) -> list[FallBoard]:
    """Boards placed_on from the day of the first dose to two weeks after the course, in their order."""
    found = []
    for count in reversed(every):
        one = counted(count, unit.zone)
        if not isinstance(one.sample, BoardSample) or not isinstance(one.reading, FallReading):
            continue
        placed_on = one.sample.placed_at.date()
        if start <= placed_on <= end:
            reading = one.reading
            found.append(
                FallBoard(
                    count.id, placed_on, count.taken_on, reading.mites, reading.board_days,
                    reading.mites / reading.board_days, reading.low, reading.high, one.sample.cleaned == "yes",
                )
            )  # fmt: skip
    return found


def _compute(
    base: FallCurve, course: Course, seen: tuple[Seen, ...], others: Sequence[Course], policy: PolicyInForce, end: date
) -> FallCurve:
    assert base.start is not None
    known = tuple(known_events(others, base.start))
    members = some_members(fitted_members(seen, policy.calendar, known, course.colony_id.int % 2**32))
    draw = np.random.default_rng(course.id.int % 2**32)
    own = effects(course.option_id, base.start, course.ended_on)
    expected = expected_falls(members, known, own, policy.calendar, base.start, end, draw)
    judged = [FallenOn(one.first, one.last, one.mites, one.board_days) for one in base.boards if one.judged]
    return FallCurve(
        base.today, base.start, base.span_days, base.counted_on, "", fall_days(expected), base.boards,
        read_falls(expected, judged, base.start),
    )  # fmt: skip
