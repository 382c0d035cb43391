"""Kept answers: whatever is written, nobody is answered with what was so before, or with what is somebody else's."""

from __future__ import annotations

import asyncio
import unittest
from datetime import timedelta

import httpx
import psycopg

from redframe.api.kept import Shelf
from redframe.demo.scenario import DEMO_TODAY, made_id
from redframe.stand_ins.weather import StandInWeather
from redframe.store.session import Asking, Session
from redframe.work.unit_of_work import Services, UnitOfWork
from tests.support import FixedClock, Server, aside, demo_template, desk_pool, identity, new_database, owner_rows
from tests.support.chance import ChanceActs

PLACES = [made_id("corrane", "apiary", name) for name in ("Kettle Wood", "Tarn Head")]


class KeptAndMade(unittest.TestCase):
    """Two servers on one database: one keeps its answers, the other makes each of them."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.keeping = Server()
        cls.addClassCleanup(cls.keeping.stop)
        cls.making = Server(owner_url=cls.keeping.owner_url, kept_mb=0)
        cls.addClassCleanup(cls.making.stop)
        cls.url = cls.keeping.owner_url
        cls.clients = {
            who: (cls.keeping.sign_in(f"{who}@corrane.example"), cls.making.sign_in(f"{who}@corrane.example"))
            for who in ("mentor", "keeper")
        }
        cls.k3 = made_id("corrane", "Kettle Wood", "K3")
        found = [
            f"{kind}/{one}"
            for kind, query in (
                ("visits", "SELECT id FROM visit WHERE colony_id = %s ORDER BY visited_on DESC LIMIT 2"),
                ("courses", "SELECT id FROM course WHERE colony_id = %s ORDER BY start_on DESC LIMIT 1"),
            )
            for (one,) in owner_rows(cls.url, query, cls.k3)
        ]
        t1 = f"colonies/{made_id('corrane', 'Tarn Head', 'T1')}"
        cls.pages = {
            "mentor": [
                "worklist", "apiaries", *(f"apiaries/{one}" for one in PLACES), f"apiaries/{PLACES[0]}/round",
                f"colonies/{cls.k3}", f"colonies/{cls.k3}/forecast", t1, *found,
            ],
            "keeper": ["worklist", "apiaries", f"apiaries/{PLACES[1]}", t1],
        }  # fmt: skip

    def assertSame(self, after: str) -> list[str]:
        """What is kept is what is made, page by page; the pages."""
        pages = []
        for who, (keeping, making) in self.clients.items():
            for page in self.pages[who]:
                kept, made = keeping.get(f"/api/v1/{page}"), making.get(f"/api/v1/{page}")
                self.assertEqual(kept.status_code, made.status_code, f"{who} {page} {after}")
                self.assertTrue(kept.json() == made.json(), f"{who} {page} {after}")
                self.assertIn(made.status_code, (200, 404))
                pages.append(made.text)
        return pages


class AfterWrites(KeptAndMade):
    def test_after_what_others_write(self) -> None:
        """What comes to a page from elsewhere: names, queens, frames, what is so now, what was foretold."""
        statements = (
            "UPDATE person SET name = name || '.' WHERE email = 'mentor@corrane.example'",
            "UPDATE keeper SET name = name || '.'",
            "UPDATE apiary SET name = name || '.'",
            "UPDATE queen SET mark_seen = 'blue' WHERE colony_id = %(k3)s",
            "WITH why AS MATERIALIZED (SELECT set_config('redframe.reason', 'chance', true)) UPDATE visit_frame "
            """SET record = record || '{"note": "by chance"}' FROM why WHERE colony_id = %(k3)s""",
            "UPDATE hive_box SET frames = frames + 1",
            "UPDATE colony_now SET label = label || '.'",
            "UPDATE apiary_now SET urgent = urgent + 1",
            "UPDATE course_step SET latest = latest + 1",
            "UPDATE outlook SET median = median * 1.1 WHERE colony_id = %(k3)s",
            "DELETE FROM colony_status WHERE colony_id = %(k3)s",
        )
        before = self.assertSame("nothing")
        for statement in statements:
            with psycopg.connect(self.url) as owner:
                owner.execute(statement, {"k3": self.k3})
            after = self.assertSame(statement)
            self.assertTrue(after != before, statement)
            before = after

    def test_what_is_somebody_elses(self) -> None:
        """A keeper is not answered with what was made for staff, nor anybody whose session has ended."""
        keeping, page = self.clients["mentor"][0], f"/api/v1/apiaries/{PLACES[0]}"
        self.assertEqual(keeping.get(page).status_code, 200)
        self.assertEqual(self.clients["keeper"][0].get(page).status_code, 404)
        passing = self.keeping.sign_in()
        self.assertEqual(passing.get(page).status_code, 200)
        cookies = dict(passing.cookies)
        passing.delete("/api/v1/session").raise_for_status()
        self.assertEqual(httpx.get(f"{self.keeping.url}{page}", cookies=cookies).status_code, 401)
        self.assertEqual(httpx.get(f"{self.keeping.url}{page}").status_code, 401)

    def test_who_has_it_already_is_sent_nothing(self) -> None:
        """The tag of an answer holds until it says something else."""
        client, page = self.clients["mentor"][0], f"/api/v1/colonies/{made_id('corrane', 'Kettle Wood', 'K3')}"
        first = client.get(page)
        again = client.get(page, headers={"If-None-Match": first.headers["ETag"]})
        self.assertEqual((again.status_code, again.content), (304, b""))
        self.assertEqual(again.headers["ETag"], first.headers["ETag"])
        version = first.json()["colony"]["version"]
        renamed = {"label": "K3 renamed", "state": "alive", "state_since": DEMO_TODAY.isoformat(), "note": ""}
        client.put(page, json=renamed, headers={"If-Match": f'"{version}"'}).raise_for_status()
        then = client.get(page, headers={"If-None-Match": first.headers["ETag"]})
        self.assertEqual((then.status_code, then.json()["colony"]["label"]), (200, "K3 renamed"))

    def test_unpacked_for_who_cannot_unpack(self) -> None:
        """The same words, whether they are sent packed or not."""
        client = self.clients["mentor"][0]
        packed = client.get("/api/v1/apiaries")
        plain = client.get("/api/v1/apiaries", headers={"Accept-Encoding": "identity"})
        self.assertEqual((packed.headers["Content-Encoding"], plain.headers.get("Content-Encoding")), ("gzip", None))
        self.assertEqual(packed.content, plain.content)
        self.assertEqual(packed.headers["Cache-Control"], "no-store")


class AfterActs(KeptAndMade):
    def test_after_acts_at_random(self) -> None:
        """Acts of every kind at two apiaries, and after each the pages of them."""
        chance = ChanceActs(self.url, 20310803, PLACES)
        self.assertSame("nothing")
        for number in range(10):
            self.assertSame(f"{number}: {chance.act(days_turn=False)}")


class OnTheShelf(unittest.TestCase):
    def setUp(self) -> None:
        self.url = new_database(demo_template())
        self.services = Services(desk_pool(self.url), StandInWeather(), FixedClock())
        who = identity()
        session = Session(
            who.person_id,
            who.membership_id,
            who.association_id,
            who.role,
            who.keeper_id,
            "token",
            who.timezone,
            False,
        )
        self.asking = Asking(session, "work", 0)
        self.made = 0

    async def make(self, _: UnitOfWork) -> dict[str, str]:
        self.made += 1
        await asyncio.sleep(0.2)
        return {"said": "x" * 5000}

    def test_many_who_ask_at_once_wait_for_one_answer(self) -> None:
        """Sixteen ask for the same and it is made once; another page is made apart."""
        shelf = Shelf(2**20)

        async def all_ask() -> None:
            await asyncio.gather(
                *(shelf.answer(("a",), self.asking, self.services, self.make) for _ in range(16)),
                shelf.answer(("b",), self.asking, self.services, self.make),
            )

        aside(all_ask())
        self.assertEqual(self.made, 2)

    def test_a_minute_turns(self) -> None:
        """What follows the clock is never older than that."""
        shelf, clock = Shelf(2**20), FixedClock()
        services = Services(desk_pool(self.url), StandInWeather(), clock)
        for _ in range(2):
            aside(shelf.answer(("a",), self.asking, services, self.make))
        self.assertEqual(self.made, 1)
        clock.moment += timedelta(minutes=1)
        aside(shelf.answer(("a",), self.asking, services, self.make))
        self.assertEqual(self.made, 2)

    def test_room_is_limited(self) -> None:
        """The answer that was not asked for longest leaves first."""
        size = len(aside(Shelf(2**20).answer(("a",), self.asking, self.services, self.make)).packed)
        shelf = Shelf(2 * size)
        self.made = 0
        for key in ("a", "b", "a", "c", "a", "b"):
            aside(shelf.answer((key,), self.asking, self.services, self.make))
        self.assertEqual(self.made, 4)
