"""Treatments entered after they were given: recorded once for several colonies, seen by what looks back, amended."""

from __future__ import annotations

import unittest
from collections.abc import Sequence
from datetime import date
from typing import Any
from uuid import UUID, uuid4

from redframe.core.colonies.hive_state import WantedBox
from redframe.core.errors import InvalidInput, Refused
from redframe.core.visits.record import After
from redframe.demo.scenario import made_id
from redframe.store import records
from redframe.store.errors import Conflict, NotFound
from redframe.work.colonies import read as colonies_read
from redframe.work.colonies import record as colonies_record
from redframe.work.forecast import read as forecast_read
from redframe.work.planning import read as planning_read
from redframe.work.sampling import record as sampling_record
from redframe.work.treatments import earlier, options, record
from redframe.work.treatments.earlier import EarlierRow, OfColony, WasGiven
from redframe.work.treatments.options import ColonyChoice
from redframe.work.treatments.read import CourseView, course_view, plan_view
from redframe.work.treatments.record import NewAct
from tests.support import at_work, demo_template, identity, new_database, owner_rows, visited, washed

TODAY = date(2031, 8, 2)
SHORE = made_id("corrane", "apiary", "Skerrow Bank")


def was(option: str, *doses: date, **more: Any) -> WasGiven:
    """What somebody says of a treatment."""
    said: dict[str, Any] = {
        "end": "not_known", "ended_on": None, "dose_quantity": None, "outcome": None, "given_by": "Orla Fenwick",
        "known_from": "keeper_said", "note": "", **more,
    }  # fmt: skip
    return WasGiven(option, list(doses), **said)


