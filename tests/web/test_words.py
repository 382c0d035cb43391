"""What the screen says of days, units, places and codes: exact, in the person's units, with nothing lost on the way."""

from __future__ import annotations

import math
import random
import re
import unittest
from datetime import date, timedelta
from itertools import product
from typing import Any, get_args

from redframe.core.colonies.states import ColonyState
from redframe.core.policy.schemes import SCHEMES
from redframe.core.sampling.method import Scale
from redframe.core.status.status import Level
from redframe.core.treatments.states import CourseState
from redframe.launch.system import ROOT
from tests.web.test_pure import METRIC, OTHERS, calls

OUNCES = {**METRIC, "volume": "fl_oz"}

ONE = {"placings": 1, "chemical": True}
"""An option that is placed once."""


class Weights(unittest.TestCase):
    def test_pounds_are_exact(self) -> None:
        """0.45359237 kg, to one decimal, half away from nought, over the range of stores and colonies."""
        for kg in (0, 0.4, 1, 4.54, 12, 20, 45.359237, 200):
            with self.subTest(kg=kg):
                pounds = math.floor(kg / 0.45359237 * 10 + 0.5) / 10
                self.assertEqual(calls("ui/units.ts", ["weight", kg, OTHERS])[0], f"{pounds:g} lb")
                self.assertEqual(calls("ui/units.ts", ["weight", kg, METRIC])[0], f"{round(kg, 1):g} kg")

    def test_a_sentence_in_degrees(self) -> None:
        """Frost too, whole numbers and decimals; no degree without its sign is touched."""
        said = "daily maximum 32.1 °C, limit 29.5 °C, night -3 °C, 40 in 100"
        self.assertEqual(calls("ui/units.ts", ["sayTemperatures", said, OTHERS])[0], "daily maximum 90 °F, limit 85 °F, night 27 °F, 40 in 100")  # fmt: skip

    def test_volumes_and_masses(self) -> None:
        """Millilitres, US cups and imperial ounces; grams and ounces; each with its unit."""
        self.assertEqual(calls("ui/units.ts", ["volume", 120, OUNCES], ["volume", 236.588, OTHERS], ["mass", 100, METRIC], ["mass", 100, OTHERS]),
                         ["4.2 fl oz", "1.00 US cup", "100 g", "3.53 oz"])  # fmt: skip


class Sentences(unittest.TestCase):
    def test_days_in_a_sentence(self) -> None:
        """Every ISO day is written as people write it, wherever it stands; numbers that are none are left."""
        today = "2031-08-02"
        chance = random.Random(5)
        for _ in range(40):
            day = date(2030, 1, 1) + timedelta(days=chance.randrange(900))
            said = f"No laying for 9 days, since {day.isoformat()} or before (rule 2031-99)."
            year = "" if day.year == 2031 else f" {day.year}"
            self.assertEqual(calls("ui/dates.ts", ["sayDays", said, today])[0], said.replace(day.isoformat(), f"{day.day} {day:%b}{year}"))  # fmt: skip

    def test_far_days(self) -> None:
        """Days before and after as they are said; the name of a month; a day of a moment is the day."""
        self.assertEqual(
            calls("ui/dates.ts", ["relativeDay", "2031-08-04", "2031-08-02"], ["relativeDay", "2030-08-02", "2031-08-02"],
                  ["monthName", "2031-12-01"], ["shortDay", "2031-08-02T23:59:00Z", "2031-01-01"], ["plural", 2, "colony", "colonies"], ["plural", 2, "hive"]),
            ["in 2 days", "365 days ago", "December", "2 Aug", "2 colonies", "2 hives"],
        )  # fmt: skip

    def test_growth_says_how_sure_it_is(self) -> None:
        """A doubling is named where it is sure or likely, with a word where it may be none; a fall has none."""
        words = [["doubling", {"words": word, "doubling_days": days}] for word, days in (
            ("really_rose", 21.4), ("probably_rose", 33), ("no_clear_change", 50), ("really_fell", 20), ("really_rose", None))]  # fmt: skip
        self.assertEqual(calls("wording/growth.ts", *words), [", doubling in about 21 days", ", doubling in about 33 days if it did; it may not be rising", "", "", ""])  # fmt: skip


