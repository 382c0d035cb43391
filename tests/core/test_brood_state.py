"""The brood calendar of a colony as it is on a day: what stopped the laying, what visits saw, in any order of entry."""

from __future__ import annotations

import unittest
from collections.abc import Sequence
from datetime import date, timedelta

from hypothesis import given, settings
from hypothesis import strategies as st

from redframe.core.colonies.brood_calendar import brood_calendar
from redframe.core.colonies.brood_state import BroodRecord, BroodState, CellsSeen, QueenCame, Stop, StopKind
from redframe.core.colonies.condition import Seen

ON = date(2031, 6, 1)


def at(days: int) -> date:
    """So many days after the laying stopped."""
    return ON + timedelta(days=days)


def saw(day: int, capped: str = "unknown", eggs: bool | None = None) -> Seen:
    """What a visit found."""
    return Seen(at(day), capped, eggs)  # type: ignore[arg-type]


def calendar(kind: StopKind, day: int, *visits: Seen, release: int | None = None, laying: tuple[int, ...] = (), drones: bool = False) -> BroodState:  # fmt: skip
    """The calendar of a stop on a day."""
    stop = Stop(kind, ON, None if release is None else at(release), "said")
    found = BroodRecord([stop], [at(one) for one in laying], visits).on(at(day), drone_season=drones)
    assert found is not None
    return found


def days(state: BroodState) -> tuple[str, int, int | None, int | None]:
    """Window, opens, closes at the earliest, closes, as days after the stop."""
    dates = (state.opens, state.closes_at_earliest, state.closes)
    opens, earliest, closes = (None if one is None else (one - ON).days for one in dates)
    assert opens is not None
    return state.window, opens, earliest, closes


class TheNextQueen(unittest.TestCase):
    def raised(self, kind: StopKind, day: int, cells: Sequence[CellsSeen] = (), came: Sequence[QueenCame] = (), visits: Sequence[Seen] = ()) -> BroodState:  # fmt: skip
        """The calendar of a stop of which the next queen was seen, on a day."""
        found = BroodRecord([Stop(kind, ON, None, "said")], (), visits, cells, came).on(at(day), drone_season=False)
        assert found is not None
        return found

    def test_cells_say_when_the_next_one_lays(self) -> None:
        """Capped cells on day 9 of a removal: eggs 7 to 16 days later, capped eight after that; younger cells later."""
        for age, early, typical in (("capped", 7, 16), ("larva", 15, 22), ("egg", 20, 26), ("emerged", 7, 12)):
            found = self.raised("queen_removed", 10, [CellsSeen(at(9), age)])  # type: ignore[arg-type]
            self.assertEqual(days(found)[2:], (9 + early + 7, 9 + typical + 7), age)
            self.assertEqual([one.code for one in found.because], ["brood_cells_seen"])

    def test_the_latest_that_was_seen_counts(self) -> None:
        """Of one visit the oldest cell; a queen that came more than a cell; what was seen before the stop not at all."""
        both = [CellsSeen(at(9), "egg"), CellsSeen(at(9), "capped")]
        self.assertEqual(days(self.raised("queen_removed", 10, both))[2], 23)
        self.assertEqual(days(self.raised("queen_removed", 20, both, [QueenCame(at(12), True)]))[2:], (19, 26))
        self.assertEqual(days(self.raised("queen_removed", 20, both, [QueenCame(at(12), False)]))[2:], (26, 31))
        self.assertEqual(days(self.raised("queen_removed", 10, [CellsSeen(at(-1), "capped")]))[2:], (24, 31))
        self.assertEqual(days(self.raised("queen_removed", 10, [CellsSeen(at(11), "capped")]))[2:], (24, 31))

    def test_never_where_a_mated_queen_came_soon(self) -> None:
        """Requeened in a day: her brood is capped before the old has emerged, and no acid is promised."""
        self.assertEqual(self.raised("queen_removed", 22, came=[QueenCame(at(1), True)]).window, "never")

    def test_who_keeps_her_queen(self) -> None:
        """Cells over a caged queen are knocked down: they change nothing."""
        stop = Stop("queen_caged", ON, at(24), "said")
        found = BroodRecord([stop], cells=[CellsSeen(at(8), "capped")]).on(at(10), drone_season=False)
        assert found is not None
        self.assertEqual(days(found), ("coming", 22, 31, 31))

    def test_no_eggs_yet_moves_it_on(self) -> None:
        """A visit that finds no eggs is later news than the cell."""
        found = self.raised("queen_removed", 30, [CellsSeen(at(9), "capped")], visits=[saw(28, "no", eggs=False)])
        self.assertEqual(days(found)[2:], (36, 36))


