"""Ways to handle brood disease at a visit, what became of them, where a comb has been; the traces of a case."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from redframe.demo.scenario import made_id
from tests.browser.pages import DESK, FIELD, BrowserTest
from tests.support import owner_rows

INSPECTOR = "inspector@corrane.example"
CHALK = made_id("corrane", "Cairn Yard", "C2")
SUSPECT = made_id("corrane", "Saltby Rise", "R2")


class Handling(BrowserTest):
    def test_a_way_is_ended_and_another_chosen(self) -> None:
        """The ways stand side by side; the one that is tried is ended first; a choice needs its reason, at its field."""
        url = self.server.owner_url
        visit = owner_rows(url, "SELECT id FROM visit WHERE colony_id = %s AND visited_on = '2031-07-25'", CHALK)[0][0]
        page = self.open(f"/visits/{visit}?part=follows")
        page.get_by_role("button", name="Ways to handle it").first.click()
        dialog = page.get_by_role("dialog", name="Ways to handle chalkbrood")
        expect(dialog.get_by_role("list", name="Ways").get_by_role("listitem").filter(has_text="For")).to_have_count(3)
        self.assertAccessible(page, "ways to handle")
        dialog.get_by_role("button", name="End it").click()
        ending = page.get_by_role("dialog", name=re.compile("^End:"))
        ending.get_by_label("Why").fill("the queen is laying well")
        ending.get_by_role("button", name="End it").click()
        ending.wait_for(state="detached")
        dialog.get_by_role("button", name="Choose this way").click()
        dialog.get_by_text("say why this way").wait_for()
        dialog.get_by_role("radio", name="Wait for the flow").click()
        dialog.get_by_label("Why this way").fill("few mummies are left")
        dialog.get_by_role("button", name="Choose this way").click()
        dialog.wait_for(state="detached")
        page = self.open(f"/colonies/{CHALK}?part=colony")
        expect(page.get_by_role("listitem").filter(has_text="few mummies are left")).to_be_visible()
        page.get_by_role("link", name="What became of each way").click()
        expect(page.get_by_role("row").filter(has_text="Wait for the flow")).to_contain_text("3")
        self.assertAccessible(page, "what handling did")

    def test_a_comb_shows_where_it_has_been(self) -> None:
        """From the colony to the comb that is followed, in the strong hive that cleans it."""
        page = self.open(f"/colonies/{made_id('corrane', 'Whin Moor', 'W5')}?part=colony", view=FIELD)
        page.get_by_role("link", name="Comb", exact=True).first.click()
        page.get_by_role("heading", name="A comb and where it has been").wait_for()
        expect(page.get_by_role("listitem").filter(has_text="W5, Whin Moor to W3, Whin Moor")).to_be_visible()
        expect(page.get_by_text(re.compile("white mummies, 3")).first).to_be_visible()
        self.assertAccessible(page, "a comb")

    def test_what_came_is_recorded_and_withdrawn(self) -> None:
        """A swarm of unknown source at the hive it came to: said, shown, and taken back with a reason."""
        page = self.open(f"/colonies/{made_id('corrane', 'Plover Hay', 'P4')}/where", view=FIELD)
        page.get_by_role("button", name="What came or went").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("What", exact=True).select_option("swarm")
        dialog.get_by_role("button", name="Record it").click()
        dialog.get_by_text("say where, or from whom").wait_for()
        dialog.get_by_role("radio", name="not known").click()
        self.assertAccessible(page, "what came or went")
        dialog.get_by_role("button", name="Record it").click()
        dialog.wait_for(state="detached")
        line = page.get_by_role("listitem").filter(has_text="swarm from an unknown source")
        line.get_by_role("button", name="It was not so").click()
        again = page.get_by_role("dialog", name="It was not so")
        again.get_by_label("Why").fill("another hive")
        again.get_by_role("button", name="Withdraw it").click()
        again.wait_for(state="detached")
        expect(line).to_have_count(0)

    def test_traces_are_drawn_listed_and_kept(self) -> None:
        """An apiary opens, a colony shows its way alone, the lists say the same; the dealer of both cases is said."""
        case = owner_rows(self.server.owner_url, "SELECT id FROM disease_case WHERE number = '2031-01'")[0][0]
        page = self.open(f"/cases/{case}/traces", who=INSPECTOR, view=DESK)
        page.get_by_role("button", name="Whin Moor").click()
        page.get_by_role("button", name=re.compile("^W2")).click()
        page.get_by_text("W2, Whin Moor: 1 step.").wait_for()
        self.assertIn("contact=", page.url)
        spread = page.get_by_role("region", name="It may have gone to")
        expect(spread.get_by_role("listitem").filter(has_text="W2, Whin Moor").first).to_contain_text("brood comb")
        self.assertAccessible(page, "traces")
        page = self.open("/cases", who=INSPECTOR)
        common = page.get_by_role("region", name="In common")
        expect(common.get_by_role("listitem").filter(has_text="Nucleus dealer").first).to_contain_text("2031-02")
        page = self.open("/cases", who="mentor@corrane.example")
        page.get_by_role("link", name=re.compile("2031-01")).wait_for()
        self.assertEqual(page.get_by_role("region", name="In common").count(), 0)
