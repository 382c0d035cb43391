"""The way around: the doors at the desk and in the field, the search from anywhere, the person's menu, what is unsent."""

from __future__ import annotations

import re
from urllib.parse import quote

from playwright.sync_api import Page, expect

from redframe.demo.scenario import made_id
from tests.browser.pages import FIELD, BrowserTest

DESK_DOORS = {"1": ("Today", "/"), "2": ("Apiaries", "/apiaries"), "3": ("Counts", "/counts"), "4": ("Treatments", "/treatments"), "5": ("Cases", "/cases")}  # fmt: skip
FIELD_DOORS = {"Today": "/", "Find": "/find", "Record": "/record"}
KETTLE = made_id("corrane", "apiary", "Kettle Wood")


def doors(page: Page) -> list[str]:
    """The doors that can be seen."""
    return page.get_by_role("navigation", name="Screens").locator("visible=true").get_by_role("link").all_inner_texts()


class Desk(BrowserTest):
    def marked(self, page: Page) -> list[str]:
        """The doors marked as the one that the screen lies behind."""
        return page.locator("nav:visible a[aria-current=page]").all_inner_texts()

    def test_each_door_by_its_key(self) -> None:
        """Five doors; each key opens its own, says so under "?", and marks it."""
        page = self.open("/account")
        self.assertEqual(doors(page), [name for name, _ in DESK_DOORS.values()])
        self.assertEqual(self.marked(page), [])
        for key, (name, address) in DESK_DOORS.items():
            with self.subTest(door=name):
                page.keyboard.press(key)
                page.wait_for_url(f"**{address}")
                expect(page.locator("nav:visible a[aria-current=page]")).to_have_text(name)
        page.keyboard.press("?")
        dialog = page.get_by_role("dialog", name="Keys on this screen")
        for name, _ in DESK_DOORS.values():
            dialog.get_by_text(name, exact=True).wait_for()

    def test_a_room_is_marked_with_its_door(self) -> None:
        """Who is at a colony is behind Apiaries, at the bench behind Counts, choosing a treatment behind Treatments."""
        page = self.open()
        for address, door in (
            (f"/colonies/{made_id('corrane', 'Kettle Wood', 'K3')}", "Apiaries"),
            (f"/apiaries/{KETTLE}", "Apiaries"),
            ("/colonies", "Apiaries"),
            (f"/bench?apiary={KETTLE}", "Counts"),
            ("/count-weeks", "Counts"),
            (f"/treat?apiary={KETTLE}", "Treatments"),
            (f"/treatment-round?apiary={KETTLE}", "Treatments"),
            ("/mixing", "Treatments"),
            (f"/earlier?apiary={KETTLE}", "Treatments"),
            (f"/honey?apiary={KETTLE}", "Apiaries"),
            ("/cases?closed=true", "Cases"),
        ):
            with self.subTest(address=address):
                page.goto(address)
                expect(page.locator("nav:visible a[aria-current=page]")).to_have_text(door)

    def test_a_colony_is_found_by_its_label_from_anywhere(self) -> None:
        """Slash, "w1", Return: her page, whatever was open; focus comes back to nothing that was closed."""
        page = self.open(f"/treat?apiary={KETTLE}")
        page.keyboard.press("/")
        field = page.get_by_role("combobox", name="Find an apiary")
        expect(field).to_be_focused()
        page.keyboard.type("whin w1")
        expect(page.get_by_role("option").first).to_contain_text("W1")
        self.assertAccessible(page, "finding")
        page.keyboard.press("Enter")
        page.wait_for_url(f"**/colonies/{made_id('corrane', 'Whin Moor', 'W1')}")
        expect(page.get_by_role("dialog")).to_have_count(0)
        page.go_back()
        page.wait_for_url("**/treat?**")

    def test_arrows_choose_and_escape_leaves(self) -> None:
        """The second line by an arrow, back up, no further than the ends; Escape leaves the page as it was."""
        page = self.open("/apiaries")
        page.keyboard.press("/")
        page.keyboard.type("tarn")
        options = page.get_by_role("option")
        expect(options.first).to_contain_text("Tarn Head")
        field = page.get_by_role("combobox")
        page.keyboard.press("ArrowUp")
        expect(options.first).to_have_attribute("aria-selected", "true")
        page.keyboard.press("ArrowDown")
        expect(options.nth(1)).to_have_attribute("aria-selected", "true")
        self.assertEqual(field.get_attribute("aria-activedescendant"), options.nth(1).get_attribute("id"))
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)
        self.assertTrue(page.url.endswith("/apiaries"))
        page.keyboard.press("/")
        expect(page.get_by_role("combobox")).to_have_value("")

    def test_a_keeper_opens_the_list_of_their_apiaries(self) -> None:
        """Found by name, the keeper leads to what they keep, and to nothing else."""
        page = self.open()
        page.get_by_role("button", name="Find").click()
        page.keyboard.type("orla fen")
        page.get_by_role("option", name=re.compile("Orla Fenwick.*keeper")).click()
        page.wait_for_url("**/apiaries?find=Orla*")
        for name in ("Tarn Head", "Skerrow Bank"):
            page.get_by_role("link", name=name).first.wait_for()
        self.assertEqual(page.get_by_role("link", name="Kettle Wood").count(), 0)

    def test_nothing_found_says_so(self) -> None:
        """A name that nobody has: the words that were typed, and what to try."""
        page = self.open()
        page.keyboard.press("/")
        page.keyboard.type("zzz")
        page.get_by_text("Nothing is called zzz").wait_for()
        expect(page.get_by_role("option")).to_have_count(0)
        page.keyboard.press("Enter")
        expect(page.get_by_role("combobox")).to_be_visible()

    def test_a_slash_is_a_letter_in_a_field(self) -> None:
        """Who types a name with a slash, or a number, does not leave the page."""
        page = self.open("/apiaries")
        field = page.get_by_label("Show apiaries or keepers called")
        field.click()
        page.keyboard.type("K/3 1")
        expect(field).to_have_value("K/3 1")
        expect(page.get_by_role("dialog")).to_have_count(0)
        self.assertIn("/apiaries", page.url)

    def test_a_screen_is_named_and_read_from_its_heading(self) -> None:
        """The window's title follows the screen; a door taken puts the focus on the heading; a field in hand keeps it."""
        page = self.open()
        expect(page).to_have_title("Saturday 2 August, Red Frame")
        page.locator("nav:visible").get_by_role("link", name="Apiaries").click()
        expect(page.get_by_role("heading", name="Apiaries", exact=True)).to_be_focused()
        expect(page).to_have_title("Apiaries, Red Frame")
        page.get_by_label("Show apiaries or keepers called").press_sequentially("Kettle")
        expect(page.get_by_label("Show apiaries or keepers called")).to_be_focused()
        page.get_by_role("link", name="Kettle Wood").first.click()
        expect(page).to_have_title("Kettle Wood, Red Frame")
        page.go_back()
        expect(page).to_have_title("Apiaries, Red Frame")

    def test_what_stands_under_the_person(self) -> None:
        """A mentor finds units and policy, not people; an administrator people too; signing out ends the session."""
        for who, rooms in (
            ("mentor@corrane.example", ["Units, theme and password", "Policy", "Glossary", "Sign out"]),
            (
                "administrator@corrane.example",
                ["Units, theme and password", "Policy", "People", "Glossary", "Sign out"],
            ),
        ):
            with self.subTest(who=who):
                page = self.open(who=who)
                page.locator("header [aria-haspopup=menu]").click()
                items = page.get_by_role("menuitem")
                expect(items.first).to_be_visible()
                self.assertEqual(items.all_inner_texts(), rooms)
        page.get_by_role("menuitem", name="People").click()
        page.wait_for_url("**/association?view=people")
        page.locator("header [aria-haspopup=menu]").click()
        self.expected = ("401",)
        page.get_by_role("menuitem", name="Sign out").click()
        page.wait_for_url("**/sign-in*")
        page.goto("/apiaries")
        page.wait_for_url("**/sign-in?then=*")