class ByItself(unittest.TestCase):
    def test_as_the_plain_calendar(self) -> None:
        """Without a visit it is the table's: caged to release + 7, removed to + 31, swarm to + 27."""
        self.assertEqual(days(calendar("queen_caged", 5, release=24)), ("coming", 22, 31, 31))
        self.assertEqual(days(calendar("queen_caged", 30, release=24)), ("open", 22, 31, 31))
        self.assertEqual(days(calendar("queen_caged", 32, release=24)), ("over", 22, 31, 31))
        self.assertEqual(days(calendar("queen_caged", 40)), ("open", 22, None, None))
        self.assertEqual(days(calendar("queen_removed", 22)), ("open", 22, 24, 31))
        self.assertEqual(days(calendar("queen_removed", 25)), ("closing", 22, 24, 31))
        self.assertEqual(days(calendar("swarm_left", 21)), ("coming", 22, 20, 27))
        self.assertEqual(days(calendar("swarm_left", 22)), ("closing", 22, 20, 27))
        self.assertEqual(days(calendar("brood_out", 0)), ("open", 0, 7, 7))
        self.assertEqual(days(calendar("queen_caged", 20, release=10)), ("never", 22, 17, 17))

    def test_the_acid_waits_for_drones(self) -> None:
        """Day 22, in drone season day 24; where it would be over by then, the day it opens."""
        self.assertEqual(calendar("queen_caged", 5, release=24).best_on, at(22))
        self.assertEqual(calendar("queen_caged", 5, release=24, drones=True).best_on, at(24))
        self.assertEqual(calendar("queen_caged", 5, release=16, drones=True).best_on, at(22))
        self.assertEqual(calendar("brood_out", 0, drones=True).best_on, ON)
        self.assertIsNone(calendar("queen_caged", 5, release=10).best_on)

    def test_the_latest_stop_counts(self) -> None:
        """Caged after a swarm: from the cage; long over: nothing."""
        stops = [Stop("queen_caged", at(10), at(34), "course"), Stop("swarm_left", ON, None, "said")]
        found = BroodRecord(stops).on(at(12), drone_season=False)
        assert found is not None
        self.assertEqual((found.stop.kind, found.opens), ("queen_caged", at(32)))
        before = BroodRecord(stops).on(at(9), drone_season=False)
        assert before is not None
        self.assertEqual(before.stop.kind, "swarm_left")
        self.assertIsNone(BroodRecord(stops).on(at(120), drone_season=False))
        self.assertIsNone(BroodRecord(stops).on(at(-1), drone_season=False))


