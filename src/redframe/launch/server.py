"""Running an installation: the database, the migrations and the web server, stopped together."""

from __future__ import annotations

import fcntl
import hashlib
import json
import os
import shutil
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from pathlib import Path
from types import FrameType

import psycopg

from redframe.launch.cluster import Cluster
from redframe.launch.front_end import build
from redframe.launch.system import NOBODY, ROOT, fail, say, without_root
from redframe.store import catalogue, installation
from redframe.store.migrate import migrate
from redframe.store.roles import application_url

STOP_SECONDS = 10
LOOK_AGAIN_S = 2


@dataclass(frozen=True, slots=True)
class Opened:
    """A database that is at work: its address for its owner, its cluster where it is a private one, and whether another
    launcher has started it."""

    owner_url: str
    cluster: Cluster | None
    joined: bool = False

    def mend(self) -> None:
        """Start a private database again that has ended by itself; ends with a clear line where it does not start."""
        if self.cluster is not None and self.cluster.has_ended():
            say("the database ended by itself: started again")
            self.cluster.start(self.cluster.port)


@contextmanager
def database(folder: Path, *, lossy: bool = False, demo: bool = False, join: bool = False) -> Iterator[Opened]:
    """The database: DATABASE_URL where given, else a private cluster in the folder, which one launcher holds. With
    `join` the one that another launcher has started is used as it runs."""
    given = os.environ.get("DATABASE_URL")
    if given:
        yield Opened(given, None)
        return
    folder.mkdir(parents=True, exist_ok=True)
    cluster = Cluster(folder, lossy=lossy)
    with (folder / "launcher.lock").open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            if not (join and cluster.join()):
                fail(f"another launcher is at work on {folder}; choose another with --data")
            yield Opened(cluster.url(), cluster, joined=True)
            return
        cluster.make()
        cluster.start()
        try:
            cluster.make_database()
            if demo:
                cluster.let_owner_replay()
            yield Opened(cluster.url(), cluster)
        finally:
            cluster.stop()


def port_is_free(port: int) -> bool:
    """Whether nothing listens on the port of the loopback address."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
        return True


def compile_for_nobody() -> None:
    """Compile the program where the processes that run as nobody find it: they could not write it down themselves."""
    prefix = sys.pycache_prefix
    if not without_root() or prefix is None:
        return
    seen = [(str(path), path.stat().st_mtime_ns) for path in sorted((ROOT / "src").rglob("*.py"))]
    seen += [(str(path), path.stat().st_mtime_ns) for path in sorted(Path(sys.prefix).glob(".*.installed"))]
    stamp, wanted = Path(prefix) / ".compiled", hashlib.sha256(json.dumps(seen).encode()).hexdigest()
    if not stamp.exists() or stamp.read_text(encoding="ascii") != wanted:
        subprocess.run([sys.executable, "-c", "import redframe.launch.web, redframe.jobs.worker"], cwd="/", check=False)
        stamp.write_text(wanted, encoding="ascii")


def prepare_web() -> subprocess.Popen[bytes]:
    """Start the web server's process, which reads the program in and waits; it ends when this process does."""
    compile_for_nobody()
    command = [*without_root(), "setpriv", "--pdeathsig", "SIGTERM", "--", sys.executable, "-m", "redframe.launch.web"]
    return subprocess.Popen(command, stdin=subprocess.PIPE, start_new_session=True)


def start_web(
    owner_url: str,
    port: int,
    environment: dict[str, str] | None = None,
    *,
    prepared: subprocess.Popen[bytes] | None = None,
) -> subprocess.Popen[bytes]:
    """Let the web server serve on the loopback address, by a process that was prepared or by a new one."""
    web = prepared or prepare_web()
    settings = {
        "REDFRAME_DATABASE_URL": application_url(owner_url),
        "REDFRAME_WEB": str(build()),
        **(environment or {}),
    }
    assert web.stdin is not None
    # One that ended already is found by whoever waits for its first answer.
    with suppress(BrokenPipeError), web.stdin:
        web.stdin.write(json.dumps({"port": port, "environment": settings}).encode() + b"\n")
    return web


def start_worker(owner_url: str, environment: dict[str, str] | None = None) -> subprocess.Popen[bytes]:
    """Start the worker of the background jobs; it ends when this process does."""
    env = {
        **os.environ,
        "REDFRAME_DATABASE_URL": application_url(owner_url),
        "REDFRAME_WEB": str(build()),
        # One thread of arithmetic a thread of work: the worker shares the cores with the web server and the database.
        "OMP_NUM_THREADS": "1",
        **(environment or {}),
    }
    command = [
        *without_root(), "setpriv", "--pdeathsig", "SIGTERM", "--", "nice", "-n", "5",
        sys.executable, "-m", "redframe.jobs",
    ]  # fmt: skip
    return subprocess.Popen(command, env=env, stdin=subprocess.DEVNULL, start_new_session=True)


