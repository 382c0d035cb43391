"""Brood calendar, why a course failed, what works and the autumn, by hand."""

from __future__ import annotations

from playwright.sync_api import expect

from redframe.demo.scenario import made_id
from tests.browser.pages import FIELD, BrowserTest
from tests.support import owner_rows


class Calendar(BrowserTest):
    def test_a_queen_is_caged_and_was_not(self) -> None:
        """Recorded from the colony's page on the phone: the days are said at once; withdrawn with a reason they are gone."""
        page = self.open(f"/colonies/{made_id('corrane', 'Kettle Wood', 'K8')}?part=colony", view=FIELD)
        self.expected = ("422",)
        page.get_by_role("button", name="The laying stopped").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Set free on", exact=True).fill("2031-08-01")
        dialog.get_by_role("button", name="Record it").click()
        dialog.get_by_text("cannot be set free before she was caged").wait_for()
        dialog.get_by_label("Set free on", exact=True).fill("2031-08-26")
        dialog.get_by_role("button", name="Record it").dblclick()
        dialog.wait_for(state="detached")
        page.get_by_role("heading", name="No capped brood from 24 Aug to 2 Sep").wait_for()
        page.get_by_text("What is expected when").click()
        expect(page.get_by_role("row", name="last worker emerges 22 Aug 23 Aug 24 Aug")).to_be_visible()
        self.assertEqual(
            owner_rows(self.server.owner_url, "SELECT count(*) FROM brood_event WHERE happened_on = '2031-08-02'"),
            [(1,)],
        )
        page.get_by_role("button", name="It was not so").click()
        dialog.get_by_label("Why").fill("another hive")
        dialog.get_by_role("button", name="Withdraw it").click()
        dialog.wait_for(state="detached")
        expect(page.get_by_role("heading", name="No capped brood")).to_have_count(0)


class Results(BrowserTest):
    def test_why_a_course_failed_and_what_works(self) -> None:
        """The failed course says what speaks for what; the season of the overview stands in the address."""
        failed = owner_rows(self.server.owner_url, "SELECT id FROM course WHERE colony_id = %s AND state = 'verified_failed'", made_id("corrane", "Lower Fenn", "L1"))[0][0]  # fmt: skip
        page = self.open(f"/courses/{failed}")
        section = page.get_by_role("region", name="Why it failed")
        section.get_by_text("1 strip placed, 2 planned").wait_for()
        section.get_by_text("The lot was out of date").wait_for()
        expect(section.get_by_role("listitem").first).to_contain_text("too little, too short, or the wrong lot")
        section.get_by_role("link", name="Choose the next treatment").click()
        page.get_by_role("heading", level=1).wait_for()
        page.goto("/what-works")
        page.get_by_role("heading", name="Formic acid strips, one then one").wait_for()
        page.get_by_label("Season of treating").select_option("winter_cluster")
        page.get_by_role("heading", name="Oxalic acid trickle").wait_for()
        expect(page.get_by_role("heading", name="Formic acid strips, one then one")).to_have_count(0)
        self.assertIn("season=winter_cluster", page.url)


class Autumn(BrowserTest):
    def test_from_the_apiary_to_its_autumn(self) -> None:
        """Half done: rounds given, rounds to come, what to buy; another apiary by its name; kept in the address."""
        fenn = made_id("corrane", "apiary", "Upper Fenn")
        page = self.open(f"/apiaries/{fenn}")
        page.get_by_role("link", name="Autumn").click()
        page.get_by_text("of syrup 2:1, still to be fed").wait_for()
        expect(page.get_by_text("Fed 29 Jul: 5 l").first).to_be_visible()
        page.get_by_text("Syrup gone by 13 September 2031.").wait_for()
        page.get_by_label("Apiary").select_option(str(made_id("corrane", "apiary", "Hollin Croft")))
        page.get_by_text("bears no feed").first.wait_for()
        page.reload()
        page.get_by_text("bears no feed").first.wait_for()

    def test_all_apiaries_by_letters(self) -> None:
        """In a line each; found by letters that stay in the address; opened, and back again by the browser's button."""
        page = self.open("/autumn", view=FIELD)
        page.get_by_role("link", name="Brae Garth").wait_for()
        page.get_by_role("searchbox", name="Find", exact=True).fill("fenn")
        expect(page.get_by_role("link", name="Brae Garth")).to_have_count(0)
        self.assertIn("find=fenn", page.url)
        page.get_by_role("link", name="Upper Fenn").tap()
        page.get_by_text("of syrup 2:1, still to be fed").wait_for()
        page.go_back()
        expect(page.get_by_role("searchbox", name="Find", exact=True)).to_have_value("fenn")
        page.get_by_role("searchbox", name="Find", exact=True).fill("no such place")
        page.get_by_text("No apiary fits.").wait_for()
