"""Every option of the catalogue from its plan to its verdict, as people record it: what each screen says on the way."""

from __future__ import annotations

import unittest
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from typing import Any
from uuid import UUID, uuid4

from redframe.core.colonies.hive_state import WantedBox
from redframe.core.errors import InvalidInput, Refused
from redframe.core.treatments.catalogue import Option, default_catalogue
from redframe.core.treatments.overrides import Override
from redframe.core.treatments.states import COURSE_STATES
from redframe.core.visits.record import After
from redframe.demo.scenario import made_id
from redframe.store.errors import AlreadyDone, StoreError
from redframe.store.places import ApiaryDetails
from redframe.work.colonies import read as colonies_read
from redframe.work.colonies import record as colonies_record
from redframe.work.colonies.queens import QueenRecord
from redframe.work.colonies.record import NewColony
from redframe.work.places import read as places_read
from redframe.work.places import record as places_record
from redframe.work.planning import read as planning_read
from redframe.work.sampling import record as sampling_record
from redframe.work.treatments import abandon as treatments_abandon
from redframe.work.treatments import plan as treatments_plan
from redframe.work.treatments import record as treatments_record
from redframe.work.treatments.plan import PlannedRow, WantedCourse
from redframe.work.treatments.read import CourseView, course_view
from redframe.work.treatments.record import NewAct
from tests.support import at_work, demo_template, identity, new_database, owner_rows, visited, washed

TODAY = date(2031, 8, 2)
QUEEN = QueenRecord(2030, None, "mated", date(2031, 5, 1), date(2031, 5, 1), None)
INSPECTOR = identity("inspector")
NAMED = "Idris Calloway"


@dataclass
class Walk:
    """A course on its way: the colony, and the day that it has reached."""

    option: Option
    colony: UUID
    course: UUID
    day: date


