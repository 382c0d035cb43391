"""A real browser for tests: one a run, a fresh context a test; a console error or an uncaught throw fails the test."""

from __future__ import annotations

import atexit
import os
import unittest
from functools import cache
from typing import Any

from playwright.sync_api import Browser, Page, Playwright, expect, sync_playwright

from redframe.demo.scenario import PASSWORD
from redframe.launch.system import ROOT
from tests.support import Server

DESK = {"width": 1280, "height": 800}
FIELD = {"width": 390, "height": 844}
NARROW = {"width": 360, "height": 740}
TABLET = {"width": 820, "height": 1180}
AXE = ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"
ARGUMENTS = [
    "--no-sandbox", "--disable-gpu", "--disable-software-rasterizer", "--disable-quic", "--no-first-run",
    "--disable-background-networking", "--disable-component-update", "--disable-sync", "--disable-extensions",
    "--disable-features=Translate,BackForwardCache,MediaRouter,OptimizationHints", "--mute-audio",
]  # fmt: skip


@cache
def _playwright() -> Playwright:
    started = sync_playwright().start()
    atexit.register(started.stop)
    return started


@cache
def browser() -> Browser:
    """Debian's Chromium, headless."""
    launched = _playwright().chromium.launch(
        executable_path=os.environ.get("CHROMIUM", "/usr/bin/chromium"), args=ARGUMENTS
    )
    atexit.register(launched.close)
    return launched


EVERY_RULE = "wcag2a wcag2aa wcag21a wcag21aa wcag22aa best-practice"
"""WCAG 2.2 A and AA, and what axe holds for good practice."""
RULES_OF_COLOUR = "color-contrast link-in-text-block"
"""What can differ between two themes of one page."""

PATIENCE_MS = 60_000
"""How long to wait for what is to be seen: a machine at a fifth of its speed needs it, and only a failure costs it."""
expect.set_options(timeout=PATIENCE_MS)


LET_GO = """() => document.querySelectorAll("*").forEach((one) => {
    if (getComputedStyle(one).position === "sticky") { one.dataset.stuck = ""; one.style.position = "relative"; }
})"""
HOLD_AGAIN = """() => document.querySelectorAll("[data-stuck]").forEach((one) => {
    one.style.position = ""; delete one.dataset.stuck;
})"""


class BrowserTest(unittest.TestCase):
    """A server with the demo for the class, a signed-in page for each test."""

    server: Server
    complaints: list[str] = []
    expected: tuple[str, ...] = ()

    @classmethod
    def setUpClass(cls) -> None:
        cls.server = Server()
        cls.addClassCleanup(cls.server.stop)

    def open(
        self, path: str = "/", *, who: str | None = "mentor@corrane.example", view: Any = DESK, kept: bool = False
    ) -> Page:
        """A page at an address, signed in; its console is watched until the test ends. With `kept` the device keeps the
        application, as it does for people; else requests can be held up by a test on their way."""
        context = browser().new_context(
            base_url=self.server.url, viewport=view, has_touch=view["width"] < DESK["width"], locale="en-GB",
            color_scheme="light", reduced_motion="reduce", service_workers="allow" if kept else "block",
        )  # fmt: skip
        self.addCleanup(context.close)
        self.context = context
        self.complaints, self.expected = [], ()
        page = context.new_page()
        page.on("console", lambda said: self.complaints.append(said.text) if said.type == "error" else None)
        page.on("pageerror", lambda error: self.complaints.append(str(error)))
        page.set_default_timeout(PATIENCE_MS)
        if who is not None:
            # The door itself is walked through by tests of its own.
            entered = context.request.post("/api/v1/session", data={"email": who, "password": PASSWORD})
            self.assertTrue(entered.ok, entered.text())
        page.goto(path)
        # A busy machine can be quiet on the network while the page is still being built.
        page.locator("h1").first.wait_for()
        page.wait_for_load_state("networkidle")
        return page

    def tearDown(self) -> None:
        unforeseen = [said for said in self.complaints if not any(part in said for part in self.expected)]
        self.assertEqual(unforeseen, [], "the browser's console complained")

    def assertAccessible(self, page: Page, name: str, *, rules: str = EVERY_RULE) -> None:
        """axe finds no violation of the rules. What sticks to the screen is let go meanwhile: whatever the page was
        scrolled to, something lies half under it, and is reached by scrolling on."""
        page.evaluate(AXE.read_text(encoding="utf-8"))
        page.evaluate(LET_GO)
        found = page.evaluate(
            "async rules => (await axe.run(document, {runOnly: rules.split(' '), resultTypes: ['violations']})).violations.map(v => v.id + ': ' + v.nodes.slice(0, 3).map(n => n.html.slice(0, 160) + ' '"
            " + n.failureSummary.slice(0, 200)).join(' | '))",
            rules,
        )
        page.evaluate(HOLD_AGAIN)
        self.assertEqual(found, [], name)
