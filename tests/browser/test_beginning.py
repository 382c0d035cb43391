"""A new association is led through its beginning; what was recorded by mistake is undone where it is listed."""

from __future__ import annotations

from unittest.mock import patch

from playwright.sync_api import expect

from redframe.demo.scenario import PASSWORD, made_id
from redframe.launch import administrator
from tests.browser.pages import DESK, FIELD, BrowserTest
from tests.support import owner_rows

FOUNDER = "founder@mullion.example"


class Beginning(BrowserTest):
    def test_it_is_led_until_all_is_done(self) -> None:
        """Five parts; what fits is said in a tap, what is recorded is seen to be done, and then the guide is gone."""
        with patch.object(administrator, "_ask_password", return_value=PASSWORD):
            administrator.add_administrator(
                self.server.owner_url, association="Mullion Beekeepers", email=FOUNDER, name="Ilse Farrow",
                timezone="Europe/London", south=False,
            )  # fmt: skip
        for view in (FIELD, DESK):
            page = self.open("/", who=FOUNDER, view=view)
            page.get_by_role("heading", name="To begin: 0 of 5 done").wait_for()
            self.assertAccessible(page, "the guide")
        page.get_by_role("link", name="Set the year").click()
        page.get_by_role("heading", name="The year at your place").wait_for()
        expect(page.get_by_role("heading", name="The year at your place")).to_be_in_viewport()
        page.go_back()
        for name in ("The dates fit", "The usual scoop fits", "I keep it alone"):
            page.get_by_role("button", name=name).click()
            page.get_by_role("button", name=name).wait_for(state="detached")
        page.get_by_role("heading", name="To begin: 3 of 5 done").wait_for()
        page.get_by_role("link", name="Add an apiary").click()
        page.get_by_role("button", name="Add the first apiary").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Name", exact=True).fill("Moss End")
        dialog.get_by_label("Keeper’s name").fill("Ilse Farrow")
        dialog.get_by_label("Latitude, °").fill("50.1")
        dialog.get_by_label("Longitude, °").fill("-5.2")
        dialog.get_by_role("button", name="Add the apiary").click()
        page.get_by_role("heading", name="Moss End").wait_for()
        page.get_by_role("button", name="Add a colony").first.click()
        dialog.get_by_label("Label").fill("M1")
        dialog.get_by_role("button", name="Add the colony").click()
        dialog.wait_for(state="detached")
        page.goto("/")
        page.get_by_role("heading", level=1).wait_for()
        page.get_by_text("M1").first.wait_for()
        expect(page.get_by_role("heading", name="To begin")).to_have_count(0)

    def test_nobody_else_is_led(self) -> None:
        """An association that is under way shows its work, and no guide."""
        page = self.open("/", who="administrator@corrane.example")
        page.get_by_role("region", name="Mell Fold first").wait_for()
        expect(page.get_by_role("heading", name="To begin")).to_have_count(0)


