"""By when work must begin, and which apiary that puts first: the rules of docs/methods/planning.md, day by day."""

from __future__ import annotations

import random
import unittest
from datetime import date, timedelta
from typing import Any, get_args

from redframe.core.planning.due import (
    CAN_WAIT,
    Due,
    answer_due,
    boards_due,
    count_due,
    in_order,
    rank,
    step_due,
    visit_due,
)
from redframe.core.planning.kit import Placing, kit
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.course import StepKind
from tests.core.test_counting_methods import policy

TODAY = date(2031, 8, 2)
WINTER = date(2031, 8, 25)


def day(days: int) -> date:
    """So many days from today."""
    return TODAY + timedelta(days=days)


def over(**given: Any) -> Due:
    """Two colonies over, counted yesterday."""
    facts = {
        "colonies": 2, "urgent": 0, "counted_on": day(-1), "overdue_from": None, "today": TODAY, "policy": policy("season_phase"),
        "effect_days": 7,
    }  # fmt: skip
    return answer_due(given.pop("answer", "treat"), **{**facts, **given})


class Answers(unittest.TestCase):
    def test_the_first_of_the_days_that_bind(self) -> None:
        """The winter bees, the count's own age, danger, lateness: each alone, and the earliest where several do."""
        for given, code, by in (
            ({}, "treat_before_winter_bees", WINTER - timedelta(days=7)),
            ({"effect_days": 21}, "treat_before_winter_bees", WINTER - timedelta(days=21)),
            ({"effect_days": None}, "treat_while_known", day(20)),
            ({"counted_on": day(-13)}, "treat_while_known", day(8)),
            ({"urgent": 1}, "treat_urgent", day(6)),
            ({"urgent": 1, "effect_days": 21}, "treat_before_winter_bees", day(2)),
            ({"urgent": 1, "counted_on": day(-30), "overdue_from": day(-9)}, "treat_overdue", day(-9)),
        ):
            with self.subTest(given=given):
                found = over(**given)
                self.assertEqual((found.kind, found.code, found.by), ("treat", code, by))

    def test_winter_bees_that_are_laid_bind_nobody(self) -> None:
        """From their first day on a course is no longer in time for them; the count's age is what is left."""
        self.assertEqual(over(today=WINTER, counted_on=WINTER).code, "treat_while_known")

    def test_what_the_scheme_answers(self) -> None:
        """Flagged where it watches; reported at once where one mite is too many."""
        self.assertEqual(over(answer="flag").kind, "flag")
        reported = over(answer="report", counted_on=day(-4))
        self.assertEqual((reported.kind, reported.by), ("report", day(-4)))


class Others(unittest.TestCase):
    def test_each_has_its_last_day(self) -> None:
        """Steps by their window, boards on the third day, visits within a week, unknown colonies within a week."""
        for found, kind, by, code in (
            (step_due("place", "place_1", 3, day(4), TODAY), "step", day(4), "step_by"),
            (step_due("remove", "remove", 3, day(0), TODAY), "step", day(0), "step_by"),
            (step_due("remove", "remove", 3, day(-1), TODAY), "step", day(-1), "step_was"),
            (step_due("verify", "verify", 3, day(-1), TODAY), "verify", day(-1), "step_was"),
            (step_due("close", "close", 3, day(-1), TODAY), "close", day(-1), "step_was"),
            (boards_due(2, day(-5)), "boards", day(-2), "boards_by"),
            (visit_due(2, day(-5)), "visit", day(2), "visit_by"),
            (count_due(4, 1, day(2), TODAY), "count", day(7), "count_unknown"),
            (count_due(4, 0, None, TODAY), "count", day(7), "count_unknown"),
            (count_due(4, 0, day(2), TODAY), "count", day(2), "count_by"),
            (count_due(4, 0, day(-3), TODAY), "count", TODAY, "count_by"),
        ):
            with self.subTest(kind=kind, by=by):
                self.assertEqual((found.kind, found.by, found.code), (kind, by, code))


class Steps(unittest.TestCase):
    def test_every_kind_of_step_is_some_work(self) -> None:
        """Check counts and closings by themselves, all others as steps; each keeps its name and its window's end."""
        for kind in get_args(StepKind):
            with self.subTest(kind=kind):
                found = step_due(kind, f"{kind}_1", 2, day(3), TODAY)
                self.assertEqual(found.kind, kind if kind in ("verify", "close") else "step")
                self.assertEqual((found.step, found.by, found.colonies), (f"{kind}_1", day(3), 2))
                self.assertEqual(found.params, {"by": day(3), "step": kind})

    def test_the_last_day_is_not_late(self) -> None:
        """A window ends with its last day: late is the day after it."""
        for days, code in ((1, "step_by"), (0, "step_by"), (-1, "step_was")):
            self.assertEqual(step_due("place", "place_1", 1, day(days), TODAY).code, code)


class Order(unittest.TestCase):
    def test_what_can_wait_does_not_put_an_apiary_first(self) -> None:
        """A course to be closed for weeks comes after a dose of next week, in the apiary and among apiaries."""
        dose, closing = step_due("place", "place_1", 1, day(6), TODAY), step_due("close", "close", 1, day(-20), TODAY)
        self.assertEqual([one.kind for one in in_order([closing, dose])], ["step", "close"])
        self.assertLess(rank([dose]), rank([closing]))
        self.assertEqual(rank([closing, dose]), rank([dose]))

    def test_an_apiary_stands_by_its_most_pressing_work(self) -> None:
        """Whatever comes in whatever order: nothing later moves it back, and of one day more colonies come first."""
        rng = random.Random(7)
        for _ in range(200):
            dues = [
                rng.choice([
                    over(counted_on=day(-rng.randint(0, 20)), urgent=rng.randint(0, 1)),
                    step_due("place", "place_1", rng.randint(1, 9), day(rng.randint(-9, 9)), TODAY),
                    step_due("close", "close", 1, day(rng.randint(-9, 9)), TODAY),
                    count_due(rng.randint(1, 9), 0, day(rng.randint(-9, 9)), TODAY),
                    visit_due(rng.randint(1, 9), day(rng.randint(-9, 9))),
                ])
                for _ in range(rng.randint(1, 6))
            ]  # fmt: skip
            first = in_order(dues)[0]
            pressing = [one for one in dues if one.kind not in CAN_WAIT] or dues
            self.assertEqual(first.by, min(one.by for one in pressing))
            self.assertEqual(rank(dues), rank([first]))
            rng.shuffle(dues)
            self.assertEqual(in_order(dues)[0], first)
        few, many = (step_due("place", "place_1", colonies, TODAY, TODAY) for colonies in (1, 5))
        self.assertLess(rank([many]), rank([few]))


class Taken(unittest.TestCase):
    def test_doses_add_up_and_protection_is_named_once(self) -> None:
        """Two placings of one treatment are one line, another treatment another."""
        formic, oxalic = default_catalogue().option("FA_STRIP2"), default_catalogue().option("OX_TRICKLE")
        found = kit(3, [Placing(formic, 4, "strip"), Placing(oxalic, 90, "ml"), Placing(formic, 6, "strip")])
        self.assertEqual([(one.name, one.quantity) for one in found.doses], [(formic.name, 10), (oxalic.name, 90)])
        self.assertEqual(len(found.protection), len(set(found.protection)))
        self.assertLessEqual({*formic.ppe, *oxalic.ppe}, set(found.protection))
        self.assertEqual(kit(0, []).doses, [])
