"""Stock and register by hand: a lot entered, a dose taken from it, a solution mixed, the line that follows, amended."""

from __future__ import annotations

from datetime import date

from playwright.sync_api import expect

from redframe.demo.scenario import made_id
from redframe.demo.stock import lot_id
from tests.browser.pages import FIELD, BrowserTest
from tests.support import owner_rows

PLAN = made_id("plan", made_id("corrane", "apiary", "Kettle Wood"), "FA_STRIP11", date(2031, 7, 26))
COURSE = made_id("course", PLAN, made_id("corrane", "Kettle Wood", "K3"))


class Stock(BrowserTest):
    def test_a_lot_from_pack_and_receipt(self) -> None:
        """What is missing is said at its field and nothing typed is lost; tapped twice it is one lot."""
        page = self.open("/stock")
        self.expected = ("422",)
        page.get_by_text("short from today").wait_for()
        page.get_by_role("button", name="Add a lot").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Product").fill("Strips of the shed")
        dialog.get_by_role("button", name="Add the lot").click()
        dialog.get_by_text("Choose what it is measured in.").wait_for()
        dialog.get_by_label("Measured in").select_option("strip")
        dialog.get_by_label("Quantity").fill("20")
        dialog.get_by_role("button", name="Add the lot").click()
        dialog.get_by_text("say what it is used for").wait_for()
        dialog.get_by_label("Formic acid strips, two at once").check()
        page.keyboard.press("Escape")
        page.get_by_role("button", name="Add a lot").click()
        dialog.get_by_text("What you had begun is still here.").wait_for()
        self.assertEqual(dialog.get_by_label("Quantity").input_value(), "20")
        dialog.get_by_role("button", name="Add the lot").dblclick()
        dialog.wait_for(state="detached")
        page.get_by_role("heading", name="Strips of the shed").wait_for()
        page.get_by_text("Enough for what is planned").wait_for()
        self.assertEqual(
            owner_rows(self.server.owner_url, "SELECT count(*) FROM product_lot WHERE product = 'Strips of the shed'"),
            [(1,)],
        )

    def test_a_solution_is_mixed(self) -> None:
        """On the phone: too strong is refused at its field; the bottle is a lot of its own, with a label to print."""
        page = self.open(f"/stock?lot={lot_id('corrane', 'XC-40')}", view=FIELD)
        self.expected = ("422",)
        page.get_by_role("button", name="Mix a solution").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_text("22.5 g").wait_for()
        dialog.get_by_label("Strength", exact=True).fill("9")
        dialog.get_by_text("can be mixed").wait_for()
        dialog.get_by_label("Strength", exact=True).fill("3,5")
        dialog.get_by_text("17.5 g").wait_for()
        dialog.get_by_role("button", name="It is mixed: add the bottle").dblclick()
        dialog.wait_for(state="detached")
        page.get_by_role("heading", name="Solution of Oxalic acid dihydrate").wait_for()
        page.get_by_text("3.5 % w/v dihydrate").wait_for()
        label = page.request.get(page.get_by_role("link", name="Label to print").get_attribute("href") or "")
        self.assertTrue(label.body().startswith(b"%PDF"))

    def test_the_mixing_bench(self) -> None:
        """What was worked out goes into the bottle; a recipe's trap is read off; syrup in the units of the person."""
        page = self.open("/mixing", view=FIELD)
        self.expected = ("422",)
        page.get_by_label("How much to make").fill("5")
        page.get_by_text("must be 10 to 50 000 ml").wait_for()
        page.get_by_label("How much to make").fill("200")
        page.get_by_role("radio", name="% anhydrous").click()
        page.get_by_label("Strength", exact=True).fill("5")
        page.get_by_text("is 7.00 % w/v dihydrate").wait_for()
        page.get_by_label("Strength", exact=True).fill("3,2")
        page.get_by_text("4.48 % w/v dihydrate = 3.2 % w/v anhydrous").wait_for()
        page.get_by_text("2.13 %").wait_for()
        page.get_by_label("Syrup wanted").fill("11.2")
        expect(page.get_by_role("region", name="Syrup").get_by_text("10 kg")).to_be_visible()
        page.get_by_role("button", name="Make the bottle from lot XC-40").click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_label("How much to make")).to_have_value("200")
        dialog.get_by_role("button", name="It is mixed: add the bottle").click()
        page.wait_for_url("**/stock**")
        page.get_by_role("heading", name="Solution of Oxalic acid dihydrate").wait_for()


class Register(BrowserTest):
    def test_a_dose_comes_into_the_register(self) -> None:
        """Taken from the lot that is there; another dose than planned needs a word; amended, both values are read."""
        page = self.open(f"/courses/{COURSE}?step=place_2")
        self.expected = ("422", "409")
        page.get_by_label("Taken from").wait_for()
        self.assertIn("F-3105", page.get_by_label("Taken from").locator("option:checked").inner_text())
        for other in ("K1", "K4", "K6", "K7"):
            page.get_by_role("checkbox", name=other).uncheck()
        page.get_by_label("Queen of K3").select_option("eggs")
        page.get_by_label("Air temperature").fill("21")
        page.get_by_role("button", name="Record it for 1 colony").click()
        page.get_by_label("Who takes it on").fill("Idris Calloway")
        page.get_by_label("Why", exact=True).fill("cool place under trees")
        page.get_by_role("button", name="Record it for 1 colony").dblclick()
        page.get_by_text("21 °C. Eggs seen.").wait_for()
        page.goto("/register?lot=F-3105")
        line = page.get_by_role("listitem").filter(has_text="K3").first
        line.get_by_role("button", name="all of it").click()
        expect(line.get_by_text("cool place under trees")).to_be_visible()
        line.get_by_role("link", name="K3").click()
        page.get_by_role("button", name="Amend: Place dose 2 of 2").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_text("Somebody else applied it").click()
        dialog.get_by_label("Applied by").fill("Tobias Quill")
        dialog.get_by_label("Why", exact=True).fill("he did it, I wrote it down")
        dialog.get_by_role("button", name="Amend the step").click()
        dialog.wait_for(state="detached")
        page.goto("/register?lot=F-3105")
        line = page.get_by_role("listitem").filter(has_text="K3").first
        line.get_by_text("amended").wait_for()
        line.get_by_role("button", name="all of it").click()
        expect(line.get_by_text("Why: he did it, I wrote it down")).to_be_visible()
        expect(line.get_by_text("Bettrys Lund").first).to_be_visible()

    def test_what_is_shown_is_in_the_address(self) -> None:
        """Filtered by keeper and what lacks; reloaded it is the same; the file has the same lines."""
        page = self.open("/register")
        page.get_by_label("Keeper").select_option("Linnet Ashgrove")
        page.get_by_label("Only lines that lack something").check()
        page.get_by_text("4 lines").wait_for()
        page.reload()
        page.get_by_text("4 lines").wait_for()
        self.assertIn("incomplete=true", page.url)
        with page.expect_download() as started:
            page.get_by_role("link", name="All entries (CSV)").click()
        rows = started.value.path().read_text(encoding="utf-8").splitlines()
        self.assertEqual(len(rows), 5)
        page.get_by_role("button", name="Show all").click()
        page.wait_for_url("**/register")
