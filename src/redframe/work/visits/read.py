"""A visit as its screen shows it, and the round of an apiary."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from uuid import UUID

from redframe.core.colonies.hive_state import HangingFrame, HiveState, PlacedBox
from redframe.core.colonies.lineage import DatedChange, value_on
from redframe.core.colonies.queens import year_on
from redframe.core.disease.evidence import Context
from redframe.core.disease.settings import brood_settings
from redframe.core.sampling.method import Scale
from redframe.core.season.calendar import Phase
from redframe.core.treatments.states import is_abandoned
from redframe.core.visits.assessment import Assessment, VisitFacts, assess, framed_boxes
from redframe.core.visits.disease_reading import DiseaseReading
from redframe.core.visits.estimates import SeenFrame
from redframe.core.visits.evidence import RAISING_DAYS, lately, season_of, season_of_phase
from redframe.core.visits.past import PastVisit
from redframe.core.visits.place import ColonyThen, CoursePlanned, CourseThen, DiseaseThen, VisitPlace
from redframe.core.visits.with_course import CoursesThen
from redframe.store import brood, colonies, frames, hives, holds, photos, places, queens, sampling, treatments
from redframe.store import visits as store
from redframe.store.colonies import ColonyEvent, ColonyOverview
from redframe.store.database import together
from redframe.store.frames import Frame
from redframe.store.holds import Hold
from redframe.store.photos import Photo
from redframe.store.treatments import Course
from redframe.store.undo import Change, undoable_change
from redframe.store.visits import RoundStop, VisitFrame, VisitRecord
from redframe.work.colonies.hive_state import state_of_hive
from redframe.work.policy.read import policy_in_force
from redframe.work.sampling.trends import BREAKS
from redframe.work.unit_of_work import UnitOfWork

NEIGHBOURS_BACK_DAYS = 30
SOON = timedelta(days=14)
"""A course that is planned within so many days bears on what a visit leaves on the hive."""
COUNTS_BACK_DAYS = 400
"""How far back a figure is looked for that was known on the day."""


@dataclass(frozen=True, slots=True)
class VisitView:
    """A visit with the place of its day, everything recorded, the visit it is compared with, and what the rules say.

    `previous` are the frames of the visit `compared_with`, `previous_hive` the hive as it stood then.
    """

    today: date
    visit: VisitRecord
    colony: ColonyOverview
    place: VisitPlace
    records: Sequence[VisitFrame]
    photos: Sequence[Photo]
    past: Sequence[PastVisit]
    compared_with: PastVisit | None
    previous: Sequence[VisitFrame]
    previous_hive: HiveState | None
    hold: Hold | None
    undoable: Change | None
    phase: Phase
    assessment: Assessment


async def visit_view(unit: UnitOfWork, visit_id: UUID, compare_with_id: UUID | None = None) -> VisitView:
    """A visit compared with `compare_with_id`, or else with the last that looked at frames. Raises NotFound."""
    return await view_of(unit, await store.visit(unit.connection, visit_id), compare_with_id)


async def disease_of_visit(unit: UnitOfWork, visit_id: UUID, without: Sequence[str]) -> DiseaseReading | None:
    """What the signs of a visit fit, findings `without` left out. Raises NotFound."""
    view = await view_of(unit, await store.visit(unit.connection, visit_id), without=without)
    return view.assessment.disease


async def view_of(
    unit: UnitOfWork, visit: VisitRecord, compare_with_id: UUID | None = None, without: Sequence[str] = ()
) -> VisitView:
    """A visit whether it is on record yet or not, as `visit_view`; `without`: findings that the signs are read
    without."""
    colony = await colonies.colony_overview(unit.connection, visit.colony_id, unit.today)
    connection = unit.connection
    async with together(connection) as begin:
        earlier = begin(store.visits_to_compare(connection, visit.id, visit.colony_id, visit.visited_on))
        lineage = begin(colonies.events_of_colony(connection, visit.colony_id))
        taken = begin(photos.photos_of_visit(connection, visit.id))
        hold = begin(holds.hold_on_day(connection, visit.colony_id, visit.visited_on))
        undoable = begin(undoable_change(connection, visit.colony_id))
    past, events = earlier.result(), lineage.result()
    compared_with = _compared_with(past, compare_with_id)
    both = [visit.id, *([compared_with.id] if compared_with else [])]
    async with together(connection) as begin:
        frames_seen = begin(store.frames_of_visits(connection, both))
        places_kept = begin(store.places_of_visits(connection, both))
    recorded, kept = frames_seen.result(), places_kept.result()
    records = [frame for frame in recorded if frame.visit_id == visit.id]
    previous = [frame for frame in recorded if frame.visit_id != visit.id]
    place = kept.get(visit.id)
    if place is None:
        place = await place_on(unit, colony, visit.visited_on, events, {one.box_id for one in records})
    place_then = kept.get(compared_with.id) if compared_with is not None else None
    previous_hive = place_then.hive if place_then is not None else None
    facts = VisitFacts(
        on=visit.visited_on,
        phase=place.phase,
        before=visit.before,
        after=visit.after,
        boxes=place.hive.boxes if place.hive is not None else (),
        numbered_from=place.hive.hive.numbered_from if place.hive is not None else "left",
        now=seen_frames(place.hive, records),
        then=_as_placed(place.hive, seen_frames(previous_hive, previous)),
        compared_with=compared_with,
        past=past,
        near=await store.neighbours(
            unit.connection,
            place.apiary_id,
            colony.id,
            visit.visited_on - timedelta(days=NEIGHBOURS_BACK_DAYS),
            visit.visited_on,
        ),
        left_on=[one.happened_on for one in events if one.kind in BREAKS],
        queen_year=place.queen_year,
        open_from_c=place.open_from_c,
        courses=courses_then(place),
        winter_target_kg=place.winter_target_kg,
        disease=place.disease.context() if place.disease is not None else Context(season_of_phase(place.phase)),
        level=place.known.level if place.known is not None else "unknown",
        counted_on=place.known.counted_on if place.known is not None else None,
    )
    return VisitView(
        today=unit.today,
        visit=visit,
        colony=colony,
        place=place,
        records=records,
        photos=taken.result(),
        past=past,
        compared_with=compared_with,
        previous=previous,
        previous_hive=previous_hive,
        hold=hold.result(),
        undoable=undoable.result(),
        phase=facts.phase,
        assessment=assess(facts, without),
    )


def _compared_with(past: Sequence[PastVisit], wanted: UUID | None) -> PastVisit | None:
    if wanted is not None:
        return next((one for one in past if one.id == wanted), None)
    return next((one for one in past if one.frames), past[0] if past else None)


async def place_on(
    unit: UnitOfWork, colony: ColonyOverview, day: date, events: Sequence[ColonyEvent], recorded_boxes: set[UUID]
) -> VisitPlace:
    """Where a colony was on a day: its label, apiary, keeper, hive and queen as the dated records have them, and what
    the policy says of that day.

    Boxes of which a visit of that day recorded frames (`recorded_boxes`) belong to it although they were taken off.
    """
    own = [one for one in events if one.colony_id == colony.id]
    changes = [DatedChange(one.kind, one.happened_on, one.previous) for one in own]
    moves = sorted(
        (one for one in own if one.kind == "moved" and one.happened_on > day), key=lambda one: one.happened_on
    )
    there = moves[0].previous_apiary if moves else None
    apiary = await places.apiary(unit.connection, there or colony.apiary_id)
    hive, hanging = None, list[HangingFrame]()
    if colony.hive_id is not None and not moves:
        hive = await _hive_on(unit, colony.hive_id, day, recorded_boxes)
        hanging = [
            framed
            for one in await frames.frames_of_boxes(unit.connection, [box.id for box in hive.boxes])
            if (framed := _hanging(one)) is not None
        ]
    policy = await policy_in_force(unit, apiary.id)
    known = await queens.queens_of_colony(unit.connection, colony.id)
    courses = await treatments.courses_of_colonies(unit.connection, [colony.id])
    season = policy.calendar.treatment_season(day, policy.honey_off)
    return VisitPlace(
        label=value_on(day, colony.label, changes, "renumbered"),
        apiary_id=apiary.id,
        apiary=apiary.name,
        keeper=apiary.keeper,
        hive=hive,
        frames=hanging,
        queen_year=year_on(day, [(one.since, one.until, one.year) for one in known]),
        phase=policy.calendar.phase(day),
        open_from_c=policy.treatment_rules.open_from_c,
        known=await _known_on(unit, colony.id, day, courses),
        winter_target_kg=policy.treatment_rules.winter_target_kg,
        disease=DiseaseThen(
            season_of(season),
            policy.region,
            sorted(await _lately(unit, colony.id, day, events, courses)),
            brood_settings().version,
        ),
    )


async def _lately(
    unit: UnitOfWork, colony_id: UUID, day: date, events: Sequence[ColonyEvent], courses: Sequence[Course]
) -> frozenset[str]:
    """What the record says of a colony that bears on disease on a day."""
    stops = await brood.brood_stops(unit.connection, [colony_id], day - timedelta(days=RAISING_DAYS), [], [])
    return lately(
        day,
        split=[one.happened_on for one in events if one.kind == "split_from"],
        swarmed=[one.on for one in stops if one.kind == "swarm_left"],
        queen_removed=[one.on for one in stops if one.kind == "queen_removed"],
        treated=[
            min(one.ended_on or day, day)
            for one in courses
            if one.option.chemical and one.placed_on is not None and one.placed_on <= day
        ],
    )


async def _known_on(
    unit: UnitOfWork, colony_id: UUID, day: date, of_colony: Sequence[Course]
) -> ColonyThen:  # fmt: skip
    """What was known of a colony's mites on a day: nothing that was counted or placed after it."""
    then = await colonies.colony_overview(unit.connection, colony_id, day)
    known: tuple[date | None, Scale | None, float | None, float | None, float | None]
    known = (then.counted_on, then.scale, then.median, then.low, then.high)
    if then.counted_on is not None and then.counted_on > day:
        counts = await sampling.counts_of_colonies(unit.connection, [colony_id], day - timedelta(days=COUNTS_BACK_DAYS))
        latest = next((one for one in counts if one.taken_on <= day and one.median is not None), None)
        known = (latest.taken_on, latest.scale, latest.median, latest.low, latest.high) if latest else (None,) * 5
    counted_on, scale, rate, low, high = known
    courses = [
        CourseThen(
            one.option.name,
            one.placed_on,
            one.ended_on if one.ended_on is not None and one.ended_on <= day else None,
            one.honey_clear_on,
            one.option.supers,
            one.option.feeding_during,
        )
        for one in of_colony
        if one.placed_on is not None
        and one.placed_on <= day
        and (one.ended_on is None or max(one.ended_on, one.honey_clear_on or one.ended_on) >= day)
    ]
    planned = [
        CoursePlanned(one.option.name, one.start_on, one.option.supers, one.option.feeding_during)
        for one in of_colony
        if (one.placed_on is None or one.placed_on > day)
        and not is_abandoned(one.state)
        and unit.day_of(one.created_at) <= day
        and timedelta() <= one.start_on - day <= SOON
    ]
    return ColonyThen(
        level=then.level, counted_on=counted_on, scale=scale, rate=rate, low=low, high=high, courses=courses,
        planned=planned,
    )  # fmt: skip


