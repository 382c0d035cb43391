"""The register as courses go on: entered with every act, amended with its reason, gapless, never changed, whole."""

from __future__ import annotations

import asyncio
import csv
import io
import unittest
from dataclasses import replace
from datetime import date, timedelta
from typing import Any
from uuid import UUID, uuid4

import psycopg
from psycopg import errors

from redframe.core.colonies.hive_state import WantedBox
from redframe.core.errors import InvalidInput, Refused
from redframe.core.registers.register import Entry, folded
from redframe.core.stock.lot import LotFacts
from redframe.core.treatments.step_facts import NOTHING
from redframe.demo.scenario import made_id
from redframe.demo.stock import lot_id
from redframe.outlets.register_report import register_report
from redframe.outlets.register_table import register_csv
from redframe.store import registers
from redframe.store import treatments as courses
from redframe.store.errors import Conflict
from redframe.store.registers import RegisterLine, Wanted
from redframe.work.colonies import hives as colonies_hives
from redframe.work.colonies import read as colonies_read
from redframe.work.registers import read as registers_read
from redframe.work.registers.read import LineView, RegisterView
from redframe.work.stock import record as stock_record
from redframe.work.treatments import abandon as treatments_abandon
from redframe.work.treatments import earlier as treatments_earlier
from redframe.work.treatments import record as treatments_record
from redframe.work.treatments.record import NewAct
from tests.support import as_app, aside, at_work, demo_template, identity, new_database, owner_rows
from tests.work.test_treatments import SHORE, TODAY, Courses

STRIPS = lot_id("corrane", "F-3105")
ALL = Wanted()


