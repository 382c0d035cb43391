"""Schemathesis over the API's own description: no input that it invents brings a server error."""

from __future__ import annotations

import os
import subprocess
import sys
import unittest
from contextlib import closing
from pathlib import Path

import httpx

from tests.support import Server

EXAMPLES = os.environ.get("REDFRAME_FUZZ_EXAMPLES", "8")


ROLES = ("administrator", "inspector", "mentor", "keeper", "reader")


class Fuzz(unittest.TestCase):
    def test_no_input_brings_a_server_error(self) -> None:
        """Every operation with generated and mutated input, in every role, from a fixed seed; the administrator, whom
        most doors are open to, asks most. The demo is everybody's to spoil."""
        server = Server()
        self.addCleanup(server.stop)
        for role in ROLES:
            examples = int(EXAMPLES) if role == "administrator" else max(1, int(EXAMPLES) // 4)
            with self.subTest(role=role), closing(server.sign_in(f"{role}@corrane.example")) as client:
                self.assertNoServerError(server.url, client, examples)

    def assertNoServerError(self, url: str, client: httpx.Client, examples: int) -> None:
        """Nothing that is invented brings one."""
        command = [
            str(Path(sys.executable).parent / "schemathesis"), "run", f"{url}/api/v1/openapi.json",
            "--checks", "not_a_server_error,content_type_conformance,response_schema_conformance",
            "--max-examples", str(examples), "--seed", "20310802", "--phases", "fuzzing", "--workers", "2",
            "--exclude-path-regex", "/session", "--generation-database", "none", "--no-color",
            "--continue-on-failure", "--suppress-health-check", "all", "--request-timeout", "60",
            "-H", f"X-CSRF-Token: {client.headers['X-CSRF-Token']}",
            "-H", f"Cookie: redframe_session={client.cookies['redframe_session']}",
        ]  # fmt: skip
        done = subprocess.run(command, capture_output=True, text=True, timeout=500, check=False)
        self.assertEqual(done.returncode, 0, done.stdout[done.stdout.find("FAILURES") :][:8000] + done.stderr[-2000:])
