"""What a late step costs, and on which days one journey does for a plan: held to the courses themselves."""

from __future__ import annotations

import random
import unittest
from datetime import date, timedelta

from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.course import plan_course
from redframe.core.treatments.lateness import NO_SEASON, LateCost, SeasonDays, late_costs
from redframe.core.treatments.plan_steps import AT_THE_HIVE, plan_steps
from redframe.core.treatments.progress import Plan, steps_on
from tests.core.test_course_progress import Act

START = date(2031, 8, 2)
STRIPS = default_catalogue().option("FA_STRIP2")


def day(number: int) -> date:
    """So many days after the start."""
    return START + timedelta(days=number)


class Lateness(unittest.TestCase):
    def costs(self, today: date, season: SeasonDays = NO_SEASON, acts: tuple[Act, ...] = ()) -> dict[str, LateCost]:
        """What two strips planned for the start cost, by code."""
        plan = Plan(STRIPS, START)
        firsts = {step.name: step.window.ideal for step in plan_course(STRIPS, START).steps}
        state = "under_way" if acts else "planned"
        found = late_costs(plan, state, acts, firsts, season, today=today)  # type: ignore[arg-type]
        return {one.code: one for one in found}

    def test_nothing_late(self) -> None:
        """On its day and before it costs nothing."""
        for number in (-5, 0):
            self.assertEqual(self.costs(day(number)), {})

    def test_three_days_late(self) -> None:
        """The end, honey and the check count move by three days; its last day is named until it is gone."""
        found = self.costs(day(3))
        self.assertEqual(found["late_ends"].params, {"days": 3, "on": day(10), "was": day(7)})
        self.assertEqual(found["late_honey"].params, {"on": day(10)})
        self.assertEqual(found["late_check"].params, {"first": day(17), "last": day(24)})
        self.assertEqual(found["late_until"].params, {"day": day(7)})
        self.assertNotIn("late_until", self.costs(day(8)))

    def test_what_of_the_season_it_runs_into(self) -> None:
        """Only a limit that it would have kept on its day is a cost of being late."""
        season = SeasonDays(winter_bees=day(8), feed_start_by=day(9), cold=day(60))
        self.assertNotIn("late_winter_bees", self.costs(day(1), season))
        self.assertEqual(self.costs(day(2), season)["late_winter_bees"].params, {"limit": day(8)})
        self.assertNotIn("late_feed", self.costs(day(2), season))
        self.assertEqual(self.costs(day(3), season)["late_feed"].params, {"limit": day(9), "on": day(10)})
        lost_anyway = SeasonDays(winter_bees=day(5), feed_start_by=day(6), cold=day(6))
        self.assertFalse({"late_winter_bees", "late_feed", "late_cold"} & set(self.costs(day(3), lost_anyway)))

    def test_strips_that_stay_in(self) -> None:
        """Strips of six weeks in a day after their best: the end moves, a first dose is asked of no more."""
        option = default_catalogue().option("AMZ_STRIP")
        firsts = {step.name: step.window.ideal for step in plan_course(option, START).steps}
        today = firsts["remove"] + timedelta(days=4)
        done = (Act("place_1", START),)
        found = {
            one.code: one
            for one in late_costs(
                Plan(option, START), "under_way", done, firsts, SeasonDays(day(1), None, None), today=today
            )
        }
        self.assertEqual(found["late_ends"].params["on"], today)
        self.assertEqual(found["late_honey"].params["on"], today + timedelta(days=option.withdrawal_days))
        self.assertNotIn("late_winter_bees", found)
        self.assertEqual(late_costs(Plan(option, START), "abandoned", done, firsts, NO_SEASON, today=today), [])


class OneJourney(unittest.TestCase):
    def test_days_that_all_have_in_common(self) -> None:
        """For a thousand random plans: each day of the span is inside the window of every colony that is not past its
        own, no day outside it is, and none is named where there is none."""
        draw = random.Random(7)
        options = [one for one in default_catalogue().options if one.removal_required or one.applications > 1]
        spans = none = 0
        for _ in range(1000):
            option = draw.choice(options)
            today = day(draw.randint(0, 40))
            courses = []
            for _ in range(draw.randint(1, 6)):
                placed = day(draw.randint(0, 12))
                acts = (Act("place_1", placed),) if placed <= today and draw.random() < 0.8 else ()
                state = "under_way" if acts else "planned"
                steps, _ = steps_on(Plan(option, START), state, acts, {}, None, today=today)  # type: ignore[arg-type]
                courses.append(steps)
            for found in plan_steps(courses, today=today):
                self.assertIn(found.kind, AT_THE_HIVE)
                waiting = [step for steps in courses for step in steps if step.name == found.name]
                waiting = [step for step in waiting if step.state not in ("done", "done_late", "cancelled")]
                self.assertEqual(found.waiting, len(waiting))
                self.assertEqual(found.overdue, sum(step.latest < today for step in waiting))
                can = [step for step in waiting if step.latest >= today]
                good = [
                    one
                    for one in (today + timedelta(days=number) for number in range(150))
                    if all(step.earliest <= one <= step.latest for step in can)
                ]
                if not can:
                    continue
                if found.from_day is None or found.to_day is None:
                    none += 1
                    self.assertEqual(good, [])
                else:
                    spans += 1
                    self.assertEqual((found.from_day, found.to_day), (good[0], good[-1]))
        self.assertGreater(min(spans, none), 50, "both happen")


if __name__ == "__main__":
    unittest.main()
