"""Honey taken: on the phone, colony by colony, with what is not clear said and taken on by name."""

from __future__ import annotations

from playwright.sync_api import expect

from redframe.demo.scenario import made_id
from tests.browser.pages import FIELD, BrowserTest
from tests.support import owner_rows


class Honey(BrowserTest):
    def test_a_harvest(self) -> None:
        """Kettle Wood: strips are in K1 and K3; the others are recorded at once, a slip is found at its colony."""
        apiary = made_id("corrane", "apiary", "Kettle Wood")
        page = self.open(f"/apiaries/{apiary}", view=FIELD)
        self.expected = ("422",)
        page.get_by_text("Order, select, add, print").tap()
        page.get_by_role("link", name="Record honey taken").tap()
        page.get_by_role("heading", name="Honey taken").wait_for()
        page.get_by_role("button", name="Record it").tap()
        page.get_by_text("choose the colonies it was taken from").wait_for()
        for label in ("K1", "K2", "K5"):
            page.get_by_role("checkbox", name=label).check()
        page.get_by_label("Batch").fill("bucket 7")
        page.get_by_label("Honey of K2").fill("250")
        page.get_by_role("button", name="Record it for 3 colonies").tap()
        page.get_by_text("must be more than 0 and at most 200 kg").wait_for()
        page.get_by_label("Honey of K2").fill("12,5")
        page.reload()
        expect(page.get_by_label("Honey of K2")).to_have_value("12.5")
        page.get_by_role("button", name="Record it for 3 colonies").dblclick()
        page.get_by_text("Recorded: honey of K2, K5.").wait_for()
        page.get_by_text("Not recorded, K1: Formic acid strips").wait_for()
        self.assertEqual(page.evaluate("document.documentElement.scrollWidth"), FIELD["width"])
        rows = "SELECT c.label, h.honey_kg, h.override_by FROM harvest h JOIN colony c ON c.id = h.colony_id WHERE h.batch = 'bucket 7' ORDER BY 1"
        self.assertEqual(owner_rows(self.server.owner_url, rows), [("K2", 12.5, ""), ("K5", None, "")])
        page.get_by_label("Who takes it on").fill("the district vet")
        page.get_by_label("Why").fill("supers were off that hive")
        page.get_by_role("button", name="Record it for 1 colony").tap()
        page.get_by_text("Recorded: honey of K1.").wait_for()
        self.assertEqual(owner_rows(self.server.owner_url, rows)[0], ("K1", None, "the district vet"))

    def test_it_was_not_so(self) -> None:
        """On the colony's page it is withdrawn with a reason, and stays there struck out."""
        page = self.open(f"/colonies/{made_id('corrane', 'Kettle Wood', 'K9')}?part=honey")
        page.get_by_text("batch Kettle Wood 2031").wait_for()
        page.get_by_role("button", name="It was not so: 2031-07-18").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Why").fill("another hive")
        dialog.get_by_role("button", name="Withdraw it").click()
        dialog.wait_for(state="detached")
        page.get_by_text("Withdrawn: another hive.").wait_for()
