"""The treatments of a day, hive by hive: by touch on a phone, undone, and with two people at it."""

from __future__ import annotations

import re
from contextlib import closing
from uuid import uuid4

from playwright.sync_api import Page, expect

from redframe.demo.scenario import made_id
from tests.browser.pages import FIELD, BrowserTest
from tests.support import owner_rows

LABELS = ("L1", "L2", "L4")
RULES = ("T06", "T08", "T10", "T11", "T20", "T21", "T50", "T51", "T52")


class Rounds(BrowserTest):
    def setUp(self) -> None:
        """A trickle planned for today at Lower Fenn, whose rules somebody took on."""
        super().setUp()
        self.apiary = made_id("corrane", "apiary", "Lower Fenn")
        taken_on = [{"rule": rule, "authorised_by": "the vet", "reason": "a trial"} for rule in RULES]
        wanted = [
            {"id": str(uuid4()), "colony_id": str(made_id("corrane", "Lower Fenn", label)), "overrides": taken_on}
            for label in LABELS
        ]
        plan = {
            "id": str(uuid4()), "apiary_id": str(self.apiary), "option_id": "OX_TRICKLE", "start_on": "2031-08-02",
            "courses": wanted,
        }  # fmt: skip
        with closing(self.server.sign_in("mentor@corrane.example")) as client:
            rows = client.post("/api/v1/plans", json=plan).json()
        self.courses = {row["label"]: row["course_id"] for row in rows}
        self.assertTrue(all(self.courses.values()), rows)

    def tearDown(self) -> None:
        """The next test begins without them."""
        with closing(self.server.sign_in("mentor@corrane.example")) as client:
            for course in self.courses.values():
                client.post(
                    f"/api/v1/courses/{course}/abandon", json={"why": "the test is over", "removed_on": "2031-08-02"}
                )
        super().tearDown()

    def placed(self) -> list[tuple[str, float, str]]:
        """What was placed, by colony."""
        return owner_rows(
            self.server.owner_url,
            "SELECT c.label, a.quantity, a.lot FROM course_act a JOIN course t ON t.id = a.course_id "
            "JOIN colony c ON c.id = t.colony_id WHERE a.step = 'place_1' AND t.id = ANY(%s) ORDER BY c.label",
            list(self.courses.values()),
        )

    def at_hand(self, page: Page) -> None:
        """The product is there, said once for all hives."""
        page.get_by_role("button", name="All at hand, for 3 colonies").tap()
        page.get_by_role("heading", name="Before you go").wait_for(state="detached")

    def to_hive(self, page: Page, label: str) -> None:
        """Open a hive of the round, its supers off."""
        page.get_by_role("button", name=re.compile(f"^{label} ")).tap()
        page.get_by_role("button", name=f"Record it for {label}").tap()
        page.get_by_role("heading", name="Place the dose").wait_for()

    def test_three_hives(self) -> None:
        """What is the same is said once; the second hive takes over pack and warmth; a wrong one is undone."""
        page = self.open(f"/treatment-round?apiary={self.apiary}", view=FIELD)
        self.expected = ("422",)
        self.at_hand(page)
        page.get_by_text("of Oxalic acid dihydrate, crystals, lot XC-40").wait_for()
        self.to_hive(page, "L1")
        self.assertEqual(page.evaluate("document.documentElement.scrollWidth"), FIELD["width"])
        cautions = page.get_by_text("You:", exact=True)
        expect(cautions).to_be_visible()
        page.get_by_role("button", name="Placed: less").tap()
        page.get_by_label("Lot on the pack").fill("B 12")
        page.get_by_label("Air temperature").fill("19")
        page.get_by_role("button", name="Record it for L1").tap()
        page.get_by_text("say why less than the 50 planned").wait_for()
        page.get_by_label("Note").fill("a small cluster")
        page.get_by_role("button", name="Record it for L1").dblclick()
        page.get_by_text("L1 is done for today.").wait_for()
        page.get_by_role("button", name="Next: L2").tap()
        page.get_by_role("button", name="Record it for L2").tap()
        page.get_by_role("heading", name="Place the dose").wait_for()
        expect(cautions).to_be_hidden()
        page.get_by_text("The cautions again").wait_for()
        expect(page.get_by_label("Lot on the pack")).to_have_value("B 12")
        expect(page.get_by_label("Air temperature")).to_have_value("19")
        page.get_by_role("button", name="Record it for L2").tap()
        page.get_by_text("L2 is done for today.").wait_for()
        self.assertEqual(self.placed(), [("L1", 45, "B 12"), ("L2", 50, "B 12")])
        page.get_by_role("button", name="Undo: Place the dose of L2").tap()
        page.get_by_role("button", name="Record it for L2").wait_for()
        self.assertEqual(self.placed(), [("L1", 45, "B 12")])
        page.reload()
        page.get_by_role("heading", name="L2").wait_for()
        page.go_back()
        page.get_by_text("L1 is done for today.").wait_for()

    def test_somebody_else_was_there(self) -> None:
        """The hive that another person has just done says so, and the round goes on."""
        page = self.open(f"/treatment-round?apiary={self.apiary}", view=FIELD)
        self.expected = ("409",)
        self.at_hand(page)
        self.to_hive(page, "L4")
        with closing(self.server.sign_in("inspector@corrane.example")) as client:
            act = {"id": str(uuid4()), "step": "place_1", "outcome": "done", "done_on": "2031-08-02", "quantity": 50}
            self.assertEqual(client.post(f"/api/v1/courses/{self.courses['L4']}/acts", json=act).status_code, 201)
        page.get_by_label("Lot on the pack").fill("B 12")
        page.get_by_role("button", name="Record it for L4").tap()
        page.get_by_text("L4 is done for today.").wait_for()
        expect(page.get_by_role("listitem").filter(has_text="place the dose: 50 ml")).to_contain_text(
            "recorded by Idris Calloway"
        )
        self.assertEqual([one[0] for one in self.placed()], ["L4"])

    def test_the_same_plan_at_another_apiary(self) -> None:
        """From a course on to another apiary with option, day and plan; there its colonies stand together, and a step
        is shared by those of one apiary only."""
        page = self.open(f"/courses/{self.courses['L1']}")
        page.get_by_role("link", name="Plan the same at another apiary").click()
        page.get_by_label("At which apiary?").select_option(str(made_id("corrane", "apiary", "Upper Fenn")))
        page.get_by_role("checkbox", name="U1").check()
        page.get_by_role("button", name="Weigh the options for 1 colony").click()
        page.get_by_role("heading", name="Oxalic acid trickle").wait_for()
        with closing(self.server.sign_in("mentor@corrane.example")) as client:
            plan = client.get(f"/api/v1/courses/{self.courses['L1']}").json()["plan_id"]
            wanted = {"id": str(uuid4()), "colony_id": str(made_id("corrane", "Upper Fenn", "U1"))}
            wanted |= {"overrides": [{"rule": rule, "authorised_by": "the vet", "reason": "a trial"} for rule in RULES]}  # type: ignore[dict-item]
            body = {
                "id": plan, "apiary_id": str(made_id("corrane", "apiary", "Upper Fenn")), "option_id": "OX_TRICKLE",
                "start_on": "2031-08-02", "courses": [wanted],
            }  # fmt: skip
            (row,) = client.post("/api/v1/plans", json=body).json()
        self.assertIn(plan, page.url)
        self.assertIsNotNone(row["course_id"], row)
        self.courses["U1"] = row["course_id"]
        page.goto(f"/courses/{row['course_id']}")
        together = page.get_by_role("navigation", name="Colonies of this plan")
        expect(together).to_contain_text("Planned together: 0 of 4 placed.")
        expect(together).to_contain_text("Lower Fenn")
        page.get_by_role("button", name="Record it for U1").wait_for()
        # A journey is to one apiary: what waits at the other is none of this one's.
        expect(
            page.get_by_role("list", name="Journeys to come").get_by_text("Place the dose, 1 colony")
        ).to_be_visible()
