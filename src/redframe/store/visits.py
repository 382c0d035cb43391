"""Visits with their frames, where every frame is and how it came there, photos, holds."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any
from uuid import UUID

from psycopg.types.json import Jsonb

from redframe.store.database import Connection, many, one, run, scalar
from redframe.store.errors import Conflict


@dataclass(frozen=True, slots=True)
class OpenVisit:
    """A visit as it stands: `before` and `after` as recorded, each with its own version."""

    id: UUID
    colony_id: UUID
    visited_on: date
    state: str
    opened_at: datetime | None
    closed_at: datetime | None
    before: dict[str, Any]
    before_version: int
    after: dict[str, Any]
    after_version: int
    version: int
    by_name: str


@dataclass(frozen=True, slots=True)
class VisitFrame:
    """What a visit recorded of the frame in one slot."""

    visit_id: UUID
    box_id: UUID
    slot: int
    frame_id: UUID | None
    record: dict[str, Any]
    version: int
    by_name: str
    kept_at: datetime


@dataclass(frozen=True, slots=True)
class PastVisit:
    """An earlier visit: how many frames it looked at and what it found of the colony."""

    id: UUID
    visited_on: date
    frames: int
    frames_of_bees: float | None
    frames_of_brood: float | None
    stores_kg: float | None
    capped_cells: float | None
    temper: int | None
    pattern_empty_pct: float | None
    strength: float | None
    strength_unit: str | None


@dataclass(frozen=True, slots=True)
class Neighbour:
    """Another colony of the apiary at its latest visit."""

    colony_id: UUID
    visited_on: date
    frames_of_bees: float | None
    frames_of_brood: float | None
    capped_cells: float | None
    stores_kg: float | None


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


async def draft_of_colony(connection: Connection, colony_id: UUID) -> UUID | None:
    """The draft that somebody has open of a colony, if any."""
    found: UUID | None = await scalar(connection, "draft_of_colony", colony_id=colony_id)
    return found


async def visit(connection: Connection, visit_id: UUID, *, hold: bool = False) -> OpenVisit:
    """A visit; `hold` keeps it until the transaction ends. Raises NotFound."""
    return await one(connection, OpenVisit, "lock_visit" if hold else "visit_by_id", what="visit", id=visit_id)


async def keep_part(connection: Connection, visit_id: UUID, part: str, version: int, content: dict[str, Any]) -> None:
    """Keep `before` or `after` of a visit. Raises Conflict when it has changed since `version`."""
    name = "keep_before" if part == "before" else "keep_after"
    if await run(connection, name, id=visit_id, version=version, content=Jsonb(content)) == 0:
        raise Conflict("somebody else recorded this meanwhile", part)


async def close_visit(connection: Connection, **fields: object) -> None:
    """Close a visit, or lay its summary anew after an amendment."""
    await run(connection, "close_visit", **fields)


async def drop_visit(connection: Connection, visit_id: UUID, closed_at: datetime) -> None:
    """Drop a draft."""
    await run(connection, "drop_visit", id=visit_id, closed_at=closed_at)


async def frames_of_visits(connection: Connection, visit_ids: Sequence[UUID]) -> list[VisitFrame]:
    """What these visits recorded, frame by frame."""
    return await many(connection, VisitFrame, "frames_of_visits", visit_ids=list(visit_ids))


async def keep_frame(
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
    strength: float | None
    strength_unit: str | None
    capped_brood: str
    eggs_seen: bool | None
    queen_seen: bool | None
    supers_on: bool | None
    fed: bool | None
    note: str
    by_name: str
    version: int


async def add_visit(connection: Connection, **fields: object) -> None:
    """Add a visit."""
    await run(connection, "add_visit", **fields)


async def visits_of_colonies(connection: Connection, colony_ids: Sequence[UUID], since: date) -> list[Visit]:
    """Visits of these colonies since a day, newest first."""
    return await many(connection, Visit, "visits_of_colonies", colony_ids=list(colony_ids), since=since)


@dataclass(frozen=True, slots=True)
class StripVisit:
    """A visit as a season strip draws it."""

    colony_id: UUID
    visited_on: date


async def strip_visits(connection: Connection, apiary_id: UUID, since: date) -> list[StripVisit]:
    """Visits of an apiary's colonies for their strips, oldest first."""
    return await many(connection, StripVisit, "strip_visits", apiary_id=apiary_id, since=since)
