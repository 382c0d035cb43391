"""Honey supers and feed by visits, boxes and acts: one dated source for the choice, the course and the dose."""

from __future__ import annotations

from datetime import date, timedelta
from itertools import permutations
from typing import Any
from uuid import UUID, uuid4

import psycopg

from redframe.core.colonies.hive_state import WantedBox
from redframe.core.errors import InvalidInput, Refused
from redframe.core.visits.record import After
from redframe.work.colonies import hives as colonies_hives
from redframe.work.colonies import read as colonies_read
from redframe.work.treatments import options as treatments_options
from redframe.work.treatments import record as treatments_record
from redframe.work.treatments.plan import Override
from redframe.work.treatments.read import CourseView
from redframe.work.treatments.record import NewAct
from redframe.work.visits import read as visits_read
from redframe.work.visits import record as visits_record
from tests.support import at_work, visited
from tests.work.test_treatments import SHORE, TODAY, Courses, later


class HiveSetUp(Courses):
    def close(self, course: UUID, supers_on: bool | None = None, day: date = TODAY) -> CourseView:
        """Supers and feeder off, as the option asks."""
        self.act(course, "prepare", day)
        new = NewAct(uuid4(), "close_supers_feeder", "done", day, None, "", None, "", None, supers_on)
        return at_work(self.url, lambda unit: treatments_record.record_act(unit, course, new), day=day)

    def saw(self, day: date, **found: Any) -> None:
        """A quick visit that found something."""
        visited(self.url, self.colony, day, After(**found))

    def codes(self, course: UUID, day: date = TODAY) -> list[str]:
        """What the hive says against a course on a day."""
        return [one.code for one in self.view(course, day).warnings]

    def boxes(self, *purposes: str, day: date = TODAY) -> None:
        """The stack of the hive from a day on."""
        view = at_work(self.url, lambda unit: colonies_read.colony_view(unit, self.colony), day=day)
        known = {box.purpose: box for box in view.hive}
        wanted = [
            WantedBox(one, "A_deep", 10, known[one].box_id if one in known else None)  # type: ignore[arg-type]
            for one in purposes
        ]
        change = colonies_hives.HiveChange(view.hive[0].hive_type, wanted, day)
        at_work(
            self.url, lambda unit: colonies_hives.amend_hive(unit, self.colony, view.hive[0].version, change), day=day
        )

    def test_feed_and_supers_against_a_running_course(self) -> None:
        """Given at a visit while strips are in: a finding there, a warning on the course, gone when it is taken off."""
        course = self.planned("FA_STRIP2")
        self.close(course)
        self.act(course, "place_1", quantity=2)
        self.assertEqual(self.codes(course), [])
        visit = uuid4()
        after = After(feed="syrup_2_1", feed_amount=2, feeder="put_on", supers_on=True)
        visited(self.url, self.colony, later(1), after, visit)
        self.assertEqual(self.codes(course, later(1)), ["supers_in_course_by_label", "feed_in_course"])
        said = at_work(self.url, lambda unit: visits_read.visit_view(unit, visit), day=later(1))
        self.assertLessEqual({"feed_with_course", "supers_with_course_by_label"}, {one.code for one in said.assessment.findings})  # fmt: skip
        self.saw(later(2), feeder="removed", supers_on=False)
        self.assertEqual(self.codes(course, later(2)), [])
        # Read again when the strips are out and the feed is gone, the visit says what it said.
        self.act(course, "end", later(7))
        again = at_work(self.url, lambda unit: visits_read.visit_view(unit, visit), day=later(30))
        self.assertEqual(again.assessment.findings, said.assessment.findings)

    def test_before_a_planned_course(self) -> None:
        """A week before, no sooner: what is on the hive comes off first."""
        course = self.planned("FA_STRIP11", start=later(10))
        self.saw(TODAY + timedelta(days=1), feed="fondant")
        self.assertEqual(self.codes(course, later(2)), [])
        self.assertEqual(self.codes(course, later(3)), ["fed"])
        visit = uuid4()
        visited(self.url, self.colony, later(4), After(feed="fondant"), visit)
        said = at_work(self.url, lambda unit: visits_read.visit_view(unit, visit), day=later(4))
        self.assertIn("feed_before_course", {one.code for one in said.assessment.findings})

    def test_a_dose_is_not_placed_beside_feed(self) -> None:
        """Closed yesterday, fed again today: refused, unless somebody named takes it on."""
        course = self.planned("FA_STRIP2")
        self.close(course)
        self.saw(TODAY, feed="none")
        self.saw(later(1), feeder="refilled")
        with self.assertRaises(Refused) as refused:
            self.act(course, "place_1", later(1), quantity=2)
        self.assertEqual(refused.exception.rule, "T52")
        named = Override("T52", "Idris Calloway", "starving, fed until tonight")
        self.act(course, "place_1", later(1), quantity=2, override=named)

    def test_the_database_refuses_it_whoever_writes(self) -> None:
        """Past every rule of ours a dose stays off a hive that is fed; not where somebody took it on, nor once the feeder
        is off again, nor where the option bears feed."""
        course = self.planned("FA_STRIP2")
        aside = [Override(rule, "Idris", "for the test") for rule in ("T20", "T22", "T70", "T71", "T73")]
        trickle = self.planned("OX_TRICKLE", start=later(40), overrides=aside)
        self.close(course)
        self.saw(later(1), feeder="refilled")
        self.assertEqual(self.written_past_us(course, later(1)), "dose_not_on_feed")
        self.assertEqual(self.written_past_us(course, later(43)), "dose_not_on_feed")
        self.assertIsNone(self.written_past_us(course, later(44)))
        self.assertIsNone(self.written_past_us(course, TODAY))
        self.assertIsNone(self.written_past_us(course, later(1), why="starving"))
        self.assertIsNone(self.written_past_us(trickle, later(1)))
        self.saw(later(2), feeder="removed")
        self.assertIsNone(self.written_past_us(course, later(2)))

    def written_past_us(self, course: UUID, day: date, why: str = "") -> str | None:
        """The constraint that refuses a dose written by the owner of the database, or None; nothing of it is kept."""
        with psycopg.connect(self.url) as owner:
            try:
                owner.execute(
                    "INSERT INTO course_act (id, association_id, course_id, step, outcome, done_on, override_why) "
                    "SELECT gen_random_uuid(), association_id, id, 'place_1', 'done', %s, %s FROM course WHERE id = %s",
                    [day, why, course],
                )
            except psycopg.errors.CheckViolation as error:
                return error.diag.constraint_name
            finally:
                owner.rollback()
        return None

    def test_supers_that_stay_as_the_label_says(self) -> None:
        """Said at the step that closes the hive: kept, seen by the next choice; refused where none may stay."""
        course = self.planned("FA_STRIP2")
        closed = self.close(course, supers_on=True)
        self.assertTrue(self.done(closed, "close_supers_feeder").supers_on)
        self.assertEqual([one.code for one in closed.warnings], ["supers_by_label"])
        self.act(course, "place_1", quantity=2)
        other = self.sound(SHORE)
        self.colony = other
        trickle = self.plan("OX_TRICKLE", other, overrides=[Override(rule, "Idris", "for the test") for rule in ("T20", "T70", "T71")])  # fmt: skip
        assert trickle.course_id is not None, trickle.held_by
        with self.assertRaises(InvalidInput) as refused:
            self.close(trickle.course_id, supers_on=True)
        self.assertEqual(refused.exception.field, "supers_on")

    def test_a_super_on_the_stack_is_on(self) -> None:
        """Put on by the boxes, whatever an older visit said; taken off by them as well."""
        self.boxes("brood", "super", day=later(1))

        def rules(day: date) -> list[str]:
            found = at_work(self.url, lambda unit: treatments_options.options_for(unit, SHORE, [self.colony]), day=day)
            return found.colonies[0].choice.options["THY_GEL"].rules

        self.assertIn("T50", rules(later(1)))
        self.boxes("brood", day=later(2))
        self.assertNotIn("T50", rules(later(2)))

    def test_any_order_of_entry(self) -> None:
        """Three visits of three days, entered in each order: the same is so."""
        looks = [(1, {"feed": "fondant"}), (3, {"feeder": "taken"}), (2, {"supers_on": True, "feed": "pollen"})]
        found = set()
        for order in permutations(looks):
            colony = self.sound(SHORE)
            for ahead, after in order:
                new = After(**after)  # type: ignore[arg-type]
                at_work(
                    self.url,
                    lambda unit, colony=colony, ahead=ahead, new=new: visits_record.record_visit(  # type: ignore[misc]
                        unit, uuid4(), colony_id=colony, visited_on=later(ahead), after=new
                    ),
                    day=later(4),
                )
            choice = at_work(
                self.url,
                lambda unit, colony=colony: treatments_options.options_for(unit, SHORE, [colony]),  # type: ignore[misc]
                day=later(4),
            )
            facts = choice.colonies[0].situation.colony
            found.add((facts.supers_on, facts.fed))
        self.assertEqual(found, {(True, False)})
