"""Where somebody is signed in and what happened to the account: seen by its owner alone, ended by its owner alone."""

from __future__ import annotations

import unittest
from contextlib import closing

import httpx
import psycopg

from redframe.demo.scenario import PASSWORD
from tests.support import Server

PHONE = "Mozilla/5.0 (Android 14; Mobile; rv:127.0) Gecko/127.0 Firefox/127.0"  # what such a device says of itself
MENTOR = "mentor@corrane.example"


class Sessions(unittest.TestCase):
    def setUp(self) -> None:
        self.server = Server()
        self.addCleanup(self.server.stop)

    def sign_in(self, agent: str, email: str = MENTOR) -> httpx.Client:
        """Somebody signed in on a device."""
        client = httpx.Client(base_url=self.server.url, headers={"User-Agent": agent}, timeout=30)
        answer = client.post("/api/v1/session", json={"email": email, "password": PASSWORD})
        client.headers["X-CSRF-Token"] = answer.json()["csrf_token"]
        self.addCleanup(client.close)
        return client

    def test_each_device_is_named_and_can_be_ended(self) -> None:
        """A phone that was lost is signed out from the desk; the desk goes on."""
        desk, phone = self.sign_in("something of its own"), self.sign_in(PHONE)
        listed = desk.get("/api/v1/sessions").json()
        self.assertEqual([one["is_this"] for one in listed], [False, True])
        self.assertEqual(listed[0]["device"], "Firefox Mobile on Android")
        self.assertEqual(phone.get("/api/v1/worklist").status_code, 200)
        self.assertEqual(desk.delete(f"/api/v1/sessions/{listed[0]['id']}").status_code, 204)
        self.assertEqual(phone.get("/api/v1/worklist").status_code, 401)
        self.assertEqual(phone.get("/api/v1/session").json()["person"], None)
        self.assertEqual(desk.get("/api/v1/worklist").status_code, 200)
        self.assertEqual(desk.delete(f"/api/v1/sessions/{listed[0]['id']}").status_code, 404)

    def test_nobody_elses(self) -> None:
        """Another's session is not listed and cannot be ended, by an administrator neither."""
        mine, other = self.sign_in(PHONE), self.sign_in("", "administrator@corrane.example")
        found = mine.get("/api/v1/sessions").json()[0]["id"]
        self.assertNotIn(found, {one["id"] for one in other.get("/api/v1/sessions").json()})
        self.assertEqual(other.delete(f"/api/v1/sessions/{found}").status_code, 404)
        self.assertEqual(mine.get("/api/v1/worklist").status_code, 200)
        self.assertNotIn("wrong_password", {one["kind"] for one in other.get("/api/v1/security-events").json()})

    def test_what_happened_is_written_down(self) -> None:
        """A wrong password, where and with what; signing in and out; a password changed."""
        wrong = {"email": MENTOR.upper(), "password": "not the password"}
        with closing(httpx.Client(base_url=self.server.url, headers={"User-Agent": PHONE})) as stranger:
            self.assertEqual(stranger.post("/api/v1/session", json=wrong).status_code, 401)
            unknown = {**wrong, "email": "nobody@corrane.example"}
            self.assertEqual(stranger.post("/api/v1/session", json=unknown).status_code, 401)
        self.sign_in(PHONE).delete("/api/v1/session").raise_for_status()
        desk = self.sign_in("")
        events = [(one["kind"], one["device"]) for one in desk.get("/api/v1/security-events").json()]
        phone = "Firefox Mobile on Android"
        self.assertEqual(
            events, [("signed_in", ""), ("signed_out", phone), ("signed_in", phone), ("wrong_password", phone)]
        )
        self.assertEqual(desk.get("/api/v1/security-events").json()[3]["origin"], "127.0.0.1")
        change = {"present": PASSWORD, "new": "three late skeps"}
        desk.put("/api/v1/person/password", json=change).raise_for_status()
        answer = desk.post("/api/v1/session", json={"email": MENTOR, "password": "three late skeps"})
        self.assertEqual(answer.status_code, 201)
        kinds = [one["kind"] for one in desk.get("/api/v1/security-events").json()]
        self.assertEqual(kinds[:2], ["signed_in", "signed_out_everywhere"])
        self.assertIn("password_changed", kinds)

    def test_a_session_that_nobody_uses_ends(self) -> None:
        """After eight days; one that is used has its last use written down, at most every few minutes."""
        used, left = self.sign_in(PHONE), self.sign_in("")
        with psycopg.connect(self.server.owner_url) as owner:
            owner.execute("UPDATE session SET seen_at = now() - interval '7 days' WHERE device <> ''")
            owner.execute("UPDATE session SET seen_at = now() - interval '193 hours' WHERE device = ''")
        self.assertEqual(left.get("/api/v1/worklist").status_code, 401)
        self.assertEqual(left.get("/api/v1/session").json()["person"], None)
        self.assertEqual(used.get("/api/v1/worklist").status_code, 200)
        with psycopg.connect(self.server.owner_url) as owner:
            found = owner.execute("SELECT now() - seen_at < '1 minute' FROM session WHERE device <> ''").fetchall()
        self.assertEqual(found, [(True,)])
        self.assertEqual(len(used.get("/api/v1/sessions").json()), 1)