class Codes(unittest.TestCase):
    def module(self) -> dict[str, dict[str, str]]:
        """The tables of words, as the front end has them."""
        text = (ROOT / "web" / "src" / "wording" / "words.ts").read_text(encoding="utf-8")
        tables = {}
        for name, body in re.findall(r"export const (\w+)[^=]*= \{(.*?)\n\}", text, flags=re.S):
            tables[name] = {
                key.strip('"'): words for key, words in re.findall(r'^\s+("?[\w/-]+"?): "(.*)",$', body, flags=re.M)
            }
        return tables

    def test_every_code_of_the_core_has_its_word(self) -> None:
        """Closed sets of the core against the tables: none without a word, none left over, no word twice."""
        tables = self.module()
        for name, codes in (
            ("LEVEL", get_args(Level)), ("SCHEME", tuple(SCHEMES)), ("SCALE", get_args(Scale)),
            ("PER", get_args(Scale)), ("COURSE_STATE", get_args(CourseState)), ("COLONY_STATE", get_args(ColonyState)),
        ):  # fmt: skip
            with self.subTest(table=name):
                self.assertEqual(set(tables[name]), set(codes))
                self.assertEqual(len(set(tables[name].values())), len(codes))

    def test_words_are_words(self) -> None:
        """No code, underscore or trailing stop in what stands in a row; nothing empty, nothing long."""
        for name, table in self.module().items():
            for key, words in table.items():
                with self.subTest(table=name, key=key):
                    self.assertTrue(words)
                    self.assertNotIn("_", words)
                    self.assertLess(len(words), 110)

    def test_steps_have_names(self) -> None:
        """Doses by their number where there are several; every other step by its own words."""
        self.assertEqual(
            calls("wording/words.ts", ["stepName", "place_1", ONE], ["stepName", "place_2", {**ONE, "placings": 3}], ["stepName", "verify", ONE],
                  ["stepName", "baseline_count", ONE], ["stepName", "place_1", {**ONE, "chemical": False}],
                  ["stepName", "place_2", {"placings": 3, "chemical": False}], ["colonies", 1], ["colonies", 0]),
            ["Place the dose", "Place dose 2 of 3", "Check count", "Count before", "Do it at the hive", "Round 2 of 3", "1 colony", "0 colonies"],
        )  # fmt: skip

    def test_levels_in_a_programme_that_observes(self) -> None:
        """Its three levels have words of their own, all different from one another; nobody is told to act."""
        observed = [calls("wording/words.ts", ["levelWord", level, "observe"])[0] for level in get_args(Level)]
        usual = [calls("wording/words.ts", ["levelWord", level, scheme])[0] for level, scheme in product(get_args(Level), ("flat_2", None))]  # fmt: skip
        self.assertEqual(len(set(observed)), len(observed))
        self.assertNotIn("act", observed)
        self.assertEqual(set(usual), set(get_args(Level)))

    def test_units_of_a_scheme(self) -> None:
        """The daily fall is in mites a day, all others in mites per 100 bees, short and long."""
        for scheme in SCHEMES:
            fall = scheme == "fall_phase"
            self.assertEqual(calls("wording/words.ts", ["unitOf", scheme], ["perOf", scheme]),
                             ["mites a day", "a day"] if fall else ["mites per 100 bees", "per 100 bees"])  # fmt: skip


