"""Every operation of the API's own description, with the records of others: it answers as for a record that is nowhere.

Nothing is typed in: a new operation is crossed because it is described. What an answer says of a record that one may not
see must not even tell that there is one.
"""

from __future__ import annotations

import json
import re
import unittest
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any
from uuid import UUID, uuid4

import httpx
import psycopg

from redframe.demo.scenario import made_id
from redframe.work.cases.traces import keep_traces
from tests.api.test_roles import PICTURE, picture
from tests.support import Server, at_work, identity, owner_rows

OWNED = {
    "apiary": "SELECT id FROM apiary WHERE id = %(apiary)s",
    "colony": "SELECT id FROM colony WHERE id = %(colony)s",
    "hive": "SELECT hive_id FROM colony WHERE id = %(colony)s",
    "box": "SELECT b.id FROM hive_box b JOIN colony c ON c.hive_id = b.hive_id WHERE c.id = %(colony)s",
    "frame": "SELECT f.id FROM frame f JOIN hive_box b ON b.id = f.box_id JOIN colony c ON c.hive_id = b.hive_id WHERE c.id = %(colony)s",
    "queen": "SELECT id FROM queen WHERE colony_id = %(colony)s",
    "count": "SELECT id FROM mite_count WHERE colony_id = %(colony)s",
    "visit": "SELECT id FROM visit WHERE colony_id = %(colony)s AND state = 'draft'",
    "course": "SELECT id FROM course WHERE colony_id = %(colony)s",
    "plan": "SELECT plan_id FROM course WHERE colony_id = %(colony)s",
    "act": "SELECT a.id FROM course_act a JOIN course c ON c.id = a.course_id WHERE c.colony_id = %(colony)s",
    "board": "SELECT id FROM insert_board WHERE colony_id = %(colony)s",
    "picture": "SELECT id FROM board_picture WHERE colony_id = %(colony)s",
    "photo": "SELECT id FROM photo WHERE colony_id = %(colony)s",
    "event": "SELECT id FROM brood_event WHERE colony_id = %(colony)s",
    "harvest": "SELECT id FROM harvest WHERE colony_id = %(colony)s",
    "hive_act": "SELECT id FROM hive_act WHERE colony_id = %(colony)s",
    "case": "SELECT id FROM disease_case WHERE association_id = %(association)s",
    "step": "SELECT id FROM case_step WHERE association_id = %(association)s",
    "case_photo": "SELECT p.id FROM case_photo p JOIN disease_case d ON d.id = p.case_id WHERE d.association_id = %(association)s",
    "pest_check": "SELECT id FROM pest_check WHERE colony_id = %(colony)s",
    "trap": "SELECT id FROM pest_trap WHERE colony_id = %(colony)s",
    "deadout": "SELECT id FROM deadout WHERE colony_id = %(colony)s",
    "deadout_photo": "SELECT id FROM deadout_photo WHERE colony_id = %(colony)s",
    "handling": "SELECT id FROM handling WHERE colony_id = %(colony)s",
    "movement": "SELECT id FROM movement WHERE colony_id = %(colony)s",
    "sample": "SELECT id FROM case_sample WHERE association_id = %(association)s",
    "lot": "SELECT id FROM product_lot WHERE product = 'Pack of the keeper'",
    "keeper": "SELECT keeper_id FROM apiary WHERE id = %(apiary)s",
    "week": "SELECT id FROM count_week WHERE association_id = %(association)s",
    "invitation": "SELECT id FROM invitation WHERE association_id = %(association)s",
    "membership": "SELECT id FROM membership WHERE association_id = %(association)s AND role = 'mentor'",
    "session": "SELECT s.id FROM session s JOIN membership m ON m.id = s.membership_id WHERE m.association_id = %(association)s",
}  # fmt: skip
"""One record of each kind, of somebody else."""
SHARED = {"week", "membership"}
"""Kinds that a keeper shares with the other keepers of the association."""
CALLED = {
    "into": "colony", "hatch_with": "colony", "split_from": "colony", "from_colony": "colony", "to_colony": "colony", "other_colony": "colony",
    "first": "count", "second": "count", "compare_with": "visit", "from_box": "box", "to_box": "box",
    "treat": "colony", "watch_too": "colony", "corrects": "step", "keepers": "keeper", "combs": "frame", "robbers": "colony",
}  # fmt: skip
"""Kinds of records that go by another name."""
GIVEN: dict[str, Any] = {
    "shakes": [3, 1], "bees": 300, "option_id": "FA_STRIP2", "email": "somebody@corrane.example", "change": "0",
    "frames": 10, "frame_format": "A_deep", "to_slot": 1, "start_on": "2031-08-02", "target_ml": 100, "strength": 4.5,
}  # fmt: skip
"""Values without which a field would be refused before anybody asks whose the record is."""
UUID_TEXT = re.compile(r"[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}")
OWN_ID = {"id"}


