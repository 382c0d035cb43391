"""From a wash to a verified treatment through the API, and what happens when it is sent twice, late or wrongly."""

from __future__ import annotations

import unittest
from contextlib import closing
from typing import Any
from uuid import uuid4

from redframe.core.calculators import CALCULATORS
from redframe.demo.scenario import made_id
from tests.support import Server, living, owner_rows

NOW = "2031-08-02T11:30:00Z"


def wash(colony: object, shakes: list[int], **changes: Any) -> dict[str, Any]:
    """A wash as the bench sends it."""
    return {
        "id": str(uuid4()),
        "colony_id": str(colony),
        "method": "wash",
        "taken_at": NOW,
        "shakes": shakes,
        "bees_known_by": "volume_level",
        "volume_ml": 120,
        "queen_safe": "yes",
        "brood_state": "open_and_capped",
        **changes,
    }


class Api(unittest.TestCase):
    """A server with the demo and a mentor at its door."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.server = Server()
        cls.addClassCleanup(cls.server.stop)
        cls.client = cls.server.sign_in()
        cls.addClassCleanup(cls.client.close)

    def colony(self, apiary: str, label: str) -> str:
        """The id of a colony of the demo."""
        return str(made_id("corrane", apiary, label))

    def one_of(self, apiary: str, number: int) -> str:
        """The id of a living colony of an apiary, by its place in the list."""
        return living(self.server.owner_url, apiary)[number][0]

    def call(self, method: str, path: str, body: Any = None, version: int | None = None) -> Any:
        """Call and return the answer."""
        headers = {"If-Match": f'"{version}"'} if version is not None else {}
        answer = self.client.request(method, f"/api/v1{path}", json=body, headers=headers)
        self.assertLess(answer.status_code, 500, answer.text)
        return answer

    def fault(self, answer: Any, field: str, status: int = 422) -> None:
        """The answer is a problem document that names the field first."""
        self.assertEqual(answer.status_code, status, answer.text)
        self.assertEqual(answer.headers["content-type"], "application/problem+json")
        self.assertEqual(answer.json()["errors"][0]["field"], field)


class Counts(Api):
    def test_a_wash_comes_back_with_its_meaning(self) -> None:
        """13, 4, 1 in about 300 before winter bees: 6.4 per 100, urgent, treat; the other schools are shown."""
        answer = self.call("POST", "/counts", wash(self.one_of("Brae Garth", 1), [13, 4, 1]))
        self.assertEqual(answer.status_code, 201)
        result = answer.json()
        self.assertAlmostEqual(result["reading"]["median"], 6.4, delta=0.1)
        self.assertEqual((result["judgement"]["level"], result["judgement"]["advice"]), ("urgent", "treat"))
        self.assertEqual(result["judgement"]["phase"], "pre_winter")
        self.assertEqual({view["scheme"] for view in result["views"]}, {"flat_2", "flat_3", "observe", "any_mite"})
        colony = self.call("GET", f"/colonies/{self.one_of('Brae Garth', 1)}").json()["colony"]
        self.assertEqual((colony["level"], colony["mites"]), ("urgent", 18))

    def test_told_twice_is_kept_once(self) -> None:
        """The same wash again answers the same; the same id for another wash is refused."""
        body = wash(self.one_of("Plover Hay", 1), [2, 0])
        first, second = self.call("POST", "/counts", body), self.call("POST", "/counts", body)
        self.assertEqual((first.status_code, second.status_code), (201, 201))
        self.assertEqual(first.json()["count"], second.json()["count"])
        self.fault(self.call("POST", "/counts", {**body, "shakes": [9]}), "id", 409)
        rows = owner_rows(self.server.owner_url, "SELECT count(*) FROM mite_count WHERE id = %s", body["id"])
        self.assertEqual(rows, [(1,)])

    def test_bad_washes_are_named_at_their_field(self) -> None:
        """More than 100 mites a bee, negative, empty, huge, text in numbers, wrong date, wet bees, no such colony."""
        colony = self.one_of("Plover Hay", 2)
        for field, changes in (
            ("shakes", {"shakes": [30_000, 30_000]}), ("shakes[1]", {"shakes": [1, -1]}), ("shakes", {"shakes": []}),
            ("shakes[0]", {"shakes": [10**9]}), ("shakes[0]", {"shakes": ["three"]}), ("shakes[0]", {"shakes": [2.5]}),
            ("shakes[0]", {"shakes": [True]}), ("taken_at", {"taken_at": "2031-02-30T10:00:00Z"}),
            ("taken_at", {"taken_at": "2031-08-02T10:00:00"}), ("taken_at", {"taken_at": "2032-01-01T10:00:00Z"}),
            ("volume_ml", {"volume_ml": 0}), ("volume_ml", {"volume_ml": None}), ("volume_ml", {"volume_ml": "half a cup"}),
            ("mass_g", {"bees_known_by": "mass_wet", "mass_g": 40}), ("bees", {"bees_known_by": "counted", "bees": 10**7}),
            ("note", {"note": "x" * 2001}), ("note", {"note": "nul \x00 sign"}), ("colony_id", {"colony_id": "mine"}),
            ("wings", {"wings": 4}), ("place_of_bees", {"place_of_bees": "roof"}),
        ):  # fmt: skip
            with self.subTest(field=field, changes=str(changes)[:60]):
                self.fault(self.call("POST", "/counts", {**wash(colony, [1]), **changes}), field)
        self.assertEqual(self.call("POST", "/counts", wash(uuid4(), [1])).status_code, 404)
        dead = owner_rows(
            self.server.owner_url,
            "SELECT id, apiary_id FROM colony WHERE state = 'dead' AND association_id = %s LIMIT 1",
            made_id("corrane"),
        )[0]
        self.fault(self.call("POST", "/counts", wash(dead[0], [1])), "taken_at")
        asked = {"apiary_id": str(dead[1]), "colony_ids": [str(dead[0])]}
        self.fault(self.call("POST", "/courses/options", asked), "colony_ids")

    def test_an_amendment_keeps_the_former_and_two_people_do_not_overwrite(self) -> None:
        """The second of two who read version 1 hears of it; the history shows both values and the reason."""
        body = wash(self.one_of("Plover Hay", 3), [5, 1])
        self.call("POST", "/counts", body)
        amended = {key: value for key, value in body.items() if key != "id"} | {
            "shakes": [8, 1],
            "reason": "misread the tray",
        }
        first = self.call("PUT", f"/counts/{body['id']}", amended, version=1)
        self.assertEqual((first.status_code, first.json()["count"]["version"]), (200, 2))
        self.assertEqual(
            self.call("PUT", f"/counts/{body['id']}", amended | {"shakes": [9]}, version=1).status_code, 409
        )
        self.assertEqual(self.call("PUT", f"/counts/{body['id']}", amended).status_code, 428)
        self.fault(self.call("PUT", f"/counts/{body['id']}", amended | {"reason": " "}, version=2), "reason")
        history = self.call("GET", f"/counts/{body['id']}/history").json()
        self.assertEqual([entry["current"]["shakes"] for entry in history], [[8, 1], [5, 1]])
        self.assertEqual(history[0]["reason"], "misread the tray")

    def test_the_ruler_says_what_the_server_will_say(self) -> None:
        """A jar's marks, used without a signal, are the judgement that the recorded wash gets."""
        jar = {
            "apiary_id": str(made_id("corrane", "apiary", "Cairn Yard")),
            "bees_known_by": "volume_level",
            "volume_ml": 120,
        }
        ruler = self.call("POST", "/counts/ruler", jar).json()["ruler"]
        result = self.call("POST", "/counts", wash(self.one_of("Cairn Yard", 0), [6, 1])).json()
        mark = ruler["more_shakes"][7]
        self.assertAlmostEqual(mark["median"], result["reading"]["median"])
        self.assertAlmostEqual(mark["p_act"], result["judgement"]["p_act"])
        self.assertEqual((mark["level"], mark["advice"]), (result["judgement"]["level"], result["judgement"]["advice"]))
        one = self.call("POST", "/counts", wash(self.one_of("Cairn Yard", 1), [7])).json()
        self.assertAlmostEqual(ruler["one_shake"][7]["median"], one["reading"]["median"])
        unknown = {"apiary_id": jar["apiary_id"], "bees_known_by": "not_recorded"}
        self.assertIsNone(self.call("POST", "/counts/ruler", unknown).json()["ruler"])


