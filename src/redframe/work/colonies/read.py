"""What a colony's screen shows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from redframe.core.policy.schemes import SCHEMES
from redframe.core.sampling.board import PooledFall
from redframe.core.sampling.method import Scale
from redframe.core.status.advice import ColonyAdvice, colony_advice
from redframe.store import colonies as store
from redframe.store import hives, holds, places, sampling, undo, visits
from redframe.store.colonies import ColonyEvent, ColonyOverview
from redframe.store.database import together
from redframe.store.hives import FrameFormat, HiveBox
from redframe.store.holds import Hold
from redframe.store.places import Apiary
from redframe.store.visits import Visit
from redframe.work.colonies.brood import BroodView, brood_view
from redframe.work.colonies.condition import recorded_of
from redframe.work.colonies.queens import QueenView, queens_of
from redframe.work.places.read import STRIP_AHEAD_DAYS, PhaseBand, phase_bands
from redframe.work.policy.read import PolicyInForce, policy_in_force
from redframe.work.sampling.read import CountMeaning, KnownOfColony, meaning_among, meaning_of
from redframe.work.sampling.strips import StripCount, axis_of, spans_by_colony, strip_counts
from redframe.work.sampling.trends import TREND_BACK_DAYS, Trend, boards_together, breaks_among, trend_of
from redframe.work.treatments.read import CourseView, courses_of_colony
from redframe.work.unit_of_work import UnitOfWork

COLONY_BACK_DAYS = 800


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
    undoable: undo.Change | None
    advice: ColonyAdvice
    brood: BroodView | None
    policy: PolicyInForce


async def colony_view(unit: UnitOfWork, colony_id: UUID) -> ColonyView:
    """One colony with its records of two seasons. Raises NotFound."""
    colony = await store.colony_overview(unit.connection, colony_id, unit.today)
    policy = await policy_in_force(unit, colony.apiary_id)
    since = unit.today - timedelta(days=COLONY_BACK_DAYS)
    connection = unit.connection
    async with together(connection) as begin:
        counted = begin(sampling.counts_of_colonies(connection, [colony_id], since))
        seen = begin(visits.visits_of_colonies(connection, [colony_id], since))
        boxes = begin(hives.hives_of_apiary(connection, colony.apiary_id))
        treated = begin(courses_of_colony(unit, colony_id))
        lineage = begin(store.events_of_colony(connection, colony_id))
        apiary = begin(places.apiary(connection, colony.apiary_id))
        own_queens = begin(queens_of(unit, colony_id))
        draft = begin(visits.draft_of_colony(connection, colony_id))
        hold = begin(holds.hold_of_colony(connection, colony_id))
        undoable = begin(undo.undoable_change(connection, colony_id))
    counts, courses, events = counted.result(), treated.result(), lineage.result()
    oldest = min([count.taken_on for count in counts] + [unit.today - timedelta(days=150)])
    first, last = max(oldest, unit.today - timedelta(days=420)), unit.today + timedelta(days=STRIP_AHEAD_DAYS)
    placed = [(colony_id, item.course.placed_on, item.course.ended_on) for item in courses]
    spans = spans_by_colony(placed)
    known = KnownOfColony(policy, counts, spans[colony_id], breaks_among(events))
    latest = await _latest(unit, colony.count_id, known, since)
    brood = None
    if colony.is_living:
        recorded = (await recorded_of(unit, [colony_id]))[colony_id]
        brood = await brood_view(unit, colony_id, recorded, policy.calendar)
    return ColonyView(
        colony=colony,
        apiary=apiary.result(),
        hive=[box for box in boxes.result() if box.id == colony.hive_id],
        queens=own_queens.result(),
        events=events,
        visits=seen.result(),
        counts=counts,
        axis=axis_of(policy),
        points=strip_counts(counts, spans, policy, unit.zone),
        courses=courses,
        latest=latest,
        trend=trend_of(counts, known.spans, known.breaks, unit.today),
        boards=boards_together(unit, counts, policy, known.spans),
        phases=phase_bands(policy, first, last),
        first=first,
        last=last,
        draft=draft.result(),
        hold=hold.result(),
        undoable=undoable.result(),
        advice=colony_advice(
            is_living=colony.is_living,
            level=colony.level,
            answer=SCHEMES[policy.scheme].answer,
            next_step_on=_next_step_on(courses),
            judged=latest.judgement.advice if latest is not None and latest.judgement is not None else None,
            recount_on=colony.recount_on,
            was_counted=colony.counted_on is not None,
        ),
        brood=brood,
        policy=policy,
    )


async def _latest(unit: UnitOfWork, count_id: UUID | None, known: KnownOfColony, since: date) -> CountMeaning | None:
    """What the count says that a colony stands by; of an old one more has to be known than what this page shows."""
    if count_id is None:
        return None
    count = next((one for one in known.counts if one.id == count_id), None)
    if count is None or count.taken_on - timedelta(days=TREND_BACK_DAYS) < since:
        return await meaning_of(unit, count_id, look_ahead=True)
    return await meaning_among(unit, count, known, look_ahead=True)


def _next_step_on(courses: Sequence[CourseView]) -> date | None:
    """The day of the next step of the newest course that is open; None where none is."""
    open_course = next((one for one in courses if one.is_open and one.next_step is not None), None)
    if open_course is None:
        return None
    return next(one.step.ideal for one in open_course.steps if one.step.name == open_course.next_step)


async def frame_formats(unit: UnitOfWork) -> list[FrameFormat]:
    """The frame formats that a box may have."""
    return await hives.frame_formats(unit.connection)
