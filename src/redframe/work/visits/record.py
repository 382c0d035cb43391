"""The visit: opened as a draft, saved piece by piece from any device, closed, and amended with a reason from then
on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from uuid import UUID, uuid5

from redframe.core.cases.states import CaseDisease
from redframe.core.colonies.hive_state import HiveState
from redframe.core.disease.conditions import conditions
from redframe.core.disease.safety import RAISES, Flag
from redframe.core.errors import InvalidInput
from redframe.core.sampling.board import BoardSample
from redframe.core.visits.assessment import framed_boxes
from redframe.core.visits.record import After, Before, FrameRecord
from redframe.core.visits.summary import VisitSummary, summarise
from redframe.store import colonies, frames, sampling
from redframe.store import visits as store
from redframe.store.errors import NOT_UNDONE, Conflict
from redframe.store.visits import Part, VisitRecord
from redframe.wording.sentences import word
from redframe.work.cases.record import raise_suspicion
from redframe.work.roles import require
from redframe.work.sampling.record import NewCount, amend_count, record_count
from redframe.work.to_json import to_json
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.visits.read import VisitView, seen_frames, view_of, visit_view

RAISED_BY: dict[Flag, CaseDisease] = {
    "AFB_SUSPECT": "afb",
    "EFB_SUSPECT": "efb",
    "EXOTIC_MITE": "tropilaelaps",
    "SHB_REPORT": "small_hive_beetle",
}
"""The disease of which a flag raises a case."""


@dataclass(frozen=True, slots=True)
class FrameEntry:
    """What was seen in a slot; `version` is that of the entry it replaces, 0 for a new one."""

    box_id: UUID
    slot: int
    version: int
    record: FrameRecord


async def open_visit(unit: UnitOfWork, visit_id: UUID, colony_id: UUID, opened_at: datetime) -> VisitView:
    """Open a visit, or the draft that somebody has open already: what one began the other goes on with.

    Raises InvalidInput for a moment in the future or before the last visit, Conflict for a colony that does not live.
    """
    require(unit.who, "record")
    colony = await colonies.colony_for_update(unit.connection, colony_id)
    draft = await store.draft_of_colony(unit.connection, colony_id)
    if draft is not None:
        return await visit_view(unit, draft)
    if not await unit.accept(visit_id, "open_visit", {"colony": colony_id}):
        return await visit_view(unit, visit_id)
    if not colony.is_living:
        raise Conflict(f"this colony is {colony.state}")
    visited_on = unit.day_of(opened_at)
    if opened_at > unit.now + timedelta(minutes=5):
        raise InvalidInput("opened_at", "lies in the future", code="out_of_range")
    last = await store.visits_to_compare(unit.connection, visit_id, colony_id, unit.today)
    if last and visited_on < last[0].visited_on:
        raise InvalidInput(
            "opened_at", f"lies before the last visit of {last[0].visited_on}: amend that one", code="out_of_range"
        )
    if colony.hive_id is None:
        raise InvalidInput("colony_id", "say first in which boxes it lives", code="missing")
    await store.open_visit(
        unit.connection, id=visit_id, colony_id=colony_id, visited_on=visited_on, opened_at=opened_at
    )
    await frames.fill_boxes(unit.connection, colony.hive_id)
    return await visit_view(unit, visit_id)


async def record_visit(
    unit: UnitOfWork, visit_id: UUID, *, colony_id: UUID, visited_on: date, after: After
) -> VisitView:
    """Record once a visit that looked at the colony as a whole; it may be entered on a later day.

    One that sets no day for the next leaves the day that was set: a look at one thing takes no visit off the list.

    Raises InvalidInput for a day in the future or on which the colony did not live, and for a visit that says nothing.
    """
    require(unit.who, "record")
    colony = await colonies.colony_for_update(unit.connection, colony_id)
    if visited_on > unit.today:
        raise InvalidInput("visited_on", "lies in the future", code="out_of_range")
    if not colony.is_living and visited_on > colony.state_since:
        raise InvalidInput("visited_on", f"this colony is {colony.state} since {colony.state_since}")
    given = after.model_dump(mode="json", exclude_defaults=True)
    if not given:
        raise InvalidInput("after", "nothing is recorded yet", code="missing")
    if await unit.accept(visit_id, "visit", {"colony": colony_id, "on": visited_on, "after": given}):
        after = await _with_the_day_set(unit, colony_id, visited_on, after)
        content = after.model_dump(mode="json", exclude_defaults=True)
        view = await view_of(
            unit, VisitRecord(visit_id, colony_id, visited_on, "closed", None, unit.now, Before(), 0, after, 1, 1, "")
        )
        await store.add_closed_visit(
            unit.connection, visit_id, colony_id, visited_on, after=content, place=to_json(view.place),
            closed_at=unit.now, summary=_summary_of(view),
        )  # fmt: skip
        await _raise_suspicion(unit, view)
    return await visit_view(unit, visit_id)


async def _with_the_day_set(unit: UnitOfWork, colony_id: UUID, visited_on: date, after: After) -> After:
    """What was recorded, with the day that the visit before it set where it sets none itself."""
    last = await store.next_visit_set(unit.connection, colony_id)
    if after.next_visit is not None or last is None or last.next_visit is None or last.visited_on > visited_on:
        return after
    day = max(last.next_visit, visited_on)
    return after.model_copy(update={"next_visit": day, "next_why": after.next_why or last.why})


async def save_part(unit: UnitOfWork, visit_id: UUID, part: Part, version: int, content: Before | After) -> VisitView:
    """Save what was recorded before opening or after the last frame.

    A closed visit needs a reason on the transaction. Raises Conflict with the part's name when somebody else has saved
    other content since `version`; the same content again is accepted.
    """
    require(unit.who, "record")
    visit = await store.visit(unit.connection, visit_id, hold=True)
    _check_not_dropped(visit)
    saved = visit.before if part == "before" else visit.after
    if content != saved:
        if isinstance(content, After) and content.next_visit is not None and content.next_visit < visit.visited_on:
            raise InvalidInput("next_visit", "lies before this visit", code="out_of_range")
        given = to_json(content.model_dump(mode="json", exclude_defaults=True))
        await store.save_part(unit.connection, visit_id, part, version, given)
    return await _settled(unit, visit_id)


async def save_frames(unit: UnitOfWork, visit_id: UUID, entries: Sequence[FrameEntry]) -> VisitView:
    """Save what was seen in these slots, all or none.

    Raises InvalidInput for a slot that is not there and for a second queen that nobody spoke of; Conflict when somebody
    else has recorded the slot since its `version`; the same content again is accepted.
    """
    require(unit.who, "record")
    visit = await store.visit(unit.connection, visit_id, hold=True)
    _check_not_dropped(visit)
    view = await visit_view(unit, visit_id)
    hive = view.place.hive
    boxes = {box.id: box for box in framed_boxes(hive)}
    frame_at = {(frame.box_id, frame.slot): frame.id for frame in view.place.frames}
    saved = {(one.box_id, one.slot): one for one in view.records}
    queens = {key for key, one in saved.items() if one.record.queen}
    for number, entry in enumerate(entries):
        key = (entry.box_id, entry.slot)
        box = boxes.get(entry.box_id)
        if (box is None or not 1 <= entry.slot <= box.frames) and key not in saved:
            raise InvalidInput(f"frames[{number}].slot", "there is no such slot in this hive", code="unknown")
        if hive is not None and _belongs_to_another(hive, entry.slot, visit.colony_id):
            raise InvalidInput(f"frames[{number}].slot", "hangs on the other side of the divider", code="refused")
        if entry.record.queen and queens - {key} and not visit.after.two_queens:
            raise InvalidInput(
                f"frames[{number}].record.queen", "she was seen on another frame: say if there are two", code="taken"
            )
        queens = (queens | {key}) if entry.record.queen else (queens - {key})
        if key in saved and saved[key].record == entry.record:
            continue
        given = to_json(entry.record.model_dump(mode="json", exclude_defaults=True))
        await store.save_frame(
            unit.connection, visit_id=visit_id, box_id=entry.box_id, slot=entry.slot, colony_id=visit.colony_id,
            frame_id=frame_at.get(key), version=entry.version, record=given,
        )  # fmt: skip
    return await _settled(unit, visit_id)


def _belongs_to_another(hive: HiveState, slot: int, colony_id: UUID) -> bool:
    divided = len(hive.colonies) > 1 and hive.hive.divided_after is not None
    return divided and hive.owner(slot) != colony_id


async def _settled(unit: UnitOfWork, visit_id: UUID) -> VisitView:
    """The visit after something was saved; of a closed one the summary follows."""
    view = await visit_view(unit, visit_id)
    return await _replace_summary(unit, view) if view.visit.state == "closed" else view


def _check_not_dropped(visit: VisitRecord) -> None:
    if visit.state == "dropped":
        raise Conflict("this draft was dropped")


async def close_visit(unit: UnitOfWork, visit_id: UUID) -> VisitView:
    """Close a visit; the day of the next one is taken from the season and the findings where nobody set it.

    Raises InvalidInput for a queen still in her cage and for a visit that says nothing; Conflict when it is closed.
    """
    require(unit.who, "record")
    visit = await store.visit(unit.connection, visit_id, hold=True)
    _check_not_dropped(visit)
    if visit.state == "closed":
        raise Conflict("this visit is closed: amend it, and say why")
    after = visit.after
    if after.queen_caged and not after.queen_released:
        raise InvalidInput("queen_released", "the queen was caged: set her free first, and say so", code="missing")
    view = await visit_view(unit, visit_id)
    if not view.records and after == After() and visit.before == Before():
        raise InvalidInput("after", "nothing is recorded yet", code="missing")
    if after.next_visit is None:
        suggested = view.assessment.suggested
        after = after.model_copy(
            update={"next_visit": suggested.on, "next_why": after.next_why or word("next_visit", suggested.why)}
        )
        content = to_json(after.model_dump(mode="json", exclude_defaults=True))
        await store.save_part(unit.connection, visit_id, "after", visit.after_version, content)
        view = replace(view, visit=replace(visit, after=after))
    return await _replace_summary(unit, view)


async def _replace_summary(unit: UnitOfWork, view: VisitView) -> VisitView:
    """Close the visit, or settle it again: lists, options and treatments read the summary that is written here."""
    visit = view.visit
    await store.close_visit(unit.connection, visit.id, _summary_of(view), to_json(view.place), unit.now)
    await _record_board(unit, view)
    await _raise_suspicion(unit, view)
    return await visit_view(unit, visit.id, view.compared_with.id if view.compared_with else None)


async def _raise_suspicion(unit: UnitOfWork, view: VisitView) -> None:
    """What the rules suspect of a closed visit becomes a case; only an inspector ends it."""
    visit, reading = view.visit, view.assessment.disease
    if reading is not None and reading.raises_case:
        suspected = {
            RAISED_BY[flag]: [
                rule.id
                for rule in reading.rules
                if rule.id in RAISES and conditions()[RAISED_BY[flag]].name in rule.names
            ]
            for flag in reading.flags
            if flag in RAISED_BY
        }
        await raise_suspicion(unit, visit.colony_id, visit.visited_on, suspected, visit_id=visit.id)


def _summary_of(view: VisitView) -> VisitSummary:
    hive = view.place.hive
    return summarise(
        seen_frames(hive, view.records),
        view.visit.after,
        view.assessment.estimates,
        view.assessment.suspicious,
        supers_stand=any(box.purpose == "super" for box in framed_boxes(hive)),
    )


async def _record_board(unit: UnitOfWork, view: VisitView) -> None:
    """A board read before opening is a count like any other: recorded with the visit, amended with it."""
    before, visit = view.visit.before, view.visit
    count_id = uuid5(visit.id, "board")
    recorded = await sampling.counts_of_colonies(unit.connection, [visit.colony_id], visit.visited_on)
    known = next((one for one in recorded if one.id == count_id), None)
    if before.board_mites is None or before.board_days is None or visit.opened_at is None:
        if known is not None:
            raise InvalidInput("board_mites", "is on record as a count: correct the number", code="missing")
        return
    sample = BoardSample(
        placed_at=visit.opened_at - timedelta(days=before.board_days),
        removed_at=visit.opened_at,
        squares=(before.board_mites,),
        squares_in_all=1,
        cleaned=before.board_cleaned or "not_looked",
        greased="not_looked",
        ants="not_looked",
    )
    new = NewCount(count_id, visit.colony_id, visit.opened_at, sample, note="read at the visit")
    if known is None:
        await record_count(unit, new)
    elif new.details(visit.visited_on).squares != known.squares or known.placed_at != sample.placed_at:
        await amend_count(unit, count_id, known.version, new)


async def reopen_visit(unit: UnitOfWork, visit_id: UUID) -> VisitView:
    """Undo the closing of a visit a short while ago: it is a draft again, with all that it recorded.

    Raises NotFound, and Conflict where somebody else closed it, it is too long ago or was amended since, or where the
    colony has been opened again.
    """
    require(unit.who, "record")
    visit = await store.visit(unit.connection, visit_id, hold=True)
    if await store.draft_of_colony(unit.connection, visit.colony_id) is not None:
        raise Conflict("this colony was opened again meanwhile")
    if not await store.reopen_visit(unit.connection, visit_id):
        raise Conflict(NOT_UNDONE)
    return await visit_view(unit, visit_id)


async def drop_visit(unit: UnitOfWork, visit_id: UUID) -> None:
    """Drop a draft that was opened by mistake. Raises Conflict for a closed visit."""
    require(unit.who, "record")
    visit = await store.visit(unit.connection, visit_id, hold=True)
    if visit.state == "closed":
        raise Conflict("this visit is closed: amend it, and say why")
    await store.drop_visit(unit.connection, visit_id, unit.now)
