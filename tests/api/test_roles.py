"""Roles crossed with every endpoint: who may, who may not, and that no endpoint was forgotten."""

from __future__ import annotations

import io
import unittest
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from datetime import date
from typing import Any
from uuid import UUID, uuid4

import httpx
from PIL import Image

from redframe.demo.scenario import PASSWORD, made_id
from redframe.demo.stock import lot_id
from redframe.work.cases.traces import keep_traces
from redframe.work.members import session as members_session
from redframe.work.members.passwords import Argon2Hasher
from tests.support import Server, aside, at_work, desk_pool, identity, owner_rows

ACCOUNTS = {
    "administrator": "administrator@corrane.example",
    "inspector": "inspector@corrane.example",
    "mentor": "mentor@corrane.example",
    "keeper": "keeper@corrane.example",
    "read_only": "reader@corrane.example",
    "southern": "mentor@ellery.example",
    "nobody": "",
}
EVERYONE = {"administrator", "inspector", "mentor", "keeper", "read_only", "southern"}
STAFF = {"administrator", "inspector", "mentor"}


def picture(wide: int = 40, tall: int = 30, kind: str = "JPEG", exif: Image.Exif | None = None) -> bytes:
    """A small picture file."""
    out = io.BytesIO()
    Image.new("RGB", (wide, tall), (138, 90, 60)).save(out, kind, **({"exif": exif} if exif is not None else {}))
    return out.getvalue()


PICTURE = picture()
WEEK = made_id("count week", date(2031, 7, 25))
LOT = {"product": "Strips of the shed", "option_ids": ["FA_STRIP2"], "unit": "strip", "quantity": 10}
LAYING_STOPPED = made_id("laying", made_id("corrane", "St Ossory", "O3"))
DRONE_COURSE = made_id("hive work", made_id("corrane", "Quarrel Lane", "A1"), date(2031, 7, 12))
HARVEST = made_id("harvest", made_id("corrane", "Kettle Wood", "K1"), date(2031, 7, 18))
STRIPS, CRYSTALS = lot_id("corrane", "F-3105"), lot_id("corrane", "XC-40")
WAS_GIVEN = {"option_id": "OX_TRICKLE", "doses_on": ["2030-12-20"], "end": "not_known", "known_from": "keeper_said"}