class Seeing(unittest.TestCase):
    def test_less_brood_than_expected_brings_it_forward(self) -> None:
        """None capped on day 15, when the last must have been capped by then; on day 8 that says nothing."""
        self.assertEqual(days(calendar("queen_caged", 16, saw(15, "no"), release=24))[:2], ("open", 15))
        self.assertEqual(days(calendar("queen_caged", 16, saw(8, "no"), release=24))[:2], ("coming", 22))

    def test_capped_brood_where_there_should_be_none_refutes_it(self) -> None:
        """On day 21 it is expected, on day 23 it is not."""
        self.assertEqual(calendar("queen_removed", 23, saw(21, "yes")).window, "open")
        refuted = calendar("queen_removed", 23, saw(23, "yes"))
        self.assertEqual((refuted.window, refuted.best_on, refuted.is_in_force), ("withdrawn", None, False))

    def test_new_eggs_close_it(self) -> None:
        """Seen on day 20: capped from day 25 on, as a rule from day 27; capped brood after that is no surprise."""
        self.assertEqual(days(calendar("queen_removed", 22, saw(20, eggs=True))), ("open", 22, 24, 26))
        self.assertEqual(days(calendar("queen_removed", 27, saw(20, eggs=True), saw(26, "yes"))), ("over", 22, 24, 26))
        self.assertEqual(days(calendar("queen_removed", 22, saw(15, eggs=True))), ("never", 22, 19, 21))

    def test_eggs_of_the_old_queen_say_nothing(self) -> None:
        """Up to three days after the stop eggs were laid before it."""
        self.assertEqual(days(calendar("queen_removed", 10, saw(3, eggs=True))), ("coming", 22, 24, 31))

    def test_no_eggs_yet_keep_it_open(self) -> None:
        """None on day 30: nothing is capped before day 39."""
        self.assertEqual(days(calendar("queen_removed", 30, saw(30, eggs=False))), ("open", 22, 38, 38))
        self.assertEqual(days(calendar("queen_removed", 30, saw(10, eggs=False))), ("closing", 22, 24, 31))

    def test_eggs_in_spite_of_the_cage(self) -> None:
        """Another queen lays: refuted; after her release they are hers."""
        self.assertEqual(calendar("queen_caged", 12, saw(12, eggs=True), release=24).window, "withdrawn")
        self.assertEqual(days(calendar("queen_caged", 27, saw(26, eggs=True), release=24)), ("open", 22, 30, 32))

    def test_a_queen_that_lays_closes_it(self) -> None:
        """Since day 20: her first brood is capped on day 28."""
        self.assertEqual(days(calendar("queen_removed", 22, laying=(20,))), ("open", 22, 27, 27))
        self.assertEqual(days(calendar("queen_removed", 22, laying=(-30,))), ("open", 22, 24, 31))

    def test_what_is_not_yet_seen_does_not_count(self) -> None:
        """A day reads the same for ever: a later visit changes what is said of later days alone."""
        later = saw(23, "yes")
        self.assertEqual(days(calendar("queen_removed", 22, later)), days(calendar("queen_removed", 22)))


kinds = st.sampled_from(["queen_caged", "queen_removed", "swarm_left", "brood_out"])
stops = st.lists(
    st.tuples(kinds, st.integers(-20, 20), st.one_of(st.none(), st.integers(0, 30))), min_size=1, max_size=3
)
visits = st.lists(st.tuples(st.integers(-10, 60), st.sampled_from(["yes", "no", "unknown"]), st.sampled_from([True, False, None])), max_size=6, unique_by=lambda one: one[0])  # fmt: skip


class AnyOrder(unittest.TestCase):
    @settings(max_examples=300, deadline=None)
    @given(stops, visits, st.lists(st.integers(0, 50), max_size=2), st.integers(-5, 70), st.booleans(), st.randoms())
    def test_the_order_of_entry_changes_nothing(self, happened: list, seen: list, laid: list, day: int, drones: bool, chance) -> None:  # type: ignore[no-untyped-def, type-arg]  # fmt: skip
        """The same dated records in another order give the same calendar; and what it says holds together."""
        made = [Stop(kind, at(on), at(on + release) if kind == "queen_caged" and release is not None else None, "said") for kind, on, release in happened]  # fmt: skip
        looked = [saw(on, capped, eggs) for on, capped, eggs in seen]
        laying = [at(one) for one in laid]
        first = BroodRecord(made, laying, looked).on(at(day), drone_season=drones)
        for records in (made, looked, laying):
            chance.shuffle(records)
        self.assertEqual(BroodRecord(made, laying, looked).on(at(day), drone_season=drones), first)
        if first is None:
            return
        self.assertLessEqual(first.stop.on, at(day))
        if first.closes is not None and first.closes_at_earliest is not None:
            self.assertLessEqual(first.closes_at_earliest, first.closes)
        if first.best_on is not None:
            self.assertGreaterEqual(first.best_on, first.opens)
            if first.closes is not None:
                self.assertLessEqual(first.best_on, first.closes)
        plain = (
            None
            if first.stop.kind == "brood_out"
            else brood_calendar(first.stop.kind, first.stop.on, first.stop.release_on)
        )
        if plain is not None and plain.window_opens is not None:
            self.assertLessEqual(first.opens, plain.window_opens, "a visit brings it forward, never back")
