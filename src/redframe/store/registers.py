"""The register of treatments: numbered entries, and the lines that they add up to."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any
from uuid import UUID

from psycopg.types.json import Jsonb
from pydantic import TypeAdapter

from redframe.core.registers.register import EntryKind, FieldChange, KeptLine, Line, LineField
from redframe.store.database import Connection, columns, many, one, scalar

_LINE = TypeAdapter(Line)
_CHANGES = TypeAdapter(Sequence[FieldChange])


@dataclass(frozen=True, slots=True)
class RegisterPlace:
    """Whose a colony is and where it is."""

    colony: str
    apiary_id: UUID
    apiary: str
    latitude: float
    longitude: float
    keeper_id: UUID
    keeper: str
    registration: str


async def register_place(connection: Connection, colony_id: UUID) -> RegisterPlace:
    """Whose a colony is and where it is now. Raises NotFound."""
    return await one(connection, RegisterPlace, "register_place", what="colony", colony_id=colony_id)


@dataclass(frozen=True, slots=True)
class _Row:
    line_id: UUID
    line: Mapping[str, Any]
    is_void: bool


async def lines_of_course(connection: Connection, course_id: UUID) -> list[KeptLine]:
    """The lines of a course as the register has them."""
    rows = await many(connection, _Row, "register_of_course", course_id=course_id)
    return [KeptLine(row.line_id, _LINE.validate_python(row.line), row.is_void) for row in rows]


@dataclass(frozen=True, slots=True)
class NewEntry:
    """An entry with the line that it leads to; `keeper_id` and `apiary_id` count for a new line only."""

    kind: EntryKind
    line_id: UUID
    course_id: UUID
    keeper_id: UUID
    apiary_id: UUID
    placed_on: date
    last_on: date
    today: date
    moment: datetime
    line: Jsonb
    changes: Jsonb
    missing: list[LineField]
    why: str


async def enter(connection: Connection, entry: NewEntry) -> int:
    """Enter it; its number in the association's register."""
    return int(await scalar(connection, "register_enter", **columns(entry)))


@dataclass(frozen=True, slots=True)
class RegisterLine:
    """A placing as it is known now; `number` in the association's register, `keeper_number` in its keeper's."""

    id: UUID
    number: int
    keeper_number: int
    keeper_id: UUID
    apiary_id: UUID
    colony_id: UUID
    course_id: UUID
    option_id: str
    placed_on: date
    last_on: date
    entered_on: date
    is_void: bool
    missing: list[LineField]
    line: Line

    def __post_init__(self) -> None:
        """What is kept as JSON becomes what it is."""
        object.__setattr__(self, "line", _LINE.validate_python(self.line))


@dataclass(frozen=True, slots=True)
class RegisterEntry:
    """One numbered entry, as it was entered."""

    number: int
    keeper_number: int
    line_id: UUID
    kind: EntryKind
    line: Line | None
    changes: Sequence[FieldChange]
    why: str
    by_name: str
    entered_at: datetime

    def __post_init__(self) -> None:
        """What is kept as JSON becomes what it is."""
        if self.line is not None:
            object.__setattr__(self, "line", _LINE.validate_python(self.line))
        object.__setattr__(self, "changes", _CHANGES.validate_python(self.changes))


@dataclass(frozen=True, slots=True)
class Wanted:
    """Which lines of the register are wanted; None and "" for all. `lot` as it is on the pack, `incomplete`: only those
    that lack something."""

    keeper_id: UUID | None = None
    apiary_id: UUID | None = None
    colony_id: UUID | None = None
    option_id: str | None = None
    since: date | None = None
    until: date | None = None
    lot: str = ""
    incomplete: bool = False


@dataclass(frozen=True, slots=True)
class RegisterCount:
    """How many lines there are, how many of them lack something, how many are void."""

    lines: int
    incomplete: int
    void: int


async def lines(connection: Connection, wanted: Wanted, before: int | None, most: int) -> list[RegisterLine]:
    """Lines that fit, the latest number first, behind a number."""
    return await many(connection, RegisterLine, "register_lines", **columns(wanted), before=before, most=most)


async def count(connection: Connection, wanted: Wanted) -> RegisterCount:
    """How many fit."""
    return await one(connection, RegisterCount, "register_count", what="register", **columns(wanted))


async def entries(connection: Connection, line_ids: Sequence[UUID]) -> list[RegisterEntry]:
    """All entries of lines, latest first."""
    return await many(connection, RegisterEntry, "register_entries", line_ids=list(line_ids))
