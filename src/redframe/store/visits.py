"""Visits with their frames, where every frame is and how it came there, photos, holds."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from dataclasses import fields as dataclass_fields
from datetime import date, datetime
from typing import Any, Literal
from uuid import UUID

from psycopg.types.json import Jsonb
from pydantic import TypeAdapter

from redframe.core.inputs import read
from redframe.core.visits.past import Neighbour, PastVisit
from redframe.core.visits.place import VisitPlace
from redframe.core.visits.record import After, Before, Feed, Feeder, FrameRecord, StoresBy, StoresKind
from redframe.core.visits.summary import BroodSeen, StrengthUnit, VisitSummary
from redframe.store.database import Connection, many, maybe, one, run, scalar
from redframe.store.errors import Conflict

VisitState = Literal["draft", "closed", "dropped"]
Part = Literal["before", "after"]


@dataclass(frozen=True, slots=True)
class VisitRecord:
    """A visit as it is recorded: `before` and `after`, each with its own version."""

    id: UUID
    colony_id: UUID
    visited_on: date
    state: VisitState
    opened_at: datetime | None
    closed_at: datetime | None
    before: Before
    before_version: int
    after: After
    after_version: int
    version: int
    by_name: str
    may_reopen: bool = False


@dataclass(frozen=True, slots=True)
class VisitFrame:
    """What a visit recorded of the frame in one slot."""

    visit_id: UUID
    box_id: UUID
    slot: int
    frame_id: UUID | None
    record: FrameRecord
    version: int
    by_name: str
    saved_at: datetime


@dataclass(frozen=True, slots=True)
class _VisitRow:
    id: UUID
    colony_id: UUID
    visited_on: date
    state: VisitState
    opened_at: datetime | None
    closed_at: datetime | None
    before: dict[str, Any]
    before_version: int
    after: dict[str, Any]
    after_version: int
    version: int
    by_name: str
    may_reopen: bool


@dataclass(frozen=True, slots=True)
class _FrameRow:
    visit_id: UUID
    box_id: UUID
    slot: int
    frame_id: UUID | None
    record: dict[str, Any]
    version: int
    by_name: str
    saved_at: datetime


PLACE = TypeAdapter(VisitPlace)


@dataclass(frozen=True, slots=True)
class RoundStop:
    """A colony of a round: whether somebody is at it, when it was opened last, and what makes it a suspect."""

    id: UUID
    label: str
    draft: UUID | None
    last_visit: date | None
    next_visit: date | None
    hold: str | None
    suspicious: list[str]


async def open_visit(
    connection: Connection, *, id: UUID, colony_id: UUID, visited_on: date, opened_at: datetime
) -> None:
    """Open a draft."""
    await run(connection, "open_visit", id=id, colony_id=colony_id, visited_on=visited_on, opened_at=opened_at)


async def reopen_visit(connection: Connection, id: UUID) -> bool:
    """Undo the closing of a visit: it is a draft again. False where it is not to be undone."""
    return await run(connection, "reopen_visit", id=id) == 1


async def draft_of_colony(connection: Connection, colony_id: UUID) -> UUID | None:
    """The draft that somebody has open of a colony, if any."""
    found: UUID | None = await scalar(connection, "draft_of_colony", colony_id=colony_id)
    return found


async def visit(connection: Connection, visit_id: UUID, *, hold: bool = False) -> VisitRecord:
    """A visit; `hold` keeps it until the transaction ends. Raises NotFound."""
    row = await one(connection, _VisitRow, "lock_visit" if hold else "visit_by_id", what="visit", id=visit_id)
    fields = {field.name: getattr(row, field.name) for field in dataclass_fields(row)}
    return VisitRecord(**{**fields, "before": read(Before, row.before), "after": read(After, row.after)})


@dataclass(frozen=True, slots=True)
class _PlaceRow:
    id: UUID
    place: str


async def places_of_visits(connection: Connection, visit_ids: Sequence[UUID]) -> dict[UUID, VisitPlace]:
    """Where closed visits were made, as it was kept when they were closed; nothing of those that are not closed."""
    rows = await many(connection, _PlaceRow, "places_of_visits", visit_ids=list(visit_ids))
    return {row.id: PLACE.validate_json(row.place) for row in rows}


async def add_closed_visit(
    connection: Connection, visit_id: UUID, colony_id: UUID, visited_on: date, *, after: dict[str, Any],
    summary: VisitSummary, place: dict[str, Any], closed_at: datetime,
) -> None:  # fmt: skip
    """Add a visit that was recorded as a whole."""
    await run(
        connection, "add_closed_visit", id=visit_id, colony_id=colony_id, visited_on=visited_on, after=Jsonb(after),
        place=Jsonb(place), closed_at=closed_at, **vars_of(summary),
    )  # fmt: skip


def vars_of(summary: VisitSummary) -> dict[str, object]:
    """The columns of a summary."""
    return {field.name: getattr(summary, field.name) for field in dataclass_fields(summary)}


async def save_part(connection: Connection, visit_id: UUID, part: Part, version: int, content: dict[str, Any]) -> None:
    """Keep `before` or `after` of a visit. Raises Conflict when it has changed since `version`."""
    name = "save_before" if part == "before" else "save_after"
    if await run(connection, name, id=visit_id, version=version, content=Jsonb(content)) == 0:
        raise Conflict("somebody else recorded this meanwhile", part)


async def close_visit(
    connection: Connection, visit_id: UUID, summary: VisitSummary, place: dict[str, Any], closed_at: datetime
) -> None:
    """Close a visit, or replace its summary after an amendment; its place is kept as it was when it was closed."""
    fields = vars_of(summary)
    await run(connection, "close_visit", id=visit_id, closed_at=closed_at, place=Jsonb(place), **fields)


async def drop_visit(connection: Connection, visit_id: UUID, closed_at: datetime) -> None:
    """Drop a draft."""
    await run(connection, "drop_visit", id=visit_id, closed_at=closed_at)


async def frames_of_visits(connection: Connection, visit_ids: Sequence[UUID]) -> list[VisitFrame]:
    """What these visits recorded, frame by frame."""
    rows = await many(connection, _FrameRow, "frames_of_visits", visit_ids=list(visit_ids))
    return [
        VisitFrame(one.visit_id, one.box_id, one.slot, one.frame_id, read(FrameRecord, one.record), one.version,
                   one.by_name, one.saved_at)
        for one in rows
    ]  # fmt: skip


async def save_frame(
    connection: Connection, *, visit_id: UUID, box_id: UUID, slot: int, colony_id: UUID, frame_id: UUID | None,
    version: int, record: dict[str, Any],
) -> None:  # fmt: skip
    """Keep what was seen in a slot; `version` 0 where nothing was kept. Raises Conflict when it has changed since."""
    shared = {"visit_id": visit_id, "box_id": box_id, "slot": slot, "frame_id": frame_id, "record": Jsonb(record)}
    if version == 0:
        done = await run(connection, "add_visit_frame", colony_id=colony_id, **shared)
    else:
        done = await run(connection, "amend_visit_frame", version=version, **shared)
    if done == 0:
        raise Conflict("somebody else recorded this frame meanwhile", "version")


async def visits_to_compare(connection: Connection, visit_id: UUID, colony_id: UUID, on: date) -> list[PastVisit]:
    """Closed visits of a colony up to a day, newest first."""
    return await many(connection, PastVisit, "visits_to_compare", id=visit_id, colony_id=colony_id, on=on)


async def neighbours(
    connection: Connection, apiary_id: UUID, colony_id: UUID, since: date, on: date
) -> list[Neighbour]:
    """The other living colonies of the apiary at their latest visit in a span."""
    return await many(
        connection, Neighbour, "apiary_at_visits", apiary_id=apiary_id, colony_id=colony_id, since=since, on=on
    )


async def round_of_apiary(connection: Connection, apiary_id: UUID, on: date) -> list[RoundStop]:
    """The living colonies of an apiary in the order of a round, suspects last."""
    return await many(connection, RoundStop, "round_of_apiary", apiary_id=apiary_id, on=on)


@dataclass(frozen=True, slots=True)
class Visit:
    """What a visit found of the colony as a whole; None and "unknown" for what was not looked at."""

    id: UUID
    colony_id: UUID
    visited_on: date
    closed_at: datetime | None
    strength: float | None
    strength_unit: StrengthUnit | None
    capped_brood: BroodSeen
    eggs_seen: bool | None
    queen_seen: bool | None
    supers_on: bool | None
    fed: bool | None
    note: str
    by_name: str
    version: int


async def visits_of_colonies(connection: Connection, colony_ids: Sequence[UUID], since: date) -> list[Visit]:
    """Visits of these colonies since a day, newest first."""
    return await many(connection, Visit, "visits_of_colonies", colony_ids=list(colony_ids), since=since)


@dataclass(frozen=True, slots=True)
class FoodSeen:
    """What a visit says of food: stores in kg and how they were judged; feed that was given, in litres of syrup or kg;
    what was done with the feeder or found of it; what part of the stores is."""

    colony_id: UUID
    visited_on: date
    stores_kg: float | None
    stores_by: StoresBy | None
    feed: Feed | None
    feed_amount: float | None
    feeder: Feeder | None
    stores_are: list[StoresKind]


async def food_of_colonies(connection: Connection, colony_ids: Sequence[UUID], since: date) -> list[FoodSeen]:
    """What visits of these colonies since a day say of food, in their order."""
    return await many(connection, FoodSeen, "food_of_colonies", colony_ids=list(colony_ids), since=since)


@dataclass(frozen=True, slots=True)
class NextVisitSet:
    """The day that a visit set for the next one, if it set any."""

    visited_on: date
    next_visit: date | None
    why: str


async def next_visit_set(connection: Connection, colony_id: UUID) -> NextVisitSet | None:
    """What the last closed visit of a colony set for the next one; None before its first visit."""
    return await maybe(connection, NextVisitSet, "next_visit_set", colony_id=colony_id)


@dataclass(frozen=True, slots=True)
class StripVisit:
    """A visit as a season strip draws it."""

    colony_id: UUID
    visited_on: date


@dataclass(frozen=True, slots=True)
class _Seen:
    colony_id: UUID


async def queens_seen(connection: Connection, apiary_id: UUID, on_day: date) -> list[UUID]:
    """Colonies of an apiary whose queen was seen on a day, by a visit that is closed or still going on."""
    return [one.colony_id for one in await many(connection, _Seen, "queens_seen", apiary_id=apiary_id, on_day=on_day)]


async def strip_visits(connection: Connection, apiary_id: UUID, since: date) -> list[StripVisit]:
    """Visits of an apiary's colonies for their strips, oldest first."""
    return await many(connection, StripVisit, "strip_visits", apiary_id=apiary_id, since=since)
