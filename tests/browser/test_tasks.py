"""The acts that frequent work takes, counted: taps, keys and screens from where one stands to where it is done."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, expect

from redframe.demo.scenario import made_id
from tests.browser.pages import DESK, FIELD, BrowserTest
from tests.support import owner_rows


class Acts:
    """Counts what a gloved finger does on a page, and how far the page was scrolled meanwhile."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.count = 0

    def tap(self, target: Locator, across: float | None = None, down: float | None = None) -> None:
        """Tap a target, in its middle or at shares of its width and height."""
        self.count += 1
        box = target.bounding_box()
        assert box is not None
        x = box["width"] * (0.5 if across is None else across)
        target.tap(position={"x": max(1.0, x - 1), "y": box["height"] * (0.5 if down is None else down)})

    def stroke(self, *through: tuple[Locator, float]) -> None:
        """One stroke through targets, each at a share of its height."""
        self.count += 1
        points = []
        for target, down in through:
            box = target.bounding_box()
            assert box is not None
            points.append((box["x"] + box["width"] / 2, box["y"] + box["height"] * (down - 0.02)))
        self.page.mouse.move(*points[0])
        self.page.mouse.down()
        for x, y in points[1:]:
            self.page.mouse.move(x, y, steps=6)
        self.page.mouse.up()


def kept(page: Page) -> None:
    """Wait until everything that was recorded has reached the server."""
    expect(page.get_by_role("status").filter(has_text="All changes saved")).to_be_visible()


class Visits(BrowserTest):
    def test_a_quick_visit_from_today(self) -> None:
        """Six facts of a colony that is due, on one screen without scrolling, and closed: 8 acts (12 before)."""
        colony = made_id("corrane", "St Ossory", "O1")
        page = self.open(f"/?at={made_id('corrane', 'apiary', 'St Ossory')}", view=FIELD)
        acts = Acts(page)
        acts.tap(page.get_by_role("button", name="Quick visit to O1"))
        page.wait_for_url("**/visits/**")
        page.get_by_role("slider", name="Seams of bees").wait_for()
        page.wait_for_timeout(200)
        at = page.evaluate("scrollY")
        for name, share in (
            ("Seams of bees", 8 / 12),
            ("Frames of brood", 5 / 12),
            ("Stores", 9 / 30),
            ("Temper", 0.8),
        ):
            acts.tap(page.get_by_role("slider", name=name), share)
        acts.tap(page.get_by_role("radio", name="only eggs"))
        acts.tap(page.get_by_label("Note"))
        page.get_by_label("Note").fill("Gentle, a little short of space.")
        kept(page)
        self.assertEqual(page.evaluate("scrollY"), at, "all six stand on one screen")
        acts.tap(page.get_by_role("button", name="Close the visit to O1"))
        page.get_by_role("button", name="Next: quick visit to").wait_for()
        self.assertLessEqual(acts.count, 8)
        found = owner_rows(
            self.server.owner_url,
            "SELECT strength, strength_unit, frames_of_brood, eggs_seen, stores_kg, temper, note, next_visit IS NOT NULL "
            "FROM visit WHERE colony_id = %s AND closed_at IS NOT NULL ORDER BY created_at DESC LIMIT 1",
            colony,
        )
        self.assertEqual(found, [(8, "seams", 5, True, 9, 8, "Gentle, a little short of space.", True)])

    def test_ten_frames_on_the_plan(self) -> None:
        """A brood box of ten, its stores and bees by a stroke each, its brood frame by frame, the queen: 22 acts (43)."""
        colony = made_id("corrane", "Kettle Wood", "K7")
        page = self.open(f"/colonies/{colony}", view=FIELD)
        page.get_by_role("button", name="Start a visit").tap()
        page.wait_for_url("**/visits/**")
        acts = Acts(page)
        acts.tap(page.get_by_role("tab", name="Frames"))
        acts.tap(page.get_by_role("button", name="On the plan"))
        slots = [page.locator(f"button[data-slot='{number}']") for number in range(1, 11)]
        brush = page.get_by_role("group", name="Draw on the plan")
        capped, opened = (3, 5, 6, 6, 5, 3), (1, 2, 2, 2, 2, 1)
        honey = (10, 10, 4, 2, 1, 1, 2, 4, 10, 10)
        acts.stroke(*((slot, tenths / 10) for slot, tenths in zip(slots, honey, strict=True)))
        acts.tap(brush.get_by_role("button", name="sealed brood"))
        for index in range(6):
            acts.tap(slots[index + 2], down=(honey[index + 2] + capped[index]) / 10)
            acts.tap(slots[index + 2], down=(honey[index + 2] + capped[index] + opened[index]) / 10)
            if index == 2:
                acts.tap(page.get_by_role("button", name="Queen seen", exact=True))
        acts.tap(brush.get_by_role("button", name="bees"))
        acts.stroke(*((slot, 0.8) for slot in slots[2:8]))
        self.assertLessEqual(acts.count, 22)
        page.wait_for_timeout(300)
        kept(page)
        rows = owner_rows(
            self.server.owner_url,
            "SELECT slot, record FROM visit_frame f JOIN visit v ON v.id = f.visit_id WHERE v.colony_id = %s "
            "AND v.state = 'draft' ORDER BY slot",
            colony,
        )
        self.assertEqual([slot for slot, _ in rows], list(range(1, 11)))
        sides = [record["a"] for _, record in rows]
        self.assertEqual([side["honey"] for side in sides], list(honey))
        self.assertEqual([side["capped"] for side in sides[2:8]], list(capped))
        self.assertEqual([side["open"] for side in sides[2:8]], list(opened))
        self.assertEqual([side["bees"] for side in sides[2:8]], [8] * 6)
        self.assertEqual([slot for slot, record in rows if record.get("queen")], [5])
        self.assertTrue(all(record["a"] == record["b"] for _, record in rows))


