"""`./redframe bench`: what a person waits for, measured on this machine, beside a plain alternative in the same run.

- API under 16 people at once, on the demo's hundred colonies and on ten thousand;
- each screen's answer alone against the same SQL sent straight to the database as its owner;
- weight of the front end, time to a usable Today, memory of the server.
"""

from __future__ import annotations

import gzip
import os
import platform
import statistics
import time
from collections.abc import Awaitable, Callable, Mapping
from contextlib import closing
from typing import Any
from uuid import UUID

import httpx
import psycopg
from tests.support import ServerProcess, as_app, demo_template, identity, new_database

from bench.association import measure_association
from bench.backtest import measure_forecast
from bench.board_pictures import measure as measure_pictures
from bench.cpu import Meter, asking, resident_mb, sending, statements_of
from bench.crowd import Crowd, crowd, mentors
from bench.deadouts import measure_deadouts
from bench.disease import measure_disease
from bench.eligibility import measure_eligibility
from bench.seed import seed
from bench.stable_bands import measure_stable_bands
from bench.tracing import measure_tracing
from bench.treatments import measure_treatments
from bench.visits import measure_visit
from redframe.demo.scenario import PASSWORD
from redframe.launch.front_end import DIST
from redframe.launch.system import ROOT, chromium
from redframe.work.colonies.read import colony_view
from redframe.work.places.read import apiary_view, places_on_map, places_view
from redframe.work.planning.read import worklist
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.visits.read import visit_view

PEOPLE = 16
ALONE = 30
Line = tuple[str, str]
UseCase = Callable[[UnitOfWork], Awaitable[object]]


def alone(unit: Callable[[], object]) -> float:
    """Median milliseconds of doing it by itself, after warming up."""
    times = []
    for number in range(ALONE + 5):
        started = time.perf_counter()
        unit()
        if number >= 5:
            times.append(1000 * (time.perf_counter() - started))
    return statistics.median(times)


def screens_of(apiary: UUID, colony: UUID, visit: UUID) -> dict[str, tuple[str, UseCase]]:
    """The screens that are measured: the address of each, and the use case that answers it."""
    return {
        "Today": ("worklist", worklist),
        "Places": ("apiaries", places_view),
        "Map": ("apiary-places", places_on_map),
        "Apiary": (f"apiaries/{apiary}", lambda unit: apiary_view(unit, apiary)),
        "Colony": (f"colonies/{colony}", lambda unit: colony_view(unit, colony)),
        "Visit": (f"visits/{visit}", lambda unit: visit_view(unit, visit)),
    }


def some_screens(owner: psycopg.Connection[Any]) -> dict[str, tuple[str, UseCase]]:
    """Those of the fullest apiary, a colony of it and a visit of frames."""
    row = owner.execute(
        "SELECT apiary_id, min(id::text) FROM colony WHERE state = 'alive' GROUP BY 1 ORDER BY count(*) DESC LIMIT 1"
    ).fetchone()
    visit = owner.execute(
        "SELECT id FROM visit WHERE state = 'closed' AND place ? 'open_from_c' ORDER BY visited_on DESC, id LIMIT 1"
    ).fetchone()
    assert row is not None and visit is not None
    return screens_of(row[0], UUID(row[1]), visit[0])


def measure_server(label: str, colonies: int) -> list[Line]:
    """Times and memory of a server on so many colonies (0: the demo as it is)."""
    url = new_database(demo_template())
    total = seed(url, colonies) if colonies else 0
    lines: list[Line] = [(f"**{label}**", f"{total} colonies" if total else "as the demo is")]
    people = mentors(url, PEOPLE)
    with psycopg.connect(url, autocommit=True) as owner, as_app(url, identity()) as ours:
        ours.commit()
        ours.autocommit = True
        screens = some_screens(owner)
        for name, (_, act) in screens.items():
            statements = statements_of(url, act)
            straight, guarded = alone(sending(owner, statements)), alone(sending(ours, statements))
            said = f"{guarded:.1f} ms / {straight:.1f} ms = {guarded / straight:.1f}x (target 2)"
            lines.append(
                (f"{name}: its {len(statements)} statements under row-level security, against the same bare", said)
            )
        for what, kept_mb in (("made each time", 0), ("kept", 48)):
            server = ServerProcess(owner_url=url, kept_mb=kept_mb)
            try:
                with closing(server.sign_in()) as client:
                    lines += measure_cpu(server, url, owner, client.cookies, screens, what)
                crowd(server, people, turns=10)
                lines += said_of(crowd(server, people), f"{PEOPLE} at once, one act in ten a count, answers {what}")
                lines.append(
                    (f"memory of the server process, answers {what}", f"{resident_mb(server.process.pid):.0f} MB")
                )
            finally:
                server.stop()
        server = ServerProcess(owner_url=url)
        try:
            lines += measure_policy(server)
        finally:
            server.stop()
    return lines


def said_of(found: Crowd, label: str) -> list[Line]:
    """A crowd's figures: of each screen, and of all together."""
    each = ", ".join(
        f"{name} {found.share(0.5, name):.0f} / {found.share(0.95, name):.0f}" for name in sorted(found.taken)
    )
    whole = f"{found.share(0.5):.0f} / {found.share(0.95):.0f} ms, {found.per_second:.0f} answers a second"
    return [(f"{label}: p50 / p95 of all that is read", whole), (f"{label}: p50 / p95 of each, ms", each)] + (
        [(f"{label}: not answered", f"{len(found.failures)}, the first: {found.failures[0]}")] if found.failures else []
    )


def measure_cpu(
    server: ServerProcess, url: str, owner: psycopg.Connection[Any], cookies: httpx.Cookies,
    screens: Mapping[str, tuple[str, UseCase]], what: str,
) -> list[Line]:  # fmt: skip
    """Computing time of each screen's answer, against all its statements sent bare, and against the smallest answer."""
    meter = Meter(server.process.pid, owner)
    smallest = sum(meter.per_answer(asking(server.url, "/api/v1/session", cookies)))
    lines: list[Line] = [(f"smallest answer there is, answers {what}", f"{smallest:.1f} ms of computing")]
    for name, (path, act) in screens.items():
        ours, database = meter.per_answer(asking(server.url, f"/api/v1/{path}", cookies))
        statements = statements_of(url, act)
        bare = meter.per_answer(sending(owner, statements))[1]
        said = (
            f"{ours:.1f} + {database:.1f} ms = {(ours + database) / smallest:.1f}x the smallest; "
            f"{(ours + database) / bare:.1f}x its {len(statements)} statements sent bare ({bare:.1f} ms)"
        )
        lines.append((f"{name}: computing time, server + database, answers {what}", said))
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
        *measure_eligibility(),
        *measure_treatments(),
        *measure_disease(),
        *measure_deadouts(),
        *measure_tracing(),
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
