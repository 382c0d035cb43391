"""The lines of a count week from its records alone: coverage, shares, apiaries, cells, and what gives no place away."""

from __future__ import annotations

import random
import statistics
import unittest
from collections.abc import Sequence
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from uuid import UUID

from redframe.core.campaigns.cells import Cell, Placed, shown_cells
from redframe.core.campaigns.records import WeekApiary, WeekCount, WeekKeeper, WeekLevels
from redframe.core.campaigns.week import (
    ELSEWHERE,
    ApiaryLine,
    apiary_lines,
    cell_lines,
    coverage,
    keeper_lines,
    methods,
    near_urgent,
    quartiles,
    scheme_share,
)
from redframe.core.policy.draft import CalendarDates
from redframe.core.policy.schemes import SCHEMES
from redframe.core.sampling.method import JarMethod
from redframe.core.sampling.reading import mean_recovery

DAY = date(2031, 7, 28)
CALENDAR = CalendarDates(dormant="11-01", build_up="03-01", peak="05-15", decline="07-25", winter_bees="08-25").read()
LEVELS = WeekLevels(CALENDAR, SCHEMES["season_phase"].levels, {name: one.levels for name, one in SCHEMES.items()})
"""Before winter bees: watch 1, act 2, urgent 4 in 100."""


def keeper(number: int, email: str | None = "x@y.example") -> WeekKeeper:
    """Somebody invited."""
    return WeekKeeper(UUID(int=1000 + number), f"Keeper {number}", 0, None, email)


def apiary(number: int, of: int = 0, colonies: int = 8, latitude: float = 44.2, longitude: float = -31.4) -> WeekApiary:
    """An apiary of somebody invited."""
    return WeekApiary(UUID(int=number), f"Apiary {number}", UUID(int=1000 + of), latitude, longitude, colonies)


def count(number: int, at: int, rate: float | None, *, mites: int | None = None, method: JarMethod = "wash", day: date = DAY, treated: bool = False) -> WeekCount:  # fmt: skip
    """A jar of 300 bees of a colony; the rate as it was read, or none."""
    found = mites if mites is not None else 0 if rate is None else round(rate * 3)
    known = rate is not None
    return WeekCount(UUID(int=5000 + number), UUID(int=7000 + number), f"C{number}", UUID(int=at), method, day, [found], "counted",
                     found if known else None, 300.0 if known else None, "wash_shakes" if known else None, rate, rate, rate, treated)  # fmt: skip


class Tallies(unittest.TestCase):
    def test_coverage_counts_each_once(self) -> None:
        """Two apiaries of one keeper are one keeper; a jar whose bees nobody counted is counted, but not with bees."""
        keepers = [keeper(number) for number in range(4)]
        apiaries = [apiary(1, 0), apiary(2, 0), apiary(3, 1), apiary(4, 2, colonies=0)]
        counts = [count(1, 1, 2.0), count(2, 1, None), count(3, 2, 1.0), count(4, 3, 0.0)]
        found = coverage(keepers, apiaries, counts)
        self.assertEqual((found.keepers, found.keepers_reporting), (4, 2))
        self.assertEqual((found.apiaries, found.apiaries_counted), (4, 3))
        self.assertEqual((found.colonies, found.colonies_counted, found.with_bees), (24, 4, 3))
        self.assertFalse(found.low)

    def test_few_of_the_keepers_are_said_to_be_few(self) -> None:
        """Under 40 in 100 it is those who chose to; at 40 it is not said; nobody invited is nobody missing."""
        keepers = [keeper(number) for number in range(10)]
        apiaries = [apiary(number, number) for number in range(10)]
        for reporting, low in ((3, True), (4, False), (0, True)):
            counts = [count(number, number, 1.0) for number in range(reporting)]
            self.assertEqual(coverage(keepers, apiaries, counts).low, low)
        self.assertFalse(coverage([], [], []).low)

    def test_methods_that_were_used(self) -> None:
        """In their order; a method without bees known has no median; one that nobody used is not there."""
        found = methods([count(1, 1, 2.0), count(2, 1, 4.0), count(3, 1, None, method="co2")])
        self.assertEqual(
            [(one.method, one.colonies, one.median) for one in found], [("wash", 2, 3.0), ("co2", 1, None)]
        )
        self.assertEqual(methods([]), [])

    def test_the_middle_half(self) -> None:
        """Of eleven figures from 0 to 10 it lies from 2.5 to 7.5; one figure has none."""
        self.assertEqual(quartiles([float(number) for number in range(11)]), (2.5, 7.5))
        self.assertIsNone(quartiles([1.0]))
        self.assertIsNone(quartiles([]))

    def test_shares_by_scheme(self) -> None:
        """The same colonies: at two and over by one school, at three by the other; the day's phase decides by season."""
        counts = [count(number, number % 4, rate) for number, rate in enumerate((0.5, 1.5, 2.0, 2.5, 3.0, 5.0))]
        over = {name: scheme_share(name, counts, LEVELS).share for name in ("flat_2", "flat_3", "season_phase")}  # type: ignore[arg-type]
        shares = {name: round(share.share * 6) for name, share in over.items() if share is not None}
        self.assertEqual(shares, {"flat_2": 4, "flat_3": 2, "season_phase": 4})
        autumn = [replace(one, taken_on=date(2031, 10, 20)) for one in counts]
        later = scheme_share("season_phase", autumn, LEVELS).share
        assert later is not None
        self.assertEqual(round(later.share * 6), 2, "three in a hundred after winter bees")
        self.assertIsNone(scheme_share("flat_2", [], LEVELS).share)

    def test_who_was_invited(self) -> None:
        """Apiaries, colonies and counts of each keeper add up; who has no account has no address."""
        keepers = [keeper(0), keeper(1, email=None)]
        apiaries = [apiary(1, 0, 5), apiary(2, 0, 3), apiary(3, 1, 4)]
        lines = keeper_lines(keepers, apiaries, [count(1, 1, 1.0), count(2, 2, None), count(3, 2, 2.0)])
        self.assertEqual([(one.apiaries, one.colonies, one.counted, one.has_address) for one in lines], [(2, 8, 3, True), (1, 4, 0, False)])  # fmt: skip
        reminded = replace(keepers[0], reminders=2, reminded_at=datetime(2031, 7, 30, tzinfo=UTC))
        self.assertEqual(keeper_lines([reminded], apiaries, [])[0].reminders, 2)


