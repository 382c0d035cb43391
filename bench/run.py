"""`./redframe bench`: what a person waits for, measured on this machine, beside a plain alternative in the same run.

- API under 16 people at once, on the demo's hundred colonies and on ten thousand;
- each screen's answer alone against the same SQL sent straight to the database as its owner;
- weight of the front end, time to a usable Today, memory of the server.
"""

from __future__ import annotations

import asyncio
import gzip
import os
import platform
import statistics
import time
from collections.abc import Awaitable, Callable, Sequence
from contextlib import closing
from datetime import date
from pathlib import Path
from typing import Any
from uuid import UUID

import httpx
import psycopg
from tests.support import ServerProcess, as_app, demo_template, identity, new_database

from bench.association import measure_association
from bench.backtest import measure_forecast
from bench.board_pictures import measure as measure_pictures
from bench.cpu import Meter, asking, sending, statements_of
from bench.seed import seed
from bench.stable_bands import measure_stable_bands
from bench.visits import measure_visit
from redframe.demo.scenario import DEMO_TODAY, PASSWORD
from redframe.launch.front_end import DIST
from redframe.launch.system import ROOT, chromium
from redframe.store.colonies import NOBODY
from redframe.store.database import sql
from redframe.work.colonies.read import colony_view
from redframe.work.places.read import apiary_view, places_view
from redframe.work.planning.read import worklist
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.visits.read import visit_view

PEOPLE = 16
ROUNDS = 24
ALONE = 30
Line = tuple[str, str]


def percentile(values: list[float], share: float) -> float:
    """The value below which the share of them lies."""
    return sorted(values)[min(len(values) - 1, int(share * len(values)))]


async def crowd(server: ServerProcess, paths: list[str], cookies: httpx.Cookies) -> dict[str, list[float]]:
    """Milliseconds of each answer, with PEOPLE asking at once."""
    taken: dict[str, list[float]] = {path: [] for path in paths}

    async def person(number: int) -> None:
        async with httpx.AsyncClient(base_url=server.url, cookies=cookies, timeout=60) as client:
            for turn in range(ROUNDS):
                path = paths[(number + turn) % len(paths)]
                started = time.perf_counter()
                answer = await client.get(path)
                answer.raise_for_status()
                taken[path].append(1000 * (time.perf_counter() - started))

    await asyncio.gather(*(person(number) for number in range(PEOPLE)))
    return taken


def alone(unit: Callable[[], object]) -> float:
    """Median milliseconds of doing it by itself, after warming up."""
    times = []
    for number in range(ALONE + 5):
        started = time.perf_counter()
        unit()
        if number >= 5:
            times.append(1000 * (time.perf_counter() - started))
    return statistics.median(times)


def screens_of(apiary: UUID, colonies: Sequence[UUID]) -> dict[str, tuple[str, list[tuple[str, dict[str, object]]]]]:
    """The screens that are measured: the address of each, and the statements that answer it with what they take."""
    since, soon = date(2031, 3, 5), date(2031, 8, 5)
    return {
        "Today": ("/api/v1/worklist", [
            ("over_without_course", {"most": 61}),
            ("steps_due", {"until": soon, "most": 61}),
            ("counts_due", {"until": soon, "most": 61})]),
        "Places": ("/api/v1/apiaries", [("apiaries_overview", {"today": DEMO_TODAY}), ("keepers", {})]),
        "Apiary": (f"/api/v1/apiaries/{apiary}", [
            ("colonies_of_apiary", {"apiary_id": apiary, "colony_id": NOBODY, "today": DEMO_TODAY}),
            ("counts_of_colonies", {"colony_ids": list(colonies), "since": since}),
            ("strip_visits", {"apiary_id": apiary, "since": since}),
            ("strip_courses", {"apiary_id": apiary, "since": since})]),
    }  # fmt: skip


