"""The forecast of a colony: the fan on its strip, and scenarios compared, moved by keys and by hand."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from redframe.demo.scenario import made_id
from tests.browser.pages import DESK, FIELD, BrowserTest
from tests.support import owner_rows

K8 = made_id("corrane", "Kettle Wood", "K8")


class Scenarios(BrowserTest):
    def test_scenarios_side_by_side(self) -> None:
        """From the colony to its scenarios: one added, moved by keys and by hand, shared by its address, removed."""
        page = self.open(f"/colonies/{K8}", view=DESK)
        page.get_by_role("link", name="Forecast").click()
        page.get_by_role("heading", name="Forecast: K8").wait_for()
        scenarios = page.get_by_role("list", name="Scenarios").get_by_role("listitem")
        expect(scenarios).to_have_count(1)
        page.get_by_label("Add a scenario").select_option("FA_STRIP2")
        expect(scenarios).to_have_count(2)
        bar = page.get_by_role("slider", name=re.compile("Start of Formic"))
        expect(bar).to_have_attribute("aria-valuetext", "5 August 2031")
        bar.press("ArrowRight")
        expect(bar).to_have_attribute("aria-valuetext", "6 August 2031")
        bar.press("PageUp")
        expect(bar).to_have_attribute("aria-valuetext", "13 August 2031")
        expect(page).to_have_url(re.compile("FA_STRIP2%402031-08-13"))
        box = bar.bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + 10, box["y"] + 10)
        page.mouse.down()
        page.mouse.move(box["x"] - 40, box["y"] + 10, steps=4)
        page.mouse.up()
        expect(bar).not_to_have_attribute("aria-valuetext", "13 August 2031")
        expect(scenarios.nth(1)).to_contain_text("stay at 2 or under")
        page.get_by_label("Add a scenario").select_option("arrivals")
        expect(scenarios).to_have_count(3)
        self.assertAccessible(page, "scenarios")
        page.reload()
        expect(scenarios).to_have_count(3)
        page.get_by_role("button", name=re.compile("Remove Formic")).click()
        expect(scenarios).to_have_count(2)

    def test_in_the_field_and_without_a_count(self) -> None:
        """On a phone nothing is wider than the screen; a colony without a count says why there is no forecast."""
        page = self.open(f"/colonies/{K8}/forecast?scenarios=%5B%22OX_VAPN%402031-08-06%22%5D", view=FIELD)
        page.get_by_role("list", name="Scenarios").wait_for()
        wide = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
        self.assertLessEqual(wide, 0)
        self.assertAccessible(page, "scenarios in the field")
        never = owner_rows(
            self.server.owner_url,
            "SELECT id FROM colony c WHERE state = 'alive' AND association_id = %s "
            "AND NOT EXISTS (SELECT FROM mite_count m WHERE m.colony_id = c.id) LIMIT 1",
            made_id("corrane"),
        )[0][0]
        page.goto(f"/colonies/{never}/forecast")
        page.get_by_text("No forecast").wait_for()
