"""An installation from nothing: started, killed, started again, backed up, restored, with its first administrator."""

from __future__ import annotations

import io
import json
import os
import pwd
import shutil
import signal
import subprocess
import sys
import tempfile
import time
import unittest
import urllib.error
import urllib.request
from contextlib import closing, redirect_stderr
from pathlib import Path
from unittest import mock
from uuid import uuid4

import httpx

from redframe.launch.administrator import add_administrator
from redframe.launch.backup import backup, restore
from redframe.launch.cluster import free_port
from redframe.launch.system import ROOT
from redframe.store.migrate import migrate
from tests.support import Server, cluster, demo_template, empty_template, new_database, owner_rows

RECORDS = ("association", "person", "membership", "apiary", "colony", "mite_count", "course", "course_act", "audit")


class Importing(unittest.TestCase):
    def test_the_door_opens_without_what_only_some_need(self) -> None:
        """Statistics, optimisers, pictures and printing are imported by what needs them."""
        heavy = ("scipy.stats", "scipy.optimize", "scipy.ndimage", "skimage", "PIL.Image", "reportlab")
        ask = f"import sys, redframe.api.app; print([one for one in {heavy} if one in sys.modules])"
        done = subprocess.run([sys.executable, "-c", ask], capture_output=True, text=True, check=True, timeout=120)
        self.assertEqual(done.stdout.strip(), "[]")


class Launcher(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="redframe-launch-"))
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)
        if os.geteuid() == 0:
            os.chown(self.folder, pwd.getpwnam("postgres").pw_uid, -1)
        self.port = free_port()

    def start(self) -> subprocess.Popen[str]:
        """Start a real installation and wait until it answers."""
        environment = {key: value for key, value in os.environ.items() if key != "DATABASE_URL"}
        launched = subprocess.Popen(
            [sys.executable, "-m", "redframe.launch", "serve", "--port", str(self.port), "--data", str(self.folder / "data")],
            cwd=ROOT, env={**environment, "PYTHONPATH": str(ROOT / "src")}, stdout=subprocess.PIPE, text=True,
        )  # fmt: skip
        self.addCleanup(launched.stdout.close)  # type: ignore[union-attr]
        deadline = time.monotonic() + 60
        while time.monotonic() < deadline and launched.poll() is None:
            if self.answers():
                return launched
            time.sleep(0.1)
        launched.kill()
        raise AssertionError("the installation did not start")

    def answers(self) -> bool:
        """Whether somebody answers on the port."""
        try:
            with urllib.request.urlopen(f"http://127.0.0.1:{self.port}/api/v1/session", timeout=2) as answer:
                return bool(json.load(answer)["person"] is None)
        except (urllib.error.URLError, OSError):
            return False

    def servers(self) -> list[str]:
        """Processes that still work on the data folder."""
        listed = subprocess.run(["ps", "axo", "args"], capture_output=True, text=True, check=True).stdout
        return [line for line in listed.splitlines() if str(self.folder) in line and "ps axo" not in line]

    def wait_until_gone(self) -> None:
        """Everything that the launcher started ends with it."""
        deadline = time.monotonic() + 90
        while self.servers() and time.monotonic() < deadline:
            time.sleep(0.2)
        self.assertEqual(self.servers(), [])
        self.assertFalse(self.answers())

    def test_killed_and_started_again(self) -> None:
        """SIGKILL takes the children along; the next start recovers; Ctrl-C stops everything."""
        first = self.start()
        first.kill()
        first.wait()
        self.wait_until_gone()
        second = self.start()
        second.send_signal(signal.SIGINT)
        second.wait(timeout=60)
        self.wait_until_gone()

    def test_help_reads(self) -> None:
        """The commands and their options are listed without installing or starting anything."""
        result = subprocess.run([str(ROOT / "redframe"), "--help"], capture_output=True, text=True, check=True).stdout
        for command in ("demo", "serve", "test", "bench", "backup", "restore", "administrator"):
            self.assertIn(command, result)


