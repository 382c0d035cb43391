"""Every screen at both sizes and in both themes: accessible, no console error, no sideways scrolling, large targets."""

from __future__ import annotations

from datetime import date
from urllib.parse import quote

from playwright.sync_api import Page

from redframe.demo.scenario import PASSWORD, made_id
from redframe.demo.stock import lot_id
from tests.browser.pages import DESK, FIELD, NARROW, RULES_OF_COLOUR, TABLET, BrowserTest
from tests.support import owner_rows

SMALL = """() => [...document.querySelectorAll('button:not([data-mark]):not([data-term]), a[href], input:not([aria-hidden]), select, textarea, summary')]
    .filter(e => !(e.tagName === 'A' && e.closest('p')) && !e.closest('.sr-only') && !e.classList.contains('sr-only'))
    .map(e => [e, (e.role === 'checkbox' || e.type === 'checkbox' ? e.closest('label') || e : e).getBoundingClientRect()])
    .filter(([e, box]) => box.width > 0 && (box.height < 56 || box.width < 56))
    .map(([e, box]) => `${e.tagName} ${(e.innerText || e.ariaLabel || e.name).slice(0, 30)} ${box.width | 0}x${box.height | 0}`)"""
"""What is tapped and under 56 px: buttons, boxes, fields and links that stand by themselves. Excepted are marks on the
map, each of which has its line below, and links inside a sentence."""
WIDER = "document.documentElement.scrollWidth - document.documentElement.clientWidth"
"""By how many pixels the page is wider than its window."""


