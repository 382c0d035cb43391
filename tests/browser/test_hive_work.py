"""Courses without a product at the hive: act by act on the phone, stopped midway, taken back, and two people at once."""

from __future__ import annotations

import re
from contextlib import closing
from uuid import uuid4

from playwright.sync_api import Page, expect

from redframe.demo.scenario import made_id
from tests.browser.pages import DESK, FIELD, BrowserTest
from tests.support import owner_rows

RULES = ("T06", "T09", "T24", "T30", "T33", "T40", "T41", "T50", "T52", "T61", "T70", "T73", "T74", "T77")
CAIRN = made_id("corrane", "apiary", "Cairn Yard")


class HiveWork(BrowserTest):
    def planned(self, option: str, label: str) -> str:
        """A course for today at Cairn Yard, whose season somebody took on."""
        colony = made_id("corrane", "Cairn Yard", label)
        taken_on = [{"rule": rule, "authorised_by": "the vet", "reason": "a trial"} for rule in RULES]
        plan = {
            "id": str(uuid4()), "apiary_id": str(CAIRN), "option_id": option, "start_on": "2031-08-02",
            "courses": [{"id": str(uuid4()), "colony_id": str(colony), "overrides": taken_on}],
        }  # fmt: skip
        with closing(self.server.sign_in()) as client:
            (row,) = client.post("/api/v1/plans", json=plan).json()
        self.assertIsNotNone(row["course_id"], row)
        return str(row["course_id"])

    def done(self, page: Page, act: str) -> None:
        """Tell that an act is done, and wait for it to be recorded."""
        page.get_by_role("button", name=f"{act}: done").click()
        page.get_by_role("button", name=f"Not so: {act}").wait_for()

    def boxes(self, label: str) -> list[str]:
        """The boxes that stand on a hive, from the floor up."""
        colony = made_id("corrane", "Cairn Yard", label)
        rows = owner_rows(
            self.server.owner_url,
            "SELECT b.purpose FROM hive_box b JOIN colony c ON c.hive_id = b.hive_id WHERE c.id = %s "
            "AND b.until IS NULL ORDER BY b.position",
            colony,
        )
        return [purpose for (purpose,) in rows]

    def test_a_drone_comb_out_in_the_round(self) -> None:
        """Due today: found in the round of the apiary, refused without its fate, recorded with it, and the hive is
        done."""
        quarrel = made_id("corrane", "apiary", "Quarrel Lane")
        page = self.open(f"/treatment-round?apiary={quarrel}", view=FIELD)
        self.expected = ("422",)
        page.get_by_role("button", name=re.compile("^A1 ")).tap()
        page.get_by_role("heading", name="At the hive").wait_for()
        expect(page.get_by_text("It comes out by day 23")).to_be_visible()
        page.get_by_role("button", name="Drone comb out: done").tap()
        page.get_by_text("say where they went").wait_for()
        page.get_by_role("radio", name="frozen").tap()
        page.get_by_role("radio", name="clean comb").tap()
        self.assertEqual(page.evaluate("document.documentElement.scrollWidth"), FIELD["width"])
        page.get_by_role("button", name="Drone comb out: done").dblclick()
        page.get_by_text("A1 is done for today.").wait_for()
        moved = owner_rows(
            self.server.owner_url,
            "SELECT m.to_away FROM frame_move m JOIN frame f ON f.id = m.frame_id WHERE f.kind = 'drone_comb' "
            "AND m.from_colony = %s AND m.to_away IS NOT NULL",
            made_id("corrane", "Quarrel Lane", "A1"),
        )
        self.assertEqual(moved, [("freezer",)])

    def test_a_shaken_swarm_stopped_midway(self) -> None:
        """Queen caged, new box down, bees in, then rain: what is on record is what stands there."""
        course = self.planned("SHAKEN", "C2")
        before = self.boxes("C2")
        page = self.open(f"/courses/{course}", view=FIELD)
        self.expected = ("422",)
        page.get_by_text("Take along:").wait_for()
        self.done(page, "Queen caged")
        page.get_by_label("How many").fill("")
        page.get_by_role("button", name="New box on the old stand: done").click()
        page.get_by_text("say how many frames the box takes").wait_for()
        page.get_by_label("How many").fill("11")
        page.reload()
        expect(page.get_by_label("How many")).to_have_value("11")
        self.done(page, "New box on the old stand")
        self.assertEqual(self.boxes("C2"), ["excluder", "brood", *before])
        self.done(page, "Bees shaken in")
        page.get_by_role("button", name="Abandon the course").click()
        page.get_by_label("Why").fill("rain")
        page.get_by_role("button", name="Abandon the course of C2").click()
        page.get_by_text("Abandoned: rain").wait_for()
        found = owner_rows(
            self.server.owner_url,
            "SELECT t.state, t.placed_on IS NOT NULL, q.status FROM course t JOIN queen q ON q.colony_id = t.colony_id "
            "AND q.until IS NULL WHERE t.id = %s",
            course,
        )
        self.assertEqual(found, [("abandoned", True, "caged")])

    def test_brood_that_hatches_elsewhere(self) -> None:
        """Four combs go on to C7: asked for where nobody said with whom, and the day by which the workers have hatched is said."""
        course = self.planned("BROOD_OUT", "C4")
        page = self.open(f"/courses/{course}", view=FIELD)
        self.expected = ("422",)
        self.done(page, "Queen held")
        for number in (4, 5, 6, 7):
            comb = page.get_by_role("button", name=re.compile(f"^{number} .*frame$")).first
            if comb.get_attribute("aria-pressed") == "false":
                comb.tap()
        page.get_by_role("radio", name="on to hatch elsewhere").tap()
        page.get_by_role("button", name="Combs with brood out: done").tap()
        page.get_by_text("say where they went").wait_for()
        choice = page.get_by_label("With which colony")
        self.assertNotIn("C4", choice.inner_text().split())
        choice.select_option(label="C7")
        page.get_by_role("button", name="Combs with brood out: done").dblclick()
        page.get_by_text("The brood hatches with C7, its workers by 24 Aug").wait_for()
        moved = owner_rows(
            self.server.owner_url,
            "SELECT count(*) >= 4 FROM frame_move WHERE from_colony = %s AND to_colony = %s",
            made_id("corrane", "Cairn Yard", "C4"),
            made_id("corrane", "Cairn Yard", "C7"),
        )
        self.assertEqual(moved, [(True,)])

    def test_by_keyboard_and_taken_back(self) -> None:
        """Without a mouse; an act that was not so is taken back with a reason and done again."""
        course = self.planned("BROOD_OUT", "C5")
        page = self.open(f"/courses/{course}", view=DESK)
        page.get_by_role("button", name="Queen held: done").focus()
        page.keyboard.press("Enter")
        comb = page.get_by_role("button", name=re.compile("^4 .*frame$"))
        comb.wait_for()
        was = comb.get_attribute("aria-pressed")
        comb.focus()
        page.keyboard.press("Space")
        expect(comb).to_have_attribute("aria-pressed", "false" if was == "true" else "true")
        page.get_by_role("button", name="Not so: Queen held").press("Enter")
        page.get_by_label("Why").fill("another hive")
        page.keyboard.press("Enter")
        page.get_by_role("button", name="Queen held: done").wait_for()
        page.get_by_text("As it stands:").wait_for(state="detached")

    def test_two_people_at_one_hive(self) -> None:
        """Who comes second is told who was first, and goes on from there."""
        course = self.planned("COMB_CHANGE", "C6")
        page = self.open(f"/courses/{course}", view=FIELD)
        self.expected = ("409",)
        page.get_by_role("button", name="Clean box on top: done").wait_for()
        with closing(self.server.sign_in("inspector@corrane.example")) as client:
            act = {
                "id": str(uuid4()), "act": "clean_box", "done_on": "2031-08-02", "frame_format": "A_deep",
                "box_frames": 10,
            }  # fmt: skip
            self.assertEqual(client.post(f"/api/v1/courses/{course}/hive-acts", json=act).status_code, 201)
        page.get_by_role("button", name="Clean box on top: done").tap()
        page.get_by_text("recorded before by Idris Calloway").wait_for()
        page.reload()
        page.get_by_role("button", name="Queen up: done").wait_for()
        self.assertEqual(self.boxes("C6").count("excluder"), 1)
