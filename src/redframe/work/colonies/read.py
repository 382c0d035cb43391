"""What a colony's screen shows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any
from uuid import UUID

from redframe.core.colonies.queens import MarkColour, mark_colour, mark_differs
from redframe.core.sampling.board import PooledFall
from redframe.core.sampling.method import Scale
from redframe.store import colonies as store
from redframe.store import hives, holds, places, queens, sampling, visits
from redframe.store.colonies import ColonyEvent, ColonyOverview
from redframe.store.hives import FrameFormat, HiveBox
from redframe.store.holds import Hold
from redframe.store.places import Apiary
from redframe.store.queens import Queen
from redframe.store.visits import Visit
from redframe.work.places.read import STRIP_AHEAD_DAYS, PhaseBand, phase_bands
from redframe.work.policy.read import PolicyInForce, policy_in_force
from redframe.work.sampling.read import CountMeaning, meaning_of
from redframe.work.sampling.strips import StripCount, axis_of, spans_by_colony, strip_counts
from redframe.work.sampling.trends import Trend, boards_together, breaks_of, trend_of
from redframe.work.treatments.read import CourseView, courses_of_colony
from redframe.work.unit_of_work import Work

COLONY_BACK_DAYS = 800


@dataclass(frozen=True, slots=True)
class QueenView:
    """A queen with the colour that her year is marked with and a sentence when the mark seen differs."""

    queen: Queen
    mark_expected: MarkColour | None
    mark_differs: str | None


@dataclass(frozen=True, slots=True)
class ColonyView:
    """Everything that is known of one colony."""

    colony: ColonyOverview
    apiary: Apiary
    hive: Sequence[HiveBox]
    queens: Sequence[QueenView]
    events: Sequence[ColonyEvent]
    visits: Sequence[Visit]
    counts: Sequence[sampling.Count]
    axis: Scale
    points: Sequence[StripCount]
    courses: Sequence[CourseView]
    latest: CountMeaning | None
    trend: Trend | None
    boards: PooledFall | None
    phases: Sequence[PhaseBand]
    first: date
    last: date
    draft: UUID | None
    hold: Hold | None
    policy: PolicyInForce


async def colony_view(work: Work, colony_id: UUID) -> ColonyView:
    """One colony with its records of two seasons. Raises NotFound."""
    colony = await store.colony_overview(work.connection, colony_id, work.today)
    policy = await policy_in_force(work, colony.apiary_id)
    since = work.today - timedelta(days=COLONY_BACK_DAYS)
    counts = await sampling.counts_of_colonies(work.connection, [colony_id], since)
    seen = await visits.visits_of_colonies(work.connection, [colony_id], since)
    boxes = await hives.hives_of_apiary(work.connection, colony.apiary_id)
    oldest = min([count.taken_on for count in counts] + [work.today - timedelta(days=150)])
    first, last = max(oldest, work.today - timedelta(days=420)), work.today + timedelta(days=STRIP_AHEAD_DAYS)
    courses = await courses_of_colony(work, colony_id)
    placed = [(colony_id, item.course.placed_on, item.course.ended_on) for item in courses]
    spans = spans_by_colony(placed)
    breaks = await breaks_of(work, colony_id)
    return ColonyView(
        colony=colony,
        apiary=await places.apiary(work.connection, colony.apiary_id),
        hive=[box for box in boxes if box.id == colony.hive_id],
        queens=[_queen_view(queen) for queen in await queens.queens_of_colony(work.connection, colony_id)],
        events=await store.events_of_colony(work.connection, colony_id),
        visits=seen,
        counts=counts,
        axis=axis_of(policy),
        points=strip_counts(counts, spans, policy, work.zone),
        courses=courses,
        latest=await meaning_of(work, colony.count_id, look_ahead=True) if colony.count_id else None,
        trend=trend_of(counts, spans[colony_id], breaks, work.today),
        boards=boards_together(work, counts, policy, spans[colony_id]),
        phases=phase_bands(policy, first, last),
        first=first,
        last=last,
        draft=await visits.draft_of_colony(work.connection, colony_id),
        hold=await holds.hold_of_colony(work.connection, colony_id),
        policy=policy,
    )


def _queen_view(queen: Queen) -> QueenView:
    expected = mark_colour(queen.year) if queen.year is not None else None
    seen: Any = queen.mark_seen
    return QueenView(queen, expected, mark_differs(queen.year, seen))


async def frame_formats(work: Work) -> list[FrameFormat]:
    """The frame formats that a box may have."""
    return await hives.frame_formats(work.connection)
