"""What came or went elsewhere, what an examination says of a contact, the order of a round, sources in common."""

from __future__ import annotations

import itertools
import unittest
from dataclasses import replace
from datetime import date, timedelta
from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.core.tracing.contacts import (
    STOP_ORDER,
    Examined,
    Stop,
    changes_since,
    distance_m,
    status_of,
    stop_class,
    visit_round,
)
from redframe.core.tracing.elsewhere import OutsideMovement, check_movement, node_elsewhere
from redframe.core.tracing.movements import Movement
from redframe.core.tracing.sources import common_sources
from redframe.core.tracing.traces import trace

TODAY = date(2031, 8, 2)
OWN, OTHER, ID = UUID(int=1), UUID(int=2), UUID(int=3)
SWARM = OutsideMovement(OWN, "came", "swarm", TODAY, TODAY, None, "", False, False, "")


class Elsewhere(unittest.TestCase):
    def test_what_cannot_be_is_refused_at_its_field(self) -> None:
        later = TODAY + timedelta(days=1)
        wrong = {
            "latest": [replace(SWARM, earliest=later), replace(SWARM, latest=later)],
            "earliest": [replace(SWARM, earliest=TODAY - timedelta(days=1101))],
            "kind": [replace(SWARM, kind="sale"), replace(SWARM, way="went", kind="package", elsewhere="x")],
            "other_colony_id": [replace(SWARM, other_colony_id=OWN)],
            "elsewhere": [
                replace(SWARM, other_colony_id=OTHER, elsewhere="x"),
                replace(SWARM, way="went", elsewhere=" "),
            ],
            "is_disinfected": [replace(SWARM, is_disinfected=True)],
        }
        check_movement(SWARM, TODAY)
        check_movement(replace(SWARM, kind="extractor", is_disinfected=True, elsewhere="club"), TODAY)
        for field, cases in wrong.items():
            for case in cases:
                with self.subTest(field=field), self.assertRaises(InvalidInput) as refused:
                    check_movement(case, TODAY)
                self.assertEqual(refused.exception.field, field)

    def test_one_place_elsewhere_is_one_place(self) -> None:
        """However it is written; but what nobody knows is never the same source."""
        self.assertEqual(node_elsewhere("Nucleus  dealer", OWN), node_elsewhere("nucleus dealer", OTHER))
        self.assertNotEqual(node_elsewhere("", OWN), node_elsewhere("", OTHER))


class Contacts(unittest.TestCase):
    def test_only_a_full_look_afterwards_clears(self) -> None:
        contact = date(2031, 7, 10)
        full = Examined(date(2031, 7, 11), 8, 8, True)
        self.assertEqual(status_of(full, contact, is_suspect=False), "clear")
        for other, said in (
            (replace(full, on=contact), "unknown"), (replace(full, combs_read=7), "unknown"),
            (replace(full, combs_read=0, brood_combs=0), "unknown"), (None, "unknown"),
            (replace(full, is_clean=False), "suspect"),
        ):  # fmt: skip
            self.assertEqual(status_of(other, contact, is_suspect=False), said)
        self.assertEqual(status_of(full, contact, is_suspect=True), "suspect")

    def test_an_apiary_counts_by_its_worst(self) -> None:
        self.assertEqual(stop_class([("clear", "high"), ("unknown", "low")]), "low")
        self.assertEqual(stop_class([("clear", "high")]), "clear")
        self.assertEqual(stop_class([("unknown", "high"), ("suspect", "low")]), "suspect")

    def test_the_round(self) -> None:
        """Every stop once, never a cleaner one after a worse one; within a class the nearest next, by brute force."""
        stops = [
            Stop(str(number), STOP_ORDER[number % 3], 44.0 + 0.01 * (number * 7 % 5), -31.0 - 0.013 * (number * 3 % 7))
            for number in range(9)
        ]
        found = visit_round(stops, (44.0, -31.0))
        self.assertCountEqual([one.apiary for one in found], [one.apiary for one in stops])
        ranks = [STOP_ORDER.index(one.kind) for one in found]
        self.assertEqual(ranks, sorted(ranks))
        here = (44.0, -31.0)
        for index, stop in enumerate(found):
            left = [one for one in found[index:] if one.kind == stop.kind]
            least = min(distance_m(here, (one.latitude, one.longitude)) for one in left)
            self.assertAlmostEqual(stop.metres, least)
            here = stop.latitude, stop.longitude

    def test_a_degree_along_a_meridian(self) -> None:
        """A quarter of a great circle is a quarter of the sphere's girth."""
        self.assertAlmostEqual(distance_m((0, 0), (90, 0)), 6_371_008.8 * 3.141592653589793 / 2, places=3)
        for a, b in itertools.permutations([(44.1, -31.2), (43.9, -30.8)], 2):
            self.assertAlmostEqual(distance_m(a, b), distance_m(b, a))

    def test_what_a_list_gained_and_lost(self) -> None:
        found = changes_since({"a": "low", "b": "high", "c": "low"}, {"a": "low", "b": "low", "d": "medium"})
        self.assertEqual({(one.colony, one.before, one.now) for one in found},
                         {("b", "high", "low"), ("c", "low", None), ("d", None, "medium")})  # fmt: skip


class Sources(unittest.TestCase):
    def test_what_two_cases_share_comes_first(self) -> None:
        """A dealer of both is found; what only one has is not; a case can be the source of another; three before two."""
        days = [TODAY - timedelta(days=30 - number) for number in range(30)]

        def went(day: int, origin: str, target: str) -> Movement:
            return Movement(f"{origin}{target}", days[day], days[day], origin, target, "brood_frame")

        log = [
            went(1, "dealer", "A"),
            went(2, "dealer", "B"),
            went(3, "only", "A"),
            went(5, "A", "C"),
            went(4, "B", "D"),
        ]
        traced = {
            case: trace(log, [], case, "afb", since=days[0], until=TODAY, direction="backward")
            for case in ("A", "B", "C")
        }
        found = common_sources(traced, {case: case for case in traced})
        self.assertEqual([one.place for one in found], ["dealer", "only"])
        self.assertEqual(set(found[0].paths), {"A", "B", "C"})
        self.assertEqual(set(found[1].paths), {"A", "C"})
        self.assertEqual([one.origin for one in found[0].paths["C"].movements], ["dealer", "A"])


if __name__ == "__main__":
    unittest.main()
