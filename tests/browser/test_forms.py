"""Forms as a tired person fills them in: empty, wrong, tapped twice, left by the back key, by two at once, signed out."""

from __future__ import annotations

import re
from uuid import uuid4

from playwright.sync_api import Page, expect

from redframe.demo.scenario import made_id
from tests.browser.pages import BrowserTest
from tests.support import living, owner_rows

ADMINISTRATOR = "administrator@corrane.example"
INSPECTOR = "inspector@corrane.example"
MILL = made_id("corrane", "apiary", "Dunnock Mill")


class Forms(BrowserTest):
    def count(self, query: str, *given: object) -> int:
        """How many rows the database has."""
        return int(owner_rows(self.server.owner_url, query, *given)[0][0])

    def to_add_apiary(self) -> tuple[Page, object]:
        """The dialog in which an apiary is added."""
        page = self.open("/apiaries", who=ADMINISTRATOR)
        page.get_by_role("button", name="Add an apiary").click()
        return page, page.get_by_role("dialog", name="Add an apiary")

    def test_what_is_missing_is_asked_for_at_its_field(self) -> None:
        """Nothing entered: the name and both degrees are asked for, and nothing is sent; what is then typed stays."""
        page, _ = self.to_add_apiary()
        dialog = page.get_by_role("dialog", name="Add an apiary")
        before = self.count("SELECT count(*) FROM apiary")
        dialog.get_by_role("button", name="Add the apiary").click()
        dialog.get_by_text("Give it a name").wait_for()
        expect(dialog.get_by_text("Enter degrees, as 44.2350")).to_have_count(2)
        expect(dialog.get_by_label("Name", exact=True)).to_be_focused()
        self.assertEqual(dialog.get_by_label("Name", exact=True).get_attribute("aria-invalid"), "true")
        dialog.get_by_label("Name", exact=True).fill("Moss End")
        dialog.get_by_label("Latitude, °").fill("944")
        dialog.get_by_label("Longitude, °").fill("west")
        dialog.get_by_role("button", name="Add the apiary").click()
        dialog.get_by_text("Degrees from -90 to 90").wait_for()
        dialog.get_by_text("Degrees from -180 to 180").wait_for()
        expect(dialog.get_by_label("Name", exact=True)).to_have_value("Moss End")
        self.assertEqual(self.count("SELECT count(*) FROM apiary"), before)
        self.assertAccessible(page, "a form with errors")

    def test_its_place_is_tapped_on_the_map(self) -> None:
        """A tap on the map writes both degrees, where the mark then stands; what is typed moves the mark."""
        page, _ = self.to_add_apiary()
        dialog = page.get_by_role("dialog", name="Add an apiary")
        drawn = dialog.get_by_role("img", name="Map: tap where the apiary stands")
        box = drawn.bounding_box()
        assert box is not None
        drawn.click(position={"x": box["width"] * 0.5, "y": box["height"] * 0.4})
        latitude = float(dialog.get_by_label("Latitude, °").input_value())
        longitude = float(dialog.get_by_label("Longitude, °").input_value())
        query = (
            "SELECT min(latitude), max(latitude), min(longitude), max(longitude) FROM apiary WHERE association_id = %s"
        )
        south, north, west, east = owner_rows(self.server.owner_url, query, made_id("corrane"))[0]
        self.assertTrue(south < latitude < north and west < longitude < east, (latitude, longitude))
        drawn.click(position={"x": box["width"] * 0.5, "y": box["height"] * 0.6})
        self.assertLess(float(dialog.get_by_label("Latitude, °").input_value()), latitude, "lower on the map is south")

    def test_tapped_twice_it_is_added_once(self) -> None:
        """Two clicks on the button: one apiary, and its page is open."""
        page, _ = self.to_add_apiary()
        dialog = page.get_by_role("dialog", name="Add an apiary")
        dialog.get_by_label("Name", exact=True).fill("Twice Moor")
        dialog.get_by_label("Latitude, °").fill("44.23")
        dialog.get_by_label("Longitude, °").fill("-31.41")
        dialog.get_by_role("button", name="Add the apiary").dblclick()
        page.get_by_role("heading", name="Twice Moor").wait_for()
        self.assertEqual(self.count("SELECT count(*) FROM apiary WHERE name = 'Twice Moor'"), 1)
        page.get_by_text("No colonies here yet").or_(
            page.get_by_role("button", name="Add a colony").first
        ).first.wait_for()

    def test_a_name_that_is_taken_is_said_and_kept(self) -> None:
        """The keeper has an apiary of that name: refused with everything that was typed still there."""
        page = self.open("/apiaries", who=ADMINISTRATOR)
        self.expected = ("409", "422")
        page.get_by_role("button", name="Add an apiary").click()
        dialog = page.get_by_role("dialog", name="Add an apiary")
        dialog.get_by_label("Name", exact=True).fill("Tarn Head")
        dialog.get_by_label("Keeper", exact=True).select_option(label="Orla Fenwick")
        dialog.get_by_label("Latitude, °").fill("44.23")
        dialog.get_by_label("Longitude, °").fill("-31.41")
        dialog.get_by_label("Access").fill("Over the stile")
        dialog.get_by_role("button", name="Add the apiary").click()
        dialog.get_by_role("alert").first.wait_for()
        said = " ".join(dialog.get_by_role("alert").all_inner_texts())
        self.assertNotIn("_key", said)
        expect(dialog.get_by_label("Access")).to_have_value("Over the stile")

    def test_escape_leaves_and_nothing_is_recorded(self) -> None:
        """Escape closes the dialog, focus is on the button that opened it, and the next opening begins empty."""
        page = self.open(f"/apiaries/{MILL}", who=ADMINISTRATOR)
        before = self.count("SELECT count(*) FROM colony")
        opener = page.get_by_role("button", name="Add a colony")
        opener.click()
        dialog = page.get_by_role("dialog", name="Add a colony")
        dialog.get_by_label("Label").fill("never")
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)
        expect(opener).to_be_focused()
        self.assertEqual(self.count("SELECT count(*) FROM colony"), before)

    def test_a_hold_is_put_on_and_lifted(self) -> None:
        """A mentor puts a colony on hold with two taps, and may not lift it; the inspector does, with a reason."""
        colony = living(self.server.owner_url, "Plover Hay")[0][0]
        page = self.open(f"/colonies/{colony}")
        page.get_by_role("button", name="Hold", exact=True).click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Why").fill("waits for the laboratory")
        dialog.get_by_role("button", name="Hold").dblclick()
        page.get_by_text("waits for the laboratory").first.wait_for()
        self.assertEqual(self.count("SELECT count(*) FROM colony_hold WHERE colony_id = %s", colony), 1)
        page.get_by_role("button", name="On hold", exact=True).click()
        page.get_by_text("An inspector or the administrator lifts").wait_for()
        other = self.open(f"/colonies/{colony}", who=INSPECTOR)
        other.get_by_role("button", name="On hold", exact=True).click()
        lifting = other.get_by_role("dialog")
        lifting.get_by_label("Why").fill("laboratory: negative")
        lifting.get_by_role("button", name="Lift the hold").click()
        other.get_by_role("button", name="Hold", exact=True).wait_for()
        self.assertEqual(
            self.count("SELECT count(*) FROM colony_hold WHERE colony_id = %s AND lifted_why <> ''", colony), 1
        )

    def test_two_administrators_at_one_policy(self) -> None:
        """The second to put a version in force hears of the first; the draft stays as it was."""
        one = self.open("/association", who=ADMINISTRATOR)
        two = self.open("/association", who=ADMINISTRATOR)
        self.expected = ("409", "422")
        for page in (one, two):
            page.get_by_role("radio", name="Flat 3").click()
            page.get_by_role("heading", name="What it would change").wait_for()
        one.get_by_role("button", name="in force").click()
        one.get_by_text("Version 2 is in force").wait_for()
        two.get_by_role("button", name="in force").click()
        two.get_by_text("changed by somebody else meanwhile").wait_for()
        expect(two.get_by_role("radio", name="Flat 3")).to_be_checked()

    def test_back_goes_back_one_step(self) -> None:
        """From Today to an apiary, to a colony, to its forecast, and back the same way; what was selected stays so."""
        page = self.open("/apiaries")
        page.get_by_role("link", name="Dunnock Mill").first.click()
        page.wait_for_url(f"**/apiaries/{MILL}*")
        page.get_by_role("button", name="Select all").click()
        page.wait_for_url("**select=**")
        selected = page.url
        page.get_by_role("link", name="D10").first.click()
        page.wait_for_url("**/colonies/**")
        page.get_by_role("link", name="Forecast, and what each treatment would do").click()
        page.wait_for_url("**/forecast*")
        page.go_back()
        page.wait_for_url("**/colonies/**")
        page.go_back()
        self.assertEqual(page.url, selected)
        page.get_by_role("button", name="Select none").wait_for()
        page.reload()
        page.get_by_role("button", name="Select none").wait_for()

    def test_signed_out_elsewhere_nothing_typed_is_lost(self) -> None:
        """The session ended on another device: the write is refused with words, and what was typed stands there still."""
        page = self.open(f"/apiaries/{MILL}", who=ADMINISTRATOR)
        self.expected = ("401", "403")
        page.get_by_role("button", name="Add a colony").click()
        dialog = page.get_by_role("dialog", name="Add a colony")
        dialog.get_by_label("Label").fill("late")
        owner_rows(self.server.owner_url, "DELETE FROM session WHERE true RETURNING 1")
        dialog.get_by_role("button", name="Add the colony").click()
        dialog.get_by_role("alert").first.wait_for()
        expect(dialog.get_by_label("Label")).to_have_value("late")

    def test_a_strange_address_is_answered(self) -> None:
        """Ids that are none, filters that are none, a course of another association: a page with words, never a blank."""
        page = self.open("/")
        self.expected = ("404", "422")
        for address in (
            f"/colonies/{uuid4()}", "/colonies/abc", f"/courses/{uuid4()}", f"/apiaries/{uuid4()}", "/apiaries?level=purple",
            f"/apiaries/{MILL}?select=%5B%22x%22%5D", f"/treat?apiary={MILL}&colonies=%5B%22{uuid4()}%22%5D", f"/bench?apiary={uuid4()}",
            f"/visits/{uuid4()}", f"/count-weeks/{uuid4()}", f"/joining?token={'x' * 40}", f"/treat?apiary={MILL}&start=2020-01-01",
        ):  # fmt: skip
            with self.subTest(address=address[:40]):
                page.goto(address)
                page.locator("h1").first.wait_for()
                self.assertGreater(len(page.locator("main, body").first.inner_text()), 20)


