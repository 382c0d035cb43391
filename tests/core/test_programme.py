"""The autumn programme: what is lacking, when it may be fed, by when it must be over, and what else can be done."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date, timedelta

from hypothesis import given, settings
from hypothesis import strategies as st

from redframe.core.feeding.programme import (
    EATEN_KG_A_DAY,
    Barred,
    ColonyFood,
    Fed,
    FeedingRules,
    Programme,
    StoresSeen,
    programme,
)
from redframe.core.feeding.syrup import syrup

TODAY = date(2031, 8, 2)
RULES = FeedingRules(20.0, 5.0, 1.0, date(2031, 10, 20), None)
FOOD = ColonyFood(10.0, StoresSeen(TODAY, 11.04, 0.1), (), (), False)


def day(number: int) -> date:
    """So many days from today."""
    return TODAY + timedelta(days=number)


def plan(rules: FeedingRules = RULES, **more: object) -> Programme:
    """The autumn of a colony of ten frames with 11.04 kg, with some of it otherwise."""
    return programme(replace(FOOD, **more), rules, "post_harvest", TODAY)  # type: ignore[arg-type]


class Lacking(unittest.TestCase):
    def test_the_worked_example(self) -> None:
        """11.04 kg against 20: 8.96 kg lacking, 8.16 kg of sugar, 9.14 l of syrup, in two feeders."""
        found = plan()
        self.assertAlmostEqual(found.lacks_kg or 0, 8.96, places=2)
        self.assertAlmostEqual(found.sugar_kg or 0, 8.16, places=2)
        self.assertAlmostEqual(found.syrup_l or 0, 9.14, places=2)
        self.assertEqual(
            [(one.on, round(one.litres, 2), one.days) for one in found.rounds], [(TODAY, 5, 5), (day(5), 4.14, 5)]
        )
        self.assertEqual((found.word, found.ends_on, found.finish_by), ("on_time", day(10), date(2031, 10, 6)))
        self.assertEqual((found.weigh_on, found.close_on), (day(15), date(2031, 10, 6)))

    def test_rounds_that_were_given_move_it(self) -> None:
        """Five litres since: as much less as ripe stores come of them; the next feeder when that one is empty."""
        found = plan(fed=[Fed(day(-2), "syrup_2_1", 5.0)], stores=StoresSeen(day(-2), 11.04, 0.1))
        eaten = 2 * EATEN_KG_A_DAY["post_harvest"]
        self.assertAlmostEqual(found.fed_kg, syrup("2:1", litres=5.0).stored_kg, places=1)
        self.assertAlmostEqual(found.lacks_kg or 0, 20 - 11.04 - found.fed_kg + eaten, places=6)
        self.assertEqual(found.rounds[0].on, day(3))
        before = plan(fed=[Fed(day(-9), "syrup_2_1", 5.0)])
        self.assertEqual(before.fed_kg, 0, "what was fed before the stores were judged is in them")

    def test_kinds_of_feed(self) -> None:
        """A thin syrup gives less; fondant by its weight; pollen and an amount that nobody said, nothing."""
        kg = [plan(fed=[Fed(TODAY, kind, amount)]).fed_kg for kind, amount in
              (("syrup_2_1", 4.0), ("syrup_1_1", 4.0), ("fondant", 2.5), ("pollen", 1.0), ("syrup_2_1", None))]  # type: ignore[arg-type]  # fmt: skip
        self.assertGreater(kg[0], kg[1])
        self.assertGreater(kg[2], 2.5)
        self.assertEqual(kg[3:], [0, 0])

    def test_enough_small_and_unknown(self) -> None:
        """Nothing to feed; a nucleus on less; without stores nothing is said but that."""
        self.assertEqual(
            (plan(stores=StoresSeen(TODAY, 20, 0.1)).word, plan(stores=StoresSeen(TODAY, 19.6, 0.1)).rounds),
            ("enough", []),
        )
        self.assertEqual(plan(frames=4.0).target_kg, 11.0)
        unknown = plan(stores=None)
        self.assertEqual((unknown.word, unknown.lacks_kg, unknown.rounds), ("not_known", None, ()))

    def test_the_range_follows_how_it_was_judged(self) -> None:
        """Weighed to a twentieth, hefted to a third: 1.96 of it to each side, never below nought."""
        weighed, hefted = plan(stores=StoresSeen(TODAY, 10, 0.05)), plan(stores=StoresSeen(TODAY, 10, 0.6))
        self.assertAlmostEqual((weighed.high_kg or 0) - 10, 0.98)
        self.assertEqual(hefted.low_kg, 0)

    def test_food_lasts(self) -> None:
        """As it is eaten now, by so many bees."""
        self.assertEqual(plan(stores=StoresSeen(TODAY, 8, 0.1)).days_left, 100)
        self.assertEqual(plan(stores=StoresSeen(TODAY, 8, 0.1), frames=20.0).days_left, 50)

    def test_what_is_not_recorded_is_said(self) -> None:
        """Supers that nobody noted are no "off", feed without its amount is no "nothing fed"."""
        self.assertEqual(plan().because, [])
        self.assertEqual([one.code for one in plan(supers_on=None).because], ["supers_not_recorded"])
        self.assertEqual([one.code for one in plan(supers_on=True).because], ["supers_first"])
        found = plan(fed=[Fed(TODAY, "syrup_2_1", None)])
        self.assertEqual(([one.code for one in found.because], found.fed_kg), (["amount_not_recorded"], 0))


class Dates(unittest.TestCase):
    def test_a_course_that_bears_no_feed(self) -> None:
        """Nothing from its first day to its last; before it no more than is taken until then."""
        found = plan(barred=[Barred(TODAY, day(14), "Formic acid strips")])
        self.assertEqual(found.rounds[0].on, day(15))
        self.assertEqual([one.code for one in found.because], ["course_bars_feed"])
        found = plan(barred=[Barred(day(3), day(14), "Formic acid strips")])
        self.assertEqual(
            [(one.on, round(one.litres, 2)) for one in found.rounds], [(TODAY, 3), (day(15), 5), (day(20), 1.14)]
        )

    def test_too_late_for_syrup(self) -> None:
        """By the cold, or by forage that sets hard; what else can be done by how much is lacking."""
        late = plan(RULES, barred=[Barred(TODAY, day(60), "Thymol gel in trays")])
        self.assertEqual(
            (late.word, late.instead), ("too_late", ["option_that_bears_feed", "combs_of_stores", "unite"])
        )
        little = plan(replace(RULES, cold=day(15)), stores=StoresSeen(TODAY, 17, 0.1))
        self.assertEqual((little.word, little.instead), ("too_late", ["fondant", "combs_of_stores"]))
        ivy = plan(replace(RULES, crystals=day(16)))
        self.assertEqual((ivy.finish_by, ivy.word), (day(9), "too_late"))
        self.assertEqual(plan(replace(RULES, crystals=day(20))).word, "tight")
        self.assertEqual(plan(replace(RULES, crystals=day(23))).word, "on_time")
        self.assertEqual(
            (plan(replace(RULES, cold=None)).word, plan(replace(RULES, cold=None)).close_on), ("on_time", None)
        )

    @settings(max_examples=300, deadline=None)
    @given(
        st.floats(0, 25), st.floats(0.5, 12), st.floats(0.2, 4),
        st.lists(st.tuples(st.integers(-10, 60), st.integers(0, 30)), max_size=3),
    )  # fmt: skip
    def test_rounds_keep_the_rules(
        self, kg: float, feeder: float, a_day: float, courses: list[tuple[int, int]]
    ) -> None:
        """All that is lacking is fed, no feeder holds more than it can, none before the one before is empty, and none
        while a course that bears no feed is in the hive."""
        barred = [Barred(day(first), day(first + long), "a course") for first, long in courses]
        found = plan(
            replace(RULES, feeder_l=feeder, rate_l_day=a_day), stores=StoresSeen(TODAY, kg, 0.1), barred=barred
        )
        self.assertAlmostEqual(sum(one.litres for one in found.rounds), found.syrup_l or 0, places=6)
        for one in found.rounds:
            self.assertLessEqual(one.litres, feeder + 1e-9)
            for course in barred:
                last = one.on + timedelta(days=one.days - 1)
                self.assertFalse(one.on <= course.last and last >= course.first, (one, course))
        for first, second in zip(found.rounds, found.rounds[1:], strict=False):
            self.assertGreaterEqual(second.on, first.on + timedelta(days=first.days))
