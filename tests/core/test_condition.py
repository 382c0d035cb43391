"""What is so of a colony and its hive: from dated records alone, in whatever order they came."""

from __future__ import annotations

import unittest
from datetime import UTC, date, datetime, timedelta

from hypothesis import given, settings
from hypothesis import strategies as st

from redframe.core.colonies.condition import SET_UP_HOLDS_DAYS, Closing, Recorded, Seen, SuperBox
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.set_up import against_course

FIRST = date(2031, 5, 1)
OPTIONS = default_catalogue()


def day(number: int) -> date:
    """So many days after the first."""
    return FIRST + timedelta(days=number)


days = st.integers(0, 80).map(day)
known = st.sampled_from([True, False, None])
moments = st.one_of(st.none(), st.integers(6, 20).map(lambda hour: datetime(2031, 5, 1, hour, tzinfo=UTC)))
visits = st.builds(Seen, days, st.sampled_from(["yes", "no", "unknown"]), known, known, known, moments)
boxes = st.tuples(st.integers(0, 80), st.one_of(st.none(), st.integers(0, 40))).map(
    lambda pair: SuperBox(day(pair[0]), None if pair[1] is None else day(pair[0] + pair[1]))
)
closings = st.builds(Closing, days, known, known)


class OneDatedSource(unittest.TestCase):
    @given(
        st.lists(visits, max_size=6), st.lists(boxes, max_size=4), st.lists(closings, max_size=3), st.randoms(), days
    )
    @settings(max_examples=100, deadline=None, derandomize=True)
    def test_any_order_of_entry_gives_the_same(self, seen, stood, closed, chance, on) -> None:  # type: ignore[no-untyped-def]
        now = Recorded(seen, stood, closed).on(on)
        for _ in range(3):
            chance.shuffle(seen), chance.shuffle(stood), chance.shuffle(closed)
            self.assertEqual(Recorded(seen, stood, closed).on(on), now)

    @given(st.lists(visits, max_size=6), st.lists(boxes, max_size=4), st.lists(closings, max_size=3), days)
    @settings(max_examples=80, deadline=None, derandomize=True)
    def test_what_comes_later_changes_nothing_of_a_day(self, seen, stood, closed, on) -> None:  # type: ignore[no-untyped-def]
        """What was so on a day reads the same for ever: only what was done up to it counts."""
        until = Recorded(
            [one for one in seen if one.visited_on <= on],
            [
                SuperBox(one.since, one.until if one.until and one.until <= on else None)
                for one in stood
                if one.since <= on
            ],
            [one for one in closed if one.on <= on],
        )
        self.assertEqual(Recorded(seen, stood, closed).on(on), until.on(on))

    def test_what_was_done_last_counts(self) -> None:
        on, off = Seen(day(10), supers_on=True, fed=True), Seen(day(10), supers_on=False, fed=False)
        closed = Closing(day(10), supers_on=False, fed=None)
        self.assertTrue(Recorded([off, on]).on(day(10)).supers.value)  # type: ignore[union-attr]
        found = Recorded([on], closings=[closed]).on(day(11))
        self.assertEqual((found.supers.value, found.fed.value), (False, True))  # type: ignore[union-attr]
        again = Seen(day(10), supers_on=False, at=datetime(2031, 5, 11, 17, tzinfo=UTC))
        self.assertFalse(Recorded([again, on]).on(day(10)).supers.value)  # type: ignore[union-attr]
        later = Seen(day(12), supers_on=True)
        self.assertTrue(Recorded([later, on], closings=[closed]).on(day(12)).supers.value)  # type: ignore[union-attr]

    def test_a_box_stands_what_was_seen_is_forgotten(self) -> None:
        seen = Recorded([Seen(day(0), supers_on=True)])
        self.assertIsNotNone(seen.on(day(SET_UP_HOLDS_DAYS)).supers)
        self.assertIsNone(seen.on(day(SET_UP_HOLDS_DAYS + 1)).supers)
        box = Recorded(boxes=[SuperBox(day(0), day(70))])
        self.assertTrue(box.on(day(69)).supers.value)  # type: ignore[union-attr]
        self.assertFalse(box.on(day(70)).supers.value)  # type: ignore[union-attr]
        two = Recorded(boxes=[SuperBox(day(0), day(30)), SuperBox(day(20), None)])
        self.assertTrue(two.on(day(31)).supers.value)  # type: ignore[union-attr]


class AgainstACourse(unittest.TestCase):
    def codes(self, option: str, hive: Recorded, *, placed: bool, dose: bool) -> list[str]:
        """What the hive says against a course of an option on day 20."""
        found = against_course(OPTIONS.option(option), hive.on(day(20)), is_placed=placed, dose_to_come=dose)
        return [one.code for one in found]

    def test_in_the_hive_and_before_it(self) -> None:
        hive = Recorded([Seen(day(18), supers_on=True, fed=True)])
        self.assertEqual(self.codes("THY_GEL", hive, placed=False, dose=True), ["supers_on", "fed"])
        self.assertEqual(self.codes("THY_GEL", hive, placed=True, dose=False), ["supers_in_course", "feed_in_course"])
        self.assertEqual(self.codes("FA_STRIP2", hive, placed=True, dose=False), ["supers_in_course_by_label", "feed_in_course"])  # fmt: skip
        self.assertEqual(self.codes("QUEEN_CAGE", hive, placed=True, dose=True), [])

    def test_what_is_not_known_is_asked_before_a_dose_only(self) -> None:
        self.assertEqual(self.codes("THY_GEL", Recorded(), placed=True, dose=True), ["supers_unknown", "fed_unknown"])
        self.assertEqual(self.codes("THY_GEL", Recorded(), placed=True, dose=False), [])
