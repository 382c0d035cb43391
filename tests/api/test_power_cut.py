"""Killing the server or PostgreSQL in the middle of writes loses nothing that was acknowledged."""

from __future__ import annotations

import os
import pwd
import shutil
import signal
import tempfile
import threading
import time
import unittest
from contextlib import closing
from pathlib import Path
from uuid import uuid4

import httpx
import psycopg

from redframe.demo.load import _insert_people
from redframe.launch.cluster import Cluster
from redframe.store.migrate import migrate
from tests.support import ServerProcess, owner_rows


class PowerCut(unittest.TestCase):
    """A durable cluster of its own, unlike that of the other tests."""

    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="redframe-cut-"))
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)
        if os.geteuid() == 0:
            os.chown(self.folder, pwd.getpwnam("postgres").pw_uid, -1)
        self.cluster = Cluster(self.folder)
        self.cluster.make()
        self.cluster.start()
        self.addCleanup(self.cluster.stop)
        self.cluster.make_database()
        migrate(self.cluster.url())
        with psycopg.connect(self.cluster.url()) as owner:
            _insert_people(owner, True)
        self.acknowledged: list[str] = []
        self.attempted = 0
        self.going = True

    def writer(self, server: ServerProcess) -> None:
        """Adds keepers one after another and remembers those that the server acknowledged."""
        try:
            with closing(server.sign_in()) as client:
                while self.going:
                    keeper = str(uuid4())
                    self.attempted += 1
                    answer = client.post("/api/v1/keepers", json={"id": keeper, "name": "Wren Halloran"})
                    if answer.status_code == 201:
                        self.acknowledged.append(keeper)
        except (httpx.HTTPError, RuntimeError):
            return

    def write_until_cut(self, server: ServerProcess, cut: object) -> None:
        """Three writers at work; after half a second the cut."""
        writers = [threading.Thread(target=self.writer, args=(server,)) for _ in range(3)]
        for writer in writers:
            writer.start()
        deadline = time.monotonic() + 10
        while len(self.acknowledged) < 40 and time.monotonic() < deadline:
            time.sleep(0.02)
        cut()  # type: ignore[operator]
        time.sleep(0.2)
        self.going = False
        for writer in writers:
            writer.join(timeout=20)

    def assert_all_kept(self) -> None:
        """Every acknowledged keeper is there, with its trail, and nothing is there half."""
        self.assertGreaterEqual(len(self.acknowledged), 40)
        kept = {
            str(row[0]) for row in owner_rows(self.cluster.url(), "SELECT id FROM keeper WHERE name = 'Wren Halloran'")
        }
        self.assertEqual(set(self.acknowledged) - kept, set())
        history = {
            str(row[0])
            for row in owner_rows(self.cluster.url(), "SELECT record_id FROM audit WHERE table_name = 'keeper'")
        }
        self.assertLessEqual(kept, history)

    def test_the_web_server_is_killed(self) -> None:
        """SIGKILL to the server in the middle of writes."""
        server = ServerProcess(owner_url=self.cluster.url())
        self.addCleanup(server.stop)
        self.write_until_cut(server, lambda: os.killpg(server.process.pid, signal.SIGKILL))
        self.assert_all_kept()

    def test_the_database_is_killed(self) -> None:
        """SIGKILL to PostgreSQL and all its children; it recovers at the next start, and so does the open server."""
        server = ServerProcess(owner_url=self.cluster.url())
        self.addCleanup(server.stop)
        process = self.cluster.process
        assert process is not None

        def cut() -> None:
            os.killpg(process.pid, signal.SIGKILL)
            process.wait()

        self.write_until_cut(server, cut)
        with httpx.Client(base_url=server.url, cookies={"redframe_session": "x" * 40}, timeout=30) as client:
            answer = client.get("/api/v1/session")
            self.assertEqual(answer.status_code, 503)
            self.assertEqual(answer.headers["content-type"], "application/problem+json")
        self.cluster.process = None
        self.cluster.start()
        self.assert_all_kept()
