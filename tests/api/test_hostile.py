"""Requests that nobody sends by mistake: each is answered, none with a server error, all with the headers that guard."""

from __future__ import annotations

import asyncio
import unittest
from collections.abc import Iterator
from contextlib import closing
from datetime import date
from typing import Any
from unittest.mock import patch
from uuid import uuid4

import httpx
from fastapi import HTTPException

from redframe.api import bodies
from redframe.demo.scenario import made_id
from redframe.work.planning import read as planning_read
from tests.support import Server, aside

APIARY, COLONY = made_id("corrane", "apiary", "Kettle Wood"), made_id("corrane", "Kettle Wood", "K3")
WEEK = made_id("count week", date(2031, 7, 25))
LONG = "x" * 140_000


class Hostile(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.server = Server()
        cls.addClassCleanup(cls.server.stop)

    def asked(self, client: httpx.Client, method: str, path: str, **sent: Any) -> httpx.Response:
        answer = client.request(method, path, **sent)
        self.assertLess(answer.status_code, 500, f"{method} {path[:80]} {str(sent)[:120]}: {answer.text[:200]}")
        self.assertIn("default-src 'none'", answer.headers["Content-Security-Policy"])
        return answer

    def test_addresses(self) -> None:
        """With a sign that no file has, far too long, out of the folder, with a query that is none."""
        with closing(self.server.sign_in()) as client:
            for path in (
                "/%00", "/assets/%00.js", "/" + "a" * 600, "/" + "a" * 600 + ".js", "/..%2f..%2fetc%2fpasswd", "/%ff%fe",
                "/api/v1/%00", f"/api/v1/colonies/{COLONY}%00", "/api/v1/search?q=%00", "/api/v1/search?q=%ff",
                "/api/v1/photos/" + "a" * 600, f"/api/v1/boards?colony={'a' * 600}",
                f"/api/v1/colonies/{COLONY}/changes/{'9' * 20}",
            ):  # fmt: skip
                with self.subTest(path=path[:60]):
                    self.asked(client, "GET", path)
            self.asked(client, "DELETE", f"/api/v1/colonies/{COLONY}/changes/{'9' * 20}")
            self.assertEqual(client.head("/").status_code, 200)

    def test_texts_with_signs_that_cannot_be_kept(self) -> None:
        """A zero byte, half of a pair of signs, in reasons, names and notes."""
        with closing(self.server.sign_in("administrator@corrane.example")) as client:
            for text in ("a\x00b", "\ud800"):
                for method, path, body in (
                    ("POST", f"/colonies/{COLONY}/hold", {"id": str(uuid4()), "since": "2031-08-01", "why": f"why {text}"}),
                    ("POST", f"/colonies/{COLONY}/hold/lift", {"why": f"why {text}"}),
                    ("PUT", f"/apiaries/{APIARY}/policy", {"scope": "single_colony", "reason": f"as {text}"}),
                    ("POST", "/keepers", {"id": str(uuid4()), "name": f"Wren {text}"}),
                    ("PUT", "/person", {"name": text}),
                    ("POST", "/frame-lines", {"text": text}),
                    ("POST", "/session", {"email": f"a{text}@corrane.example", "password": text}),
                    ("POST", f"/colonies/{COLONY}/past-visits", {"id": str(uuid4()), "visited_on": "2031-08-01", "after": {"note": text}}),
                ):  # fmt: skip
                    with self.subTest(path=path, text=ascii(text)):
                        content = str(body).replace("'", '"').encode("utf-8", "surrogatepass")
                        raw = content.replace(b"\\x00", b"\\u0000").replace(b"\\ud800", b"\\ud800")
                        headers = {"Content-Type": "application/json", "If-Match": '"0"'}
                        self.asked(client, method, f"/api/v1{path}", content=raw, headers=headers)

    def test_figures_and_days_at_the_ends(self) -> None:
        """Moments at the ends of time, the smallest figure there is, a school without a name."""
        with closing(self.server.sign_in("administrator@corrane.example")) as client:
            version = client.get("/api/v1/policy").json()["version"]
            wash = {"method": "wash", "colony_id": str(COLONY), "shakes": [4], "bees_known_by": "counted", "bees": 300}
            for moment in ("0001-01-01T00:00:00+14:00", "9999-12-31T23:59:59-12:00", "9999-12-31T23:59:59Z"):
                with self.subTest(moment=moment):
                    self.asked(client, "POST", "/api/v1/counts", json={"id": str(uuid4()), "taken_at": moment, **wash})
                    self.asked(
                        client,
                        "POST",
                        f"/api/v1/colonies/{COLONY}/visits",
                        json={"id": str(uuid4()), "opened_at": moment},
                    )
                    self.asked(client, "POST", "/api/v1/boards", json={
                        "id": str(uuid4()), "colony_id": str(COLONY), "placed_at": moment, "cleaned": "yes", "greased": "yes"})  # fmt: skip
            for day in ("0001-01-01", "9999-12-31"):
                self.asked(
                    client,
                    "POST",
                    f"/api/v1/colonies/{COLONY}/past-visits",
                    json={"id": str(uuid4()), "visited_on": day, "after": {}},
                )
                self.asked(
                    client,
                    "POST",
                    "/api/v1/count-weeks",
                    json={"id": str(uuid4()), "name": "x", "first_on": day, "last_on": day},
                )
            ruler = {
                "apiary_id": str(APIARY),
                "method": "board",
                "place_of_bees": "brood_frame",
                "mites_from": 0,
                "mites_to": 30,
            }
            self.asked(client, "POST", "/api/v1/counts/ruler", content=str({**ruler, "board_days": 5e-324}).replace("'", '"'),
                       headers={"Content-Type": "application/json"})  # fmt: skip
            for scheme in ("", " ", "\u202e"):
                draft = {"scheme": scheme, "calendar": {"peak": "05-15"}}
                self.asked(client, "POST", "/api/v1/policy/preview", json=draft)
                self.asked(client, "PUT", "/api/v1/policy", json=draft, headers={"If-Match": f'"{version}"'})

    def test_tables(self) -> None:
        """Figures that are none, a field without an end, bytes that are no text."""
        with closing(self.server.sign_in()) as client:
            for path, head, line in (
                ("/api/v1/apiaries/import", "apiary,keeper,latitude,longitude,height", "Moss End,Wren,{0},{0},{0}"),
                (
                    f"/api/v1/count-weeks/{WEEK}/import",
                    "apiary,colony,date,mites,bees,ml",
                    "Kettle Wood,K3,2031-08-01,{0},{0},",
                ),
            ):
                for figure in ("nan", "inf", "-inf", "1e999", "5e-324", LONG, '"' + LONG, "\x00", "\u202e1"):
                    with self.subTest(path=path, figure=figure[:8]):
                        content = f"{head}\n{line.format(figure)}\n".encode()
                        answer = self.asked(client, "POST", path, content=content, headers={"Content-Type": "text/csv"})
                        self.assertLess(len(answer.content), 20_000)
                for content in (b"\xff\xfe\x00", f"{LONG}\n".encode(), b"\n" * 10_000):
                    self.asked(client, "POST", path, content=content, headers={"Content-Type": "text/csv"})

    def test_bodies_without_an_end(self) -> None:
        """Longer than their kind may be, with and without their length said; a picture may be longer than a record."""

        def endless() -> Iterator[bytes]:
            for _ in range(40):
                yield b" " * 400_000

        with closing(self.server.sign_in()) as client:
            json_type = {"Content-Type": "application/json"}
            for content in (b" " * 1_100_000, endless()):
                answer = self.asked(client, "POST", "/api/v1/counts", content=content, headers=json_type)
                self.assertEqual((answer.status_code, answer.json()["status"]), (413, 413))
            path = f"/api/v1/colonies/{COLONY}/board-pictures/{uuid4()}?width_mm=300"
            # Of a file a little more is read than is taken, so that it is refused in words at its field.
            self.assertIn("larger than 12 MB", self.asked(client, "PUT", path, content=endless()).text)
            self.assertEqual(self.asked(client, "PUT", path, content=b" " * 1_100_000).status_code, 422)

    def test_a_body_that_does_not_come(self) -> None:
        """It is cut off after its time."""

        async def never() -> dict[str, Any]:
            await asyncio.sleep(5)
            return {}

        async def answering(scope: Any, receive: Any, send: Any) -> None:
            await receive()

        with patch.object(bodies, "LONGEST_S", 0.05), self.assertRaises(HTTPException) as cut:
            scope = {"type": "http", "method": "POST", "path": "/api/v1/counts"}
            aside(bodies.BodyLimits(answering)(scope, never, never))  # type: ignore[arg-type]
        self.assertEqual(cut.exception.status_code, 408)

    def test_what_nobody_foresaw(self) -> None:
        """A fault of our own: a problem document in words, with the headers; nothing of the fault is told."""
        with (
            closing(self.server.sign_in()) as client,
            patch.object(planning_read, "find_work", side_effect=RuntimeError("the inside of it")),
            self.assertLogs("redframe.api.errors", "ERROR"),
        ):
            answer = client.get("/api/v1/worklist")
        self.assertEqual(answer.status_code, 500)
        self.assertEqual(answer.headers["Content-Type"], "application/problem+json")
        self.assertIn("default-src 'none'", answer.headers["Content-Security-Policy"])
        self.assertNotIn("inside", answer.text)