def measure_server(label: str, colonies: int) -> list[Line]:
    """Times and memory of a server on so many colonies (0: the demo as it is)."""
    url = new_database(demo_template())
    total = seed(url, colonies) if colonies else 0
    server = ServerProcess(owner_url=url)
    lines: list[Line] = [(f"**{label}**", f"{total} colonies" if total else "as the demo is")]
    try:
        with (
            closing(server.sign_in()) as client,
            psycopg.connect(url, autocommit=True) as bare,
            as_app(url, identity()) as ours,
        ):
            ours.commit()
            ours.autocommit = True
            row = bare.execute(
                "SELECT apiary_id, min(id::text) FROM colony WHERE state = 'alive' GROUP BY 1 ORDER BY count(*) DESC LIMIT 1"
            ).fetchone()
            assert row is not None
            apiary, colony = row
            colonies_there = [one for (one,) in bare.execute("SELECT id FROM colony WHERE apiary_id = %s", [apiary])]
            screens = screens_of(apiary, colonies_there)
            for name, (path, statements) in screens.items():
                through = alone(lambda path=path: client.get(path).raise_for_status())  # type: ignore[misc]
                straight = alone(lambda s=statements: [bare.execute(sql(n), p).fetchall() for n, p in s])  # type: ignore[misc]
                guarded = alone(lambda s=statements: [ours.execute(sql(n), p).fetchall() for n, p in s])  # type: ignore[misc]
                lines.append(
                    (
                        f"{name}: its queries under row-level security, against the same bare SQL",
                        f"{guarded:.1f} ms / {straight:.1f} ms = {guarded / straight:.1f}x (target 2)",
                    )
                )
                lines.append(
                    (
                        f"{name}: whole answer over HTTP, against its bare SQL",
                        f"{through:.1f} ms / {straight:.1f} ms = {through / straight:.1f}x",
                    )
                )
            paths = [path for path, _ in screens.values()] + [f"/api/v1/colonies/{colony}"]
            taken = asyncio.run(crowd(server, paths, client.cookies))
            for name, values in zip([*screens, "Colony"], taken.values(), strict=True):
                lines.append(
                    (
                        f"{name}: p50 / p95 with {PEOPLE} at once",
                        f"{percentile(values, 0.5):.0f} / {percentile(values, 0.95):.0f} ms",
                    )
                )
            every = [value for values in taken.values() for value in values]
            lines.append(
                (
                    f"all: p50 / p95 with {PEOPLE} at once",
                    f"{percentile(every, 0.5):.0f} / {percentile(every, 0.95):.0f} ms",
                )
            )
            lines += measure_cpu(server, url, bare, client.cookies, apiary, UUID(colony))
            lines += measure_policy(server)
        status = Path(f"/proc/{server.process.pid}/status").read_text(encoding="ascii")
        memory = next(int(line.split()[1]) for line in status.splitlines() if line.startswith("VmRSS"))
        lines.append(("memory of the server process", f"{memory / 1024:.0f} MB"))
    finally:
        server.stop()
    return lines


def measure_cpu(
    server: ServerProcess,
    url: str,
    owner: psycopg.Connection[Any],
    cookies: httpx.Cookies,
    apiary: UUID,
    colony: UUID,
) -> list[Line]:
    """Computing time of each screen's answer, against all its statements sent bare, and against the smallest answer."""
    meter = Meter(server.process.pid, owner)
    visit = owner.execute(
        "SELECT id FROM visit WHERE state = 'closed' AND place ? 'open_from_c' ORDER BY visited_on DESC, id LIMIT 1"
    ).fetchone()
    assert visit is not None
    screens: dict[str, tuple[str, Callable[[UnitOfWork], Awaitable[object]]]] = {
        "Today": ("worklist", worklist),
        "Places": ("apiaries", places_view),
        "Apiary": (f"apiaries/{apiary}", lambda unit: apiary_view(unit, apiary)),
        "Colony": (f"colonies/{colony}", lambda unit: colony_view(unit, colony)),
        "Visit": (f"visits/{visit[0]}", lambda unit: visit_view(unit, visit[0])),
    }
    smallest = sum(meter.per_answer(asking(server.url, "/api/v1/session", cookies)))
    lines: list[Line] = [("smallest answer there is, server and database", f"{smallest:.1f} ms of computing")]
    for name, (path, act) in screens.items():
        ours, database = meter.per_answer(asking(server.url, f"/api/v1/{path}", cookies))
        statements = statements_of(url, act)
        bare = meter.per_answer(sending(owner, statements))[1]
        said = (
            f"{ours:.1f} + {database:.1f} ms = {(ours + database) / smallest:.1f}x the smallest; "
            f"{database / bare:.1f}x its {len(statements)} statements sent bare ({bare:.1f} ms)"
        )
        lines.append((f"{name}: computing time of an answer, server + database", said))
    return lines


