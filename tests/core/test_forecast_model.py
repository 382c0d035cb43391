"""The model of mites and bees against its reference runs and its own conservation laws."""

from __future__ import annotations

import unittest
from dataclasses import fields, replace
from datetime import date, timedelta
from functools import cache

import numpy as np
from hypothesis import example, given, settings
from hypothesis import strategies as st

from redframe.core.forecast.events import DroneCut, Event, LayingBreak, Reinvasion, Split, Treat, on_day
from redframe.core.forecast.model import Model, State
from redframe.core.forecast.parameters import FIGURES, Parameters, default_parameters, draw_parameters
from redframe.core.forecast.season import season_of
from redframe.core.season.calendar import Calendar

NORTH = Calendar.parse(
    {"dormant": "11-01", "build_up": "03-01", "peak": "05-15", "decline": "07-25", "winter_bees": "08-25"}
)
SOUTH = Calendar.parse(
    {"dormant": "05-01", "build_up": "08-30", "peak": "11-15", "decline": "01-25", "winter_bees": "02-24"}
)
WARM = Calendar.parse({"dormant": None, "build_up": "02-01", "peak": "04-15", "decline": "09-15"})
START = date(2025, 3, 1)
FORMIC, THYMOL, AMITRAZ, SLOW, OXALIC = (0.15, 0.065, 14), (0.13, 0, 28), (0.16, 0, 42), (0.07, 0, 42), (0.632, 0, 3)


def treat(start: date, agent: tuple[float, float, int]) -> Treat:
    kp, kc, days = agent
    return Treat(start, days, kp, kc)


def figures(**changed: float) -> Parameters:
    """Default figures without arrivals, some of them changed."""
    given_values = {"reinv": 0.0, "late_reinv": 0.0, **changed}
    return replace(default_parameters(), **{name: np.array([value]) for name, value in given_values.items()})


class Run:
    """One colony with every figure at its default, 100 mites on 1 March, no arrivals."""

    def __init__(
        self,
        *events: Event,
        days: int = 306,
        calendar: Calendar = NORTH,
        start: date = START,
        mites: float = 100.0,
        parameters: Parameters | None = None,
    ) -> None:
        p = parameters or figures()
        model = Model(season_of(calendar), p)
        state = model.spun_up(start)
        state.put_mites(np.array([mites]), p)
        self.adults, self.cells, self.mites, self.rate, self.in_cells = ({} for _ in range(5))  # type: ignore[var-annotated]
        for number in range(days):
            day = start + timedelta(days=number)
            model.step(state, day, on_day(events, day))
            under = state.mites_in_cells(p)[0]
            self.adults[day], self.cells[day] = state.adults[0], state.capped[0]
            self.mites[day], self.rate[day] = state.on_bees[0] + under, model.per_100(state)[0]
            self.in_cells[day] = under / max(1e-12, self.mites[day])

    def growth(self, first: date, last: date) -> float:
        return float(np.log(self.mites[last] / self.mites[first])) / (last - first).days


@cache
def untreated() -> Run:
    return Run(days=345)


def change(run: Run, day: date) -> float:
    """Mites against the untreated colony, in percent."""
    return float(100 * (run.mites[day] / untreated().mites[day] - 1))