def kind_of(name: str) -> str:
    """The kind of record that a parameter or a field names."""
    bare = re.sub(r"_ids?$", "", name)
    return CALLED.get(bare, bare)


@dataclass
class Filler:
    """Makes the least that a schema takes; fields that name a record get it from `records`, of which kinds are noted."""

    schemas: dict[str, Any]
    records: dict[str, UUID]

    def __post_init__(self) -> None:
        self.named: set[str] = set()

    def value(self, schema: dict[str, Any], name: str) -> Any:
        """The least value of a schema."""
        if name in GIVEN and (schema.get("type") == "array") == isinstance(GIVEN[name], list):
            return GIVEN[name]
        if "$ref" in schema:
            schema = self.schemas[schema["$ref"].rsplit("/", 1)[1]]
        for choice in ("anyOf", "oneOf", "allOf"):
            if choice in schema:
                return self.value(next(one for one in schema[choice] if one.get("type") != "null"), name)
        if "const" in schema or "enum" in schema:
            return schema.get("const", (schema.get("enum") or [None])[0])
        if schema.get("format") == "uuid":
            return str(uuid4()) if name in OWN_ID else str(self.record(name))
        plain = {"date": "2031-08-01", "date-time": "2031-08-02T10:00:00Z"}.get(schema.get("format", ""))
        if plain:
            return plain
        match schema.get("type"):
            case "object":
                properties, needed = schema.get("properties", {}), set(schema.get("required", []))
                wanted = {
                    one
                    for one, inner in properties.items()
                    if one in needed | set(GIVEN) or '"uuid"' in json.dumps(inner)
                }
                return {one: self.value(properties[one], one) for one in properties if one in wanted}
            case "array":
                return [self.value(schema["items"], name)] if schema.get("minItems", 0) or "uuid" in str(schema) else []
            case "integer" | "number":
                return schema.get("minimum", schema.get("exclusiveMinimum", 0) + 1)
            case "boolean":
                return False
        return "x" * max(1, schema.get("minLength", 1))

    def record(self, name: str) -> UUID:
        """The record that a field or parameter names."""
        kind = kind_of(name)
        self.named.add(kind)
        return self.records[kind]


@dataclass
class Call:
    """An operation with what is sent, and the kinds of records that it names."""

    method: str
    described: str
    path: str
    sent: dict[str, Any]
    kinds: set[str]


