"""Undo: what was recorded goes, what rested on it is as it was before, and the history keeps it."""

from __future__ import annotations

import unittest
from datetime import UTC, date, datetime
from uuid import UUID, uuid4

import psycopg

from redframe.core.visits.record import After, Before
from redframe.demo.scenario import made_id
from redframe.store.database import Identity
from redframe.store.errors import Conflict, NotFound
from redframe.work.sampling import record as sampling_record
from redframe.work.treatments import plan as treatments_plan
from redframe.work.treatments import read as treatments_read
from redframe.work.treatments import record as treatments_record
from redframe.work.treatments.plan import WantedCourse
from redframe.work.treatments.record import NewAct
from redframe.work.visits import read as visits_read
from redframe.work.visits import record as visits_record
from tests.support import at_work, demo_template, identity, new_database, owner_rows, washed

TODAY = date(2031, 8, 2)
NOW = datetime(2031, 8, 2, 9, tzinfo=UTC)
TIME = "CREATE OR REPLACE FUNCTION undo_time() RETURNS interval LANGUAGE sql STABLE AS $$ SELECT interval '{}' $$"
C2 = made_id("corrane", "Cairn Yard", "C2")


class Undone(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def at(self, act: object, who: Identity | None = None) -> object:
        """Do something as a person, with the reason that an undo gives."""
        return at_work(self.url, act, who, reason="undone")  # type: ignore[arg-type]

    def lasts(self, time: str) -> None:
        """Let an undo be possible for so long."""
        with psycopg.connect(self.url, autocommit=True) as owner:
            owner.execute(TIME.format(time))

    def status(self, colony: UUID) -> list[tuple[object, ...]]:
        """All that is derived of a colony's counts."""
        return owner_rows(
            self.url,
            "SELECT since, until, level, reason, act_at FROM colony_status WHERE colony_id = %s ORDER BY since",
            colony,
        ) + owner_rows(
            self.url, "SELECT counted_on, mites, median, recount_on FROM outlook WHERE colony_id = %s", colony
        )

    def test_a_count_goes_and_the_level_is_as_before(self) -> None:
        """Also of a colony that was never counted before; its history names who undid it; only once."""
        never = owner_rows(
            self.url,
            "SELECT id FROM colony c WHERE state = 'alive' AND association_id = %s AND NOT EXISTS (SELECT FROM mite_count m "
            "WHERE m.colony_id = c.id) LIMIT 1",
            made_id("corrane"),
        )[0][0]
        for colony in (C2, never):
            with self.subTest(colony=colony):
                before = self.status(colony)
                new = washed(colony, (20, 1), TODAY)
                self.at(lambda unit, new=new: sampling_record.record_count(unit, new))
                self.assertNotEqual(self.status(colony), before)
                self.at(lambda unit, one=new.id: sampling_record.undo_count(unit, one))
                self.assertEqual(self.status(colony), before)
                kept = "SELECT act, current ->> 'shakes' FROM audit WHERE record_id = %s ORDER BY seq"
                acts = owner_rows(self.url, kept, new.id)
                self.assertEqual(acts, [("created", "[20, 1]"), ("undone", "[20, 1]")])
                with self.assertRaises(NotFound):
                    self.at(lambda unit, one=new.id: sampling_record.undo_count(unit, one))

    def test_whose_it_is_and_for_how_long(self) -> None:
        """Another person, a count of yesterday and one that was amended are not undone: they are amended."""
        new = washed(C2, (3,), TODAY)
        count = new.id
        self.at(lambda unit: sampling_record.record_count(unit, new))
        with self.assertRaises(Conflict):
            self.at(lambda unit: sampling_record.undo_count(unit, count), identity("inspector"))
        self.lasts("0 seconds")
        self.addCleanup(self.lasts, "15 minutes")
        with self.assertRaises(Conflict):
            self.at(lambda unit: sampling_record.undo_count(unit, count))
        old = owner_rows(
            self.url, "SELECT id FROM mite_count WHERE colony_id = %s AND taken_on < '2031-08-01' LIMIT 1", C2
        )[0][0]
        with self.assertRaises(Conflict):
            self.at(lambda unit: sampling_record.undo_count(unit, old))

    def test_a_placing_goes_and_the_course_moves_back(self) -> None:
        """The state, the steps and the colony's days are what they were; a step that a later one follows stays."""
        place = made_id("corrane", "apiary", "Cairn Yard")
        planned = self.at(
            lambda unit: treatments_plan.plan_courses(
                unit, plan_id=uuid4(), apiary_id=place, option_id="FA_STRIP2", start_on=TODAY, interval_override=None,
                wanted=[WantedCourse(uuid4(), C2, [])],
            )
        )  # fmt: skip
        assert isinstance(planned, list)
        course = planned[0].course_id
        before = at_work(self.url, lambda unit: treatments_read.course_view(unit, course))
        acts = []
        for step in [one.step for one in before.steps if one.step.kind in ("prepare", "close_supers_feeder", "place")]:
            dose = before.course.dose_quantity if step.kind == "place" else None
            act = NewAct(uuid4(), step.name, "done", TODAY, dose, "", None, "", None)
            self.at(lambda unit, act=act: treatments_record.record_act(unit, course, act))
            acts.append(act.id)
        with self.assertRaises(Conflict):
            self.at(lambda unit: treatments_record.undo_act(unit, course, acts[0]))
        for act_id in reversed(acts):
            self.at(lambda unit, one=act_id: treatments_record.undo_act(unit, course, one))
        after = at_work(self.url, lambda unit: treatments_read.course_view(unit, course))
        self.assertEqual((after.course.state, after.course.placed_on), (before.course.state, None))
        self.assertEqual(after.steps, before.steps)

    def test_a_closed_visit_is_a_draft_again(self) -> None:
        """With all that it recorded; closed again it is one visit. Opened by another meanwhile, it stays closed."""
        visit = uuid4()
        self.at(lambda unit: visits_record.open_visit(unit, visit, C2, NOW))
        self.at(lambda unit: visits_record.save_part(unit, visit, "after", 0, After(temper=8)))
        self.at(lambda unit: visits_record.close_visit(unit, visit))
        self.assertTrue(at_work(self.url, lambda unit: visits_read.visit_view(unit, visit)).visit.may_reopen)
        with self.assertRaises(Conflict):
            self.at(lambda unit: visits_record.reopen_visit(unit, visit), identity("inspector"))
        opened = self.at(lambda unit: visits_record.reopen_visit(unit, visit))
        assert isinstance(opened, visits_read.VisitView)
        self.assertEqual((opened.visit.state, opened.visit.after.temper, opened.visit.before), ("draft", 8, Before()))
        self.at(lambda unit: visits_record.close_visit(unit, visit))
        self.at(lambda unit: visits_record.open_visit(unit, uuid4(), C2, NOW))
        with self.assertRaises(Conflict):
            self.at(lambda unit: visits_record.reopen_visit(unit, visit))
