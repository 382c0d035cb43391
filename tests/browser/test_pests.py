"""Pests at the hive: counted on a phone, answered, looked at again; who robbed; the entrance and its warnings."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from redframe.demo.scenario import made_id
from tests.browser.pages import FIELD, BrowserTest

COLONY = made_id("corrane", "Kettle Wood", "K3")


class Pests(BrowserTest):
    def test_wasps_are_counted_and_answered(self) -> None:
        """The count says the score, the score what to do; an empty form says what is missing at its field; a narrow
        entrance is warned of where a treatment wants it open."""
        page = self.open(f"/colonies/{COLONY}?part=pests", view=FIELD)
        page.get_by_role("button", name="Check a pest").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_role("radio", name="Wasps and hornets").click()
        self.expected = ("422",)
        dialog.get_by_role("button", name="Record it").click()
        dialog.get_by_text("say what was seen").first.wait_for()
        self.assertAccessible(page, "a pest is checked")
        more = dialog.get_by_role("button", name="Hovering, in five minutes: more")
        for _ in range(5):
            more.click()
        dialog.get_by_role("button", name="Record it").click()
        dialog.wait_for(state="detached")
        pests = page.get_by_role("region", name="Pests")
        expect(pests).to_contain_text("score 2")
        expect(pests).to_contain_text("Narrow the entrance")
        page.get_by_role("button", name="Change the entrance").click()
        dialog.get_by_role("radio", name="Reducer").click()
        dialog.get_by_role("button", name="Width: more").click()
        for _ in range(4):
            dialog.get_by_role("button", name="Width: less").click()
        self.assertAccessible(page, "an entrance is changed")
        dialog.get_by_role("button", name="Record the entrance").click()
        dialog.wait_for(state="detached")
        expect(page.get_by_role("region", name="Entrance")).to_contain_text("wants the entrance open")

    def test_who_robbed_is_traced(self) -> None:
        """White bees in a neighbour: said with the check, found in what came and went."""
        page = self.open(f"/colonies/{COLONY}?part=pests")
        page.get_by_role("button", name="Check a pest").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_role("radio", name="Robbing").click()
        dialog.get_by_role("radio", name="Fighting at several, torn flakes").click()
        dialog.get_by_label("Who robbed it").select_option(label="K5")
        self.assertAccessible(page, "robbing")
        dialog.get_by_role("button", name="Record it").click()
        dialog.wait_for(state="detached")
        page = self.open(f"/colonies/{COLONY}/where")
        expect(page.get_by_role("listitem").filter(has_text=re.compile("robb", re.IGNORECASE)).first).to_be_visible()

    def test_traps_by_the_day(self) -> None:
        """Set, emptied, and read a trap and day."""
        colony = made_id("corrane", "Kettle Wood", "K6")
        page = self.open(f"/colonies/{colony}?part=pests", view=FIELD)
        page.get_by_role("button", name="Set traps").click()
        dialog = page.get_by_role("dialog")
        for _ in range(7):
            dialog.get_by_role("button", name="Set on: the day before").click()
        self.assertAccessible(page, "traps are set")
        dialog.get_by_role("button", name="Record them").click()
        dialog.wait_for(state="detached")
        page.get_by_role("button", name="Emptied").click()
        more = dialog.get_by_role("button", name="In all 2 together: more")
        for _ in range(6):
            more.click()
        dialog.get_by_role("button", name="Record what was in them").click()
        dialog.wait_for(state="detached")
        expect(page.get_by_role("list", name="Caught a trap and day")).to_contain_text("2.1 a trap and day")

    def test_what_waits_is_on_today(self) -> None:
        """The ants of Mell Fold and the moth in store wait; a tap leads there."""
        page = self.open("/pests")
        page.get_by_role("link", name="Combs in store, Orrin Quay").click()
        page.get_by_role("heading", name="Combs in store", level=1).wait_for()
        page.get_by_role("button", name="Look at them").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_role("radio", name="None seen").click()
        dialog.get_by_role("button", name="Record it").click()
        dialog.wait_for(state="detached")
        expect(page.get_by_text("Look again").first).to_be_visible()
        self.assertAccessible(page, "combs in store")
