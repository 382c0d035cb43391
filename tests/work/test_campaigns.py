"""Count weeks through the use cases: opened, entered by table, read together, reminded of, and private."""

from __future__ import annotations

import csv
import io
import json
import tempfile
import unittest
from dataclasses import replace
from datetime import UTC, date, datetime
from pathlib import Path
from typing import Any
from uuid import UUID, uuid4
from zoneinfo import ZoneInfo

from redframe.api.settings import Settings
from redframe.core.campaigns.cells import cell_of
from redframe.core.errors import InvalidInput
from redframe.demo.scenario import ACCOUNTS, made_id
from redframe.jobs import worker
from redframe.outlets.count_table import cells_geojson, counts_csv, read_counts
from redframe.outlets.count_week_report import count_week_report
from redframe.store.campaigns import CountWeekDetails
from redframe.store.errors import NotAllowed
from redframe.store.roles import application_url
from redframe.work.campaigns import read as campaigns_read
from redframe.work.campaigns import record as campaigns_record
from redframe.work.campaigns.read import WeekView
from redframe.work.campaigns.record import RowReport
from redframe.work.campaigns.results import Results
from tests.support import aside, at_work, demo_template, identity, new_database, owner_rows

TODAY = date(2031, 8, 2)
NOW = datetime(2031, 8, 2, 13, tzinfo=UTC)
WEEK = made_id("count week", date(2031, 7, 25))
ZONE = ZoneInfo("Etc/GMT+1")


