"""What is so now: whatever is done, in whatever order, the narrow rows are what all records together say."""

from __future__ import annotations

import unittest
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from datetime import UTC, datetime, time, timedelta
from typing import Any
from uuid import UUID, uuid4

import psycopg
from psycopg.rows import dict_row

from redframe.core.policy.draft import CalendarDates
from redframe.core.policy.treatment_rules import TreatmentRules
from redframe.core.visits.record import After
from redframe.demo import scenario
from redframe.demo.scenario import DEMO_TODAY, made_id
from redframe.store import colonies as store
from redframe.store.database import sql
from redframe.work.colonies import record
from redframe.work.planning import read as planning_read
from redframe.work.policy import record as policy_record
from redframe.work.policy.read import policy_in_force
from redframe.work.policy.record import PolicyDraft
from redframe.work.sampling import record as sampling_record
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.visits import record as visits_record
from tests.store.plainly import PLAINLY
from tests.support import as_app, demo_template, identity, new_database, owner_rows, washed
from tests.support.chance import ChanceActs

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
WORK = "SELECT apiary_id, key, due FROM apiary_work ORDER BY 1"
ROWS = "SELECT to_jsonb(n) FROM colony_now n UNION ALL SELECT to_jsonb(n) FROM apiary_now n"


class Now(unittest.TestCase):
    def setUp(self) -> None:
        self.url = new_database(demo_template())
        self.chance = ChanceActs(self.url, 20310802)
        self.at = self.chance.at

    def assertTrueNow(self, after: str) -> None:
        """The rows are what they would be if all of them were renewed, and the pages that read them say what each
        record says."""
        self.at(planning_read.worklist)
        with psycopg.connect(self.url) as owner:
            kept = sorted(str(row[0]) for row in owner.execute(ROWS))
            owner.execute(ALL_AGAIN)
            self.assertEqual(kept, sorted(str(row[0]) for row in owner.execute(ROWS)), after)
            owner.rollback()
            judged = owner.execute(WORK).fetchall()
            owner.execute("INSERT INTO work_turned (association_id, apiary_id) SELECT association_id, id FROM apiary")
            owner.commit()
            self.at(planning_read.worklist)
            self.assertEqual(owner.execute(WORK).fetchall(), judged, after)
        until = self.chance.day + timedelta(days=3)
        places = [row[0] for row in owner_rows(self.url, "SELECT id FROM apiary WHERE association_id = %s", CORRANE)]
        given: dict[str, Any] = {
            "today": self.chance.day, "until": until, "most": 500, "apiaries": places, "km": 5.0,
            "sort": "name", "find": "", "level": None, "after_key": "", "after_id": UUID(int=0),
        }  # fmt: skip
        for who in (identity("mentor"), identity("keeper", "Orla Fenwick")):
            with as_app(self.url, who) as connection, connection.cursor(row_factory=dict_row) as cursor:
                for name, plainly in PLAINLY.items():
                    asked = [{**given, "id": one} for one in places[:3]] if "%(id)s" in plainly else [given]
                    for parameters in asked:
                        expected = cursor.execute(plainly, parameters).fetchall()  # type: ignore[call-overload]
                        found = cursor.execute(sql(name), parameters).fetchall()
                        shown = [{key: row[key] for key in one} for row, one in zip(found, expected, strict=True)]
                        self.assertEqual(shown, expected, f"{name}: {after}")

    def test_after_acts_at_random(self) -> None:
        """Ninety acts, and days that turn."""
        self.assertTrueNow("nothing")
        for number in range(90):
            self.assertTrueNow(f"{number}: {self.chance.act()}")

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
                new = washed(colony, (number,), self.chance.day, taken_at=NOON + timedelta(minutes=number))
                self.at(lambda unit: sampling_record.record_count(unit, new))
            elif number % 3 == 1:
                after = After(next_visit=self.chance.day + timedelta(days=number))
                self.at(lambda unit: visits_record.record_visit(
                    unit, uuid4(), colony_id=colony, visited_on=self.chance.day, after=after))  # fmt: skip
            else:
                self.at(lambda unit: relabel(unit, colony, number))

        async def relabel(unit: UnitOfWork, colony: UUID, number: int) -> None:
            before = await store.colony_for_update(unit.connection, colony)
            await record.amend_colony(
                unit, colony, before.version, label=f"P{number}", state="alive", state_since=self.chance.day, note=""
            )

        self.assertTrueNow("nothing")
        with ThreadPoolExecutor(16) as pool:
            for done in [pool.submit(work, number) for number in range(48)]:
                done.result()
        self.assertTrueNow("several at once")
