"""What is so now: whatever is done, in whatever order, the narrow rows are what all records together say."""

from __future__ import annotations

import random
import unittest
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta
from typing import Any
from uuid import UUID, uuid4

import psycopg
from psycopg.rows import dict_row

from redframe.core.errors import InvalidInput, Refused
from redframe.core.policy.draft import CalendarDates
from redframe.core.policy.treatment_rules import TreatmentRules
from redframe.core.visits.record import After
from redframe.demo import scenario
from redframe.demo.scenario import DEMO_TODAY, made_id
from redframe.store import colonies as store
from redframe.store.database import sql
from redframe.store.errors import StoreError
from redframe.work.colonies import holds, lineage, read, record, undo
from redframe.work.colonies.lineage import WantedPlace
from redframe.work.policy import record as policy_record
from redframe.work.policy.read import policy_in_force
from redframe.work.policy.record import PolicyDraft
from redframe.work.sampling import record as sampling_record
from redframe.work.treatments import plan as treatments_plan
from redframe.work.treatments import record as treatments_record
from redframe.work.treatments.plan import WantedCourse
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.visits import record as visits_record
from tests.store.plainly import PLAINLY
from tests.support import as_app, at_work, demo_template, identity, new_database, owner_rows, washed

CORRANE = made_id("corrane")
NOON = datetime.combine(DEMO_TODAY, time(11), UTC)
DRAFT = PolicyDraft(
    "flat_2",
    "corrected",
    "whole_apiary",
    CalendarDates.model_validate(scenario.CORRANE.calendar),
    {},
    21,
    90,
    TreatmentRules(),
)
ALL_AGAIN = """
SELECT renew_apiaries_now(ARRAY(SELECT id FROM apiary)), renew_colonies_now(ARRAY(SELECT id FROM colony))
"""
ROWS = "SELECT to_jsonb(n) FROM colony_now n UNION ALL SELECT to_jsonb(n) FROM apiary_now n"