class ReferenceRuns(unittest.TestCase):
    def test_a_year(self) -> None:
        """Adults, capped cells, mites and the wash of the reference's table. Its spin-up reads the leap year 2024 a day
        off, which leaves it 40 of 9,000 bees in April; everything else agrees to its rounding."""
        table = {
            date(2025, 4, 1): (8_986, 3_729, 96, 0.63, 0.50),
            date(2025, 5, 1): (12_977, 11_444, 165, 0.40, 0.74),
            date(2025, 6, 1): (23_089, 13_353, 358, 0.71, 0.62),
            date(2025, 7, 1): (26_015, 12_187, 676, 1.37, 0.56),
            date(2025, 8, 1): (25_011, 11_034, 1_227, 2.70, 0.54),
            date(2025, 9, 1): (22_200, 8_238, 2_036, 6.46, 0.41),
            date(2025, 10, 1): (19_972, 3_406, 2_588, 11.8, 0.24),
            date(2025, 12, 1): (16_282, 0, 2_320, 14.3, 0.00),
        }
        run = untreated()
        for day, (adults, cells, mites, rate, in_cells) in table.items():
            with self.subTest(day=day):
                self.assertAlmostEqual(run.adults[day] / adults, 1, delta=0.005)
                self.assertAlmostEqual(run.cells[day], cells, delta=0.6)
                self.assertAlmostEqual(run.mites[day] / mites, 1, delta=0.005)
                self.assertAlmostEqual(run.rate[day] / rate, 1, delta=0.012)
                self.assertAlmostEqual(run.in_cells[day], in_cells, delta=0.0051)

    def test_growth(self) -> None:
        """Growth a day of all mites, by season and by drone brood."""
        run = untreated()
        self.assertAlmostEqual(run.growth(date(2025, 4, 1), date(2025, 6, 30)), 0.0215, delta=0.0006)
        self.assertAlmostEqual(run.growth(date(2025, 5, 15), date(2025, 7, 25)), 0.0218, delta=0.0006)
        self.assertAlmostEqual(run.growth(date(2025, 12, 1), date(2026, 1, 1)), -0.0040, delta=0.0001)
        quarter = (date(2025, 4, 1), date(2025, 6, 30))
        self.assertAlmostEqual(Run(parameters=figures(drone_share=0.0)).growth(*quarter), 0.0158, delta=0.0003)
        self.assertAlmostEqual(Run(parameters=figures(drone_share=0.06)).growth(*quarter), 0.0252, delta=0.0003)

    def test_one_kill_on_the_bees_with_brood_and_without(self) -> None:
        """The wash falls by four fifths at once and has half of it back in a fortnight; without brood it stays down."""
        run = Run(treat(date(2025, 7, 1), OXALIC))
        wash = [100 * (run.rate[d] / untreated().rate[d] - 1) for d in (date(2025, 7, 4), date(2025, 7, 15))]
        self.assertEqual([round(float(one)) for one in wash], [-79, -38])
        self.assertEqual(
            [round(change(run, date(2025, 7, 1) + timedelta(days=n))) for n in (3, 14, 42)], [-50, -42, -43]
        )
        winter = Run(treat(date(2025, 12, 5), OXALIC), days=345)
        self.assertEqual([round(change(winter, date(2025, 12, 5) + timedelta(days=n))) for n in (3, 14, 28)], [-95] * 3)

    def test_courses_breaks_splits_and_arrivals(self) -> None:
        """What each does to the mites in all, a fortnight after its end or on the reference's day."""
        for agent, expected in ((FORMIC, -76), (THYMOL, -76), (AMITRAZ, -94), (SLOW, -73), (OXALIC, -45)):
            run = Run(treat(date(2025, 7, 25), agent))
            self.assertEqual(round(change(run, date(2025, 7, 25) + timedelta(days=agent[2] + 14))), expected)
        june = date(2025, 6, 20)
        pause = Run(LayingBreak(june, 25))
        self.assertEqual(round(change(pause, date(2025, 8, 1))), -39)
        self.assertEqual(
            [round(1 - pause.in_cells[june + timedelta(days=n)], 2) for n in (20, 22, 24)], [0.97, 0.99, 1.0]
        )
        with_acid = Run(LayingBreak(june, 25), treat(june + timedelta(days=25), OXALIC))
        self.assertEqual(round(change(with_acid, date(2025, 8, 1))), -97)
        self.assertEqual(round(change(Run(Split(date(2025, 5, 20), 0.6, 0.0, 24)), date(2025, 8, 1))), -35)
        cuts = [DroneCut(date(2025, 6, 1) + timedelta(days=20 * n), 0.9) for n in range(3)]
        self.assertAlmostEqual(change(Run(*cuts), date(2025, 8, 1)), -49, delta=1.5)
        more = Run(Reinvasion(date(2025, 8, 16), 46, 10.0)).mites[date(2025, 10, 1)]
        self.assertAlmostEqual(more - untreated().mites[date(2025, 10, 1)], 492, delta=10)

    def test_the_other_hemisphere_and_no_winter(self) -> None:
        """Turned by half a year the same growth; where brood never stops, growth through the year and no winter bee."""
        south = Run(calendar=SOUTH, start=date(2025, 8, 30))
        self.assertAlmostEqual(south.growth(date(2025, 9, 30), date(2025, 12, 29)), 0.0215, delta=0.0007)
        warm = Run(calendar=WARM, start=date(2025, 2, 1), days=366)
        self.assertAlmostEqual(warm.growth(date(2025, 2, 1), date(2026, 2, 1)), 0.0153, delta=0.0008)
        self.assertEqual(float(season_of(WARM).winter.max()), 0.0)
        self.assertAlmostEqual(float((season_of(WARM).brood + season_of(WARM).brood_late).min()), 0.35, delta=0.01)


