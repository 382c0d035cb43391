"""Answers kept until something that they show is written, as bytes that are ready to send.

What is written is counted by the database (`change_count`), apart for each apiary and for the pages across all of them;
an answer holds as long as its count does. It belongs to an association, a role and a keeper (and to a person, where it
says what that person may undo), so that nobody gets what was made for somebody else. Some of what it says follows the
clock (what may still be undone, boards to be read): it is made again once a minute at least.
"""

from __future__ import annotations

import asyncio
import gzip
import hashlib
from collections import OrderedDict
from collections.abc import Awaitable, Callable
from dataclasses import dataclass
from functools import cache
from typing import Annotated, Any
from uuid import UUID
from weakref import WeakValueDictionary

from fastapi import Depends, HTTPException, Request, Response
from pydantic import TypeAdapter

from redframe.api.access import services_of, token_of
from redframe.store import session as store
from redframe.store.session import Asking, Shows
from redframe.work.members import session as members_session
from redframe.work.unit_of_work import Services, UnitOfWork

SMALLEST_PACKED = 1000
PACKING = 4

Key = tuple[object, ...]
Make = Callable[[UnitOfWork], Awaitable[Any]]


@dataclass(frozen=True, slots=True)
class _Kept:
    """An answer, packed; where the page stood, the minute, and how often it had been written to."""

    scope: str
    minute: int
    changes: int
    tag: str
    packed: bytes
    is_packed: bool

    def holds(self, asking: Asking, minute: int) -> bool:
        """Whether nothing was written since, and no minute has turned."""
        return (self.scope, self.minute) == (asking.scope, minute) and self.changes >= asking.changes


class Shelf:
    """The answers that this process keeps, those that were not asked for longest leaving first."""

    def __init__(self, most_bytes: int) -> None:
        self._kept: OrderedDict[Key, _Kept] = OrderedDict()
        self._made: WeakValueDictionary[Key, asyncio.Lock] = WeakValueDictionary()
        self._room = most_bytes

    async def answer(self, key: Key, asking: Asking, services: Services, make: Make) -> _Kept:
        """The answer under a key: as it is kept, or made now; one at a time makes it, the others wait for that one."""
        minute = int(services.clock.now().timestamp() // 60)
        found = self._kept.get(key)
        if found is not None and found.holds(asking, minute):
            self._kept.move_to_end(key)
            return found
        lock = self._made.get(key)
        if lock is None:
            lock = self._made[key] = asyncio.Lock()
        async with lock:
            found = self._kept.get(key)
            if found is not None and found.holds(asking, minute):
                return found
            async with services.unit_of_work(asking.session.identity) as unit:
                # Counted again before it is made: those who ask meanwhile are served by it too.
                changes = await store.changes(unit.connection, asking.scope)
                made = await make(unit)
            raw = _writer(made.__class__).dump_json(made, by_alias=True)
            is_packed = len(raw) >= SMALLEST_PACKED
            tag = f'W/"{hashlib.blake2b(raw, digest_size=12).hexdigest()}"'
            packed = gzip.compress(raw, PACKING, mtime=0) if is_packed else raw
            found = _Kept(asking.scope, minute, changes, tag, packed, is_packed)
            self._keep(key, found)
            return found

    def _keep(self, key: Key, answer: _Kept) -> None:
        self._drop(key)
        self._kept[key] = answer
        self._room -= len(answer.packed)
        while self._room < 0:
            self._drop(next(iter(self._kept)))

    def _drop(self, key: Key) -> None:
        gone = self._kept.pop(key, None)
        if gone is not None:
            self._room += len(gone.packed)


@cache
def _writer(kind: Any) -> TypeAdapter[Any]:
    return TypeAdapter(kind)


@dataclass(frozen=True, slots=True)
class Asked:
    """A question whose answer is kept; `by_person`: it says what that person may undo."""

    request: Request
    asking: Asking
    services: Services
    by_person: bool

    async def answer(self, make: Make) -> Response:
        """The answer, or 304 where the one who asks has it already."""
        request, session = self.request, self.asking.session
        who = (session.association_id, session.role, session.keeper_id, self.by_person and session.person_id)
        key = (request.url.path, request.url.query, *who)
        shelf: Shelf = request.app.state.shelf
        found = await shelf.answer(key, self.asking, self.services, make)
        headers = {"ETag": found.tag, "Vary": "Accept-Encoding"}
        if found.tag in request.headers.get("if-none-match", ""):
            return Response(status_code=304, headers=headers)
        content = found.packed
        if found.is_packed:
            if "gzip" in request.headers.get("accept-encoding", ""):
                headers["Content-Encoding"] = "gzip"
            else:
                content = gzip.decompress(content)
        return Response(content, media_type="application/json", headers=headers)


def _asking(shows: Shows, record: str = "") -> Callable[[Request], Awaitable[Asked]]:
    """A question about the work across all apiaries, or about the record that the address names."""

    async def asked(request: Request) -> Asked:
        services = await services_of(request)
        token = token_of(request)
        # An address that names no record is refused by the endpoint itself.
        named = request.path_params.get(record, "")
        try:
            which = UUID(named)
        except ValueError:
            which = None
        found = await members_session.session_asking(services.database, token, shows, which) if token else None
        if found is None:
            raise HTTPException(401, "Sign in first")
        return Asked(request, found, services, by_person=shows not in ("work", "apiary"))

    return asked


OfWork = Annotated[Asked, Depends(_asking("work"))]
OfApiary = Annotated[Asked, Depends(_asking("apiary", "apiary_id"))]
OfColony = Annotated[Asked, Depends(_asking("colony", "colony_id"))]
OfVisit = Annotated[Asked, Depends(_asking("visit", "visit_id"))]
OfCourse = Annotated[Asked, Depends(_asking("course", "course_id"))]
