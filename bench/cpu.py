"""Computing time of an answer, of the server and of the database, and of all its statements sent bare.

Seconds on a busy machine say little; the processor time that a process has used is its own. It is read from the
kernel's account in /proc, in hundredths of a second, so that each figure is the mean of many answers.
"""

from __future__ import annotations

import os
from collections.abc import Awaitable, Callable, Iterator, Sequence
from contextlib import contextmanager
from http.client import HTTPConnection
from pathlib import Path
from typing import Any
from unittest.mock import patch
from urllib.parse import urlsplit

import httpx
import psycopg
from tests.support import at_work

from redframe.work.unit_of_work import UnitOfWork

TICK_MS = 1000 / os.sysconf("SC_CLK_TCK")
ANSWERS = 60
Statement = tuple[Any, Any]


def _used_ms(pid: int, *, waited: bool = False) -> float:
    """Processor time of a process so far; with `waited` also that of its children which have ended."""
    fields = Path(f"/proc/{pid}/stat").read_text(encoding="ascii").rpartition(")")[2].split()
    return TICK_MS * sum(int(one) for one in fields[11 : 15 if waited else 13])


def _parent(pid: int) -> int:
    return int(Path(f"/proc/{pid}/stat").read_text(encoding="ascii").rpartition(")")[2].split()[1])


class Meter:
    """The processor time of a server process and of the database that it asks."""

    def __init__(self, server: int, owner: psycopg.Connection[Any]) -> None:
        self._server = server
        self._postmaster = _parent(owner.info.backend_pid)

    def used_ms(self) -> tuple[float, float]:
        """Of the server and of all processes of the database, in milliseconds."""
        children = [int(one.name) for one in Path("/proc").iterdir() if one.name.isdigit()]
        database = _used_ms(self._postmaster, waited=True)
        for pid in children:
            try:
                if _parent(pid) == self._postmaster:
                    database += _used_ms(pid)
            except (FileNotFoundError, ProcessLookupError):
                continue
        return _used_ms(self._server), database

    def per_answer(self, act: Callable[[], object], answers: int = ANSWERS) -> tuple[float, float]:
        """Milliseconds of server and database for one answer, after warming up."""
        for _ in range(8):
            act()
        server, database = self.used_ms()
        for _ in range(answers):
            act()
        then = self.used_ms()
        return (then[0] - server) / answers, (then[1] - database) / answers


def asking(url: str, path: str, cookies: httpx.Cookies) -> Callable[[], bytes]:
    """A plain client on one open connection, which costs next to nothing beside what it measures."""
    connection = HTTPConnection(urlsplit(url).netloc)
    headers = {"Cookie": "; ".join(f"{name}={value}" for name, value in cookies.items()), "Accept-Encoding": "gzip"}

    def ask() -> bytes:
        connection.request("GET", path, headers=headers)
        answer = connection.getresponse()
        content = answer.read()
        if answer.status != 200:
            raise RuntimeError(f"{path}: {answer.status}")
        return content

    return ask


@contextmanager
def _listening(found: list[Statement]) -> Iterator[None]:
    whole = psycopg.AsyncCursor.execute

    async def execute(self: Any, query: Any, parameters: Any = None, **rest: Any) -> Any:
        found.append((query, parameters))
        return await whole(self, query, parameters, **rest)

    with patch.object(psycopg.AsyncCursor, "execute", execute):
        yield


def statements_of(owner_url: str, act: Callable[[UnitOfWork], Awaitable[object]]) -> list[Statement]:
    """Every statement that a use case sends, with its parameters, but for those that open its transaction."""
    found: list[Statement] = []
    at_work(owner_url, act)
    with _listening(found):
        at_work(owner_url, act)
    return [one for one in found if "roll_over" not in str(one[0])]


def sending(connection: psycopg.Connection[Any], statements: Sequence[Statement]) -> Callable[[], None]:
    """The same statements sent bare, one after the other."""

    def send() -> None:
        for query, parameters in statements:
            connection.execute(query, parameters).fetchall()

    return send


def resident_mb(pid: int) -> float:
    """Memory that a process holds."""
    status = Path(f"/proc/{pid}/status").read_text(encoding="ascii")
    return next(int(line.split()[1]) for line in status.splitlines() if line.startswith("VmRSS")) / 1024
