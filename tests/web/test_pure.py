"""Days, units, jars and scales of the front end against Python's calendar, exact constants and the rules of a tally."""

from __future__ import annotations

import atexit
import json
import math
import random
import subprocess
import unittest
from datetime import date, timedelta
from functools import cache
from typing import Any

from redframe.core.sampling.bees import bees_in_sample
from redframe.launch import front_end
from redframe.launch.system import ROOT

METRIC = {"temperature": "celsius", "mass": "kg", "volume": "ml"}
OTHERS = {"temperature": "fahrenheit", "mass": "lb", "volume": "cup"}


@cache
def _node() -> subprocess.Popen[str]:
    """One Node for all calls: it bundles each module once."""
    front_end.install()
    command = ["node", str(ROOT / "tests" / "web" / "run.mjs"), str(ROOT / "web")]
    process = subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)

    def end() -> None:
        process.communicate(timeout=10)

    atexit.register(end)
    return process


def calls(module: str, *wanted: list[Any]) -> list[Any]:
    """Call functions of a module of web/src in Node: each `[name, argument, ...]`; their results in order."""
    node = _node()
    assert node.stdin is not None and node.stdout is not None
    print(json.dumps({"module": module, "calls": wanted}), file=node.stdin, flush=True)
    answered: list[Any] = json.loads(node.stdout.readline())
    return answered


def run(module: str, script: str) -> Any:
    """What a script answers that is given a module of web/src as `module`."""
    node = _node()
    assert node.stdin is not None and node.stdout is not None
    print(json.dumps({"module": module, "script": script}), file=node.stdin, flush=True)
    return json.loads(node.stdout.readline())


class Days(unittest.TestCase):
    def test_days_are_pythons_days(self) -> None:
        """Differences, sums and names of 400 days from 1999 to 2060, leap years and turns of the year among them."""
        chance = random.Random(2031)
        first = date(1999, 1, 1)
        days = [first + timedelta(days=chance.randrange(22_000)) for _ in range(400)] + [
            date(2032, 2, 29),
            date(2031, 12, 31),
        ]
        steps = [chance.randrange(-800, 800) for _ in days]
        wanted = [["addDays", day.isoformat(), step] for day, step in zip(days, steps, strict=True)]
        self.assertEqual(calls("ui/dates.ts", *wanted), [(day + timedelta(days=step)).isoformat() for day, step in zip(days, steps, strict=True)])  # fmt: skip
        pairs = list(zip(days, reversed(days), strict=True))
        self.assertEqual(calls("ui/dates.ts", *[["daysBetween", a.isoformat(), b.isoformat()] for a, b in pairs]), [(b - a).days for a, b in pairs])  # fmt: skip
        named = calls("ui/dates.ts", *[["weekday", day.isoformat()] for day in days])
        self.assertEqual(named, [f"{day:%A} {day.day} {day:%B}" for day in days])
        self.assertEqual(calls("ui/dates.ts", *[["longDay", day.isoformat()] for day in days]), [f"{day.day} {day:%B} {day.year}" for day in days])  # fmt: skip

    def test_days_as_people_say_them(self) -> None:
        """The year only when it is another; today, tomorrow, yesterday; a sentence of the core in plain days."""
        today = "2031-08-02"
        self.assertEqual(
            calls(
                "ui/dates.ts", ["shortDay", "2031-08-25", today], ["shortDay", "2030-12-01", today], ["relativeDay", today, today],
                ["relativeDay", "2031-08-03", today], ["relativeDay", "2031-08-01", today], ["relativeDay", "2031-08-12", today],
                ["relativeDay", "2031-07-20", today], ["sayDays", "not before 2031-08-06, at the latest 2032-01-02", today],
                ["plural", 1, "apiary", "apiaries"], ["plural", 0, "apiary", "apiaries"],
            ),
            ["25 Aug", "1 Dec 2030", "today", "tomorrow", "yesterday", "in 10 days", "13 days ago",
             "not before 6 Aug, at the latest 2 Jan 2032", "1 apiary", "0 apiaries"],
        )  # fmt: skip


class Units(unittest.TestCase):
    def test_conversions_are_exact_to_what_is_shown(self) -> None:
        """Fahrenheit by 9/5 and 32, ounces by 28.349523 g, US cups by 236.588 ml, whatever the amount."""
        for celsius in (-12.5, 0, 10, 29.5, 31):
            self.assertEqual(calls("ui/units.ts", ["temperature", celsius, OTHERS])[0], f"{math.floor(celsius * 9 / 5 + 32 + 0.5)} °F")  # fmt: skip
        self.assertEqual(calls("ui/units.ts", ["temperature", 29.5, METRIC], ["volume", 120, METRIC], ["volume", 118.294, OTHERS], ["mass", 28.349523, OTHERS]),
                         ["29.5 °C", "120 ml", "0.50 US cup", "1.00 oz"])  # fmt: skip
        self.assertEqual(
            calls("ui/units.ts", ["sayTemperatures", "32.1 °C, limit 29.5 °C", OTHERS])[0], "90 °F, limit 85 °F"
        )

    def test_a_chance_is_never_bare_certainty(self) -> None:
        """Neither 0 nor 100 in 100 is ever said of a chance; rates keep one decimal until they are huge."""
        answer = calls("ui/units.ts", *[["chance", p] for p in (0, 0.004, 0.2, 0.5, 0.994, 0.996, 1)])
        self.assertEqual(answer, ["under 1 in 100", "under 1 in 100", "20 in 100", "50 in 100", "99 in 100", "over 99 in 100", "over 99 in 100"])  # fmt: skip
        self.assertEqual(calls("ui/units.ts", ["rate", 2], ["rate", 6.44], ["rate", 104.2], ["quantity", 2, "strip"], ["quantity", 1, "strip"], ["quantity", 40, "ml"]),
                         ["2.0", "6.4", "104", "2 strips", "1 strip", "40 ml"])  # fmt: skip