def measure_policy(server: ServerProcess) -> list[Line]:
    """How long it takes to say whom another policy would move, and to judge every counted colony by it."""
    with closing(server.sign_in("administrator@corrane.example")) as client:
        client.timeout = httpx.Timeout(600)
        present = client.get("/api/v1/policy").json()
        draft = {"scheme": "flat_3", "calendar": present["calendar"], "threshold_basis": "corrected"}
        started = time.perf_counter()
        client.post("/api/v1/policy/preview", json=draft).raise_for_status()
        previewed = time.perf_counter() - started
        started = time.perf_counter()
        put = client.put("/api/v1/policy", json=draft, headers={"If-Match": f'"{present["version"]}"'})
        put.raise_for_status()
        return [("a policy previewed / put in force", f"{previewed:.1f} s / {time.perf_counter() - started:.1f} s")]


def measure_front_end() -> list[Line]:
    """Weight of what the first screen loads, and the time to a usable Today."""
    from playwright.sync_api import sync_playwright

    server = ServerProcess()
    lines: list[Line] = [("**front end**", "")]
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=chromium(), args=["--no-sandbox", "--disable-gpu"])
            times, loaded = [], set()
            for turn in range(6):
                context = browser.new_context(base_url=server.url, viewport={"width": 1280, "height": 800})
                page = context.new_page()
                page.goto("/sign-in")
                page.get_by_label("E-mail").fill("mentor@corrane.example")
                page.get_by_label("Password").fill(PASSWORD)
                page.get_by_role("button", name="Sign in").click()
                page.get_by_role("heading", name="Saturday").wait_for()
                fresh = context.new_page()
                fresh.on("request", lambda request: loaded.add(request.url))
                started = time.perf_counter()
                fresh.goto("/", wait_until="commit")
                fresh.get_by_role("link", name="Choose a treatment").first.wait_for()
                if turn:
                    times.append(1000 * (time.perf_counter() - started))
                context.close()
            browser.close()
        wanted = [DIST / url.split(server.url + "/")[1] for url in loaded if url.endswith((".js", ".css"))]
        weight = sum(len(gzip.compress(path.read_bytes(), 6)) for path in wanted) + len(
            gzip.compress((DIST / "index.html").read_bytes())
        )
        lines.append(("first screen, scripts and styles, gzip", f"{weight / 1000:.0f} kB (target 200)"))
        lines.append(
            ("time to a usable Today, warm server (median of 5)", f"{statistics.median(times):.0f} ms (target 1000)")
        )
    finally:
        server.stop()
    return lines


def main() -> None:
    """Measure, print the table, keep it in docs/bench.md."""
    lines = [
        *measure_server("demo", 0),
        *measure_server("ten thousand, five seasons", 10_000),
        *measure_front_end(),
        *measure_visit(),
        ("**how honest the forecast is**", ""),
        *measure_forecast(),
        ("**how many members one colony needs**", "spread over eight random states, six weeks ahead"),
        *measure_stable_bands(),
        ("**forecasts of a whole association**", ""),
        *((what, f"{figure:.1f} {unit}") for what, figure, unit in measure_association()),
        ("**mites on pictures of boards by another generator**", ""),
        *(
            (
                f"{row['board']} board, {row['px_per_mm']:g} pixels a mm",
                f"recall {row['recall']:.2f}, precision {row['precision']:.2f}; {row['seconds']:.1f} s",
            )
            for row in measure_pictures(8)
        ),
    ]
    table = "\n".join(["| what | measured |", "|---|---|", *(f"| {what} | {measured} |" for what, measured in lines)])
    print(table)
    machine = f"{os.cpu_count()} cores, {os.sysconf('SC_PAGE_SIZE') * os.sysconf('SC_PHYS_PAGES') / 2**30:.0f} GiB, {platform.system()} {platform.machine()}, Python {platform.python_version()}"
    note = (
        "# Measured\n\nLast run of `./redframe bench`, "
        f"{time.strftime('%d %B %Y')}. Machine: {machine}; server, database, load and browser on it together.\n\n{table}\n\n"
        "The bare SQL is the same statements sent by one open connection of the owner, without row-level security, sessions or "
        "JSON: the floor. The database of these runs trades durability for speed (reads are not affected).\n"
    )
    kept = ROOT / "docs" / "bench.md"
    # The acts that work takes are counted by tests, not here: what the note says of them stays.
    _, mark, acts = kept.read_text(encoding="utf-8").partition("\n## Acts")
    kept.write_text(note + mark + acts, encoding="utf-8")