def courses_then(place: VisitPlace) -> CoursesThen:
    """The courses of a colony on the day of a visit, as its place keeps them."""
    if place.known is None:
        return CoursesThen()
    return CoursesThen(tuple(place.known.courses), tuple(place.known.planned))


async def _hive_on(unit: UnitOfWork, hive_id: UUID, day: date, recorded: set[UUID]) -> HiveState:
    now = await state_of_hive(unit, hive_id)
    boxes = list(now.boxes)
    if day < unit.today:
        boxes = await hives.boxes_of_hive(unit.connection, hive_id, day) or boxes
    gone = recorded - {box.id for box in boxes}
    if gone:
        boxes = _in_order([*boxes, *await hives.boxes_by_id(unit.connection, list(gone))])
    return replace(now, boxes=boxes)


def _in_order(boxes: Sequence[PlacedBox]) -> list[PlacedBox]:
    return sorted(boxes, key=lambda box: (box.position, box.since))


def _hanging(frame: Frame) -> HangingFrame | None:
    if frame.box_id is None or frame.slot is None:
        return None
    return HangingFrame(frame.id, frame.box_id, frame.slot, frame.kind, frame.frame_format, frame.comb_year)


def seen_frames(hive: HiveState | None, records: Sequence[VisitFrame]) -> list[SeenFrame]:
    """Records as the rules read them: boxes with frames count from the floor."""
    boxes = {box.id: (number, box) for number, box in enumerate(framed_boxes(hive), start=1)}
    return [
        SeenFrame(
            boxes[one.box_id][0],
            one.slot,
            boxes[one.box_id][1].frame_format or "",
            one.record,
            one.box_id,
            one.frame_id,
        )
        for one in records
        if one.box_id in boxes
    ]


def _as_placed(hive: HiveState | None, previous: Sequence[SeenFrame]) -> list[SeenFrame]:
    """Frames of an earlier visit under the number that their box has now; a box that is gone keeps its own."""
    numbers = {box.id: number for number, box in enumerate(framed_boxes(hive), start=1)}
    return [replace(one, box=numbers.get(one.box_id, one.box) if one.box_id else one.box) for one in previous]


async def round_of(unit: UnitOfWork, apiary_id: UUID) -> list[RoundStop]:
    """The colonies of an apiary in the order in which they are opened, suspects last. Raises NotFound."""
    await places.apiary(unit.connection, apiary_id)
    return await store.round_of_apiary(unit.connection, apiary_id, unit.today)
