"""The visit: opened as a draft, kept piece by piece from any device, closed, and amended with a reason from then on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import Literal
from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.core.inputs import read
from redframe.core.visits.estimates import Estimates
from redframe.core.visits.queen import (
    brood_ages,
)
from redframe.core.visits.record import After, Before, FrameRecord
from redframe.store import colonies, frames
from redframe.store import visits as store
from redframe.store.errors import Conflict
from redframe.store.visits import OpenVisit
from redframe.work.roles import require
from redframe.work.to_json import plain
from redframe.work.unit_of_work import Work
from redframe.work.visits.read import (
    VisitView,
    _standing,
    seen_frames,
    visit_view,
)

Part = Literal["before", "after"]


@dataclass(frozen=True, slots=True)
class FrameEntry:
    """What was seen in a slot; `version` is that of the entry it replaces, 0 for a new one."""

    box_id: UUID
    slot: int
    version: int
    record: FrameRecord


async def open_visit(work: Work, visit_id: UUID, colony_id: UUID, opened_at: datetime) -> VisitView:
    """Open a visit, or the draft that somebody has open already: what one began the other goes on with.

    Raises InvalidInput for a moment in the future or before the last visit, Conflict for a colony that does not live.
    """
    require(work.who, "record")
    colony = await colonies.colony_for_update(work.connection, colony_id)
    draft = await store.draft_of_colony(work.connection, colony_id)
    if draft is not None:
        return await visit_view(work, draft)
    if not await work.accept(visit_id, "open_visit", {"colony": colony_id}):
        return await visit_view(work, visit_id)
    if colony.state not in ("alive", "queenless"):
        raise Conflict(f"this colony is {colony.state}")
    visited_on = work.day_of(opened_at)
    if opened_at > work.now + timedelta(minutes=5):
        raise InvalidInput("opened_at", "lies in the future", code="out_of_range")
    last = await store.visits_to_compare(work.connection, visit_id, colony_id, work.today)
    if last and visited_on < last[0].visited_on:
        raise InvalidInput(
            "opened_at", f"lies before the last visit of {last[0].visited_on}: amend that one", code="out_of_range"
        )
    await store.open_visit(
        work.connection, id=visit_id, colony_id=colony_id, visited_on=visited_on, opened_at=opened_at
    )
    if colony.hive_id is not None:
        await frames.lay_frames(work.connection, colony.hive_id)
    return await visit_view(work, visit_id)


async def keep_part(work: Work, visit_id: UUID, part: Part, version: int, content: Before | After) -> VisitView:
    """Keep what was recorded before opening or after the last frame.

    A closed visit needs a reason on the transaction. Raises Conflict with the part's name when somebody else has kept
    other content since `version`; the same content again is accepted.
    """
    require(work.who, "record")
    visit = await store.visit(work.connection, visit_id, hold=True)
    _check_alive(visit)
    given = plain(content.model_dump(mode="json", exclude_defaults=True))
    present = visit.before if part == "before" else visit.after
    if given != present:
        if isinstance(content, After) and content.next_visit is not None and content.next_visit < visit.visited_on:
            raise InvalidInput("next_visit", "lies before this visit", code="out_of_range")
        await store.keep_part(work.connection, visit_id, part, version, given)
    return await _settled(work, visit_id)


async def keep_frames(work: Work, visit_id: UUID, entries: Sequence[FrameEntry]) -> VisitView:
    """Keep what was seen in these slots, all or none.

    Raises InvalidInput for a slot that is not there and for a second queen that nobody spoke of; Conflict when somebody
    else has recorded the slot since its `version`; the same content again is accepted.
    """
    require(work.who, "record")
    visit = await store.visit(work.connection, visit_id, hold=True)
    _check_alive(visit)
    colony = await colonies.colony_overview(work.connection, visit.colony_id, work.today)
    standing = await _standing(work, colony)
    boxes = {box.id: box for box in standing.boxes}
    hanging = await frames.frames_of_boxes(work.connection, list(boxes))
    frame_at = {(frame.box_id, frame.slot): frame.id for frame in hanging}
    kept = {(one.box_id, one.slot): one for one in await store.frames_of_visits(work.connection, [visit_id])}
    after = read(After, visit.after)
    queens = {key for key, one in kept.items() if one.record.get("queen")}
    for number, entry in enumerate(entries):
        key = (entry.box_id, entry.slot)
        box = boxes.get(entry.box_id)
        if (box is None or not 1 <= entry.slot <= box.frames) and key not in kept:
            raise InvalidInput(f"frames[{number}].slot", "there is no such slot in this hive", code="unknown")
        divided = len(standing.dwellers) > 1 and standing.hive.divided_after is not None
        if divided and standing.owner(entry.slot) != colony.id:
            raise InvalidInput(f"frames[{number}].slot", "hangs on the other side of the divider", code="refused")
        if entry.record.queen and queens - {key} and not after.two_queens:
            raise InvalidInput(
                f"frames[{number}].record.queen", "she was seen on another frame: say if there are two", code="taken"
            )
        queens = (queens | {key}) if entry.record.queen else (queens - {key})
        given = plain(entry.record.model_dump(mode="json", exclude_defaults=True))
        if key in kept and kept[key].record == given:
            continue
        await store.keep_frame(
            work.connection, visit_id=visit_id, box_id=entry.box_id, slot=entry.slot, colony_id=visit.colony_id,
            frame_id=frame_at.get(key), version=entry.version, record=given,
        )  # fmt: skip
    return await _settled(work, visit_id)


async def _settled(work: Work, visit_id: UUID) -> VisitView:
    """The visit as it stands after something was kept; of a closed one the summary follows."""
    view = await visit_view(work, visit_id)
    return await _lay_summary(work, view) if view.visit.state == "closed" else view


def _check_alive(visit: OpenVisit) -> None:
    if visit.state == "dropped":
        raise Conflict("this draft was dropped")


async def close_visit(work: Work, visit_id: UUID) -> VisitView:
    """Close a visit; the day of the next one is taken from the season and the findings where nobody set it.

    Raises InvalidInput for a queen still in her cage and for a visit that says nothing; Conflict when it is closed.
    """
    require(work.who, "record")
    visit = await store.visit(work.connection, visit_id, hold=True)
    _check_alive(visit)
    if visit.state == "closed":
        raise Conflict("this visit is closed: amend it, and say why")
    after = read(After, visit.after)
    if after.queen_caged and not after.queen_released:
        raise InvalidInput("queen_released", "the queen was caged: set her free first, and say so", code="missing")
    view = await visit_view(work, visit_id)
    if not view.records and not visit.after and not visit.before:
        raise InvalidInput("after", "nothing is recorded yet", code="missing")
    if after.next_visit is None:
        suggested = view.reading.suggested
        content = {**visit.after, "next_visit": suggested.on.isoformat(), "next_why": after.next_why or suggested.why}
        await store.keep_part(work.connection, visit_id, "after", visit.after_version, content)
        view = replace(view, visit=replace(visit, after=content))
    return await _lay_summary(work, view)


async def _lay_summary(work: Work, view: VisitView) -> VisitView:
    """Close the visit, or settle it again: lists, options and treatments read the summary that is laid here."""
    after, told = read(After, view.visit.after), view.reading.told
    frames = seen_frames(view.standing, view.records)
    ages = brood_ages(frames, after)
    strength, unit = _strength(after, told)
    queen_seen = after.queen == "seen" or any(frame.record.queen for frame in frames)
    supers = [frame for frame in view.standing.boxes if frame.purpose == "super"]
    await store.close_visit(
        work.connection,
        id=view.visit.id,
        closed_at=work.now,
        strength=strength,
        strength_unit=unit,
        capped_brood="unknown" if ages.capped is None else "yes" if ages.capped else "no",
        eggs_seen=ages.eggs if after.queen != "eggs_only" else True,
        queen_seen=queen_seen if after.queen is not None or frames else None,
        supers_on=after.supers_on if after.supers_on is not None else True if supers else None,
        fed=None if after.feed is None else after.feed != "none",
        note=after.note,
        frames_of_bees=told.frames_of_bees,
        frames_of_brood=after.frames_of_brood if after.frames_of_brood is not None else told.frames_of_brood,
        capped_cells=told.capped.value if told.capped is not None else None,
        stores_kg=told.stores_kg.value if told.stores_kg is not None else None,
        temper=after.temper,
        pattern_empty_pct=after.pattern_empty_pct,
        suspicious=list(view.reading.suspicious),
        next_visit=after.next_visit,
    )
    return replace(
        view,
        visit=await store.visit(work.connection, view.visit.id),
        colony=await colonies.colony_overview(work.connection, view.visit.colony_id, work.today),
    )


def _strength(after: After, told: Estimates) -> tuple[float | None, str | None]:
    if after.frames_of_bees:
        return after.frames_of_bees, "frames"
    if after.seams_of_bees:
        return after.seams_of_bees, "seams"
    return (told.frames_of_bees, "frames") if told.frames_of_bees else (None, None)


async def drop_visit(work: Work, visit_id: UUID) -> None:
    """Drop a draft that was opened by mistake. Raises Conflict for a closed visit."""
    require(work.who, "record")
    visit = await store.visit(work.connection, visit_id, hold=True)
    if visit.state == "closed":
        raise Conflict("this visit is closed: amend it, and say why")
    await store.drop_visit(work.connection, visit_id, work.now)
