"""Counting by other methods than the wash, as a person does it: boards, rolls, drone brood, pictures; forecasts; weeks."""

from __future__ import annotations

from datetime import date
from pathlib import Path
from urllib.parse import quote

from playwright.sync_api import expect

from redframe.demo.scenario import made_id
from redframe.jobs import worker
from redframe.launch.system import ROOT
from tests.browser.pages import DESK, FIELD, BrowserTest
from tests.support import aside, owner_rows

TARN = made_id("corrane", "apiary", "Tarn Head")
DAY = date(2031, 7, 25)
PICTURE = ROOT / "docs" / "examples" / "board-clean.jpg"


class Counting(BrowserTest):
    def bench(self, labels: list[str], way: str) -> str:
        """The bench with colonies of Tarn Head."""
        ids = ",".join(f'"{made_id("corrane", "Tarn Head", label)}"' for label in labels)
        return f"/bench?apiary={TARN}&colonies=[{ids}]&method={way}"

    def counts(self, label: str, method: str) -> list[tuple[object, ...]]:
        """Counts of a colony today by one method."""
        query = (
            "SELECT squares, cells_opened, cells_infested, rested_s, wet, ants FROM mite_count "
            "WHERE colony_id = %s AND method = %s AND taken_on = '2031-08-02'"
        )
        return owner_rows(self.server.owner_url, query, made_id("corrane", "Tarn Head", label), method)

    def test_a_board_that_is_in_is_read(self) -> None:
        """Today asks for it; its laying is known; ants are asked about; what fell is counted and never a rate."""
        page = self.open(view=FIELD)
        page.get_by_role("button", name="Tarn Head").tap()
        page.get_by_role("region", name="Tarn Head").get_by_role("link", name="Read the boards").tap()
        page.get_by_role("tab", name="T3").click()
        page.get_by_text("Board, in for 2.").wait_for()
        page.get_by_role("button", name="none", exact=True).tap()
        for _ in range(3):
            page.get_by_role("button", name="+ mite").tap()
        page.get_by_role("button", name="Record the board").tap()
        page.get_by_text("1 recorded of").wait_for()
        page.get_by_text("does not judge this kind of count").first.wait_for()
        self.assertEqual(self.counts("T3", "board"), [([3], None, None, None, None, "no")])
        self.assertAccessible(page, "board recorded")

    def test_a_board_is_put_in(self) -> None:
        """Asked whether it is clean; from then on it lies."""
        page = self.open(self.bench(["T5"], "board"))
        page.get_by_role("button", name="Put the board in").click()
        page.get_by_role("tab", name="T5").get_by_text("board is in").wait_for()
        query = "SELECT cleaned, greased FROM insert_board WHERE colony_id = %s"
        placed = owner_rows(self.server.owner_url, query, made_id("corrane", "Tarn Head", "T5"))
        self.assertEqual(placed, [("yes", "yes")])

    def test_a_roll_rests_two_minutes(self) -> None:
        """Its timer runs in the tab; wet bees are asked about; the first mite ends the rest, and its length is kept."""
        page = self.open(self.bench(["T6", "T7"], "sugar"))
        page.get_by_role("button", name="Start the rest").click()
        page.get_by_role("tab", name="T6").get_by_text("rest 1:5").wait_for()
        page.get_by_role("button", name="dry").click()
        page.keyboard.press("ArrowRight")
        page.get_by_role("tab", name="T6").get_by_text("rest 1:5").wait_for()
        page.keyboard.press("ArrowLeft")
        for key in (" ", " ", "r"):
            page.keyboard.press(key)
        page.get_by_text("120 s of rest").wait_for()
        [(*_, rested, wet, _)] = self.counts("T6", "sugar")
        self.assertEqual(wet, "no")
        self.assertTrue(isinstance(rested, int) and 0 <= rested < 60)

    def test_drone_brood_by_keys(self) -> None:
        """Space is a free cell, i an infested one, one step back undoes."""
        page = self.open(self.bench(["T8"], "drone_brood"))
        for key in [" "] * 7 + ["i", "i", "i", "Backspace"]:
            page.keyboard.press(key)
        page.get_by_role("tab", name="2 of 9").wait_for()
        page.keyboard.press("r")
        page.get_by_text("Fewer than 50 cells").wait_for()
        self.assertEqual(self.counts("T8", "drone_brood")[0][1:3], (9, 2))

    def test_a_board_from_its_picture(self) -> None:
        """Candidates are marked; each is decided by keys; one is added by hand; squares and marks are kept as decided."""
        page = self.open(self.bench(["T2"], "board"), view=DESK)
        page.get_by_role("button", name="Count what fell").click()
        page.get_by_text("Count from a picture").click()
        page.get_by_role("radio", name="6 squares").click()
        page.locator("input[type=file]").set_input_files(Path(PICTURE))
        page.get_by_label("Board from its picture").wait_for()
        self.assertAccessible(page, "board from its picture")
        page.keyboard.press("x")
        picture = page.get_by_role("img", name="Square 1").bounding_box()
        assert picture is not None
        page.mouse.click(picture["x"] + picture["width"] * 0.12, picture["y"] + picture["height"] * 0.88)
        for _ in range(60):
            if page.get_by_role("button", name="All squares counted").count():
                break
            page.keyboard.press("a")
            page.keyboard.press("Enter")
        page.get_by_role("button", name="All squares counted").click()
        page.get_by_role("button", name="Record the board").click()
        page.get_by_text("Why").first.wait_for()
        [(squares, *_)] = self.counts("T2", "board")
        query = (
            "SELECT marks, count_id IS NOT NULL FROM board_picture "
            "WHERE colony_id = %s AND created_at > now() - interval '1 hour' ORDER BY created_at DESC LIMIT 1"
        )
        [(marks, counted)] = owner_rows(self.server.owner_url, query, made_id("corrane", "Tarn Head", "T2"))
        self.assertTrue(counted)
        assert isinstance(squares, list)
        self.assertEqual(sum(squares), sum(mark["kept"] for mark in marks))
        self.assertEqual(sum(not mark["found"] for mark in marks), 1)
        self.assertGreater(sum(mark["found"] and mark["kept"] for mark in marks), 15)