class Addresses(unittest.TestCase):
    def test_scenarios_survive_the_address(self) -> None:
        """What is chosen is written and read back as it was; what is no scenario is left out, the rest stays."""
        chosen: list[dict[str, Any]] = [
            {"kind": "course", "option_id": "FA_STRIP2", "start": "2031-08-06"},
            {"kind": "arrivals", "option_id": None, "start": "2031-09-01"},
            {"kind": "course", "option_id": "OX_VAPN", "start": "2031-12-20"},
        ]
        [texts] = calls("features/forecast/scenarios.ts", ["writeScenarios", chosen])
        self.assertEqual(texts, ["FA_STRIP2@2031-08-06", "arrivals@2031-09-01", "OX_VAPN@2031-12-20"])
        self.assertEqual(calls("features/forecast/scenarios.ts", ["readScenarios", texts])[0], chosen)
        broken = ["FA_STRIP2", "@2031-08-06", "fa@2031-08-06", "FA_STRIP2@soon", "<b>@2031-08-06", *texts[:1]]
        self.assertEqual(calls("features/forecast/scenarios.ts", ["readScenarios", broken])[0], chosen[:1])
        self.assertEqual(calls("features/forecast/scenarios.ts", ["readScenarios"])[0], [])


class Places(unittest.TestCase):
    def test_distances_along_the_sphere(self) -> None:
        """Against the law of cosines on a sphere of 6371 km, near and far; nought to itself, the same both ways."""
        chance = random.Random(3)

        def radians(place: dict[str, float]) -> tuple[float, float]:
            return math.radians(place["latitude"]), math.radians(place["longitude"])

        for _ in range(60):
            one = {"latitude": chance.uniform(-80, 80), "longitude": chance.uniform(-180, 180)}
            far = chance.random() < 0.5
            other = {"latitude": chance.uniform(-80, 80), "longitude": chance.uniform(-180, 180)} if far else {
                "latitude": one["latitude"] + chance.uniform(-0.2, 0.2), "longitude": one["longitude"] + chance.uniform(-0.2, 0.2)}  # fmt: skip
            (a, b), (c, d) = radians(one), radians(other)
            cosine = math.sin(a) * math.sin(c) + math.cos(a) * math.cos(c) * math.cos(b - d)
            expected = 6371 * math.acos(max(-1.0, min(1.0, cosine)))
            there, back, here = calls("ui/position.ts", ["distanceKm", one, other], ["distanceKm", other, one], ["distanceKm", one, one])  # fmt: skip
            self.assertAlmostEqual(there, expected, delta=max(0.01, expected * 1e-6))
            self.assertAlmostEqual(there, back, places=9)
            self.assertEqual(here, 0)


class Failures(unittest.TestCase):
    def test_what_an_error_means_for_what_waits(self) -> None:
        """What is no answer of the server at all leaves the item waiting: it is sent again."""
        [plain] = calls("sync/failure.ts", ["failureOf", {"status": 409}])
        self.assertEqual(plain, {"kind": "lost", "why": "It could not be sent.", "field": ""})


class Sides(unittest.TestCase):
    EMPTY = {"capped": 0, "open": 0, "eggs": 0, "drone": 0, "honey": 0, "nectar": 0, "pollen": 0, "eggs_seen": False, "bees": None}  # fmt: skip

    def test_what_covers_a_side(self) -> None:
        """Brood and food add up, bees walk over all of it; a side that nobody looked at is covered by nothing."""
        side = {**self.EMPTY, "capped": 3, "honey": 2, "pollen": 1, "bees": 10}
        self.assertEqual(calls("features/visits/covers.ts", ["covered", side], ["covered", None], ["covered", self.EMPTY]), [6, 0, 0])  # fmt: skip

    def test_the_same_side_is_the_same(self) -> None:
        """Equal content is equal; not looked at is not the same as empty."""
        other = {**self.EMPTY, "eggs_seen": True}
        same = calls("features/visits/covers.ts", ["areSame", self.EMPTY, dict(self.EMPTY)], ["areSame", self.EMPTY, None], ["areSame", None, None], ["areSame", self.EMPTY, other])  # fmt: skip
        self.assertEqual(same, [True, False, True, False])

    def test_an_answer_is_yes_no_or_none(self) -> None:
        """Not recorded is not no."""
        self.assertEqual(calls("features/visits/after-set.ts", ["asFlag", True], ["asFlag", False], ["asFlag", None]), ["yes", "no", ""])  # fmt: skip