def wait_for_web(alive: Callable[[], bool], port: int, seconds: float = 90.0) -> bool:
    """Whether the server answers before the time is up and while it is alive."""
    deadline = time.monotonic() + seconds
    while time.monotonic() < deadline and alive():
        try:
            with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/v1/session", timeout=2) as answer:
                return bool(answer.status == 200)
        except OSError:
            time.sleep(0.05)
    return False


def stop(process: subprocess.Popen[bytes]) -> None:
    """Stop a process, hard if it does not end by itself."""
    if process.poll() is None:
        process.send_signal(signal.SIGTERM)
        try:
            process.wait(timeout=STOP_SECONDS)
        except subprocess.TimeoutExpired:
            process.kill()
            process.wait()


def serve(folder: Path, port: int, *, demo: bool) -> None:
    """Run until Ctrl-C or SIGTERM."""

    def end(signum: int, frame: FrameType | None) -> None:
        raise KeyboardInterrupt

    for asked in (signal.SIGINT, signal.SIGTERM):
        # Set for both: started in the background of a script, a process inherits a Ctrl-C that is ignored.
        signal.signal(asked, end)
    if not port_is_free(port):
        fail(f"port {port} is in use; choose another with --port")
    build()
    if os.geteuid() == 0 and not without_root():
        say("started by root, and the user nobody cannot read this folder: everything but the database runs as root")
    web = prepare_web()
    try:
        with database(folder, demo=demo) as opened:
            accounts, environment = _prepare(opened.owner_url, demo=demo)
            environment["REDFRAME_MAIL"] = str(mail_folder(folder))
            start_web(opened.owner_url, port, environment, prepared=web)
            worker = None
            try:
                if not wait_for_web(lambda: web.poll() is None, port):
                    fail("the web server did not start (see above)")
                # Only now: two processes that start side by side take each other's time.
                worker = start_worker(opened.owner_url, environment)
                print(f"\n  Red Frame is at  http://127.0.0.1:{port}\n")
                for email, password, role in accounts:
                    print(f"  {role:<14}  {email:<28}  {password}")
                print("\n  Ctrl-C stops it.\n" if accounts else "  Ctrl-C stops it.\n", flush=True)
                while web.poll() is None:
                    opened.mend()
                    if worker.poll() is not None:
                        say("the worker of the background jobs ended by itself: started again")
                        worker = start_worker(opened.owner_url, environment)
                    time.sleep(LOOK_AGAIN_S)
                fail("the web server ended by itself")
            finally:
                if worker is not None:
                    stop(worker)
                stop(web)
    except KeyboardInterrupt:
        say("stopped")
    finally:
        stop(web)


def mail_folder(folder: Path) -> Path:
    """Where the stand-in writes messages; belongs to whom the processes run as, and is nobody else's to read."""
    mail = folder / "mail"
    mail.mkdir(mode=0o700, parents=True, exist_ok=True)
    if without_root():
        for path in (mail, *mail.iterdir()):
            shutil.chown(path, *NOBODY)
    return mail


def _prepare(owner_url: str, *, demo: bool) -> tuple[list[tuple[str, str, str]], dict[str, str]]:
    """Bring the database to this release and see that it is whole; the demo's accounts, and what the processes need to
    know. Ends with a clear line where demo data and a real installation would mix."""
    applied = migrate(owner_url)
    if applied:
        say(f"{applied} migrations applied")
    check_whole(owner_url)
    if not demo:
        if holds_demo(owner_url):
            fail("this folder holds the demo's data, whose passwords everybody knows: choose another with --data")
        return [], {}
    from redframe.demo.load import ACCOUNTS, DEMO_TODAY, PASSWORD
    from redframe.launch.scenario import load_when_empty

    try:
        if load_when_empty(owner_url):
            say("demo scenario loaded: the Isle of Corrane")
    except ValueError as error:
        fail(f"{error}; choose another folder with --data")
    environment = {"REDFRAME_DEMO_TODAY": DEMO_TODAY.isoformat(), "REDFRAME_OPEN_CALCULATORS": "1"}
    return [(account.email, PASSWORD, account.role) for account in ACCOUNTS], environment


def check_whole(owner_url: str) -> None:
    """End with a clear line where tables, guards or functions of this release are missing."""
    missing = catalogue.missing(owner_url)
    if missing:
        few = "; ".join(missing[:3]) + (f" and {len(missing) - 3} more" if len(missing) > 3 else "")
        fail(f"this database is not whole, perhaps of a restore that was cut off: it lacks {few}")


def holds_demo(owner_url: str) -> bool:
    """Whether the demo's scenario was loaded into a database."""
    with psycopg.connect(owner_url) as owner:
        return installation.demo_is_loaded(owner)
