"""Views with nothing, one and four hundred rows, long names, errors: nothing runs over, nothing is blank, nothing crawls."""

from __future__ import annotations

import json
from datetime import date, timedelta
from uuid import UUID, uuid4

import psycopg
from playwright.sync_api import Page

from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.reading import read_jar
from redframe.demo.scenario import CORRANE, PASSWORD
from redframe.work.members.passwords import Argon2Hasher
from tests.browser.pages import DESK, FIELD, BrowserTest
from tests.support import Server, empty_template, new_database

LONG = "The Worshipful Company of Heather, Gorse and Upper Moorland Keepers of the Northern Skerries and Outlying Holms"
KEEPER = "Wilhelmina Featherstonehaugh-Abernethy of the Upper Moor"
EMAIL = "administrator@moor.example"


def founded() -> tuple[str, UUID]:
    """A database with one association, its administrator and nothing else; the owner's address and its id."""
    url, association, person = new_database(empty_template()), uuid4(), uuid4()
    with psycopg.connect(url) as owner:
        owner.execute("INSERT INTO association (id, name, timezone) VALUES (%s, %s, 'Etc/GMT+1')", [association, LONG])
        owner.execute("INSERT INTO policy (association_id, version, scheme, calendar) VALUES (%s, 1, 'season_phase', %s)", [association, json.dumps(CORRANE.calendar)])  # fmt: skip
        owner.execute("INSERT INTO person (id, email, name, password_hash) VALUES (%s, %s, %s, %s)", [person, EMAIL, KEEPER, Argon2Hasher(fast=True).hash(PASSWORD)])  # fmt: skip
        owner.execute("INSERT INTO membership (id, person_id, association_id, role) VALUES (%s, %s, %s, 'administrator')", [uuid4(), person, association])  # fmt: skip
    return url, association


def apiary(url: str, association: UUID, name: str, colonies: int) -> UUID:
    """An apiary with so many colonies, each counted a few times this summer."""
    keeper, place, today = uuid4(), uuid4(), date(2031, 8, 2)
    reading = read_jar(4, BeesInSample(300, 0.1), "wash_shakes")
    with psycopg.connect(url) as owner:
        owner.execute(
            "INSERT INTO keeper (id, association_id, name) VALUES (%s, %s, %s)", [keeper, association, KEEPER]
        )
        owner.execute(
            "INSERT INTO apiary (id, association_id, keeper_id, name, latitude, longitude, access_note) VALUES (%s, %s, %s, %s, 44.2, -31.4, %s)",
            [place, association, keeper, name, "Past the second gate; " * 12],
        )
        for number in range(colonies):
            colony, count = uuid4(), uuid4()
            day = today - timedelta(days=number % 20)
            owner.execute(
                "INSERT INTO colony (id, association_id, apiary_id, label, state_since) VALUES (%s, %s, %s, %s, '2031-05-01')",
                [colony, association, place, f"Heather-and-gorse-{number:03}"],
            )
            owner.execute(
                "INSERT INTO mite_count (id, association_id, colony_id, method, taken_at, taken_on, shakes, bees_known_by, bees, place_of_bees, brood_state, queen_safe) "
                "VALUES (%s, %s, %s, 'wash', %s, %s, '{4,0}', 'counted', 300, 'brood_frame', 'open_and_capped', 'yes')",
                [count, association, colony, f"{day} 11:00+00", day],
            )
            owner.execute(
                "INSERT INTO count_reading (count_id, association_id, colony_id, model, scale, mites, bees_mean, bees_cv, recovery, as_counted, median, low, high, upper80) "
                "VALUES (%s, %s, %s, 1, 'mites_per_100', 4, 300, 0.1, 'wash_shakes', 1.33, %s, %s, %s, %s)",
                [count, association, colony, reading.median, reading.low, reading.high, reading.upper80],
            )
            owner.execute(
                "INSERT INTO outlook (colony_id, association_id, count_id, counted_on, scale, mites, bees_mean, median, low, high, recount_on, policy_version) "
                "VALUES (%s, %s, %s, %s, 'mites_per_100', 4, 300, %s, %s, %s, %s, 1)",
                [colony, association, count, day, reading.median, reading.low, reading.high, day + timedelta(days=21)],
            )
            owner.execute(
                "INSERT INTO colony_status (colony_id, association_id, since, level, reason, phase, act_at, scheme) VALUES (%s, %s, %s, %s, 'count', 'pre_winter', 2, 'season_phase')",
                [colony, association, day, ("watch", "act", "clear", "urgent")[number % 4]],
            )
    return place