class Schemes(BrowserTest):
    def follow(self, scheme: str) -> str:
        """Let an apiary with colonies over follow a scheme; its name."""
        name = "Cairn Yard"
        apiary = made_id("corrane", "apiary", name)
        client = self.server.sign_in(ADMINISTRATOR)
        try:
            version = client.get(f"/api/v1/apiaries/{apiary}/policy").json()["version"]
            body = {"scheme": scheme, "reason": "to be tried"}
            client.put(f"/api/v1/apiaries/{apiary}/policy", json=body, headers={"If-Match": f'"{version}"'}).raise_for_status()  # fmt: skip
        finally:
            client.close()
        return name

    def test_those_over_are_answered_as_their_scheme_answers(self) -> None:
        """Treat, flag or report: the heading, the words and where the button leads; no rate where there is none."""
        for scheme, group, button in (
            ("flat_2", "Treat", "Choose a treatment"),
            ("any_mite", "Report", "Go to the apiary"),
        ):
            name = self.follow(scheme)
            page = self.open("/treatments")
            section = page.get_by_role("region", name=re.compile(f"^{group}"))
            line = section.get_by_role("listitem").filter(has_text=name)
            with self.subTest(scheme=scheme):
                line.get_by_role("link", name=button).wait_for()
                self.assertNotIn("act at 0", line.inner_text())
                if scheme == "any_mite":
                    expect(line).to_contain_text("A mite was found in")
                    page.goto(f"/apiaries/{made_id('corrane', 'apiary', name)}")
                    page.get_by_text("Your authority says what follows").first.wait_for()