class Field(BrowserTest):
    def test_three_doors_for_the_thumb(self) -> None:
        """Today, Find, Record: each within reach, large enough, and marked when open."""
        page = self.open(view=FIELD)
        self.assertEqual(doors(page), list(FIELD_DOORS))
        for name, address in FIELD_DOORS.items():
            with self.subTest(door=name):
                door = (
                    page.get_by_role("navigation", name="Screens")
                    .locator("visible=true")
                    .get_by_role("link", name=name)
                )
                box = door.bounding_box()
                assert box is not None
                self.assertGreaterEqual(min(box["height"], box["width"]), 56)
                self.assertGreater(box["y"], FIELD["height"] - 80)
                door.tap()
                page.wait_for_url(f"**{address}")
                expect(page.locator("nav:visible a[aria-current=page]")).to_have_text(name)

    def test_what_was_typed_survives_a_reload(self) -> None:
        """The words stand in the address; a reload finds the same; a tap opens the colony."""
        page = self.open("/find", view=FIELD)
        page.get_by_role("combobox").fill("d12")
        expect(page.get_by_role("option").first).to_contain_text("D12")
        page.wait_for_url("**/find?q=d12")
        page.reload()
        expect(page.get_by_role("combobox")).to_have_value("d12")
        page.get_by_role("option").first.tap()
        page.get_by_role("heading", name="D12").wait_for()
        page.go_back()
        expect(page.get_by_role("combobox")).to_have_value("d12")

    def test_a_long_or_odd_question_is_answered(self) -> None:
        """Signs of other languages, quotes, tags: found or not, never an error of the page."""
        page = self.open("/find", view=FIELD)
        for typed in ("'; --", "<b>K3</b>", "%", "Käthe"):
            with self.subTest(typed=typed):
                page.goto(f"/find?q={quote(typed)}")
                expect(page.get_by_role("status").filter(has_text="Nothing is called")).to_be_visible()
        self.expected = ("422",)
        page.goto(f"/find?q={quote('a b c d e f g h i j')}")
        page.get_by_role("status").filter(has_text="words").wait_for()

    def test_record_offers_what_is_done_at_an_apiary(self) -> None:
        """An apiary, then the act; the nearest comes first once the place is known."""
        page = self.open("/record", view=FIELD)
        self.context.grant_permissions(["geolocation"])
        mill = page.request.get(f"/api/v1/apiaries/{made_id('corrane', 'apiary', 'Dunnock Mill')}").json()["apiary"]
        self.context.set_geolocation({"latitude": mill["latitude"], "longitude": mill["longitude"]})
        page.get_by_role("button", name="Use my location").tap()
        page.get_by_text("The nearest comes first").wait_for()
        nearest = page.get_by_role("listitem").first
        expect(nearest).to_contain_text("Dunnock Mill")
        expect(nearest).to_contain_text("0.0 km")
        nearest.get_by_role("button").tap()
        page.get_by_role("heading", name="Dunnock Mill").wait_for()
        for act in ("Count a wash", "Put in or read a board", "Choose a treatment"):
            page.get_by_role("link", name=act).wait_for()
        page.get_by_role("link", name="Count a wash").tap()
        page.wait_for_url("**/bench?**")
        page.go_back()
        page.get_by_role("link", name="Another apiary").tap()
        page.get_by_role("heading", name="Record").wait_for()

    def test_without_a_place_the_work_due_comes_first(self) -> None:
        """A refused location is said, and the list stays as it was."""
        page = self.open("/record", view=FIELD)
        first = page.get_by_role("listitem").first.inner_text()
        page.get_by_role("button", name="Use my location").tap()
        page.get_by_role("alert").wait_for()
        self.assertEqual(page.get_by_role("listitem").first.inner_text(), first)

    def test_what_is_unsent_is_said_on_every_page(self) -> None:
        """Recorded without signal at a visit: the bar says how much waits, on other pages too, until it is sent."""
        page = self.open(f"/colonies/{made_id('corrane', 'Kettle Wood', 'K9')}", view=FIELD)
        self.expected = ("ERR_INTERNET_DISCONNECTED", "Failed to load resource")
        page.get_by_role("button", name="Start a visit").tap()
        page.wait_for_url("**/visits/**")
        page.get_by_role("tab", name="The colony").tap()
        page.get_by_role("slider", name="Temper").wait_for()
        self.context.set_offline(True)
        page.get_by_role("radio", name="only eggs").tap()
        waiting = page.get_by_role("banner").get_by_text("Not sent yet (1)")
        waiting.wait_for()
        page.get_by_role("link", name="Red Frame").tap()
        page.wait_for_url("**/")
        expect(waiting).to_be_visible()
        self.context.set_offline(False)
        expect(waiting).to_have_count(0)


