"""A dead colony from the moment it is found: the walk with gloves, two people at it, its release, its combs, winters."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from redframe.demo.scenario import made_id
from tests.browser.pages import DESK, FIELD, BrowserTest
from tests.support import owner_rows

UNREAD = made_id("corrane", "Thrift Point", "J2")
PARTLY = made_id("deadout", "Thrift Point", "J4")


class DeadColonies(BrowserTest):
    def step(self, page: Page, name: str) -> None:
        """The walk stands at a step."""
        page.get_by_role("heading", name=name, exact=True, level=2).wait_for()

    def test_a_colony_is_found_dead_and_read(self) -> None:
        """From its page to the last step on a phone: resumed after a reload, closed only when it is shut, its combs held
        until all were read, then released and sent where they go."""
        colony = made_id("corrane", "Plover Hay", "P5")
        page = self.open(f"/colonies/{colony}", view=FIELD)
        page.get_by_role("button", name="Found dead").click()
        dialog = page.get_by_role("dialog", name="P5 is dead")
        self.assertAccessible(page, "found dead")
        dialog.get_by_role("button", name="Record it, and read what it left").click()
        self.step(page, "Shut it")
        page.get_by_role("button", name="Done. Next: Outside").click()
        self.step(page, "Outside")
        page.get_by_role("button", name="Looked at all the rest: none of it").click()
        page.get_by_role("button", name="Done. Next: Floor").click()
        floor = page.get_by_role("radiogroup", name="Mites on the floor")
        floor.get_by_role("radio", name="to 200").click()
        expect(page.get_by_text("Not sent yet")).to_have_count(0)
        page.reload()
        self.step(page, "Floor")
        expect(floor.get_by_role("radio", name="to 200")).to_be_checked()
        page.get_by_role("combobox", name="Step").select_option("combs")
        self.step(page, "Combs")
        page.get_by_role("button", name=re.compile("^All .* read on both faces")).click()
        page.get_by_role("button", name="Comb 3: read, nothing seen").first.click()
        page.get_by_role("radiogroup", name="Mite dirt in cells").get_by_role("radio", name="to 100").click()
        page.get_by_role("button", name="Comb 3: read, 1 seen").wait_for()
        self.expected = ("422",)
        page.get_by_role("button", name="Close the examination").click()
        page.get_by_text("shut the hive against bees first").first.wait_for()
        page.get_by_role("button", name="Go to it").click()
        page.get_by_role("radio", name="shut at every joint").click()
        page.get_by_role("button", name="Close the examination").click()
        page.get_by_role("heading", name="What it died of").wait_for()
        expect(page.get_by_role("list", name="Chain of causes")).to_have_text("Mites and their viruses")
        page.get_by_role("link", name="Combs and boxes").click()
        page.get_by_role("button", name="Foulbrood is excluded").click()
        release = page.get_by_role("dialog", name="Foulbrood is excluded")
        release.get_by_role("button", name="Release what it left").click()
        expect(release.get_by_label("Why?")).to_be_focused()
        release.get_by_label("Why?").fill("every comb read, nothing that draws")
        self.assertAccessible(page, "foulbrood is excluded")
        release.get_by_role("button", name="Release what it left").click()
        release.wait_for(state="detached")
        page.get_by_role("button", name="All combs of box 1").click()
        page.get_by_role("radio", name=re.compile("Melt")).click()
        page.get_by_role("button", name="Decide").click()
        page.get_by_text("say why: it is not the usual way").wait_for()
        page.get_by_label("Why this way?").fill("all of them are black")
        page.get_by_role("button", name="Decide").click()
        page.get_by_role("button", name="Done today").click()
        expect(page.get_by_text("done 2 Aug")).to_be_visible()
        rows = owner_rows(self.server.owner_url, "SELECT DISTINCT fate, done_on IS NOT NULL FROM item_fate WHERE colony_id = %s", colony)  # fmt: skip
        self.assertEqual(rows, [("melt", True)])

    def test_two_people_at_one_hive(self) -> None:
        """Today names what nobody has opened. The second is told at the step, sees both, and chooses; nothing is lost."""
        first = self.open("/")
        expect(first.get_by_text("not opened yet")).to_be_visible()
        first = self.open(f"/colonies/{UNREAD}")
        first.get_by_role("button", name="Read what it left").click()
        self.step(first, "Shut it")
        address = "/deadouts/" + first.url.split("/deadouts/")[1].split("?")[0] + "?step=lid"
        first = self.open(address)
        second = self.open(address, who="inspector@corrane.example")
        for page in (first, second):
            self.step(page, "Lid")
        first.get_by_role("radio", name="much").click()
        expect(first.get_by_text("Not sent yet")).to_have_count(0)
        self.expected = ("409",)
        second.get_by_role("radio", name="some").click()
        second.get_by_text("recorded this step meanwhile").wait_for()
        self.assertAccessible(second, "a step that two recorded")
        second.get_by_role("button", name="Keep theirs").click()
        expect(second.get_by_role("radio", name="much")).to_be_checked()

    def test_without_signal_nothing_is_lost(self) -> None:
        """What is tapped without signal waits on the device and goes when there is one."""
        page = self.open(f"/deadouts/{PARTLY}?step=heads", view=FIELD)
        self.step(page, "Heads in cells")
        page.get_by_label("Why is it amended?").fill("looked again")
        page.context.set_offline(True)
        self.expected = ("Failed to load resource", "ERR_INTERNET_DISCONNECTED")
        page.get_by_role("radiogroup", name="Tongues out").get_by_role("radio", name="no", exact=True).click()
        page.get_by_text("Not sent yet").first.wait_for()
        page.context.set_offline(False)
        expect(page.get_by_text("Not sent yet")).to_have_count(0)
        rows = owner_rows(self.server.owner_url, "SELECT record FROM deadout_step WHERE deadout_id = %s AND step = 'heads'", PARTLY)  # fmt: skip
        self.assertEqual(rows[0][0]["signs"], [{"sign": "d_tongues_out", "value": "absent"}])

    def test_what_hangs_on_a_finding(self) -> None:
        """A finding is left out, the chances follow, and come back."""
        page = self.open(f"/deadouts/{PARTLY}", view=DESK)
        page.get_by_role("list", name="Causes").get_by_role("group").first.locator("summary").click()
        page.get_by_role("button", name="Without mite dirt in cells").first.click()
        page.get_by_text("Without: mite dirt in cells.").wait_for()
        page.get_by_role("button", name="With all findings").click()
        page.get_by_role("heading", name="When it died").wait_for()
        self.assertAccessible(page, "an examination")

    def test_partly_read_is_not_released(self) -> None:
        """The act says what is missing, at its field; the list says why it is held."""
        colony = owner_rows(self.server.owner_url, "SELECT colony_id FROM deadout WHERE id = %s", PARTLY)[0][0]
        page = self.open(f"/colonies/{colony}/combs")
        page.get_by_role("button", name="Foulbrood is excluded").click()
        release = page.get_by_role("dialog")
        release.get_by_label("Why?").fill("it looks like mites")
        self.expected = ("409",)
        release.get_by_role("button", name="Release what it left").click()
        release.get_by_text(re.compile("scale was looked for on 6 of")).wait_for()
        page = self.open("/deadouts")
        held = page.get_by_role("region", name="Begun, or held")
        expect(held.get_by_role("listitem").filter(has_text="J4")).to_contain_text("not every comb was read")

    def test_winters_stand_side_by_side(self) -> None:
        """Winters stand side by side, with a table to take away."""
        page = self.open("/winters")
        row = page.get_by_role("table", name="Winters").get_by_role("row").filter(has_text="2030/31")
        expect(row).to_contain_text("116")
        with page.expect_download() as got:
            page.get_by_role("link", name="These figures as a table (CSV)").click()
        self.assertEqual(got.value.suggested_filename, "winter-losses.csv")