class Jars(unittest.TestCase):
    def tally(self, keys: str) -> list[int]:
        """The shakes of a jar after these keys: m a mite, s the next shake, b one step back."""
        setup = {"knownBy": "volume_level", "bees": None, "volumeMl": 120, "massG": None, "place": "brood_frame", "brood": "open_and_capped", "queen": "yes", "method": "wash", "timer": None, "squaresInAll": 1}  # fmt: skip
        jar = {"id": "x", "colonyId": "c", "label": "1", "shakes": [0], "done": [], "takenAt": None, "sending": {"state": "open"}, **setup}  # fmt: skip
        for key in keys:
            name = {"m": "addMite", "s": "nextShake", "b": "oneBack"}[key]
            [jar] = calls(
                "features/sampling/jars.ts", [name, jar, "2031-08-02T11:00:00Z"] if key != "b" else [name, jar]
            )
        shakes: list[int] = jar["shakes"]
        return shakes

    def test_one_step_back_undoes_the_last_step(self) -> None:
        """After any step, one back is where it was; below nothing it stays at nothing."""
        self.assertEqual(self.tally("mmmsmb"), [3, 0])
        self.assertEqual(self.tally("mmsbm"), [3])
        self.assertEqual(self.tally("bb"), [0])

    def test_a_jar_takes_eight_shakes(self) -> None:
        """As many as are recorded; the ninth is no shake."""
        self.assertEqual(len(self.tally("s" * 9)), 8)

    def test_cells_are_taken_back_one_by_one(self) -> None:
        """Free, infested, one more mite in it, and all the way back."""
        jar = {
            "method": "drone_brood",
            "shakes": [0],
            "done": [],
            "opened": 0,
            "infested": 0,
            "cellMites": None,
            "takenAt": None,
        }
        for what in ("free", "infested", "another", "infested"):
            [jar] = calls("features/sampling/jars.ts", ["addCell", jar, what, "2031-08-02T11:00:00Z"])
        self.assertEqual((jar["opened"], jar["infested"], jar["cellMites"]), (3, 2, 3))
        for opened, infested, mites in ((2, 1, 2), (2, 1, None), (1, 0, None), (0, 0, None), (0, 0, None)):
            [jar] = calls("features/sampling/jars.ts", ["oneBack", jar])
            self.assertEqual((jar["opened"], jar["infested"], jar["cellMites"]), (opened, infested, mites))

    def test_a_rest_is_kept_as_long_as_it_was(self) -> None:
        """The timer of a sugar roll counts down from two minutes; the first mite ends it and its seconds are kept."""
        jar = {
            "method": "sugar",
            "shakes": [0],
            "done": [],
            "timer": "2031-08-02T11:00:00Z",
            "restedS": None,
            "takenAt": None,
        }
        path = "features/sampling/jars.ts"
        self.assertEqual(
            calls(path, ["secondsLeft", jar, "2031-08-02T11:00:30Z"], ["secondsLeft", jar, "2031-08-02T11:05:00Z"]),
            [90, 0],
        )
        [ended] = calls(path, ["addMite", jar, "2031-08-02T11:01:35Z"])
        self.assertEqual((ended["timer"], ended["restedS"]), (None, 95))

    def test_the_usual_jar_is_about_three_hundred_bees(self) -> None:
        """What the front end sets up by default is what the core reads as half a cup of bees."""
        [measure] = calls("features/sampling/jars.ts", ["asMeasure", {"method": "wash", "knownBy": "volume_level", "bees": 7, "volumeMl": 120, "massG": 9, "place": "super"}, "a", "2031-08-02T11:00:00Z"])  # fmt: skip
        self.assertEqual((measure["bees"], measure["mass_g"], measure["volume_ml"]), (None, None, 120))
        bees = bees_in_sample(measure["bees_known_by"], bees=None, volume_ml=measure["volume_ml"], mass_g=None)
        assert bees is not None
        self.assertAlmostEqual(bees.mean, 300, delta=10)


class Scale(unittest.TestCase):
    def test_the_rule_gives_room_to_low_rates(self) -> None:
        """Nothing at nothing, the end at thirty and beyond; the lower five take two fifths of the length; it rises."""
        shares = calls("instruments/scale.ts", *[["rateShare", rate] for rate in (-1, 0, 1, 2, 5, 10, 30, 200)])
        self.assertEqual((shares[0], shares[1], shares[6], shares[7]), (0, 0, 1, 1))
        self.assertEqual(shares, sorted(shares))
        self.assertAlmostEqual(shares[4], 0.41, delta=0.01)
