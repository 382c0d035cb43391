"""What is refused is said at its field and in words that a beekeeper would use: never a pattern, a type or a constraint."""

from __future__ import annotations

import re
import unittest
from collections.abc import Iterator
from contextlib import closing
from datetime import date
from typing import Any
from uuid import uuid4

import httpx

from redframe.demo.scenario import made_id
from tests.support import Server

APIARY = str(made_id("corrane", "apiary", "Kettle Wood"))
COLONY = str(made_id("corrane", "Kettle Wood", "K3"))
KEEPER = str(made_id("corrane", "keeper", "Tobias Quill"))
WEEK = str(made_id("count week", date(2031, 7, 25)))
BOX = {"purpose": "brood", "frame_format": "A_deep", "frames": 10}
CALENDAR = {"dormant": "11-01", "build_up": "03-01", "peak": "05-15", "decline": "07-25", "winter_bees": "08-25", "lead_days": 42}  # fmt: skip
WASH = {"method": "wash", "colony_id": COLONY, "taken_at": "2031-08-02T10:00:00Z", "shakes": [4, 1], "bees_known_by": "counted", "bees": 300}  # fmt: skip
BOARD = {"method": "board", "colony_id": COLONY, "taken_at": "2031-08-02T10:00:00Z", "placed_at": "2031-07-30T10:00:00Z", "squares": [4], "squares_in_all": 1, "cleaned": "yes", "greased": "yes", "ants": "no"}  # fmt: skip
BODIES: tuple[tuple[str, str, dict[str, Any]], ...] = (
    ("post", "/keepers", {"name": "Wren", "phone": "1", "registration": "C-1"}),
    ("post", "/apiaries", {"keeper_id": KEEPER, "name": "Moss End", "latitude": 44.2, "longitude": -31.4, "elevation_m": 10, "access_note": "gate", "forage_note": "lime"}),
    ("put", f"/apiaries/{APIARY}", {"name": "Kettle Wood", "latitude": 44.2, "longitude": -31.4, "elevation_m": 10}),
    ("post", "/colonies", {"apiary_id": APIARY, "label": "K77", "since": "2031-08-01", "note": "a swarm", "hive_type": "stacked boxes", "boxes": [BOX]}),
    ("put", f"/colonies/{COLONY}", {"label": "K3", "state": "alive", "state_since": "2031-06-01", "note": ""}),
    ("post", f"/colonies/{COLONY}/queens", {"year": 2030, "mark_seen": "white", "status": "mated", "since": "2031-06-01"}),
    ("put", f"/colonies/{COLONY}/hive", {"boxes": [BOX], "on": "2031-08-01"}),
    ("post", f"/colonies/{COLONY}/hold", {"kind": "other", "since": "2031-08-01", "why": "to be looked at"}),
    ("post", f"/colonies/{COLONY}/visits", {"opened_at": "2031-08-02T10:00:00Z"}),
    ("post", f"/colonies/{COLONY}/past-visits", {"visited_on": "2031-08-01", "after": {"temper": 8, "frames_of_bees": 9, "stores_kg": 8, "stores_by": "hefting"}}),
    ("post", "/counts", WASH),
    ("post", "/counts", BOARD),
    ("post", "/boards", {"colony_id": COLONY, "placed_at": "2031-08-02T10:00:00Z", "cleaned": "yes", "greased": "yes"}),
    ("post", "/plans", {"apiary_id": APIARY, "option_id": "FA_STRIP2", "start_on": "2031-08-02", "courses": [{"id": str(uuid4()), "colony_id": COLONY}]}),
    ("post", "/courses/options", {"apiary_id": APIARY, "colony_ids": [COLONY], "start_on": "2031-08-02"}),
    ("post", "/count-weeks", {"name": "Autumn", "first_on": "2031-10-01", "last_on": "2031-10-08", "method": "wash", "half_width": 0.4, "protocol": ""}),
    ("post", "/frame-moves", {"to_away": "store", "moved_on": "2031-08-01", "note": ""}),
    ("post", "/policy/preview", {"scheme": "flat_2", "scope": "whole_apiary", "calendar": CALENDAR, "stale_after_days": 21, "scoops": [{"ml": 120, "bees": 300}]}),
    ("put", f"/apiaries/{APIARY}/policy", {"scheme": "flat_2", "scope": "single_colony", "reason": "as the keeper has it"}),
    ("post", "/invitations", {"email": "wren@corrane.example", "role": "mentor"}),
    ("put", "/person", {"name": "Sunniva Hale", "temperature": "celsius", "mass": "kg", "volume": "ml", "theme": "light"}),
)  # fmt: skip
"""Sound bodies of what people enter; each field of each is spoilt in turn."""
SPOILT: tuple[Any, ...] = (None, "", "x" * 6000, "\u0000", "no", -987654321, 9.87e12, True, [], {}, [[]], "2031-02-30")
JARGON = re.compile(
    r"\bpattern\b|\bregex|\bconstraint|\bshould\b|\bvalid\b|\bstring\b|\binteger\b|\bboolean\b|\bfloat|\bdict|\btuple\b|\bnull value"
    r"|\btype\b|\bJSON\b|\bNone\b|\bliteral\b|\bUUID\b|\bvalidation\b|\bparse|\^|\\d|\[A-Z|_check\b|_key\b",
    re.IGNORECASE,
)
"""Words of programs: none of them is said to a person at a field."""