class BackupAndRestore(unittest.TestCase):
    def test_what_is_restored_is_what_was_backed_up(self) -> None:
        """Every record comes back, visibility with it; a database with records is never written over."""
        source = new_database(demo_template())
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "corrane.dump"
            backup(source, file)
            cluster().make_database("restored")
            target = cluster().url("restored")
            restore(target, file)
            self.assertEqual(migrate(target), 0)
            for table in RECORDS:
                query = f"SELECT count(*), md5(string_agg(t::text, '' ORDER BY t::text)) FROM {table} t"  # noqa: S608
                with self.subTest(table=table):
                    self.assertEqual(owner_rows(target, query), owner_rows(source, query))
            with self.assertRaises(SystemExit), redirect_stderr(io.StringIO()):
                restore(target, file)
            with self.assertRaises(SystemExit), redirect_stderr(io.StringIO()):
                backup(source, file)
        server = Server(owner_url=target)
        self.addCleanup(server.stop)
        with closing(server.sign_in("keeper@corrane.example")) as keeper:
            self.assertEqual(len(keeper.get("/api/v1/apiaries").json()["apiaries"]), 2)


class FirstAdministrator(unittest.TestCase):
    def test_an_empty_installation_comes_to_life(self) -> None:
        """Administrator, keeper, apiary, colony, count: from nothing to the first level."""
        url = new_database(empty_template())
        with mock.patch.object(sys, "stdin", io.StringIO("a-long-password\n")):
            add_administrator(
                url, association="Port Ellery Bee Keepers", email="Wilga@Ellery.example", name="Wilga Dunne",
                timezone="Etc/GMT-10", south=True,
            )  # fmt: skip
        server = Server(owner_url=url)
        self.addCleanup(server.stop)
        with httpx.Client(base_url=server.url, timeout=30) as client:
            entry = {"email": "wilga@ellery.example", "password": "a-long-password"}
            session = client.post("/api/v1/session", json=entry).json()
            self.assertEqual((session["role"], session["person"]["name"]), ("administrator", "Wilga Dunne"))
            client.headers["X-CSRF-Token"] = session["csrf_token"]
            self.assertEqual(client.get("/api/v1/apiaries").json()["apiaries"], [])
            self.assertEqual(client.get("/api/v1/worklist").json()["counts"], [])
            keeper, apiary, colony = (str(uuid4()) for _ in range(3))
            client.post("/api/v1/keepers", json={"id": keeper, "name": "Banks Harrow"}).raise_for_status()
            place = {"id": apiary, "keeper_id": keeper, "name": "Old Jetty", "latitude": -39.948, "longitude": 158.461}
            client.post("/api/v1/apiaries", json=place).raise_for_status()
            stock = {"id": colony, "apiary_id": apiary, "label": "J1", "since": "2031-07-01"}
            client.post("/api/v1/colonies", json=stock).raise_for_status()
            self.assertEqual(client.get("/api/v1/worklist").json()["counts"][0]["never"], 1)
            wash = {
                "id": str(uuid4()), "method": "wash", "colony_id": colony, "taken_at": "2031-08-01T22:00:00Z", "shakes": [4, 0],
                "bees_known_by": "counted", "bees": 300,
            }  # fmt: skip
            result = client.post("/api/v1/counts", json=wash).json()
            self.assertEqual(result["judgement"]["phase"], "dormant", "August is winter here")
            self.assertEqual(result["count"]["taken_on"], "2031-08-02", "the day of the place, not of the wire")

    def test_weak_passwords_and_unknown_zones_are_refused(self) -> None:
        """With one clear line and nothing laid down."""
        url = new_database(empty_template())
        for typed, timezone in (("short\n", "UTC"), ("aaaaaaaaaaaa\n", "UTC"), ("a-long-password\n", "Nowhere/Land")):
            with (
                self.subTest(typed=typed, timezone=timezone),
                mock.patch.object(sys, "stdin", io.StringIO(typed)),
                self.assertRaises(SystemExit),
            ):
                add_administrator(url, association="A", email="a@b.example", name="A", timezone=timezone, south=False)
        self.assertEqual(owner_rows(url, "SELECT count(*) FROM person"), [(0,)])