class Answers(BrowserTest):
    def test_which_apiary_first_and_why(self) -> None:
        """Today says it without an act, at the desk and in the field: which, by when, and because of what."""
        for view in (DESK, FIELD):
            page = self.open("/", view=view)
            there = page.get_by_role("region", name=re.compile(" first$"))
            expect(there).to_be_in_viewport()
            first = page.get_by_role("listitem").filter(has=page.locator("#apiary-0"))
            name = there.get_by_role("heading", level=2).inner_text().removesuffix(" first")
            expect(first).to_contain_text(name)
            expect(there.get_by_role("listitem").first).to_be_visible()

    def test_is_it_getting_worse(self) -> None:
        """A colony's page says it without an act: the figure, its interval and level, and one verdict, in sight."""
        for view in (DESK, FIELD):
            page = self.open(f"/colonies/{made_id('corrane', 'Mell Fold', 'M1')}", view=view)
            verdict = page.get_by_text(re.compile("(rose|rising|falling|fell|steady|same).* since "))
            expect(verdict.first).to_be_in_viewport()
            self.assertEqual(verdict.count(), 1, "one verdict, not two")

    def test_a_colony_by_its_name_from_anywhere(self) -> None:
        """A key, its label, Return: from a page that has nothing to do with it."""
        page = self.open("/treatments")
        page.get_by_role("heading", name="Treatments", exact=True).wait_for()
        page.keyboard.press("/")
        page.get_by_role("dialog").get_by_role("combobox").wait_for()
        # Return comes before the answer: it waits for it.
        page.keyboard.type("K3")
        page.keyboard.press("Enter")
        page.wait_for_url("**/colonies/*")
        page.get_by_role("heading", name="K3", exact=True).wait_for()

    def test_a_wash_of_six_mites_from_today(self) -> None:
        """The colony that is due, six mites in two shakes, recorded: 6 acts and one a mite, nothing scrolled for."""
        page = self.open(f"/?at={made_id('corrane', 'apiary', 'Dunnock Mill')}", view=FIELD)
        acts = Acts(page)
        acts.tap(page.get_by_role("link", name=re.compile("^Count .*")).first)
        page.wait_for_url("**/bench?**")
        mite = page.get_by_role("button", name="+ mite")
        for _ in range(5):
            acts.tap(mite)
        acts.tap(page.get_by_role("button", name="Shake again"))
        acts.tap(mite)
        at = page.evaluate("scrollY")
        acts.tap(page.get_by_role("button", name="Record the wash"))
        page.get_by_text("1 recorded").wait_for()
        self.assertLessEqual(acts.count, 6 + 6)
        self.assertEqual(at, 0, "the keys stand where the thumb is")
        query = "SELECT shakes FROM mite_count ORDER BY created_at DESC LIMIT 1"
        counted = owner_rows(self.server.owner_url, query)
        self.assertEqual(counted, [([5, 1],)])