class Entered(Courses):
    """A course of two doses of a sound colony, from the plan to its end and back."""

    def setUp(self) -> None:
        super().setUp()
        self.course = self.planned("FA_STRIP11")
        self.act("prepare")
        self.act("close_supers_feeder")

    def act(self, step: str, day: date = TODAY, **more: Any) -> UUID:
        """Record a step of the course; the id of the act."""
        fields = {
            "quantity": 1.0 if step.startswith("place") else None,
            "lot": "",
            "count_id": None,
            "note": "",
            "override": None,
        }
        new = NewAct(id=uuid4(), step=step, outcome="done", done_on=day, **{**fields, **more})
        at_work(
            self.url,
            lambda unit: treatments_record.record_act(unit, self.course, new),
            day=TODAY if day == TODAY else day + timedelta(days=1),
        )
        return new.id

    def amend(self, act: UUID, why: str, **change: Any) -> None:
        """Amend what was recorded of a step."""

        async def amended(unit: Any) -> None:
            (kept,) = [one for one in await courses.acts_of_courses(unit.connection, [self.course]) if one.id == act]
            details = courses.CourseActDetails(
                kept.done_on, kept.quantity, kept.lot, None, kept.note, None, kept.lot_id, kept.facts
            )
            await treatments_record.amend_act(unit, self.course, act, kept.version, replace(details, **change))

        at_work(self.url, amended, reason=why)

    def lines(self, **wanted: Any) -> list[LineView]:
        """The lines of the colony, the first number first."""
        view = at_work(
            self.url, lambda unit: registers_read.whole_register(unit, Wanted(colony_id=self.colony, **wanted))
        )
        return list(view.lines)

    def kinds(self, line: LineView) -> list[str]:
        """What was entered of a line, in order."""
        return [one.kind for one in reversed(line.entries)]

    def test_a_dose_is_a_line(self) -> None:
        """With whose, where, why, what, from which lot, by whom; complete, for the lot says the rest."""
        self.assertEqual(self.lines(), [])
        self.act("place_1", lot_id=STRIPS)
        (one,) = self.lines()
        line = one.line.line
        self.assertEqual((line.keeper, line.registration, line.apiary), ("Orla Fenwick", "C-0104", "Skerrow Bank"))
        self.assertEqual((line.lot, line.supplier, line.expires_on), ("F-3105", "Corrane Growers' Store", "2032-12-31"))
        self.assertEqual((line.quantity, line.unit, line.placed_on), (1.0, "strip", TODAY.isoformat()))
        self.assertIn("Count of", line.treated_for)
        self.assertEqual((line.supers, line.applied_by), ("off", "Bettrys Lund"))
        self.assertEqual((one.line.missing, line.ended_on, line.honey_clear_on), ([], None, None))

    def test_without_its_lot_a_line_is_incomplete(self) -> None:
        """It is kept and listed, not hidden; the lot that is named later is added to it."""
        act = self.act("place_1")
        (one,) = self.lines()
        self.assertEqual(one.line.missing, ["product", "lot", "expires_on", "supplier", "bought_on", "receipt"])
        self.assertEqual(len(self.lines(incomplete=True)), 1)
        self.amend(act, "the pack was found", lot_id=STRIPS)
        (one,) = self.lines()
        self.assertEqual((one.line.missing, self.kinds(one)), ([], ["line", "added"]))
        self.assertEqual(self.lines(incomplete=True), [])

    def test_an_amendment_keeps_what_was_written(self) -> None:
        """Old and new value, who, when and why; the line that was entered first reads as it did."""
        act = self.act("place_1", lot_id=STRIPS)
        before = self.lines()[0].entries[-1]
        self.amend(act, "one strip was placed twice", quantity=2.0, note="weak spot")
        (one,) = self.lines()
        self.assertEqual(self.kinds(one), ["line", "amended"])
        latest = one.entries[0]
        self.assertEqual([(each.field, each.old, each.new) for each in latest.changes], [("quantity", 1.0, 2.0)])
        self.assertEqual((latest.why, latest.by_name), ("one strip was placed twice", "Bettrys Lund"))
        self.assertEqual(one.entries[-1], before)

    def test_the_end_is_added_to_every_dose(self) -> None:
        """Once the last is out: the day, and from when the honey is clear."""
        self.act("place_1", lot_id=STRIPS)
        self.act("place_2", TODAY + timedelta(days=7), lot_id=STRIPS)
        self.act("end", TODAY + timedelta(days=14))
        for one in self.lines():
            self.assertEqual(one.line.line.ended_on, (TODAY + timedelta(days=14)).isoformat())
            self.assertEqual(one.line.line.honey_clear_on, one.line.line.ended_on)
            self.assertEqual(self.kinds(one), ["line", "added"])

    def test_a_dose_taken_back_is_void_and_can_come_again(self) -> None:
        """Undone: void with its reason, and still printed; recorded again: entered again under its first number."""
        act = self.act("place_1", lot_id=STRIPS)
        at_work(self.url, lambda unit: treatments_record.undo_act(unit, self.course, act), reason="undone")
        (one,) = self.lines()
        self.assertTrue(one.line.is_void)
        self.assertEqual((self.kinds(one), one.entries[0].why), (["line", "void"], "undone"))
        self.assertEqual(self.lines(incomplete=True), [])
        number = one.line.number
        self.act("place_1", lot_id=STRIPS)
        (one,) = self.lines()
        self.assertEqual(
            (one.line.is_void, one.line.number, self.kinds(one)), (False, number, ["line", "void", "restored"])
        )

    def test_a_lot_amended_amends_its_lines(self) -> None:
        """A receipt that was mistyped is corrected wherever it stands, with the reason."""
        facts = LotFacts("Strips", ["FA_STRIP11"], "strip", 20, "", "Z-1", date(2032, 1, 1), None, "Shed", "R 1", "")
        number = uuid4()
        at_work(self.url, lambda unit: stock_record.add_lot(unit, number, facts))
        self.act("place_1", lot_id=number)
        self.assertEqual(self.lines()[0].line.missing, ["bought_on"])
        with self.assertRaises(Conflict):
            at_work(self.url, lambda unit: stock_record.amend_lot(unit, number, 7, facts), reason="other receipt")
        right = replace(facts, receipt="R 2", bought_on=date(2031, 7, 1))
        at_work(self.url, lambda unit: stock_record.amend_lot(unit, number, 1, right), reason="other receipt")
        (one,) = self.lines()
        self.assertEqual((one.line.line.receipt, one.line.missing, one.entries[0].why), ("R 2", [], "other receipt"))
        wrong = replace(right, option_ids=["FA_STRIP2"])
        with self.assertRaises(InvalidInput) as caught:
            at_work(
                self.url, lambda unit: stock_record.amend_lot(unit, number, 2, wrong), reason="for the other course"
            )
        self.assertEqual(caught.exception.field, "option_ids")

    def test_what_a_step_says_is_in_it(self) -> None:
        """Who applied it, harm that was seen, remains; a dose for another colony is known by its own colony."""
        self.act(
            "place_1",
            lot_id=STRIPS,
            facts=replace(NOTHING, applied_by="Orla Fenwick", adverse="bees crawled", temperature_c=22.0),
        )
        line = self.lines()[0].line.line
        self.assertEqual((line.applied_by, line.adverse), ("Orla Fenwick", "bees crawled"))

    def test_an_abandoned_course_stays(self) -> None:
        """It was in the hive: the line has the day on which it came out."""
        self.act("place_1", lot_id=STRIPS)
        at_work(
            self.url,
            lambda unit: treatments_abandon.abandon(unit, self.course, "bees hung out", TODAY),
            reason="bees hung out",
        )
        self.assertEqual(self.lines()[0].line.line.ended_on, TODAY.isoformat())

    def test_doses_that_cannot_be(self) -> None:
        """From a lot of something else, and from one that is out of date unless somebody takes it on."""
        crystals, old = lot_id("corrane", "XC-40"), lot_id("corrane", "F-2207")
        with self.assertRaises(InvalidInput) as caught:
            self.act("place_1", lot_id=crystals)
        self.assertEqual(caught.exception.field, "lot_id")
        with self.assertRaises(Refused) as refused:
            self.act("place_1", lot_id=old)
        self.assertEqual((refused.exception.rule, refused.exception.can_override), ("expired", True))
        with self.assertRaises(InvalidInput) as caught:
            self.act("place_1", lot_id=STRIPS, quantity=0.5)
        self.assertEqual(caught.exception.field, "note")
        self.assertEqual(self.lines(), [])

    def test_what_was_given_earlier_is_entered_late(self) -> None:
        """Both days are kept: done and entered; withdrawn, it is void."""
        entry, course = uuid4(), uuid4()
        given = treatments_earlier.WasGiven(
            "OX_TRICKLE", [date(2031, 5, 20)], "known", date(2031, 5, 20), 40.0, None, "Orla", "keeper_said", ""
        )
        of = [treatments_earlier.OfColony(course, self.colony)]
        at_work(self.url, lambda unit: treatments_earlier.record_earlier(unit, entry, SHORE, given, of))
        (one,) = self.lines()
        self.assertEqual((one.line.line.placed_on, one.line.entered_on), ("2031-05-20", TODAY))
        self.assertEqual((one.line.line.source, one.line.line.applied_by), ("the keeper said so", "Orla"))
        self.assertIn("treated_for", one.line.missing)
        at_work(
            self.url,
            lambda unit: treatments_earlier.withdraw_earlier(unit, course, 1, "another hive"),
            reason="another hive",
        )
        (one,) = self.lines()
        self.assertTrue(one.line.is_void)

    def test_supers_wait_until_the_honey_is_clear(self) -> None:
        """Strips with a withdrawal of two weeks: refused with the day; on all the same, it is recorded with the reason."""
        given = treatments_earlier.WasGiven(
            "AMZ_STRIP",
            [TODAY - timedelta(days=52)],
            "known",
            TODAY - timedelta(days=3),
            2.0,
            None,
            "",
            "own_record",
            "",
        )
        of = [treatments_earlier.OfColony(uuid4(), self.colony)]
        at_work(self.url, lambda unit: treatments_earlier.record_earlier(unit, uuid4(), SHORE, given, of))
        view = at_work(self.url, lambda unit: colonies_read.colony_view(unit, self.colony))
        boxes = [WantedBox("brood", "A_deep", 10, view.hive[0].box_id), WantedBox("super", "A_medium", 10)]
        change = colonies_hives.HiveChange("stacked boxes", boxes, TODAY)

        def amended(change: colonies_hives.HiveChange, day: date) -> Any:
            return at_work(
                self.url,
                lambda unit: colonies_hives.amend_hive(unit, self.colony, view.hive[0].version, change),
                day=day,
            )

        with self.assertRaises(Refused) as caught:
            amended(change, TODAY)
        self.assertEqual((caught.exception.rule, caught.exception.can_override), ("C04", True))
        self.assertIn("13 August 2031", str(caught.exception))
        with self.assertRaises(Refused):
            amended(replace(change, on=TODAY + timedelta(days=10)), TODAY + timedelta(days=11))
        self.assertEqual(amended(replace(change, override_why="found on at the visit"), TODAY).id, self.colony)

    def test_an_act_sent_twice_is_one_entry(self) -> None:
        """The same write again enters nothing."""
        new = NewAct(
            id=uuid4(),
            step="place_1",
            outcome="done",
            done_on=TODAY,
            quantity=1.0,
            lot="",
            count_id=None,
            note="",
            override=None,
            lot_id=STRIPS,
        )
        for _ in range(2):
            at_work(self.url, lambda unit: treatments_record.record_act(unit, self.course, new))
        self.assertEqual([self.kinds(one) for one in self.lines()], [["line"]])


