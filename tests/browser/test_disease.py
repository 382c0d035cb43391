"""The disease examination as a walk, by touch and by keyboard; what the signs fit, and what hangs on a finding."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from redframe.demo.scenario import made_id
from tests.browser.pages import FIELD, BrowserTest
from tests.browser.test_screens import SMALL
from tests.support import owner_rows


class Disease(BrowserTest):
    def to_the_colony(self, label: str, **settings: object) -> Page:
        """A visit at its part on the colony as a whole."""
        page = self.open(f"/colonies/{made_id('corrane', 'Cairn Yard', label)}", **settings)  # type: ignore[arg-type]
        page.get_by_role("button", name=re.compile("Start a visit|Go on with the visit")).click()
        page.wait_for_url("**/visits/**")
        page.get_by_role("tab", name="The colony").click()
        page.get_by_role("button", name="Disease examination").wait_for()
        return page

    def kept(self, page: Page) -> None:
        expect(page.get_by_role("status").filter(has_text="All changes saved")).to_be_visible()

    def test_nothing_seen_in_one_tap(self) -> None:
        """With gloves: opened, full examination, done; what was looked for is said, and kept over a reload."""
        page = self.to_the_colony("C4", view=FIELD)
        page.get_by_role("button", name="Disease examination").tap()
        dialog = page.get_by_role("dialog", name="Disease examination")
        for step in ("Combs", "Cells", "Signs", "Bees", "Kit", "Not seen", "Queen"):
            dialog.get_by_role("button", name=step, exact=True).tap()
            dialog.get_by_role("button", name=re.compile("^(Next|Done)")).last.wait_for()
            self.assertEqual(page.evaluate(SMALL), [], step)
            self.assertAccessible(page, "disease")
        dialog.get_by_role("button", name="Full examination, nothing seen").tap()
        expect(dialog.get_by_role("checkbox", name="foulbrood", exact=True)).to_be_checked()
        dialog.get_by_role("button", name="Done", exact=True).tap()
        self.kept(page)
        page.reload()
        page.get_by_text(re.compile("Examined: .* brood combs read, bees shaken off; 10 cells opened")).wait_for()
        page.get_by_role("tab", name="Next steps").tap()
        page.get_by_role("heading", name="Not seen at this examination").wait_for()
        self.assertEqual(page.get_by_role("heading", name="What the signs fit").count(), 0)

    def test_what_the_signs_fit(self) -> None:
        """Sunken and torn cappings: the match first; without a sign the figures change and come back; a thread stops."""
        page = self.to_the_colony("C5")
        page.get_by_role("button", name="Disease examination").click()
        dialog = page.get_by_role("dialog", name="Disease examination")
        dialog.get_by_role("button", name="Signs", exact=True).click()
        for sign in ("sunken cappings", "ragged holes"):
            dialog.get_by_role("button", name="Add a sign").click()
            which = page.get_by_role("dialog", name="Which sign?")
            which.get_by_label("Find a sign").fill(sign)
            which.get_by_role("button", name=sign, exact=True).click()
            page.get_by_role("dialog", name=sign).get_by_role("button", name="some", exact=True).click()
        dialog.get_by_role("button", name="Close").click()
        self.kept(page)
        page.get_by_role("tab", name="Next steps").click()
        reading = page.get_by_role("region", name="What the signs fit")
        expect(reading.get_by_text("Draw a match through the remains of five cells or more first")).to_be_visible()
        self.assertAccessible(page, "disease")
        first = reading.get_by_role("list", name="Conditions").get_by_role("listitem").first
        first.get_by_role("group").locator("summary").click()
        said = first.locator("summary").inner_text()
        first.get_by_role("button", name="Without ragged holes").click()
        reading.get_by_text("Without: ragged holes.").wait_for()
        reading.get_by_role("button", name="With all findings").click()
        expect(first.locator("summary")).to_have_text(re.compile(re.escape(said.split("\n")[0])))
        page.get_by_role("tab", name="The colony").click()
        page.get_by_role("button", name="Disease examination").click()
        dialog.get_by_role("button", name="Cells", exact=True).click()
        for _ in range(6):
            dialog.get_by_role("button", name="Longest thread: more").click()
        dialog.get_by_role("button", name="Close").click()
        self.kept(page)
        page.get_by_role("tab", name="Next steps").click()
        expect(reading.get_by_text("American foulbrood is suspected.")).to_be_visible()
        expect(reading.get_by_text("No bees, queens, combs or gear leave or enter this apiary.")).to_be_visible()
        rows = owner_rows(
            self.server.owner_url, "SELECT after -> 'examination' ->> 'thread_mm' FROM visit WHERE colony_id = %s AND state = 'draft'",
            made_id("corrane", "Cairn Yard", "C5"),
        )  # fmt: skip
        self.assertEqual(rows, [("25",)])

    def test_not_seen_asks_what_was_looked_at(self) -> None:
        """Before any comb was read nothing can be said to be not seen; the way there is said."""
        page = self.to_the_colony("C6")
        page.get_by_role("button", name="Disease examination").click()
        dialog = page.get_by_role("dialog", name="Disease examination")
        dialog.get_by_role("button", name="Not seen", exact=True).click()
        expect(dialog.get_by_role("checkbox", name="foulbrood", exact=True)).to_be_disabled()
        dialog.get_by_text("Say first how many brood combs were read").wait_for()
        page.keyboard.press("Escape")
        expect(dialog).to_have_count(0)