class Undoing(BrowserTest):
    def test_a_count_at_the_bench_and_in_the_list(self) -> None:
        """At the bench its marks are open again and recorded anew as a count of its own; in the list it is gone."""
        colony, place = made_id("corrane", "Kettle Wood", "K5"), made_id("corrane", "apiary", "Kettle Wood")
        page = self.open(f'/bench?apiary={place}&colonies=["{colony}"]', view=FIELD)
        query = "SELECT shakes FROM mite_count WHERE colony_id = %s AND taken_on = '2031-08-02'"
        for _ in range(3):
            page.get_by_role("button", name="+ mite").tap()
        page.get_by_role("button", name="Record the wash").tap()
        page.get_by_role("button", name="Undo the count of K5").tap()
        page.get_by_role("tab", name="3 mites").wait_for()
        self.assertEqual(owner_rows(self.server.owner_url, query, colony), [])
        page.get_by_role("button", name="+ mite").tap()
        page.get_by_role("button", name="Record the wash").tap()
        page.get_by_text("1 recorded").wait_for()
        self.assertEqual(owner_rows(self.server.owner_url, query, colony), [([4],)])
        page.goto(f"/colonies/{colony}")
        today = page.get_by_role("row").filter(has_text="2 Aug")
        today.get_by_role("button", name="Undo: wash").tap()
        expect(today).to_have_count(0)
        self.assertEqual(owner_rows(self.server.owner_url, query, colony), [])

    def test_the_closing_of_a_visit(self) -> None:
        """Closed too early: it is open again with what it had, on its frames; the step of a course the same."""
        page = self.open(f"/colonies/{made_id('corrane', 'Kettle Wood', 'K6')}")
        page.get_by_role("button", name="Quick visit").click()
        page.get_by_role("slider", name="Temper").press("End")
        page.get_by_role("button", name="Close the visit to K6").click()
        page.get_by_role("button", name="Undo the closing").click()
        page.get_by_role("button", name="Close the visit to K6").wait_for()
        expect(page.get_by_role("button", name="Undo the closing")).to_have_count(0)
        place, colony = made_id("corrane", "apiary", "Cairn Yard"), made_id("corrane", "Cairn Yard", "C2")
        page.goto(f'/treat?apiary={place}&colonies=["{colony}"]')
        page.get_by_role("button", name="Formic strips, two, Saturday 2 August").click()
        page.get_by_role("button", name="Plan 1 colony for 2 Aug").click()
        page.get_by_role("heading", name="Prepare").wait_for()
        page.get_by_role("button", name="Record it for").click()
        page.get_by_role("button", name="Undo: Prepare").first.click()
        page.get_by_role("heading", name="Prepare", exact=True).wait_for()
        expect(page.get_by_role("button", name="Undo: Prepare")).to_have_count(0)

    def test_what_was_changed_of_a_colony(self) -> None:
        """A hold, a split and a frame's move are undone where they are seen; a colony split off is gone."""
        colony = made_id("corrane", "Kettle Wood", "K7")
        page = self.open(f"/colonies/{colony}", view=FIELD)
        page.get_by_role("button", name="Hold", exact=True).tap()
        page.get_by_label("Why?").fill("spotty brood")
        page.get_by_role("button", name="Hold K7").tap()
        held = page.get_by_text("On hold since 2 Aug: spotty brood", exact=True)
        held.wait_for()
        self.assertAccessible(page, "a change that can be undone")
        page.get_by_role("button", name="Undo the hold").tap()
        held.wait_for(state="detached")
        expect(page.get_by_role("button", name="Undo the hold")).to_have_count(0)
        page.get_by_role("button", name="Start a visit").tap()
        page.get_by_role("tab", name="Frames").tap()
        page.get_by_text("More of this frame").tap()
        page.get_by_role("button", name="Move it").tap()
        page.get_by_role("button", name="into the freezer").tap()
        page.get_by_role("button", name="Undo the frame’s move").tap()
        page.get_by_role("button", name="Undo the frame’s move").wait_for(state="detached")
        where = "SELECT count(*) FROM frame_move WHERE from_colony = %s AND moved_on = '2031-08-02'"
        self.assertEqual(owner_rows(self.server.owner_url, where, colony), [(0,)])


class FromATable(BrowserTest):
    def test_apiaries_come_from_a_table(self) -> None:
        """A preview names the line that cannot be taken and why; the rest is added, and stands in the list."""
        page = self.open("/apiaries")
        page.get_by_role("button", name="Import apiaries").click()
        table = b"apiary,keeper,latitude,longitude,colonies\nMoss End,Ilse Farrow,44.2,-31.4,M1 M2\nHill,,44,-31,A\n"
        page.locator("input[type=file]").set_input_files({"name": "a.csv", "mimeType": "text/csv", "buffer": table})
        page.get_by_text("keeper needs a name").wait_for()
        self.assertAccessible(page, "apiaries before they are taken")
        page.get_by_role("button", name="Add 1 apiary").click()
        page.get_by_role("button", name="Done").click()
        page.get_by_role("link", name="Moss End").first.wait_for()
