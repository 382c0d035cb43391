"""What holds of every course whatever is done with it: its own rules, the order of its steps, and its doses."""

from __future__ import annotations

import random
import unittest
from collections.abc import Callable
from datetime import date, timedelta
from itertools import pairwise

from hypothesis import given, settings
from hypothesis import strategies as st

from redframe.core.errors import InvalidInput, Refused
from redframe.core.treatments.catalogue import Option, default_catalogue
from redframe.core.treatments.course import clearance
from redframe.core.treatments.dose import dose
from redframe.core.treatments.progress import Plan, Report, check_report, progress
from tests.core.test_course_progress import START, Act

OPTIONS = st.sampled_from(default_catalogue().options)


Pick = Callable[[date, date], date]


def walked(option: Option, pick: Pick) -> list[Act]:
    """A course done step by step on any day on which it is let, without anybody taking anything on."""
    course, done = Plan(option, START), list[Act]()
    for step in course.course({}).steps:
        days = course.days(done)
        now = course.course(days).step(step.name)
        if now.name in days or step.kind in ("baseline_count", "interim_check", "dispose", "close"):
            continue
        on = pick(now.window.earliest - timedelta(days=4), now.window.latest + timedelta(days=4))
        state = progress(course, done, verdict=None).state
        try:
            reported = Report(now.name, "done", on, 1.0, True, "", False)
            check_report(course, state, done, reported, today=date(2100, 1, 1), dose_unit="ml")
        except (Refused, InvalidInput):
            continue
        done.append(Act(now.name, on))
    return done


class Courses(unittest.TestCase):
    def test_the_walks_go_somewhere(self) -> None:
        """Of a few hundred random courses many come to their end and to their check: what is said below is said of
        something."""
        chance = random.Random(3)

        def pick(low: date, high: date) -> date:
            return low + timedelta(days=chance.randint(0, (high - low).days))

        done = [walked(chance.choice(default_catalogue().options), pick) for _ in range(300)]
        self.assertGreater(sum(any(act.step == "verify" for act in acts) for acts in done), 60)

    @settings(max_examples=300, deadline=None)
    @given(OPTIONS, st.data())
    def test_no_course_breaks_its_own_rules(self, option: Option, data: st.DataObject) -> None:
        """Placings keep their interval, nothing comes out before it may, no count is taken for a check before its day,
        and honey is clear no sooner than its withdrawal lets it."""
        done = walked(option, lambda low, high: data.draw(st.dates(low, high)))
        days = Plan(option, START).days(done)
        placed = [days[name] for name in (f"place_{number}" for number in range(1, 9)) if name in days]
        if option.interval_days is not None:
            low, _, high = option.interval_days
            for before, after in pairwise(placed):
                self.assertTrue(low <= (after - before).days <= high)
        now = progress(Plan(option, START), done, verdict=None)
        if now.ended_on is not None and len(placed) == option.applications:
            self.assertGreaterEqual((now.ended_on - placed[-1]).days, option.stay_days[0])
            if option.chemical:
                self.assertEqual(now.honey_clear_on, clearance(now.ended_on, option.withdrawal_days))
            if "verify" in days:
                self.assertGreaterEqual((days["verify"] - now.ended_on).days, option.verify.days[0])
        else:
            self.assertIsNone(days.get("verify"))

    @settings(max_examples=300, deadline=None)
    @given(OPTIONS, st.data())
    def test_shifting_never_reorders(self, option: Option, data: st.DataObject) -> None:
        """However late each step was, what comes after it is due no sooner than it, and every window opens before it
        closes."""
        done = walked(option, lambda low, high: data.draw(st.dates(low, high)))
        course = Plan(option, START).course(Plan(option, START).days(done))
        days = Plan(option, START).days(done)
        chain = [step for step in course.steps if step.kind in ("place", "remove", "end", "verify", "close")]
        when = [days.get(step.name, step.window.ideal) for step in chain]
        self.assertEqual(when, sorted(when))
        for step in course.steps:
            self.assertEqual(step.window.as_list(), sorted(step.window.as_list()))


class Doses(unittest.TestCase):
    @settings(max_examples=400, deadline=None)
    @given(OPTIONS, st.floats(0.5, 60), st.floats(0.5, 60), st.integers(1, 6), st.booleans())
    def test_they_scale_with_strength_up_to_their_most(
        self, option: Option, one: float, other: float, boxes: int, in_seams: bool
    ) -> None:
        """A stronger colony gets no less, a bigger hive no less, and nobody more than the most for a colony or box."""
        weak, strong = sorted((one, other))
        size = "seams" if in_seams else "frames"
        of_weak, of_strong = (dose(option, brood_boxes=boxes, **{size: value}) for value in (weak, strong))  # type: ignore[arg-type]
        self.assertLessEqual(of_weak.quantity, of_strong.quantity)
        self.assertGreater(of_weak.quantity, 0)
        bigger = dose(option, brood_boxes=min(6, boxes + 1), **{size: strong})  # type: ignore[arg-type]
        self.assertLessEqual(of_strong.quantity, bigger.quantity)
        for found in (of_weak, of_strong):
            if option.dose.max_per_colony is not None:
                self.assertLessEqual(found.quantity, option.dose.max_per_colony)
            if option.dose.max_per_box is not None and option.dose.basis != "per_colony":
                self.assertLessEqual(found.quantity, option.dose.max_per_box * boxes)
            self.assertAlmostEqual(found.course_total, found.quantity * found.applications)


if __name__ == "__main__":
    unittest.main()
