"""The whole job by hand: count, choose, plan, carry out, verify; tired fingers, lost signal, two people, keys alone."""

from __future__ import annotations

import re
from uuid import uuid4

from playwright.sync_api import Route, expect

from redframe.demo.scenario import made_id
from tests.browser.pages import FIELD, BrowserTest
from tests.support import living, owner_rows


class Story(BrowserTest):
    def apiary(self, name: str) -> str:
        """The id of an apiary of the demo."""
        return str(made_id("corrane", "apiary", name))

    def jars_of(self, apiary: str, *numbers: int) -> str:
        """The address of the bench with jars of an apiary's living colonies, by their place in the list."""
        found = living(self.server.owner_url, apiary)
        ids = ",".join(f'"{found[number][0]}"' for number in numbers)
        return f"/bench?apiary={self.apiary(apiary)}&colonies=[{ids}]"

    def recorded(self, colony: object) -> list[list[int]]:
        """Shakes of a colony's counts of today, as the owner sees them."""
        query = "SELECT shakes FROM mite_count WHERE colony_id = %s AND taken_on = '2031-08-02'"
        return [row[0] for row in owner_rows(self.server.owner_url, query, colony)]

    def test_a_count_takes_as_many_keys_as_mites_plus_three(self) -> None:
        """Six mites: six spaces, s, r. The rate moves as they fall, the verdict comes with its reasons."""
        page = self.open(self.jars_of("Cairn Yard", 0, 1))
        page.get_by_text("nothing counted yet").wait_for()
        keys = [" "] * 5 + ["s", " ", "r"]
        self.assertLessEqual(len(keys), 6 + 3)
        for number, key in enumerate(keys[:5], start=1):
            page.keyboard.press(key)
            page.get_by_role("tab", name=f"{number} mites").wait_for()
        label = living(self.server.owner_url, "Cairn Yard")[0][1]
        page.get_by_role("img", name=f"Count of {label}").wait_for()
        for key in keys[5:]:
            page.keyboard.press(key)
        page.get_by_text("Why").first.wait_for()
        self.assertEqual(self.recorded(living(self.server.owner_url, "Cairn Yard")[0][0]), [[5, 1]])
        page.get_by_role("tab", name=label).get_by_text("act").wait_for()

    def test_a_mistake_is_one_step_back(self) -> None:
        """Backspace takes a mite off, then the shake that was just begun; nothing is edited silently."""
        page = self.open(self.jars_of("Cairn Yard", 1))
        page.get_by_text("nothing counted yet").wait_for()
        for key in (" ", " ", " ", "Backspace", "s", "Backspace", " "):
            page.keyboard.press(key)
        page.get_by_role("tab", name="3 mites").wait_for()
        self.assertEqual(page.get_by_text("Shake 2").count(), 0)

    def test_reload_loses_nothing(self) -> None:
        """A phone that dies in the middle of the second shake comes back to the same tally."""
        page = self.open(self.jars_of("Cairn Yard", 1), view=FIELD)
        mite = page.get_by_role("button", name="+ mite")
        for _ in range(4):
            mite.tap()
        page.get_by_role("button", name="Shake again").tap()
        mite.tap()
        page.reload()
        page.get_by_role("tab", name="5 mites").wait_for()
        page.get_by_text("Shake 2").wait_for()

    def test_no_signal_at_the_hive(self) -> None:
        """The wash waits on the device, says so, and reaches the server once when the signal is back."""
        page = self.open(self.jars_of("Plover Hay", 0), view=FIELD)
        self.expected = ("ERR_INTERNET_DISCONNECTED", "ERR_FAILED")
        page.get_by_text("nothing counted yet").wait_for()
        self.context.set_offline(True)
        for _ in range(3):
            page.get_by_role("button", name="+ mite").tap()
        page.get_by_role("button", name="Shake again").tap()
        page.get_by_role("button", name="Record the wash").tap()
        page.get_by_text("saved on this device").wait_for()
        self.assertEqual(self.recorded(living(self.server.owner_url, "Plover Hay")[0][0]), [])
        self.context.set_offline(False)
        page.get_by_text("1 recorded").wait_for()
        self.assertEqual(self.recorded(living(self.server.owner_url, "Plover Hay")[0][0]), [[3, 0]])

    def test_a_double_tap_records_once(self) -> None:
        """Two taps on the same key in a breath are one wash."""
        page = self.open(self.jars_of("Plover Hay", 1), view=FIELD)
        page.get_by_text("nothing counted yet").wait_for()
        page.get_by_role("button", name="+ mite").tap()
        page.get_by_role("button", name="Record the wash").dblclick()
        page.get_by_text("1 recorded").wait_for()
        self.assertEqual(self.recorded(living(self.server.owner_url, "Plover Hay")[1][0]), [[1]])

    def test_from_today_to_a_course(self) -> None:
        """Today names the apiary; options with reasons; a usable day; the plan; the first steps; the dose placed."""
        page = self.open()
        page.get_by_role("heading", name="Saturday 2 August").wait_for()
        page.get_by_role("button", name="Cairn Yard").click()
        there = page.get_by_role("region", name="Cairn Yard")
        there.get_by_role("link", name="over the threshold").click()
        page.get_by_role("heading", name="Choose a treatment").wait_for()
        page.get_by_role("button", name="Formic strips, two, Saturday 2 August").click()
        page.get_by_role("heading", name="Formic acid strips, two at once").wait_for()
        plan = page.get_by_role("button", name=re.compile("^Plan . colon"))
        plan.click()
        page.get_by_role("heading", name="Steps and their dates").wait_for()
        for step in ("Prepare", "Supers and feeder off", "Place the dose"):
            page.get_by_role("heading", name=step).wait_for()
            if step == "Place the dose":
                page.get_by_label("Taken from").select_option(label="another pack, not in stock")
                page.get_by_label("Lot on the pack").fill("F-3107")
            page.get_by_role("button", name="Record it for").click()
        page.get_by_text("under way").first.wait_for()
        page.get_by_role("heading", name="Nothing to do today").wait_for()
        page.get_by_text("Interim check").first.wait_for()

    def test_a_check_count_verifies_a_course(self) -> None:
        """The line awaiting a check count opens the course, the bench counts, the count verifies, a person confirms."""
        colony = made_id("corrane", "Brae Garth", "B1")
        query = "SELECT id FROM course WHERE colony_id = %s AND start_on = '2031-07-15'"
        course = owner_rows(self.server.owner_url, query, colony)[0][0]
        page = self.open(f"/courses/{course}")
        page.get_by_role("link", name="Count all 6 at the bench").wait_for()
        page.get_by_role("link", name="Count B1 now").click()
        page.get_by_text("nothing counted yet").wait_for()
        for key in ("s", "r"):
            page.keyboard.press(key)
        page.get_by_text("shakes 0 + 0").wait_for()
        page.get_by_role("button", name="Verify the course with this count").click()
        page.get_by_role("heading", name="It worked").wait_for()
        page.get_by_text("95 % interval").first.wait_for()
        page.get_by_role("button", name="Accept this result").click()
        page.get_by_text("B1 at Brae Garth: worked").wait_for()
        page.get_by_role("link", name="On to B2, awaiting its check count").wait_for()

    def test_a_wrong_entry_keeps_what_was_typed(self) -> None:
        """An amendment with letters among the shakes is refused at its field; the reason stays typed."""
        page = self.open(f"/colonies/{made_id('corrane', 'Kettle Wood', 'K5')}")
        self.expected = ("422",)
        page.get_by_role("button", name="Amend").first.click()
        page.get_by_label("Mites, shake by shake").fill("12 + ten")
        page.get_by_label("Why").fill("misread the tray")
        page.get_by_role("button", name="Amend the count").click()
        page.get_by_text("Write the shakes as whole numbers").wait_for()
        self.assertEqual(page.get_by_label("Why").input_value(), "misread the tray")
        page.get_by_label("Mites, shake by shake").fill("12 + 1")
        page.get_by_role("button", name="Amend the count").click()
        page.get_by_text("amended").first.wait_for()

    def test_by_keyboard_alone(self) -> None:
        """From the door to a colony's record without a mouse: keys and Tab, focus always seen."""
        page = self.open()
        page.keyboard.press("2")
        page.get_by_role("heading", name="Apiaries", exact=True).wait_for()
        for key in ("j", "j", "Enter"):
            page.keyboard.press(key)
        page.wait_for_url("**/apiaries/*-*")
        page.get_by_role("button", name="Show as a table").wait_for()
        for key in ("j", "x", "t"):
            page.keyboard.press(key)
        page.get_by_role("table", name="Colonies of").wait_for()
        self.assertIn("select=", page.url)
        self.assertIn("view=table", page.url)
        page.keyboard.press("Enter")
        page.get_by_role("heading", name="Current level").wait_for()
        page.keyboard.press("?")
        page.get_by_role("dialog").get_by_text("record a visit").wait_for()
        page.keyboard.press("Escape")
        page.get_by_role("dialog").wait_for(state="detached")
        page.keyboard.press("v")
        page.get_by_role("tab", name="Before opening").wait_for()

    def test_what_is_shown_is_in_the_address(self) -> None:
        """A filter survives reload and the back button; a deep link after signing in leads where it pointed."""
        page = self.open("/apiaries")
        page.get_by_label("Show apiaries or keepers called").fill("quill")
        page.wait_for_url("**find=quill**")
        page.reload()
        page.get_by_role("link", name="Kettle Wood").first.wait_for()
        self.assertEqual(page.get_by_role("link", name="Tarn Head").count(), 0)
        page.get_by_role("link", name="Kettle Wood").first.click()
        page.get_by_role("heading", name="Kettle Wood").wait_for()
        page.go_back()
        page.wait_for_url("**find=quill**")
        stranger = self.open("/apiaries?find=quill", who=None)
        stranger.wait_for_url("**/sign-in**")
        stranger.get_by_label("E-mail").fill("reader@corrane.example")
        stranger.get_by_label("Password").fill("corrane-demo")
        stranger.get_by_role("button", name="Sign in").click()
        stranger.wait_for_url("**find=quill**")

    def test_units_follow_the_person(self) -> None:
        """Fahrenheit and cups in two quick taps, shown at once and both kept, however slow the answers."""
        page = self.open("/account", who="inspector@corrane.example")
        held: list[Route] = []
        let_go: list[bool] = []
        page.route("**/api/v1/person", lambda route: route.continue_() if let_go else held.append(route))
        page.get_by_role("radio", name="°F").click()
        page.get_by_role("radio", name="US cup").click()
        expect(page.get_by_role("radio", checked=True, name=re.compile("°F|US cup"))).to_have_count(2)
        let_go.append(True)
        with page.expect_response(lambda answer: "cup" in (answer.request.post_data or "")):
            for route in held:
                route.continue_()
        page.reload()
        for unit in ("°F", "US cup"):
            page.get_by_role("radio", name=unit, checked=True).wait_for()
        page.goto(self.jars_of("Cairn Yard", 2))
        page.get_by_text("0.51 US cup level").wait_for()
        kettle = made_id("corrane", "Kettle Wood", "K8")
        page.goto(f'/treat?apiary={self.apiary("Kettle Wood")}&colonies=["{kettle}"]')
        page.get_by_text("°F").first.wait_for()

    def test_one_who_may_only_read_is_offered_nothing_else(self) -> None:
        """No buttons that would be refused."""
        page = self.open(f"/apiaries/{self.apiary('Kettle Wood')}", who="reader@corrane.example")
        page.get_by_role("heading", name="Kettle Wood").wait_for()
        for name in ("Choose a treatment", "Count colonies", "Add a colony"):
            self.assertEqual(page.get_by_role("button", name=name).count(), 0)
        page.goto("/")
        page.get_by_role("link", name="Open Mell Fold").wait_for()
        self.assertEqual(page.get_by_role("link", name="Choose a treatment").count(), 0)

    def test_a_slow_answer_says_so(self) -> None:
        """Words, not a bare spinner, while the season is drawn."""
        page = self.open()
        page.route("**/api/v1/apiaries/*", lambda route: (page.wait_for_timeout(1200), route.continue_()))
        page.goto(f"/apiaries/{self.apiary('Kettle Wood')}")
        page.get_by_role("status").filter(has_text="Drawing the season").wait_for()
        page.get_by_role("heading", name="Kettle Wood").wait_for()

    def test_adding_a_colony(self) -> None:
        """A label that is taken is refused at its field; a free one joins the strips."""
        page = self.open(f"/apiaries/{self.apiary('Orrin Quay')}")
        self.expected = ("422",)
        page.get_by_role("button", name="Add a colony").click()
        dialog = page.get_by_role("dialog")
        taken = owner_rows(self.server.owner_url, "SELECT label FROM colony WHERE apiary_id = %s AND state = 'alive' LIMIT 1", self.apiary("Orrin Quay"))  # fmt: skip
        label = taken[0][0] if taken else "Q1"
        dialog.get_by_label("Label").fill(label)
        dialog.get_by_role("button", name="Add the colony").click()
        if taken:
            dialog.get_by_text("another living colony here").wait_for()
        dialog.get_by_label("Label").fill(f"N{uuid4().hex[:4]}")
        dialog.get_by_role("button", name="Add the colony").click()
        dialog.wait_for(state="detached")
        page.get_by_text("never counted").first.wait_for()
