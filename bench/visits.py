"""A visit of three boxes of ten frames: how soon it opens, and how soon a tenth that is set stands in the plan."""

from __future__ import annotations

import statistics
import time
from contextlib import closing
from typing import Any
from uuid import uuid4

from playwright.sync_api import Page, sync_playwright
from tests.support import ServerProcess

from redframe.demo.scenario import PASSWORD, made_id
from redframe.launch.system import chromium

TURNS = 8
SCREEN_FRAME_MS = 1000 / 60
OPENED_AT = "2031-08-02T11:00:00Z"
DRAWN = """async (tenths) => {
  const bar = document.querySelector('[data-bar="capped-a"]'), slot = document.querySelector('[aria-pressed=true][data-slot]');
  bar.focus();
  const before = slot.getAttribute('aria-label');
  const started = performance.now();
  bar.dispatchEvent(new KeyboardEvent('keydown', {key: String(tenths), bubbles: true}));
  while (slot.getAttribute('aria-label') === before) await new Promise(done => requestAnimationFrame(done));
  return performance.now() - started;
}"""


def _three_boxes(server: ServerProcess, colony: str) -> str:
    """A visit of thirty frames, each recorded; its id."""
    with closing(server.sign_in()) as client:
        boxes = [
            {"purpose": purpose, "frame_format": "A_deep", "frames": 10} for purpose in ("brood", "brood", "super")
        ]
        hive = client.get(f"/api/v1/colonies/{colony}").json()["hive"]
        match = {"If-Match": f'"{hive[0]["version"]}"'}
        client.put(f"/api/v1/colonies/{colony}/hive", json={"boxes": boxes, "on": "2031-08-02"}, headers=match).raise_for_status()  # fmt: skip
        opened = client.post(f"/api/v1/colonies/{colony}/visits", json={"id": str(uuid4()), "opened_at": OPENED_AT})
        view: dict[str, Any] = opened.raise_for_status().json()
        side = {"capped": 4, "open": 2, "eggs": 1, "honey": 2, "bees": 8}
        frames = [
            {"box_id": box["id"], "slot": slot, "record": {"a": side, "b": side}}
            for box in view["place"]["hive"]["boxes"]
            for slot in range(1, 11)
        ]
        client.put(f"/api/v1/visits/{view['visit']['id']}/frames", json={"frames": frames}).raise_for_status()
        return str(view["visit"]["id"])


def _answer(server: ServerProcess, path: str) -> float:
    with closing(server.sign_in()) as client:
        times = []
        for _ in range(20):
            started = time.perf_counter()
            client.get(path).raise_for_status()
            times.append(1000 * (time.perf_counter() - started))
    return statistics.median(times[3:])


def _opens(page: Page, colony: str) -> float:
    """Milliseconds from the tap on the colony's page to the thirty frames of the plan."""
    page.goto(f"/colonies/{colony}")
    button = page.get_by_role("button", name="Go on with the visit")
    button.wait_for()
    page.wait_for_load_state("networkidle")
    started = time.perf_counter()
    button.click()
    page.locator("[data-slot]").nth(29).wait_for()
    return 1000 * (time.perf_counter() - started)


def measure_visit() -> list[tuple[str, str]]:
    """Times of a visit on the demo, as a person waits for them."""
    colony = str(made_id("corrane", "Kettle Wood", "K4"))
    server = ServerProcess()
    lines = [("**a visit of three boxes of ten frames**", "")]
    try:
        visit = _three_boxes(server, colony)
        whole, least = _answer(server, f"/api/v1/visits/{visit}"), _answer(server, "/api/v1/frame-formats")
        lines.append(("its answer, against the smallest answer there is", f"{whole:.0f} ms / {least:.0f} ms = {whole / least:.1f}x"))  # fmt: skip
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=chromium(), args=["--no-sandbox", "--disable-gpu"])
            context = browser.new_context(base_url=server.url, viewport={"width": 1280, "height": 800})
            page = context.new_page()
            page.goto("/sign-in")
            page.get_by_label("E-mail").fill("mentor@corrane.example")
            page.get_by_label("Password").fill(PASSWORD)
            page.get_by_role("button", name="Sign in").click()
            page.wait_for_url("**/")
            opened = [_opens(page, colony) for _ in range(TURNS)][1:]
            page.locator("[data-slot]").first.click()
            page.locator('[data-bar="capped-a"]').wait_for()
            drawn = [page.evaluate(DRAWN, turn % 5) for turn in range(1, 3 * TURNS)]
            browser.close()
        lines.append(("opened from the colony's page (median)", f"{statistics.median(opened):.0f} ms (target 300)"))
        middle = statistics.median(drawn)
        lines.append(
            ("a tenth set and drawn, against one picture of a 60 Hz screen",
             f"{middle:.0f} ms / {SCREEN_FRAME_MS:.0f} ms = {middle / SCREEN_FRAME_MS:.1f}x (target 100 ms)")
        )  # fmt: skip
    finally:
        server.stop()
    return lines
