"""Colonies: added, visited, split, merged, renumbered, moved, requeened; and what a colony's screen shows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any, Literal
from uuid import UUID, uuid4

from redframe.core.colonies.queens import MarkColour, mark_colour, mark_differs
from redframe.core.errors import InvalidInput
from redframe.core.sampling.board import PooledFall
from redframe.core.sampling.method import Scale
from redframe.store import colonies as store
from redframe.store import places, sampling, visits
from redframe.store.colonies import Colony, ColonyEvent, ColonyOverview, FrameFormat, HiveBox, Queen, Visit
from redframe.store.errors import Conflict
from redframe.store.places import Apiary
from redframe.store.visits import Hold, StandingBox
from redframe.work import frames
from redframe.work.course_view import CourseView, courses_of_colony
from redframe.work.desk import Work
from redframe.work.places import STRIP_AHEAD_DAYS, PhaseBand, phase_bands
from redframe.work.roles import require
from redframe.work.sampling import CountMeaning, meaning_of
from redframe.work.strips import StripCount, axis_of, spans_by_colony, strip_counts
from redframe.work.thresholds import PolicyInForce, policy_in_force
from redframe.work.trends import Trend, boards_together, breaks_of, trend_of

ColonyState = Literal["alive", "queenless", "dead", "merged", "gone"]
Home = Literal["along", "own", "shared"]
"""How a colony is housed where it moves to: its hive goes along, a hive of its own, or one that it shares."""
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
    seen = await store.visits_of_colonies(work.connection, [colony_id], since)
    hives = await store.hives_of_apiary(work.connection, colony.apiary_id)
    oldest = min([count.taken_on for count in counts] + [work.today - timedelta(days=150)])
    first, last = max(oldest, work.today - timedelta(days=420)), work.today + timedelta(days=STRIP_AHEAD_DAYS)
    courses = await courses_of_colony(work, colony_id)
    placed = [(colony_id, item.course.placed_on, item.course.ended_on) for item in courses]
    spans = spans_by_colony(placed)
    breaks = await breaks_of(work, colony_id)
    return ColonyView(
        colony=colony,
        apiary=await places.apiary(work.connection, colony.apiary_id),
        hive=[box for box in hives if box.id == colony.hive_id],
        queens=[_queen_view(queen) for queen in await store.queens_of_colony(work.connection, colony_id)],
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
        hold=await visits.hold_of_colony(work.connection, colony_id),
        policy=policy,
    )


def _queen_view(queen: Queen) -> QueenView:
    expected = mark_colour(queen.year) if queen.year is not None else None
    seen: Any = queen.mark_seen
    return QueenView(queen, expected, mark_differs(queen.year, seen))


async def add_colony(
    work: Work,
    colony_id: UUID,
    *,
    apiary_id: UUID,
    label: str,
    since: date,
    note: str,
    hive_id: UUID | None,
    hive_type: str,
    boxes: Sequence[dict[str, object]],
    queen: dict[str, object] | None,
    split_from: UUID | None,
) -> ColonyOverview:
    """Add a colony once, in a hive of its own or sharing one, with its queen and the colony it was split from."""
    require(work.who, "record")
    await places.apiary(work.connection, apiary_id)
    _not_in_future(work, "since", since)
    content = {"apiary": apiary_id, "label": label, "since": since, "hive": hive_id, "split_from": split_from}
    if await work.accept(colony_id, "colony", content):
        hives = {box.id for box in await store.hives_of_apiary(work.connection, apiary_id)}
        if hive_id is not None and hive_id not in hives:
            raise InvalidInput("hive_id", "is not a hive of this apiary", code="unknown")
        home = hive_id
        if home is None and boxes:
            home = uuid4()
            await store.add_hive(work.connection, home, apiary_id, hive_type, boxes, since)
        await _label_is_free(work, apiary_id, label, None)
        await store.add_colony(
            work.connection, id=colony_id, apiary_id=apiary_id, hive_id=home, label=label, since=since, note=note
        )
        if queen is not None:
            await store.add_queen(work.connection, id=uuid4(), colony_id=colony_id, **queen)
        kind = "started"
        if split_from is not None:
            parent = await store.colony(work.connection, split_from)
            kind = "split_from" if parent.id != colony_id else "started"
        await _event(work, colony_id, kind, since, other=split_from)
    return await store.colony_overview(work.connection, colony_id, work.today)


async def amend_colony(
    work: Work, colony_id: UUID, version: int, *, label: str, state: ColonyState, state_since: date, note: str
) -> ColonyOverview:
    """Renumber a colony or change its state; the history stays with it. Raises Conflict when changed meanwhile."""
    require(work.who, "record")
    before = await store.colony_for_update(work.connection, colony_id)
    _not_in_future(work, "state_since", state_since)
    if label != before.label:
        await _label_is_free(work, before.apiary_id, label, colony_id)
    await _amend(work, before, version, label=label, state=state, state_since=state_since, note=note)
    if label != before.label:
        await _event(work, colony_id, "renumbered", state_since, former=before.label, present=label)
    if state != before.state:
        await _event(work, colony_id, "state", state_since, former=before.state, present=state)
        if state in ("dead", "merged", "gone", "queenless"):
            await store.retire_queen(work.connection, colony_id, state_since)
    return await store.colony_overview(work.connection, colony_id, work.today)


async def merge(work: Work, colony_id: UUID, version: int, into: UUID, on: date, note: str) -> ColonyOverview:
    """Merge a colony into another; its own record ends as merged and both keep their history."""
    require(work.who, "record")
    before = await store.colony_for_update(work.connection, colony_id)
    other = await store.colony(work.connection, into)
    _not_in_future(work, "on", on)
    if other.id == colony_id:
        raise InvalidInput("into", "a colony cannot be merged into itself")
    if other.state not in ("alive", "queenless"):
        raise InvalidInput("into", f"colony {other.label} is {other.state}")
    if before.state not in ("alive", "queenless"):
        raise Conflict(f"this colony is {before.state} already")
    await _amend(work, before, version, label=before.label, state="merged", state_since=on, note=before.note)
    await store.retire_queen(work.connection, colony_id, on)
    await _event(work, colony_id, "merged_into", on, other=into, note=note)
    return await store.colony_overview(work.connection, colony_id, work.today)


async def move(
    work: Work,
    colony_id: UUID,
    version: int,
    *,
    apiary_id: UUID,
    hive: Home,
    hive_id: UUID | None,
    hive_type: str,
    boxes: Sequence[dict[str, object]],
    label: str,
    on: date,
    note: str,
) -> ColonyOverview:
    """Move a colony to another apiary or into another hive; its history goes with it.

    `hive` says how: "along" takes its hive with it, "own" puts it into a new hive of `boxes`, "shared" into `hive_id`.
    Raises InvalidInput naming the field for a hive that it cannot take or a label that is taken there, Conflict when
    the colony has changed since `version`.
    """
    require(work.who, "record")
    before = await store.colony_for_update(work.connection, colony_id)
    there = await places.apiary(work.connection, apiary_id)
    here = await places.apiary(work.connection, before.apiary_id)
    _not_in_future(work, "on", on)
    if before.state not in ("alive", "queenless"):
        raise Conflict(f"this colony is {before.state}")
    await _label_is_free(work, apiary_id, label, colony_id)
    if hive == "along":
        if apiary_id == before.apiary_id:
            raise InvalidInput("apiary_id", "it stands there already", code="unchanged")
        home = before.hive_id
        if home is not None:
            shared = await _others_in(work, before)
            if shared:
                raise InvalidInput("hive", f"{', '.join(shared)} lives in this hive too: choose another hive for it")
            await store.move_hive(work.connection, home, apiary_id)
    elif hive == "shared":
        if hive_id is None or hive_id not in {
            box.id for box in await store.hives_of_apiary(work.connection, apiary_id)
        }:
            raise InvalidInput("hive_id", "is not a hive of that apiary", code="unknown")
        if hive_id == before.hive_id:
            raise InvalidInput("hive_id", "it lives in this hive already", code="unchanged")
        home = hive_id
    else:
        if not boxes:
            raise InvalidInput("boxes", "say which boxes the new hive has", code="missing")
        home = uuid4()
        await store.add_hive(work.connection, home, apiary_id, hive_type, boxes, on)
    await _amend(
        work, before, version, label=label, state=before.state, state_since=before.state_since, note=before.note,
        apiary_id=apiary_id, hive_id=home,
    )  # fmt: skip
    await _event(work, colony_id, "moved", on, former=here.name, present=there.name, note=note)
    if label != before.label:
        await _event(work, colony_id, "renumbered", on, former=before.label, present=label)
    return await store.colony_overview(work.connection, colony_id, work.today)


async def _others_in(work: Work, colony: Colony) -> list[str]:
    boxes = await store.hives_of_apiary(work.connection, colony.apiary_id)
    labels = next((box.labels or [] for box in boxes if box.id == colony.hive_id), [])
    return [label for label in labels if label != colony.label]


@dataclass(frozen=True, slots=True)
class Divider:
    """What parts two colonies in one hive: it stands after a slot and the colony spoken of lives on a side of it.

    Both are None where no divider parts them (any more).
    """

    after: int | None = None
    side: Literal["left", "right"] | None = None


async def amend_hive(
    work: Work,
    colony_id: UUID,
    version: int,
    *,
    hive_type: str,
    boxes: Sequence[dict[str, Any]],
    on: date,
    floor: str | None = None,
    numbered_from: str | None = None,
    divider: Divider | None = None,
) -> ColonyOverview:
    """Record the boxes of a colony's hive as they stand from a day on (`version` is the hive's; 0 where it has none).

    What stood there before keeps its days; the frames of a box that is taken off go into store. Raises Conflict when
    the hive has changed meanwhile, InvalidInput for a box that does not stand there. Floor, numbering and divider stay
    as they are where they are None.
    """
    require(work.who, "record")
    colony = await store.colony_for_update(work.connection, colony_id)
    _not_in_future(work, "on", on)
    if colony.hive_id is None:
        home = uuid4()
        await store.add_hive(work.connection, home, colony.apiary_id, hive_type, boxes, on)
        await _amend(
            work, colony, colony.version, label=colony.label, state=colony.state, state_since=colony.state_since,
            note=colony.note, hive_id=home,
        )  # fmt: skip
    else:
        standing = await visits.boxes_of_hive(work.connection, colony.hive_id)
        latest = max((box.since for box in standing), default=on)
        if on < latest:
            raise InvalidInput("on", f"its boxes were last changed on {latest}", code="out_of_range")
        present = await visits.hive(work.connection, colony.hive_id)
        kept = keep_identity(standing, boxes)
        await store.amend_hive(
            work.connection, colony.hive_id, version, hive_type=hive_type, floor=floor or present.floor,
            numbered_from=numbered_from or present.numbered_from,
            divided_after=divider.after if divider is not None else present.divided_after,
        )  # fmt: skip
        staying = {box.get("id") for box in kept}
        await frames.into_store(work, present, [box.id for box in standing if box.id not in staying], on)
        await store.lay_boxes(work.connection, colony.hive_id, kept, on)
        if divider is not None:
            await store.set_side(work.connection, colony.hive_id, colony_id, divider.side)
    return await store.colony_overview(work.connection, colony_id, work.today)


def keep_identity(standing: Sequence[StandingBox], boxes: Sequence[dict[str, Any]]) -> list[dict[str, Any]]:
    """The wanted boxes with the ids of those that stand: by id, or where none is given the like box at the same place.

    Raises InvalidInput for a box that does not stand there, stands twice, or would change its frames.
    """
    known = {box.id: box for box in standing}
    named = [box["id"] for box in boxes if box.get("id") is not None]
    kept: list[dict[str, Any]] = []
    for number, box in enumerate(boxes):
        like = (box["purpose"], box.get("frame_format"), box.get("frames", 0))
        wanted = box.get("id")
        if wanted is not None:
            found = known.get(wanted)
            if found is None or named.count(wanted) > 1:
                raise InvalidInput(f"boxes[{number}].id", "is not a box of this hive", code="unknown")
            if (found.frame_format, found.frames) != like[1:]:
                raise InvalidInput(f"boxes[{number}].frames", "a box that stays keeps its frames: add another box")
        else:
            same = (one for one in standing if one.position == number + 1 and one.id not in named)
            found = next((one for one in same if (one.purpose, one.frame_format, one.frames) == like), None)
        kept.append({**box, "id": found.id if found is not None else None})
    return kept


async def frame_formats(work: Work) -> list[FrameFormat]:
    """The frame formats that a box may have."""
    return await store.frame_formats(work.connection)


async def _amend(
    work: Work,
    before: Colony,
    version: int,
    *,
    label: str,
    state: str,
    state_since: date,
    note: str,
    apiary_id: UUID | None = None,
    hive_id: UUID | None = None,
) -> None:
    await store.amend_colony(
        work.connection,
        id=before.id,
        version=version,
        label=label,
        state=state,
        state_since=state_since,
        apiary_id=apiary_id or before.apiary_id,
        hive_id=hive_id or before.hive_id,
        note=note,
    )


async def set_queen(
    work: Work,
    colony_id: UUID,
    *,
    new: bool,
    version: int,
    year: int | None,
    mark_seen: MarkColour | None,
    status: str,
    since: date,
    laying_since: date | None,
    release_on: date | None,
) -> list[QueenView]:
    """Put a new queen in office, or amend the present one (`version` is hers)."""
    require(work.who, "record")
    await store.colony_for_update(work.connection, colony_id)
    _not_in_future(work, "since", since)
    if year is not None:
        mark_colour(year)
    fields = {
        "colony_id": colony_id,
        "year": year,
        "mark_seen": mark_seen,
        "status": status,
        "laying_since": laying_since,
        "release_on": release_on,
    }
    if new:
        await store.retire_queen(work.connection, colony_id, since)
        await store.add_queen(work.connection, id=uuid4(), since=since, **fields)
    else:
        await store.amend_queen(work.connection, version=version, **fields)
    return [_queen_view(queen) for queen in await store.queens_of_colony(work.connection, colony_id)]


async def record_visit(work: Work, visit_id: UUID, *, colony_id: UUID, visited_on: date, **found: object) -> Visit:
    """Record once what a visit found of the colony as a whole."""
    require(work.who, "record")
    await store.colony(work.connection, colony_id)
    _not_in_future(work, "visited_on", visited_on)
    if await work.accept(visit_id, "visit", {"colony": colony_id, "on": visited_on, **found}):
        await store.add_visit(work.connection, id=visit_id, colony_id=colony_id, visited_on=visited_on, **found)
    recorded = await store.visits_of_colonies(work.connection, [colony_id], visited_on)
    return next(visit for visit in recorded if visit.id == visit_id)


async def _label_is_free(work: Work, apiary_id: UUID, label: str, own: UUID | None) -> None:
    found = await store.colonies_of_apiary(work.connection, apiary_id, work.today)
    taken = (one for one in found if one.label == label and one.state in ("alive", "queenless") and one.id != own)
    if next(taken, None) is not None:
        raise InvalidInput("label", f"another living colony here is {label}", code="taken")


def _not_in_future(work: Work, field: str, day: date) -> None:
    if day > work.today:
        raise InvalidInput(field, "lies in the future", code="out_of_range")


async def _event(
    work: Work, colony_id: UUID, kind: str, on: date, *, other: UUID | None = None, former: str = "", present: str = "",
    note: str = "",
) -> None:  # fmt: skip
    await store.add_event(
        work.connection,
        id=uuid4(),
        colony_id=colony_id,
        kind=kind,
        happened_on=on,
        other_colony_id=other,
        former=former,
        present=present,
        note=note,
    )
