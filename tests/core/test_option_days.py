"""The grid of options by days: each cell is what the rules say of that day, a missing fact is a question, never a no."""

from __future__ import annotations

import unittest
from datetime import date, timedelta
from typing import Any, get_args

from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.days import ASKED, OBSTACLES, OptionDay, OptionDays, first_usable, option_days
from redframe.core.treatments.eligibility import suit
from redframe.core.treatments.many import ManyColonies
from redframe.core.treatments.reasons import ReasonCode
from redframe.core.treatments.situation import Situation
from tests.core.test_treatments import COLONY, SITUATION

CATALOGUE = default_catalogue()
FIRST = date(2026, 8, 15)
DAYS = [FIRST + timedelta(days=number) for number in range(12)]


def situation(day: date, **colony: Any) -> Situation:
    """The worked example's colony on a day, with changes."""
    return Situation.model_validate({**SITUATION, "today": day.isoformat(), "colony": {**COLONY, **colony}})


def grid(*colonies: dict[str, Any]) -> dict[str, OptionDays]:
    """The grid of colonies that differ from the worked example by these facts."""
    judge = ManyColonies(CATALOGUE)
    by_day = [[judge.suit(situation(day, **colony)) for colony in colonies] for day in DAYS]
    return {one.option_id: one for one in option_days(by_day)}


class Cells(unittest.TestCase):
    def test_every_cell_is_what_the_rules_say_of_that_day(self) -> None:
        """For one colony nothing is lost or added: verdict and time for winter bees of each option on each day."""
        found = grid({})
        for option in CATALOGUE.options:
            for cell, day in zip(found[option.id].days, DAYS, strict=True):
                judged = suit(option, CATALOGUE, situation(day))
                self.assertEqual((cell.day, cell.verdict, cell.in_time), (day, judged.verdict, judged.in_time))
                self.assertEqual(cell.ready, int(judged.verdict.startswith("allowed")))
                self.assertEqual(cell.obstacle is None, cell.ready == 1)

    def test_the_heat_of_the_worked_example(self) -> None:
        """Over 29.5 °C from the 16th to the 17th: two strips of formic acid from the 18th on, until it rains."""
        strips = grid({})["FA_STRIP2"].days
        self.assertEqual([one.obstacle for one in strips[:3]], ["heat"] * 3)
        self.assertTrue(strips[3].ready)
        self.assertEqual(strips[6].obstacle, "rain")
        self.assertEqual(strips[-1].obstacle, "no_forecast")

    def test_what_stays_is_said_before_the_weather(self) -> None:
        """On a hot day oxalic acid is held by brood: cooler days would not help it."""
        self.assertEqual({one.obstacle for one in grid({})["OX_TRICKLE"].days}, {"brood"})


class MissingFacts(unittest.TestCase):
    def test_unknown_strength_is_asked(self) -> None:
        """Without its strength a colony asks on the days on which it could have the option, and is held on others."""
        known, unknown = grid({})["FA_STRIP2"].days, grid({"strength": None})["FA_STRIP2"].days
        for before, cell in zip(known, unknown, strict=True):
            self.assertEqual(cell.verdict, "asks" if before.ready else before.verdict)
            self.assertEqual(cell.asks, before.ready)

    def test_unknown_brood_is_asked(self) -> None:
        """Whether there is sealed brood is looked for; that there is some holds oxalic acid back."""
        self.assertEqual(grid({"capped_worker_brood": "unknown"})["OX_TRICKLE"].days[0].verdict, "asks")

    def test_colonies_together(self) -> None:
        """The best verdict shows, and how many of the three may have it, ask something, or are held."""
        cell = grid({}, {"strength": None}, {"strength": {"value": 2, "unit": "frames"}})["FA_STRIP2"].days[3]
        self.assertEqual((cell.ready, cell.asks, cell.obstacle), (1, 1, None))

    def test_every_reason_has_its_word(self) -> None:
        """No reason of the rules is without a word for the grid, and what is asked is among them."""
        self.assertEqual(set(OBSTACLES), set(get_args(ReasonCode)))
        self.assertLessEqual(ASKED, set(OBSTACLES))


class FirstUsableDay(unittest.TestCase):
    def row(self, *cells: tuple[int, int, bool], group: Any = "any_brood") -> OptionDays:
        """An option whose days have (ready, asks, in time)."""
        days = [
            OptionDay(DAYS[n], "allowed" if ready else "not_now", ready, asks, in_time, None)
            for n, (ready, asks, in_time) in enumerate(cells)
        ]
        return OptionDays("X", group, None, days)

    def test_in_time_before_soon(self) -> None:
        """A late day does not come before one in time, a question not before an answer, support counts for nothing."""
        late, asks, good = (1, 0, False), (0, 1, True), (1, 0, True)
        none = (0, 0, True)
        self.assertEqual(first_usable([self.row(late, asks, good)]), DAYS[2])
        self.assertEqual(first_usable([self.row(late, asks, none)]), DAYS[1])
        self.assertEqual(first_usable([self.row(late, none, none)]), DAYS[0])
        self.assertEqual(first_usable([self.row(none), self.row(good, group="supporting")]), None)

    def test_the_worked_example_opens_on_a_day_that_holds(self) -> None:
        """Amitraz strips may be placed at once in the worked example, so it opens on its first day."""
        found = list(grid({}).values())
        self.assertEqual(first_usable(found), FIRST)
        formic = [one for one in found if one.option_id.startswith("FA_STRIP")]
        self.assertEqual(first_usable(formic), date(2026, 8, 18))
