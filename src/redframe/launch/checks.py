"""`./redframe test`: every check of the project in one run, with a closing line that counts them."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
import threading
import time
import unittest
from collections.abc import Iterator, Sequence
from dataclasses import asdict, dataclass
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


@dataclass(frozen=True, slots=True)
class Outcome:
    """What became of a run of tests: how many ran, the names of those that failed, and how long each took."""

    run: int
    failed: list[str]
    slowest: list[tuple[float, str]]


def _run(tests: list[unittest.TestCase], verbosity: int) -> Outcome:
    runner = unittest.TextTestRunner(verbosity=verbosity, resultclass=_Timed, warnings="error")  # type: ignore[arg-type]
    result = runner.run(unittest.TestSuite(tests))
    broken = {test.id().split(" ")[0] for test, _ in [*result.failures, *result.errors]}
    return Outcome(result.testsRun, sorted(broken | {test.id() for test in result.unexpectedSuccesses}), SLOWEST)


def _found() -> list[unittest.TestCase]:
    return list(_tests(unittest.TestLoader().discover(str(ROOT / "tests"), top_level_dir=str(ROOT))))


ASIDE = (
    ("tests.browser.test_story.", "tests.browser.test_keeping."),
    ("tests.browser.test_screens.", "tests.browser.test_extremes."),
)
"""Groups of tests, by the beginnings of their names, that run in processes of their own."""


def _in_group(test: unittest.TestCase, group: Sequence[str]) -> bool:
    return test.id().startswith(tuple(group))


class TestsAside:
    """Tests in a process of their own: those in the browser mostly wait, so the others run meanwhile."""

    def __init__(self, group: Sequence[str]) -> None:
        self._group = group
        self._folder = tempfile.TemporaryDirectory(prefix="redframe-checks-")
        self._outcome = Path(self._folder.name) / "outcome.json"
        self._said = (Path(self._folder.name) / "said").open("w+")
        command = [sys.executable, "-m", "redframe.launch.checks", str(self._outcome), *group]
        self._process = subprocess.Popen(command, cwd=ROOT, stdout=self._said, stderr=subprocess.STDOUT)

    def join(self) -> Outcome:
        """Wait for them, show what they said, and return what became of them."""
        self._process.wait()
        self._said.seek(0)
        print(self._said.read())
        self._said.close()
        told = json.loads(self._outcome.read_text()) if self._outcome.exists() else None
        self._folder.cleanup()
        if told is None:
            return Outcome(0, [f"{self._group[0]} and so on (did not run to their end)"], [])
        return Outcome(told["run"], told["failed"], [(seconds, name) for seconds, name in told["slowest"]])


def run_all(only: list[str]) -> int:
    """Run the tests (those whose name has one of the words, when given) and the static checks; 0 when all passed."""
    started = time.monotonic()
    postgres_bin()
    os.environ.setdefault("CHROMIUM", chromium())
    front_end.install()
    front_end.build()
    if only:
        outcomes = [_run([test for test in _found() if any(word in test.id() for word in only)], verbosity=2)]
        passed, failures = 0, outcomes[0].failed
    else:
        static, aside = StaticChecks(), [TestsAside(group) for group in ASIDE]
        static.start()
        here = [test for test in _found() if not any(_in_group(test, group) for group in ASIDE)]
        outcomes = [_run(here, verbosity=1)]
        say("waiting for the tests in the browser and the static checks ...")
        outcomes += [one.join() for one in aside]
        static.join()
        for name, said in static.failed:
            print(f"\n--- {name} ---\n{said}")
        passed, failures = (
            static.passed,
            [name for name, _ in static.failed] + [name for outcome in outcomes for name in outcome.failed],
        )
    run = sum(outcome.run for outcome in outcomes)
    passed += max(0, run - sum(len(outcome.failed) for outcome in outcomes))
    for seconds, name in sorted((one for outcome in outcomes for one in outcome.slowest), reverse=True)[:5]:
        print(f"  {seconds:5.1f} s  {name}")
    print(f"{time.monotonic() - started:.0f} seconds")
    print(f"{passed} passed, {len(failures)} failed", flush=True)
    return 0 if not failures and run > 0 else 1


if __name__ == "__main__":
    sys.path.insert(0, str(ROOT))
    finished = _run([test for test in _found() if _in_group(test, sys.argv[2:])], verbosity=1)
    Path(sys.argv[1]).write_text(json.dumps(asdict(finished)))
    sys.exit(1 if finished.failed else 0)