class Options(unittest.TestCase):
    """One apiary of its own, a strong colony counted over for each option."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())
        cls.apiary = uuid4()
        details = ApiaryDetails("Option Field", 44.21, -31.40)
        keeper = made_id("corrane", "keeper", "Garrow Pike")
        at_work(cls.url, lambda unit: places_record.add_apiary(unit, cls.apiary, keeper, details))

    def do(self, act: Callable[..., Any], day: date = TODAY) -> Any:
        """Carry an act out as the inspector."""
        return at_work(self.url, act, INSPECTOR, day=day)

    def colony(self) -> UUID:
        """A colony of ten frames with brood and a laying queen, counted over on 1 August."""
        number = uuid4()
        new = NewColony(id=number, apiary_id=self.apiary, label=str(number)[:8], since=date(2031, 5, 1), boxes=[WantedBox("brood", "A_deep", 10)], queen=QUEEN)  # fmt: skip
        self.do(lambda unit: colonies_record.add_colony(unit, new))
        looked = After(frames_of_bees=10.0, capped_brood=True, eggs_seen=True, queen="seen", supers_on=False, feed="none")  # fmt: skip
        visited(self.url, number, TODAY, looked)
        self.do(lambda unit: sampling_record.record_count(unit, washed(number, (15, 3, 0), TODAY - timedelta(days=1))))
        return number

    def plan(self, option: str, colony: UUID, start: date = TODAY) -> PlannedRow:
        """Plan a course, whatever the rules that can be set aside say."""

        def wanted(overrides: list[Override]) -> Callable[..., Any]:
            courses = [WantedCourse(uuid4(), colony, overrides)]
            return lambda unit: treatments_plan.plan_courses(unit, plan_id=uuid4(), apiary_id=self.apiary, option_id=option, start_on=start, interval_override=None, wanted=courses)  # fmt: skip

        [first] = self.do(wanted([]))
        if first.course_id is not None:
            return first
        [row] = self.do(wanted([Override(one.rule, NAMED, "to be tried") for one in first.held_by]))
        found: PlannedRow = row
        return found

    def begin(self, option: Option) -> Walk:
        """A colony and a course of an option for it."""
        colony = self.colony()
        row = self.plan(option.id, colony)
        assert row.course_id is not None, (option.id, row.held_by)
        return Walk(option, colony, row.course_id, TODAY)

    def view(self, walk: Walk) -> CourseView:
        """The course as its page shows it on the day that was reached."""
        found: CourseView = self.do(lambda unit: course_view(unit, walk.course), walk.day)
        return found

    def step(self, walk: Walk) -> str | None:
        """Record the next step on its best day; its name, None where there is none."""
        view = self.view(walk)
        if view.next_step is None:
            return None
        step = next(one.step for one in view.steps if one.step.name == view.next_step)
        walk.day = max(walk.day, step.ideal)
        count = None
        if step.kind in ("verify", "baseline_count"):
            new = washed(walk.colony, (1, 0), walk.day)
            self.do(lambda unit: sampling_record.record_count(unit, new), walk.day)
            count = new.id
        override = Override("weather", NAMED, "own thermometer") if step.kind == "place" else None
        quantity = view.course.dose_quantity if step.kind == "place" else None
        act = NewAct(uuid4(), step.name, "done", walk.day, quantity, "lot 7" if step.kind == "place" else "", count, "", override)  # fmt: skip
        self.do(lambda unit: treatments_record.record_act(unit, walk.course, act), walk.day)
        return step.name

    def to_the_end(self, walk: Walk) -> list[str]:
        """Record step after step until there is none; their names."""
        done = []
        while (name := self.step(walk)) is not None:
            done.append(name)
            assert len(done) < 30, done
        return done

    def test_every_option_reaches_its_verdict(self) -> None:
        """Each step in its order, once; at the end it is closed with a verdict, and no step is left."""
        for option in default_catalogue().options:
            with self.subTest(option=option.id):
                walk = self.begin(option)
                done = self.to_the_end(walk)
                view = self.view(walk)
                self.assertFalse(view.is_open)
                self.assertTrue(view.course.state.startswith("verified_"), view.course.state)
                self.assertIsNotNone(view.course.verdict)
                self.assertEqual(len(done), len(set(done)))
                placings = [name for name in done if name.startswith("place_")]
                self.assertEqual(len(placings), option.applications)
                self.assertIn("verify", done)
                acts = owner_rows(self.url, "SELECT count(*) FROM course_act WHERE course_id = %s", walk.course)[0][0]
                self.assertEqual(acts, sum(one.act is not None for one in view.steps))

    def test_what_lists_say_on_the_way(self) -> None:
        """While it is open the colony is no line to treat, its step is a line of the day, and its strip shows the
        course under the option's own name; closed, it is neither."""
        for option in default_catalogue().options[::4]:
            walk = self.begin(option)
            with self.subTest(option=option.id):
                work = self.do(planning_read.worklist, walk.day)
                self.assertNotIn(walk.colony, [one for line in work.over for one in line.ids])
                page = self.do(lambda unit: places_read.apiary_view(unit, self.apiary), walk.day)  # type: ignore[misc]
                [drawn] = [one for one in page.courses if one.id == walk.course]
                self.assertEqual((drawn.short_name, drawn.is_open), (option.short_name, True))
                self.to_the_end(walk)
                later = self.do(planning_read.worklist, walk.day)
                self.assertNotIn(walk.course, [one.due.course_id for one in later.steps])

    def test_a_chemical_keeps_the_next_one_out(self) -> None:
        """While one is planned or in, a second chemical is refused for the same days, and nobody can set that aside;
        measures without a chemical may run at the same time."""
        chemical = next(one for one in default_catalogue().options if one.id == "THY_GEL")
        walk = self.begin(chemical)
        for option in default_catalogue().options:
            row = self.plan(option.id, walk.colony)
            with self.subTest(option=option.id):
                if option.chemical:
                    self.assertIsNone(row.course_id)
                    self.assertIn("T09", [one.rule for one in row.held_by])

    def test_abandoned_at_every_step(self) -> None:
        """Broken off after each number of steps: it ends, its colony may be treated again, and what was done stays."""
        option = default_catalogue().option("FA_STRIP11")
        for number in range(6):
            walk = self.begin(option)
            done = [self.step(walk) for _ in range(number)]
            placed = any(name is not None and name.startswith("place_") for name in done)
            removed = walk.day if placed else None
            with self.subTest(after=done):
                self.do(
                    lambda unit: treatments_abandon.abandon(unit, walk.course, "bees left the hive", removed), walk.day
                )  # type: ignore[misc]
                view = self.view(walk)
                self.assertEqual((view.course.state, view.is_open, view.next_step), ("abandoned", False, None))
                self.assertEqual(
                    sum(one.act is not None for one in view.steps), len(done) + (1 if self.counted(walk) else 0)
                )
                self.assertTrue(COURSE_STATES[view.course.state].is_abandoned)
                with self.assertRaises((Refused, InvalidInput, StoreError)):
                    self.do(lambda unit: treatments_abandon.abandon(unit, walk.course, "again", removed), walk.day)  # type: ignore[misc]

    def counted(self, walk: Walk) -> bool:
        """Whether the count before came with the plan."""
        query = "SELECT 1 FROM course_act WHERE course_id = %s AND step = 'baseline_count'"
        return bool(owner_rows(self.url, query, walk.course))

    def test_no_step_is_taken_twice_or_out_of_turn(self) -> None:
        """For each option: the second record of a step is refused with who did the first; a later step before an
        earlier one is refused; nothing of it is written."""
        for option in default_catalogue().options[1::5]:
            walk = self.begin(option)
            names = [one.step.name for one in self.view(walk).steps if one.act is None]
            with self.subTest(option=option.id):
                last = NewAct(uuid4(), names[-1], "done", TODAY, None, "", None, "", None)
                with self.assertRaises((Refused, InvalidInput)):
                    self.do(lambda unit: treatments_record.record_act(unit, walk.course, last))  # type: ignore[misc]
                first = self.step(walk)
                assert first is not None
                again = NewAct(uuid4(), first, "done", walk.day, 1.0, "", None, "", None)
                with self.assertRaises(AlreadyDone) as caught:
                    self.do(lambda unit: treatments_record.record_act(unit, walk.course, again), walk.day)  # type: ignore[misc]
                self.assertIn("Idris Calloway", str(caught.exception))
                recorded = owner_rows(self.url, "SELECT count(*) FROM course_act WHERE course_id = %s AND step = %s", walk.course, first)  # fmt: skip
                self.assertEqual(recorded, [(1,)])

    def test_no_dose_for_a_hive_without_bees(self) -> None:
        """Found empty, no option has a dose there, and no name and reason can set that aside."""
        colony = self.colony()
        visited(self.url, colony, TODAY, After(frames_of_bees=0.0, capped_brood=False, eggs_seen=False))
        seen = self.do(lambda unit: colonies_read.colony_view(unit, colony)).colony
        self.assertEqual((seen.strength, seen.strength_unit), (0, "frames"))
        for option in default_catalogue().options:
            if option.dose.basis in ("per_frame", "per_seam", "per_n_frames", "per_n_frames_box"):
                with self.subTest(option=option.id):
                    row = self.plan(option.id, colony)
                    self.assertIsNone(row.course_id)
                    self.assertTrue({"T40", "T41"} & {one.rule for one in row.held_by}, row.held_by)

    def test_honey_is_clear_when_the_catalogue_says(self) -> None:
        """The day from which honey may be taken follows from what was really done, not from the plan."""
        for option in default_catalogue().options[::3]:
            walk = self.begin(option)
            before = self.view(walk).course.honey_clear_on
            self.to_the_end(walk)
            after = self.view(walk).course
            with self.subTest(option=option.id):
                if option.chemical:
                    assert after.honey_clear_on is not None and after.ended_on is not None
                    self.assertGreaterEqual(after.honey_clear_on, after.ended_on)
                else:
                    self.assertEqual(before is None, after.honey_clear_on is None)

    def test_the_clock_moves_nothing_that_was_done(self) -> None:
        """Looked at a year later, a closed course reads as on the day on which it was closed."""
        walk = self.begin(default_catalogue().option("THY_GEL"))
        self.to_the_end(walk)
        then = [(one.step.name, one.step.ideal, one.act.done_on if one.act else None) for one in self.view(walk).steps]
        walk.day += timedelta(days=365)
        now = [(one.step.name, one.step.ideal, one.act.done_on if one.act else None) for one in self.view(walk).steps]
        self.assertEqual(now, then)
        self.assertEqual(datetime(2031, 8, 2, tzinfo=UTC).date(), TODAY)
