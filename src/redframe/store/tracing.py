"""Movements on record, where colonies stood, and when their brood was looked at."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.tracing.movements import Movement
from redframe.store.database import Connection, many, one


@dataclass(frozen=True, slots=True)
class StayRow:
    """A colony with the apiaries that it moved from, when, and the day on which its brood was examined last."""

    colony_id: UUID
    label: str
    apiary_id: UUID
    apiary: str
    keeper: str
    is_living: bool
    ended_on: date | None
    began_on: date
    moved_on: list[date]
    moved_from: list[UUID]
    last_examined: date | None


@dataclass(frozen=True, slots=True)
class _Last:
    last: date | None


async def movements(connection: Connection, since: date, until: date) -> list[Movement]:
    """What went from one colony to another between two days."""
    return await many(connection, Movement, "movements_on_record", since=since, until=until)


async def stays(connection: Connection) -> list[StayRow]:
    """Where the colonies stood that the person sees."""
    return await many(connection, StayRow, "stays_on_record")


async def last_clean_examination(connection: Connection, colony_id: UUID, before: date) -> date | None:
    """The last day before another on which all brood of a colony was looked at without a sign, if any."""
    found = await one(connection, _Last, "clean_examinations", what="colony", colony_id=colony_id, before=before)
    return found.last
