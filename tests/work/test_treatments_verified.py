"""What was recorded of a course afterwards: amended with its reason, verified by a count in its time."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta
from typing import Any
from uuid import UUID

from redframe.core.errors import InvalidInput, Refused
from redframe.store.errors import Conflict
from redframe.store.treatments import CourseActDetails
from redframe.work.colonies import read as colonies_read
from redframe.work.planning import read as planning_read
from redframe.work.treatments import abandon as treatments_abandon
from redframe.work.treatments import options as treatments_options
from redframe.work.treatments import record as treatments_record
from redframe.work.treatments.plan import Override
from redframe.work.treatments.read import CourseView
from tests.support import at_work, owner_rows
from tests.work.test_treatments import INLAND, SHORE, TODAY, Courses, later


class Amended(Courses):
    def amend(self, course: UUID, step: str, day: date, reason: str = "wrong day written", version: int = 1, today: date = TODAY, **more: Any) -> CourseView:  # fmt: skip
        """Amend the day of a step that was recorded."""
        done = self.done(self.view(course, today), step)
        details = replace(CourseActDetails(day, done.quantity, done.lot, done.count_id, done.note), **more)
        return at_work(self.url, lambda unit: treatments_record.amend_act(unit, course, done.id, version, details), day=today, reason=reason)  # fmt: skip

    def test_an_amended_placing_moves_what_follows(self) -> None:
        """Placed a day later than written: everything behind it moves a day, and the former entry is kept."""
        course = self.planned()
        self.ready(course)
        first = self.act(course, "place_1", quantity=1, lot="A7")
        view = self.amend(course, "place_1", later(1), today=later(1), lot="A8")
        self.assertEqual(self.step(view, "place_2").ideal, self.step(first, "place_2").ideal + timedelta(days=1))
        done = self.done(view, "place_1")
        self.assertEqual((done.version, done.lot), (2, "A8"))
        history = owner_rows(self.url, "SELECT reason, previous ->> 'lot' FROM audit WHERE record_id = %s AND act = 'amended'", done.id)  # fmt: skip
        self.assertEqual(history, [("wrong day written", "A7")])

    def test_what_an_amendment_refuses(self) -> None:
        """No reason, the future, before the step before it, after the step behind it, a stale version."""
        course = self.planned("FA_STRIP2")
        self.ready(course)
        self.act(course, "place_1", later(1), override=Override("T60", "Bettrys Lund", "cool shade"), quantity=2)
        with self.assertRaises(Conflict):
            self.amend(course, "place_1", later(1), reason="", today=later(2), note="x")
        with self.assertRaises(Conflict):
            self.amend(course, "place_1", later(1), version=5, today=later(2), note="x")
        for day in (later(9), TODAY - timedelta(days=1)):
            with self.subTest(day=day), self.assertRaisesRegex(InvalidInput, "^done_on:"):
                self.amend(course, "place_1", day, today=later(2))
        with self.assertRaisesRegex(InvalidInput, "^done_on: is after the step that follows it"):
            self.amend(course, "prepare", later(2), today=later(3))

    def test_an_abandoned_course_stays_on_record(self) -> None:
        """It asks why and when the product came out; nothing more can be recorded; the colony is free again."""
        course = self.planned("FA_STRIP2")
        self.ready(course)
        self.act(course, "place_1", quantity=2)
        for why, removed, field in (("", later(3), "why"), ("queen lost", None, "removed_on"), ("queen lost", later(9), "removed_on")):  # fmt: skip
            with self.subTest(field=field), self.assertRaisesRegex(InvalidInput, f"^{field}:"):
                at_work(self.url, lambda unit, why=why, removed=removed: treatments_abandon.abandon(unit, course, why, removed), day=later(3))  # type: ignore[misc]  # fmt: skip
        view = at_work(
            self.url, lambda unit: treatments_abandon.abandon(unit, course, "queen lost", later(3)), day=later(3)
        )
        self.assertEqual((view.course.state, view.course.abandoned_why), ("abandoned", "queen lost"))
        with self.assertRaises(Refused):
            self.act(course, "interim_check", later(4))
        with self.assertRaises(Refused):
            at_work(self.url, lambda unit: treatments_abandon.abandon(unit, course, "again", None), day=later(4))
        self.assertEqual(view.course.ended_on, later(3))
        amended = self.amend(course, "place_1", later(1), today=later(5))
        self.assertEqual((amended.course.state, amended.course.ended_on), ("abandoned", later(3)))

    def test_what_was_given_and_broken_off_was_given(self) -> None:
        """An abandoned course counts among the uses of its option: the label's gap is kept from its removal."""
        course = self.planned("FA_STRIP2")
        self.ready(course)
        self.act(course, "place_1", quantity=2)
        at_work(self.url, lambda unit: treatments_abandon.abandon(unit, course, "robbing", later(3)), day=later(3))
        choice = at_work(
            self.url, lambda unit: treatments_options.options_for(unit, SHORE, [self.colony], later(6)), day=later(4)
        )
        reasons = {one.rule: one for one in choice.colonies[0].choice.options["FA_STRIP2"].reasons}
        self.assertIn("T08", reasons)
        self.assertEqual(reasons["T08"].until, later(3 + 30))


