"""Why a course failed and what works here, from the records of the demo."""

from __future__ import annotations

import csv
import io
import unittest
from datetime import date
from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.demo.scenario import made_id
from redframe.outlets.what_works_table import what_works_csv
from redframe.store.errors import NotFound
from redframe.work.treatments.what_works import what_works_here
from redframe.work.treatments.why_failed import why_failed_of
from tests.support import at_work, demo_template, identity, new_database, owner_rows


class Explained(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def course(self, colony: UUID, state: str) -> UUID:
        """A course of a colony in a state."""
        found: UUID = owner_rows(self.url, "SELECT id FROM course WHERE colony_id = %s AND state = %s ORDER BY start_on DESC", colony, state)[0][0]  # fmt: skip
        return found

    def test_the_course_that_failed(self) -> None:
        """Strips of formic acid at Lower Fenn: one of two, of an old pack; they reach into cells, and resistance to the
        acid is not known."""
        failed = self.course(made_id("corrane", "Lower Fenn", "L1"), "verified_failed")
        found = at_work(self.url, lambda unit: why_failed_of(unit, failed))
        by = {one.code: one for one in found.causes}
        self.assertEqual(len(by), 7)
        self.assertEqual({one.code for one in by["brood_present"].against}, {"reaches_cells"})
        less = by["under_dosing"]
        self.assertEqual((less.weight, list(less.against), found.next_step), ("likely", [], "give_it_right"))
        self.assertEqual([one.code for one in less.speaks_for], ["dose_less", "lot_out_of_date"])
        self.assertEqual({one.code for one in by["resistance"].against}, {"other_group"})
        self.assertTrue(by["temperature"].speaks_for or by["temperature"].against)
        with self.assertRaises(NotFound):
            at_work(self.url, lambda unit: why_failed_of(unit, failed), identity("keeper", keeper="Orla Fenwick"))

    def test_a_course_without_a_result_has_none(self) -> None:
        """It says so."""
        under_way = self.course(made_id("corrane", "Kettle Wood", "K3"), "under_way")
        with self.assertRaises(InvalidInput):
            at_work(self.url, lambda unit: why_failed_of(unit, under_way))

    def test_what_works_counts_every_checked_course(self) -> None:
        """Against the table of courses; a season leaves its own, a keeper sees the own."""
        for who in (identity(), identity(association="ellery")):
            found = at_work(self.url, what_works_here, who)
            counted = {one.option_id: one.courses for one in found.options}
            query = "SELECT option_id, count(*) FROM course WHERE association_id = %s AND verdict IS NOT NULL AND state LIKE 'verified%%' GROUP BY 1"
            self.assertEqual(counted, dict(owner_rows(self.url, query, who.association_id)))
        whole = at_work(self.url, what_works_here)
        parts = [at_work(self.url, lambda unit, season=season: what_works_here(unit, None, season)) for season in ("winter_cluster", "spring_build", "swarm", "flow", "post_harvest", "autumn")]  # type: ignore[misc]  # fmt: skip
        self.assertEqual(
            sum(one.courses for part in parts for one in part.options), sum(one.courses for one in whole.options)
        )
        orla = at_work(self.url, what_works_here, identity("keeper", keeper="Orla Fenwick"))
        self.assertEqual(set(orla.apiaries.values()), {"Tarn Head", "Skerrow Bank"})
        late = at_work(self.url, lambda unit: what_works_here(unit, date(2031, 7, 1)))
        self.assertLess(sum(one.courses for one in late.options), sum(one.courses for one in whole.options))

    def test_as_a_table(self) -> None:
        """A row an option, then a row an apiary; no keeper is named."""
        found = at_work(self.url, what_works_here)
        text = what_works_csv(found)
        rows = list(csv.DictReader(io.StringIO(text, newline="")))
        self.assertEqual(len(rows), len(found.options) + sum(len(one.by_apiary) for one in found.options))
        self.assertNotIn("Merrin", text)
        first = next(row for row in rows if row["killed_pct"])
        self.assertLess(float(first["low_pct"]), float(first["killed_pct"]))