class RolesCrossed(unittest.TestCase):
    """Each case is an endpoint, what is sent, and the roles that get past the door (anything but 401, 403, 404)."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.server = Server()
        cls.addClassCleanup(cls.server.stop)
        cls.clients = {
            role: cls.server.sign_in(email) if email else httpx.Client(base_url=cls.server.url)
            for role, email in ACCOUNTS.items()
        }
        url = cls.server.owner_url
        kettle = made_id("corrane", "Kettle Wood", "K3")
        cls.course = owner_rows(url, "SELECT id FROM course WHERE colony_id = %s AND state = 'under_way'", kettle)[0][0]
        cls.plan = owner_rows(url, "SELECT plan_id FROM course WHERE id = %s", cls.course)[0][0]
        cls.act = owner_rows(url, "SELECT id FROM course_act WHERE course_id = %s AND step = 'place_1'", cls.course)[0][
            0
        ]
        cls.failed = owner_rows(
            url,
            "SELECT id FROM course WHERE colony_id = %s AND state = 'verified_failed'",
            made_id("corrane", "Lower Fenn", "L1"),
        )[0][0]
        cls.count = owner_rows(url, "SELECT id FROM mite_count WHERE colony_id = %s LIMIT 1", kettle)[0][0]
        # One that a course rests on: it is never undone, whoever asks.
        cls.counted = owner_rows(
            url,
            "SELECT a.count_id FROM course_act a JOIN mite_count m ON m.id = a.count_id WHERE m.colony_id = %s LIMIT 1",
            made_id("corrane", "Kettle Wood", "K3"),
        )[0][0]
        cls.kettle = kettle
        cls.sample, cls.case = owner_rows(url, "SELECT id, case_id FROM case_sample")[0]
        cls.member = made_id("membership", "mentor@corrane.example", "corrane")
        cls.visit = str(uuid4())
        opened = {"id": cls.visit, "opened_at": "2031-08-02T09:00:00Z"}
        cls.clients["mentor"].post(f"/api/v1/colonies/{kettle}/visits", json=opened).raise_for_status()
        cls.photo = str(uuid4())
        kept = cls.clients["mentor"].put(f"/api/v1/visits/{cls.visit}/photos/{cls.photo}", content=PICTURE)
        kept.raise_for_status()
        cls.picture = str(uuid4())
        address = f"/api/v1/colonies/{kettle}/board-pictures/{cls.picture}?width_mm=20"
        cls.clients["mentor"].put(address, content=picture(100, 60)).raise_for_status()
        cls.earlier = str(uuid4())
        was = {"id": str(uuid4()), "apiary_id": str(made_id("corrane", "apiary", "Kettle Wood")), **WAS_GIVEN}
        was |= {"doses_on": ["2029-12-20"], "colonies": [{"id": cls.earlier, "colony_id": str(kettle)}]}
        cls.clients["mentor"].post("/api/v1/courses/earlier", json=was).raise_for_status()
        at_work(url, lambda unit: keep_traces(unit, UUID(str(cls.case))), identity("inspector"))
        handled = made_id("corrane", "Plover Hay", "P2")
        cls.handling = owner_rows(url, "SELECT id FROM handling WHERE colony_id = %s", handled)[0][0]
        cls.case_photo = str(uuid4())
        cls.clients["mentor"].put(
            f"/api/v1/cases/{cls.case}/photos/{cls.case_photo}", content=PICTURE
        ).raise_for_status()
        cls.dead, cls.unread = made_id("corrane", "Cairn Yard", "C3"), made_id("corrane", "Thrift Point", "J2")
        cls.deadout, cls.deadout_photo = made_id("deadout", "Cairn Yard", "C3"), str(uuid4())
        cls.clients["mentor"].put(
            f"/api/v1/deadouts/{cls.deadout}/photos/{cls.deadout_photo}?step=floor", content=PICTURE
        ).raise_for_status()
        of_dead = "SELECT b.id FROM hive_box b JOIN colony c USING (hive_id) WHERE c.id = %s AND b.until IS NULL"
        cls.dead_box = str(owner_rows(url, of_dead, cls.dead)[0][0])
        cls.pest_check, cls.trap = str(uuid4()), str(uuid4())
        check = {"id": cls.pest_check, "colony_id": str(kettle), "pest": "ants", "seen_on": "2031-07-01", "score": 2}
        cls.clients["mentor"].post("/api/v1/pest-checks", json=check).raise_for_status()
        trap = {"id": cls.trap, "colony_id": str(kettle), "kind": "cloth", "number": 1, "placed_on": "2031-07-01"}
        cls.clients["mentor"].post("/api/v1/pest-traps", json=trap).raise_for_status()
        cls.movement = str(uuid4())
        moved = {"id": cls.movement, "colony_id": str(kettle), "way": "came", "kind": "wax", "is_seen": True}
        moved |= {"earliest": "2031-07-01", "latest": "2031-07-01"}
        cls.clients["mentor"].post("/api/v1/movements", json=moved).raise_for_status()
        of_hive = (
            "SELECT f.id FROM frame f JOIN hive_box b ON b.id = f.box_id JOIN colony c USING (hive_id) WHERE c.id = %s"
        )
        cls.comb = owner_rows(url, of_hive, kettle)[0][0]
        cls.queen = owner_rows(url, "SELECT id FROM queen WHERE colony_id = %s", kettle)[0][0]
        cls.invitation = str(uuid4())
        invited = {"id": cls.invitation, "email": "guest@corrane.example", "role": "mentor"}
        cls.clients["administrator"].post("/api/v1/invitations", json=invited).raise_for_status()

    @classmethod
    def tearDownClass(cls) -> None:
        for client in cls.clients.values():
            client.close()

    def cases(self) -> list[tuple[str, str, str, Any, set[str]]]:
        """Method, path as in the description, path to call, body, roles that may. All about one of Tobias Quill's
        colonies, which the demo's keeper, Orla Fenwick, must not reach."""
        apiary = made_id("corrane", "apiary", "Kettle Wood")
        jar = {"bees_known_by": "counted", "bees": 300}
        count = {
            "method": "wash",
            "colony_id": str(self.kettle),
            "taken_at": "2031-08-02T10:00:00Z",
            "shakes": [4, 1],
            **jar,
        }
        queen = {"since": "2031-06-01"}
        colony = {"label": "K99", "state": "alive", "state_since": "2031-06-01"}
        box = {"purpose": "brood", "frame_format": "A_deep", "frames": 10}
        fields = {"name": "Kettle Wood", "latitude": 44.2, "longitude": -31.4}
        return [
            ("get", "/apiaries", "/apiaries", None, EVERYONE),
            ("get", "/apiary-places", "/apiary-places", None, EVERYONE),
            ("get", "/keepers", "/keepers", None, EVERYONE),
            ("get", "/sessions", "/sessions", None, EVERYONE),
            ("delete", "/sessions/{session_id}", f"/sessions/{uuid4()}", None, set()),
            ("get", "/security-events", "/security-events", None, EVERYONE),
            ("get", "/person/second-factor", "/person/second-factor", None, EVERYONE),
            ("post", "/person/second-factor", "/person/second-factor", {"present": PASSWORD}, EVERYONE),
            ("put", "/person/second-factor", "/person/second-factor", {"code": "12345"}, EVERYONE),
            ("post", "/person/second-factor/recovery-codes", "/person/second-factor/recovery-codes", {"present": PASSWORD}, EVERYONE),
            ("post", "/person/second-factor/end", "/person/second-factor/end", {"present": PASSWORD}, EVERYONE),
            ("get", "/worklist", "/worklist", None, EVERYONE),
            ("get", "/due/{kind}", "/due/treatments", None, EVERYONE),
            ("get", "/apiaries/{apiary_id}/due", f"/apiaries/{apiary}/due", None, STAFF | {"read_only"}),
            ("get", "/search", "/search?q=k1", None, EVERYONE),
            ("get", "/policy", "/policy", None, EVERYONE),
            ("get", "/frame-formats", "/frame-formats", None, EVERYONE),
            ("post", "/counts/ruler", "/counts/ruler", {"apiary_id": str(apiary), **jar}, EVERYONE),
            ("get", "/apiaries/{apiary_id}", f"/apiaries/{apiary}", None, STAFF | {"read_only"}),
            ("get", "/colonies/{colony_id}", f"/colonies/{self.kettle}", None, STAFF | {"read_only"}),
            ("post", "/colonies/{colony_id}/brood-events", f"/colonies/{self.kettle}/brood-events", {"id": str(uuid4()), "kind": "swarm_left", "happened_on": "2031-08-01"}, STAFF),
            ("post", "/harvests", "/harvests", {"harvested_on": "2031-08-02", "honey_for": "bees", "rows": [{"id": str(uuid4()), "colony_id": str(self.kettle)}]}, STAFF),
            ("get", "/colonies/{colony_id}/harvests", f"/colonies/{self.kettle}/harvests", None, STAFF | {"read_only"}),
            ("post", "/harvests/{harvest_id}/withdraw", f"/harvests/{HARVEST}/withdraw", {"why": "another hive"}, STAFF),
            ("get", "/courses/{course_id}/placing-days", f"/courses/{DRONE_COURSE}/placing-days", None, STAFF | {"read_only"}),
            ("get", "/apiaries/{apiary_id}/placing-days", f"/apiaries/{apiary}/placing-days?option_id=FA_STRIP2", None, STAFF | {"read_only"}),
            ("get", "/courses/{course_id}/hive-work", f"/courses/{DRONE_COURSE}/hive-work", None, STAFF | {"read_only"}),
            ("post", "/courses/{course_id}/hive-acts", f"/courses/{DRONE_COURSE}/hive-acts", {"id": str(uuid4()), "act": "drone_comb_out", "done_on": "2031-08-02", "fate": "freezer"}, STAFF),
            ("post", "/hive-acts/{hive_act_id}/withdraw", f"/hive-acts/{made_id('hive act', DRONE_COURSE, 'drone_comb_in')}/withdraw", {"why": "another hive"}, STAFF),
            ("post", "/brood-events/{event_id}/withdraw", f"/brood-events/{LAYING_STOPPED}/withdraw", {"why": "another hive"}, STAFF),
            ("get", "/apiaries/{apiary_id}/treatment-round", f"/apiaries/{apiary}/treatment-round", None, STAFF | {"read_only"}),
            ("get", "/apiaries/{apiary_id}/autumn", f"/apiaries/{apiary}/autumn", None, STAFF | {"read_only"}),
            ("get", "/autumn", "/autumn?find=fenn", None, EVERYONE),
            ("get", "/lots", "/lots", None, EVERYONE),
            ("post", "/lots", "/lots", {"id": str(uuid4()), **LOT}, STAFF | {"keeper", "southern"}),
            ("put", "/lots/{lot_id}", f"/lots/{STRIPS}", {**LOT, "option_ids": ["FA_STRIP2", "FA_STRIP11"], "reason": "misread"}, STAFF),
            ("post", "/lots/{lot_id}/changes", f"/lots/{STRIPS}/changes", {"id": str(uuid4()), "kind": "found", "quantity": 1, "done_on": "2031-08-02", "how": "in the shed"}, STAFF),
            ("post", "/lots/{lot_id}/mixings", f"/lots/{CRYSTALS}/mixings", {"id": str(uuid4()), "target_ml": 100, "strength": 4.5, "basis": "dihydrate_wv", "mixed_on": "2031-08-02"}, STAFF),
            ("get", "/lots/{lot_id}/colonies", f"/lots/{STRIPS}/colonies", None, STAFF | {"read_only", "keeper"}),
            ("get", "/lots/{lot_id}/label.pdf", f"/lots/{CRYSTALS}/label.pdf", None, STAFF | {"read_only", "keeper"}),
            ("get", "/register", "/register", None, EVERYONE),
            ("get", "/register.csv", "/register.csv", None, EVERYONE),
            ("get", "/register.pdf", "/register.pdf?since=2031-06-01", None, EVERYONE),
            ("get", "/colonies/{colony_id}/forecast", f"/colonies/{self.kettle}/forecast", None, STAFF | {"read_only"}),
            ("post", "/colonies/{colony_id}/forecast", f"/colonies/{self.kettle}/forecast", {"scenarios": []}, STAFF | {"read_only"}),
            ("get", "/counts/{count_id}", f"/counts/{self.count}", None, STAFF | {"read_only"}),
            ("get", "/counts/{count_id}/history", f"/counts/{self.count}/history", None, STAFF | {"read_only"}),
            ("get", "/count-weeks", "/count-weeks", None, EVERYONE),
            ("post", "/count-weeks", "/count-weeks", {"id": str(uuid4()), "name": "Autumn", "first_on": "2031-10-01", "last_on": "2031-10-08"}, STAFF | {"southern"}),
            ("put", "/count-weeks/{week_id}", f"/count-weeks/{WEEK}", {"name": "Midsummer", "first_on": "2031-07-25", "last_on": "2031-08-03"}, STAFF),
            ("get", "/count-weeks/{week_id}", f"/count-weeks/{WEEK}", None, STAFF | {"read_only", "keeper"}),
            ("post", "/count-weeks/{week_id}/import", f"/count-weeks/{WEEK}/import", b"apiary,colony,date,mites\n", STAFF),
            ("post", "/count-weeks/{week_id}/reminders", f"/count-weeks/{WEEK}/reminders", None, STAFF),
            ("get", "/count-weeks/{week_id}/counts.csv", f"/count-weeks/{WEEK}/counts.csv", None, STAFF | {"read_only"}),
            ("get", "/count-weeks/{week_id}/cells.geojson", f"/count-weeks/{WEEK}/cells.geojson", None, STAFF | {"read_only"}),
            ("get", "/count-weeks/{week_id}/report.pdf", f"/count-weeks/{WEEK}/report.pdf", None, STAFF | {"read_only"}),
            ("get", "/forecasts", "/forecasts", None, EVERYONE),
            ("post", "/forecasts", "/forecasts", {"id": str(uuid4())}, STAFF | {"southern"}),
            ("put", "/colonies/{colony_id}/board-pictures/{picture_id}", f"/colonies/{self.kettle}/board-pictures/{uuid4()}?width_mm=20", PICTURE, STAFF),
            ("get", "/board-pictures/{picture_id}", f"/board-pictures/{self.picture}", None, STAFF | {"read_only"}),
            ("get", "/board-pictures/{picture_id}/image", f"/board-pictures/{self.picture}/image", None, STAFF | {"read_only"}),
            ("get", "/counts/compare", f"/counts/compare?first={self.count}&second={self.count}", None, STAFF | {"read_only"}),
            ("get", "/boards", f"/boards?colony={self.kettle}", None, EVERYONE),
            ("post", "/boards", "/boards", {"id": str(uuid4()), "colony_id": str(self.kettle), "placed_at": "2031-08-02T10:00:00Z", "cleaned": "yes", "greased": "yes"}, STAFF),
            ("post", "/boards/{board_id}/lifted", f"/boards/{uuid4()}/lifted", {"removed_at": "2031-08-02T10:00:00Z"}, STAFF | {"keeper", "southern"}),
            ("get", "/apiaries/{apiary_id}/policy", f"/apiaries/{apiary}/policy", None, STAFF | {"read_only"}),
            ("put", "/apiaries/{apiary_id}/policy", f"/apiaries/{apiary}/policy", {"scope": "single_colony", "reason": "as the keeper has it"}, STAFF),
            ("get", "/apiaries/{apiary_id}/sampling-plan", f"/apiaries/{apiary}/sampling-plan", None, STAFF | {"read_only"}),
            ("get", "/courses/{course_id}", f"/courses/{self.course}", None, STAFF | {"read_only"}),
            ("get", "/courses/{course_id}/history", f"/courses/{self.course}/history", None, STAFF | {"read_only"}),
            ("get", "/courses/{course_id}/falls", f"/courses/{self.course}/falls", None, STAFF | {"read_only"}),
            ("get", "/courses/{course_id}/why-failed", f"/courses/{self.failed}/why-failed", None, STAFF | {"read_only"}),
            ("get", "/what-works", "/what-works", None, EVERYONE),
            ("get", "/what-works.csv", "/what-works.csv?season=post_harvest", None, EVERYONE),
            ("post", "/courses/options", "/courses/options", {"apiary_id": str(apiary), "colony_ids": [str(self.kettle)]}, STAFF | {"read_only"}),
            ("post", "/counts", "/counts", {"id": str(uuid4()), **count}, STAFF),
            ("put", "/counts/{count_id}", f"/counts/{self.count}", {**count, "reason": "misread"}, STAFF),
            ("post", "/colonies/{colony_id}/past-visits", f"/colonies/{self.kettle}/past-visits", {"id": str(uuid4()), "visited_on": "2031-08-01", "after": {"note": "calm"}}, STAFF),
            ("delete", "/counts/{count_id}", f"/counts/{self.counted}", None, STAFF),
            ("post", "/apiaries/import", "/apiaries/import", b"apiary,keeper,latitude,longitude\n", STAFF | {"southern"}),
            ("get", "/guide", "/guide", None, EVERYONE),
            ("put", "/guide/{step}", "/guide/season", None, {"administrator"}),
            ("post", "/keepers", "/keepers", {"id": str(uuid4()), "name": "Wren Halloran"}, STAFF | {"southern"}),
            ("post", "/apiaries", "/apiaries", {"id": str(uuid4()), "keeper_id": str(made_id("corrane", "keeper", "Tobias Quill")), **fields, "name": "Moss End"}, STAFF | {"keeper", "southern"}),
            ("put", "/apiaries/{apiary_id}", f"/apiaries/{apiary}", fields, STAFF),
            ("post", "/colonies", "/colonies", {"id": str(uuid4()), "apiary_id": str(apiary), "label": "K77", "since": "2031-08-01"}, STAFF),
            ("put", "/colonies/{colony_id}", f"/colonies/{self.kettle}", colony, STAFF),
            ("post", "/colonies/{colony_id}/merge", f"/colonies/{self.kettle}/merge", {"into": str(self.kettle), "on": "2031-08-01"}, STAFF),
            ("put", "/colonies/{colony_id}/queen", f"/colonies/{self.kettle}/queen", queen, STAFF),
            ("post", "/colonies/{colony_id}/queens", f"/colonies/{self.kettle}/queens", {"id": str(uuid4()), **queen}, STAFF),
            ("post", "/plans", "/plans", {"id": str(uuid4()), "apiary_id": str(apiary), "option_id": "FA_STRIP2", "start_on": "2031-08-02", "courses": [{"id": str(uuid4()), "colony_id": str(self.kettle)}]}, STAFF),
            ("post", "/courses/{course_id}/acts", f"/courses/{self.course}/acts", {"id": str(uuid4()), "step": "verify", "done_on": "2031-08-02"}, STAFF),
            ("put", "/courses/{course_id}/acts/{act_id}", f"/courses/{self.course}/acts/{self.act}", {"done_on": "2031-07-26", "quantity": 1, "reason": "misread"}, STAFF),
            ("delete", "/courses/{course_id}/acts/{act_id}", f"/courses/{self.course}/acts/{self.act}", None, STAFF),
            ("post", "/courses/expected", "/courses/expected", {"apiary_id": str(apiary), "colony_ids": [str(self.kettle)], "start_on": "2031-08-02"}, STAFF | {"read_only"}),
            ("get", "/treatment-schools", "/treatment-schools", None, EVERYONE),
            ("get", "/treatment-options", "/treatment-options", None, EVERYONE),
            ("post", "/courses/earlier/check", "/courses/earlier/check", {"apiary_id": str(apiary), "colony_ids": [str(self.kettle)], **WAS_GIVEN}, STAFF),
            ("post", "/courses/earlier", "/courses/earlier", {"id": str(uuid4()), "apiary_id": str(apiary), "colonies": [{"id": str(uuid4()), "colony_id": str(self.kettle)}], **WAS_GIVEN}, STAFF),
            ("put", "/courses/{course_id}/earlier", f"/courses/{self.earlier}/earlier", {**WAS_GIVEN, "reason": "the book"}, STAFF),
            ("post", "/courses/{course_id}/earlier/withdraw", f"/courses/{self.earlier}/earlier/withdraw", {"why": "other hive"}, STAFF),
            ("post", "/treatments-known", "/treatments-known", {"id": str(uuid4()), "apiary_id": str(apiary), "colony_ids": [str(self.kettle)], "known_since": "2031-01-01", "known_from": "keeper_said"}, STAFF),
            ("post", "/courses/{course_id}/abandon", f"/courses/{self.course}/abandon", {"why": ""}, STAFF),
            ("put", "/colonies/{colony_id}/place", f"/colonies/{self.kettle}/place", {"apiary_id": str(apiary), "hive": "own", "label": "K99", "on": "2031-08-01", "boxes": [box]}, STAFF),
            ("put", "/colonies/{colony_id}/hive", f"/colonies/{self.kettle}/hive", {"boxes": [box], "on": "2031-08-01"}, STAFF),
            ("get", "/signs", "/signs", None, EVERYONE),
            ("get", "/visits/{visit_id}/firmness", f"/visits/{self.visit}/firmness", None, STAFF | {"read_only"}),
            ("get", "/disease-region", "/disease-region", None, EVERYONE),
            ("post", "/disease-region/preview", "/disease-region/preview", {}, {"administrator"}),
            ("get", "/sign-cards", "/sign-cards", None, EVERYONE),
            ("get", "/apiaries/{apiary_id}/unseen", f"/apiaries/{apiary}/unseen", None, STAFF | {"read_only"}),
            ("get", "/examinations", "/examinations", None, EVERYONE),
            ("get", "/case-words", "/case-words", None, EVERYONE),
            ("get", "/cases", "/cases", None, EVERYONE),
            ("post", "/cases", "/cases", {"id": str(uuid4()), "colony_id": str(self.kettle), "disease": "efb", "found_on": "2031-08-03", "text": "x"}, STAFF),
            ("get", "/cases/{case_id}", f"/cases/{self.case}", None, STAFF | {"read_only"}),
            ("post", "/cases/{case_id}/steps", f"/cases/{self.case}/steps", {"id": str(uuid4()), "act": "close", "at": "2031-08-02T10:00:00Z"}, STAFF),
            ("post", "/cases/{case_id}/samples", f"/cases/{self.case}/samples", {"id": str(uuid4()), "colony_id": str(self.kettle), "kind": "comb", "at": "2031-08-02T10:00:00Z", "by": "x"}, STAFF),
            ("post", "/case-samples/{sample_id}/custody", f"/case-samples/{self.sample}/custody", {"id": str(uuid4()), "kind": "sealed", "at": "2031-08-02T10:00:00Z", "by": "x"}, STAFF),
            ("post", "/cases/{case_id}/laboratory", f"/cases/{self.case}/laboratory", None, STAFF),
            ("get", "/cases/{case_id}/around", f"/cases/{self.case}/around", None, {"administrator", "inspector"}),
            ("post", "/cases/{case_id}/around", f"/cases/{self.case}/around", {"id": str(uuid4()), "apiary_id": str(apiary), "visited_on": "2031-08-02", "outcome": "clear"}, {"inspector"}),
            ("put", "/cases/{case_id}/photos/{photo_id}", f"/cases/{self.case}/photos/{uuid4()}", PICTURE, STAFF),
            ("get", "/case-photos/{case_photo_id}", f"/case-photos/{self.case_photo}?small=true", None, STAFF | {"read_only"}),
            ("get", "/cases/{case_id}/neighbours.pdf", f"/cases/{self.case}/neighbours.pdf", None, STAFF | {"read_only"}),
            ("get", "/cases/{case_id}/order.pdf", f"/cases/{self.case}/order.pdf", None, STAFF | {"read_only"}),
            ("get", "/cases/{case_id}/traces", f"/cases/{self.case}/traces", None, {"administrator", "inspector"}),
            ("get", "/cases/{case_id}/traces/{number}", f"/cases/{self.case}/traces/1", None, {"administrator", "inspector"}),
            ("get", "/case-sources", "/case-sources", None, {"administrator", "inspector"}),
            ("post", "/movements", "/movements", {"id": str(uuid4()), "colony_id": str(self.kettle), "way": "came", "kind": "swarm", "earliest": "2031-08-01", "latest": "2031-08-01", "is_seen": True}, STAFF),
            ("post", "/movements/{movement_id}/withdraw", f"/movements/{self.movement}/withdraw", {"why": "another hive"}, STAFF),
            ("get", "/colonies/{colony_id}/where", f"/colonies/{self.kettle}/where", None, STAFF | {"read_only"}),
            ("get", "/frames/{frame_id}/where", f"/frames/{self.comb}/where", None, STAFF | {"read_only"}),
            ("get", "/visits/{visit_id}/handling/{condition}", f"/visits/{self.visit}/handling/chalkbrood", None, STAFF | {"read_only"}),
            ("post", "/handlings", "/handlings", {"id": str(uuid4()), "visit_id": self.visit, "condition": "chalkbrood", "option": "wait_for_flow", "reason": "light case"}, STAFF),
            ("get", "/colonies/{colony_id}/handlings", f"/colonies/{self.kettle}/handlings", None, STAFF | {"read_only"}),
            ("post", "/handlings/{handling_id}/end", f"/handlings/{self.handling}/end", {"why": "it is gone"}, STAFF),
            ("get", "/dead-signs", "/dead-signs", None, EVERYONE),
            ("get", "/deadouts", "/deadouts", None, EVERYONE),
            ("post", "/deadouts", "/deadouts", {"id": str(uuid4()), "colony_id": str(self.unread), "found_on": "2030-11-25", "opened_at": "2031-08-02T09:00:00Z"}, STAFF),
            ("get", "/deadouts/{deadout_id}", f"/deadouts/{self.deadout}", None, STAFF | {"read_only"}),
            ("get", "/deadouts/{deadout_id}/reading", f"/deadouts/{self.deadout}/reading?without=d_guanine", None, STAFF | {"read_only"}),
            ("put", "/deadouts/{deadout_id}/steps/{step}", f"/deadouts/{self.deadout}/steps/heads", {"version": 0, "content": {"is_done": True}, "reason": "looked again"}, STAFF),
            ("post", "/deadouts/{deadout_id}/close", f"/deadouts/{self.deadout}/close", None, STAFF),
            ("post", "/deadouts/{deadout_id}/drop", f"/deadouts/{self.deadout}/drop", None, STAFF),
            ("put", "/deadouts/{deadout_id}/photos/{photo_id}", f"/deadouts/{self.deadout}/photos/{uuid4()}?step=floor", PICTURE, STAFF),
            ("get", "/deadout-photos/{deadout_photo_id}", f"/deadout-photos/{self.deadout_photo}", None, STAFF | {"read_only"}),
            ("get", "/colonies/{colony_id}/fates", f"/colonies/{self.dead}/fates", None, STAFF | {"read_only"}),
            ("put", "/colonies/{colony_id}/fates", f"/colonies/{self.dead}/fates", {"items": [{"box_id": self.dead_box}], "fate": "hold"}, STAFF),
            ("post", "/colonies/{colony_id}/fates/carried-out", f"/colonies/{self.dead}/fates/carried-out", {"fate": "melt", "on": "2031-08-02"}, STAFF),
            ("post", "/colonies/{colony_id}/exclusion", f"/colonies/{self.dead}/exclusion", {"id": str(uuid4()), "found_by": "examination", "excluded_on": "2031-08-02", "why": "all read"}, STAFF),
            ("post", "/colonies/{colony_id}/exclusion/withdraw", f"/colonies/{self.dead}/exclusion/withdraw", {"why": "doubt"}, STAFF),
            ("get", "/pests", "/pests", None, EVERYONE),
            ("get", "/pests/ahead", "/pests/ahead", None, EVERYONE),
            ("get", "/colonies/{colony_id}/pests", f"/colonies/{self.kettle}/pests", None, STAFF | {"read_only"}),
            ("get", "/apiaries/{apiary_id}/stored-combs", f"/apiaries/{apiary}/stored-combs", None, STAFF | {"read_only"}),
            ("post", "/pest-checks", "/pest-checks", {"id": str(uuid4()), "colony_id": str(self.kettle), "pest": "ants", "seen_on": "2031-08-02", "score": 1}, STAFF),
            ("post", "/pest-checks/{pest_check_id}/withdraw", f"/pest-checks/{self.pest_check}/withdraw", {"why": "another hive"}, STAFF),
            ("post", "/pest-traps", "/pest-traps", {"id": str(uuid4()), "colony_id": str(self.kettle), "kind": "cloth", "number": 1, "placed_on": "2031-08-02"}, STAFF),
            ("post", "/pest-traps/{trap_id}/empty", f"/pest-traps/{self.trap}/empty", {"id": str(uuid4()), "emptied_on": "2031-08-02", "caught": 3}, STAFF),
            ("post", "/pest-traps/{trap_id}/remove", f"/pest-traps/{self.trap}/remove", {"on": "2031-08-02"}, STAFF),
            ("post", "/entrances", "/entrances", {"id": str(uuid4()), "colony_id": str(self.kettle), "since": "2031-08-02", "width_mm": 50, "device": "reducer"}, STAFF),
            ("get", "/winters", "/winters", None, EVERYONE),
            ("get", "/winters.csv", "/winters.csv", None, EVERYONE),
            ("get", "/handling-outcomes", "/handling-outcomes", None, EVERYONE),
            ("get", "/queens/{queen_id}/where", f"/queens/{self.queen}/where", None, STAFF | {"read_only"}),
            ("get", "/cases/{case_id}/keeper-sheet.pdf", f"/cases/{self.case}/keeper-sheet.pdf", None, STAFF | {"read_only"}),
            ("get", "/cases/{case_id}/notice.pdf", f"/cases/{self.case}/notice.pdf", None, STAFF | {"read_only"}),
            ("get", "/case-samples/{sample_id}/label.pdf", f"/case-samples/{self.sample}/label.pdf", None, STAFF | {"read_only"}),
            ("post", "/frame-lines", "/frame-lines", {"text": "4 c7"}, EVERYONE),
            ("post", "/colonies/{colony_id}/visits", f"/colonies/{self.kettle}/visits", {"id": str(uuid4()), "opened_at": "2031-08-02T10:00:00Z"}, STAFF),
            ("get", "/visits/{visit_id}", f"/visits/{self.visit}", None, STAFF | {"read_only"}),
            ("get", "/visits/{visit_id}/disease", f"/visits/{self.visit}/disease", None, STAFF | {"read_only"}),
            ("put", "/visits/{visit_id}/before", f"/visits/{self.visit}/before", {"content": {"air_temp_c": 18.0}, "version": 0}, STAFF),
            ("put", "/visits/{visit_id}/after", f"/visits/{self.visit}/after", {"content": {"temper": 8}, "version": 0}, STAFF),
            ("put", "/visits/{visit_id}/frames", f"/visits/{self.visit}/frames", {"frames": [{"box_id": str(uuid4()), "slot": 1, "record": {}}]}, STAFF),
            ("post", "/visits/{visit_id}/close", f"/visits/{self.visit}/close", None, STAFF),
            ("post", "/visits/{visit_id}/drop", f"/visits/{self.visit}/drop", None, STAFF),
            ("delete", "/visits/{visit_id}/close", f"/visits/{self.visit}/close", None, STAFF),
            ("post", "/frame-moves", "/frame-moves", {"id": str(uuid4()), "to_away": "store", "moved_on": "2031-08-01"}, STAFF | {"keeper", "southern"}),
            ("get", "/colonies/{colony_id}/frame-moves", f"/colonies/{self.kettle}/frame-moves", None, STAFF | {"read_only"}),
            ("get", "/apiaries/{apiary_id}/frames-in-store", f"/apiaries/{apiary}/frames-in-store", None, STAFF | {"read_only"}),
            ("get", "/apiaries/{apiary_id}/round", f"/apiaries/{apiary}/round", None, STAFF | {"read_only"}),
            ("get", "/visits/{visit_id}/sheet.pdf", f"/visits/{self.visit}/sheet.pdf", None, STAFF | {"read_only"}),
            ("get", "/photos/{photo_id}", f"/photos/{self.photo}?small=true", None, STAFF | {"read_only"}),
            ("put", "/visits/{visit_id}/photos/{photo_id}", f"/visits/{self.visit}/photos/{uuid4()}", PICTURE, STAFF),
            ("post", "/colonies/{colony_id}/hold", f"/colonies/{self.kettle}/hold", {"id": str(uuid4()), "since": "2031-08-01", "why": "to be looked at"}, STAFF),
            ("post", "/colonies/{colony_id}/hold/lift", f"/colonies/{self.kettle}/hold/lift", {"why": "looked at"}, STAFF - {"mentor"}),
            ("delete", "/colonies/{colony_id}/changes/{change}", f"/colonies/{self.kettle}/changes/0", None, STAFF),
            ("get", "/members", "/members", None, {"administrator"}),
            ("put", "/members/{membership_id}", f"/members/{self.member}", {"role": "mentor"}, {"administrator"}),
            ("post", "/invitations", "/invitations", {"id": str(uuid4()), "email": f"{uuid4()}@corrane.example", "role": "mentor"}, {"administrator"}),
            ("post", "/invitations/{invitation_id}/link", f"/invitations/{self.invitation}/link", None, {"administrator"}),
            ("delete", "/invitations/{invitation_id}", f"/invitations/{self.invitation}", None, {"administrator"}),
            ("post", "/policy/preview", "/policy/preview", {"scheme": "flat_2", "calendar": {"peak": "05-15"}}, {"administrator"}),
            ("put", "/policy", "/policy", {"scheme": "moon", "calendar": {"peak": "05-15"}}, {"administrator"}),
            ("put", "/person", "/person", {"name": "x"}, EVERYONE),
            ("put", "/person/password", "/person/password", {"present": "wrong-one", "new": "a-long-enough-one"}, EVERYONE),
            ("put", "/session/association", "/session/association", {"membership_id": "x"}, EVERYONE),
        ]  # fmt: skip

    def test_each_role_at_each_door(self) -> None:
        """Whoever may not gets 401, 403 or 404 and never an answer; whoever may gets past the door."""
        for role, client in self.clients.items():
            for method, described, path, body, allowed in self.cases():
                with self.subTest(endpoint=f"{method} {described}", role=role):
                    headers = {"If-Match": '"999"'} if method in ("put", "post") else {}
                    sent: dict[str, Any] = {"content": body} if isinstance(body, bytes) else {"json": body}
                    answer = client.request(method, f"/api/v1{path}", headers=headers, **sent)
                    self.assertLess(answer.status_code, 500, answer.text)
                    # An apiary of a keeper who is not one's own is refused at its field, not at the door.
                    refused = answer.status_code in (401, 403, 404) or (
                        role in ("keeper", "southern") and "unknown" in answer.text and answer.status_code == 422
                    )
                    if role in allowed and described != "/apiaries":
                        self.assertFalse(refused, f"{answer.status_code} {answer.text[:200]}")
                    elif role not in allowed:
                        self.assertTrue(refused, f"{answer.status_code} {answer.text[:200]}")

    def test_a_plan_of_courses_shows_nothing_to_others(self) -> None:
        """A plan that one may not see is an empty one."""
        seen = {role: self.clients[role].get(f"/api/v1/plans/{self.plan}") for role in ("mentor", "keeper", "southern")}
        self.assertEqual({role: len(answer.json()["courses"]) for role, answer in seen.items()}, {"mentor": 5, "keeper": 0, "southern": 0})  # fmt: skip

    def test_no_endpoint_is_forgotten(self) -> None:
        """Every operation of the API's description is crossed above, or is one that anybody may call."""
        described = self.clients["nobody"].get("/api/v1/openapi.json").json()["paths"]
        crossed = {(method, path) for method, path, *_ in self.cases()} | {("get", "/plans/{plan_id}")}
        open_to_all = {("get", "/session"), ("post", "/session"), ("delete", "/session"), ("delete", "/sessions"), ("post", "/joining/link"), ("post", "/joining")}  # fmt: skip
        for path, operations in described.items():
            short = path.removeprefix("/api/v1")
            for method in operations:
                if not short.startswith("/calculators"):
                    self.assertIn((method, short), crossed | open_to_all)

    def test_a_keeper_reaches_the_own_colonies_everywhere(self) -> None:
        """Orla Fenwick's lists hold her two apiaries and nothing of others."""
        keeper = self.clients["keeper"]
        places = keeper.get("/api/v1/apiaries").json()
        self.assertEqual({one["name"] for one in places["apiaries"]}, {"Tarn Head", "Skerrow Bank"})
        self.assertEqual([one["name"] for one in keeper.get("/api/v1/keepers").json()], ["Orla Fenwick"])
        on_map = keeper.get("/api/v1/apiary-places").json()["places"]
        self.assertEqual({one["name"] for one in on_map}, {"Tarn Head", "Skerrow Bank"})
        unit = keeper.get("/api/v1/worklist").json()
        self.assertLessEqual({line["apiary"] for part in ("over", "steps", "counts") for line in unit[part]}, {"Tarn Head", "Skerrow Bank"})  # fmt: skip
        own = made_id("corrane", "Tarn Head", "T1")
        body = {"id": str(uuid4()), "method": "wash", "colony_id": str(own), "taken_at": "2031-08-02T10:00:00Z", "shakes": [2, 0], "bees_known_by": "counted", "bees": 300}  # fmt: skip
        self.assertEqual(keeper.post("/api/v1/counts", json=body).status_code, 201)