class Demo(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def view(self, week: UUID = WEEK, who: Any = None) -> WeekView:
        """A count week as somebody sees it."""
        return at_work(self.url, lambda unit: campaigns_read.week_view(unit, week), who)

    def results(self) -> Results:
        """What the running week says."""
        found = self.view().results
        assert found is not None
        return found


class Near(Demo):
    def test_a_keeper_is_told_of_an_urgent_neighbourhood_and_of_no_place(self) -> None:
        """Cells of the database are those of the core; with low counts nobody is warned, with high ones all
        are, and a keeper, who sees no counts of others, the same as the organiser."""
        rows = owner_rows(self.url, "SELECT latitude, longitude FROM apiary")
        rows += [(55.0 - n * 9.77, -179.0 + n * 31.3) for n in range(11)]
        for latitude, longitude in rows:
            for size in (0.1, 0.2):
                answer = owner_rows(self.url, "SELECT * FROM coarse_cell(%s, %s, %s)", latitude, longitude, size)[0]
                cell = cell_of(latitude, longitude, size)
                self.assertEqual(answer, (cell.row, cell.column))
        for rate, warned in ((0.1, False), (9.0, True)):
            owner_rows(
                self.url,
                "WITH changed AS (UPDATE count_reading SET median = %s FROM mite_count m JOIN colony c ON c.id = m.colony_id "
                "WHERE count_id = m.id AND scale = 'mites_per_100' AND m.taken_on >= '2031-07-25' RETURNING 1) "
                "SELECT count(*) FROM changed",
                rate,
            )
            lines = {one.name: one.near_urgent for one in self.results().apiaries}
            self.assertEqual(set(lines.values()), {warned}, "the island is three cells wide")
            keeper = {one.name: one.near_urgent for one in self.view(who=identity("keeper", keeper="Orla Fenwick")).own}
            self.assertEqual(keeper, dict.fromkeys(("Tarn Head", "Skerrow Bank"), warned))


class Together(Demo):
    def test_everything_adds_up(self) -> None:
        """Bars, cells, apiaries, keepers and methods each add up to the colonies counted."""
        found = self.results()
        counted = found.coverage.colonies_counted
        self.assertGreater(counted, 40)
        self.assertEqual(sum(line.counted for line in found.apiaries), counted)
        self.assertEqual(sum(line.counted for line in found.keepers), counted)
        self.assertEqual(sum(tally.colonies for tally in found.methods), counted)
        self.assertEqual(sum(bar.colonies for bar in found.distribution), found.coverage.with_bees)
        cells = [*found.cells, *([found.elsewhere] if found.elsewhere else [])]
        self.assertEqual(sum(cell.counted for cell in cells), found.coverage.with_bees)
        self.assertEqual(sum(cell.apiaries for cell in cells), found.coverage.apiaries)
        rows = owner_rows(
            self.url,
            "SELECT count(DISTINCT colony_id) FROM mite_count WHERE association_id = %s AND method IN ('wash', 'sugar') "
            "AND taken_on BETWEEN '2031-07-25' AND '2031-08-03'",
            made_id("corrane"),
        )
        self.assertEqual(counted, rows[0][0])

    def test_schools_are_never_merged(self) -> None:
        """A share a school, each of the same colonies; a laxer level never has more over."""
        shares = {one.scheme: one.share for one in self.results().shares}
        two, three = shares["flat_2"], shares["flat_3"]
        assert two is not None and three is not None
        self.assertEqual(two.counted, three.counted)
        self.assertLessEqual(three.over, two.over)
        self.assertLess(two.effective, two.counted)

    def test_the_change_is_of_the_same_colonies(self) -> None:
        """From spring to midsummer mites rose; treated colonies are left out."""
        found = self.results()
        assert found.change is not None
        self.assertEqual(found.change_since, "Spring count week")
        self.assertGreater(found.change.ratio, 1.5)
        self.assertGreater(found.change.colonies, 15)

    def test_treatments_and_what_became_of_them(self) -> None:
        """Every course placed from eight weeks before on, by option, each with one verdict or none."""
        found = self.results()
        self.assertEqual(found.treated_since, date(2031, 5, 30))
        answer = {one.placed.option_id: one.placed for one in found.treatments}
        rows = owner_rows(
            self.url,
            "SELECT option_id, count(*), count(*) FILTER (WHERE verdict ->> 'word' = 'failed') FROM course "
            "WHERE association_id = %s AND placed_on BETWEEN '2031-05-30' AND '2031-08-03' GROUP BY 1",
            made_id("corrane"),
        )
        self.assertEqual({option for option, _, _ in rows}, set(answer))
        for option, courses, failed in rows:
            one = answer[option]
            self.assertEqual(one.worked + one.partly + one.failed + one.cannot_tell + one.not_verified, courses)
            self.assertEqual(one.failed, failed)
        self.assertGreater(sum(one.failed for one in answer.values()), 0)

    def test_the_map_gives_no_place_away(self) -> None:
        """Every cell shown has three apiaries of three keepers; the files hold no name, no id, no exact place."""
        found = self.results()
        for cell in found.cells:
            self.assertGreaterEqual(min(cell.apiaries, cell.keepers), 3)
        text = counts_csv(found)
        answer = json.dumps(cells_geojson(found, "x"))
        for row in owner_rows(
            self.url,
            "SELECT a.name, a.id::text, k.name, a.latitude::text FROM apiary a JOIN keeper k ON k.id = a.keeper_id",
        ):
            for secret in row:
                self.assertNotIn(secret, text)
                self.assertNotIn(secret, answer)
        rows = list(csv.DictReader(io.StringIO(text)))
        alone = found.elsewhere.counted if found.elsewhere and found.published_elsewhere is None else 0
        self.assertEqual(len(rows), found.coverage.colonies_counted - alone)
        self.assertTrue(count_week_report(self.view().week, found, "Corrane").startswith(b"%PDF"))

    def test_a_keeper_sees_the_own_apiaries_and_a_quarter(self) -> None:
        """No result of others; the quarter is that which the organiser's table has, give or take one."""
        view = self.view(who=identity("keeper", keeper="Orla Fenwick"))
        self.assertIsNone(view.results)
        self.assertEqual({one.name for one in view.own}, {"Tarn Head", "Skerrow Bank"})
        lines = {line.apiary_id: line for line in self.results().apiaries}
        for one in view.own:
            if one.quarter is not None:
                self.assertLessEqual(abs(one.quarter - (lines[one.apiary_id].quarter or 0)), 1)
        with self.assertRaises(NotAllowed):
            at_work(
                self.url,
                lambda unit: campaigns_record.ask_reminders(unit, WEEK),
                identity("keeper", keeper="Orla Fenwick"),
            )


class Opening(Demo):
    def open(self, first: date, last: date, **more: Any) -> Any:
        """Open a week."""
        week = CountWeekDetails("Autumn", first, last, "wash", half_width=0.4, protocol="")
        keepers = more.get("keepers")
        return at_work(self.url, lambda unit: campaigns_record.open_week(unit, uuid4(), week, keepers))

    def test_days_and_keepers_are_checked(self) -> None:
        """Out of order, too long, days of another week, somebody unknown."""
        for field, first, last, more in (
            ("last_on", date(2031, 9, 9), date(2031, 9, 1), {}), ("last_on", date(2031, 9, 1), date(2031, 9, 30), {}),
            ("first_on", date(2031, 8, 3), date(2031, 8, 9), {}), ("keepers[0]", date(2031, 9, 1), date(2031, 9, 8), {"keepers": [uuid4()]}),
        ):  # fmt: skip
            with self.subTest(field=field), self.assertRaises(InvalidInput) as refused:
                self.open(first, last, **more)
            self.assertEqual(refused.exception.field, field)
        made = self.open(date(2031, 9, 1), date(2031, 9, 8), keepers=[made_id("corrane", "keeper", "Orla Fenwick")])
        self.assertEqual(made.invited, 1)
        self.assertIsNone(next((cell for cell in (self.view(made.id).results or self.results()).cells), None))


class Tables(Demo):
    HEAD = "apiary;colony;date;method;mites;ml\n"

    def bring(self, text: str, *, take: bool) -> list[RowReport]:
        """Read a table and take it, or look at what would be taken."""
        read = read_counts(text.encode(), ZONE, NOW)
        answer = at_work(self.url, lambda unit: campaigns_record.import_counts(unit, WEEK, read.rows, take=take))
        return sorted([*answer, *read.refused], key=lambda row: row.line)

    def test_a_preview_takes_nothing_and_what_it_says_then_happens(self) -> None:
        """Each fault named with its column; the good lines are taken once, however often the file comes."""
        text = self.HEAD + (
            "Cairn Yard;C1;2031-08-01;wash;4+1;120\n"
            "Cairn Yard;C99;2031-08-01;wash;4;120\n"
            "Cairn Yard;C2;2031-06-01;wash;4;120\n"
            "Cairn Yard;C2;1 August;wash;4;120\n"
            "Cairn Yard;C2;2031-08-01;smoke;4;120\n"
            "Cairn Yard;C2;2031-08-01;wash;four;120\n"
            "Cairn Yard;C2;2031-08-01;wash;4;2\n"
            "cairn yard;c2;2031-08-01;Sugar roll;7;120\n"
            "Cairn Yard;C1;2031-08-01;wash;4+1;120\n"
        )
        before = owner_rows(self.url, "SELECT count(*) FROM mite_count")
        preview = self.bring(text, take=False)
        self.assertEqual([row.taken for row in preview], [True, False, False, False, False, False, False, True, False])
        self.assertEqual(
            [row.field for row in preview if not row.taken],
            ["colony", "date", "date", "method", "mites", "ml", "colony"],
        )
        [wash, roll] = [row for row in preview if row.taken]
        self.assertEqual((wash.taken_on, wash.mites, roll.mites), (date(2031, 8, 1), 5, 7))
        self.assertAlmostEqual(wash.rate or 0, 1.8, delta=0.1)
        self.assertEqual(owner_rows(self.url, "SELECT count(*) FROM mite_count"), before)
        for _ in range(2):
            self.assertEqual([row.taken for row in self.bring(text, take=True)], [row.taken for row in preview])
        self.assertEqual(owner_rows(self.url, "SELECT count(*) FROM mite_count")[0][0], before[0][0] + 2)

    def test_what_is_no_table(self) -> None:
        """Empty, without its columns, not text: one clear line."""
        for content in (b"", b"a,b\n1,2\n", b"\xff\xfe\x00", b"apiary,colony,date\n"):
            with self.subTest(content=content), self.assertRaisesRegex(InvalidInput, "^file:"):
                read_counts(content, ZONE, NOW)
        tabs = read_counts(b"\xef\xbb\xbfapiary\tcolony\tdate\tmites\tbees\nX\t1\t2031-08-01\t3\t300\n", ZONE, NOW)
        self.assertEqual((len(tabs.rows), tabs.rows[0].jar.bees), (1, 300))


class Reminders(Demo):
    def test_those_who_have_not_counted_are_written_to_once(self) -> None:
        """A keeper with an account and no count gets one letter, which gives no other's place or count away."""
        url = self.url
        names = {one.keeper: one.email for one in ACCOUNTS if one.keeper}
        week = uuid4()
        late = CountWeekDetails("Late week", date(2031, 8, 4), date(2031, 8, 11), "wash", 0.4, "Two shakes.")
        at_work(url, lambda unit: campaigns_record.open_week(unit, week, late, None))
        self.assertEqual(at_work(url, lambda unit: campaigns_record.ask_reminders(unit, week)), len(names))
        with tempfile.TemporaryDirectory() as folder:
            settings = replace(Settings(application_url(url), Path(), demo_today=TODAY), mail=Path(folder))
            aside(worker.run(settings, wait=False))
            letters = [path.read_text() for path in Path(folder).glob("*.eml")]
        for name, email in names.items():
            [own] = [letter for letter in letters if f"To: {email}\n" in letter]
            self.assertIn("Two shakes.", own)
            self.assertIn(f"Dear {name}", own)
        self.assertEqual(len(letters), len(names))
        noted = owner_rows(
            url, "SELECT k.name FROM count_week_keeper w JOIN keeper k ON k.id = w.keeper_id "
            "WHERE week_id = %s AND reminders = 1", week,
        )  # fmt: skip
        self.assertEqual({row[0] for row in noted}, set(names))
        self.assertEqual(at_work(url, lambda unit: campaigns_record.ask_reminders(unit, week)), 0)
