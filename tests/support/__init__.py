"""What tests share: one private cluster a run, databases copied from templates in a blink, servers, a browser.

The demo scenario takes two minutes to live through. It is restored from what ships, or, while the code is being
changed, from a dump kept beside the checkout under the digest of everything that bears on it.
"""

from __future__ import annotations

import asyncio
import atexit
import fcntl
import os
import pwd
import shutil
import subprocess
import tempfile
import threading
from collections.abc import Awaitable, Callable
from dataclasses import replace
from datetime import UTC, date, datetime, time
from functools import cache
from itertools import count
from pathlib import Path
from typing import Any, TypeVar
from uuid import UUID, uuid4

import httpx
import psycopg
import uvicorn

from redframe.api.app import build
from redframe.api.settings import Settings
from redframe.core.members.roles import Role
from redframe.core.sampling.jar import JarSample
from redframe.core.visits.record import After
from redframe.demo.load import load_when_empty
from redframe.demo.scenario import DEMO_TODAY, PASSWORD, made_id
from redframe.launch import scenario
from redframe.launch.cluster import Cluster, free_port
from redframe.launch.front_end import build as build_front_end
from redframe.launch.server import start_web, stop, wait_for_web
from redframe.launch.system import ROOT, postgres_bin
from redframe.stand_ins.weather import StandInWeather
from redframe.store.database import Database, Identity
from redframe.store.migrate import migrate
from redframe.store.roles import application_url
from redframe.work.sampling.record import NewCount
from redframe.work.unit_of_work import Services, UnitOfWork
from redframe.work.visits.record import record_visit

T = TypeVar("T")
_numbers = count(1)


@cache
def cluster() -> Cluster:
    """The run's cluster, in a temporary folder that goes with it."""
    folder = Path(tempfile.mkdtemp(prefix="redframe-test-"))
    if os.geteuid() == 0:
        os.chown(folder, pwd.getpwnam("postgres").pw_uid, -1)
    made = Cluster(folder, lossy=True)
    made.make()
    made.start()
    made.make_database("template_empty")
    made.let_owner_replay()

    def end() -> None:
        _close_pools(0)
        made.stop()
        shutil.rmtree(folder, ignore_errors=True)

    atexit.register(end)
    return made


@cache
def empty_template() -> str:
    """A migrated database without records."""
    cluster().make_database("template_empty")
    migrate(cluster().url("template_empty"))
    return "template_empty"


@cache
def demo_template() -> str:
    """A database with the demo scenario: restored where it ships as the code is, else from the dump that an earlier run
    kept beside the checkout, else lived through."""
    url = cluster().url("template_demo")
    cluster().make_database("template_demo")
    if scenario.ships():
        migrate(url)
        scenario.load_when_empty(url, fast_passwords=True)
        return "template_demo"
    kept = ROOT / ".data" / f"scenario-{scenario.digest()}.dump"
    kept.parent.mkdir(exist_ok=True)
    with (kept.parent / "scenario.lock").open("w") as lock:
        # Two runs side by side live through it once.
        fcntl.flock(lock, fcntl.LOCK_EX)
        return _filled(url, kept)


def _filled(url: str, kept: Path) -> str:
    if kept.exists():
        empty_template()
        command = [str(postgres_bin() / "pg_restore"), "--no-owner", "--exit-on-error", f"--dbname={url}", str(kept)]
        subprocess.run(command, check=True, capture_output=True)
        with psycopg.connect(url, autocommit=True) as connection:
            connection.execute("ANALYZE")
        return "template_demo"
    migrate(url)
    load_when_empty(url, fast_passwords=True)
    for old in kept.parent.glob("scenario-*.dump"):
        old.unlink()
    dump = [str(postgres_bin() / "pg_dump"), "--format=custom", "--no-owner", f"--file={kept}.part", url]
    subprocess.run(dump, check=True, capture_output=True)
    Path(f"{kept}.part").rename(kept)
    return "template_demo"


def washed(colony: UUID, shakes: tuple[int, ...], day: date, **changes: Any) -> NewCount:
    """A careful wash of 300 counted bees of a brood frame, taken at noon; `changes` are of the jar."""
    at = changes.pop("taken_at", datetime(day.year, day.month, day.day, 11, tzinfo=UTC))
    jar = JarSample(at, shakes, "counted", 300, brood_state="open_and_capped", queen_safe="yes")
    return NewCount(uuid4(), colony, at, replace(jar, **changes), "open_and_capped")


def visited(owner_url: str, colony: UUID, day: date, after: After, visit: UUID | None = None) -> None:
    """Record a visit that looked at the colony as a whole."""
    number = visit or uuid4()
    at_work(
        owner_url,
        lambda unit: record_visit(unit, number, colony_id=colony, visited_on=day, after=after),
        day=max(day, DEMO_TODAY),
    )


def new_database(template: str) -> str:
    """A copy of a template; the address for its owner."""
    name = f"test_{next(_numbers)}"
    cluster().make_database(name, template)
    return cluster().url(name)