class Doors(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.server = Server()
        cls.addClassCleanup(cls.server.stop)

    def test_writes_need_the_sessions_token(self) -> None:
        """A cookie alone moves nothing, and neither does a request from another site."""
        with closing(self.server.sign_in()) as client:
            body = {"id": str(uuid4()), "name": "Wren Halloran"}
            del client.headers["X-CSRF-Token"]
            self.assertEqual(client.post("/api/v1/keepers", json=body).status_code, 403)
        with closing(self.server.sign_in()) as client:
            answer = client.post("/api/v1/keepers", json=body, headers={"Origin": "http://elsewhere.example"})
            self.assertEqual(answer.status_code, 403)

    def test_signing_out_everywhere_ends_every_session(self) -> None:
        """The second device is signed out with the first."""
        with closing(self.server.sign_in()) as first, closing(self.server.sign_in()) as second:
            self.assertEqual(second.get("/api/v1/worklist").status_code, 200)
            self.assertEqual(first.delete("/api/v1/sessions").status_code, 204)
            self.assertEqual(second.get("/api/v1/worklist").status_code, 401)

    def test_guessing_is_throttled(self) -> None:
        """After eight wrong passwords the door stays shut for a while, even for the right one."""
        with httpx.Client(base_url=self.server.url) as client:
            entry = {"email": "reader@corrane.example", "password": "not-this-one"}
            codes = [client.post("/api/v1/session", json=entry).status_code for _ in range(9)]
            self.assertEqual(codes, [401] * 8 + [429])
            right = client.post("/api/v1/session", json={**entry, "password": "corrane-demo"})
            self.assertEqual(right.status_code, 429)
            self.assertIn("Retry-After", right.headers)

    def test_many_guesses_at_once_are_as_many(self) -> None:
        """Forty wrong passwords in parallel: eight are looked at. The account is open to its owner elsewhere."""
        entry = {"email": "halvard@corrane.example", "password": "not-this-one"}

        def guess(_: int) -> int:
            with httpx.Client(base_url=self.server.url, timeout=60) as client:
                return client.post("/api/v1/session", json=entry).status_code

        with ThreadPoolExecutor(20) as pool:
            codes = Counter(pool.map(guess, range(40)))
        self.assertEqual(codes, {401: 8, 429: 32})
        database, hasher = desk_pool(self.server.owner_url), Argon2Hasher(fast=True)
        opened = aside(members_session.sign_in(database, hasher, entry["email"], PASSWORD, "", "198.51.100.7", ""))
        self.assertTrue(opened.token)

    def test_an_account_under_attack_answers_later(self) -> None:
        """From nowhere else to twice as long each, up to a few seconds: never so long that it is shut."""
        waits = [members_session.wait_after(failed) for failed in range(14)]
        self.assertEqual(waits[:4], [0.0] * 4)
        self.assertEqual(waits[4:8], [0.25, 0.5, 1.0, 2.0])
        self.assertEqual(max(waits), 8.0)

    def test_a_person_of_two_associations_changes_between_them(self) -> None:
        """The inspector works in both; what is seen follows."""
        with closing(self.server.sign_in("inspector@corrane.example")) as client:
            places = client.get("/api/v1/session").json()["places_of_work"]
            south = next(one for one in places if "Ellery" in one["association_name"])
            moved = client.put("/api/v1/session/association", json={"membership_id": south["membership_id"]})
            self.assertEqual(moved.json()["person"]["association"], "Port Ellery Bee Keepers")
            self.assertEqual(len(client.get("/api/v1/apiaries").json()["apiaries"]), 3)

    def test_headers_keep_the_page_closed(self) -> None:
        """A strict policy on every response, nothing from outside, no answer of the API kept."""
        with httpx.Client(base_url=self.server.url) as client:
            for path in ("/", "/api/v1/session"):
                headers = client.get(path).headers
                policy = headers["Content-Security-Policy"]
                self.assertIn("default-src 'none'", policy)
                self.assertNotIn("unsafe", policy)
                self.assertEqual(headers["X-Content-Type-Options"], "nosniff")
            self.assertEqual(client.get("/api/v1/session").headers["Cache-Control"], "no-store")
            self.assertEqual(client.get("/../../etc/passwd").status_code, 200)
            self.assertIn('id="root"', client.get("/apiaries/anything").text)
            self.assertEqual(client.get("/nothing.js").status_code, 404)
            self.assertEqual(client.get("/api/v1/nothing").status_code, 404)