class Treatments(BrowserTest):
    def test_a_plan_for_an_apiary_from_today(self) -> None:
        """The first apiary of the day is planned in 3 acts (8 taps and 27 characters before): it opens on the first
        usable day, with the option that may begin first, and the button names the day."""
        page = self.open("/", view=FIELD)
        acts = Acts(page)
        first = page.get_by_role("region", name=re.compile(" first$"))
        acts.tap(first.get_by_role("link", name="Choose a treatment"))
        heading = page.get_by_role("heading", level=1)
        expect(heading).to_contain_text(re.compile("wait until|today"))
        acts.tap(page.get_by_role("button", name=re.compile(r"^Plan \d+ colon(y|ies) for \d+ Aug")))
        page.get_by_role("heading", name="Steps and their dates").wait_for()
        self.assertLessEqual(acts.count, 3)

    def test_a_placing_for_four_colonies_from_today(self) -> None:
        """Their apiary, their step, recorded for all: 3 acts; the lot is the one in stock that expires first."""
        labels = ("C1", "C2", "C4", "C5")
        ids = ",".join(f'"{made_id("corrane", "Cairn Yard", label)}"' for label in labels)
        page = self.open(f"/treat?apiary={made_id('corrane', 'apiary', 'Cairn Yard')}&colonies=[{ids}]", view=FIELD)
        page.get_by_role("button", name="Formic strips, two, Saturday 2 August").tap()
        page.get_by_role("button", name=re.compile("^Plan 4 colonies for 2 Aug")).tap()
        for step in ("Prepare", "Supers and feeder off"):
            page.get_by_role("heading", name=step).wait_for()
            page.get_by_role("button", name="Record it for 4 colonies").tap()
        page.get_by_role("heading", name="Place the dose").wait_for()
        page.goto("/")
        acts = Acts(page)
        acts.tap(page.get_by_role("button", name="Cairn Yard"))
        acts.tap(page.get_by_role("region", name="Cairn Yard").get_by_role("link", name="Place the dose: C1"))
        expect(page.get_by_label("Taken from").locator("option:checked")).to_contain_text("lot F-3105: 7 strips left")
        expect(page.get_by_text("8 strips are needed, 7 left")).to_be_visible()
        acts.tap(page.get_by_role("button", name="Record it for 4 colonies"))
        page.get_by_role("heading", name="Nothing to do today").wait_for()
        self.assertLessEqual(acts.count, 3)
        placed = owner_rows(
            self.server.owner_url,
            "SELECT c.label, a.lot FROM course_act a JOIN course k ON k.id = a.course_id JOIN colony c ON c.id = "
            "k.colony_id WHERE a.step LIKE 'place%%' AND a.lot = %s AND c.apiary_id = %s "
            "AND a.done_on = '2031-08-02' ORDER BY c.label",
            "F-3105",
            made_id("corrane", "apiary", "Cairn Yard"),
        )
        self.assertEqual(placed, [(label, "F-3105") for label in labels])

    def test_a_missing_fact_is_asked_on_the_spot(self) -> None:
        """A colony whose strength nobody recorded asks for it, is not refused for it, and may then have its dose."""
        colony, place = made_id("corrane", "Dunnock Mill", "D10"), made_id("corrane", "apiary", "Dunnock Mill")
        page = self.open(f'/treat?apiary={place}&colonies=["{colony}"]')
        asks = page.get_by_role("button", name=re.compile("^Formic strips, two, .*: asks something first")).first
        asks.click()
        expect(page.get_by_role("button", name="No colony may have it on this day")).to_be_disabled()
        expect(page.get_by_role("button", name="Record", exact=True)).to_be_disabled()
        for _ in range(3):
            page.get_by_role("button", name="Frames of bees in D10?: more").click()
        page.get_by_role("button", name="Record", exact=True).click()
        page.get_by_role("button", name=re.compile("^Formic strips, two, .*: may be placed")).first.wait_for()
        expect(page.get_by_role("button", name=re.compile("^Plan 1 colony for"))).to_be_enabled()
        query = "SELECT strength, strength_unit, state FROM visit WHERE colony_id = %s AND visited_on = '2031-08-02'"
        self.assertEqual(owner_rows(self.server.owner_url, query, colony), [(10, "frames", "closed")])

    def test_the_grid_by_keys(self) -> None:
        """Arrow keys go from cell to cell, Return chooses: the sheet and the address follow."""
        place = made_id("corrane", "apiary", "Thrift Point")
        ids = ",".join(f'"{made_id("corrane", "Thrift Point", label)}"' for label in ("J1", "J3"))
        page = self.open(f"/treat?apiary={place}&colonies=[{ids}]")
        page.get_by_role("button", name="Formic strips, two, Saturday 2 August").focus()
        for key in ("ArrowRight", "ArrowRight", "ArrowDown", "ArrowLeft", "Enter"):
            page.keyboard.press(key)
        page.get_by_text("On Sunday 3 August").wait_for()
        page.get_by_role("heading", name="Formic acid strips, one then one").wait_for()
        self.assertIn("start=2031-08-03", page.url)