class Extremes(BrowserTest):
    server: Server

    @classmethod
    def setUpClass(cls) -> None:
        url, cls.association = founded()
        cls.server = Server(owner_url=url)
        cls.addClassCleanup(cls.server.stop)

    def fits(self, page: Page, name: str, *, examined: bool = True) -> None:
        """Accessible, and nothing runs over the side."""
        page.locator("h1").first.wait_for()
        page.wait_for_load_state("networkidle")
        if examined:
            self.assertAccessible(page, name)
        wide = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
        self.assertLessEqual(wide, 0, f"{name} scrolls sideways by {wide} px")

    def test_1_a_new_association_is_told_what_belongs_here(self) -> None:
        """Nothing yet: every view says what belongs there and offers the next act; the first apiary is a form away."""
        for view in (DESK, FIELD):
            page = self.open(who=EMAIL, view=view)
            for address in ("/", "/apiaries", "/bench", "/association", "/association?view=people"):
                with self.subTest(address=address, view=view["width"]):
                    page.goto(address)
                    self.fits(page, address, examined=view is FIELD)
        page = self.open("/apiaries", who=EMAIL)
        page.get_by_role("button", name="Add an apiary").first.click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Name", exact=True).fill("A" * 120)
        dialog.get_by_label("Keeper’s name").fill(KEEPER)
        dialog.get_by_role("button", name="Add the apiary").click()
        dialog.get_by_text("Enter degrees").first.wait_for()
        dialog.get_by_label("Latitude, °").fill("44.2")
        dialog.get_by_label("Longitude, °").fill("-31.4")
        dialog.get_by_role("button", name="Add the apiary").click()
        page.get_by_role("heading", name="A" * 120).wait_for()
        self.fits(page, "an apiary without colonies")
        page.get_by_role("button", name="Add a colony").first.click()
        page.get_by_label("Label").fill("W" * 24)
        page.get_by_role("button", name="Add the colony").click()
        page.get_by_role("dialog").wait_for(state="detached")
        self.fits(page, "an apiary with one colony")
        page.get_by_role("link", name="W" * 24).first.click()
        page.get_by_role("heading", name="W" * 24).wait_for()
        self.fits(page, "a colony of which nothing is known")

    def test_2_four_hundred_colonies_in_one_apiary(self) -> None:
        """Drawn, selected, tabled and benched at both sizes; how fast is measured by the bench."""
        place = apiary(self.server.owner_url, self.association, LONG[:100], 400)
        for view in (DESK, FIELD):
            page = self.open(who=EMAIL, view=view)
            page.goto(f"/apiaries/{place}")
            page.locator("[data-index='0']").wait_for()
            with self.subTest(view=view["width"]):
                self.fits(page, "four hundred strips", examined=False)
                if view is FIELD:
                    page.get_by_text("Order, select, add, print").click()
                page.get_by_role("button", name="Select all").click()
                page.get_by_text("(400)").first.wait_for()
                page.goto(f"/apiaries/{place}?view=table")
                self.fits(page, "four hundred rows", examined=False)
                for address in ("/", "/apiaries"):
                    page.goto(address)
                    self.fits(page, address, examined=False)

    def test_3_the_server_goes_away(self) -> None:
        """Words and a way on, never a blank page; back again, the same page is there."""
        page = self.open("/apiaries", who=EMAIL)
        self.expected = ("503", "Failed to load", "ERR_")
        page.route("**/api/v1/worklist", lambda route: route.fulfill(status=503, content_type="application/problem+json", body=json.dumps({"title": "Not available", "status": 503, "detail": "The database does not answer."})))  # fmt: skip
        page.get_by_role("link", name="Today").first.click()
        page.get_by_role("heading", name="No answer").wait_for(timeout=15_000)
        page.get_by_text("The database does not answer.").wait_for()
        self.assertAccessible(page, "no answer")
        page.unroute("**/api/v1/worklist")
        page.get_by_role("button", name="Try again").click()
        page.get_by_role("heading", name="Saturday 2 August").wait_for()
