"""What was done at the hive in courses without a product."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any
from uuid import UUID

from psycopg.types.json import Jsonb

from redframe.store.database import Connection, columns, many, run, scalar
from redframe.store.errors import Conflict, NotFound


@dataclass(frozen=True, slots=True)
class NewHiveAct:
    """An act of a course; `details` of what it changed, `fed`: it put feed into the hive."""

    colony_id: UUID
    course_id: UUID
    act: str
    done_on: date
    details: dict[str, Any]
    fed: bool
    note: str


@dataclass(frozen=True, slots=True)
class HiveActDone(NewHiveAct):
    """An act on record."""

    id: UUID
    by_name: str


@dataclass(frozen=True, slots=True)
class FedInCourse:
    """A day on which a colony was fed as part of a course."""

    colony_id: UUID
    done_on: date


async def hive_acts(connection: Connection, course_id: UUID) -> list[HiveActDone]:
    """What was done of a course at the hive, in the order of its days; what was withdrawn is left out."""
    return await many(connection, HiveActDone, "hive_acts", course_id=course_id)


async def add_hive_act(connection: Connection, act_id: UUID, new: NewHiveAct) -> None:
    """Record an act."""
    await run(connection, "add_hive_act", id=act_id, **{**columns(new), "details": Jsonb(new.details)})


async def course_of_hive_act(connection: Connection, act_id: UUID) -> UUID:
    """The course that an act belongs to. Raises NotFound."""
    found: UUID | None = await scalar(connection, "hive_act", id=act_id)
    if found is None:
        raise NotFound("act")
    return found


async def withdraw_hive_act(connection: Connection, act_id: UUID, why: str) -> None:
    """Say that it was not so; the transaction carries the reason. Raises Conflict when it was said before."""
    if await run(connection, "withdraw_hive_act", id=act_id, why=why) == 0:
        raise Conflict("it was withdrawn before")


async def fed_in_courses(connection: Connection, colony_ids: Sequence[UUID], since: date) -> list[FedInCourse]:
    """When these colonies were fed as part of a course, since a day."""
    return await many(connection, FedInCourse, "fed_in_courses", colony_ids=list(colony_ids), since=since)
