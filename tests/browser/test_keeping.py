"""Keeping the association and its colonies by hand: policy, people, moves, boxes, amendments, rules set aside."""

from __future__ import annotations

from uuid import uuid4

from playwright.sync_api import Page, expect

from redframe.demo.scenario import made_id
from tests.browser.pages import FIELD, BrowserTest
from tests.support import living, owner_rows

ADMINISTRATOR = "administrator@corrane.example"


class Association(BrowserTest):
    def test_a_policy_is_seen_before_it_is_put_in_force(self) -> None:
        """Flat 3 as counted: the table says how many would change; put in force, the apiary is judged by it."""
        page = self.open("/association", who=ADMINISTRATOR)
        page.get_by_role("radio", name="Flat 3").click()
        page.get_by_role("radio", name="as counted", exact=True).click()
        page.get_by_role("heading", name="What it would change").wait_for()
        page.get_by_role("button", name="Put version 2 in force").click()
        page.get_by_text("Version 2 is in force").wait_for()
        page.goto(f"/apiaries/{made_id('corrane', 'apiary', 'Kettle Wood')}")
        page.get_by_text("Judged flat 3 in 100").wait_for()

    def test_a_calendar_out_of_order_is_refused_where_it_stands(self) -> None:
        """Decline before peak: said under the calendar, the button waits, and what was entered stays."""
        page = self.open("/association", who=ADMINISTRATOR)
        self.expected = ("422",)
        page.get_by_label("Decline begins: month").select_option("April")
        page.get_by_text("phases must follow one another").wait_for()
        expect(page.get_by_role("button", name="in force")).to_be_disabled()
        self.assertEqual(page.get_by_label("Decline begins: month").input_value(), "04")
        page.get_by_role("button", name="Leave it as it was").click()
        self.assertEqual(page.get_by_label("Decline begins: month").input_value(), "07")

    def test_a_mentor_reads_the_policy_and_changes_nothing(self) -> None:
        """The year is drawn, nothing can be pressed, people are not listed."""
        page = self.open("/association")
        page.get_by_role("img", name="Levels through the year").wait_for()
        self.assertEqual(page.get_by_role("radio", name="People").count(), 0)
        expect(page.get_by_role("radio", name="Flat 2")).to_be_disabled()

    def test_from_an_invitation_to_the_first_look(self) -> None:
        """The administrator passes the link on; the invited keeper joins on a phone and sees two apiaries."""
        page = self.open("/association?view=people", who=ADMINISTRATOR)
        self.expected = ("422",)
        page.get_by_role("button", name="Invite somebody").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("E-mail").fill("mentor@corrane.example")
        dialog.get_by_role("button", name="Make the invitation").click()
        dialog.get_by_text("belongs to a member already").wait_for()
        dialog.get_by_label("E-mail").fill("fenwick@corrane.example")
        dialog.get_by_label("Role").select_option("keeper")
        dialog.get_by_label("Keeps the apiaries of").select_option(label="Orla Fenwick")
        dialog.get_by_role("button", name="Make the invitation").click()
        dialog.wait_for(state="detached")
        link = page.get_by_role("textbox", name="Link").input_value()
        guest = self.open(link, who=None, view=FIELD)
        guest.get_by_role("heading", name="invites you").wait_for()
        self.assertAccessible(guest, "joining")
        guest.get_by_label("Your name").fill("O. Fenwick")
        guest.get_by_label("Password").fill("under-the-heather")
        guest.get_by_role("button", name="Join", exact=True).click()
        guest.wait_for_url("**/")
        guest.goto("/apiaries")
        for name in ("Tarn Head", "Skerrow Bank"):
            guest.get_by_role("link", name=name).first.wait_for()
        self.assertEqual(guest.get_by_role("link", name="Kettle Wood").count(), 0)
        again = self.open(link, who=None)
        self.expected = ("404",)
        again.get_by_role("heading", name="This invitation does not hold").wait_for()

    def test_the_last_administrator_cannot_leave(self) -> None:
        """The reason stands in the dialog; the door stays open."""
        page = self.open("/association?view=people", who=ADMINISTRATOR)
        self.expected = ("409",)
        page.get_by_role("button", name="Change Sunniva Hale").click()
        page.get_by_role("button", name="End the membership").click()
        page.get_by_text("somebody must stay administrator").wait_for()
        page.reload()
        page.get_by_text("Sunniva Hale").first.wait_for()