class Laws(unittest.TestCase):
    @settings(max_examples=12, deadline=None)
    @example(61, 20)  # the first capped cells of the year, fewer than one
    @example(315, 20)  # the last
    @given(st.integers(0, 364), st.integers(20, 120))
    def test_mites_and_bees_are_conserved(self, from_day: int, days: int) -> None:
        """No birth, no death, no arrival: as many mites as before, in cells or on bees, whatever the season; and bees
        come from cells and go nowhere."""
        still = figures(
            off_worker=0.0, off_drone=0.0, mother_surv=1.0, emerge_surv=1.0, mort_brood=0.0, mort_nobrood=0.0,
            bee_life=1e12, bee_life_w=1e12, harm=0.0,
        )  # fmt: skip
        model = Model(season_of(NORTH), still)
        start = date(2025, 1, 1) + timedelta(days=from_day)
        state = model.spun_up(start)
        state.put_mites(np.array([1e-6]), still)  # so few that they harm no bee
        for number in range(days):
            before = state.copy()
            model.step(state, start + timedelta(days=number))
            total = state.on_bees + state.worker_mites.sum(axis=0) + state.drone_mites.sum(axis=0)
            self.assertAlmostEqual(float(total[0]) / 1e-6, 1.0, places=9)
            born = 0.93 * before.worker_cells[before.turn % 12]
            self.assertAlmostEqual(float((state.adults - before.adults - born)[0]), 0.0, delta=1e-4)

    def test_nothing_happens_without_a_cause(self) -> None:
        """A treatment that kills nothing, a split that takes nothing and a cut of nothing change nothing."""
        idle = Run(Treat(START, 90, 0.0, 0.0), Split(date(2025, 5, 1), 0.0, 0.0, 0), DroneCut(date(2025, 6, 1), 0.0))
        self.assertEqual(list(idle.mites.values()), list(untreated().mites.values())[: len(idle.mites)])

    def test_twice_the_mites_read_twice(self) -> None:
        """Linear as long as mites are few."""
        few, twice = (Run(days=120, mites=mites) for mites in (0.01, 0.02))
        for day in few.rate:
            self.assertAlmostEqual(float(twice.rate[day] / few.rate[day]), 2.0, places=4)

    def test_without_brood_mites_only_die(self) -> None:
        """No cell is capped: the total falls by the daily deaths exactly."""
        p = figures(cap_max=0.0)
        state = State.without_mites((1,))
        state.put_mites(np.array([1000.0]), p)
        model = Model(season_of(NORTH), p)
        for number in range(30):
            model.step(state, date(2025, 6, 1) + timedelta(days=number))
        self.assertAlmostEqual(float(state.on_bees[0]), 1000 * (1 - 0.004) ** 30, places=9)

    def test_a_perfect_kill_leaves_what_arrives_later(self) -> None:
        """Every mite on broodless bees dies; from then on only arrivals are there."""
        run = Run(Treat(date(2025, 12, 5), 1, 1.0, 0.0), days=300)
        self.assertLess(run.mites[date(2025, 12, 5)], 1e-9)
        p = figures(reinv=2.0, late_reinv=2.0)
        visited = Run(Treat(date(2025, 12, 5), 1, 1.0, 0.0), days=380, parameters=p)
        self.assertLess(visited.mites[date(2026, 2, 28)], 1e-9, "nothing flies in the dormant phase")
        self.assertAlmostEqual(float(visited.mites[date(2026, 3, 1)]), 2 * (1 - 0.004), places=6)

    def test_draws_keep_their_medians_and_spreads(self) -> None:
        """Lognormal figures spread around their default by the log standard deviation, normal ones by theirs."""
        drawn = draw_parameters(4000, np.random.default_rng(5))
        self.assertEqual({each.name for each in fields(Parameters)}, set(FIGURES))
        for name, figure in FIGURES.items():
            values = getattr(drawn, name)
            if figure.kind == "lognormal":
                self.assertAlmostEqual(float(np.median(values)) / figure.default, 1.0, delta=0.01)
                self.assertAlmostEqual(float(np.std(np.log(values))) / figure.spread, 1.0, delta=0.02)
            else:
                self.assertAlmostEqual(float(np.mean(values)), figure.default, delta=0.02 * max(1.0, figure.spread))