class Foreign(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.server = Server()
        cls.addClassCleanup(cls.server.stop)
        cls.colony, cls.apiary = made_id("corrane", "Kettle Wood", "K3"), made_id("corrane", "apiary", "Kettle Wood")
        cls.lay_what_the_demo_lacks()
        cls.document = httpx.get(f"{cls.server.url}/api/v1/openapi.json", timeout=30).json()
        where = {"colony": cls.colony, "apiary": cls.apiary, "association": made_id("corrane")}
        with psycopg.connect(cls.server.owner_url) as owner:
            rows = {kind: owner.execute(query.encode(), where).fetchone() for kind, query in OWNED.items()}
        cls.records = {kind: row[0] for kind, row in rows.items() if row is not None and row[0] is not None}
        assert set(cls.records) == set(OWNED), set(OWNED) - set(cls.records)

    @classmethod
    def lay_what_the_demo_lacks(cls) -> None:
        """A draft with a photo, a picture of a board, a board in the hive, a pack in stock, a swarm, an invitation: of Kettle Wood's keeper."""
        mentor = cls.server.sign_in()
        cls.addClassCleanup(mentor.close)
        visit = str(uuid4())
        opened = {"id": visit, "opened_at": "2031-08-02T09:00:00Z"}
        board = {"id": str(uuid4()), "colony_id": str(cls.colony), "placed_at": "2031-08-01T10:00:00Z", "cleaned": "yes", "greased": "yes"}  # fmt: skip
        acts: list[httpx.Response] = [
            mentor.post(f"/api/v1/colonies/{cls.colony}/visits", json=opened),
            mentor.put(f"/api/v1/visits/{visit}/photos/{uuid4()}", content=PICTURE),
            mentor.put(f"/api/v1/colonies/{cls.colony}/board-pictures/{uuid4()}?width_mm=20", content=picture(100, 60)),
            mentor.post("/api/v1/boards", json=board),
        ]
        administrator = cls.server.sign_in("administrator@corrane.example")
        cls.addClassCleanup(administrator.close)
        invited = {"id": str(uuid4()), "email": "guest@corrane.example", "role": "mentor"}
        acts.append(administrator.post("/api/v1/invitations", json=invited))
        for answer in acts:
            answer.raise_for_status()
        url = cls.server.owner_url
        for (case,) in owner_rows(url, "SELECT id FROM disease_case WHERE state <> 'closed'"):
            mentor.put(f"/api/v1/cases/{case}/photos/{uuid4()}", content=PICTURE).raise_for_status()
        for (case,) in owner_rows(url, "SELECT id FROM disease_case"):
            at_work(url, lambda unit, case=case: keep_traces(unit, case), identity("inspector"))
        with psycopg.connect(url) as owner:
            owner.execute(
                "INSERT INTO brood_event (id, association_id, colony_id, kind, happened_on) "
                "SELECT gen_random_uuid(), association_id, id, 'swarm_left', '2031-07-20' FROM colony WHERE id = %s",
                [cls.colony],
            )
            owner.execute(
                "INSERT INTO harvest (id, association_id, colony_id, harvested_on, honey_for) "
                "SELECT gen_random_uuid(), association_id, id, '2031-07-20', 'bees' FROM colony WHERE id = %s",
                [cls.colony],
            )
            owner.execute(
                "INSERT INTO handling (id, association_id, colony_id, visit_id, condition, option, reason, chosen_on, recheck_from, "
                "recheck_to, cells, combs_with_sign) SELECT gen_random_uuid(), association_id, colony_id, id, 'chalkbrood', "
                "'wait_for_flow', 'light', '2031-07-01', '2031-07-15', '2031-07-22', 20, 2 FROM visit WHERE colony_id = %s LIMIT 1",
                [cls.colony],
            )
            owner.execute(
                "INSERT INTO pest_check (id, association_id, apiary_id, colony_id, pest, seen_on, score, answer) "
                "SELECT gen_random_uuid(), association_id, apiary_id, id, 'ants', '2031-07-20', 0, "
                '\'{"says": "none seen", "asks": false, "acts": [], "cautions": [], "look_from": null, "look_by": null, '
                '"disease_check_by": null}'
                "' FROM colony WHERE id = %s",
                [cls.colony],
            )
            owner.execute(
                "INSERT INTO pest_trap (id, association_id, colony_id, kind, number, placed_on) "
                "SELECT gen_random_uuid(), association_id, id, 'cloth', 1, '2031-07-20' FROM colony WHERE id = %s",
                [cls.colony],
            )
            owner.execute(
                "INSERT INTO deadout (id, association_id, colony_id, found_on, examined_on, opened_at) "
                "SELECT gen_random_uuid(), association_id, id, '2031-07-20', '2031-07-20', now() FROM colony WHERE id = %s",
                [cls.colony],
            )
            owner.execute(
                "INSERT INTO deadout_photo (id, association_id, colony_id, deadout_id, step, width, height, picture, thumbnail) "
                "SELECT gen_random_uuid(), association_id, colony_id, id, 'floor', 1, 1, 'x', 'x' FROM deadout WHERE colony_id = %s",
                [cls.colony],
            )
            owner.execute(
                "INSERT INTO movement (id, association_id, colony_id, way, kind, earliest, latest, node, is_seen) "
                "SELECT gen_random_uuid(), association_id, id, 'came', 'swarm', '2031-07-20', '2031-07-20', 'unknown', true "
                "FROM colony WHERE id = %s",
                [cls.colony],
            )
            owner.execute(
                "INSERT INTO hive_act (id, association_id, colony_id, course_id, act, done_on) "
                "SELECT gen_random_uuid(), association_id, colony_id, id, 'queen_held', '2031-07-20' FROM course "
                "WHERE colony_id = %s LIMIT 1",
                [cls.colony],
            )
            owner.execute(
                "INSERT INTO product_lot (id, association_id, keeper_id, product, option_ids, unit, quantity) "
                "SELECT gen_random_uuid(), association_id, keeper_id, 'Pack of the keeper', '{OX_TRICKLE}', 'g', 100 FROM apiary WHERE id = %s",
                [cls.apiary],
            )

    def calls(self, records: dict[str, UUID]) -> Iterator[Call]:
        """Every operation that names a record, with these records."""
        schemas = self.document["components"]["schemas"]
        for described, operations in self.document["paths"].items():
            for method, operation in operations.items():
                filler = Filler(schemas, records)
                path, query = described, {}
                for parameter in operation.get("parameters", []):
                    name, schema = parameter["name"], parameter["schema"]
                    if parameter["in"] == "path":
                        path = path.replace(f"{{{name}}}", str(filler.value(schema, name)))
                    elif parameter["in"] == "query" and (parameter.get("required") or "uuid" in json.dumps(schema)):
                        query[name] = filler.value(schema, name)
                sent: dict[str, Any] = {"params": query, "headers": {"If-Match": '"1"'}}
                content = operation.get("requestBody", {}).get("content", {})
                if "application/json" in content:
                    sent["json"] = filler.value(content["application/json"]["schema"], "")
                elif content:
                    sent["content"] = PICTURE
                if filler.named:
                    yield Call(method, described, path, sent, filler.named)

    def said(self, client: httpx.Client, call: Call) -> tuple[int, str]:
        """What an operation answers, whatever record it was asked about."""
        answer = client.request(call.method, call.path, **call.sent)
        return answer.status_code, UUID_TEXT.sub("<id>", answer.text)

    def changes(self) -> object:
        """How often anything of the island's association was written."""
        with psycopg.connect(self.server.owner_url) as owner:
            row = owner.execute(
                "SELECT sum(n) FROM change_count WHERE association_id = %s", [made_id("corrane")]
            ).fetchone()
        return row and row[0]

    def assertSaysNothing(self, client: httpx.Client, who: str, besides: set[str]) -> int:
        """Foreign records and records that are nowhere are answered alike; nothing is written. How many were tried."""
        nowhere = {kind: uuid4() for kind in self.records}
        before, tried = self.changes(), 0
        for foreign, none in zip(self.calls(self.records), self.calls(nowhere), strict=True):
            if foreign.kinds <= besides:
                continue
            tried += 1
            with self.subTest(who=who, operation=f"{foreign.method} {foreign.described}"):
                status, text = self.said(client, foreign)
                self.assertEqual((status, text), self.said(client, none))
                self.assertLess(status, 500, text[:300])
        self.assertEqual(self.changes(), before, who)
        return tried

    def test_another_associations_records(self) -> None:
        """Seen from the other island, in every role."""
        with psycopg.connect(self.server.owner_url, autocommit=True) as owner:
            keeper = owner.execute("SELECT id FROM keeper WHERE association_id = %s", [made_id("ellery")]).fetchone()
            assert keeper is not None
            client = self.server.sign_in("mentor@ellery.example")
            self.addCleanup(client.close)
            me = made_id("membership", "mentor@ellery.example", "ellery")
            for role in ("inspector", "mentor", "keeper", "read_only", "administrator"):
                owner.execute(
                    "UPDATE membership SET role = %s, keeper_id = %s WHERE id = %s",
                    [role, keeper[0] if role == "keeper" else None, me],
                )
                self.assertEqual(client.get("/api/v1/session").json()["role"], role)
                self.assertGreater(self.assertSaysNothing(client, role, set()), 60)

    def test_another_keepers_records(self) -> None:
        """Seen by a keeper of the same association."""
        client = self.server.sign_in("keeper@corrane.example")
        self.addCleanup(client.close)
        self.assertGreater(self.assertSaysNothing(client, "another keeper", SHARED), 60)

    def test_nobody_is_answered_nothing(self) -> None:
        """Without a session every one of them is shut, and says the same."""
        with httpx.Client(base_url=self.server.url, timeout=30) as client:
            for call in self.calls(self.records):
                with self.subTest(operation=f"{call.method} {call.described}"):
                    self.assertEqual(client.request(call.method, call.path, **call.sent).status_code, 401)

    def test_whoever_may_see_them_is_answered(self) -> None:
        """The records are there, and are what the operations ask for: else the tests above would prove nothing."""
        client = self.server.sign_in("administrator@corrane.example")
        self.addCleanup(client.close)
        found = {
            call.described: self.said(client, call)[0] for call in self.calls(self.records) if call.method == "get"
        }
        self.assertEqual({path: status for path, status in found.items() if status != 200}, {})
        self.assertGreater(len(found), 20)
