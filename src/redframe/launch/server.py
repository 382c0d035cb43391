"""Running an installation: the database, the migrations and the web server, stopped together."""

from __future__ import annotations

import fcntl
import json
import os
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from types import FrameType

from redframe.launch.cluster import Cluster
from redframe.launch.front_end import build
from redframe.launch.system import fail, say
from redframe.store.migrate import migrate
from redframe.store.roles import application_url

STOP_SECONDS = 10


@contextmanager
def held(folder: Path) -> Iterator[None]:
    """One launcher a data folder."""
    folder.mkdir(parents=True, exist_ok=True)
    with (folder / "launcher.lock").open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            fail(f"another launcher is at work on {folder}; choose another with --data")
        yield


@contextmanager
def database(folder: Path, *, lossy: bool = False, demo: bool = False) -> Iterator[str]:
    """The address of the database for its owner: DATABASE_URL where given, else a private cluster in the folder."""
    given = os.environ.get("DATABASE_URL")
    if given:
        yield given
        return
    with held(folder):
        cluster = Cluster(folder, lossy=lossy)
        cluster.make()
        cluster.start()
        try:
            cluster.make_database()
            if demo:
                cluster.let_owner_replay()
            yield cluster.url()
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


def prepare_web() -> subprocess.Popen[bytes]:
    """Start the web server's process, which reads the program in and waits; it ends when this process does."""
    command = ["setpriv", "--pdeathsig", "SIGTERM", "--", sys.executable, "-m", "redframe.launch.web"]
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
        "setpriv",
        "--pdeathsig",
        "SIGTERM",
        "--",
        "nice",
        "-n",
        "5",
        sys.executable,
        "-m",
        "redframe.jobs",
    ]
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
    web = prepare_web()
    try:
        with database(folder, demo=demo) as owner_url:
            applied = migrate(owner_url)
            if applied:
                say(f"{applied} migrations applied")
            environment = {}
            accounts: list[tuple[str, str, str]] = []
            if demo:
                from redframe.demo.load import ACCOUNTS, DEMO_TODAY, PASSWORD
                from redframe.launch.scenario import load_when_empty

                if load_when_empty(owner_url):
                    say("demo scenario loaded: the Isle of Corrane")
                environment = {"REDFRAME_DEMO_TODAY": DEMO_TODAY.isoformat(), "REDFRAME_OPEN_CALCULATORS": "1"}
                accounts = [(account.email, PASSWORD, account.role) for account in ACCOUNTS]
            start_web(owner_url, port, environment, prepared=web)
            worker = None
            try:
                if not wait_for_web(lambda: web.poll() is None, port):
                    fail("the web server did not start (see above)")
                # Only now: two processes that start side by side take each other's time.
                worker = start_worker(owner_url, environment)
                print(f"\n  Red Frame is at  http://127.0.0.1:{port}\n")
                for email, password, role in accounts:
                    print(f"  {role:<14}  {email:<28}  {password}")
                print("\n  Ctrl-C stops it.\n" if accounts else "  Ctrl-C stops it.\n", flush=True)
                while web.poll() is None:
                    if worker.poll() is not None:
                        say("the worker of the background jobs ended by itself: started again")
                        worker = start_worker(owner_url, environment)
                    time.sleep(2)
                fail("the web server ended by itself")
            finally:
                if worker is not None:
                    stop(worker)
                stop(web)
    except KeyboardInterrupt:
        say("stopped")
    finally:
        stop(web)
