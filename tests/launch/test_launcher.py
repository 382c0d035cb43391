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
import psycopg

from redframe.launch.administrator import add_administrator
from redframe.launch.backup import backup, restore
from redframe.launch.cluster import free_port
from redframe.launch.server import check_whole, holds_demo
from redframe.launch.system import ROOT
from redframe.store import catalogue
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

    def test_a_database_that_ends_is_started_again(self) -> None:
        """And what is asked meanwhile is answered again, from the same address."""
        launched = self.start()
        postmaster = int((self.folder / "data" / "postgres" / "postmaster.pid").read_text().split()[0])
        os.kill(postmaster, signal.SIGKILL)
        deadline = time.monotonic() + 60
        while time.monotonic() < deadline:
            time.sleep(0.5)
            found = (self.folder / "data" / "postgres" / "postmaster.pid").read_text().split()
            if found and int(found[0]) != postmaster and self.signs_in() == 401:
                break
        self.assertEqual(self.signs_in(), 401, "the database answers that nobody is called so")
        self.assertIsNone(launched.poll())
        launched.send_signal(signal.SIGINT)
        launched.wait(timeout=60)
        self.wait_until_gone()

    def signs_in(self) -> int:
        """What is answered to somebody who is not known."""
        entry = {"email": f"{uuid4()}@corrane.example", "password": "not a password"}
        try:
            return httpx.post(f"http://127.0.0.1:{self.port}/api/v1/session", json=entry, timeout=20).status_code
        except httpx.HTTPError:
            return 0

    def command(self, *words: str, typed: str = "") -> subprocess.CompletedProcess[str]:
        """A command on the same data folder."""
        environment = {key: value for key, value in os.environ.items() if key != "DATABASE_URL"}
        return subprocess.run(
            [sys.executable, "-m", "redframe.launch", *words, "--data", str(self.folder / "data")], cwd=ROOT,
            env={**environment, "PYTHONPATH": str(ROOT / "src")}, capture_output=True, text=True, input=typed, check=False,
        )  # fmt: skip

    def test_backup_and_password_while_it_runs(self) -> None:
        """Neither needs the installation to stop; a restore and a second server do, and say so in one line."""
        launched = self.start()
        who = ["--email", "ada@corrane.example"]
        added = self.command(
            "administrator", "--association", "Corrane", *who, "--name", "Ada", typed="a-long-password\n"
        )
        self.assertEqual(added.returncode, 0, added.stderr)
        again = self.command(
            "administrator", "--association", "Corrane", *who, "--name", "Ada", typed="a-long-password\n"
        )
        self.assertIn("signs in here already", again.stderr)
        self.assertEqual(len(again.stderr.strip().splitlines()), 1)
        changed = self.command("password", *who, typed="another-long-password\n")
        self.assertEqual(changed.returncode, 0, changed.stderr)
        entry = {"email": who[1], "password": "another-long-password"}
        self.assertEqual(
            httpx.post(f"http://127.0.0.1:{self.port}/api/v1/session", json=entry, timeout=20).status_code, 201
        )
        file = self.folder / "kept.dump"
        made = self.command("backup", str(file))
        self.assertEqual(made.returncode, 0, made.stderr)
        self.assertEqual(file.stat().st_mode & 0o777, 0o600)
        for words in (("restore", str(file)), ("serve", "--port", str(free_port()))):
            refused = self.command(*words)
            self.assertNotEqual(refused.returncode, 0)
            self.assertIn("another launcher is at work", refused.stderr)
        launched.send_signal(signal.SIGINT)
        launched.wait(timeout=60)

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
            cluster().make_database("cut_off")
            torn = Path(folder) / "torn.dump"
            torn.write_bytes(file.read_bytes()[: file.stat().st_size * 3 // 4])
            with self.assertRaises(SystemExit), redirect_stderr(io.StringIO()):
                restore(cluster().url("cut_off"), torn)
            there = owner_rows(cluster().url("cut_off"), "SELECT count(*) FROM pg_class WHERE relname = 'association'")
            self.assertEqual(there, [(0,)], "a restore that is cut off leaves nothing behind")
        server = Server(owner_url=target)
        self.addCleanup(server.stop)
        with closing(server.sign_in("keeper@corrane.example")) as keeper:
            self.assertEqual(len(keeper.get("/api/v1/apiaries").json()["apiaries"]), 2)


class Whole(unittest.TestCase):
    def test_the_list_is_what_the_migrations_make(self) -> None:
        """Nothing more, nothing less."""
        listed = catalogue.LISTED.read_text(encoding="utf-8").splitlines()
        self.assertEqual(listed, catalogue.held(cluster().url(empty_template())), "run ./redframe schema")

    def test_a_database_without_its_guards_is_not_served(self) -> None:
        """Whatever is missing: a policy, a table's guard, a trigger, a key."""
        for statement in (
            "DROP POLICY seen ON colony", "ALTER TABLE visit DISABLE ROW LEVEL SECURITY", "DROP TRIGGER history ON mite_count",
            "ALTER TABLE mite_count DISABLE TRIGGER history", "ALTER TABLE course DROP CONSTRAINT course_pkey CASCADE",
        ):  # fmt: skip
            url = new_database(empty_template())
            check_whole(url)
            with psycopg.connect(url) as owner:
                owner.execute(statement)  # type: ignore[arg-type]
            with self.subTest(statement=statement), self.assertRaises(SystemExit) as said:
                check_whole(url)
            self.assertIn("not whole", str(said.exception.code))

    def test_demo_data_is_not_served_as_real(self) -> None:
        """Its passwords are in the README."""
        self.assertTrue(holds_demo(new_database(demo_template())))
        self.assertFalse(holds_demo(new_database(empty_template())))


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