class EarlierTreatments(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def setUp(self) -> None:
        self.colony = self.colony_since(date(2031, 5, 1))

    def colony_since(self, since: date, split_from: UUID | None = None) -> UUID:
        """A sound colony at the shore, come there on a day."""
        number = uuid4()
        new = colonies_record.NewColony(
            number, SHORE, str(number)[:8], since, boxes=[WantedBox("brood", "A_deep", 10)], split_from=split_from
        )
        at_work(self.url, lambda unit: colonies_record.add_colony(unit, new))
        after = After(frames_of_bees=9.0, capped_brood=True, eggs_seen=True, queen="seen", supers_on=False, feed="none")
        visited(self.url, number, TODAY, after)
        return number

    def enter(self, what: WasGiven, *colonies: UUID, ids: Sequence[UUID] = (), entry: UUID | None = None) -> list[EarlierRow]:  # fmt: skip
        of = [OfColony(ids[i] if ids else uuid4(), one) for i, one in enumerate(colonies or (self.colony,))]
        return at_work(self.url, lambda unit: earlier.record_earlier(unit, entry or uuid4(), SHORE, what, of))

    def course(self, what: WasGiven) -> UUID:
        """The id of a course entered for the colony."""
        row = self.enter(what)[0]
        assert row.course_id is not None
        return row.course_id

    def view(self, course: UUID) -> CourseView:
        return at_work(self.url, lambda unit: course_view(unit, course))

    def choice(self, *colonies: UUID) -> ColonyChoice:
        found = at_work(self.url, lambda unit: options.options_for(unit, SHORE, list(colonies or (self.colony,))))
        return found.colonies[0]

    def rules(self, option: str) -> list[str]:
        return self.choice().choice.options[option].rules

    def test_several_at_once_and_once_only(self) -> None:
        other = self.colony_since(date(2031, 5, 1))
        ids, entry, what = [uuid4(), uuid4()], uuid4(), was("AMZ_STRIP", date(2031, 3, 1), outcome="failed")
        first = self.enter(what, self.colony, other, ids=ids, entry=entry)
        self.assertEqual(first, self.enter(what, self.colony, other, ids=ids, entry=entry))
        self.assertEqual({row.course_id for row in first}, set(ids))
        together = at_work(self.url, lambda unit: plan_view(unit, entry)).courses
        self.assertEqual([one.course.state for one in together], ["given_earlier"] * 2)
        with self.assertRaises(Conflict):
            self.enter(was("AMZ_STRIP", date(2031, 3, 2)), self.colony, ids=ids, entry=entry)
        # Somebody else enters it too: it is on record, and by whom.
        with self.assertRaises(InvalidInput) as taken:
            self.enter(what)
        self.assertEqual((taken.exception.field, taken.exception.code), ("doses_on[0]", "taken"))

    def test_rules_that_look_back_see_it(self) -> None:
        self.assertNotIn("T11", self.rules("AMZ_STRIP"))
        self.enter(was("AMZ_STRIP", date(2031, 3, 1), outcome="failed"))
        self.assertIn("T11", self.rules("AMZ_STRIP"))
        self.assertNotIn("T09", self.rules("THY_GEL"))
        self.enter(was("OX_TRICKLE", date(2031, 7, 28), end="known", ended_on=date(2031, 7, 28)))
        self.assertIn("T08", self.rules("OX_VAP1"))

    def test_it_is_on_the_page_of_its_colony_and_in_its_forecast(self) -> None:
        at_work(self.url, lambda unit: sampling_record.record_count(unit, washed(self.colony, (15, 3, 0), date(2031, 7, 20))), day=date(2031, 7, 20))  # fmt: skip
        course = self.course(was("OX_TRICKLE", date(2031, 7, 25), end="known", ended_on=date(2031, 7, 25)))
        page = at_work(self.url, lambda unit: colonies_read.colony_view(unit, self.colony))
        self.assertEqual([one.course.id for one in page.courses], [course])
        ahead = at_work(self.url, lambda unit: forecast_read.colony_forecast(unit, self.colony))
        self.assertEqual([one.id for one in ahead.courses], [course])

    def test_what_is_still_in_goes_on_as_a_course(self) -> None:
        course = self.course(was("AMZ_STRIP", date(2031, 6, 10), end="still_in", dose_quantity=2.0))
        view = self.view(course)
        self.assertEqual((view.course.state, view.next_step), ("under_way", "interim_check"))
        self.assertEqual({one.step.name for one in view.steps if one.act}, {"place_1"})
        self.assertIn("T09", self.rules("THY_GEL"))
        due = at_work(self.url, lambda unit: planning_read.work_of_kind(unit, "treatments", 200))
        self.assertIn((view.course.label, "remove"), [(label, line.due.kind) for line in due.steps for label in line.due.labels])  # fmt: skip
        taken = NewAct(uuid4(), "remove", "done", TODAY, None, "", None, "", None)
        after = at_work(self.url, lambda unit: record.record_act(unit, course, taken))
        self.assertEqual((after.course.state, after.course.ended_on), ("awaiting_verification", TODAY))
        # Once it went on here it is no longer somebody's word alone.
        with self.assertRaises(Refused):
            at_work(self.url, lambda unit: earlier.withdraw_earlier(unit, course, 1, "wrong hive"), reason="wrong hive")

    def test_doses_still_to_come_need_their_size(self) -> None:
        with self.assertRaises(InvalidInput) as missing:
            self.enter(was("THY_GEL", date(2031, 7, 25), end="still_in"))
        self.assertEqual(missing.exception.field, "dose_quantity")
        view = self.view(self.course(was("THY_GEL", date(2031, 7, 25), end="still_in", dose_quantity=50.0)))
        self.assertEqual((view.next_step, view.course.dose_quantity), ("interim_check", 50.0))

    def test_its_doses_are_not_undone_one_by_one(self) -> None:
        course = self.course(was("AMZ_STRIP", date(2031, 6, 10), end="still_in"))
        act = next(one.act for one in self.view(course).steps if one.act)
        self.assertFalse(act.may_undo)
        with self.assertRaises(Conflict):
            at_work(self.url, lambda unit: record.undo_act(unit, course, act.id))

    def test_two_chemicals_on_record_at_once(self) -> None:
        """What was given is written down; what is still in cannot be beside another that is still in."""
        self.enter(was("AMZ_STRIP", date(2031, 6, 10), end="still_in"))
        rows = self.enter(was("FA_STRIP2", date(2031, 7, 1), end="known", ended_on=date(2031, 7, 8)))
        self.assertIn("T09", [one.rule for one in rows[0].warnings])
        with self.assertRaises(Conflict):
            self.enter(was("HOP_STRIP", date(2031, 7, 20), end="still_in"))

    def test_amended_with_its_history(self) -> None:
        course = self.course(was("AMZ_STRIP", date(2031, 3, 1)))
        self.assertEqual(self.view(course).course.ended_on, date(2031, 4, 26))
        better = was("AMZ_STRIP", date(2031, 3, 3), end="known", ended_on=date(2031, 4, 20), outcome="worked")
        amended = at_work(self.url, lambda unit: earlier.amend_earlier(unit, course, 1, better), reason="the book")
        self.assertEqual((amended.course.placed_on, amended.course.ended_on), (date(2031, 3, 3), date(2031, 4, 20)))
        self.assertEqual(amended.course.honey_clear_on, date(2031, 5, 4))
        with self.assertRaises(Conflict):
            at_work(self.url, lambda unit: earlier.amend_earlier(unit, course, 1, better), reason="the book")
        kept = at_work(self.url, lambda unit: records.history_of(unit.connection, "earlier_treatment", course))
        self.assertEqual([(one.act, one.reason) for one in kept], [("amended", "the book"), ("created", "")])
        for wrong in (
            was("FA_STRIP2", date(2031, 3, 3)),
            was("AMZ_STRIP", date(2031, 3, 3), end="still_in"),
        ):
            with self.assertRaises(Refused):
                at_work(self.url, lambda unit, wrong=wrong: earlier.amend_earlier(unit, course, 2, wrong), reason="no")  # type: ignore[misc]

    def test_withdrawn_it_counts_for_nothing_and_stays(self) -> None:
        course = self.course(was("AMZ_STRIP", date(2031, 3, 1), outcome="failed"))
        self.assertIn("T11", self.rules("AMZ_STRIP"))
        with self.assertRaises(InvalidInput):
            at_work(self.url, lambda unit: earlier.withdraw_earlier(unit, course, 1, " "), reason=" ")
        gone = at_work(self.url, lambda unit: earlier.withdraw_earlier(unit, course, 1, "other hive"), reason="other hive")  # fmt: skip
        self.assertEqual((gone.course.state, gone.course.placed_on, list(gone.steps)), ("withdrawn", None, []))
        self.assertNotIn("T11", self.rules("AMZ_STRIP"))
        with self.assertRaises(Refused):
            at_work(self.url, lambda unit: earlier.withdraw_earlier(unit, course, 2, "again"), reason="again")
        # It can be entered anew, rightly.
        self.enter(was("AMZ_STRIP", date(2031, 3, 1), outcome="worked"))

    def test_a_planned_course_is_no_earlier_treatment(self) -> None:
        planned = owner_rows(self.url, "SELECT id FROM course WHERE state = 'under_way' LIMIT 1")[0][0]
        with self.assertRaises(NotFound):
            at_work(self.url, lambda unit: earlier.withdraw_earlier(unit, planned, 1, "no"), reason="no")

    def test_how_far_back_is_known(self) -> None:
        """A colony that came here has a past that nobody knows; a split has none but its parent's."""
        formic = self.choice().choice.options["FA_STRIP2"].option
        trickle = self.choice().choice.options["OX_TRICKLE"].option
        self.assertEqual(self.choice().needs_known_since(formic), date(2031, 1, 1))
        at_work(self.url, lambda unit: earlier.say_known(unit, uuid4(), SHORE, [self.colony], date(2030, 1, 1), "keeper_record"))  # fmt: skip
        self.assertEqual(self.choice().known_since, date(2030, 1, 1))
        self.assertIsNone(self.choice().needs_known_since(formic))
        self.assertIsNone(self.choice().needs_known_since(trickle))
        # The latest word holds: it may correct the one before.
        at_work(self.url, lambda unit: earlier.say_known(unit, uuid4(), SHORE, [self.colony], date(2031, 7, 1), "keeper_said"))  # fmt: skip
        self.assertEqual(self.choice().known_since, date(2031, 5, 1))

    def test_a_split_had_nothing_before_it_was_one(self) -> None:
        split = self.colony_since(date(2031, 6, 20), split_from=self.colony)
        with self.assertRaises(InvalidInput) as before:
            self.enter(was("OX_TRICKLE", date(2031, 6, 19)), self.colony, split)
        self.assertEqual(before.exception.field, "doses_on[0]")
        self.assertIn(str(split)[:8], before.exception.message)

    def test_another_role_and_another_keeper(self) -> None:
        what = was("OX_TRICKLE", date(2031, 7, 1), end="known", ended_on=date(2031, 7, 1))
        of = [OfColony(uuid4(), self.colony)]
        for who in (identity("read_only"), identity("keeper", "hollow"), identity("mentor", association="ellery")):
            with self.assertRaises((NotFound, InvalidInput, PermissionError, Exception)) as refused:
                at_work(self.url, lambda unit: earlier.record_earlier(unit, uuid4(), SHORE, what, of), who)
            self.assertNotIsInstance(refused.exception, AssertionError)
        self.assertEqual(owner_rows(self.url, "SELECT count(*) FROM course WHERE id = %s", of[0].id), [(0,)])