class Help(BrowserTest):
    def test_a_term_opens_where_it_stands(self) -> None:
        """By key: its meaning, the section of its method note, Escape back to the word; from there the whole note."""
        page = self.open(f"/colonies/{made_id('corrane', 'Kettle Wood', 'K5')}")
        word = page.get_by_role("button", name="95 % interval").first
        word.focus()
        page.keyboard.press("Enter")
        said = page.get_by_role("dialog", name="95 % interval")
        said.get_by_text("The infestations that fit the count").wait_for()
        said.get_by_role("button", name="How it is worked out").click()
        said.get_by_text("Clopper and Pearson").wait_for()
        self.assertAccessible(page, "a term")
        page.keyboard.press("Escape")
        said.wait_for(state="detached")
        expect(word).to_be_focused()
        page.keyboard.press("Enter")
        said.get_by_role("button", name="How it is worked out").click()
        said.get_by_role("link", name="The whole note").click()
        page.wait_for_url("**/methods/counting#rate-and-interval")
        expect(page.get_by_role("heading", name="Rate and interval")).to_be_in_viewport()

    def test_the_glossary_is_found_and_searched(self) -> None:
        """Under the person; what is typed leaves the terms that have it; a note that is not there says so."""
        page = self.open("/")
        page.get_by_role("button", name="Bettrys Lund").click()
        page.get_by_role("menuitem", name="Glossary").click()
        page.get_by_role("heading", name="Glossary").wait_for()
        page.get_by_label("Find a term").fill("efficacy")
        expect(page.get_by_role("term")).to_have_count(1)
        page.goto("/methods/nothing")
        page.get_by_role("heading", name="Not found").wait_for()

    def test_a_list_keeps_its_place(self) -> None:
        """What the cursor opened and Back left stands under the cursor again: Return leads to the same place."""
        page = self.open("/counts")
        page.get_by_role("heading", name="Counts", exact=True).wait_for()
        for key in ("j", "j", "Enter"):
            page.keyboard.press(key)
        page.wait_for_url("**/bench?**")
        opened = page.url
        page.go_back()
        page.get_by_role("heading", name="Counts", exact=True).wait_for()
        page.keyboard.press("Enter")
        page.wait_for_url("**/bench?**")
        self.assertEqual(page.url, opened)