class Trust(BrowserTest):
    def test_back_closes_a_dialog_and_what_was_begun_stays(self) -> None:
        """The phone's back gesture closes what lies on top; Escape, back and a reload keep a half-filled form."""
        page = self.open("/apiaries/" + str(made_id("corrane", "apiary", "Kettle Wood")), view=FIELD)
        page.get_by_role("link", name="K5", exact=True).tap()
        hold = page.get_by_role("button", name="Hold", exact=True)
        why = page.get_by_role("dialog").get_by_label("Why")
        hold.tap()
        why.fill("chalk brood on three combs")
        address = page.url
        page.go_back()
        page.get_by_role("dialog").wait_for(state="detached")
        page.wait_for_url(address)
        page.reload()
        hold.tap()
        expect(why).to_have_value("chalk brood on three combs")
        page.keyboard.press("Escape")
        page.get_by_role("dialog").wait_for(state="detached")
        hold.tap()
        page.get_by_text("What you had begun is still here").wait_for()
        page.get_by_role("button", name="Begin afresh").tap()
        expect(why).to_have_value("")
        why.fill("brood disease suspected")
        page.get_by_role("button", name="Hold K5").tap()
        page.get_by_text("On hold since").first.wait_for()

    def test_without_signal_the_application_opens_and_moves(self) -> None:
        """The page and its screens are on the device: opened, moved between, counted at, and sent from another page when
        the signal is back. Whoever signs in next reads nothing of it."""
        page = self.open("/", view=FIELD, kept=True)
        self.expected = ("ERR_", "Failed to fetch", "Failed to load")
        self.until(page, "async () => navigator.serviceWorker.controller !== null && !!(await caches.match('/'))")
        kettle = made_id("corrane", "apiary", "Kettle Wood")
        page.goto(f"/apiaries/{kettle}")
        page.get_by_role("link", name="K5", exact=True).tap()
        page.get_by_role("heading", name="Current level").wait_for()
        bench = f'/bench?apiary={kettle}&colonies=["{made_id("corrane", "Kettle Wood", "K5")}"]'
        page.goto(bench)
        page.get_by_role("button", name="+ mite").wait_for()
        page.wait_for_load_state("networkidle")
        # The worker keeps an answer after the page has it.
        for address in (
            "/", "/api/v1/session", "/api/v1/worklist", "/api/v1/apiary-places", "/api/v1/apiaries?sort=by",
            f"/api/v1/apiaries/{kettle}",
        ):  # fmt: skip
            self.until(page, "async (address) => !!(await caches.match(address))", address)
        # All that the bench was built of, too: on a busy machine it comes into the cache long after the page is there.
        kept = """async () => {
          const answered = performance.getEntriesByType("resource").filter((one) => one.responseStatus === 200);
          const asked = answered.map((one) => one.name);
          const kept = asked.filter((name) => !/counts\\/ruler|icon\\.svg/.test(name));
          return (await Promise.all(kept.map((name) => caches.match(name)))).every(Boolean);
        }"""
        self.until(page, kept)
        self.context.set_offline(True)
        page.goto("/")
        page.get_by_role("heading", name="Saturday 2 August").wait_for()
        page.get_by_text("No signal").wait_for()
        page.goto(bench)
        expect(page.locator("body")).to_contain_text("+ mite")
        page.get_by_role("button", name="+ mite").tap()
        page.get_by_role("button", name="Record the wash").tap()
        page.get_by_text("saved on this device").wait_for()
        page.goto("/record")
        page.get_by_role("heading", name="Record").wait_for()
        page.get_by_text("Not sent yet (1)").wait_for()
        self.context.set_offline(False)
        page.get_by_text("Not sent yet").wait_for(state="detached")
        query = "SELECT count(*) FROM mite_count WHERE colony_id = %s AND taken_on = '2031-08-02'"
        counted = owner_rows(self.server.owner_url, query, made_id("corrane", "Kettle Wood", "K5"))
        self.assertEqual(counted, [(1,)])
        page.goto("/account")
        page.get_by_role("button", name="Sign out here").tap()
        page.get_by_role("heading", name="Sign in").or_(page.get_by_label("E-mail")).first.wait_for()
        self.assertFalse(page.evaluate("async () => !!(await caches.match('/api/v1/worklist'))"))

    def until(self, page: Page, script: str, given: object = None) -> None:
        """Waits until an asynchronous question to the page is answered with yes."""
        for _ in range(240):
            if page.evaluate(script, given):
                return
            page.wait_for_timeout(250)
        self.fail(f"not so after a minute: {script}")

    def test_a_screen_that_does_not_come_leaves_the_page(self) -> None:
        """A part of the application that cannot be fetched is said, and comes with the next try; nothing reloads."""
        page = self.open("/")
        self.expected = ("ERR_FAILED", "Failed to load")
        page.evaluate("window.stayed = true")
        page.route("**/assets/counts-*.js", lambda route: route.abort())
        page.get_by_role("link", name="Counts").click()
        page.get_by_role("heading", name="Something went wrong").wait_for()
        page.unroute("**/assets/counts-*.js")
        page.get_by_role("button", name="Try again").click()
        page.get_by_role("heading", name="Counts", exact=True).wait_for()
        self.assertTrue(page.evaluate("window.stayed"))

    def test_a_day_is_stepped(self) -> None:
        """A day is written as days are, stepped by a thumb, and never past what may be."""
        page = self.open(f"/colonies/{made_id('corrane', 'Kettle Wood', 'K6')}", view=FIELD)
        page.get_by_role("button", name="Add a past visit").tap()
        dialog = page.get_by_role("dialog")
        dialog.get_by_text("Sat 2 Aug").wait_for()
        expect(dialog.get_by_role("button", name="the day after")).to_be_disabled()
        for _ in range(3):
            dialog.get_by_role("button", name="the day before").tap()
        dialog.get_by_text("Wed 30 Jul").wait_for()
        expect(dialog.get_by_label("Opened on", exact=True)).to_have_value("2031-07-30")
        self.assertAccessible(page, "a day")