class Server:
    """The application on a port and a database of its own, in a thread: a process would import it all again."""

    def __init__(self, template: str | None = None, owner_url: str | None = None, kept_mb: int = 48) -> None:
        self.kept_mb = kept_mb
        self.owner_url = owner_url or new_database(template or demo_template())
        self.port = free_port()
        self.url = f"http://127.0.0.1:{self.port}"
        self._begin()

    def _begin(self) -> None:
        self.settings = Settings(
            database_url=application_url(self.owner_url), web=build_front_end(), demo_today=DEMO_TODAY,
            open_calculators=True, fast_passwords=True, kept_mb=self.kept_mb,
        )  # fmt: skip
        config = uvicorn.Config(
            build(self.settings), host="127.0.0.1", port=self.port, access_log=False, log_level="warning",
            timeout_graceful_shutdown=5, server_header=False, proxy_headers=False,
        )  # fmt: skip
        self._server = uvicorn.Server(config)
        self._thread = threading.Thread(target=self._server.run, name="server", daemon=True)
        self._thread.start()
        if not wait_for_web(self._thread.is_alive, self.port):
            raise RuntimeError("the server did not start")

    def stop(self) -> None:
        """Stop it."""
        self._server.should_exit = True
        self._thread.join(15)

    def sign_in(self, email: str = "mentor@corrane.example") -> httpx.Client:
        """A client signed in as one of the demo's accounts, with its token on every request."""
        # Shorter than the server keeps a connection: none is used that it has just closed.
        client = httpx.Client(base_url=self.url, timeout=30, limits=httpx.Limits(keepalive_expiry=2))
        answer = client.post("/api/v1/session", json={"email": email, "password": PASSWORD})
        answer.raise_for_status()
        client.headers["X-CSRF-Token"] = answer.json()["csrf_token"]
        return client


class ServerProcess(Server):
    """The same as a process started as the launcher starts it, which can be killed."""

    process: subprocess.Popen[bytes]

    def _begin(self) -> None:
        environment = {
            "REDFRAME_DEMO_TODAY": DEMO_TODAY.isoformat(),
            "REDFRAME_OPEN_CALCULATORS": "1",
            "REDFRAME_FAST_PASSWORDS": "1",
            "REDFRAME_KEPT_MB": str(self.kept_mb),
        }
        self.process = start_web(self.owner_url, self.port, environment)
        if not wait_for_web(lambda: self.process.poll() is None, self.port):
            raise RuntimeError("the server did not start")

    def stop(self) -> None:
        """Stop it."""
        stop(self.process)


def identity(role: Role = "mentor", keeper: str | None = None, association: str = "corrane") -> Identity:
    """Somebody of the demo in a role."""
    email = f"{'reader' if role == 'read_only' else role}@{association}.example"
    keeper_id = made_id(association, "keeper", keeper) if keeper else None
    timezone = "Etc/GMT+2" if association == "ellery" else "Etc/GMT+1"
    return Identity(
        made_id("person", email),
        made_id("membership", email, association),
        made_id(association),
        role,
        keeper_id,
        timezone,
    )


class FixedClock:
    """Always the same moment."""

    def __init__(self, day: date = DEMO_TODAY) -> None:
        self.moment = datetime.combine(day, time(13), tzinfo=UTC)

    def now(self) -> datetime:
        """That moment."""
        return self.moment


@cache
def _aside() -> asyncio.AbstractEventLoop:
    """A loop in a thread of its own: the browser's driver keeps one running in this one."""
    loop = asyncio.new_event_loop()
    threading.Thread(target=loop.run_forever, name="use cases", daemon=True).start()
    return loop


_pools: dict[str, Database] = {}
POOLS_OPEN = 4  # a class uses one or two; a worker comes by thirty, and the cluster takes 60 connections in all


def desk_pool(owner_url: str) -> Database:
    """The pool of a database: opened once, closed when tests that came later have opened several others."""
    if owner_url in _pools:
        return _pools[owner_url]
    database = Database(application_url(owner_url), size=2)
    aside(database.open())
    _pools[owner_url] = database
    _close_pools(POOLS_OPEN)
    return database


def _close_pools(but: int) -> None:
    while len(_pools) > but:
        aside(_pools.pop(next(iter(_pools))).close())


def at_work(
    owner_url: str, act: Callable[[UnitOfWork], Awaitable[T]], who: Identity | None = None, *, day: date = DEMO_TODAY,
    reason: str = "",
) -> T:  # fmt: skip
    """Run one use case in a transaction of its own, as somebody, on a day."""

    async def run() -> T:
        services = Services(desk_pool(owner_url), StandInWeather(), FixedClock(day))
        async with services.unit_of_work(who or identity(), reason) as unit:
            return await act(unit)

    desk_pool(owner_url)
    return asyncio.run_coroutine_threadsafe(run(), _aside()).result()


def aside(act: Awaitable[T]) -> T:
    """Run something asynchronous beside the test: the browser has a loop of its own in this thread."""

    async def run() -> T:
        return await act

    return asyncio.run_coroutine_threadsafe(run(), _aside()).result()


def owner_rows(owner_url: str, query: str, *parameters: Any) -> list[tuple[Any, ...]]:
    """Rows as the owner sees them, past row-level security."""
    with psycopg.connect(owner_url) as connection:
        return connection.execute(query, parameters).fetchall()


def living(owner_url: str, apiary: str) -> list[tuple[str, str]]:
    """Ids and labels of the living colonies of an apiary of Corrane that no course is in, by label."""
    rows = owner_rows(
        owner_url,
        "SELECT id::text, label FROM colony c WHERE apiary_id = %s AND state = 'alive' AND NOT EXISTS "
        "(SELECT FROM course t WHERE t.colony_id = c.id AND t.state IN ('planned', 'under_way')) ORDER BY length(label), label",
        made_id("corrane", "apiary", apiary),
    )
    return [(str(row[0]), str(row[1])) for row in rows]


def as_app(url: str, who: Identity | None) -> psycopg.Connection[tuple[object, ...]]:
    """A plain connection of the application's role, as somebody or as nobody."""
    connection = psycopg.connect(application_url(url))
    if who is not None:
        settings = {
            "association": str(who.association_id),
            "role": who.role,
            "keeper": str(who.keeper_id or ""),
            "person": str(who.person_id),
        }
        for name, value in settings.items():
            connection.execute("SELECT set_config(%s, %s, false)", [f"redframe.{name}", value])
    return connection
