"""When honey supers may go on: not with what bars them, not before the withdrawal is over."""

from __future__ import annotations

import unittest
from datetime import date, timedelta

from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.honey import InHive, honey_barred

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