class Courses(Api):
    def test_from_a_count_to_a_verdict(self) -> None:
        """Count, choose, plan, carry out, count again, see the result: the whole story of one colony at the dry coast."""
        colony, apiary = self.one_of("Cairn Yard", 2), str(made_id("corrane", "apiary", "Cairn Yard"))
        after = {"frames_of_bees": 10.0, "capped_brood": True, "eggs_seen": True, "supers_on": False, "feed": "none"}
        visit = {"id": str(uuid4()), "visited_on": "2031-07-18", "after": after}
        self.assertEqual(self.call("POST", f"/colonies/{colony}/past-visits", visit).status_code, 201)
        self.call("POST", "/counts", wash(colony, [21, 5, 1], taken_at="2031-07-19T10:00:00Z"))
        options = self.call("POST", "/courses/options", {"apiary_id": apiary, "colony_ids": [colony]}).json()
        strips = next(one for one in options["colonies"][0]["options"] if one["option_id"] == "FA_STRIP2")
        self.assertIn(strips["verdict"], ("allowed", "allowed_with_cautions"))
        self.assertEqual((strips["dose"]["quantity"], strips["dose"]["unit"]), (2, "strip"))

        course = str(uuid4())
        plan = {"id": str(uuid4()), "apiary_id": apiary, "option_id": "FA_STRIP2", "start_on": "2031-08-02",
                "courses": [{"id": course, "colony_id": colony}]}  # fmt: skip
        self.assertEqual(self.call("POST", "/plans", plan).json()[0]["course_id"], course)
        self.assertEqual(self.call("POST", "/plans", plan).json()[0]["course_id"], course, "sent twice")

        def act(step: str, day: str, **more: Any) -> Any:
            return self.call(
                "POST", f"/courses/{course}/acts", {"id": str(uuid4()), "step": step, "done_on": day, **more}
            )

        self.assertEqual(act("place_1", "2031-08-02", quantity=2).json()["rule"], "order")
        for step, day in (("prepare", "2031-07-30"), ("close_supers_feeder", "2031-07-30")):
            self.assertEqual(act(step, day).status_code, 201)
        self.fault(act("place_1", "2031-08-02"), "quantity")
        self.fault(act("place_1", "2031-08-04", quantity=2), "done_on")
        placed = act("place_1", "2031-08-02", quantity=2, lot="F-1")
        self.assertEqual((placed.status_code, placed.json()["state"]), (201, "under_way"))
        again = act("place_1", "2031-08-02", quantity=2)
        self.assertEqual(again.status_code, 409)
        self.assertIn("Bettrys Lund", again.json()["detail"])
        early = act("end", "2031-08-02").json()
        self.assertEqual((early["rule"], early["can_override"]), ("S2", True))
        second = {**plan, "id": str(uuid4()), "courses": [{"id": str(uuid4()), "colony_id": colony}]}
        held = self.call("POST", "/plans", second).json()[0]
        self.assertIn("T09", [reason["rule"] for reason in held["held_by"]])

    def test_late_steps_move_the_rest_with_their_reason(self) -> None:
        """The second strip of Kettle Wood waits for the heat to pass; what follows waits with it and says why."""
        colony = self.colony("Kettle Wood", "K4")
        course = owner_rows(
            self.server.owner_url, "SELECT id FROM course WHERE colony_id = %s AND state = 'under_way'", colony
        )[0][0]
        view = self.call("GET", f"/courses/{course}").json()
        steps = {step["name"]: step for step in view["steps"]}
        self.assertEqual(steps["place_2"]["state"], "waiting_for_weather")
        self.assertEqual((steps["place_2"]["ideal"], steps["place_2"]["moved_days"]), ("2031-08-06", 4))
        self.assertEqual(steps["place_2"]["moved_why"]["code"], "day_too_hot")
        self.assertEqual((steps["end"]["ideal"], steps["end"]["moved_days"]), ("2031-08-13", 4))
        body = {"id": str(uuid4()), "step": "place_2", "done_on": "2031-08-02", "quantity": 1}
        refused = self.call("POST", f"/courses/{course}/acts", body)
        self.assertEqual((refused.status_code, refused.json()["rule"]), (409, "T60"))
        override = {"rule": "T60", "authorised_by": "Idris Calloway", "reason": "shaded, entrance open"}
        done = self.call("POST", f"/courses/{course}/acts", {**body, "id": str(uuid4()), "override": override})
        self.assertEqual(done.status_code, 201)
        act = next(step["act"] for step in done.json()["steps"] if step["name"] == "place_2")
        self.assertEqual(act["override_by"], "Idris Calloway")

    def test_the_verdict_on_a_course_with_controls(self) -> None:
        """Brae Garth's wash today verifies the strips of July; the level follows what is left."""
        colony = self.colony("Brae Garth", "B2")
        course = owner_rows(
            self.server.owner_url, "SELECT id FROM course WHERE colony_id = %s AND start_on = '2031-07-15'", colony
        )[0][0]
        count = wash(colony, [0, 0])
        self.call("POST", "/counts", count)
        act = {"id": str(uuid4()), "step": "verify", "done_on": "2031-08-02", "count_id": count["id"]}
        verified = self.call("POST", f"/courses/{course}/acts", act).json()
        self.assertEqual(verified["verdict"]["word"], "worked")
        self.assertLess(verified["verdict"]["median_pct"], 100)
        self.assertGreater(verified["verdict"]["low_pct"], 40)
        closed = self.call(
            "POST", f"/courses/{course}/acts", {"id": str(uuid4()), "step": "close", "done_on": "2031-08-02"}
        )
        self.assertEqual(closed.json()["state"], "verified_worked")
        self.assertEqual(self.call("GET", f"/colonies/{colony}").json()["colony"]["level"], "clear")

    def test_a_count_of_another_colony_verifies_nothing(self) -> None:
        """The count that verifies a course is of the course's colony, and taken after its end."""
        colony, other = self.colony("Brae Garth", "B3"), self.colony("Brae Garth", "B4")
        course = owner_rows(
            self.server.owner_url, "SELECT id FROM course WHERE colony_id = %s AND start_on = '2031-07-15'", colony
        )[0][0]
        wrong = wash(other, [1, 0])
        self.call("POST", "/counts", wrong)
        act = {"step": "verify", "done_on": "2031-08-02"}
        for count_id in (wrong["id"], None, str(uuid4())):
            with self.subTest(count_id=count_id):
                answer = self.call("POST", f"/courses/{course}/acts", {"id": str(uuid4()), "count_id": count_id, **act})
                self.assertIn(answer.status_code, (404, 409, 422))

    def test_abandoning_asks_when_it_came_out(self) -> None:
        """A course with strips in the hive is not abandoned without the day of their removal, nor without a why."""
        colony = self.colony("Kettle Wood", "K7")
        course = owner_rows(
            self.server.owner_url, "SELECT id FROM course WHERE colony_id = %s AND state = 'under_way'", colony
        )[0][0]
        self.fault(self.call("POST", f"/courses/{course}/abandon", {"why": ""}), "why")
        self.fault(self.call("POST", f"/courses/{course}/abandon", {"why": "absconded"}), "removed_on")
        done = self.call("POST", f"/courses/{course}/abandon", {"why": "absconded", "removed_on": "2031-08-01"})
        self.assertEqual(done.json()["state"], "abandoned")


