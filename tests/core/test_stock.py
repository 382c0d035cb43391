"""Stock: what is left of a lot, which lot is used first, and what planned courses will lack on which day."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date, timedelta
from uuid import UUID

from hypothesis import given, settings
from hypothesis import strategies as st

from redframe.core.errors import InvalidInput
from redframe.core.stock.balance import (
    Available,
    LotChange,
    Need,
    left_of,
    lot_state,
    lot_unit_per_dose_unit,
    stock_by_option,
)
from redframe.core.stock.lot import LotFacts, check_lot
from redframe.core.treatments.catalogue import default_catalogue

TODAY = date(2031, 8, 2)
OPTIONS = {one.id: one for one in default_catalogue().options}
PLACE, KEEPER, OTHER = UUID(int=9), UUID(int=10), UUID(int=11)
FACTS = LotFacts("Strips", ["FA_STRIP2"], "strip", 10, "", "F-1", date(2032, 1, 1), date(2031, 6, 1), "", "", "")


def lot(number: int, left: float, days: int | None, options: tuple[str, ...] = ("FA_STRIP2",), unit: str = "strip") -> Available:  # fmt: skip
    """A lot that is good for so many more days."""
    return Available(UUID(int=number), options, unit, left, None if days is None else TODAY + timedelta(days=days))


def need(quantity: float, on: int = 0, stays: int = 7, option: str = "FA_STRIP2") -> Need:
    """A dose on a day from today."""
    day = TODAY + timedelta(days=on)
    return Need(option, day, day + timedelta(days=stays), quantity, PLACE, KEEPER)


class Balance(unittest.TestCase):
    def test_left(self) -> None:
        """Bought and found, less placed, disposed of, lost and mixed; it may fall below nought, and says so."""
        changes = [LotChange("disposed", 3), LotChange("lost", 1), LotChange("mixed", 2), LotChange("found", 4)]
        self.assertEqual(left_of(20, 5, changes), 13)
        self.assertEqual(left_of(2, 5, []), -3)

    def test_state(self) -> None:
        """Up to and including its last day it is good; overdrawn comes before all."""
        cases = [
            (3.0, None, "good"), (3.0, 61, "good"), (3.0, 60, "expires_soon"), (3.0, 0, "expires_soon"),
            (3.0, -1, "expired"), (0.0, -1, "used_up"), (-1.0, -1, "overdrawn"),
        ]  # fmt: skip
        for left, days, state in cases:
            with self.subTest(left=left, days=days):
                self.assertEqual(lot_state(left, None if days is None else TODAY + timedelta(days=days), TODAY), state)

    def test_units(self) -> None:
        """Crystals serve a solution by its strength, vapour as they are, and strips nothing."""
        self.assertEqual(lot_unit_per_dose_unit(OPTIONS["FA_STRIP2"], "strip"), 1)
        self.assertEqual(lot_unit_per_dose_unit(OPTIONS["OX_VAP1"], "g"), 1)
        self.assertAlmostEqual(lot_unit_per_dose_unit(OPTIONS["OX_TRICKLE"], "g") or 0, 0.045)
        self.assertIsNone(lot_unit_per_dose_unit(OPTIONS["FA_STRIP2"], "g"))


class Needs(unittest.TestCase):
    def found(self, lots: list[Available], needs: list[Need]) -> list[tuple[str, float, float, date | None]]:
        """Option, covered, short, first day."""
        return [
            (one.option_id, one.covered, one.short_by, one.short_on) for one in stock_by_option(OPTIONS, lots, needs)
        ]

    def test_short_on_the_day_that_it_runs_out(self) -> None:
        """Two are there: the first colony has them, the third day lacks."""
        needs = [need(2, 0), need(2, 3), need(2, 5)]
        self.assertEqual(self.found([lot(1, 3, 90)], needs), [("FA_STRIP2", 3, 3, TODAY + timedelta(days=3))])

    def test_what_expires_while_it_stays_is_not_counted(self) -> None:
        """Good until the day that it comes out, not only until it is placed."""
        self.assertEqual(self.found([lot(1, 9, 6)], [need(2)])[0][1:], (0, 2, TODAY))
        self.assertEqual(self.found([lot(1, 9, 7)], [need(2)])[0][1:], (2, 0, None))

    def test_the_first_to_expire_goes_first(self) -> None:
        """So that both needs are met: the later one cannot be taken from the lot that is over by then."""
        needs = [need(2, 0), need(2, 30)]
        self.assertEqual(self.found([lot(1, 2, 200), lot(2, 2, 10)], needs)[0][1:], (4, 0, None))

    def test_options_share_a_lot(self) -> None:
        """Strips that serve two courses are given once; crystals serve vapour and, by strength, a solution."""
        both = lot(1, 3, 90, ("FA_STRIP2", "FA_STRIP11"))
        found = self.found([both], [need(2, 0, option="FA_STRIP2"), need(2, 1, option="FA_STRIP11")])
        self.assertEqual(found, [("FA_STRIP11", 1, 1, TODAY + timedelta(days=1)), ("FA_STRIP2", 2, 0, None)])
        crystals = lot(2, 10, 90, ("OX_TRICKLE", "OX_VAP1"), "g")
        found = self.found([crystals], [need(100, 0, 0, "OX_TRICKLE"), need(5.5, 1, 0, "OX_VAP1")])
        self.assertEqual([one[2] for one in found], [0, 0])
        found = self.found([crystals], [need(100, 0, 0, "OX_TRICKLE"), need(6, 1, 0, "OX_VAP1")])
        self.assertEqual([(one[0], round(one[2], 6)) for one in found], [("OX_VAP1", 0.5), ("OX_TRICKLE", 0)])

    def test_a_keepers_own_serves_nobody_else(self) -> None:
        """Another keeper's pack is not counted; the own one is."""
        for keeper, short in ((OTHER, 2), (KEEPER, 0), (None, 0)):
            with self.subTest(keeper=keeper):
                self.assertEqual(self.found([replace(lot(1, 9, 90), keeper_id=keeper)], [need(2)])[0][2], short)

    @settings(max_examples=200, deadline=None)
    @given(
        st.lists(st.tuples(st.integers(-2, 12), st.one_of(st.none(), st.integers(-5, 60))), max_size=5),
        st.lists(st.tuples(st.integers(1, 6), st.integers(0, 40), st.integers(0, 20)), min_size=1, max_size=6),
    )
    def test_nothing_is_given_twice(
        self, stored: list[tuple[int, int | None]], wanted: list[tuple[int, int, int]]
    ) -> None:
        """What is covered and what is short make the need; never more is given than there is, nor short while a good lot
        that could serve the last need has any left."""
        lots = [lot(number, left, days) for number, (left, days) in enumerate(stored, 1)]
        needs = [need(quantity, on, stays) for quantity, on, stays in wanted]
        (found,) = stock_by_option(OPTIONS, lots, needs)
        total = sum(one.quantity for one in needs)
        self.assertAlmostEqual(found.covered + found.short_by, total)
        last = max(one.good_until for one in needs)
        good_for_all = sum(max(0, one.left) for one in lots if one.expires_on is None or one.expires_on >= last)
        self.assertGreaterEqual(found.covered + 1e-6, min(total, good_for_all))
        self.assertLessEqual(found.covered, sum(max(0, one.left) for one in lots) + 1e-6)
        self.assertEqual(found.short_on is None, found.short_by <= 1e-6)


class LotChecks(unittest.TestCase):
    def test_bad_lots(self) -> None:
        """Each at its field."""
        cases = [
            ({"product": " "}, "product"), ({"option_ids": []}, "option_ids"), ({"option_ids": ["NONE"]}, "option_ids[0]"),
            ({"option_ids": ["DRONE_TRAP"]}, "option_ids[0]"), ({"unit": "ml"}, "unit"),
            ({"bought_on": TODAY + timedelta(days=1)}, "bought_on"), ({"bought_on": date(2001, 1, 1)}, "bought_on"),
            ({"expires_on": date(2031, 5, 31)}, "expires_on"), ({"expires_on": date(2050, 1, 1)}, "expires_on"),
        ]  # fmt: skip
        check_lot(FACTS, default_catalogue(), TODAY)
        for change, field in cases:
            with self.subTest(field=field, change=change):
                with self.assertRaises(InvalidInput) as caught:
                    check_lot(replace(FACTS, **change), default_catalogue(), TODAY)  # type: ignore[arg-type]
                self.assertEqual(caught.exception.field, field)