class Again(BrowserTest):
    def test_the_bench_knows_what_was_counted_today(self) -> None:
        """Opened again it says what was found, goes on with the next colony, and counts the same one again only when
        asked to; that the queen was seen in today's visit stands with the question for her."""
        first, second = (made_id("corrane", "Cairn Yard", label) for label in ("C1", "C2"))
        place = made_id("corrane", "apiary", "Cairn Yard")
        page = self.open(f'/bench?apiary={place}&colonies=["{first}","{second}"]')
        page.get_by_text("Is the queen seen safe?").wait_for()
        for key in (" ", " ", "s", "r"):
            page.keyboard.press(key)
        page.get_by_text("1 recorded of 2").wait_for()
        page.goto(f"/colonies/{second}")
        page.get_by_role("button", name="Start a visit").click()
        page.get_by_role("tab", name="Frames").click()
        page.get_by_role("button", name="Queen seen", exact=True).first.click()
        page.get_by_text("All changes saved").wait_for()
        page.goto(f'/bench?apiary={place}&colonies=["{first}","{second}"]')
        page.get_by_text("The queen was seen in today’s visit.").wait_for()
        expect(page.get_by_role("tab", name="C2")).to_have_attribute("aria-selected", "true")
        page.get_by_role("tab", name="C1").click()
        page.get_by_role("heading", name="C1 was counted today").wait_for()
        self.assertAccessible(page, "counted today")
        for key in (" ", "s", "r"):
            page.keyboard.press(key)
        query = "SELECT count(*) FROM mite_count WHERE colony_id = %s AND taken_on = '2031-08-02'"
        self.assertEqual(owner_rows(self.server.owner_url, query, first), [(1,)])
        page.get_by_role("button", name="Count C1 again").click()
        page.keyboard.press(" ")
        page.get_by_role("tab", name="C1 1 mites").wait_for()