class ColoniesAndPlaces(Api):
    def test_lineage_survives_split_renumbering_and_merger(self) -> None:
        """A split knows its parent, the parent its split; a new label keeps the history; the merged stays readable."""
        parent, child = self.one_of("St Ossory", 0), str(uuid4())
        apiary = str(made_id("corrane", "apiary", "St Ossory"))
        added = self.call("POST", "/colonies", {"id": child, "apiary_id": apiary, "label": "O19", "since": "2031-07-01", "split_from": parent,
                                                "boxes": [{"purpose": "brood", "frame_format": "A_deep", "frames": 10}],
                                                "queen": {"year": 2031, "mark_seen": "blue", "since": "2031-07-01"}})  # fmt: skip
        self.assertEqual(added.status_code, 201)
        view = self.call("GET", f"/colonies/{child}").json()
        self.assertEqual((view["events"][0]["kind"], view["events"][0]["other_colony_id"]), ("split_from", parent))
        self.assertEqual(view["queens"][0]["mark_expected"], "white")
        self.assertIn("would be white", view["queens"][0]["mark_differs"])
        self.assertIn(child, [event["colony_id"] for event in self.call("GET", f"/colonies/{parent}").json()["events"]])
        change = {"label": "O12", "state": "alive", "state_since": "2031-07-20"}
        self.assertEqual(self.call("PUT", f"/colonies/{child}", change, version=1).json()["label"], "O12")
        self.fault(
            self.call(
                "PUT",
                f"/colonies/{child}",
                {**change, "label": living(self.server.owner_url, "St Ossory")[0][1]},
                version=2,
            ),
            "label",
        )
        merged = self.call(
            "POST",
            f"/colonies/{child}/merge",
            {"into": parent, "on": "2031-08-01", "queen": "of_other", "combs": "store"},
            version=2,
        )
        self.assertEqual(merged.json()["state"], "merged")
        kinds = {event["kind"] for event in self.call("GET", f"/colonies/{child}").json()["events"]}
        self.assertEqual(kinds, {"split_from", "renumbered", "merged_into"})

    def test_two_colonies_may_share_a_hive(self) -> None:
        """K1 and K2 of the demo stand in one hive body, and the record says so."""
        view = self.call("GET", f"/colonies/{self.colony('Kettle Wood', 'K2')}").json()
        self.assertEqual(view["hive"][0]["labels"], ["K1", "K2"])

    def test_a_policy_judges_every_colony_anew(self) -> None:
        """Flat 3 calls fewer colonies to act than the season's 2; bad policies are refused at their field."""
        with closing(self.server.sign_in("administrator@corrane.example")) as administrator:
            before = administrator.get("/api/v1/policy").json()
            over = sum(one["act"] + one["urgent"] for one in self.call("GET", "/apiaries").json()["apiaries"])
            body = {
                "scheme": "flat_3",
                "calendar": before["calendar"],
                "treatment_rules": {"authorised": ["FA_STRIP2"]},
            }
            changed = administrator.put("/api/v1/policy", json=body, headers={"If-Match": '"1"'}, timeout=120)
            self.assertEqual((changed.status_code, changed.json()["version"]), (200, 2))
            after = sum(one["act"] + one["urgent"] for one in self.call("GET", "/apiaries").json()["apiaries"])
            self.assertLess(after, over)
            for field, wrong in (
                ("scheme", {**body, "scheme": "moon"}), ("calendar.peak", {**body, "calendar": {"peak": "13-01"}}),
                ("treatment_rules.authorised[0]", {**body, "treatment_rules": {"authorised": ["WHISKY"]}}),
            ):  # fmt: skip
                answer = administrator.put("/api/v1/policy", json=wrong, headers={"If-Match": '"2"'})
                self.fault(answer, field)

    def test_the_worklist_names_what_waits_for_what(self) -> None:
        """The demo's day holds treatments, weather, check counts, overdue steps and counts, each with its why."""
        unit = self.call("GET", "/worklist").json()
        self.assertEqual(unit["phase"], "pre_winter")
        kinds = {(line["apiary"], line["step"], line["urgency"]) for line in unit["steps"]}
        self.assertIn(("Kettle Wood", "place_2", "waiting_for_weather"), kinds)
        self.assertIn(("Plover Hay", "verify", "overdue"), kinds)
        self.assertIn("Brae Garth", {line["apiary"] for line in unit["steps"] if line["kind"] == "verify"})
        self.assertTrue(unit["over"] and unit["counts"])


class OpenCalculators(Api):
    def test_they_answer_without_signing_in_and_list_themselves(self) -> None:
        """Each example posted to its own address is answered, by anyone in the demo."""
        import httpx

        with httpx.Client(base_url=self.server.url, timeout=30) as anyone:
            listed = anyone.get("/api/v1/calculators").json()
            self.assertEqual({one["name"] for one in listed}, set(CALCULATORS))
            for one in listed:
                with self.subTest(calculator=one["name"]):
                    answer = anyone.post(f"/api/v1/calculators/{one['name']}", json=one["example"])
                    self.assertEqual(answer.status_code, 200, answer.text)
            bad = anyone.post(
                "/api/v1/calculators/phase_threshold",
                json={"date": "2031-08-02", "calendar": {"peak": "02-30"}, "scheme": "flat_2"},
            )
            self.fault(bad, "calendar.peak")
            self.fault(anyone.post("/api/v1/calculators/removal", json={"shakes": [1, -1]}), "shakes[1]")
            self.fault(
                anyone.post(
                    "/api/v1/calculators/p_over", content=b"not json", headers={"content-type": "application/json"}
                ),
                "body",
            )
            self.assertEqual(anyone.post("/api/v1/calculators/none", json={}).status_code, 404)
