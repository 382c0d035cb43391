"""Crashes: server, database, worker or launcher killed while people write, time and again.

`python -m bench.crashes 200` runs so many rounds and says what it found; `tests/launch/test_crashes.py` runs a few.
Each writer sends a count until it is acknowledged, under the same id; in the end every acknowledged one is there once, and
what is derived from all of them is what follows from them.
"""

from __future__ import annotations

import os
import pwd
import random
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
import time
from contextlib import suppress
from dataclasses import dataclass, field
from pathlib import Path
from typing import Literal, get_args
from uuid import uuid4

import httpx
import psycopg

from redframe.demo.scenario import PASSWORD, made_id
from redframe.launch.cluster import Cluster, free_port
from redframe.launch.system import ROOT

Victim = Literal["server", "database", "worker", "launcher"]
WRITERS = 3
BACK_WITHIN_S = 90.0
COMMANDS = {"server": "redframe.launch.web", "worker": "redframe.jobs"}
ROWS = "SELECT to_jsonb(n)::text FROM colony_now n UNION ALL SELECT to_jsonb(n)::text FROM apiary_now n ORDER BY 1"


@dataclass
class Found:
    """What was found: `lost`: acknowledged and not there; `doubled`: there, or written down in the trail, more than
    once; `derived`: rows that differ from what follows from all records; `stuck`: forecasts that nobody finished."""

    rounds: int = 0
    acknowledged: int = 0
    lost: int = 0
    doubled: int = 0
    derived: int = 0
    stuck: int = 0
    longest_back_s: float = 0.0
    killed: dict[str, int] = field(default_factory=dict)


class Installation:
    """A real installation with the demo's data, started by its launcher, in a folder of its own."""

    def __init__(self) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="redframe-crash-"))
        if os.geteuid() == 0:
            os.chown(self.folder, pwd.getpwnam("postgres").pw_uid, -1)
        self.port = free_port()
        self.url = f"http://127.0.0.1:{self.port}"
        self.launcher = self._launch()

    def _launch(self) -> subprocess.Popen[bytes]:
        command = [sys.executable, "-m", "redframe.launch", "demo", "--port", str(self.port), "--data", str(self.data)]
        environment = {**os.environ, "PYTHONPATH": str(ROOT / "src"), "REDFRAME_FAST_PASSWORDS": "1"}
        environment.pop("DATABASE_URL", None)
        return subprocess.Popen(
            command, cwd=ROOT, env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
        )

    @property
    def data(self) -> Path:
        """The data folder."""
        return self.folder / "data"

    def kill(self, victim: Victim) -> None:
        """End one of its processes as a power cut would."""
        if victim == "launcher":
            self.launcher.kill()
        elif victim == "database":
            with suppress(OSError, ValueError):
                first = (self.data / "postgres" / "postmaster.pid").read_text(encoding="ascii").splitlines()[0]
                os.killpg(int(first), signal.SIGKILL)
        else:
            found = subprocess.run(
                ["pgrep", "-P", str(self.launcher.pid), "-f", COMMANDS[victim]],
                capture_output=True, text=True, check=False,
            )  # fmt: skip
            for pid in found.stdout.split():
                with suppress(ProcessLookupError):
                    os.kill(int(pid), signal.SIGKILL)

    def look_after(self) -> None:
        """Start the launcher again where it has ended, as a service manager would."""
        if self.launcher.poll() is not None:
            time.sleep(0.5)
            self.launcher = self._launch()

    def owner(self) -> psycopg.Connection[tuple[object, ...]]:
        """The database as its owner, once it answers: what took a killed launcher's place may just be starting it."""
        cluster, began = Cluster(self.data), time.monotonic()
        while not cluster.join():
            self.look_after()
            if time.monotonic() - began > BACK_WITHIN_S:
                raise RuntimeError("the database does not answer")
            time.sleep(0.5)
        return psycopg.connect(cluster.url(), autocommit=True)

    def remove(self) -> None:
        """Stop it and take its folder away."""
        self.launcher.terminate()
        self.launcher.wait(timeout=60)
        shutil.rmtree(self.folder, ignore_errors=True)


class Writers:
    """People who add counts, each until it is acknowledged, for as long as they go on."""

    def __init__(self, url: str, seed: int) -> None:
        self._url = url
        self._seed = seed
        self._going = True
        self.acknowledged: list[str] = []
        labels = [("Kettle Wood", f"K{number}") for number in range(1, 13)]
        self._colonies = [str(made_id("corrane", *label)) for label in labels]
        self._threads = [threading.Thread(target=self._write, args=(number,), daemon=True) for number in range(WRITERS)]
        for thread in self._threads:
            thread.start()

    def _write(self, number: int) -> None:
        chance = random.Random(self._seed + number)
        client: httpx.Client | None = None
        while self._going:
            count = {
                "id": str(uuid4()), "method": "wash", "colony_id": chance.choice(self._colonies), "shakes": [chance.randint(0, 9), 1],
                "taken_at": f"2031-08-01T{chance.randint(6, 18):02}:{chance.randint(0, 59):02}:00Z", "bees_known_by": "counted", "bees": 300,
            }  # fmt: skip
            while self._going:
                try:
                    client = client or self._enter()
                    answer = client.post("/api/v1/counts", json=count)
                except httpx.HTTPError:
                    client = None
                    time.sleep(0.1)
                    continue
                if answer.status_code == 201:
                    self.acknowledged.append(str(count["id"]))
                elif answer.status_code >= 500 or answer.status_code == 401:
                    client = client if answer.status_code != 401 else None
                    time.sleep(0.1)
                    continue
                break

    def _enter(self) -> httpx.Client:
        client = httpx.Client(base_url=self._url, timeout=30)
        answer = client.post("/api/v1/session", json={"email": "mentor@corrane.example", "password": PASSWORD})
        answer.raise_for_status()
        client.headers["X-CSRF-Token"] = answer.json()["csrf_token"]
        return client

    def stop(self) -> None:
        """Let them end."""
        self._going = False
        for thread in self._threads:
            thread.join(timeout=60)


