"""Movements on record, where colonies stood, when their brood was looked at, and the lists that were kept of a case."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any
from uuid import UUID

from psycopg.types.json import Jsonb

from redframe.core.tracing.movements import Movement
from redframe.store.database import Connection, many, maybe, one, run


@dataclass(frozen=True, slots=True)
class StayRow:
    """A colony with the apiaries that it moved from and the labels that it had, each until a day; its last examination
    of brood, if any, and whether it is suspect: an open case, or a sign seen since."""

    colony_id: UUID
    label: str
    apiary_id: UUID
    apiary: str
    keeper: str
    latitude: float
    longitude: float
    is_living: bool
    ended_on: date | None
    began_on: date
    moved_on: list[date]
    moved_from: list[UUID]
    renumbered_on: list[date]
    labels: list[str]
    examined_on: date | None
    combs_read: int
    brood_combs: int
    is_clean: bool
    is_suspect: bool


@dataclass(frozen=True, slots=True)
class KeptList:
    """When and by whom lists of a case were kept, under their number."""

    number: int
    made_on: date
    created_at: datetime
    by_name: str


@dataclass(frozen=True, slots=True)
class _Last:
    last: date | None


@dataclass(frozen=True, slots=True)
class _Elsewhere:
    node: str
    elsewhere: str


@dataclass(frozen=True, slots=True)
class _Content:
    content: Mapping[str, Any]


async def movements(connection: Connection, since: date, until: date) -> list[Movement]:
    """What went from one colony to another between two days."""
    return await many(connection, Movement, "movements_on_record", since=since, until=until)


async def places_elsewhere(connection: Connection, since: date) -> dict[str, str]:
    """The words of places elsewhere since a day, by their nodes; "" for an unknown source."""
    return {row.node: row.elsewhere for row in await many(connection, _Elsewhere, "places_elsewhere", since=since)}


async def stays(connection: Connection) -> list[StayRow]:
    """Where the colonies stood that the person sees."""
    return await many(connection, StayRow, "stays_on_record")


async def last_clean_examination(connection: Connection, colony_id: UUID, before: date) -> date | None:
    """The last day before another on which all brood of a colony was looked at without a sign, if any."""
    return (await one(connection, _Last, "clean_examinations", colony_id=colony_id, before=before)).last


async def keep_list(
    connection: Connection, list_id: UUID, case_id: UUID, made_on: date, content: Mapping[str, Any]
) -> None:
    """Keep the lists of a case as they are, under the next number."""
    await run(connection, "add_trace_list", id=list_id, case_id=case_id, made_on=made_on, content=Jsonb(dict(content)))


async def kept_lists(connection: Connection, case_id: UUID) -> list[KeptList]:
    """The lists that were kept of a case, the first first."""
    return await many(connection, KeptList, "trace_lists", case_id=case_id)


async def kept_list(connection: Connection, case_id: UUID, number: int) -> Mapping[str, Any] | None:
    """Lists of a case as they were kept."""
    found = await maybe(connection, _Content, "trace_list", case_id=case_id, number=number)
    return None if found is None else found.content
