"""Connections, and a transaction in which the database knows who is at work.

Every query of the application runs inside `Database.as_person`, which tells row-level security the association, the
role, the keeper and the person; a query that forgets its filter still returns nothing of others.
"""

from __future__ import annotations

import asyncio
import logging
from collections.abc import AsyncIterator, Coroutine, Iterable, Mapping, Sequence
from contextlib import asynccontextmanager
from dataclasses import dataclass, fields
from datetime import date, datetime
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING, Any, LiteralString, Protocol, TypeVar, cast
from uuid import UUID

import aiosql
from psycopg import AsyncConnection, errors
from psycopg.rows import class_row, scalar_row
from psycopg.types.json import Jsonb
from psycopg_pool import AsyncConnectionPool

from redframe.core.members.roles import Role
from redframe.store.errors import Conflict, NotAllowed, NotFound

if TYPE_CHECKING:
    from _typeshed import DataclassInstance

SQL = Path(__file__).with_name("sql")
Row = TypeVar("Row")
Connection = AsyncConnection[Any]
PREPARED_AFTER = 1
"""A statement that a connection runs again is prepared: to plan a page's statements takes longer than to run them."""
PREPARED_AT_MOST = 400
"""So many statements a connection keeps: all that the pages and records ask for."""
CHECKED: Mapping[str, tuple[str, str]] = {
    "amendment_reason": ("say why the record is amended", "reason"),
    "last_administrator": ("somebody must stay administrator of the association", "role"),
    "case_step_order": ("the case has moved on: look at it again", "act"),
    "stands_still": ("this apiary stands still: record it only if it happened anyway, and say why", "override_why"),
}
"""What a check of the database says to a person, and at which field."""


@dataclass(frozen=True, slots=True)
class Identity:
    """Who is at work: a person, in an association, in a role, and the keeper that the person is, if any."""

    person_id: UUID
    membership_id: UUID
    association_id: UUID
    role: Role
    keeper_id: UUID | None
    timezone: str

    @classmethod
    def itself(cls, association_id: UUID, timezone: str) -> Identity:
        """The association itself, at work by nobody's hand."""
        nobody = UUID(int=0)
        return cls(nobody, nobody, association_id, "administrator", None, timezone)


@cache
def _queries() -> Any:
    # aiosql advises an operator for statements that return no rows; its operators are not used here.
    logging.getLogger("aiosql").setLevel(logging.ERROR)
    return aiosql.from_path(SQL, "psycopg", kwargs_only=True, mandatory_parameters=False)


def sql(name: str) -> LiteralString:
    """The text of a named query of `store/sql`."""
    return cast(LiteralString, getattr(_queries(), name).sql)


async def many(connection: Connection, row: type[Row], name: str, /, **parameters: object) -> list[Row]:
    """All rows of a named query, as records of a dataclass."""
    async with connection.cursor(row_factory=class_row(row)) as cursor:
        await cursor.execute(sql(name), parameters)
        return await cursor.fetchall()


async def maybe(connection: Connection, row: type[Row], name: str, /, **parameters: object) -> Row | None:
    """The first row of a named query, or None."""
    async with connection.cursor(row_factory=class_row(row)) as cursor:
        await cursor.execute(sql(name), parameters)
        return await cursor.fetchone()


async def one(connection: Connection, row: type[Row], name: str, /, what: str = "record", **parameters: object) -> Row:
    """The row of a named query. Raises NotFound(what) when there is none."""
    found = await maybe(connection, row, name, **parameters)
    if found is None:
        raise NotFound(what)
    return found


async def scalar(connection: Connection, name: str, /, **parameters: object) -> Any:
    """The single value of a named query, or None."""
    async with connection.cursor(row_factory=scalar_row) as cursor:
        await cursor.execute(sql(name), parameters)
        return await cursor.fetchone()


async def scalars(connection: Connection, name: str, /, **parameters: object) -> list[Any]:
    """The first value of each row of a named query."""
    async with connection.cursor(row_factory=scalar_row) as cursor:
        await cursor.execute(sql(name), parameters)
        return await cursor.fetchall()


def columns(record: DataclassInstance) -> dict[str, object]:
    """The fields of a record under their names, as the parameters of a query take them."""
    return {field.name: getattr(record, field.name) for field in fields(record)}


async def run(connection: Connection, name: str, /, **parameters: object) -> int:
    """Run a named statement; return the number of rows it touched."""
    if connection.pgconn.pipeline_status:
        raise RuntimeError(f"{name} would be sent among reads: what it touched would not be known")
    cursor = await connection.execute(sql(name), parameters)
    return cursor.rowcount


