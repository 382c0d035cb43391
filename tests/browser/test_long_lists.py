"""Lists of an association of hundreds: only what can be seen is drawn, and what is asked for is found."""

from __future__ import annotations

from typing import ClassVar

import psycopg
from bench.crowd import mentors
from bench.seed import seed
from playwright.sync_api import Page, expect

from redframe.demo.scenario import made_id
from tests.browser.pages import DESK, FIELD, BrowserTest

MOST_NODES = 3000
TO_KETTLE_WOOD = """
UPDATE colony SET apiary_id = %s, label = 'Y' || n
FROM (SELECT id, row_number() OVER (ORDER BY id) AS n FROM colony WHERE label LIKE 'X%%') x
WHERE x.id = colony.id AND n <= 400
"""


class LongLists(BrowserTest):
    """Seven hundred colonies: four hundred at one apiary, the others at as many more as fill two pages."""

    wood: ClassVar[str] = str(made_id("corrane", "apiary", "Kettle Wood"))

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        seed(cls.server.owner_url, 900)
        with psycopg.connect(cls.server.owner_url) as owner:
            owner.execute("SET session_replication_role = replica")
            owner.execute(TO_KETTLE_WOOD, [cls.wood])
            owner.execute("SELECT renew_colonies_now(ARRAY(SELECT id FROM colony WHERE is_living))")
            owner.execute("SELECT renew_apiaries_now(ARRAY(SELECT id FROM apiary))")
            owner.execute("INSERT INTO work_turned (association_id, apiary_id) SELECT association_id, id FROM apiary")

    def assertFewNodes(self, page: Page) -> None:
        self.assertLess(page.evaluate("document.querySelectorAll('*').length"), MOST_NODES)

    def test_today_goes_on_where_a_page_ends(self) -> None:
        """The next page comes as the keys near the end of the first; what is reached is in sight, and is found again
        after a reload."""
        page = self.open("/", view=DESK)
        rows = page.get_by_role("list", name="Apiaries, the one whose work must begin first on top")
        expect(rows.get_by_role("listitem").first).to_be_visible()
        for _ in range(200):
            page.keyboard.press("j")
            page.wait_for_timeout(30)
            if page.locator("#apiary-44:focus").count() > 0:
                break
        expect(page.locator("#apiary-44")).to_be_focused()
        expect(page.locator("#apiary-44")).to_be_in_viewport()
        name = page.locator("#apiary-44 span").first.inner_text()
        self.assertFewNodes(page)
        page.reload()
        expect(page.get_by_role("heading", name=f"{name}", exact=True)).to_be_visible()

    def test_people_come_as_they_are_scrolled_to(self) -> None:
        """Three hundred members: few are drawn, the last is reached, and anybody is found by a few letters."""
        mentors(self.server.owner_url, 300)
        page = self.open("/association", who="administrator@corrane.example", view=DESK)
        page.get_by_role("radio", name="People").click()
        region = page.get_by_role("region", name="Members")
        expect(region.get_by_role("listitem").first).to_be_visible()
        self.assertLess(region.get_by_role("listitem").count(), 60)
        for _ in range(40):
            page.mouse.wheel(0, 4000)
            page.wait_for_timeout(150)
            if region.get_by_text("crowd99@corrane.example").count() > 0:
                break
        expect(region.get_by_text("crowd99@corrane.example")).to_be_visible()
        self.assertFewNodes(page)
        page.get_by_role("searchbox", name="Show members called").fill("crowd217")
        expect(region.get_by_role("listitem")).to_have_count(1)
        page.get_by_role("searchbox", name="Show members called").fill("nobody at all")
        expect(region.get_by_text("Nobody here is called that.")).to_be_visible()

    def test_an_apiary_is_found_among_many(self) -> None:
        """By letters of its name, of its keeper, by its level; the map shows those that fit."""
        page = self.open("/apiaries", view=DESK)
        expect(page.get_by_role("link", name="Mell Fold")).to_be_visible()
        self.assertFewNodes(page)
        page.get_by_label("Show apiaries or keepers called").fill("keeper 2")
        expect(page.get_by_role("link", name="Mell Fold")).to_have_count(0)
        expect(page.get_by_role("link", name="Apiary Keeper 2 1")).to_be_visible()
        page.get_by_label("Show apiaries or keepers called").fill("tobias")
        expect(page.get_by_role("link", name="Kettle Wood")).to_be_visible()
        expect(page.locator("[data-mark]")).to_have_count(page.locator("tr[data-index]").count())
        page.get_by_label("Show apiaries or keepers called").fill("no such")
        expect(page.get_by_text("No apiary fits.")).to_be_visible()

    def test_four_hundred_colonies_at_one_apiary(self) -> None:
        """Strips and table draw what can be seen; the last is reached, and all can be selected."""
        for view in (DESK, FIELD):
            for shown in ("", "?view=table"):
                with self.subTest(view=view, shown=shown):
                    page = self.open(f"/apiaries/{self.wood}{shown}", view=view)
                    expect(page.locator("[data-index='0']")).to_be_visible()
                    self.assertFewNodes(page)
                    page.evaluate("window.scrollTo(0, document.documentElement.scrollHeight)")
                    expect(page.get_by_text("The apiary as a whole")).to_be_visible()
                    self.assertFewNodes(page)
        page = self.open(f"/apiaries/{self.wood}", view=DESK)
        page.get_by_role("button", name="Select all").click()
        expect(page.get_by_role("button", name="Count (409)")).to_be_visible()
