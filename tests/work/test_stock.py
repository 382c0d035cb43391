"""What is in stock, through the use cases: left of each lot, mixed, overdrawn, whose it is."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import timedelta
from uuid import uuid4

from redframe.core.errors import InvalidInput, Refused
from redframe.core.stock.lot import LotFacts
from redframe.demo.scenario import made_id
from redframe.demo.stock import lot_id
from redframe.work.stock import read as stock_read
from redframe.work.stock import record as stock_record
from redframe.work.treatments import record as treatments_record
from redframe.work.treatments.record import NewAct
from tests.support import at_work, demo_template, identity, new_database, owner_rows
from tests.work.test_treatments import TODAY

STRIPS = lot_id("corrane", "F-3105")


class Stock(unittest.TestCase):
    """What is in stock, through the use cases."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def test_left_is_what_was_not_placed(self) -> None:
        """Counted from the acts themselves; the strips of this summer run short where they are planned for today."""
        view = at_work(self.url, stock_read.stock_view)
        strips = next(one for one in view.lots if one.lot.id == STRIPS)
        placed = owner_rows(self.url, "SELECT sum(quantity) FROM course_act WHERE lot_id = %s", STRIPS)[0][0]
        self.assertEqual((strips.placed, strips.left), (placed, strips.lot.quantity - placed))
        short = next(one for one in view.needs if one.option_id == "FA_STRIP2")
        self.assertEqual((short.short_on, view.short_at[short.short_at or uuid4()]), (TODAY, "Hollin Croft"))
        self.assertGreater(short.short_by, 0)

    def test_a_bottle_is_mixed_from_crystals(self) -> None:
        """The grams leave the crystals, the bottle is good for a week, and a recall of the crystals finds what it went to."""
        crystals = lot_id("corrane", "XC-40")
        bottle = uuid4()
        mixing = stock_record.Mixing(crystals, 500, 4.5, "dihydrate_wv", 1.0, TODAY)
        for _ in range(2):
            made = at_work(self.url, lambda unit: stock_record.mix_solution(unit, bottle, mixing))
        self.assertEqual((made.bottle.left, made.bottle.lot.expires_on), (500, TODAY + timedelta(days=7)))
        self.assertEqual(made.solution.dihydrate_g, 22.5)
        left = at_work(self.url, lambda unit: stock_read.lot_view(unit, crystals)).left
        self.assertEqual(left, 977.5)
        for change, field in (
            ({"target_ml": 50_000}, "lot_id"),
            ({"strength": 9.0}, "strength"),
            ({"mixed_on": TODAY + timedelta(days=1)}, "mixed_on"),
            ({"lot_id": STRIPS}, "lot_id"),
        ):
            with self.subTest(change=change), self.assertRaises((InvalidInput, Refused)) as caught:
                wrong = replace(mixing, **change)
                at_work(self.url, lambda unit, wrong=wrong: stock_record.mix_solution(unit, uuid4(), wrong))
            self.assertEqual(caught.exception.field, field)

    def test_more_used_than_bought_is_said(self) -> None:
        """It is recorded as it was, and shown as overdrawn; what is found again mends it."""
        number = uuid4()
        facts = LotFacts("Strips", ["FA_STRIP2"], "strip", 2, "", "Z-9", None, None, "", "", "")
        at_work(self.url, lambda unit: stock_record.add_lot(unit, number, facts))
        gone = stock_record.NewLotChange(number, "disposed", 3, TODAY, "burnt")
        view = at_work(self.url, lambda unit: stock_record.change_lot(unit, uuid4(), gone))
        self.assertEqual((view.left, view.state), (-1, "overdrawn"))
        found = replace(gone, kind="found", quantity=2)
        view = at_work(self.url, lambda unit: stock_record.change_lot(unit, uuid4(), found))
        self.assertEqual((view.left, view.state), (1, "good"))
        with self.assertRaises(InvalidInput) as caught:
            at_work(self.url, lambda unit: stock_record.change_lot(unit, uuid4(), replace(gone, how=" ")))
        self.assertEqual(caught.exception.field, "how")

    def test_a_keeper_takes_from_the_association_and_keeps_an_own_stock(self) -> None:
        """The own lot is the keeper's alone; the association's is seen, not changed."""
        orla, garrow = identity("keeper", keeper="Orla Fenwick"), identity("keeper", keeper="Garrow Pike")
        number = uuid4()
        facts = LotFacts("Strips of my own", ["FA_STRIP2"], "strip", 10, "", "", None, None, "", "", "")
        at_work(self.url, lambda unit: stock_record.add_lot(unit, number, facts), orla)
        mine = at_work(self.url, stock_read.stock_view, orla)
        self.assertLessEqual({number, STRIPS}, {one.lot.id for one in mine.lots})
        theirs = at_work(self.url, stock_read.stock_view, garrow)
        self.assertNotIn(number, {one.lot.id for one in theirs.lots})
        with self.assertRaises(InvalidInput) as caught:
            course = owner_rows(
                self.url,
                "SELECT id FROM course WHERE colony_id = %s AND state = 'planned'",
                made_id("corrane", "Hollin Croft", "H1"),
            )[0][0]
            dose = NewAct(uuid4(), "place_1", "done", TODAY, 2.0, "", None, "", None, lot_id=number)
            at_work(self.url, lambda unit: treatments_record.record_act(unit, course, dose))
        self.assertEqual((caught.exception.field, "belongs to" in caught.exception.message), ("lot_id", True))
        where = at_work(self.url, lambda unit: stock_read.where_placed(unit, STRIPS), orla)
        self.assertLessEqual({one.keeper for one in where}, {"Orla Fenwick"})
