"""What a device may send again: every write with an id of its own is accepted once, whoever else writes meanwhile."""

from __future__ import annotations

import unittest
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from typing import Any
from uuid import UUID, uuid4

import httpx

from redframe.demo.scenario import made_id
from tests.api.test_roles import PICTURE
from tests.support import Server, living, owner_rows

APIARY = made_id("corrane", "apiary", "Plover Hay")
KEEPER = made_id("corrane", "keeper", "Aldith Marsh")
BOX = {"purpose": "brood", "frame_format": "A_deep", "frames": 10}
RECORDS = (
    "keeper", "apiary", "colony", "colony_event", "queen", "hive", "hive_box", "frame", "frame_move", "colony_hold", "visit",
    "visit_frame", "photo", "mite_count", "count_reading", "insert_board", "course", "course_step", "course_act", "count_week",
    "invitation", "audit", "colony_status", "board_picture",
)  # fmt: skip
"""Tables that a repeated write must leave as they are; the trail is one of them."""


class Repeats(unittest.TestCase):
    """One device, one colony, one day: each write is sent, sent again, and sent with another content under its id."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.server = Server()
        cls.addClassCleanup(cls.server.stop)
        cls.colonies = [number for number, _ in living(cls.server.owner_url, "Plover Hay")]

    def colony(self) -> str:
        """A colony of its own for a write, so that no other stands in its way."""
        return str(self.colonies.pop())

    def sizes(self) -> dict[str, int]:
        """How many rows each table has."""
        query = " UNION ALL ".join(f"SELECT '{table}', count(*) FROM {table}" for table in RECORDS)  # noqa: S608
        return {str(table): int(number) for table, number in owner_rows(self.server.owner_url, query)}

    def writes(self) -> list[tuple[str, dict[str, Any], dict[str, Any]]]:
        """Path, body, and what is changed of the body for another content under the same id."""
        moved, wash = self.colony(), {"method": "wash", "taken_at": "2031-08-02T10:00:00Z", "shakes": [4, 1], "bees_known_by": "counted", "bees": 300}  # fmt: skip
        return [
            ("/keepers", {"name": "Wren Halloran"}, {"name": "Robin Halloran"}),
            ("/apiaries", {"keeper_id": str(KEEPER), "name": "Moss End", "latitude": 44.2, "longitude": -31.4}, {"latitude": 44.3}),
            ("/colonies", {"apiary_id": str(APIARY), "label": "P77", "since": "2031-08-01", "boxes": [BOX]}, {"note": "from the swarm"}),
            (f"/colonies/{moved}/queens", {"year": 2031, "status": "mated", "since": "2031-08-01"}, {"mark_seen": "white"}),
            (f"/colonies/{moved}/visits", {"opened_at": "2031-08-02T10:00:00Z"}, {}),
            (f"/colonies/{moved}/past-visits", {"visited_on": "2031-07-30", "after": {"temper": 8}}, {"visited_on": "2031-07-29"}),
            (f"/colonies/{moved}/hold", {"kind": "other", "since": "2031-08-02", "why": "to be looked at"}, {"why": "something else"}),
            ("/counts", {**wash, "colony_id": self.colony()}, {"shakes": [9, 1]}),
            ("/counts", {"method": "look", "colony_id": self.colony(), "taken_at": "2031-08-02T10:00:00Z", "mites_seen": True}, {"mites_seen": False}),
            ("/boards", {"colony_id": self.colony(), "placed_at": "2031-08-02T08:00:00Z", "cleaned": "yes", "greased": "yes"}, {"greased": "no"}),
            ("/count-weeks", {"name": "Autumn", "first_on": "2031-10-01", "last_on": "2031-10-08"}, {"name": "Late"}),
            ("/invitations", {"email": "wren@corrane.example", "role": "mentor"}, {"role": "inspector"}),
        ]  # fmt: skip

    def test_sent_twice_is_recorded_once(self) -> None:
        """The second answer is as good as the first, and no table has a row more, not even the trail."""
        with closing(self.server.sign_in("administrator@corrane.example")) as client:
            for path, body, other in self.writes():
                with self.subTest(path=path):
                    sent = {"id": str(uuid4()), **body}
                    first = client.post(f"/api/v1{path}", json=sent)
                    self.assertIn(first.status_code, (200, 201, 204), first.text)
                    before = self.sizes()
                    for _ in range(2):
                        again = client.post(f"/api/v1{path}", json=sent)
                        self.assertEqual(again.status_code, first.status_code, again.text)
                    self.assertEqual(self.sizes(), before)
                    if other:
                        changed = client.post(f"/api/v1{path}", json={**sent, **other})
                        self.assertIn(changed.status_code, (409, 422), changed.text)
                        self.assertEqual(self.sizes(), before)

    def test_a_course_and_its_steps(self) -> None:
        """A plan sent again makes no second course; a step recorded again is that step; another act of it is refused
        with who did it."""
        colony = self.colony()
        with closing(self.server.sign_in()) as client:
            looked = {"id": str(uuid4()), "visited_on": "2031-08-02", "after": {"frames_of_bees": 9, "capped_brood": True, "eggs_seen": True, "queen": "seen", "supers_on": False, "feed": "none"}}  # fmt: skip
            client.post(f"/api/v1/colonies/{colony}/past-visits", json=looked).raise_for_status()
            course = str(uuid4())
            plan = {"id": str(uuid4()), "apiary_id": str(APIARY), "option_id": "DRONE_TRAP", "start_on": "2031-08-02", "courses": [{"id": course, "colony_id": colony, "overrides": []}]}  # fmt: skip
            first = client.post("/api/v1/plans", json=plan)
            held = first.json()[0]["held_by"]
            if held:
                overrides = [
                    {"rule": one["rule"], "authorised_by": "Idris Calloway", "reason": "to be tried"} for one in held
                ]
                plan["courses"][0]["overrides"] = overrides  # type: ignore[index]
                client.post("/api/v1/plans", json=plan).raise_for_status()
            before = self.sizes()
            self.assertEqual(client.post("/api/v1/plans", json=plan).status_code, 201)
            self.assertEqual(self.sizes(), before)
            self.assertEqual(
                owner_rows(self.server.owner_url, "SELECT count(*) FROM course WHERE id = %s", course), [(1,)]
            )
            act = {"id": str(uuid4()), "step": "prepare", "done_on": "2031-08-02"}
            done = client.post(f"/api/v1/courses/{course}/acts", json=act)
            self.assertEqual(done.status_code, 201, done.text)
            before = self.sizes()
            self.assertEqual(client.post(f"/api/v1/courses/{course}/acts", json=act).status_code, 201)
            other = client.post(f"/api/v1/courses/{course}/acts", json={**act, "id": str(uuid4())})
            self.assertEqual(other.status_code, 409)
            self.assertIn("Bettrys Lund", other.text)
            self.assertEqual(self.sizes(), before)

    def test_photos_and_pictures(self) -> None:
        """A picture is sent by its id: again it is the same picture; another under its id is refused."""
        colony = self.colony()
        with closing(self.server.sign_in()) as client:
            visit, photo = str(uuid4()), str(uuid4())
            client.post(f"/api/v1/colonies/{colony}/visits", json={"id": visit, "opened_at": "2031-08-02T10:00:00Z"}).raise_for_status()  # fmt: skip
            for _ in range(2):
                answer = client.put(f"/api/v1/visits/{visit}/photos/{photo}", content=PICTURE)
                self.assertEqual(answer.status_code, 200, answer.text)
            self.assertEqual(len(answer.json()), 1)

    def test_the_same_write_at_the_same_moment(self) -> None:
        """Eight requests of one device under one id, at once: one record, and no answer that says otherwise."""
        body = {"id": str(uuid4()), "method": "wash", "colony_id": self.colony(), "taken_at": "2031-08-02T11:00:00Z", "shakes": [3, 0], "bees_known_by": "counted", "bees": 300}  # fmt: skip

        def send(client: httpx.Client) -> int:
            return client.post("/api/v1/counts", json=body).status_code

        clients = [self.server.sign_in() for _ in range(4)]
        try:
            with ThreadPoolExecutor(8) as pool:
                codes = list(pool.map(send, clients * 2))
        finally:
            for client in clients:
                client.close()
        self.assertEqual(set(codes), {201})
        rows = owner_rows(self.server.owner_url, "SELECT count(*) FROM mite_count WHERE id = %s", body["id"])
        self.assertEqual(rows, [(1,)])


class TwoPeople(unittest.TestCase):
    """Who writes from a page that somebody else has changed meanwhile hears of it, and nothing is lost."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.server = Server()
        cls.addClassCleanup(cls.server.stop)
        url = cls.server.owner_url
        cls.colony = UUID(living(url, "Tarn Head")[0][0])
        cls.count = owner_rows(url, "SELECT id FROM mite_count WHERE colony_id = %s AND method = 'wash' LIMIT 1", cls.colony)[0][0]  # fmt: skip

    def test_the_second_of_two_hears_of_the_first(self) -> None:
        """Each amendment with the version that was read: the first passes, the second of the same version does not."""
        apiary = made_id("corrane", "apiary", "Tarn Head")
        wash = {"method": "wash", "colony_id": str(self.colony), "taken_at": "2031-06-01T10:00:00Z", "shakes": [4, 1], "bees_known_by": "counted", "bees": 300}  # fmt: skip
        label = owner_rows(self.server.owner_url, "SELECT label, state_since::text FROM colony WHERE id = %s", self.colony)[0]  # fmt: skip
        cases: tuple[tuple[str, str, dict[str, Any], dict[str, Any]], ...] = (
            ("apiary", f"/apiaries/{apiary}", {"name": "Tarn Head", "latitude": 44.2, "longitude": -31.4}, {"elevation_m": 99}),
            ("colony", f"/colonies/{self.colony}", {"label": label[0], "state": "alive", "state_since": label[1], "note": "calm"}, {"note": "gentle"}),
            ("mite_count", f"/counts/{self.count}", {**wash, "reason": "misread"}, {"shakes": [5, 1]}),
            ("apiary_policy", f"/apiaries/{apiary}/policy", {"scope": "single_colony", "reason": "as here"}, {"scope": "whole_apiary"}),
        )  # fmt: skip
        with closing(self.server.sign_in()) as one, closing(self.server.sign_in("inspector@corrane.example")) as other:
            for table, path, body, change in cases:
                with self.subTest(path=path):
                    version = self.version(table, path)
                    seen = {"If-Match": f'"{version}"'}
                    first = one.put(f"/api/v1{path}", json=body, headers=seen)
                    self.assertEqual(first.status_code, 200, first.text)
                    after = self.version(table, path)
                    self.assertEqual(after, version + 1)
                    second = other.put(f"/api/v1{path}", json={**body, **change}, headers=seen)
                    self.assertEqual(second.status_code, 409, second.text)
                    self.assertIn("meanwhile", second.json()["detail"])
                    self.assertEqual(self.version(table, path), after)
                    again = other.put(f"/api/v1{path}", json={**body, **change}, headers={"If-Match": f'"{after}"'})
                    self.assertEqual(again.status_code, 200, "with the version as it is now it passes: " + again.text)

    def version(self, table: str, path: str) -> int:
        """The version on record."""
        number = path.split("/")[2]
        query = {
            "apiary_policy": "SELECT coalesce(max(version), 0) FROM apiary_policy WHERE apiary_id = %s",
        }.get(table, f"SELECT version FROM {table} WHERE id = %s")  # noqa: S608
        return int(owner_rows(self.server.owner_url, query, number)[0][0])

    def test_a_write_without_a_version_is_asked_for_one(self) -> None:
        """An amendment that does not say what it was made from is refused before anything happens."""
        apiary = made_id("corrane", "apiary", "Tarn Head")
        with closing(self.server.sign_in()) as client:
            body = {"name": "Tarn Head", "latitude": 44.2, "longitude": -31.4}
            for headers in ({}, {"If-Match": "x"}, {"If-Match": "*"}):
                answer = client.put(f"/api/v1/apiaries/{apiary}", json=body, headers=headers)
                with self.subTest(headers=headers):
                    self.assertIn(answer.status_code, (400, 422, 428), answer.text)

    def test_two_people_at_one_visit(self) -> None:
        """Parts of a visit are saved by both; the same part from an old version is refused; a closed visit takes none."""
        with closing(self.server.sign_in()) as one, closing(self.server.sign_in("inspector@corrane.example")) as other:
            visit = str(uuid4())
            opened = {"id": visit, "opened_at": "2031-08-02T10:00:00Z"}
            one.post(f"/api/v1/colonies/{self.colony}/visits", json=opened).raise_for_status()
            before = one.put(f"/api/v1/visits/{visit}/before", json={"content": {"air_temp_c": 18.0}, "version": 0})
            self.assertEqual(before.status_code, 200, before.text)
            after = other.put(f"/api/v1/visits/{visit}/after", json={"content": {"temper": 8}, "version": 0})
            self.assertEqual(after.status_code, 200, after.text)
            stale = other.put(f"/api/v1/visits/{visit}/before", json={"content": {"air_temp_c": 9.0}, "version": 0})
            self.assertEqual(stale.status_code, 409, stale.text)
            self.assertEqual(one.get(f"/api/v1/visits/{visit}").json()["visit"]["before"]["air_temp_c"], 18.0)
            closing_ = other.post(f"/api/v1/visits/{visit}/close")
            self.assertEqual(closing_.status_code, 200, closing_.text)
            late = one.put(f"/api/v1/visits/{visit}/after", json={"content": {"temper": 3}, "version": 1})
            self.assertEqual(late.status_code, 409, late.text)
            self.assertEqual(one.get(f"/api/v1/visits/{visit}").json()["visit"]["after"]["temper"], 8)

    def test_two_people_record_one_step(self) -> None:
        """Both at once, each with an id of their own: one act, and the other hears who was first."""
        course = owner_rows(self.server.owner_url, "SELECT id FROM course WHERE state = 'under_way' AND association_id = %s ORDER BY id LIMIT 1", made_id("corrane"))[0][0]  # fmt: skip
        with closing(self.server.sign_in()) as client:
            steps = client.get(f"/api/v1/courses/{course}").json()["steps"]
        waiting = next(one["name"] for one in steps if one["act"] is None)

        def record(email: str) -> tuple[int, str]:
            with closing(self.server.sign_in(email)) as client:
                body = {"id": str(uuid4()), "step": waiting, "outcome": "skipped", "done_on": "2031-08-02", "note": "not needed"}  # fmt: skip
                answer = client.post(f"/api/v1/courses/{course}/acts", json=body)
                return answer.status_code, answer.text

        with ThreadPoolExecutor(2) as pool:
            answers = list(pool.map(record, ("mentor@corrane.example", "inspector@corrane.example")))
        recorded = owner_rows(self.server.owner_url, "SELECT count(*) FROM course_act WHERE course_id = %s AND step = %s", course, waiting)  # fmt: skip
        self.assertLessEqual(recorded[0][0], 1)
        self.assertNotIn(500, [code for code, _ in answers])
        if recorded[0][0] == 1:
            self.assertEqual(sorted(code for code, _ in answers), [201, 409])