def crash(rounds: int, seed: int = 20310802, victims: tuple[Victim, ...] = get_args(Victim)) -> Found:
    """So many rounds, the first of each victim, then at random; each at a random moment while counts are written."""
    chance, found, installation = random.Random(seed), Found(), Installation()
    writers = Writers(installation.url, seed)
    try:
        _wait_for(writers, installation, WRITERS)
        for number in range(rounds):
            victim = victims[number] if number < len(victims) else chance.choice(victims)
            time.sleep(chance.uniform(0.0, 0.8))
            if number % 10 == 5:
                _ask_for_forecasts(installation.url)
            there = len(writers.acknowledged)
            installation.kill(victim)
            found.longest_back_s = max(found.longest_back_s, _wait_for(writers, installation, there + WRITERS))
            found.killed[victim] = found.killed.get(victim, 0) + 1
            found.rounds += 1
        writers.stop()
        _compare(installation, writers.acknowledged, found)
    finally:
        writers.stop()
        installation.remove()
    return found


def _wait_for(writers: Writers, installation: Installation, acknowledged: int) -> float:
    """Seconds until so many counts are acknowledged. Raises TimeoutError where people wait too long."""
    began = time.monotonic()
    while len(writers.acknowledged) < acknowledged:
        installation.look_after()
        if time.monotonic() - began > BACK_WITHIN_S:
            raise TimeoutError(f"nothing was acknowledged for {BACK_WITHIN_S:.0f} s")
        time.sleep(0.1)
    return time.monotonic() - began


def _ask_for_forecasts(url: str) -> None:
    """Give the worker something to be killed at; where the door is shut just then, nothing."""
    with suppress(httpx.HTTPError), httpx.Client(base_url=url, timeout=10) as client:
        entered = client.post("/api/v1/session", json={"email": "inspector@corrane.example", "password": PASSWORD})
        client.headers["X-CSRF-Token"] = entered.json().get("csrf_token", "")
        client.post("/api/v1/forecasts", json={"id": str(uuid4())})


def _compare(installation: Installation, acknowledged: list[str], found: Found) -> None:
    """Look for what was acknowledged, once each, and for what follows from it."""
    found.acknowledged = len(acknowledged)
    with installation.owner() as owner:
        there = [str(row[0]) for row in owner.execute("SELECT id FROM mite_count").fetchall()]
        written = owner.execute(
            "SELECT record_id::text, count(*) FROM audit WHERE table_name = 'mite_count' AND act = 'created' GROUP BY 1"
        ).fetchall()
        found.lost = len(set(acknowledged) - set(there))
        entries = {str(name): int(str(times)) for name, times in written}
        found.doubled = len(there) - len(set(there)) + sum(entries.get(one, 0) != 1 for one in acknowledged)
        as_kept = owner.execute(ROWS).fetchall()
        owner.execute("SELECT renew_apiaries_now(ARRAY(SELECT id FROM apiary))")
        owner.execute("SELECT renew_colonies_now(ARRAY(SELECT id FROM colony))")
        again = owner.execute(ROWS).fetchall()
        found.derived = len(set(as_kept) ^ set(again))
        deadline = time.monotonic() + 90
        while True:
            row = owner.execute("SELECT count(*) FROM forecast_run WHERE state IN ('waiting', 'running')").fetchone()
            found.stuck = int(str(row[0])) if row else 0
            if not found.stuck or time.monotonic() > deadline:
                break
            time.sleep(1)


def main() -> None:
    """Crash as often as was asked for, and say what was found."""
    began = time.monotonic()
    found = crash(int(sys.argv[1]) if len(sys.argv) > 1 else 200)
    killed = ", ".join(f"{name} {times}" for name, times in sorted(found.killed.items()))
    print(
        f"{found.rounds} crashes ({killed}) in {time.monotonic() - began:.0f} s: {found.acknowledged} counts acknowledged, "
        f"{found.lost} lost, {found.doubled} doubled, {found.derived} derived rows wrong, {found.stuck} forecasts stuck; "
        f"back within {found.longest_back_s:.0f} s at the latest"
    )


if __name__ == "__main__":
    main()