def paths(body: Any, before: str = "") -> Iterator[str]:
    """Every leaf of a body, written as a field."""
    if isinstance(body, dict):
        for name, value in body.items():
            yield from paths(value, f"{before}.{name}" if before else name)
    elif isinstance(body, list) and body:
        yield from paths(body[0], f"{before}[0]")
    else:
        yield before


def spoil(body: Any, path: str, value: Any) -> Any:
    """A copy of a body with another value at a path."""
    step, _, rest = path.partition(".")
    name, indexed = step.removesuffix("[0]"), step.endswith("[0]")
    inner = body[name][0] if indexed else body[name]
    new = spoil(inner, rest, value) if rest else value
    return {**body, name: [new, *body[name][1:]] if indexed else new}


class Fields(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.server = Server()
        cls.addClassCleanup(cls.server.stop)

    def send(self, client: httpx.Client, method: str, path: str, body: dict[str, Any]) -> httpx.Response:
        """Send a body, with an id of its own where the path makes a record."""
        made = {"id": str(uuid4())} if method == "post" and not path.endswith(("/options", "/preview")) else {}
        return client.request(method, f"/api/v1{path}", json={**made, **body}, headers={"If-Match": '"999"'})

    def test_every_field_spoilt_in_turn(self) -> None:
        """No answer is an error of the server; what is refused names the field that was spoilt, in plain words."""
        refused = 0
        with closing(self.server.sign_in("administrator@corrane.example")) as client:
            for method, path, body in BODIES:
                for field in paths(body):
                    for value in SPOILT:
                        answer = self.send(client, method, path, spoil(body, field, value))
                        with self.subTest(endpoint=f"{method} {path}", field=field, value=repr(value)[:20]):
                            self.assertLess(answer.status_code, 500, answer.text[:300])
                            if answer.status_code == 422:
                                refused += 1
                                self.assert_plain(answer, field)
        self.assertGreater(refused, 600)

    def assert_plain(self, answer: httpx.Response, field: str) -> None:
        """A problem document whose first error stands at the field, or at what it is a part of, without jargon."""
        self.assertEqual(answer.headers["content-type"], "application/problem+json")
        [first, *_] = answer.json()["errors"]
        if first["code"] in ("taken", "missing") and first["field"] not in field:
            return  # The spoilt value passed, and what is refused is the record as a whole.
        top = re.split(r"[.\[]", field)[0]
        self.assertTrue(first["field"].startswith(top) or top in KIN.get(first["field"].split("[")[0], ()), f"{field}: {first}")  # fmt: skip
        for error in answer.json()["errors"]:
            self.assertIsNone(JARGON.search(error["message"]), error)
            self.assertLess(len(error["message"]), 200)

    def test_what_no_field_is_called(self) -> None:
        """A misspelt name is refused at that name, never dropped without a word."""
        with closing(self.server.sign_in("administrator@corrane.example")) as client:
            for method, path, body in BODIES:
                answer = self.send(client, method, path, {**body, "qeen": 1})
                with self.subTest(endpoint=f"{method} {path}"):
                    self.assertEqual(answer.status_code, 422)
                    self.assertIn("qeen", {one["field"] for one in answer.json()["errors"]})

    def test_what_is_missing(self) -> None:
        """Each field left out is either not needed or asked for by name."""
        with closing(self.server.sign_in("administrator@corrane.example")) as client:
            for method, path, body in BODIES:
                for name in body:
                    answer = self.send(client, method, path, {key: value for key, value in body.items() if key != name})
                    with self.subTest(endpoint=f"{method} {path}", field=name):
                        self.assertLess(answer.status_code, 500, answer.text[:300])
                        if answer.status_code == 422:
                            self.assert_plain(answer, name)


KIN = {
    "bees": ("bees_known_by", "method"), "bees_known_by": ("bees", "method"), "volume_ml": ("bees_known_by",),
    "mass_g": ("bees_known_by",), "shakes": ("method",), "stores_by": ("after",), "last_on": ("first_on",),
    "first_on": ("last_on",), "keeper_id": ("role",), "to_box": ("to_away",), "frame_id": ("to_away",), "placed_at": ("taken_at", "method"),
    "taken_at": ("placed_at",), "squares": ("squares_in_all", "method"), "squares_in_all": ("squares",), "method": ("shakes",),
    "levels": ("scheme",), "queen_year": ("mark_seen",), "state_since": ("state",), "mark_seen": ("year",),
}  # fmt: skip
"""Fields that answer for one another: what is said of one may be meant of the other."""