class Colonies(BrowserTest):
    def colony(self, apiary: str, number: int) -> str:
        """The address of a living colony."""
        return f"/colonies/{living(self.server.owner_url, apiary)[number][0]}"

    def dialog(self, page: Page, button: str) -> None:
        """Open a dialog of the colony's page."""
        page.get_by_role("tab", name="Queen, hive, lineage").click()
        page.get_by_role("button", name=button).first.click()
        page.get_by_role("dialog").wait_for()

    def test_a_box_is_put_on_and_moved(self) -> None:
        """A super on top, moved below, recorded; the page shows both with their days."""
        page = self.open(self.colony("Plover Hay", 0))
        self.dialog(page, "Change the boxes")
        page.get_by_role("button", name="Put a box on top").click()
        page.get_by_label("Frames of box 2 from the floor", exact=True).select_option("A_shallow")
        page.get_by_label("Number of frames of box 2 from the floor").fill("9")
        page.get_by_role("button", name="Move up: box 1 from the floor").click()
        self.assertEqual(page.get_by_label("Purpose of box 1 from the floor").input_value(), "super")
        page.get_by_role("button", name="Move up: box 1 from the floor").click()
        page.get_by_role("button", name="Record the hive").click()
        page.get_by_role("dialog").wait_for(state="detached")
        page.get_by_text("super, 9 x shallow frame, 448 x 137 mm").wait_for()
        page.get_by_text("since 2 Aug").wait_for()

    def test_a_colony_is_moved_and_its_lineage_tells(self) -> None:
        """A taken label is refused at its field; with another one it goes; the lineage names both places."""
        page = self.open(self.colony("Plover Hay", 1), view=FIELD)
        self.expected = ("422",)
        taken = living(self.server.owner_url, "Cairn Yard")[0][1]
        self.dialog(page, "Move it")
        page.get_by_label("To", exact=True).select_option(label="Cairn Yard, " + self.keeper("Cairn Yard"))
        page.get_by_label("Label there").fill(taken)
        page.get_by_role("dialog").get_by_role("button", name="Move ").last.click()
        page.get_by_text("another living colony here").wait_for()
        page.get_by_label("Label there").fill(f"M{uuid4().hex[:3]}")
        page.get_by_role("dialog").get_by_role("button", name="Move ").last.click()
        page.get_by_role("dialog").wait_for(state="detached")
        page.get_by_text("moved from Plover Hay to Cairn Yard").wait_for()

    def keeper(self, apiary: str) -> str:
        """The keeper of an apiary."""
        query = "SELECT k.name FROM apiary a JOIN keeper k ON k.id = a.keeper_id WHERE a.id = %s"
        return str(owner_rows(self.server.owner_url, query, made_id("corrane", "apiary", apiary))[0][0])

    def test_two_people_change_one_apiary(self) -> None:
        """The second to record hears of it; what was typed is still there."""
        address = f"/apiaries/{made_id('corrane', 'apiary', 'Saltby Rise')}"
        first, second = self.open(address), self.open(address, who="inspector@corrane.example")
        self.expected = ("409",)
        for page in (first, second):
            page.get_by_role("button", name="Edit apiary").click()
            page.get_by_role("dialog").get_by_label("Access").fill("the gate code is with the shop")
        second.get_by_label("Access").fill("through the upper field")
        first.get_by_role("button", name="Record the change").click()
        first.get_by_role("dialog").wait_for(state="detached")
        first.get_by_text("the gate code is with the shop").wait_for()
        second.get_by_role("button", name="Record the change").click()
        second.get_by_role("alert").wait_for()
        self.assertEqual(second.get_by_label("Access").input_value(), "through the upper field")

    def test_a_queen_is_replaced_and_her_mark_is_read(self) -> None:
        """A new queen with the wrong colour for her year: the page says what it would be."""
        page = self.open(self.colony("Plover Hay", 2))
        self.dialog(page, "Change")
        page.get_by_role("radio", name="a new queen").click()
        page.get_by_label("Year").fill("2031")
        page.get_by_label("Mark seen").select_option("green")
        page.get_by_role("button", name="Record the queen").click()
        page.get_by_role("dialog").wait_for(state="detached")
        page.get_by_text("a queen of 2031 would be white").wait_for()

    def test_a_merger_asks_into_what(self) -> None:
        """The button waits for the partner; the record ends and stays readable."""
        page = self.open(self.colony("Plover Hay", 3))
        self.dialog(page, "Renumber, merge or end")
        page.get_by_role("radio", name="merged").click()
        button = page.get_by_role("button", name="Merge the colony")
        expect(button).to_be_disabled()
        page.get_by_label("Merged into").select_option(index=1)
        self.expected = ("422",)
        button.click()
        page.get_by_role("alert").first.wait_for()
        page.get_by_role("radio", name="of the colony that receives it").click()
        page.get_by_role("radio", name="into store").click()
        button.click()
        page.get_by_role("dialog").wait_for(state="detached")
        page.get_by_text("merged 2 August 2031").wait_for()
        page.get_by_text("merged into").first.wait_for()
        self.assertEqual(page.get_by_role("button", name="Count", exact=True).count(), 0)