class Apiaries(unittest.TestCase):
    def lines(self, counts: Sequence[WeekCount], apiaries: Sequence[WeekApiary], near: set[UUID] | None = None) -> list[ApiaryLine]:  # fmt: skip
        """The lines, no cell shown."""
        return apiary_lines(apiaries, [keeper(0)], counts, {}, near or set(), LEVELS)

    def test_ranked_from_three_colonies_on(self) -> None:
        """Two colonies have a mean and no rank; three have both; none counted have neither and come last."""
        apiaries = [apiary(1), apiary(2), apiary(3)]
        counts = [count(number, 1, 4.0) for number in range(3)] + [count(number + 10, 2, 1.0) for number in range(2)]
        first, second, third = self.lines(counts, apiaries)
        self.assertEqual([one.name for one in (first, second, third)], ["Apiary 1", "Apiary 2", "Apiary 3"])
        self.assertEqual((first.quarter is not None, second.quarter, third.quarter), (True, None, None))
        self.assertIsNotNone(second.rate)
        self.assertEqual((third.rate, third.low, third.high, third.counted), (None, None, None, 0))
        self.assertEqual((first.over, second.over), (3, 0))

    def test_means_are_drawn_to_the_associations(self) -> None:
        """An apiary of one colony at 8 does not stand for 8; many colonies at 8 nearly do; the interval holds the mean."""
        others = [count(100 + number, number % 6 + 10, 1.0) for number in range(36)]
        one = self.lines([count(1, 1, 8.0), *others], [apiary(1), *[apiary(number) for number in range(10, 16)]])
        many = self.lines([count(number, 1, 8.0) for number in range(12)] + others, [apiary(1, colonies=12), *[apiary(number) for number in range(10, 16)]])  # fmt: skip
        single, dozen = (next(line for line in lines if line.apiary_id == UUID(int=1)) for lines in (one, many))
        assert single.rate is not None and dozen.rate is not None and single.low is not None and single.high is not None
        truth = 8.0 / mean_recovery("wash_shakes") if mean_recovery("wash_shakes") < 1 else 8.0
        self.assertLess(single.rate, dozen.rate)
        self.assertLess(dozen.rate, truth * 1.1)
        self.assertTrue(single.low <= single.rate <= single.high)

    def test_every_count_is_in_one_line(self) -> None:
        """However counts are shuffled among apiaries, the lines hold each of them, and quarters follow the means."""
        chance = random.Random(31)
        apiaries = [apiary(number) for number in range(1, 9)]
        counts = [count(number, chance.randrange(1, 9), chance.choice((0.0, 0.7, 2.2, 5.0))) for number in range(60)]
        lines = self.lines(counts, apiaries, near={UUID(int=3)})
        self.assertEqual(sum(one.counted for one in lines), 60)
        self.assertEqual(sum(one.over for one in lines), sum((one.median or 0) >= 2 for one in counts))
        ranked = [one for one in lines if one.quarter is not None]
        quarters = [one.quarter or 0 for one in ranked]
        self.assertEqual(quarters, sorted(quarters, reverse=True), "the highest mean is in the highest quarter")
        self.assertEqual([one.apiary_id.int for one in lines if one.near_urgent], [3])


