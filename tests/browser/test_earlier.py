"""Earlier treatments by hand: entered for an apiary in one go, amended, withdrawn, and seen where a treatment is chosen."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from redframe.demo.scenario import made_id
from tests.browser.pages import FIELD, BrowserTest
from tests.support import owner_rows

SHORE = made_id("corrane", "apiary", "Skerrow Bank")


class EarlierTreatments(BrowserTest):
    def choose(self, page: Page, option: str, day: str) -> None:
        page.get_by_label("What was given").select_option(option)
        page.get_by_label("Given on", exact=True).fill(day)

    def test_an_apiary_in_one_go(self) -> None:
        """All seven colonies had amitraz in spring, out too early: recorded as it was, and the rules say what they say."""
        page = self.open(f"/apiaries/{SHORE}")
        page.get_by_role("link", name="Add earlier treatments").click()
        self.choose(page, "AMZ_STRIP", "2031-05-10")
        page.get_by_label("Out of the hive on", exact=True).fill("2031-05-30")
        page.get_by_text("Out on 30 May, before its earliest day 21 Jun").wait_for()
        page.get_by_label("Result").select_option("failed")
        # Reloaded half way: nothing is lost.
        page.reload()
        page.get_by_text("What you had begun is still here.").wait_for()
        # What the rules say arrives later and moves the button.
        page.get_by_text("It is recorded as it was.").wait_for()
        page.get_by_role("button", name="Record it for 7 colonies").dblclick()
        page.get_by_text("Recorded: Amitraz strips").wait_for()
        rows = owner_rows(self.server.owner_url, "SELECT count(*) FROM course t JOIN colony c ON c.id = t.colony_id WHERE c.apiary_id = %s AND t.is_earlier", SHORE)  # fmt: skip
        self.assertEqual(rows, [(7,)])
        page.get_by_role("link", name="S1", exact=True).click()
        page.get_by_role("button", name="Amend what is known").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Result").select_option("worked")
        dialog.get_by_role("button", name="Amend it").click()
        dialog.get_by_text("Say why").wait_for()
        dialog.get_by_label("Why").fill("the keeper looked it up")
        dialog.get_by_role("button", name="Amend it").click()
        dialog.wait_for(state="detached")
        expect(page.get_by_role("definition").filter(has_text="worked")).to_be_visible()
        page.get_by_role("button", name="It was not given").click()
        dialog.get_by_label("Why").fill("another hive")
        dialog.get_by_role("button", name="Withdraw it").click()
        page.get_by_text("Withdrawn, it was not given: another hive").wait_for()

    def test_what_cannot_have_been_is_said_at_its_field(self) -> None:
        """On the phone: strips out before they were in; the field says so and keeps what was typed."""
        page = self.open(f"/earlier?apiary={SHORE}", view=FIELD)
        self.expected = ("422",)
        page.get_by_role("button", name="Select all").click()
        self.choose(page, "AMZ_STRIP", "2030-05-10")
        page.get_by_label("Out of the hive on", exact=True).fill("2030-05-01")
        page.get_by_role("button", name="Record it for").click()
        page.get_by_text("is before the last dose").wait_for()
        self.assertEqual(page.get_by_label("Out of the hive on", exact=True).input_value(), "2030-05-01")

    def test_the_page_says_what_is_not_known(self) -> None:
        """A colony that was entered today has a past that nobody told; somebody says that there was nothing."""
        colony = made_id("corrane", "Tarn Head", "T4")
        with_past = "UPDATE colony_event SET happened_on = '2031-07-20' WHERE colony_id = %s AND kind = 'started' RETURNING 1"  # fmt: skip
        owner_rows(self.server.owner_url, with_past, colony)
        page = self.open(f"/treat?apiary={made_id('corrane', 'apiary', 'Tarn Head')}&colonies=%5B%22{colony}%22%5D")
        page.get_by_text("No earlier treatment known of T4 before 20 Jul").wait_for()
        page.get_by_role("link", name="Add earlier treatments").click()
        page.get_by_label("Nothing else since", exact=True).fill("2029-01-01")
        page.get_by_role("button", name="Nothing else was given to 1 colony").click()
        page.get_by_text("Recorded: nothing else since 1 Jan 2029.").wait_for()
        page.go_back()
        page.get_by_role("heading", name="Tarn Head").wait_for()
        expect(page.get_by_text("No earlier treatment known")).to_have_count(0)