class Whole(unittest.TestCase):
    """The register of the whole demo."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def test_lines_are_what_their_entries_add_up_to(self) -> None:
        """Every line of both associations, from the entries alone."""
        for association in ("corrane", "ellery"):

            async def read(unit: Any) -> tuple[list[RegisterLine], list[registers.RegisterEntry]]:
                lines = await registers.lines(unit.connection, ALL, None, 5000)
                return lines, await registers.entries(unit.connection, [one.id for one in lines])

            lines, entries = at_work(self.url, read, identity(association=association))
            in_order = sorted(entries, key=lambda one: one.number)
            found = folded([Entry(one.line_id, one.kind, one.line, one.changes) for one in in_order])
            self.assertEqual(
                {one.id: (one.line, one.is_void) for one in lines},
                {key: (one.line, one.is_void) for key, one in found.items()},
            )
            self.assertGreater(len(lines), 20)
            moments = [one.entered_at for one in in_order]
            self.assertEqual(moments, sorted(moments), "numbers are given in the order of time")

    def test_every_dose_on_record_is_a_line(self) -> None:
        """Counted from the courses themselves: chemical placings, and the doses of those that were only reported."""
        placings = owner_rows(
            self.url,
            "SELECT count(*) FROM course_act a JOIN course c ON c.id = a.course_id WHERE c.chemical AND a.step LIKE 'place%%' "
            "AND a.outcome = 'done'",
        )[0][0]
        reported = owner_rows(
            self.url,
            "SELECT coalesce(sum(cardinality(doses_on)), 0) FROM earlier_treatment e JOIN course c ON c.id = e.id WHERE c.state = 'given_earlier'",
        )[0][0]
        self.assertEqual(owner_rows(self.url, "SELECT count(*) FROM register_line")[0][0], placings + reported)

    def test_numbers_have_no_gap(self) -> None:
        """In the association's register and in each keeper's."""
        for column, by in (("number", "association_id"), ("keeper_number", "keeper_id")):
            for _, least, most, many in owner_rows(
                self.url,
                f"SELECT {by}, min({column}), max({column}), count({column}) FROM register_entry GROUP BY 1",  # noqa: S608
            ):
                self.assertEqual((least, most), (1, many))

    def test_nobody_changes_an_entry(self) -> None:
        """Neither the application, which may not even enter one by itself, nor the owner of the database."""
        insert = "INSERT INTO register_entry (association_id, number) VALUES (my_association(), 99999)"
        for statement in ("UPDATE register_entry SET why = 'x'", "DELETE FROM register_entry", "UPDATE register_line SET number = 1",
                          "DELETE FROM register_line", "UPDATE register_number SET last = 0", insert):  # fmt: skip
            with (
                self.subTest(statement=statement),
                as_app(self.url, identity("administrator")) as connection,
                self.assertRaises(errors.InsufficientPrivilege),
            ):
                connection.execute(statement)  # type: ignore[arg-type]
        for statement in ("UPDATE register_entry SET why = 'x'", "DELETE FROM register_entry"):
            with psycopg.connect(self.url) as owner, self.assertRaises(errors.InsufficientPrivilege):
                owner.execute(statement)  # type: ignore[arg-type]

    def test_the_door_into_the_register_is_narrow(self) -> None:
        """No line for another association's course, none for another keeper's, none by a reader, none twice."""
        course, apiary = owner_rows(
            self.url,
            "SELECT id, apiary_id FROM course WHERE colony_id = %s AND chemical LIMIT 1",
            made_id("corrane", "Kettle Wood", "K3"),
        )[0]
        keeper = made_id("corrane", "keeper", "Tobias Quill")
        line = owner_rows(self.url, "SELECT id FROM register_line WHERE course_id = %s LIMIT 1", course)[0][0]
        call = "SELECT register_enter(%s, %s, %s, %s, %s, '2031-08-02', '2031-08-02', '2031-08-02', now(), '{}', '[]', '{}', '')"
        cases = [
            (identity("mentor", association="ellery"), "line", uuid4()), (identity("keeper", keeper="Orla Fenwick"), "line", uuid4()),
            (identity("read_only"), "line", uuid4()), (identity("mentor"), "line", line), (identity("mentor"), "amended", uuid4()),
        ]  # fmt: skip
        for who, kind, number in cases:
            with (
                self.subTest(role=who.role, kind=kind),
                as_app(self.url, who) as connection,
                self.assertRaises(errors.InsufficientPrivilege),
            ):
                connection.execute(call, [kind, number, course, keeper, apiary])

    def test_a_keeper_has_the_own_register(self) -> None:
        """The keeper's lines, by the keeper's numbers, and nothing of others."""
        view = at_work(
            self.url, lambda unit: registers_read.whole_register(unit, ALL), identity("keeper", keeper="Orla Fenwick")
        )
        self.assertEqual({one.line.line.keeper for one in view.lines}, {"Orla Fenwick"})
        numbers = sorted(entry.keeper_number for one in view.lines for entry in one.entries)
        self.assertEqual(numbers, list(range(1, len(numbers) + 1)))

    def test_filters(self) -> None:
        """Each leaves what fits, and all together too; a page goes on behind its last number."""
        whole = at_work(self.url, lambda unit: registers_read.whole_register(unit, ALL)).lines
        orla = made_id("corrane", "keeper", "Orla Fenwick")
        tests = [
            (Wanted(keeper_id=orla), lambda one: one.line.line.keeper == "Orla Fenwick"),
            (Wanted(option_id="OX_TRICKLE"), lambda one: one.line.option_id == "OX_TRICKLE"),
            (Wanted(since=date(2031, 7, 1)), lambda one: one.line.placed_on >= date(2031, 7, 1)),
            (Wanted(until=date(2030, 7, 1)), lambda one: one.line.placed_on <= date(2030, 7, 1)),
            (Wanted(lot="F-3105"), lambda one: one.line.line.lot == "F-3105"),
            (Wanted(incomplete=True), lambda one: bool(one.line.missing)),
            (Wanted(keeper_id=orla, since=date(2030, 1, 1), lot="F-2207"),
             lambda one: one.line.line.keeper == "Orla Fenwick" and one.line.placed_on >= date(2030, 1, 1) and one.line.line.lot == "F-2207"),
        ]  # fmt: skip
        for wanted, fits in tests:
            with self.subTest(wanted=wanted):
                view = at_work(self.url, lambda unit, wanted=wanted: registers_read.whole_register(unit, wanted))
                expected = [one.line.id for one in whole if fits(one)]
                self.assertEqual([one.line.id for one in view.lines], expected)
                self.assertEqual(view.count.lines, len(expected))
                self.assertTrue(expected)
        seen: list[int] = []
        before: int | None = None
        while True:
            page = at_work(self.url, lambda unit, before=before: registers_read.register_page(unit, ALL, before))
            seen += [one.line.number for one in page.lines]
            before = page.next
            if before is None:
                break
        self.assertEqual(seen, [one.line.number for one in reversed(whole)])

    def test_on_paper_and_as_a_table(self) -> None:
        """The table has every number once a field that changed; the document is one, also of nothing."""
        view = at_work(self.url, lambda unit: registers_read.whole_register(unit, ALL))
        rows = list(csv.DictReader(io.StringIO(register_csv(view), newline="")))
        entries = [entry for one in view.lines for entry in one.entries]
        self.assertEqual({int(row["number"]) for row in rows}, {one.number for one in entries})
        self.assertEqual(len(rows), sum(max(1, len(one.changes)) for one in entries))
        first = next(row for row in rows if row["entry"] == "line")
        self.assertTrue(first["keeper"] and first["active"] and first["placed_on"])
        for wanted in (Wanted(lot="F-3105"), Wanted(lot="no such lot")):
            found = at_work(self.url, lambda unit, wanted=wanted: registers_read.whole_register(unit, wanted))
            made = register_report(found, "Corrane", TODAY, wanted, of_keeper=False)
            self.assertTrue(made.startswith(b"%PDF"))

    def test_a_formula_in_a_name_stays_text(self) -> None:
        """What a table program would compute is led by an apostrophe."""
        view = at_work(self.url, lambda unit: registers_read.whole_register(unit, Wanted(lot="F-3105")))
        line = view.lines[0]
        entry = replace(line.entries[-1], line=replace(line.line.line, supplier="=1+1"), by_name="@home")
        odd = RegisterView(view.count, [LineView(line.line, [entry], line.kept_until)], None, 5)
        row = next(csv.DictReader(io.StringIO(register_csv(odd), newline="")))
        self.assertEqual((row["supplier"], row["entered_by"]), ("'=1+1", "'@home"))


class Together(unittest.TestCase):
    def test_many_at_once_leave_no_gap(self) -> None:
        """Doses of eight colonies recorded at the same time: as many numbers, each once, none left out."""
        url = new_database(demo_template())
        plover = made_id("corrane", "apiary", "Plover Hay")
        colonies = [
            row[0]
            for row in owner_rows(
                url, "SELECT id FROM colony WHERE apiary_id = %s AND is_living ORDER BY label", plover
            )
        ]
        before = owner_rows(
            url, "SELECT max(number), count(*) FROM register_entry WHERE association_id = %s", made_id("corrane")
        )[0]
        of = [treatments_earlier.OfColony(uuid4(), one) for one in colonies]
        given = treatments_earlier.WasGiven(
            "OX_TRICKLE", [date(2030, 2, 20)], "known", date(2030, 2, 20), 40.0, None, "", "keeper_said", ""
        )

        def one(of_colony: treatments_earlier.OfColony) -> Any:
            return at_work(
                url, lambda unit: treatments_earlier.record_earlier(unit, uuid4(), plover, given, [of_colony])
            )

        async def all_of_them() -> None:
            await asyncio.gather(*(asyncio.to_thread(one, each) for each in of))

        aside(all_of_them())
        after = owner_rows(
            url, "SELECT max(number), count(*) FROM register_entry WHERE association_id = %s", made_id("corrane")
        )[0]
        self.assertEqual((after[0] - before[0], after[1] - before[1]), (len(colonies), len(colonies)))
        self.assertEqual(after[0], after[1])
