"""A look at one thing of a colony, and a treatment chosen by its day: what is asked on the spot, and what it leaves."""

from __future__ import annotations

import unittest
from datetime import date, timedelta
from uuid import UUID, uuid4

from redframe.core.errors import InvalidInput
from redframe.core.visits.record import After
from redframe.demo.scenario import DEMO_TODAY, made_id
from redframe.store.errors import Conflict
from redframe.work.planning.read import worklist
from redframe.work.treatments.options import options_by_day, options_for
from redframe.work.visits.record import record_visit
from tests.support import at_work, demo_template, new_database, owner_rows, visited

ST_OSSORY = made_id("corrane", "apiary", "St Ossory")
DUE = made_id("corrane", "St Ossory", "O1")


class Looks(unittest.TestCase):
    def setUp(self) -> None:
        self.url = new_database(demo_template())

    def due(self, apiary: UUID = ST_OSSORY) -> list[str]:
        """The colonies of an apiary whose visit is due today."""
        found = at_work(self.url, worklist).visits
        return next((one.labels for one in found if one.apiary_id == apiary), [])

    def last(self, colony: UUID) -> tuple[date, date | None]:
        """When a colony was last visited, and the day set for the next visit."""
        query = "SELECT visited_on, next_visit FROM visit WHERE colony_id = %s AND state = 'closed' ORDER BY visited_on DESC, created_at DESC LIMIT 1"  # fmt: skip
        [(on, following)] = owner_rows(self.url, query, colony)
        return on, following

    def test_a_look_leaves_the_visit_that_is_due(self) -> None:
        """Strength asked for while a treatment is chosen is no visit to what was to be seen: it stays due, from today."""
        self.assertIn("O1", self.due())
        visited(self.url, DUE, DEMO_TODAY, After(frames_of_bees=9.0))
        self.assertEqual(self.last(DUE), (DEMO_TODAY, DEMO_TODAY), "the overdue day is today's")
        self.assertIn("O1", self.due())

    def test_a_visit_that_sets_its_own_day_is_done(self) -> None:
        """What says when to come back takes the place of what was set."""
        later = DEMO_TODAY + timedelta(days=21)
        visited(self.url, DUE, DEMO_TODAY, After(frames_of_bees=9.0, next_visit=later))
        self.assertEqual(self.last(DUE), (DEMO_TODAY, later))
        self.assertNotIn("O1", self.due())

    def test_a_look_of_an_earlier_day_changes_nothing_after_it(self) -> None:
        """Entered for a day before the last visit it takes no day from it, and sets none."""
        on, following = self.last(DUE)
        visited(self.url, DUE, on - timedelta(days=5), After(capped_brood=True))
        self.assertEqual(self.last(DUE), (on, following))
        [(earlier,)] = owner_rows(self.url, "SELECT next_visit FROM visit WHERE colony_id = %s AND visited_on = %s", DUE, on - timedelta(days=5))  # fmt: skip
        self.assertIsNone(earlier)

    def test_it_is_accepted_once(self) -> None:
        """Sent again after another visit has set another day it is the same look, and stays as it was kept; under the
        same number something else is refused."""
        number = uuid4()
        visited(self.url, DUE, DEMO_TODAY, After(supers_on=False), number)
        visited(self.url, DUE, DEMO_TODAY, After(temper=8, next_visit=DEMO_TODAY + timedelta(days=30)))
        visited(self.url, DUE, DEMO_TODAY, After(supers_on=False), number)
        kept = owner_rows(self.url, "SELECT next_visit FROM visit WHERE id = %s", number)
        self.assertEqual(kept, [(DEMO_TODAY,)])
        with self.assertRaises(Conflict):
            visited(self.url, DUE, DEMO_TODAY, After(supers_on=True), number)

    def test_nothing_is_no_look(self) -> None:
        """A look that says nothing is refused, also where a day was set that it could take over."""
        with self.assertRaisesRegex(InvalidInput, "nothing is recorded"):
            at_work(
                self.url,
                lambda unit: record_visit(unit, uuid4(), colony_id=DUE, visited_on=DEMO_TODAY, after=After()),
            )


class ByDay(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def test_it_opens_on_a_day_on_which_something_may_be_placed(self) -> None:
        """With no day named it is the first of the grid that holds; every day's column is what that day itself says."""
        fold = made_id("corrane", "apiary", "Mell Fold")
        ids = [made_id("corrane", "Mell Fold", label) for label in ("M1", "M2")]
        choice, days = at_work(self.url, lambda unit: options_by_day(unit, fold, ids))
        usable = [one.day for option in days if option.group != "supporting" for one in option.days if one.ready]
        self.assertEqual(choice.day, min(usable))
        for number in (0, 4, 9):
            day = DEMO_TODAY + timedelta(days=number)
            itself = at_work(self.url, lambda unit, day=day: options_for(unit, fold, ids, day))  # type: ignore[misc]
            ready = {one.option_id: one.ready for one in itself.together}
            with self.subTest(day=day):
                self.assertEqual({one.option_id: one.days[number].ready for one in days}, {one.option_id: ready[one.option_id] for one in days})  # fmt: skip

    def test_a_day_that_is_named_is_taken(self) -> None:
        """The grid stays that of the forecast; the choice is that of the day, also far beyond it."""
        fold, colony = made_id("corrane", "apiary", "Mell Fold"), made_id("corrane", "Mell Fold", "M1")
        far = DEMO_TODAY + timedelta(days=60)
        choice, days = at_work(self.url, lambda unit: options_by_day(unit, fold, [colony], far))
        self.assertEqual(choice.day, far)
        self.assertEqual({one.days[0].day for one in days}, {DEMO_TODAY})
        with self.assertRaisesRegex(InvalidInput, "^start_on"):
            at_work(self.url, lambda unit: options_by_day(unit, fold, [colony], DEMO_TODAY - timedelta(days=1)))

    def test_what_may_never_be_had_is_not_in_the_grid(self) -> None:
        """An option that is not authorised for any of the colonies takes no row; each other one has its row once."""
        fold, colony = made_id("corrane", "apiary", "Mell Fold"), made_id("corrane", "Mell Fold", "M1")
        choice, days = at_work(self.url, lambda unit: options_by_day(unit, fold, [colony], DEMO_TODAY))
        possible = {one.option_id for one in choice.together if one.verdict != "never_here"}
        self.assertEqual(sorted(one.option_id for one in days), sorted(possible))