class Now(unittest.TestCase):
    day: date

    def setUp(self) -> None:
        self.url = new_database(demo_template())
        self.day = DEMO_TODAY
        self.draw = random.Random(20310802)
        self.visits: list[UUID] = []
        self.counts: list[UUID] = []
        self.courses: list[UUID] = []

    def at(self, act: Any, who: Any = None) -> Any:
        return at_work(self.url, act, who, day=self.day, reason="by chance")

    def one(self, *, living: bool = True) -> tuple[UUID, UUID, str, int]:
        """Some colony of the association: itself, its apiary, its label, its version."""
        found = owner_rows(
            self.url, "SELECT id, apiary_id, label, version FROM colony WHERE association_id = %s AND is_living = %s "
            "ORDER BY id", CORRANE, living,
        )  # fmt: skip
        return self.draw.choice(found)  # type: ignore[return-value]

    def assertTrueNow(self, after: str) -> None:
        """The rows are what they would be if all of them were renewed, and the pages that read them say what each
        record says."""
        self.at(lambda unit: read.frame_formats(unit))
        with psycopg.connect(self.url) as owner:
            kept = sorted(str(row[0]) for row in owner.execute(ROWS))
            owner.execute(ALL_AGAIN)
            self.assertEqual(kept, sorted(str(row[0]) for row in owner.execute(ROWS)), after)
            owner.rollback()
        until = self.day + timedelta(days=3)
        places = [row[0] for row in owner_rows(self.url, "SELECT id FROM apiary WHERE association_id = %s", CORRANE)]
        given: dict[str, Any] = {"today": self.day, "until": until, "most": 500, "apiaries": places, "km": 5.0}
        for who in (identity("mentor"), identity("keeper", "Orla Fenwick")):
            with as_app(self.url, who) as connection, connection.cursor(row_factory=dict_row) as cursor:
                for name, plainly in PLAINLY.items():
                    asked = [{**given, "id": one} for one in places[:3]] if "%(id)s" in plainly else [given]
                    for parameters in asked:
                        expected = cursor.execute(plainly, parameters).fetchall()  # type: ignore[call-overload]
                        self.assertEqual(cursor.execute(sql(name), parameters).fetchall(), expected, f"{name}: {after}")

    def act(self) -> str:
        """Do something at random, as far as it is allowed; what was done."""
        acts: list[Callable[[], Any]] = [
            self.count, self.undo_count, self.visit, self.open, self.drop, self.plan, self.step, self.abandon,
            self.renumber, self.die, self.live, self.move, self.merge, self.split, self.undo_change, self.turn,
            self.hold,
        ]  # fmt: skip
        chosen = self.draw.choice(acts)
        with suppress(StoreError, InvalidInput, Refused):
            chosen()
        return chosen.__name__

    def count(self) -> None:
        new = washed(
            self.one()[0], (self.draw.choice((0, 2, 5, 14)),), self.day - timedelta(days=self.draw.choice((0, 9)))
        )
        self.counts.append(new.id)
        self.at(lambda unit: sampling_record.record_count(unit, new))

    def undo_count(self) -> None:
        if self.counts:
            given = self.draw.choice(self.counts)
            self.at(lambda unit: sampling_record.undo_count(unit, given))

    def visit(self) -> None:
        colony, on = self.one()[0], self.day - timedelta(days=self.draw.choice((0, 4, 30)))
        after = After(next_visit=on + timedelta(days=self.draw.choice((2, 6, 40))))
        self.at(lambda unit: visits_record.record_visit(unit, uuid4(), colony_id=colony, visited_on=on, after=after))

    def open(self) -> None:
        colony, visit = self.one()[0], uuid4()
        self.visits.append(visit)
        now = datetime.combine(self.day, time(9), UTC)
        self.at(lambda unit: visits_record.open_visit(unit, visit, colony, now))

    def drop(self) -> None:
        if self.visits:
            act = self.draw.choice((visits_record.drop_visit, visits_record.close_visit))
            visit = self.visits.pop()
            self.at(lambda unit: act(unit, visit))

    def plan(self) -> None:
        colony, apiary = self.one()[:2]
        course = uuid4()
        self.courses.append(course)
        self.at(lambda unit: treatments_plan.plan_courses(
            unit, plan_id=uuid4(), apiary_id=apiary, option_id=self.draw.choice(("FA_STRIP2", "OX_TRICKLE")),
            start_on=self.day, interval_override=None, wanted=[WantedCourse(course, colony, [])]))  # fmt: skip

    def step(self) -> None:
        if self.courses:
            course = self.draw.choice(self.courses)
            name = owner_rows(
                self.url, "SELECT name FROM course_step WHERE course_id = %s AND NOT done ORDER BY ideal", course
            )
            for (step,) in name[:3]:
                act = treatments_record.NewAct(uuid4(), step, "done", self.day, None, "", None, "", None)
                self.at(lambda unit, act=act: treatments_record.record_act(unit, course, act))

    def abandon(self) -> None:
        if self.courses:
            course = self.draw.choice(self.courses)
            self.at(lambda unit: treatments_record.abandon(unit, course, "rain", self.day))

    def amend(self, colony: UUID, label: str, version: int, state: Any) -> None:
        self.at(lambda unit: record.amend_colony(
            unit, colony, version, label=label, state=state, state_since=self.day, note=""))  # fmt: skip

    def renumber(self) -> None:
        colony, _, _, version = self.one()
        self.amend(colony, f"N{self.draw.randrange(10_000)}", version, "alive")

    def die(self) -> None:
        colony, _, label, version = self.one()
        self.amend(colony, label, version, self.draw.choice(("dead", "queenless", "gone")))

    def live(self) -> None:
        colony, _, label, version = self.one(living=False)
        self.amend(colony, label, version, "alive")

    def move(self) -> None:
        colony, _, label, version = self.one()
        place = WantedPlace(self.one()[1], f"{label}x"[:24], self.day)
        self.at(lambda unit: lineage.move(unit, colony, version, place))

    def merge(self) -> None:
        (colony, _, _, version), other = self.one(), self.one()[0]
        merger = lineage.Merger(other, self.day, "of_other", "store", override_why="for the test")
        self.at(lambda unit: lineage.merge(unit, colony, version, merger), identity("inspector"))

    def split(self) -> None:
        parent, apiary = self.one()[:2]
        new = record.NewColony(uuid4(), apiary, f"S{self.draw.randrange(10_000)}", self.day, split_from=parent)
        self.at(lambda unit: record.add_colony(unit, new))

    def hold(self) -> None:
        colony = self.one()[0]
        self.at(lambda unit: holds.hold_colony(unit, colony, uuid4(), kind="other", since=self.day, why="by chance"))

    def undo_change(self) -> None:
        for colony, *_ in [self.one() for _ in range(6)]:
            view: read.ColonyView = self.at(lambda unit, colony=colony: read.colony_view(unit, colony))
            if view.undoable is not None:
                change = view.undoable.change
                self.at(lambda unit, colony=colony, change=change: undo.undo_change(unit, colony, change))

    def turn(self) -> None:
        self.day += timedelta(days=self.draw.choice((1, 1, 20)))

    def test_after_acts_at_random(self) -> None:
        """Ninety acts, and days that turn."""
        self.assertTrueNow("nothing")
        for number in range(90):
            self.assertTrueNow(f"{number}: {self.act()}")

    def test_after_another_policy(self) -> None:
        """Another school and other levels move many colonies at once."""
        for scheme in ("flat_3", "any_mite", "season_phase"):
            draft = replace(DRAFT, scheme=scheme)

            async def put(unit: UnitOfWork, draft: PolicyDraft = draft) -> None:
                present = await policy_in_force(unit)
                await policy_record.set_policy(unit, draft, present.version)

            self.at(put, identity("administrator"))
            self.assertTrueNow(scheme)

    def test_by_several_at_once(self) -> None:
        """Sixteen people count, visit and renumber the same few colonies together: nobody's change is lost from the
        rows, and nobody is refused because of another."""
        places = [made_id("corrane", "apiary", name) for name in ("Kettle Wood", "Tarn Head")]
        few = owner_rows(
            self.url, "SELECT id FROM colony WHERE apiary_id = ANY(%s) AND is_living ORDER BY label LIMIT 6", places
        )

        def work(number: int) -> None:
            colony = few[number % len(few)][0]
            if number % 3 == 0:
                new = washed(colony, (number,), self.day, taken_at=NOON + timedelta(minutes=number))
                self.at(lambda unit: sampling_record.record_count(unit, new))
            elif number % 3 == 1:
                after = After(next_visit=self.day + timedelta(days=number))
                self.at(lambda unit: visits_record.record_visit(
                    unit, uuid4(), colony_id=colony, visited_on=self.day, after=after))  # fmt: skip
            else:
                self.at(lambda unit: relabel(unit, colony, number))

        async def relabel(unit: UnitOfWork, colony: UUID, number: int) -> None:
            before = await store.colony_for_update(unit.connection, colony)
            await record.amend_colony(
                unit, colony, before.version, label=f"P{number}", state="alive", state_since=self.day, note=""
            )

        self.assertTrueNow("nothing")
        with ThreadPoolExecutor(16) as pool:
            for done in [pool.submit(work, number) for number in range(48)]:
                done.result()
        self.assertTrueNow("several at once")
