"""Colonies: added, visited, split, merged, renumbered, moved, requeened; and what a colony's screen shows."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from typing import Literal
from uuid import UUID, uuid4

from redframe.core.colonies.queens import MarkColour, mark_colour
from redframe.core.errors import InvalidInput
from redframe.store import colonies as store
from redframe.store import hives, places, queens, visits
from redframe.store.colonies import Colony, ColonyOverview
from redframe.store.visits import Visit
from redframe.work.colonies.read import QueenView, _queen_view
from redframe.work.roles import require
from redframe.work.unit_of_work import Work

ColonyState = Literal["alive", "queenless", "dead", "merged", "gone"]


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
        known = {box.id for box in await hives.hives_of_apiary(work.connection, apiary_id)}
        if hive_id is not None and hive_id not in known:
            raise InvalidInput("hive_id", "is not a hive of this apiary", code="unknown")
        home = hive_id
        if home is None and boxes:
            home = uuid4()
            await hives.add_hive(work.connection, home, apiary_id, hive_type, boxes, since)
        await _label_is_free(work, apiary_id, label, None)
        await store.add_colony(
            work.connection, id=colony_id, apiary_id=apiary_id, hive_id=home, label=label, since=since, note=note
        )
        if queen is not None:
            await queens.add_queen(work.connection, id=uuid4(), colony_id=colony_id, **queen)
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
            await queens.retire_queen(work.connection, colony_id, state_since)
    return await store.colony_overview(work.connection, colony_id, work.today)


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
        await queens.retire_queen(work.connection, colony_id, since)
        await queens.add_queen(work.connection, id=uuid4(), since=since, **fields)
    else:
        await queens.amend_queen(work.connection, version=version, **fields)
    return [_queen_view(queen) for queen in await queens.queens_of_colony(work.connection, colony_id)]


async def record_visit(work: Work, visit_id: UUID, *, colony_id: UUID, visited_on: date, **found: object) -> Visit:
    """Record once what a visit found of the colony as a whole."""
    require(work.who, "record")
    await store.colony(work.connection, colony_id)
    _not_in_future(work, "visited_on", visited_on)
    if await work.accept(visit_id, "visit", {"colony": colony_id, "on": visited_on, **found}):
        await visits.add_visit(work.connection, id=visit_id, colony_id=colony_id, visited_on=visited_on, **found)
    recorded = await visits.visits_of_colonies(work.connection, [colony_id], visited_on)
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
