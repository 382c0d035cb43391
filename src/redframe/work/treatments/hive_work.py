"""The work at the hive in a course without a product: read as it stands, and recorded act by act."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any
from uuid import UUID, uuid4

from pydantic import TypeAdapter

from redframe.core.colonies.brood_calendar import WINDOW_OPENS
from redframe.core.colonies.hive_state import FrameKind, HiveState
from redframe.core.errors import InvalidInput, Refused
from redframe.core.treatments.hive_work import (
    ActNow,
    HiveWork,
    Writes,
    acts_now,
    check_act,
    edge_of_nest,
    hive_work,
    steps_decided,
    steps_finished,
    where_things_stand,
)
from redframe.core.treatments.overrides import Override
from redframe.core.treatments.progress import said_state
from redframe.core.treatments.states import is_open
from redframe.store import colonies, frames, visits
from redframe.store import hive_work as store
from redframe.store import treatments as courses
from redframe.store.colonies import ColonyLabel
from redframe.store.errors import NOT_UNDONE, AlreadyDone, Conflict, NotFound
from redframe.store.hive_work import HiveActDone
from redframe.store.treatments import Course
from redframe.wording.sentences import written_day
from redframe.work.colonies.changes import not_in_future, release
from redframe.work.roles import require
from redframe.work.to_json import to_json
from redframe.work.treatments.hive_stack import hive_of_colony, own_slots
from redframe.work.treatments.hive_writes import HiveActDetails, Writing, write
from redframe.work.treatments.record import NewAct, check_step, enter_step, undo_act
from redframe.work.unit_of_work import UnitOfWork

TAKES_COMBS: frozenset[Writes] = frozenset({"comb_out", "combs_out", "boxes_off"})
BROOD_SEEN_DAYS = 30
"""So long the combs that a visit found brood on are offered as those with brood."""
DETAILS = TypeAdapter(HiveActDetails)


@dataclass(frozen=True, slots=True)
class Comb:
    """A comb that hangs in the colony; `brood`: what its last visit found on it (None: not looked at)."""

    frame_id: UUID
    box_id: UUID
    slot: int
    kind: FrameKind
    brood: bool | None


@dataclass(frozen=True, slots=True)
class Hatching:
    """Where combs with brood went on to hatch: the label of that colony, and by when its workers have hatched."""

    colony_id: UUID
    label: str
    by: date


@dataclass(frozen=True, slots=True)
class ActView:
    """An act as it stands, what was recorded of it, and where its combs hatch."""

    now: ActNow
    done: HiveActDone | None
    hatching: Hatching | None


@dataclass(frozen=True, slots=True)
class HiveWorkView:
    """The work at the hive of a course: its acts, how things stand, and the hive that it is done at (None: none on
    record) with the colony's own slots of each box and its combs. `edge`: the slot at the edge of each brood nest.
    `old_box_ids`: the brood boxes that stood before the course put one on; `others`: colonies of the apiary with which
    combs may hatch."""

    work: HiveWork
    acts: Sequence[ActView]
    stands: str | None
    hive: HiveState | None
    own_slots: Mapping[UUID, Sequence[int]]
    combs: Sequence[Comb]
    seen_on: date | None
    edge: Mapping[UUID, int]
    old_box_ids: Sequence[UUID]
    others: Sequence[ColonyLabel]


@dataclass(frozen=True, slots=True)
class NewHiveAct:
    """An act as a person reports it; `override` sets aside what speaks against it."""

    id: UUID
    act: str
    done_on: date
    details: HiveActDetails
    note: str
    override: Override | None


async def hive_work_of(unit: UnitOfWork, course_id: UUID) -> HiveWorkView | None:
    """The work at the hive of a course; None where its option has none. Raises NotFound."""
    course = await courses.course(unit.connection, course_id)
    work = hive_work(course.option_id)
    if work is None:
        return None
    done = {one.act: one for one in await store.hive_acts(unit.connection, course_id)}
    recorded = {one.step for one in await courses.acts_of_courses(unit.connection, [course_id])}
    hatching = await _hatching(unit, list(done.values()))
    acts = [
        ActView(one, done.get(one.act.id), hatching.get(one.act.id)) for one in acts_now(work, done.keys(), recorded)
    ]
    hive = await hive_of_colony(unit, course.colony_id)
    combs, seen_on = await _combs(unit, course, hive)
    own = own_slots(hive, course.colony_id)
    edge = {}
    for box in hive.boxes if hive is not None else ():
        brood = {comb.slot for comb in combs if comb.brood and comb.box_id == box.id}
        slot = edge_of_nest(own[box.id], brood) if box.purpose == "brood" else None
        if slot is not None:
            edge[box.id] = slot
    not_so = [name for name, one in done.items() if one.details.get("accepted") is False]
    old = [box for one in done.values() for box in DETAILS.validate_python(one.details).old_box_ids]
    stands = where_things_stand(work, done.keys(), not_so)
    others = await _others(unit, course, hive) if any(one.now.act.writes in TAKES_COMBS for one in acts) else []
    return HiveWorkView(work, acts, stands, hive, own, combs, seen_on, edge, old, others)


async def _hatching(unit: UnitOfWork, done: Sequence[HiveActDone]) -> dict[str, Hatching]:
    """Of each act whose combs hatch elsewhere: where, and by when."""
    sent = {one.act: (details.hatch_with, one.done_on) for one in done
            if (details := DETAILS.validate_python(one.details)).hatch_with is not None}  # fmt: skip
    names = {
        one.id: one.label
        for one in await colonies.colonies_by_id(unit.connection, [to for to, _ in sent.values() if to is not None])
    }
    return {
        act: Hatching(to, names[to], on + timedelta(days=WINDOW_OPENS))
        for act, (to, on) in sent.items()
        if to is not None and to in names
    }


async def _others(unit: UnitOfWork, course: Course, hive: HiveState | None) -> list[ColonyLabel]:
    """The living colonies of the apiary in other hives."""
    colony = await colonies.colony(unit.connection, course.colony_id)
    here = {course.colony_id, *(one.id for one in (hive.colonies if hive is not None else ()))}
    found = await colonies.labels_of_apiary(unit.connection, colony.apiary_id)
    return [one for one in found if one.id not in here]


async def _combs(unit: UnitOfWork, course: Course, hive: HiveState | None) -> tuple[list[Comb], date | None]:
    """The combs that hang in the colony, and the day of the visit that says which of them have brood."""
    if hive is None:
        return [], None
    since = unit.today - timedelta(days=BROOD_SEEN_DAYS)
    seen = await visits.visits_of_colonies(unit.connection, [course.colony_id], since)
    on = {one.id: number for number, one in enumerate(seen)}
    looked = await visits.frames_of_visits(unit.connection, list(on)) if seen else []
    # Of each comb what was seen last; a visit that left it in the box says nothing of it.
    brood: dict[UUID, bool] = {}
    for one in sorted(looked, key=lambda frame: on[frame.visit_id], reverse=True):
        if one.frame_id is not None:
            has_eggs = any(side.has_eggs for side in one.record.sides)
            brood[one.frame_id] = has_eggs or one.record.tenths_of_brood > 0
    hung = await frames.frames_of_boxes(unit.connection, [box.id for box in hive.boxes])
    own = own_slots(hive, course.colony_id)
    order = {box.id: box.position for box in hive.boxes}
    combs = [
        Comb(one.id, one.box_id, one.slot, one.kind, brood.get(one.id))
        for one in hung
        if one.box_id is not None and one.slot is not None and one.slot in own[one.box_id]
    ]
    combs.sort(key=lambda one: (order[one.box_id], one.slot))
    return combs, seen[min(on[one.visit_id] for one in looked)].visited_on if looked else None


async def record_hive_act(unit: UnitOfWork, course_id: UUID, new: NewHiveAct) -> HiveWorkView:
    """Record an act once, with what it changes; the last act of a step records the step.

    Raises Refused with the rule (order, hold, weather, window, another colony in the hive), InvalidInput naming `act`,
    `done_on` or the detail that is missing, AlreadyDone with who and when, NotFound.
    """
    require(unit.who, "record")
    course = await courses.course(unit.connection, course_id)
    work = hive_work(course.option_id)
    if work is None:
        raise NotFound("act")
    if await unit.accept(new.id, "hive_act", {"course": course_id, **to_json(new)}):
        await courses.lock_course(unit.connection, course_id)
        course = await courses.course(unit.connection, course_id)
        await _record(unit, course, work, new)
    view = await hive_work_of(unit, course_id)
    assert view is not None
    return view


async def _record(unit: UnitOfWork, course: Course, work: HiveWork, new: NewHiveAct) -> None:
    on_record = {one.act: one for one in await store.hive_acts(unit.connection, course.id)}
    before = on_record.get(new.act)
    if before is not None:
        who = before.by_name or "somebody"
        raise AlreadyDone(f"recorded before by {who}, done on {before.done_on.isoformat()}")
    if not is_open(course.state):
        raise Refused("closed", f"this course is {said_state(course.state)}: nothing more can be recorded", field="act")
    not_in_future(unit, "done_on", new.done_on)
    recorded = {one.step for one in await courses.acts_of_courses(unit.connection, [course.id])}
    days = {one.act: one.done_on for one in on_record.values()}
    act = check_act(work, new.act, days, recorded, new.done_on)
    why = new.override.reason if new.override is not None else ""
    # What hangs in a colony under suspicion is its evidence: it is not melted by the way.
    await release(unit, "comb_out" if act.writes in TAKES_COMBS else "treat", [course.colony_id], why)
    step = _step_of(course, act.step, new.done_on, new.note, new.override)
    if act.step not in recorded:
        await check_step(unit, course, step)
    colony = await colonies.colony_for_update(unit.connection, course.colony_id)
    if not colony.is_living and new.done_on > colony.state_since:
        text = f"colony {colony.label} is {colony.state} since {written_day(colony.state_since)}"
        raise InvalidInput("done_on", text, code="refused")
    if colony.hive_id is not None:
        await frames.fill_boxes(unit.connection, colony.hive_id)
    earlier: dict[Writes, HiveActDetails] = {
        work.act(one.act).writes: DETAILS.validate_python(one.details) for one in on_record.values()
    }
    said = f"{course.option.name}: {act.title.lower()}"
    writing = Writing(colony, new.done_on, new.details, why, earlier, new.note or said)
    details = await write(unit, act.writes, writing)
    kept = store.NewHiveAct(
        course.colony_id, course.id, act.id, new.done_on, _kept(details), fed=details.feed is not None, note=new.note
    )
    await store.add_hive_act(unit.connection, new.id, kept)
    if act.step not in recorded and act.step in steps_finished(work, {*on_record, act.id}):
        await enter_step(unit, course, step)


def _kept(details: HiveActDetails) -> dict[str, Any]:
    kept: dict[str, Any] = to_json(details)
    return {name: value for name, value in kept.items() if value not in (None, [])}


def _step_of(course: Course, step: str, on: date, note: str, override: Override | None) -> NewAct:
    quantity = (course.dose_quantity or 1) if step.startswith("place_") else None
    return NewAct(uuid4(), step, "done", on, quantity, "", None, note, override)


async def enter_decided(unit: UnitOfWork, course: Course) -> Course:
    """The course, which is broken off now, with the steps recorded whose deciding act is done although others are
    left."""
    work = hive_work(course.option_id)
    if work is None:
        return course
    on_record = {one.act: one for one in await store.hive_acts(unit.connection, course.id)}
    recorded = {one.step for one in await courses.acts_of_courses(unit.connection, [course.id])}
    for step in steps_decided(work, on_record.keys()):
        if step not in recorded:
            last = max(on_record[one.id].done_on for one in work.acts if one.step == step and one.id in on_record)
            await enter_step(unit, course, _step_of(course, step, last, "", None))
            course = await courses.course(unit.connection, course.id)
    return course


async def withdraw_hive_act(unit: UnitOfWork, act_id: UUID, why: str) -> HiveWorkView:
    """Say that an act was not done; what it changed of boxes, combs and queen stays as it is on record.

    Raises NotFound, Conflict when it was withdrawn before, an act that rests on it is on record, or its step is and can
    no longer be taken back.
    """
    require(unit.who, "record")
    course_id = await store.course_of_hive_act(unit.connection, act_id)
    await courses.lock_course(unit.connection, course_id)
    course = await courses.course(unit.connection, course_id)
    work = hive_work(course.option_id)
    assert work is not None
    on_record = await store.hive_acts(unit.connection, course_id)
    withdrawn = next((one for one in on_record if one.id == act_id), None)
    if withdrawn is None:
        raise Conflict("it was withdrawn before")
    act = work.act(withdrawn.act)
    later = [work.act(one.act) for one in on_record if work.acts.index(work.act(one.act)) > work.acts.index(act)]
    if later and not act.optional:
        raise Conflict(f"first take back: {later[-1].title}")
    step = next(
        (one for one in await courses.acts_of_courses(unit.connection, [course_id]) if one.step == act.step), None
    )
    if step is not None and not act.optional:
        if not step.may_undo:
            raise Conflict(NOT_UNDONE)
        await undo_act(unit, course_id, step.id)
    await store.withdraw_hive_act(unit.connection, act_id, why.strip())
    view = await hive_work_of(unit, course_id)
    assert view is not None
    return view
