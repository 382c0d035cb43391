"""`./redframe test`: every check of the project in one run, with a closing line that counts them."""

from __future__ import annotations

import os
import subprocess
import sys
import threading
import time
import unittest
from collections.abc import Iterator
from pathlib import Path

from redframe.launch import front_end
from redframe.launch.system import ROOT, chromium, postgres_bin, say

WEB = ROOT / "web"
BIN = Path(sys.executable).parent


class StaticChecks(threading.Thread):
    """The checks that need no running application, beside the tests that do."""

    def __init__(self) -> None:
        super().__init__(name="static checks")
        self.failed: list[tuple[str, str]] = []
        self.passed = 0

    def run(self) -> None:
        """Run them one after the other."""
        npm = ["npm", "run", "--silent"]
        environment = {**os.environ, "MYPYPATH": "src"}
        for name, command, cwd in (
            ("ruff", [str(BIN / "ruff"), "check", "."], ROOT),
            ("ruff format", [str(BIN / "ruff"), "format", "--check", "."], ROOT),
            ("mypy", [str(BIN / "mypy")], ROOT),
            ("import layers", [str(BIN / "lint-imports")], ROOT),
            ("front-end types", [*npm, "typecheck"], WEB),
            ("front-end lint", [*npm, "lint"], WEB),
        ):
            done = subprocess.run(command, cwd=cwd, env=environment, capture_output=True, text=True, check=False)
            self._note(name, done.returncode == 0, done.stdout + done.stderr)
        from redframe.launch.client import CLIENT, generate_client

        fresh = generate_client() == CLIENT.read_text(encoding="utf-8")
        self._note("the client is current", fresh, "stale: run ./redframe client and commit it")

    def _note(self, name: str, ok: bool, said: str) -> None:
        if ok:
            self.passed += 1
        else:
            self.failed.append((name, said[-4000:]))


def _tests(suite: unittest.TestSuite) -> Iterator[unittest.TestCase]:
    for item in suite:
        if isinstance(item, unittest.TestSuite):
            yield from _tests(item)
        else:
            yield item


class _Timed(unittest.TextTestResult):
    """Remembers how long each test took."""

    def startTest(self, test: unittest.TestCase) -> None:
        """Start the watch."""
        self._started = time.monotonic()
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:
        """Stop the watch."""
        SLOWEST.append((time.monotonic() - self._started, test.id()))
        super().stopTest(test)


SLOWEST: list[tuple[float, str]] = []


def run_all(only: list[str]) -> int:
    """Run the tests (those whose name has one of the words, when given) and the static checks; 0 when all passed."""
    started = time.monotonic()
    postgres_bin()
    os.environ.setdefault("CHROMIUM", chromium())
    front_end.install()
    front_end.build()
    static = StaticChecks()
    if not only:
        static.start()
    loader = unittest.TestLoader()
    found = loader.discover(str(ROOT / "tests"), top_level_dir=str(ROOT))
    wanted = [test for test in _tests(found) if not only or any(word in test.id() for word in only)]
    verbosity = 2 if only else 1
    runner = unittest.TextTestRunner(verbosity=verbosity, resultclass=_Timed, warnings="error")  # type: ignore[arg-type]
    result = runner.run(unittest.TestSuite(wanted))
    if not only:
        say("tests done; waiting for the static checks ...")
        static.join()
    for name, said in static.failed:
        print(f"\n--- {name} ---\n{said}")
    broken = {test.id().split(" ")[0] for test, _ in [*result.failures, *result.errors]}
    failed = len(broken) + len(result.unexpectedSuccesses) + len(static.failed)
    passed = result.testsRun - min(len(broken), result.testsRun) + static.passed
    for seconds, name in sorted(SLOWEST, reverse=True)[:5]:
        print(f"  {seconds:5.1f} s  {name}")
    print(f"{time.monotonic() - started:.0f} seconds")
    print(f"{passed} passed, {failed} failed", flush=True)
    return 0 if failed == 0 and result.testsRun > 0 else 1
