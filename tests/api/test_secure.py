"""What an installation behind TLS does more: its cookie, its headers, the names it answers to."""

from __future__ import annotations

import unittest
from dataclasses import replace

from fastapi.testclient import TestClient

from redframe.api.app import build
from redframe.api.settings import Settings
from redframe.demo.scenario import DEMO_TODAY, PASSWORD
from redframe.launch.front_end import build as build_front_end
from redframe.store.roles import application_url
from tests.support import demo_template, new_database

ENTRY = {"email": "mentor@corrane.example", "password": PASSWORD}


class Secure(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.settings = Settings(
            database_url=application_url(new_database(demo_template())), web=build_front_end(), demo_today=DEMO_TODAY,
            fast_passwords=True, secure=True, hosts=("corrane.example",),
        )  # fmt: skip

    def test_the_cookie_is_this_hosts_alone(self) -> None:
        """No other host or path can set it, and it goes over TLS only; it is forgotten with what the browser kept."""
        with TestClient(build(self.settings), base_url="https://corrane.example") as client:
            answer = client.post("/api/v1/session", json=ENTRY)
            cookie = answer.headers["Set-Cookie"]
            self.assertTrue(cookie.startswith("__Host-redframe_session="), cookie)
            for said in ("Secure", "HttpOnly", "SameSite=strict", "Path=/"):
                self.assertIn(said.lower(), cookie.lower())
            self.assertNotIn("domain", cookie.lower())
            self.assertEqual(client.get("/api/v1/worklist").status_code, 200)
            left = client.delete("/api/v1/session", headers={"X-CSRF-Token": answer.json()["csrf_token"]})
            self.assertEqual((left.status_code, left.headers["Clear-Site-Data"]), (204, '"cache"'))
            self.assertEqual(client.get("/api/v1/worklist").status_code, 401)

    def test_a_cookie_of_the_open_name_is_none(self) -> None:
        """One that another host has set under the plain name opens nothing."""
        with TestClient(build(self.settings), base_url="https://corrane.example") as client:
            client.post("/api/v1/session", json=ENTRY)
            token = client.cookies["__Host-redframe_session"]
            client.cookies.clear()
            answer = client.get("/api/v1/worklist", headers={"Cookie": f"redframe_session={token}"})
            self.assertEqual(answer.status_code, 401)

    def test_tls_from_then_on(self) -> None:
        """Said on every answer under TLS, and on none without it."""
        with TestClient(build(self.settings), base_url="https://corrane.example") as client:
            self.assertIn("max-age=", client.get("/").headers["Strict-Transport-Security"])
        with TestClient(build(replace(self.settings, secure=False)), base_url="http://corrane.example") as client:
            self.assertNotIn("Strict-Transport-Security", client.get("/").headers)

    def test_names_that_it_answers_to(self) -> None:
        """Its own, and the loopback address that the launcher asks; where none is given, any."""
        for host, status in (("corrane.example", 200), ("127.0.0.1", 200), ("elsewhere.example", 400)):
            with TestClient(build(self.settings), base_url=f"https://{host}") as client:
                self.assertEqual(client.get("/api/v1/session").status_code, status, host)
        with TestClient(build(replace(self.settings, hosts=())), base_url="https://elsewhere.example") as client:
            self.assertEqual(client.get("/api/v1/session").status_code, 200)
