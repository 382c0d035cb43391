"""Courses through the use cases: planned, placed, moved by what happens, amended, abandoned, verified."""

from __future__ import annotations

import unittest
from datetime import date, timedelta
from typing import Any
from uuid import UUID, uuid4

from redframe.core.colonies.hive_state import WantedBox
from redframe.core.errors import InvalidInput, Refused
from redframe.core.treatments.progress import StepProgress
from redframe.core.visits.record import After
from redframe.demo.scenario import made_id
from redframe.store.errors import AlreadyDone
from redframe.store.treatments import CourseAct
from redframe.work.colonies import holds as colonies_holds
from redframe.work.colonies import lineage as colonies_lineage
from redframe.work.colonies import read as colonies_read
from redframe.work.colonies import record as colonies_record
from redframe.work.colonies.queens import QueenRecord
from redframe.work.planning import read as planning_read
from redframe.work.sampling import record as sampling_record
from redframe.work.treatments import options as treatments_options
from redframe.work.treatments import plan as treatments_plan
from redframe.work.treatments import record as treatments_record
from redframe.work.treatments.plan import Override, PlannedRow, WantedCourse
from redframe.work.treatments.read import CourseView, course_view
from redframe.work.treatments.record import NewAct
from tests.support import at_work, demo_template, identity, new_database, visited, washed

TODAY = date(2031, 8, 2)
SHORE = made_id("corrane", "apiary", "Skerrow Bank")
INLAND = made_id("corrane", "apiary", "Tarn Head")


def later(days: int) -> date:
    """So many days after today."""
    return TODAY + timedelta(days=days)