class Cells(unittest.TestCase):
    def setUp(self) -> None:
        self.cell = Cell(0.1, 442, -220)

    def line(self, counts: Sequence[WeekCount], apiaries: Sequence[WeekApiary]) -> object:
        """The one line of a cell with these apiaries."""
        [line] = cell_lines(apiaries, counts, {one.id: self.cell for one in apiaries}, LEVELS)
        return line

    def test_a_quarter_of_the_colonies_makes_the_colour(self) -> None:
        """One urgent of four is urgent, of five it is not; an urgent one is over as well; a cell uncounted has none."""
        apiaries = [apiary(number, number) for number in range(1, 4)]
        for rates, level in (
            ((5.0, 0.1, 0.1, 0.1), "urgent"),
            ((5.0, 0.1, 0.1, 0.1, 0.1), "clear"),
            ((5.0, 2.5, 0.1, 0.1, 0.1, 0.1, 0.1, 0.1), "act"),
            ((2.0, 0.1, 0.1, 0.1), "act"),
            ((1.0, 0.1, 0.1, 0.1), "watch"),
            ((0.9, 0.9, 0.9, 0.9), "clear"),
            ((), None),
        ):
            counts = [count(number, number % 3 + 1, rate) for number, rate in enumerate(rates)]
            with self.subTest(rates=rates):
                self.assertEqual(self.line(counts, apiaries).level, level)  # type: ignore[attr-defined]

    def test_a_cell_adds_up_what_stands_in_it(self) -> None:
        """Apiaries, keepers and colonies of those that stand there, counts of those that counted, the days between."""
        apiaries = [apiary(1, 1, 5), apiary(2, 1, 3), apiary(3, 2, 4)]
        counts = [count(1, 1, 3.0, day=DAY - timedelta(days=2)), count(2, 2, 1.0), count(3, 3, None), count(4, 9, 9.0)]
        line = self.line(counts, apiaries)
        found = {
            name: getattr(line, name)
            for name in ("apiaries", "keepers", "colonies", "counted", "over", "median", "few")
        }
        self.assertEqual(
            found, {"apiaries": 3, "keepers": 2, "colonies": 12, "counted": 2, "over": 1, "median": 2.0, "few": True}
        )
        self.assertEqual((line.first_on, line.last_on), (DAY - timedelta(days=2), DAY))  # type: ignore[attr-defined]
        self.assertLess(line.south, line.north)  # type: ignore[attr-defined]

    def test_what_has_no_cell_is_elsewhere(self) -> None:
        """One line for all of it, without corners; the lines are in the order of their names."""
        apiaries = [apiary(1, 1), apiary(2, 2), apiary(3, 3)]
        lines = cell_lines(apiaries, [count(1, 1, 1.0)], {UUID(int=1): self.cell}, LEVELS)
        self.assertEqual([one.id for one in lines], [self.cell.id, ELSEWHERE])
        rest = lines[1]
        self.assertEqual((rest.apiaries, rest.counted, rest.level, rest.south, rest.east), (2, 0, None, 0.0, 0.0))

    def test_neighbours_of_an_urgent_cell(self) -> None:
        """Three keepers in one cell, urgent: those within two cells are near, one far away is not; nor anybody where
        the urgent apiary stands alone, for then its cell is not shown."""
        together = [
            Placed.at(UUID(int=number), UUID(int=1000 + number), 44.21 + number / 1000, -31.41) for number in range(3)
        ]
        neighbour = Placed.at(UUID(int=8), UUID(int=1008), 44.25, -31.41)
        far = Placed.at(UUID(int=9), UUID(int=1009), 46.5, -31.41)
        rates = {UUID(int=number): [(DAY, 9.0)] for number in range(3)}
        self.assertIsNotNone(shown_cells(together)[UUID(int=0)])
        near = near_urgent([*together, neighbour, far], rates, LEVELS)
        self.assertIn(UUID(int=8), near)
        self.assertNotIn(UUID(int=9), near)
        alone = near_urgent([together[0], neighbour, far], rates, LEVELS)
        self.assertEqual(alone, set())
        calm = {number: [(DAY, 0.5)] for number in rates}
        self.assertEqual(near_urgent([*together, neighbour], calm, LEVELS), set())

    def test_the_level_of_a_day_is_that_of_its_phase(self) -> None:
        """Two and a half in a hundred is over in July and not in late October."""
        july, october = count(1, 1, 2.5), count(2, 1, 2.5, day=date(2031, 10, 20))
        self.assertTrue(LEVELS.is_over(july))
        self.assertFalse(LEVELS.is_over(october))
        self.assertFalse(LEVELS.is_over(count(3, 1, None)))
        self.assertEqual(statistics.fmean(july.exposed[1:]), 300 * mean_recovery("wash_shakes"))