def json_rows(rows: Iterable[Mapping[str, object]]) -> Jsonb:
    """Rows as a JSON list, for a statement that writes all of them at once."""
    return Jsonb([{name: _plain(value) for name, value in row.items()} for row in rows])


def _plain(value: object) -> object:
    if isinstance(value, Jsonb):
        return value.obj
    if isinstance(value, date | datetime):
        return value.isoformat()
    return str(value) if isinstance(value, UUID) else value


async def run_many(connection: Connection, name: str, rows: list[dict[str, object]], /) -> None:
    """Run a named statement once a row, in one batch."""
    if rows:
        async with connection.cursor() as cursor:
            await cursor.executemany(sql(name), rows)


async def _ended(reads: Sequence[asyncio.Task[Any]]) -> None:
    if not reads:
        return
    try:
        await asyncio.wait(reads)
    except asyncio.CancelledError:
        # Nobody waits for the answer any more; the connection goes back when nothing uses it.
        await asyncio.wait(reads)
        raise


class Begin(Protocol):
    """Begins one of several reads; its result is there when all are through."""

    def __call__(self, read: Coroutine[Any, Any, Row], /) -> asyncio.Task[Row]: ...


@asynccontextmanager
async def together(connection: Connection) -> AsyncIterator[Begin]:
    """Reads whose statements are sent without waiting for one another's answers.

    Reads only: how many rows a write touched is not known until all are sent, so that a version that somebody else has
    changed would not be noticed. Raises what the first of them raised, once all are through.
    """
    begun: list[asyncio.Task[Any]] = []

    def begin(read: Coroutine[Any, Any, Row], /) -> asyncio.Task[Row]:
        task = asyncio.create_task(read)
        begun.append(task)
        return task

    async with connection.pipeline():
        try:
            yield begin
        finally:
            await _ended(begun)
    failures = [failure for task in begun if (failure := task.exception()) is not None]
    if failures:
        raise failures[0]


async def begin_work(connection: Connection, who: Identity, today: date, reason: str = "", wide: bool = False) -> None:
    """Say who is at work in a transaction, as in `Database.as_person`."""
    await run(
        connection, "at_work", association=str(who.association_id), role=who.role, keeper=str(who.keeper_id or ""),
        person=str(who.person_id), reason=reason, today=today, plans="auto" if wide else "force_generic_plan",
    )  # fmt: skip


async def _keeps_its_statements(connection: Connection) -> None:
    connection.prepared_max = PREPARED_AT_MOST


class Database:
    """A pool of connections as the application's role."""

    def __init__(self, url: str, size: int = 10) -> None:
        self._pool: AsyncConnectionPool[Connection] = AsyncConnectionPool(
            url, min_size=2, max_size=size, open=False, timeout=6,
            kwargs={"autocommit": True, "prepare_threshold": PREPARED_AFTER}, configure=_keeps_its_statements,
        )  # fmt: skip

    async def open(self) -> None:
        """Open the pool."""
        await self._pool.open(wait=True, timeout=60)

    async def close(self) -> None:
        """Close the pool."""
        await self._pool.close()

    @asynccontextmanager
    async def as_nobody(self) -> AsyncIterator[Connection]:
        """A connection before anyone is known: sees no record, reaches only the sign-in functions."""
        async with self._pool.connection() as connection:
            yield connection

    @asynccontextmanager
    async def as_person(
        self, who: Identity, today: date, reason: str = "", wide: bool = False
    ) -> AsyncIterator[Connection]:
        """A transaction of a person on a day of the association; `reason` is kept with every amendment made in it.

        What a page or a record takes touches few rows of each table, whatever its parameters: its statements keep the
        plans they have, for to plan them again takes longer than to run them. What looks at a whole association is
        `wide`, and is planned by what it looks at.

        Raises NotAllowed when row-level security refuses a write, Conflict for an amendment without a reason.
        """
        async with self._pool.connection() as connection:
            try:
                async with connection.transaction():
                    await begin_work(connection, who, today, reason, wide)
                    yield connection
            except errors.InsufficientPrivilege as error:
                raise NotAllowed("your role may not record this here") from error
            except errors.CheckViolation as error:
                said = CHECKED.get(error.diag.constraint_name or "")
                if said is None:
                    raise
                raise Conflict(*said) from error
