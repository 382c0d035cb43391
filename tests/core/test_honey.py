"""When honey supers may go on and honey may be taken: not with what bars it, not before the withdrawal is over."""

from __future__ import annotations

import unittest
from datetime import date, timedelta

from redframe.core.errors import InvalidInput
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.honey import InHive, check_harvest, harvest_barred, honey_barred

DAY = date(2031, 8, 2)


def given(option: str, placed: int, ended: int | None, clear: int | None) -> InHive:
    """A treatment by days from the day that is asked about."""
    on = [None if days is None else DAY + timedelta(days=days) for days in (ended, clear)]
    return InHive(default_catalogue().option(option), DAY + timedelta(days=placed), on[0], on[1])


class Barred(unittest.TestCase):
    def test_cases(self) -> None:
        """Barred without a day while it is in, with the day of its withdrawal afterwards, and free on that day."""
        in_it, over = given("AMZ_STRIP", -20, None, None), given("AMZ_STRIP", -60, -3, 11)
        cases = [
            ([in_it], (True, None)),
            ([over], (True, DAY + timedelta(days=11))),
            ([given("AMZ_STRIP", -60, -14, 0)], (False, None)),
            ([given("AMZ_STRIP", 1, None, None)], (False, None)),
            # Where the label lets supers stay, and where nothing is put in, none are barred while it is in.
            ([given("FA_STRIP2", -3, None, None)], (False, None)),
            ([given("DRONE_TRAP", -3, None, None)], (False, None)),
            # What ends later that day is still in it on the day asked about.
            ([given("AMZ_STRIP", -20, 5, 19)], (True, None)),
            ([over, in_it], (True, None)),
            ([over, given("THY_TAB", -40, -1, 29)], (True, DAY + timedelta(days=29))),
        ]
        for treatments, (barred, until) in cases:
            with self.subTest(treatments=[(one.option.id, one.ended_on) for one in treatments]):
                found = honey_barred(treatments, DAY)
                self.assertEqual(found is not None, barred)
                self.assertEqual(found.until if found else None, until)


class Taken(unittest.TestCase):
    def test_stricter_than_supers(self) -> None:
        """Nothing is taken while a treatment is in, though the label lets supers stay; nothing put in bars nothing."""
        strips = given("FA_STRIP2", -3, None, None)
        self.assertIsNone(honey_barred([strips], DAY))
        found = harvest_barred([strips], DAY)
        self.assertEqual(found and (found.option.id, found.until), ("FA_STRIP2", None))
        self.assertIsNone(harvest_barred([given("FA_STRIP2", -10, -3, -3), given("DRONE_TRAP", -3, None, None)], DAY))
        self.assertIsNone(harvest_barred([given("FA_STRIP2", 1, None, None)], DAY))

    def test_whatever_bars_supers_bars_honey(self) -> None:
        """On every day around every option: where supers may not go on no honey is taken, and not sooner clear."""
        for option in default_catalogue().options:
            for placed, ended in ((-60, -3), (-20, None), (-5, 5), (1, None)):
                clear = None if ended is None else ended + option.withdrawal_days
                one = given(option.id, placed, ended, clear)
                for on in range(-70, 40, 7):
                    day = DAY + timedelta(days=on)
                    supers, honey = honey_barred([one], day), harvest_barred([one], day)
                    with self.subTest(option=option.id, placed=placed, ended=ended, on=on):
                        self.assertTrue(supers is None or honey is not None)
                        if supers is not None and honey is not None:
                            self.assertEqual(supers.until, honey.until)

    def test_what_cannot_be(self) -> None:
        """Not nothing, not a ton, not tomorrow."""
        check_harvest(None, DAY, today=DAY)
        check_harvest(200, DAY, today=DAY)
        for kilograms, on, field in (
            (0.0, 0, "honey_kg"),
            (200.1, 0, "honey_kg"),
            (-1.0, 0, "honey_kg"),
            (5.0, 1, "harvested_on"),
        ):
            with self.subTest(kilograms=kilograms, on=on), self.assertRaises(InvalidInput) as caught:
                check_harvest(kilograms, DAY + timedelta(days=on), today=DAY)
            self.assertEqual(caught.exception.field, field)
