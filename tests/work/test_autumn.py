"""The autumn programme of an apiary from its records: half done in the demo, moved by what is recorded."""

from __future__ import annotations

import unittest
from datetime import date, timedelta
from uuid import UUID

import psycopg

from redframe.core.feeding.programme import ColonyFood, FeedingRules, StoresSeen, programme
from redframe.core.visits.record import After
from redframe.demo.scenario import made_id
from redframe.store.errors import NotFound
from redframe.work.feeding.read import ApiaryAutumn, Autumn, ColonyAutumn, autumn, autumns
from tests.support import at_work, demo_template, identity, new_database, visited

TODAY = date(2031, 8, 2)
FENN = made_id("corrane", "apiary", "Upper Fenn")
HOLLIN = made_id("corrane", "apiary", "Hollin Croft")


class Programmes(unittest.TestCase):
    def setUp(self) -> None:
        self.url = new_database(demo_template())

    def read(self, apiary: UUID = FENN, day: date = TODAY) -> Autumn:
        """The programme of an apiary on a day."""
        return at_work(self.url, lambda unit: autumn(unit, apiary), day=day)

    def colony(self, label: str, apiary: UUID = FENN, day: date = TODAY) -> ColonyAutumn:
        """One colony of it."""
        (one,) = [each for each in self.read(apiary, day).colonies if each.label == label]
        return one

    def test_half_done(self) -> None:
        """Two rounds were given since the stores were judged: they count, and the next waits until the feeder is empty."""
        found = self.read()
        self.assertGreaterEqual(len(found.colonies), 5)
        for one in found.colonies:
            self.assertEqual(
                [(each.on, each.amount) for each in one.fed], [(date(2031, 7, 22), 5.0), (date(2031, 7, 29), 5.0)]
            )
            self.assertAlmostEqual(one.programme.fed_kg, 2 * 4.9, delta=0.2)
            if one.programme.rounds:
                self.assertEqual(one.programme.rounds[0].on, date(2031, 8, 3))
        self.assertAlmostEqual(found.sugar_kg, sum(one.programme.sugar_kg or 0 for one in found.colonies))
        self.assertAlmostEqual(found.water_l, found.sugar_kg / 2)
        self.assertEqual(found.finish_by, date(2031, 9, 13), "a week before the ivy, not a fortnight before the cold")

    def test_a_visit_moves_it(self) -> None:
        """Weighed at 19 kg: a little more to feed; found untouched: said."""
        label = self.read().colonies[0].label
        number = made_id("corrane", "Upper Fenn", label)
        visited(self.url, number, TODAY, After(stores_kg=19.0, stores_by="weighing", feeder="untouched"))
        one = self.colony(label)
        self.assertEqual((one.stores_on, one.stores_by, one.untouched_on), (TODAY, "weighing", TODAY))
        self.assertEqual((one.fed, one.programme.fed_kg), ([], 0))
        self.assertAlmostEqual(one.programme.lacks_kg or 0, 1.0)
        visited(self.url, number, TODAY + timedelta(days=3), After(feed="syrup_2_1", feed_amount=3.0, feeder="put_on"))
        later = self.colony(label, day=TODAY + timedelta(days=3))
        self.assertEqual((later.untouched_on, len(later.fed)), (None, 1))
        self.assertLess(later.programme.lacks_kg or 0, one.programme.lacks_kg or 0)

    def test_what_part_of_the_stores_is(self) -> None:
        """Said at the visit that judged them, the programme says it; judged anew without it, it does not."""
        label = self.read().colonies[0].label
        number = made_id("corrane", "Upper Fenn", label)
        kinds = After(stores_kg=15.0, stores_by="hefting", stores_are=["set_hard", "fermenting", "syrup"])
        visited(self.url, number, TODAY, kinds)
        said = {one.code for one in self.colony(label).programme.because}
        self.assertLessEqual({"part_set_hard", "part_ferments"}, said)
        after = TODAY + timedelta(days=1)
        visited(self.url, number, after, After(stores_kg=15.0, stores_by="hefting"))
        self.assertFalse(
            {"part_set_hard", "part_ferments"} & {one.code for one in self.colony(label, day=after).programme.because}
        )

    def test_a_course_goes_first(self) -> None:
        """Strips are planned for today: no feed until they are out; other colonies are fed at once."""
        one, other = self.colony("H1", HOLLIN), self.colony("H3", HOLLIN)
        assert one.course is not None
        self.assertEqual((one.course.bears_feed, one.course.ends_on), (False, date(2031, 8, 9)))
        self.assertIsNone(other.course)
        for each in one.programme.rounds:
            self.assertGreater(each.on, date(2031, 8, 9))

    def test_all_apiaries_in_a_line(self) -> None:
        """Every apiary with living colonies once, by name, over pages of five; each line is its programme, added up."""
        lines: list[ApiaryAutumn] = []
        after = None
        while not lines or after is not None:
            page = at_work(self.url, lambda unit, after=after: autumns(unit, after=after, most=5))
            self.assertLessEqual(len(page.apiaries), 5)
            lines += page.apiaries
            after = page.next
        names = [one.name for one in lines]
        self.assertEqual(names, sorted(names, key=str.lower))
        with psycopg.connect(self.url) as owner:
            query = (
                "SELECT DISTINCT a.name FROM apiary a JOIN colony c ON c.apiary_id = a.id WHERE c.is_living"
                " AND a.association_id = (SELECT association_id FROM apiary WHERE id = %s)"
            )
            there = [name for (name,) in owner.execute(query, [FENN])]
        self.assertEqual(set(names), set(there))
        for line in lines:
            with self.subTest(line.name):
                found = self.read(line.apiary_id)
                self.assertEqual(line.colonies, len(found.colonies))
                self.assertAlmostEqual(line.sugar_kg, found.sugar_kg)
                plans = [one.programme for one in found.colonies]
                for word, number in line.of.items():
                    self.assertEqual(number, [one.word for one in plans].count(word))
                starts = [one.begin_by for one in plans if one.begin_by]
                self.assertEqual(line.begin_by, min(starts, default=None))
        self.assertGreater(sum(one.to_treat for one in lines), 0)
        found = at_work(self.url, lambda unit: autumns(unit, " TOBIAS "))
        self.assertEqual({one.keeper for one in found.apiaries}, {"Tobias Quill"})
        self.assertEqual(at_work(self.url, lambda unit: autumns(unit, "%")).apiaries, [])

    def test_the_last_day_to_begin(self) -> None:
        """Begun on it, a litre a day, the last feeder is empty on the last day for syrup; a day later it is not."""
        rules = FeedingRules(20.0, 5.0, 1.0, date(2031, 10, 20), None)
        food = ColonyFood(8.0, StoresSeen(TODAY, 9.0, 0.1), [], [], False)
        begin = programme(food, rules, "post_harvest", TODAY).begin_by
        assert begin is not None
        for late in (0, 1):
            day = begin + timedelta(days=late)
            judged = ColonyFood(8.0, StoresSeen(day, 9.0, 0.1), [], [], False)
            ends = programme(judged, rules, "post_harvest", day).ends_on
            assert ends is not None and rules.finish_by is not None
            self.assertEqual(ends > rules.finish_by, bool(late))

    def test_another_keepers_apiary(self) -> None:
        """Is nowhere."""
        with self.assertRaises(NotFound):
            at_work(self.url, lambda unit: autumn(unit, FENN), identity("keeper", keeper="Orla Fenwick"))
