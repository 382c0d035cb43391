"""The case room: a case taken on step by step, its samples, what it says on the pages of its apiary, and to whom."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from redframe.demo.scenario import made_id
from redframe.demo.suspect_case import SUSPECT_COLONY
from tests.browser.pages import DESK, FIELD, BrowserTest
from tests.support import living, owner_rows

INSPECTOR = "inspector@corrane.example"


class Cases(BrowserTest):
    def case(self) -> str:
        """The demo's open case."""
        return str(owner_rows(self.server.owner_url, "SELECT id FROM disease_case WHERE number = '2031-01'")[0][0])

    def act(self, page: Page, name: str, **fields: str) -> None:
        """Fill in and send the form of a step."""
        page.get_by_role("button", name=name, exact=True).first.click()
        dialog = page.get_by_role("dialog", name=name)
        for label, text in fields.items():
            dialog.get_by_label(label.replace("_", " "), exact=True).fill(text)
        dialog.get_by_role("button", name=name, exact=True).click()
        dialog.wait_for(state="detached")

    def test_a_result_is_asked_for_and_accepted(self) -> None:
        """Nothing can be accepted before the laboratory has written; what it wrote, and no other; then the order is next,
        and a form that lacks something says where."""
        page = self.open("/", who=INSPECTOR)
        page.keyboard.press("5")
        page.get_by_role("heading", name="Cases", exact=True).wait_for()
        page.get_by_role("link", name=re.compile("2031-01")).click()
        page.get_by_text("Waits for the laboratory").wait_for()
        self.assertEqual(page.get_by_role("button", name=re.compile("Accept the result")).count(), 0)
        self.assertAccessible(page, "case")
        page.get_by_role("button", name="Ask the laboratory").click()
        page.get_by_text("Result: found").wait_for()
        self.assertEqual(page.get_by_role("button", name="Accept the result, nothing found").count(), 0)
        page.get_by_role("button", name="Accept the result, confirmed").click()
        dialog = page.get_by_role("dialog")
        self.assertAccessible(page, "accepting a result")
        self.expected = ("422",)
        dialog.get_by_role("button", name="Accept the result, confirmed").click()
        dialog.get_by_text("give the number of the document").wait_for()
        page.keyboard.press("Escape")
        self.act(
            page, "Accept the result, confirmed", Number_of_the_document="L 77", Officer_who_decided="Case officer"
        )
        page.get_by_role("button", name="Record the order").wait_for()
        self.act(page, "Open tracing")
        expect(page.get_by_role("listitem").filter(has_text="tracing opened")).to_be_visible()
        page.get_by_role("button", name="Correct entry 3").click()
        self.act_in_dialog(page, "Reported at nine, not at eight.")
        expect(page.get_by_role("listitem").filter(has_text="correction of entry 3")).to_be_visible()

    def act_in_dialog(self, page: Page, text: str) -> None:
        """Send the open form with a sentence."""
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("In words", exact=True).fill(text)
        dialog.get_by_role("button", name="Correct an entry").click()
        dialog.wait_for(state="detached")

    def test_what_stands_still_is_said_where_it_is_tried(self) -> None:
        """On the pages of the apiary and its colonies; a split is refused, then recorded because it happened."""
        apiary, _ = SUSPECT_COLONY
        place = made_id("corrane", "apiary", apiary)
        page = self.open(f"/apiaries/{place}", view=FIELD)
        page.get_by_text("Nothing goes in or out.").wait_for()
        page.goto(f"/colonies/{made_id('corrane', apiary, 'R1')}")
        page.get_by_text("Nothing goes in or out.").wait_for()
        page.goto(f"/apiaries/{place}")
        page.get_by_text("Order, select, add, print").click()
        page.get_by_role("button", name="Add a colony").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Label", exact=True).fill("R9")
        self.expected = ("409",)
        dialog.get_by_role("button", name="Add the colony").click()
        dialog.get_by_text("record it only if it happened anyway").wait_for()
        dialog.get_by_label("It happened anyway, because").fill("a swarm hung in the hedge")
        dialog.get_by_role("button", name="Add the colony").click()
        dialog.wait_for(state="detached")
        page.goto(f"/cases/{self.case()}")
        expect(page.get_by_role("listitem").filter(has_text="a swarm hung in the hedge")).to_be_visible()
        self.assertAccessible(page, "case on the phone")

    def test_a_suspicion_is_raised_by_a_person(self) -> None:
        """From the room, on the phone: the form names what is missing; the case opens with its standstill."""
        page = self.open("/cases", view=FIELD)
        page.get_by_role("button", name="Raise a suspicion").click()
        dialog = page.get_by_role("dialog")
        self.assertAccessible(page, "raising")
        dialog.get_by_role("button", name="Raise it").click()
        dialog.get_by_text("choose the apiary").wait_for()
        dialog.get_by_label("Apiary").select_option(label="Brae Garth")
        colony = living(self.server.owner_url, "Brae Garth")[0][1]
        dialog.get_by_label("Colony").select_option(label=colony)
        dialog.get_by_label("Disease").select_option(label="European foulbrood")
        dialog.get_by_label("What was seen").fill("Twisted yellow larvae on one comb.")
        dialog.get_by_role("button", name="Raise it").click()
        page.get_by_role("heading", name=re.compile("European foulbrood")).wait_for()
        page.get_by_text("voluntary standstill, the apiary").wait_for()
        page.get_by_role("button", name="Record the report").wait_for()
        self.assertEqual(page.get_by_role("button", name="Record that it is not supported").count(), 0)
        page.go_back()
        page.get_by_role("link", name=re.compile("European foulbrood, suspected")).wait_for()

    def test_papers(self) -> None:
        """The keeper's sheet, the notice and the blind label are PDFs; the label names neither colony nor place."""
        page = self.open(f"/cases/{self.case()}", who=INSPECTOR, view=DESK)
        for name in ("Sheet for the keeper (PDF)", "Notice to the authority (PDF)", re.compile("^Label of")):
            address = page.get_by_role("link", name=name).get_attribute("href")
            assert address is not None
            answer = self.context.request.get(address)
            self.assertEqual((answer.status, answer.body()[:5]), (200, b"%PDF-"))
