"""The open calculators over the wire: the same answers as the rules, the same refusals, for anybody who asks."""

from __future__ import annotations

import json
import unittest
from typing import Any

import httpx

from redframe.core.calculators import CALCULATORS
from redframe.core.errors import InvalidInput
from redframe.launch.system import ROOT
from redframe.work.to_json import to_json
from tests.support import Server, empty_template, new_database


class OverTheWire(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.server = Server(owner_url=new_database(empty_template()))
        cls.addClassCleanup(cls.server.stop)
        cls.client = httpx.Client(base_url=f"{cls.server.url}/api/v1/calculators", timeout=30)
        cls.addClassCleanup(cls.client.close)

    def ask(self, name: str, given: object) -> httpx.Response:
        """Ask a calculator without an account."""
        return self.client.post(f"/{name}", json=given)

    def faults(self, name: str, given: object) -> list[tuple[str, str]]:
        """Fields and codes that a calculator finds wrong."""
        answer = self.ask(name, given)
        self.assertEqual(answer.status_code, 422, answer.text[:300])
        self.assertEqual(answer.headers["content-type"], "application/problem+json")
        return [(one["field"], one["code"]) for one in answer.json()["errors"]]

    def test_each_answers_as_the_rules_do(self) -> None:
        """The example of each, sent by somebody without an account: the result of the core, field by field."""
        for name, item in CALCULATORS.items():
            with self.subTest(calculator=name):
                answer = self.ask(name, item.example)
                self.assertEqual(answer.status_code, 200, answer.text[:300])
                found = answer.json()
                if name == "eligibility":
                    for option in found["options"].values():
                        for reason in option["reasons"]:
                            self.assertGreater(len(reason.pop("text")), 8)
                expected = json.loads(json.dumps(to_json(item.compute(item.inputs.model_validate(item.example)))))
                self.assertEqual(found, expected)

    def test_the_list_says_how_to_ask(self) -> None:
        """All of them, each with a sentence, a method note that exists, and a schema that its own example fits."""
        listed = {one["name"]: one for one in httpx.get(f"{self.server.url}/api/v1/calculators").json()}
        self.assertEqual(set(listed), set(CALCULATORS))
        for name, one in listed.items():
            with self.subTest(calculator=name):
                self.assertTrue(one["sentence"].endswith("."))
                self.assertTrue((ROOT / one["method_note"]).is_file(), one["method_note"])
                self.assertLessEqual(set(one["example"]), set(one["inputs"]["properties"]))
                required = set(one["inputs"].get("required", []))
                self.assertLessEqual(required, set(one["example"]))
                self.assertFalse(one["inputs"].get("additionalProperties", True))

    def test_a_reason_carries_its_words(self) -> None:
        """Days and degrees written out, and what was compared with them."""
        given = json.loads(json.dumps(CALCULATORS["eligibility"].example))
        given["colony"]["supers_on"] = True
        answer = self.ask("eligibility", given).json()
        [supers] = [one for one in answer["options"]["THY_GEL"]["reasons"] if one["rule"] == "T50"]
        self.assertEqual(supers["text"], "Take honey supers off first")
        self.assertEqual(supers["compared"], {"supers_on": True, "limit": False})
        given["forecast"]["tmax"] = [36.5 for _ in given["forecast"]["tmax"]]
        hot = [one["text"] for one in self.ask("eligibility", given).json()["options"]["FA_STRIP2"]["reasons"]]
        self.assertTrue(any(one.startswith("Too hot on 2 August 2031: 36.5 °C, limit 29.5 °C") for one in hot), hot)

    def test_what_is_missing_or_unknown_is_named(self) -> None:
        """Each required field left out is named first and alone; a field that nobody knows is refused by its name."""
        for name, item in CALCULATORS.items():
            required = item.inputs.model_json_schema().get("required", [])
            for field in required:
                with self.subTest(calculator=name, field=field):
                    rest = {key: value for key, value in item.example.items() if key != field}
                    self.assertEqual(self.faults(name, rest)[0], (field, "missing"))
            with self.subTest(calculator=name, field="unknown"):
                self.assertIn("colour", [field for field, _ in self.faults(name, {**item.example, "colour": 3})])

    def test_the_first_bad_field_stands_first(self) -> None:
        """Paths are written as the reference writes them, inside lists and objects too."""
        calendar = {"dormant": "11-01", "build_up": "03-01", "peak": "05-15", "decline": "07-25", "winter_bees": "13-40"}  # fmt: skip
        for name, given, field in (
            ("removal", {"shakes": [-1, 4]}, "shakes[0]"),
            ("removal", {"shakes": [4, -1]}, "shakes[1]"),
            ("rate_interval", {"mites": -1, "bees": -300}, "mites"),
            ("phase_threshold", {"date": "2031-08-02", "calendar": calendar}, "calendar.winter_bees"),
            ("oxalic_batch", {"seams": [6, -8], "waste_pct": 10}, "seams[1]"),
            ("dose", {"option": "NO_SUCH", "seams": 8}, "option"),
            ("henderson_tilton", {"treated_pre": 0, "treated_post": 1.0, "control_pre": 6.0, "control_post": 9.0}, "treated_pre"),
            ("course", {"option": "FA_STRIP11", "start": "2031-08-04", "actuals": {"place_9": "2031-08-05"}}, "place_9"),
        ):  # fmt: skip
            with self.subTest(calculator=name, field=field):
                self.assertEqual(self.faults(name, given)[0][0], field)

    def test_refusals_are_those_of_the_rules(self) -> None:
        """What the core refuses by itself is refused here with the same field and code."""
        given: dict[str, Any] = {"removed": "2031-10-05", "withdrawal_days": 14}
        for changes in ({"withdrawal_days": -1}, {"withdrawal_days": 100_000}, {"removed": "05.10.2031"}):
            with self.subTest(changes=changes):
                item = CALCULATORS["clearance"]
                with self.assertRaises((InvalidInput, ValueError)):
                    item.compute(item.inputs.model_validate({**given, **changes}))
                self.assertEqual(self.faults("clearance", {**given, **changes})[0][0], next(iter(changes)))

    def test_what_is_no_question_is_no_error_of_ours(self) -> None:
        """A list, text, nothing, a number too large to be one, a body of a megabyte, an unknown name: never a 500."""
        for body in (b"[]", b'"6 mites"', b"", b"{", b'{"mites": 1e999, "bees": 300}', b'{"mites": NaN, "bees": 300}'):
            with self.subTest(body=body):
                answer = self.client.post("/rate_interval", content=body, headers={"Content-Type": "application/json"})
                self.assertIn(answer.status_code, (400, 422), answer.text[:200])
        long = self.ask("removal", {"shakes": [1] * 300_000})
        self.assertIn(long.status_code, (413, 422))
        self.assertEqual(self.ask("no_such", {}).status_code, 404)
        self.assertIn(self.client.get("/rate_interval").status_code, (404, 405))

    def test_the_same_question_has_the_same_answer(self) -> None:
        """A forecast is drawn, and still twice the same for the same random state; another state differs."""
        example = dict(CALCULATORS["forecast"].example)
        first, again = (self.ask("forecast", example).content for _ in range(2))
        self.assertEqual(first, again)
        other = self.ask("forecast", {**example, "random_state": int(example.get("random_state", 1)) + 1})
        self.assertNotEqual(first, other.content)