class Courses(unittest.TestCase):
    """A copy of the demo, with a sound colony at the shore for each test."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def setUp(self) -> None:
        self.colony = self.sound(SHORE)

    def sound(self, apiary: UUID, **found: Any) -> UUID:
        """A colony of nine frames with capped brood and a laying queen, no supers, no feed, counted over."""
        number = uuid4()
        queen = QueenRecord(2030, None, "mated", date(2031, 5, 1), date(2031, 5, 1), None)
        fields: dict[str, Any] = {
            "apiary_id": apiary, "label": str(number)[:8], "since": date(2031, 5, 1), "note": "", "hive_id": None, "queen": queen,
            "hive_type": "stacked boxes", "boxes": [WantedBox("brood", "A_deep", 10)], "split_from": None,
        }  # fmt: skip
        looked: dict[str, Any] = {"frames_of_bees": 9.0, "capped_brood": True, "eggs_seen": True, "queen": "seen", "supers_on": False, "feed": "none", **found}  # fmt: skip
        at_work(self.url, lambda unit: colonies_record.add_colony(unit, colonies_record.NewColony(id=number, **fields)))
        visited(self.url, number, TODAY, After(**looked))
        self.count(number, (15, 3, 0))
        return number

    def count(self, colony: UUID, shakes: tuple[int, ...], day: date = TODAY) -> UUID:
        """Wash 300 bees of a colony on a day."""
        new = washed(colony, shakes, day)
        at_work(self.url, lambda unit: sampling_record.record_count(unit, new), day=day)
        return new.id

    def plan(self, option: str, colony: UUID, start: date = TODAY, overrides: list[Override] | None = None, apiary: UUID = SHORE, **more: Any) -> PlannedRow:  # fmt: skip
        """Plan a course for one colony."""
        wanted = [WantedCourse(uuid4(), colony, overrides or [])]
        rows = at_work(
            self.url,
            lambda unit: treatments_plan.plan_courses(
                unit,
                plan_id=uuid4(),
                apiary_id=apiary,
                option_id=option,
                start_on=start,
                interval_override=more.get("interval"),
                wanted=wanted,
            ),
        )
        return rows[0]

    def planned(self, option: str = "FA_STRIP11", **more: Any) -> UUID:
        """The id of a course that was planned."""
        row = self.plan(option, self.colony, **more)
        self.assertIsNotNone(row.course_id, row.held_by)
        assert row.course_id is not None
        return row.course_id

    def act(self, course: UUID, step: str, day: date = TODAY, today: date | None = None, override: Override | None = None, **more: Any) -> CourseView:  # fmt: skip
        """Record a step, today or later."""
        new = NewAct(uuid4(), step, more.get("outcome", "done"), day, more.get("quantity"), more.get("lot", ""), more.get("count_id"), more.get("note", ""), override)  # fmt: skip
        return at_work(self.url, lambda unit: treatments_record.record_act(unit, course, new), day=today or day)

    def view(self, course: UUID, today: date = TODAY) -> CourseView:
        """A course as its screen shows it on a day."""
        return at_work(self.url, lambda unit: course_view(unit, course), day=today)

    def step(self, view: CourseView, name: str) -> StepProgress:
        """One step of it."""
        return next(one.step for one in view.steps if one.step.name == name)

    def done(self, view: CourseView, name: str) -> CourseAct:
        """What was recorded of a step."""
        act = next(one.act for one in view.steps if one.step.name == name)
        assert act is not None
        return act

    def ready(self, course: UUID) -> None:
        """Everything before the first placing is done."""
        self.act(course, "prepare")
        self.act(course, "close_supers_feeder")


class Dates(Courses):
    def test_a_placing_three_days_late_moves_what_follows_by_three(self) -> None:
        """Every later step shifts by three, and by one more for the rain on the day of the second placing; the plan of
        record stays."""
        course = self.planned()
        before = {one.step.name: one.step.ideal for one in self.view(course).steps}
        self.ready(course)
        view = self.act(
            course, "place_1", later(3), override=Override("T62", "Bettrys Lund", "own thermometer"), quantity=1
        )
        for name in ("place_2", "end", "verify", "close"):
            step = self.step(view, name)
            with self.subTest(step=name):
                self.assertEqual(step.ideal, before[name] + timedelta(days=4))
                self.assertEqual(step.first_ideal, before[name])
        second = self.step(view, "place_2")
        self.assertEqual((second.ideal, second.moved_days), (date(2031, 8, 13), 4))
        assert second.moved_why is not None
        self.assertEqual(second.moved_why.code, "rain")

    def test_a_dose_may_come_before_its_day(self) -> None:
        """Weather allowing, a week early needs nobody's name; what would hold a plan on that day holds the dose."""
        course = self.planned("FA_STRIP2", start=later(5))
        self.act(course, "prepare")
        self.act(course, "close_supers_feeder")
        self.assertEqual(self.act(course, "place_1", quantity=2).course.placed_on, TODAY)
        self.colony = self.sound(SHORE)
        course = self.planned("FA_STRIP2", start=later(5))
        self.act(course, "prepare", later(-1), today=TODAY)
        self.act(course, "close_supers_feeder", later(-1), today=TODAY)
        visited(self.url, self.colony, TODAY, After(supers_on=True, feed="syrup_1_1", feed_amount=2.0))
        with self.assertRaises(Refused) as held:
            self.act(course, "place_1", quantity=2)
        self.assertEqual((held.exception.rule, held.exception.can_override), ("T52", True))
        with self.assertRaises(Refused):
            self.act(course, "place_1", quantity=2, override=Override("T52", " ", "the feeder is empty"))
        named = Override("T52", "Idris Calloway", "the feeder is empty")
        self.assertEqual(self.act(course, "place_1", quantity=2, override=named).course.placed_on, TODAY)

    def test_a_held_colony_gets_no_dose(self) -> None:
        """Put on hold after it was planned: a mentor is refused, an inspector who says why is not."""
        course = self.planned("FA_STRIP2")
        self.ready(course)
        colony = self.colony
        at_work(
            self.url,
            lambda unit: colonies_holds.hold_colony(
                unit, colony, uuid4(), kind="notifiable", since=TODAY, why="ropy brood"
            ),
        )
        said = Override("hold_notifiable", "Idris Calloway", "the authority agreed")
        new = NewAct(uuid4(), "place_1", "done", TODAY, 2.0, "", None, "", said)
        with self.assertRaises(Refused) as held:
            at_work(self.url, lambda unit: treatments_record.record_act(unit, course, new))
        self.assertEqual((held.exception.rule, held.exception.can_override), ("hold_notifiable", False))
        view = at_work(self.url, lambda unit: treatments_record.record_act(unit, course, new), identity("inspector"))
        self.assertEqual(view.course.state, "under_way")

    def test_a_trickle_waits_for_its_check_count_at_once(self) -> None:
        """Nothing stays in the hive: the dose is the end, the honey clears from it, the next step is the check count."""
        self.colony = self.sound(SHORE, capped_brood=False, eggs_seen=False)
        everything = [Override(f"T{number:02}", "Idris Calloway", "broodless") for number in range(100)]
        row = self.plan("OX_TRICKLE", self.colony, overrides=everything)
        assert row.course_id is not None
        self.ready(row.course_id)
        view = self.act(row.course_id, "place_1", quantity=45, override=Override("T62", "Idris Calloway", "seen"))
        self.assertEqual((view.course.state, view.course.ended_on), ("awaiting_verification", TODAY))
        self.assertEqual((self.step(view, "end").state, view.next_step), ("done", "dispose"))

    def test_a_second_placing_past_its_window_needs_a_name(self) -> None:
        """After the latest day the course does not count as one: plan again, or somebody named takes it on."""
        course = self.planned()
        self.ready(course)
        self.act(course, "place_1", quantity=1)
        day = self.step(self.view(course), "place_2").latest + timedelta(days=1)
        self.assertEqual(self.step(self.view(course, day), "place_2").state, "overdue")
        with self.assertRaises(Refused) as late:
            self.act(course, "place_2", day, quantity=1)
        self.assertEqual((late.exception.rule, late.exception.can_override), ("S4", True))
        for half in (Override("S4", "", "rain"), Override("S4", "Idris Calloway", " ")):
            with self.assertRaises(Refused):
                self.act(course, "place_2", day, quantity=1, override=half)
        view = self.act(
            course, "place_2", day, quantity=1, override=Override("S4", "Idris Calloway", "rain for a week")
        )
        done = self.done(view, "place_2")
        self.assertEqual((done.override_by, done.override_why), ("Idris Calloway", "rain for a week"))

    def test_steps_come_in_their_order_and_once(self) -> None:
        """Not before the one it waits for, not a day before that was done, not in the future, not twice."""
        course = self.planned()
        with self.assertRaisesRegex(Refused, "prepare|close"):
            self.act(course, "place_1", quantity=1)
        self.ready(course)
        with self.assertRaises(Refused) as early:
            self.act(course, "verify", count_id=uuid4())
        self.assertEqual(early.exception.rule, "order")
        with self.assertRaisesRegex(InvalidInput, "^quantity:"):
            self.act(course, "place_1")
        with self.assertRaisesRegex(InvalidInput, "^done_on: lies in the future"):
            self.act(course, "place_1", later(1), today=TODAY, quantity=1)
        self.act(course, "place_1", quantity=1)
        with self.assertRaises(AlreadyDone):
            self.act(course, "place_1", quantity=1)
        with self.assertRaises(InvalidInput):
            self.act(course, "wave_smoker")
        with self.assertRaises(Refused) as skipped:
            self.act(course, "place_2", later(7), outcome="skipped", note="no time")
        self.assertEqual(skipped.exception.rule, "skip")

    def test_an_interval_of_its_own_is_kept_on_the_course(self) -> None:
        """Fourteen days between the strips of this one course."""
        course = self.planned(interval=14)
        view = self.view(course)
        self.assertEqual(view.course.interval_override, 14)
        self.assertEqual(self.step(view, "place_2").ideal, later(14))
        with self.assertRaisesRegex(InvalidInput, "^interval_override:"):
            self.plan("FA_STRIP11", self.sound(SHORE), interval=0)