class Screens(BrowserTest):
    def addresses(self) -> dict[str, str]:
        """Each main view with something to show."""
        kettle = made_id("corrane", "apiary", "Kettle Wood")
        k8 = made_id("corrane", "Kettle Wood", "K8")
        k3 = made_id("corrane", "Kettle Wood", "K3")
        w1 = made_id("corrane", "Whin Moor", "W1")
        course = owner_rows(
            self.server.owner_url, "SELECT id FROM course WHERE colony_id = %s AND state = 'under_way'", k3
        )[0][0]
        verified = owner_rows(
            self.server.owner_url,
            "SELECT id FROM course WHERE colony_id = %s AND verdict IS NOT NULL ORDER BY start_on DESC",
            w1,
        )[0][0]
        failed = owner_rows(
            self.server.owner_url,
            "SELECT id FROM course WHERE colony_id = %s AND state = 'verified_failed'",
            made_id("corrane", "Lower Fenn", "L1"),
        )[0][0]
        suspect = owner_rows(self.server.owner_url, "SELECT id FROM disease_case WHERE state <> 'closed'")[0][0]
        of_hive = (
            "SELECT f.id FROM frame f JOIN hive_box b ON b.id = f.box_id JOIN colony c USING (hive_id) WHERE c.id = %s"
        )
        comb = owner_rows(self.server.owner_url, of_hive, k3)[0][0]
        queen = owner_rows(self.server.owner_url, "SELECT id FROM queen WHERE colony_id = %s", k3)[0][0]
        colonies = quote(f'["{k8}"]')
        return {
            "today": "/",
            "apiaries": "/apiaries",
            "apiary": f"/apiaries/{kettle}",
            "apiary as a table": f"/apiaries/{kettle}?view=table",
            "colony": f"/colonies/{k3}",
            "bench": f"/bench?apiary={kettle}",
            "choosing a bench": "/bench",
            "board on the bench": f"/bench?apiary={kettle}&method=board",
            "drone brood on the bench": f"/bench?apiary={kettle}&method=drone_brood",
            "colonies": "/colonies",
            "count weeks": "/count-weeks",
            "count week": f"/count-weeks/{made_id('count week', date(2031, 7, 25))}",
            "choosing a treatment": f"/treat?apiary={kettle}&colonies={colonies}",
            "choosing colonies to treat": f"/treat?apiary={kettle}",
            "earlier treatments": f"/earlier?apiary={kettle}&colonies={colonies}",
            "earlier treatment": f"/courses/{made_id('earlier', made_id('corrane', 'Saltby Rise', 'R1'))}",
            "course": f"/courses/{course}",
            "work at the hive": f"/courses/{made_id('hive work', made_id('corrane', 'Quarrel Lane', 'A2'), date(2031, 7, 12))}",
            "verdict": f"/courses/{verified}",
            "policy": "/association",
            "account": "/account",
            "find": "/find?q=k",
            "record": "/record",
            "record at an apiary": f"/record?apiary={kettle}",
            "counts": "/counts",
            "treatments": "/treatments",
            "stock": f"/stock?lot={lot_id('corrane', 'XC-40')}",
            "register": "/register?incomplete=true",
            "what works": "/what-works",
            "autumn": f"/autumn?apiary={made_id('corrane', 'apiary', 'Upper Fenn')}",
            "all autumns": "/autumn",
            "treatment round": f"/treatment-round?apiary={made_id('corrane', 'apiary', 'Hollin Croft')}",
            "honey taken": f"/honey?apiary={kettle}",
            "honey of a colony": f"/colonies/{made_id('corrane', 'Kettle Wood', 'K9')}?part=honey",
            "mixing bench": "/mixing",
            "why it failed": f"/courses/{failed}",
            "brood calendar": f"/colonies/{made_id('corrane', 'St Ossory', 'O3')}",
            "glossary": "/glossary",
            "method note": "/methods/thresholds",
            "cases": "/cases",
            "closed cases": "/cases?closed=true",
            "case": f"/cases/{suspect}",
            "where a colony has been": f"/colonies/{made_id('corrane', 'Saltby Rise', 'R2')}/where",
            "where a queen has been": f"/queens/{queen}",
            "where a comb has been": f"/combs/{comb}",
            "what handling did": "/handling",
            "dead colonies": "/deadouts",
            "a dead colony": f"/deadouts/{made_id('deadout', 'Cairn Yard', 'C3')}",
            "a step at a dead colony": f"/deadouts/{made_id('deadout', 'Cairn Yard', 'C3')}?step=combs",
            "combs of a dead colony": f"/colonies/{made_id('corrane', 'Mell Fold', 'M5')}/combs",
            "winters": "/winters",
            "pests of a colony": f"/colonies/{made_id('corrane', 'Mell Fold', 'M1')}?part=pests",
            "pests to look at again": "/pests",
            "combs in store": f"/stored-combs/{made_id('corrane', 'apiary', 'Orrin Quay')}",
            "not found": "/nowhere",
            "no such colony": f"/colonies/{course}",
        }  # fmt: skip

    def look(self, view: dict[str, int], *others: dict[str, int]) -> None:
        """Visit every screen and examine it, its colours as the evening shows them. At other sizes at which it is built
        the same, only what a size can break: it must not scroll sideways, nor show what is too small."""
        page = self.open(view=view)
        self.expected = ("404",)
        for name, address in self.addresses().items():
            page.set_viewport_size(view)  # type: ignore[arg-type]
            page.goto(address)
            page.wait_for_load_state("networkidle")
            page.locator("h1").first.wait_for()
            for size in (view, *others):
                with self.subTest(screen=name, width=size["width"]):
                    page.set_viewport_size(size)  # type: ignore[arg-type]
                    if size is view:
                        self.assertAccessible(page, name)
                        page.emulate_media(color_scheme="dark")
                        self.assertAccessible(page, f"{name} in the evening", rules=RULES_OF_COLOUR)
                        page.emulate_media(color_scheme="light")
                    self.assertFits(page, name)
                    if size["width"] < 900:
                        self.assertEqual(page.evaluate(SMALL), [], "too small for a glove")

    def assertFits(self, page: Page, name: str) -> None:
        """Nothing scrolls sideways once what measures itself has followed the size of the window."""
        for _ in range(50):
            wide = page.evaluate(WIDER)
            if wide <= 0:
                return
            page.wait_for_timeout(100)
        self.fail(f"{name} scrolls sideways by {wide} px")

    def test_at_the_desk(self) -> None:
        """1280 by 800, by day and in the evening."""
        self.look(DESK)

    def test_in_the_field(self) -> None:
        """390 by 844 by day and in the evening, 360 by 740, 820 by 1180."""
        self.look(FIELD, NARROW, TABLET)

    def test_large_and_enlarged(self) -> None:
        """1920 px wide, and 1280 px at 200 %, which is half of it: nothing scrolls sideways."""
        page = self.open(view=DESK)
        self.expected = ("404",)
        for name, address in self.addresses().items():
            page.goto(address)
            page.wait_for_load_state("networkidle")
            for size in ({"width": 1920, "height": 1080}, {"width": 640, "height": 400}):
                with self.subTest(screen=name, width=size["width"]):
                    page.set_viewport_size(size)  # type: ignore[arg-type]
                    self.assertFits(page, name)

    def test_the_administrators_screens(self) -> None:
        """Policy and people, where they can be changed, at both sizes, with a dialog open."""
        for view in (DESK, FIELD):
            page = self.open("/association", who="administrator@corrane.example", view=view)
            page.get_by_role("heading", name="How the counted colonies stand").wait_for()
            self.assertAccessible(page, "policy")
            page.get_by_role("radio", name="People").click()
            page.get_by_role("button", name="Invite somebody").click()
            page.get_by_role("dialog").get_by_label("E-mail").wait_for()
            self.assertAccessible(page, "inviting")
            wide = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
            self.assertLessEqual(wide, 0)

    def test_sign_in(self) -> None:
        """The door itself, with its error."""
        page = self.open("/sign-in", who=None, view=FIELD)
        self.expected = ("401",)
        self.assertAccessible(page, "sign-in")
        page.get_by_role("button", name="Sign in").click()
        page.get_by_text("Enter your e-mail address").wait_for()
        page.get_by_label("E-mail").fill("mentor@corrane.example")
        page.get_by_label("Password").fill("not this one")
        page.get_by_role("button", name="Sign in").click()
        page.get_by_text("do not belong together").wait_for()
        self.assertEqual(page.get_by_label("E-mail").input_value(), "mentor@corrane.example", "what was typed stays")
        self.assertAccessible(page, "sign-in with an error")
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("heading", name="Saturday 2 August").wait_for()

    def test_targets_are_large_in_the_field(self) -> None:
        """What is tapped with gloves on the bench is 56 px and more both ways, within reach above the foot."""
        kettle = made_id("corrane", "apiary", "Kettle Wood")
        page = self.open(f"/bench?apiary={kettle}", view=FIELD)
        for name in ("+ mite", "Undo mite", "Shake again", "next colony", "Record the wash", "Method and sample"):
            box = page.get_by_role("button", name=name).first.bounding_box()
            assert box is not None
            with self.subTest(target=name):
                self.assertGreaterEqual(box["height"], 56)
                self.assertGreaterEqual(box["width"], 56)
                self.assertLessEqual(box["y"] + box["height"], FIELD["height"])