class Together(BrowserTest):
    def test_forecasts_are_computed_while_one_looks(self) -> None:
        """Asked for, worked off, shown: the soonest first."""
        page = self.open("/colonies")
        page.get_by_role("button", name="Recalculate the forecasts").click()
        page.get_by_text("Waiting for its turn").wait_for()
        aside(worker.run(self.server.settings, wait=False))
        page.get_by_text("at or over their act level now").wait_for()
        page.get_by_text("asked for by Bettrys Lund").wait_for()
        page.reload()
        page.get_by_text("How earlier forecasts did").click()
        row = page.get_by_role("row", name="left alone meanwhile")
        alone = page.request.get("/api/v1/forecasts").json()["evaluation"][0]
        bands = {"right": "about right", "too_narrow": "too narrow", "too_wide": "too wide"}[alone["bands"]]
        expect(row.get_by_role("cell")).to_contain_text(
            [str(alone["counts"]), "", "", f"{int(100 * alone['held80'] + 0.5)} %", "", "", bands]
        )
        # Each look back draws its own counts and walks: on the demo's few, either may come out.
        beaten = {True: "The forecast did better than either.", False: "The forecast did no better than these"}
        page.get_by_text(beaten[alone["beats_plain"]]).wait_for()
        self.assertAccessible(page, "forecasts, and how earlier forecasts did")
        page.goto(f"/colonies/{made_id('corrane', 'Tarn Head', 'T4')}/forecast")
        page.get_by_text("If it holds, a wash of about 300 bees finds").wait_for()
        page.get_by_text("later counts in colonies left alone here").wait_for()

    def test_colonies_that_are_targeted_are_no_part_of_the_mean(self) -> None:
        """To find one that is over: the plan's colonies go to the bench as chosen, and their apiary's mean says that it
        leaves them out; by lot for the mean, the jars are drawn ones."""
        kettle = made_id("corrane", "apiary", "St Ossory")
        page = self.open(f"/apiaries/{kettle}")
        page.get_by_role("button", name="Choose colonies to sample").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_role("radio", name="to find one that is over").click()
        dialog.get_by_text("Chosen because of it, they are judged").wait_for()
        self.assertAccessible(page, "which to count")
        dialog.get_by_role("button", name="Count these").click()
        page.get_by_role("button", name="seen safe").click()
        for key in (" ", " ", "s", "r"):
            page.keyboard.press(key)
        page.get_by_text("1 recorded of").wait_for()
        query = "SELECT targeted FROM mite_count m JOIN colony c ON c.id = m.colony_id WHERE c.apiary_id = %s AND taken_on = '2031-08-02'"
        self.assertEqual(owner_rows(self.server.owner_url, query, kettle), [(True,)])
        page.goto(f"/apiaries/{kettle}")
        page.get_by_role("button", name="Choose colonies to sample").click()
        page.get_by_role("dialog").get_by_text("Chosen at random, so that the mean is honest").wait_for()

    def test_a_picture_has_the_small_screen_to_itself(self) -> None:
        """While marks are decided nothing is asked; what is to be known of the board is asked when the picture is done."""
        ids = quote(f'["{made_id("corrane", "Tarn Head", "T6")}"]')
        page = self.open(f"/bench?apiary={TARN}&colonies={ids}&method=board", view=FIELD)
        page.get_by_role("button", name="Count what fell").tap()
        page.get_by_text("Was the board clean").wait_for()
        page.get_by_text("Count from a picture").tap()
        page.get_by_role("radio", name="6 squares").tap()
        page.locator("input[type=file]").set_input_files(Path(PICTURE))
        page.get_by_label("Board from its picture").wait_for()
        self.assertEqual(page.get_by_text("Was the board clean").count(), 0)
        done = page.get_by_role("button", name="Square done")
        for _ in range(6):
            rest = page.get_by_role("button", name="Accept the other")
            if rest.is_enabled():
                rest.tap()
            done.tap()
        page.get_by_role("button", name="All squares counted").tap()
        page.get_by_text("Was the board clean").wait_for()
        page.get_by_text("Read from a picture").wait_for()

    def test_counts_come_from_a_table(self) -> None:
        """A preview names what is not taken; then they are taken, and the week has them."""
        page = self.open(f"/count-weeks/{made_id('count week', DAY)}")
        page.get_by_role("button", name="Import counts").click()
        table = b"apiary,colony,date,mites,ml\nSt Ossory,O1,2031-08-01,4+1,120\nSt Ossory,O1,2031-08-99,4,120\n"
        page.locator("input[type=file]").set_input_files({"name": "week.csv", "mimeType": "text/csv", "buffer": table})
        page.get_by_text("write the day as").wait_for()
        page.get_by_text("What is taken").click()
        page.get_by_role("row", name="St Ossory O1").get_by_text("1.8").wait_for()
        self.assertAccessible(page, "a table before it is taken")
        page.get_by_role("button", name="Take this count").click()
        page.get_by_role("button", name="Done").click()
        page.get_by_role("row", name="St Ossory").get_by_text("1 of").wait_for()

    def test_an_apiary_of_its_own_mind(self) -> None:
        """School and figures of its own, with a reason; bad figures are named; its strips say so."""
        page = self.open(f"/apiaries/{made_id('corrane', 'apiary', 'St Ossory')}")
        page.get_by_role("button", name="Set apiary policy").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("School").select_option("flat_3")
        dialog.get_by_label("all year: act").fill("0.5")
        dialog.get_by_label("Why").fill("Trial with the keeper")
        dialog.get_by_role("button", name="Put it in force here").click()
        dialog.get_by_text("must not fall").wait_for()
        self.expected = ("422",)
        dialog.get_by_label("all year: act").fill("2.5")
        dialog.get_by_role("button", name="Put it in force here").click()
        page.get_by_text("with a policy of its own").wait_for()