class Weather(Courses):
    def test_a_hot_spell_inland_holds_the_strips_back_until_it_passes(self) -> None:
        """Planned in spite of it, refused on the day, with the first usable day; that day goes."""
        self.colony = self.sound(INLAND)
        course = self.planned(apiary=INLAND)
        self.ready(course)
        self.assertEqual(self.step(self.view(course), "place_1").state, "waiting_for_weather")
        with self.assertRaises(Refused) as hot:
            self.act(course, "place_1", quantity=1)
        self.assertIn(hot.exception.rule, ("T60", "T65"))
        self.assertIn("6 August 2031", hot.exception.message)
        line = next(one for one in at_work(self.url, planning_read.worklist).steps if one.due.course_id == course)
        self.assertEqual((line.urgency, line.next_usable), ("waiting_for_weather", date(2031, 8, 6)))
        self.assertEqual(self.act(course, "place_1", date(2031, 8, 6), quantity=1).course.state, "under_way")

    def test_a_placing_entered_later_was_seen_by_who_placed_it(self) -> None:
        """Yesterday's placing, entered today: the weather is not asked again."""
        self.colony = self.sound(INLAND)
        course = self.planned(apiary=INLAND)
        self.ready(course)
        view = self.act(course, "place_1", later(2), today=later(3), quantity=1)
        self.assertEqual(view.course.placed_on, later(2))


