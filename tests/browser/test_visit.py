"""A visit as it is done: by touch with few taps, by keyboard alone, on two devices, without signal; and what is refused."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, expect

from redframe.demo.scenario import made_id
from tests.browser.pages import DESK, FIELD, BrowserTest
from tests.support import owner_rows

TABLET = {"width": 820, "height": 1180}


class Taps:
    """Counts what a gloved finger does."""

    def __init__(self) -> None:
        self.count = 0

    def __call__(self, target: Locator, share: float | None = None) -> None:
        """Tap a target; `share` from 0 to 1 of its width for a bar."""
        self.count += 1
        if share is None:
            target.tap()
            return
        target.scroll_into_view_if_needed()
        box = target.bounding_box()
        assert box is not None
        target.tap(position={"x": max(1.0, box["width"] * share - 1), "y": box["height"] / 2})


class Visits(BrowserTest):
    def to_colony(self, label: str, place: str = "Kettle Wood", **settings: object) -> Page:
        page = self.open(f"/colonies/{made_id('corrane', place, label)}", **settings)  # type: ignore[arg-type]
        page.get_by_role("heading", name="Current level").wait_for()
        return page

    def to_frames(self, page: Page) -> None:
        page.get_by_role("button", name=re.compile("Start a visit|Go on with the visit")).click()
        page.wait_for_url("**/visits/**")
        page.get_by_role("tab", name="Frames").click()
        page.get_by_role("button", name="Stores only").wait_for()

    def kept(self, page: Page) -> None:
        expect(page.get_by_role("status").filter(has_text="All changes saved")).to_be_visible()

    def test_ten_frames_in_forty_taps(self) -> None:
        """A brood box frame by frame by touch alone: stores outside, six frames of brood with their bees, the queen."""
        page = self.to_colony("K7", view=FIELD)
        page.get_by_role("button", name="Start a visit").tap()
        page.wait_for_url("**/visits/**")
        tap = Taps()
        tap(page.get_by_role("tab", name="Frames"))
        stores, on = (
            page.get_by_role("button", name="Stores only"),
            page.get_by_role("button", name="Next frame"),
        )
        for _ in range(2):
            tap(stores)
        for capped, opened, honey in ((3, 1, 4), (5, 2, 2), (6, 2, 1), (6, 2, 1), (5, 2, 2), (3, 1, 4)):
            for name, tenths in (("sealed brood", capped), ("open brood", opened), ("honey", honey), ("bees", 8)):
                tap(page.get_by_role("slider", name=name), tenths / (10))
            if capped == 6 and tap.count < 20:
                tap(page.get_by_role("button", name="Queen seen", exact=True))
            tap(on)
        for _ in range(2):
            tap(stores)
        self.assertLessEqual(tap.count, 40)
        self.kept(page)
        rows = owner_rows(
            self.server.owner_url,
            "SELECT slot, record FROM visit_frame f JOIN visit v ON v.id = f.visit_id WHERE v.colony_id = %s "
            "AND v.state = 'draft' ORDER BY slot",
            made_id("corrane", "Kettle Wood", "K7"),
        )
        self.assertEqual([slot for slot, _ in rows], list(range(1, 11)))
        self.assertEqual([record["a"]["capped"] for _, record in rows[2:8]], [3, 5, 6, 6, 5, 3])
        self.assertEqual(sum(bool(record.get("queen")) for _, record in rows), 1)

    def test_by_keyboard_alone(self) -> None:
        """From the colony to the closed visit: open, record, write a line, move a frame, close; no mouse."""
        page = self.to_colony("K1")
        page.keyboard.press("v")
        page.wait_for_url("**/visits/**")
        page.get_by_role("tab", name="Before opening").wait_for()
        page.keyboard.press("f")
        page.get_by_role("button", name="Stores only").wait_for()
        page.keyboard.press("t")
        page.get_by_role("heading", name="Frame 2").wait_for()
        for key in ("c", "6", "o", "2", "b", "9", "q"):
            page.keyboard.press(key)
            page.wait_for_timeout(40)
        expect(page.get_by_role("slider", name="sealed brood")).to_have_attribute("aria-valuenow", "6")
        page.keyboard.press("j")
        page.keyboard.press("l")
        line = page.get_by_label("One frame as a line")
        line.wait_for()
        page.keyboard.type("3 c4 frobs")
        page.get_by_text("not a word of the shorthand").wait_for()
        for _ in range(5):
            page.keyboard.press("Backspace")
        page.keyboard.type("o2 e b7")
        page.get_by_text("Frame 3: side a: sealed brood 4, open brood 2, bees 7").wait_for()
        page.keyboard.press("Enter")
        page.get_by_text("Frame 3 taken.").wait_for()
        page.keyboard.press("Escape")
        line.wait_for(state="detached")
        page.keyboard.press("m")
        page.get_by_text("is in your hand").wait_for()
        page.get_by_role("button", name=re.compile("frame 5: not looked at")).first.focus()
        self.expected = ("409",)
        page.keyboard.press("Enter")
        page.get_by_role("button", name="Let the two change places").focus()
        page.keyboard.press("Enter")
        page.get_by_text("is in your hand").wait_for(state="detached")
        self.kept(page)
        page.keyboard.press("f")
        page.get_by_role("slider", name="Temper").focus()
        page.keyboard.press("8")
        self.kept(page)
        page.get_by_role("button", name="Close the visit to K1").focus()
        page.keyboard.press("Enter")
        page.get_by_role("heading", name="Next steps").wait_for()
        page.get_by_role("button", name="Amend this visit").wait_for()
        moves = owner_rows(self.server.owner_url, "SELECT count(*) FROM frame_move WHERE from_colony = %s", made_id("corrane", "Kettle Wood", "K1"))  # fmt: skip
        self.assertEqual(moves, [(2,)])

    def test_the_short_ways_of_a_frame(self) -> None:
        """As the frame before, as last time; a frame whose sides differ is recorded side after side in the field."""
        page = self.to_colony("C1", "Cairn Yard", view=FIELD)
        self.to_frames(page)
        before = page.get_by_role("button", name=re.compile("^As (before|frame)"))
        expect(before).to_be_disabled()
        for name, tenths in (("sealed brood", "6"), ("honey", "3")):
            page.get_by_role("slider", name=name).press(tenths)
        page.get_by_role("button", name="Next frame").tap()
        page.get_by_role("button", name="As frame 1", exact=True).tap()
        page.get_by_role("heading", name="Frame 3").wait_for()
        page.get_by_role("button", name="As last time").tap()
        page.get_by_role("heading", name="Frame 4").wait_for()
        page.get_by_role("button", name="Sides differ").tap()
        page.get_by_role("slider", name="honey, side a").press("8")
        page.get_by_role("button", name="Next side").tap()
        page.get_by_role("slider", name="honey, side b").press("2")
        page.get_by_role("button", name="eggs, side b: one more").tap()
        page.get_by_role("button", name="Next frame").tap()
        page.get_by_role("heading", name="Frame 5").wait_for()
        self.kept(page)
        rows = dict(
            owner_rows(
                self.server.owner_url,
                "SELECT slot, record FROM visit_frame f JOIN visit v ON v.id = f.visit_id WHERE v.colony_id = %s "
                "AND v.state = 'draft'",
                made_id("corrane", "Cairn Yard", "C1"),
            )
        )
        self.assertEqual(sorted(rows), [1, 2, 3, 4])
        self.assertEqual((rows[1]["a"]["capped"], rows[1]["b"]["honey"]), (6, 3))
        self.assertEqual((rows[2]["a"], rows[2]["b"]), (rows[1]["a"], rows[1]["b"]))
        self.assertEqual((rows[4]["a"]["honey"], rows[4]["b"]["honey"], rows[4]["b"]["eggs"]), (8, 2, 1))

    def test_right_of_a_divider(self) -> None:
        """The right-hand colony of a divided hive begins at the first comb on its own side."""
        page = self.to_colony("K2", view=FIELD)
        self.to_frames(page)
        page.get_by_role("heading", name="Frame 6").wait_for()
        page.get_by_role("slider", name="honey").press("8")
        page.get_by_role("button", name="Next frame").tap()
        page.get_by_role("heading", name="Frame 7").wait_for()
        self.kept(page)

    def test_before_opening_asks_four_things(self) -> None:
        """The weather and the entrance at once, the rest behind More with how much of it is recorded; nothing is lost by
        looking away."""
        page = self.to_colony("C2", "Cairn Yard", view=FIELD)
        page.get_by_role("button", name="Start a visit").tap()
        page.get_by_role("tab", name="Before opening").wait_for()
        self.assertEqual(page.get_by_role("radiogroup").count(), 3)
        page.get_by_role("button", name="Air temperature: more").tap()
        page.get_by_role("radiogroup", name="Wind").get_by_role("radio", name="still").tap()
        more = page.get_by_text("More: why it is opened")
        more.tap()
        page.get_by_role("radiogroup", name="Mummies").get_by_role("radio", name="white").tap()
        page.get_by_role("button", name="Mites on the board: more").tap()
        self.kept(page)
        page.get_by_role("button", name="To the frames").tap()
        page.get_by_role("tab", name="Before opening").tap()
        expect(more).to_contain_text("2 recorded")
        self.assertEqual(page.get_by_role("radio", name="still").get_attribute("aria-checked"), "true")

    def test_a_closed_visit_opens_on_what_it_found(self) -> None:
        """From the colony's table of visits: findings first, with the hive as it was; the parts stay a tap away."""
        page = self.to_colony("C4", "Cairn Yard")
        page.get_by_role("tab", name="Visits").click()
        page.wait_for_url("**part=visits**")
        page.reload()
        page.get_by_role("table", name="Visits").get_by_role("link").first.click()
        page.get_by_role("heading", name="Next steps").wait_for()
        expect(page.get_by_role("tab", name="Next steps")).to_have_attribute("aria-selected", "true")
        page.get_by_role("tab", name="The colony").click()
        page.get_by_role("radiogroup", name="Queen and eggs").wait_for()

    def test_an_older_visit_stays_beside(self) -> None:
        """The visit that was picked for the comparison stays while frames are recorded and after a reload."""
        page = self.to_colony("U5", "Upper Fenn")
        self.to_frames(page)
        beside = page.get_by_label("Compared with")
        beside.select_option(index=1)
        page.wait_for_url("**compared_with=**")
        wanted = beside.input_value()
        for tenths in ("3", "6"):
            page.get_by_role("slider", name="sealed brood").press(tenths)
            self.kept(page)
        self.assertEqual(beside.input_value(), wanted)
        expect(page.get_by_role("slider", name="sealed brood")).to_have_attribute("aria-valuenow", "6")
        page.reload()
        expect(page.get_by_label("Compared with")).to_have_value(wanted)
        expect(page.get_by_role("slider", name="sealed brood")).to_have_attribute("aria-valuenow", "6")

    def test_two_devices_and_a_conflict(self) -> None:
        """The second device goes on with the draft; the same frame recorded twice is shown, and the person settles it."""
        one = self.to_colony("K8")
        self.to_frames(one)
        address = one.url
        other = self.context.new_page()
        other.goto(address)
        other.get_by_role("slider", name="honey").wait_for()
        one.get_by_role("slider", name="honey").press("9")
        self.kept(one)
        self.expected = ("409",)
        other.get_by_role("slider", name="honey").press("4")
        other.get_by_text("recorded this meanwhile").wait_for()
        expect(other.get_by_role("slider", name="honey")).to_have_attribute("aria-valuenow", "4")
        self.assertAccessible(other, "a conflict")
        other.get_by_role("button", name="Keep mine").click()
        self.kept(other)
        one.reload()
        expect(one.get_by_role("slider", name="honey")).to_have_attribute("aria-valuenow", "4")

    def test_without_signal_nothing_is_lost(self) -> None:
        """What is recorded without a connection is drawn at once, survives a reload and is sent when there is one."""
        page = self.to_colony("K9")
        self.to_frames(page)
        self.expected = ("Failed to load", "ERR_", "503")
        page.route("**/api/v1/visits/*/frames", lambda route: route.abort())
        page.get_by_role("slider", name="sealed brood").press("7")
        page.get_by_text("Not sent yet (1), saved on this device").wait_for()
        page.reload()
        expect(page.get_by_role("slider", name="sealed brood")).to_have_attribute("aria-valuenow", "7")
        page.unroute("**/api/v1/visits/*/frames")
        self.kept(page)

    def test_acts_closer_together_than_the_screen_draws_all_count(self) -> None:
        """Three acts on one frame before the first of them is drawn: none takes another back."""
        page = self.to_colony("K9")
        self.to_frames(page)
        page.evaluate(
            """(names) => {
              const all = [...document.querySelectorAll("main button")];
              for (const name of names) all.find((one) => one.textContent.trim() === name).click();
            }""",
            ["Queen seen", "old", "damaged"],
        )
        self.kept(page)
        for name in ("Queen here", "old", "damaged"):
            expect(page.get_by_role("button", name=name, exact=True)).to_have_attribute("aria-pressed", "true")
        page.reload()
        expect(page.get_by_role("button", name="Queen here", exact=True)).to_be_visible()

    def test_what_is_wrong_is_said_where_it_arose(self) -> None:
        """A side over its ten tenths, a second queen, a queen left in her cage: said there, what was entered stays."""
        page = self.to_colony("K6")
        self.to_frames(page)
        self.expected = ("422",)
        for name, tenths in (("sealed brood", "8"), ("honey", "7")):
            page.get_by_role("slider", name=name).press(tenths)
        page.get_by_text("15 tenths: a side has 10").wait_for()
        expect(page.get_by_role("slider", name="honey")).to_have_attribute("aria-valuenow", "7")
        page.get_by_role("slider", name="honey").press("1")
        page.get_by_text("a side has 10").wait_for(state="detached")
        self.kept(page)
        page.get_by_role("button", name="Queen seen", exact=True).click()
        page.get_by_role("button", name="Next frame").click()
        page.get_by_role("button", name="Queen seen", exact=True).click()
        page.get_by_text("say if there are two").wait_for()
        page.get_by_text("Not accepted: frame 2").wait_for()
        page.get_by_role("button", name="Queen here", exact=True).click()
        page.get_by_role("tab", name="The colony").click()
        page.get_by_text("More: another day").click()
        page.get_by_label("The queen was caged").check()
        self.kept(page)
        page.get_by_role("button", name="Close the visit to K6").click()
        page.get_by_text("set her free first").wait_for()

    def test_a_closed_visit_is_amended_with_a_reason(self) -> None:
        """Nothing can be changed before a reason is given; then it is, and the trail keeps it. An earlier day is refused
        where it lies before the last visit."""
        page = self.to_colony("K5")
        page.get_by_role("tab", name="Visits").click()
        page.get_by_role("table", name="Visits").get_by_role("link").first.click()
        page.get_by_role("button", name="Amend this visit").click()
        self.assertEqual(page.get_by_role("slider").count(), 0)
        page.get_by_label("Why is it amended?").fill("read the wrong frame")
        with page.expect_response("**/frames") as kept:
            page.get_by_role("slider", name=re.compile("^honey")).first.press("0")
        self.assertEqual(kept.value.status, 200)
        self.expected = ("422",)
        visit = re.search(r"visits/([0-9a-f-]+)", page.url)
        assert visit is not None
        said = owner_rows(self.server.owner_url, "SELECT reason FROM audit WHERE record_id = %s AND act = 'amended' AND table_name = 'visit_frame'", visit[1])  # fmt: skip
        self.assertEqual(said, [("read the wrong frame",)])
        page.get_by_role("link", name="Back to K5").click()
        page.get_by_role("button", name="Add a past visit").click()
        page.get_by_label("Opened on", exact=True).fill("2031-05-01")
        page.get_by_role("button", name="Write the visit down").click()
        page.get_by_text("lies before the last visit").wait_for()
        self.assertEqual(page.get_by_label("Opened on", exact=True).input_value(), "2031-05-01")

    def test_a_comb_with_signs_stays(self) -> None:
        """A comb of a suspect colony is refused another hive: a mentor sees why, an inspector can set it aside."""
        for who, may in (("mentor@corrane.example", False), ("inspector@corrane.example", True)):
            page = self.to_colony("R2", "Saltby Rise", who=who)
            self.expected = ("409",)
            self.to_frames(page)
            page.get_by_text("A suspect colony: last in the round").wait_for()
            page.get_by_role("button", name="Move it").click()
            page.get_by_role("button", name="to another colony").click()
            page.get_by_label("Colony", exact=True).select_option(label="R1")
            page.get_by_role("button", name="Put the frame here").click()
            page.get_by_text("is the suspect of case").wait_for()
            self.assertEqual(page.get_by_label("Override, because").count(), int(may))

    def test_every_part_at_three_sizes(self) -> None:
        """Axe finds nothing, nothing scrolls sideways: the parts of a visit, its dialogs, the sheet; phone, tablet, desk."""
        for view in (FIELD, TABLET, DESK):
            page = self.to_colony("K3", view=view)
            page.get_by_role("button", name=re.compile("Start a visit|Go on with the visit")).click()
            page.wait_for_url("**/visits/**")
            for part in ("Before opening", "Frames", "The colony", "Next steps"):
                page.get_by_role("tab", name=part).click()
                page.wait_for_timeout(150)
                with self.subTest(part=part, view=view["width"]):
                    if view is not TABLET:
                        self.assertAccessible(page, part)
                    wide = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
                    self.assertLessEqual(wide, 0)
            page.get_by_role("tab", name="Frames").click()
            for button in ("Add a sign", "Queen cells", "Boxes") if view is FIELD else ():
                page.get_by_role("button", name=button).click()
                page.get_by_role("dialog").wait_for()
                self.assertAccessible(page, button)
                page.keyboard.press("Escape")
                page.get_by_role("dialog").wait_for(state="detached")
            page.get_by_role("button", name="Write as a line").click()
            self.assertAccessible(page, "line")
            page.goto(re.sub(r"\?.*", "", page.url) + "/sheet")
            page.get_by_role("heading", name="What to do, by when").wait_for()
            self.assertAccessible(page, "sheet")