class Verified(Courses):
    def through(self, option: str = "FA_STRIP2", dose: float = 2) -> tuple[UUID, date]:
        """A course carried out to the end of its stay; its id and that day."""
        course = self.planned(option)
        self.ready(course)
        self.act(course, "place_1", quantity=dose)
        end = self.step(self.view(course), "end")
        self.act(course, "end", end.ideal)
        return course, end.ideal

    def test_a_course_is_verified_by_a_count_in_its_time(self) -> None:
        """Too early is refused with the day; another colony's count and a count before the end are named."""
        course, end = self.through()
        early = self.count(self.colony, (1, 0), end + timedelta(days=2))
        with self.assertRaises(Refused) as refused:
            self.act(course, "verify", end + timedelta(days=2), count_id=early)
        self.assertIn(refused.exception.rule, ("S5", "S2"))
        other = self.count(self.sound(INLAND), (1, 0), end + timedelta(days=15))
        with self.assertRaisesRegex(InvalidInput, "^count_id: is a count of another colony"):
            self.act(course, "verify", end + timedelta(days=15), count_id=other)
        post = self.count(self.colony, (1, 0), end + timedelta(days=15))
        view = self.act(course, "verify", end + timedelta(days=15), count_id=post)
        assert view.course.verdict is not None
        self.assertEqual((view.course.verdict.word, view.course.verdict.pre.mites, view.course.verdict.post.mites), ("worked", 18, 1))  # fmt: skip
        self.assertEqual(self.act(course, "close", end + timedelta(days=15)).course.state, "verified_worked")

    def test_once_counted_it_waits_for_its_outcome_alone(self) -> None:
        """The check count in: no further count is asked for, the colony is still answered for, one step is left."""
        course, end = self.through()
        self.act(course, "dispose", end)
        self.assertEqual(self.view(course).course.state, "awaiting_verification")
        day = end + timedelta(days=15)
        post = self.count(self.colony, (22, 4, 1), day)
        view = self.act(course, "verify", day, count_id=post)
        self.assertEqual((view.course.state, view.next_step, view.is_open), ("awaiting_outcome", "close", True))
        work = at_work(self.url, planning_read.worklist, day=day)
        self.assertEqual([one.due.step for one in work.steps if one.due.course_id == course], ["close"])
        self.assertNotIn(self.colony, [one for line in work.over for one in line.ids])
        closed = self.act(course, "close", day)
        self.assertEqual((closed.course.state, closed.next_step), ("verified_failed", None))
        later = at_work(self.url, planning_read.worklist, day=day)
        self.assertIn(self.colony, [one for line in later.over for one in line.ids])

    def test_a_failed_course_says_so_and_the_colony_stays_over(self) -> None:
        """As many mites after as before: failed, and still over its level, whatever was placed."""
        course, end = self.through()
        post = self.count(self.colony, (22, 4, 1), end + timedelta(days=15))
        view = self.act(course, "verify", end + timedelta(days=15), count_id=post)
        assert view.course.verdict is not None
        self.assertEqual(view.course.verdict.word, "failed")
        self.assertGreater(view.course.verdict.residual_p_act, 0.9)
        level = at_work(
            self.url, lambda unit: colonies_read.colony_view(unit, self.colony), day=end + timedelta(days=15)
        ).colony.level
        self.assertIn(level, ("act", "urgent"))

    def test_amending_the_count_amends_the_verdict(self) -> None:
        """The verdict follows what the counts say now when its step is amended."""
        course, end = self.through()
        day = end + timedelta(days=15)
        post = self.count(self.colony, (1, 0), day)
        self.act(course, "verify", day, count_id=post)
        second = self.count(self.colony, (25, 5), day)
        done = self.done(self.view(course, day), "verify")
        view = at_work(self.url, lambda unit: treatments_record.amend_act(unit, course, done.id, 1, CourseActDetails(day, None, "", second, "")), day=day, reason="wrong jar")  # fmt: skip
        assert view.course.verdict is not None
        self.assertEqual(view.course.verdict.word, "failed")