class Rules(Courses):
    def test_what_a_rule_holds_back_goes_only_with_a_name_and_a_reason(self) -> None:
        """Supers on: held by the label's rule; with who and why it is planned and carries both for good."""
        number = self.sound(SHORE, supers_on=True)
        held = self.plan("OX_TRICKLE", number)
        self.assertIsNone(held.course_id)
        rules = {reason.rule: reason.source for reason in held.held_by}
        self.assertIn("T50", rules)
        self.assertIn("L", rules["T50"])
        unnamed = [Override(rule, "", "we know better") for rule in rules]
        self.assertIn("T50", {reason.rule for reason in self.plan("OX_TRICKLE", number, overrides=unnamed).held_by})
        silent = [Override(rule, "Idris Calloway", "") for rule in rules]
        self.assertIsNone(self.plan("OX_TRICKLE", number, overrides=silent).course_id)
        named = [Override(rule, "Idris Calloway", "empty super, not for people") for rule in rules]
        done = self.plan("OX_TRICKLE", number, overrides=named)
        assert done.course_id is not None
        kept = {one.rule: one for one in self.view(done.course_id).course.overrides}
        self.assertEqual(kept["T50"].authorised_by, "Idris Calloway")

    def test_one_chemical_at_a_time(self) -> None:
        """A second one over the days of the first is held, whoever would take it on; after its end it goes."""
        first = self.planned("FA_STRIP2")
        end = self.step(self.view(first), "end").ideal
        everything = [Override(f"T{number:02}", "Idris Calloway", "we insist") for number in range(100)]
        held = self.plan("THY_GEL", self.colony, later(3), overrides=everything)
        self.assertEqual((held.course_id, held.held_by[-1].rule, held.held_by[-1].until), (None, "T09", end))
        choice = at_work(self.url, lambda unit: treatments_options.options_for(unit, SHORE, [self.colony], later(1)))
        self.assertEqual([course.id for course in choice.colonies[0].open_courses], [first])
        following = self.plan("THY_GEL", self.colony, end + timedelta(days=1), overrides=everything)
        self.assertIsNotNone(following.course_id, following.held_by)

    def test_a_moved_colony_takes_its_course_along(self) -> None:
        """The worklist and the course name where it stands now, and its next step can be done there."""
        course = self.planned()
        self.ready(course)
        version = at_work(self.url, lambda unit: colonies_read.colony_view(unit, self.colony)).colony.version
        label = str(self.colony)[:6]
        at_work(
            self.url,
            lambda unit: colonies_lineage.move(
                unit,
                self.colony,
                version,
                colonies_lineage.WantedPlace(made_id("corrane", "apiary", "Plover Hay"), label, TODAY),
            ),
        )
        self.assertEqual(self.view(course).course.apiary, "Plover Hay")
        lines = [one.due for one in at_work(self.url, planning_read.worklist).steps if one.due.course_id == course]
        self.assertEqual({(line.apiary, *line.labels) for line in lines}, {("Plover Hay", label)})
        self.assertEqual(self.act(course, "place_1", date(2031, 8, 6), quantity=1).course.state, "under_way")
