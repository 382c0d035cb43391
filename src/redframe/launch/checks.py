"""`./redframe test`: every check of the project in one run, with a closing line that counts them."""

from __future__ import annotations

import io
import json
import os
import queue
import re
import subprocess
import sys
import threading
import time
import unittest
from collections.abc import Iterator
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import TextIO

from redframe.launch import front_end
from redframe.launch.system import ROOT, chromium, postgres_bin

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
            ("front-end format", [*npm, "format:check"], WEB),
        ):
            done = subprocess.run(command, cwd=cwd, env=environment, capture_output=True, text=True, check=False)
            self._note(name, done.returncode == 0, done.stdout + done.stderr)
        from redframe.launch.client import CLIENT, DESCRIPTION, api_description, generate_client

        described = DESCRIPTION.exists() and DESCRIPTION.read_text(encoding="utf-8") == api_description()
        self._note("the API's description is current", described, "stale: run ./redframe client and commit it")

        from redframe.launch.scenario import ships

        self._note("the demo's scenario ships as it is lived", ships(), "stale: run ./redframe scenario and commit it")

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
    """What became of a run of tests: how many ran, those that failed each with why, and how long each took."""

    run: int
    failed: dict[str, str]
    slowest: list[tuple[float, str]]


def _run(tests: list[unittest.TestCase], verbosity: int, stream: TextIO | None = None) -> Outcome:
    SLOWEST.clear()
    runner = unittest.TextTestRunner(stream, verbosity=verbosity, resultclass=_Timed, warnings="error")  # type: ignore[arg-type]
    result = runner.run(unittest.TestSuite(tests))
    broken = {test.id().split(" ")[0]: _why(said) for test, said in [*result.failures, *result.errors]}
    surprises = {test.id(): "was expected to fail" for test in result.unexpectedSuccesses}
    return Outcome(result.testsRun, broken | surprises, [*SLOWEST])


def _why(traceback: str) -> str:
    """The line of the test and what was raised there: all that is needed to begin with, in one line."""
    lines = [line.strip() for line in traceback.splitlines() if line.strip()]
    at = [number for number, line in enumerate(lines) if line.startswith("File ") and "/tests/" in line]
    where = lines[at[-1]].rpartition("/tests/")[2] if at else ""
    raised = next((line for line in lines if re.match(r"[\w.]*(Error|Exception|Failure|Warning)\b", line)), lines[-1])
    return f"{where}: {raised}"[:300]


def _found() -> list[unittest.TestCase]:
    return list(_tests(unittest.TestLoader().discover(str(ROOT / "tests"), top_level_dir=str(ROOT))))


FIRST = (
    "tests.browser.test_screens",
    "tests.core.",
    "tests.browser.",
    "tests.api.",
    "tests.launch.",
    "tests.web.",
)
"""Beginnings of the names of test modules in the order in which they are begun: what takes long must not come last."""

WORKERS = (os.cpu_count() or 1) + 1
"""Processes that test side by side: tests in the browser and of the server mostly wait."""


def _modules() -> list[str]:
    names = [".".join(path.relative_to(ROOT).with_suffix("").parts) for path in (ROOT / "tests").rglob("test_*.py")]

    def turn(name: str) -> tuple[int, str]:
        return next((at for at, one in enumerate(FIRST) if name.startswith(one)), len(FIRST)), name

    return sorted(names, key=turn)


class Worker(threading.Thread):
    """A process that runs one test module after another, as long as any is left, and reports what became of each."""

    def __init__(self, modules: queue.SimpleQueue[str]) -> None:
        super().__init__(name="worker")
        self._modules = modules
        self.outcomes: list[Outcome] = []

    def run(self) -> None:
        """Hand out modules; a module in which the process dies counts as failed and a new process takes the next."""
        while not self._modules.empty():
            command = [sys.executable, "-m", "redframe.launch.checks"]
            with subprocess.Popen(
                command, cwd=ROOT, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True
            ) as process:
                assert process.stdin is not None and process.stdout is not None
                while module := self._next():
                    began = time.monotonic()
                    print(module, file=process.stdin, flush=True)
                    line = process.stdout.readline()
                    if not line:
                        self.outcomes.append(Outcome(1, {module: "did not run to its end"}, []))
                        break
                    report = json.loads(line)
                    self.outcomes.append(
                        Outcome(report["run"], report["failed"], [(s, name) for s, name in report["slowest"]])
                    )
                    took = time.monotonic() - began
                    print(f"{module}: {report['run']} run, {len(report['failed'])} failed, {took:.0f} s", flush=True)
                    if report["failed"]:
                        print(report["said"], flush=True)
                process.stdin.close()

    def _next(self) -> str | None:
        try:
            return self._modules.get_nowait()
        except queue.Empty:
            return None


def work_off() -> None:
    """The worker's side: module names come in by lines, outcomes with what was said go out by lines."""
    answers = os.fdopen(os.dup(1), "w")
    os.dup2(2, 1)
    for line in sys.stdin:
        said = io.StringIO()
        tests = list(_tests(unittest.TestLoader().loadTestsFromName(line.strip())))
        outcome = _run(tests, 1, said)
        print(json.dumps({**asdict(outcome), "said": said.getvalue()}), file=answers, flush=True)


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
        static, modules = StaticChecks(), queue.SimpleQueue[str]()
        for module in _modules():
            modules.put(module)
        crew = [Worker(modules) for _ in range(WORKERS)]
        for thread in (static, *crew):
            thread.start()
        for thread in (static, *crew):
            thread.join()
        outcomes = [outcome for worker in crew for outcome in worker.outcomes]
        for name, said in static.failed:
            print(f"\n--- {name} ---\n{said}")
        passed = static.passed
        failures = {name: said.strip().splitlines()[-1] if said.strip() else "" for name, said in static.failed}
        for outcome in outcomes:
            failures |= outcome.failed
    run = sum(outcome.run for outcome in outcomes)
    passed += max(0, run - sum(len(outcome.failed) for outcome in outcomes))
    for seconds, name in sorted((one for outcome in outcomes for one in outcome.slowest), reverse=True)[:5]:
        print(f"  {seconds:5.1f} s  {name}")
    print(f"{time.monotonic() - started:.0f} seconds")
    for name, why in sorted(failures.items()):  # Said once more at the end, which is what is kept of a long output.
        print(f"failed: {name}: {why}")
    print(f"{passed} passed, {len(failures)} failed", flush=True)
    return 0 if not failures and run > 0 else 1


if __name__ == "__main__":
    sys.path.insert(0, str(ROOT))
    work_off()
