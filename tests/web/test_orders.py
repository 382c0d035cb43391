"""Orders and marks of the lists and strips, as pure functions: danger first, scales that hide nothing, the next stop."""

from __future__ import annotations

import random
import unittest
from typing import Any

from tests.web.test_pure import calls

LEVELS = ["urgent", "act", "unknown", "watch", "clear"]
ORDERS = "features/places/apiary-order.ts"
STRIP = "instruments/season-strip.tsx"
STOPS = "features/visits/stops.ts"


class Danger(unittest.TestCase):
    def test_the_most_pressing_first_and_the_higher_figure_in_it(self) -> None:
        """Random colonies: levels in their order, figures falling in each, nobody lost; by name as the apiary has them."""
        chance = random.Random(12)
        colonies = [
            {"id": str(n), "level": chance.choice(LEVELS), "median": chance.choice([None, chance.random() * 20])}
            for n in range(60)
        ]
        [found] = calls(ORDERS, ["coloniesInOrder", colonies, "danger"])
        self.assertEqual(sorted(one["id"] for one in found), sorted(one["id"] for one in colonies))
        keys = [(LEVELS.index(one["level"]), -(one["median"] if one["median"] is not None else -1)) for one in found]
        self.assertEqual(keys, sorted(keys))
        self.assertEqual(calls(ORDERS, ["coloniesInOrder", colonies, "name"]), [colonies])

    def test_by_the_day_on_which_they_go_over(self) -> None:
        """A day that is likely, then one that is possible, then none, then no forecast at all; ties as they were."""
        colonies = [{"id": one, "level": "clear", "median": 1} for one in "abcdef"]
        days = {
            "a": (None, None),
            "b": ("2031-08-09", "2031-08-04"),
            "c": (None, "2031-08-03"),
            "e": ("2031-08-02", None),
        }
        outlooks = [{"colony_id": one, "date50": half, "date10": tenth} for one, (half, tenth) in days.items()]
        [found] = calls(ORDERS, ["coloniesInOrder", colonies, "forecast", outlooks])
        self.assertEqual([one["id"] for one in found], list("ebcadf"))


class OpenTop(unittest.TestCase):
    def test_no_figure_sits_lower_than_it_is(self) -> None:
        """The scale reaches the highest figure, whatever it is, and is the usual one where all are low."""
        for figures, falls, top in (([], False, 20), ([12.2], False, 20), ([32.6], False, 50), ([140], False, 140), ([61], True, 90), ([], True, 60)):  # fmt: skip
            with self.subTest(figures=figures, falls=falls):
                self.assertEqual(calls(STRIP, ["stripTop", figures, falls]), [top])


def stop(label: str, *, last: str = "2031-07-01", draft: str | None = None, **more: Any) -> dict[str, Any]:
    """A stop of a round."""
    return {"id": label, "label": label, "last_visit": last, "draft": draft, "hold": None, "suspicious": [], **more}


class Stops(unittest.TestCase):
    TODAY = "2031-08-02"

    def next(self, *stops: dict[str, Any]) -> str | None:
        [found] = calls(STOPS, ["nextStop", list(stops), self.TODAY])
        return found and str(found["label"])

    def test_an_open_visit_is_gone_on_with(self) -> None:
        """One that is open goes before what was not opened yet; those done today are passed by; after all there is none."""
        done, left = stop("K1", last=self.TODAY), stop("K2")
        self.assertEqual(self.next(done, left, stop("K3", draft="x")), "K3")
        self.assertEqual(self.next(done, left), "K2")
        self.assertIsNone(self.next(done))

    def test_who_is_a_suspect(self) -> None:
        """A colony on hold, and one with signs that nobody has explained."""
        one = [stop("K1"), stop("K2", hold="other"), stop("K3", suspicious=["ropy"])]
        self.assertEqual(calls(STOPS, *(["suspect", each] for each in one)), [False, True, True])


class Asked(unittest.TestCase):
    def test_each_fact_is_asked_once(self) -> None:
        """Several rules that need the same fact ask one question; a reason that needs none asks nothing."""
        codes = ["strength_unknown", "brood_unknown", "brood_sighting_old", "day_too_hot", "supers_unknown"]
        [asked] = calls("features/treatments/missing-fact.tsx", ["factsAsked", [{"code": one} for one in codes]])
        self.assertEqual(asked, ["strength", "brood", "supers"])


class DrawnCourses(unittest.TestCase):
    MODULE = "features/colonies/drawn-course.ts"

    def course(self, **changes: Any) -> dict[str, Any]:
        """A course of two placings, the first done, that would best end on the 20th."""
        steps = [
            {"kind": "place", "ideal": "2031-07-26", "act": {"outcome": "done", "done_on": "2031-07-27"}},
            {"kind": "place", "ideal": "2031-08-06", "act": None},
            {"kind": "end", "ideal": "2031-08-20", "act": None},
        ]
        whole = {"id": "c", "state": "under_way", "option": {"short_name": "Formic strips"}, "steps": steps}
        dates = {"start_on": "2031-07-26", "placed_on": "2031-07-27", "ended_on": None, "honey_clear_on": None}
        return {**whole, **dates, **changes}

    def test_it_is_drawn_as_it_was_done(self) -> None:
        """From the day of its placing to its best end; only what was placed is a placing."""
        [drawn] = calls(self.MODULE, ["drawnCourse", self.course()])
        self.assertEqual((drawn["occupies_from"], drawn["occupies_to"]), ("2031-07-27", "2031-08-20"))
        self.assertEqual(drawn["placings"], ["2031-07-27"])

    def test_planned_and_ended(self) -> None:
        """Planned it begins on its day; ended it stops where it did, however long it was to be."""
        planned, ended = calls(
            self.MODULE,
            ["drawnCourse", self.course(placed_on=None, state="planned")],
            ["drawnCourse", self.course(ended_on="2031-08-09", honey_clear_on="2031-08-09")],
        )
        self.assertEqual(planned["occupies_from"], "2031-07-26")
        self.assertEqual((ended["occupies_to"], ended["honey_clear_on"]), ("2031-08-09", "2031-08-09"))


class Piles(unittest.TestCase):
    def test_every_square_has_room(self) -> None:
        """The largest size at which no pile is higher than there is room; of thousands only areas are drawn."""
        chance = random.Random(4)
        for _ in range(40):
            piles = [{"colonies": chance.randint(0, 60), "wide": chance.randint(14, 90)} for _ in range(6)]
            [size] = calls("instruments/rate-piles.tsx", ["squareSize", piles, 120])

            def highest(square: int, piles: list[dict[str, int]] = piles) -> int:
                return max(-(-one["colonies"] // max(1, one["wide"] // square)) * square for one in piles)

            if size is not None:
                self.assertLessEqual(highest(size), 120)
            self.assertTrue(size == 12 or highest(3 if size is None else size + 1) > 120)
        self.assertEqual(calls("instruments/rate-piles.tsx", ["squareSize", [{"colonies": 9000, "wide": 60}]]), [None])