class Courses(BrowserTest):
    def course(self) -> str:
        """The address of a course under way."""
        query = "SELECT id FROM course WHERE colony_id = %s AND state = 'under_way'"
        return f"/courses/{owner_rows(self.server.owner_url, query, made_id('corrane', 'Kettle Wood', 'K3'))[0][0]}"

    def test_a_step_is_amended_with_its_reason(self) -> None:
        """Without a reason it is refused at its field; with one the step says that it was amended."""
        page = self.open(self.course())
        self.expected = ("422",)
        page.get_by_role("button", name="Amend: Place").first.click()
        page.get_by_role("dialog").get_by_label("Taken from").select_option(label="another pack, not in stock")
        page.get_by_role("dialog").get_by_label("Lot on the pack").fill("C-2231")
        page.get_by_role("button", name="Amend the step").click()
        page.get_by_role("dialog").get_by_role("alert").first.wait_for()
        page.get_by_role("dialog").get_by_label("Why").fill("lot was misread")
        page.get_by_role("button", name="Amend the step").click()
        page.get_by_role("dialog").wait_for(state="detached")
        page.get_by_text("lot C-2231").wait_for()
        page.get_by_text("amended.").first.wait_for()

    def test_abandoning_names_what_it_touches(self) -> None:
        """It asks why at its field and then says so on top."""
        page = self.open(self.course())
        self.expected = ("422",)
        page.get_by_role("button", name="Abandon the course").click()
        page.get_by_role("button", name="Abandon the course of K3").click()
        page.get_by_text("say why the course is abandoned").wait_for()
        page.get_by_role("dialog").get_by_label("Why").fill("queen lost, united on Sunday")
        page.get_by_role("button", name="Abandon the course of K3").click()
        page.get_by_text("Abandoned: queen lost, united on Sunday").wait_for()

    def test_a_rule_is_set_aside_by_somebody_named(self) -> None:
        """Supers on: not now; overridden, with who and why, and the course keeps both."""
        colony, label = living(self.server.owner_url, "Skerrow Bank")[0]
        page = self.open(f"/colonies/{colony}")
        page.keyboard.press("v")
        page.get_by_role("tab", name="The colony").click()
        page.get_by_text("More: another day").click()
        page.get_by_role("radiogroup", name="Supers on").get_by_role("radio", name="yes").click()
        page.get_by_text("All changes saved").wait_for()
        page.get_by_role("button", name=f"Close the visit to {label}").click()
        page.get_by_role("button", name="Amend this visit").wait_for()
        shore = made_id("corrane", "apiary", "Skerrow Bank")
        page.goto(f'/treat?apiary={shore}&colonies=["{colony}"]&option=THY_GEL')
        page.get_by_role("heading", name="Thymol gel trays").wait_for()
        page.get_by_text("take honey supers off first").first.wait_for()
        page.get_by_role("button", name=f"Override for {label}").click()
        plan = page.get_by_role("button", name="Plan 1 colony for")
        expect(plan).to_be_disabled()
        page.get_by_label("Who takes it on").fill("Idris Calloway")
        page.get_by_label("Why").fill("supers are empty and not for people")
        plan.click()
        page.get_by_role("heading", name="Steps and their dates").wait_for()
        page.get_by_text("Why this treatment was chosen").click()
        page.get_by_text("by Idris Calloway: supers are empty and not for people").first.wait_for()

    def test_one_of_two_is_refused_and_said(self) -> None:
        """Two colonies step by step together: what the server refuses of the second is said while the first goes on,
        and its own page still asks for it."""
        (first, one), (second, other) = living(self.server.owner_url, "Skerrow Bank")[1:3]
        shore = made_id("corrane", "apiary", "Skerrow Bank")
        page = self.open(f'/treat?apiary={shore}&colonies=["{first}","{second}"]&option=FA_STRIP2')
        self.expected = ("409",)
        page.get_by_role("button", name="Plan 2 colonies for").click()
        page.get_by_role("heading", name="Prepare").wait_for()
        page.get_by_role("button", name="Record it for 2 colonies").click()
        page.get_by_role("heading", name="Supers and feeder off").wait_for()
        query = "SELECT id FROM course WHERE colony_id = %s AND state = 'planned'"
        held = owner_rows(self.server.owner_url, query, second)[0][0]
        refusal = (
            '{"title": "Refused", "status": 409, "detail": "disease hold until the inspector has been", "rule": "T05"}'
        )
        page.route(f"**/api/v1/courses/{held}/acts", lambda route: route.fulfill(status=409, content_type="application/problem+json", body=refusal))  # fmt: skip
        page.get_by_role("button", name="Record it for 2 colonies").click()
        page.get_by_text("disease hold until the inspector has been").wait_for()
        page.get_by_role("heading", name="Place the dose").wait_for()
        page.get_by_role("alert").get_by_role("link", name=other).click()
        page.get_by_role("heading", name="Supers and feeder off").wait_for()
        page.unroute(f"**/api/v1/courses/{held}/acts")
        page.get_by_role("button", name=f"Record it for {other}").click()
        page.get_by_role("heading", name="Place the dose").wait_for()
        page.get_by_label("Taken from").select_option(label="another pack, not in stock")
        page.get_by_label("Lot on the pack").fill("")
        page.get_by_role("button", name="Record it for 2 colonies").click()
        page.get_by_text("The register asks for the lot").wait_for()
        page.get_by_label("Lot on the pack").fill("F-3107")
        page.get_by_role("button", name="Record it for 2 colonies").click()
        page.get_by_role("heading", name="Nothing to do today").wait_for()
        page.get_by_text("2 of 2 placed").wait_for()
        self.assertNotEqual(one, other)
