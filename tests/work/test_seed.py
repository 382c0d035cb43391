"""The data that the bench measures on: made set-based, and still what the application reads."""

from __future__ import annotations

import unittest

import psycopg
from bench.cpu import sending, statements_of
from bench.run import some_screens
from bench.seed import seed

from redframe.work.forecast import association as forecast_association
from redframe.work.places import read as places_read
from redframe.work.planning import read as planning_read
from tests.support import at_work, demo_template, new_database, owner_rows


class Seeded(unittest.TestCase):
    def test_the_application_reads_what_the_bench_lays(self) -> None:
        """Hundreds of colonies with their seasons: each has a level and a record to forecast from; the lists and an
        apiary show them; every statement that the bench sends by itself answers."""
        url = new_database(demo_template())
        before = owner_rows(url, "SELECT count(*) FROM colony")[0][0]
        total = seed(url, 300)
        self.assertGreaterEqual(total - before, 300)
        known = owner_rows(
            url,
            "SELECT count(*) FROM colony c JOIN outlook USING (association_id) JOIN colony_status s ON s.colony_id = c.id "
            "WHERE c.label LIKE 'X%%' AND outlook.colony_id = c.id",
        )[0][0]
        self.assertGreaterEqual(known, 300)
        self.assertGreaterEqual(len(at_work(url, forecast_association.to_forecast)), 300)
        self.assertTrue(at_work(url, planning_read.worklist).counts)
        listed = at_work(url, places_read.places_view).apiaries
        made = next(one.overview for one in listed if one.overview.name.startswith("Apiary"))
        view = at_work(url, lambda unit: places_read.apiary_view(unit, made.id))
        self.assertEqual(len(view.colonies), 12)
        assert view.estimate is not None
        self.assertEqual(view.estimate.counted, 12)
        with psycopg.connect(url) as bare:
            for name, (_, act) in some_screens(bare).items():
                with self.subTest(screen=name):
                    statements = statements_of(url, act)
                    self.assertGreater(len(statements), 1)
                    sending(bare, statements)()
