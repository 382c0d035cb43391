"""The forecast against its reference runs, its own conservation laws, quadrature, and decisions worked by hand."""

from __future__ import annotations

import unittest
from dataclasses import fields, replace
from datetime import date, timedelta
from functools import cache
from typing import Any

import numpy as np
from hypothesis import example, given, settings
from hypothesis import strategies as st
from scipy import stats

from redframe.core.calculators import calculator
from redframe.core.errors import InvalidInput
from redframe.core.forecast.advice import last_start, outcome, start_window
from redframe.core.forecast.ensemble import Fitted, fit
from redframe.core.forecast.events import DroneCut, Event, LayingBreak, Reinvasion, Split, Treat, on_day
from redframe.core.forecast.model import Model, State
from redframe.core.forecast.parameters import FIGURES, Parameters, default_parameters, draw_parameters
from redframe.core.forecast.projection import bands, crossing, danger_from, project
from redframe.core.forecast.season import season_of
from redframe.core.forecast.seen import CountSeen, FallSeen, Seen
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.conversion import FACTORS
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


def seen(on: date, mites: int, bees: float = 300.0, cv: float = 0.12) -> CountSeen:
    return CountSeen(on, mites, BeesInSample(bees, cv))


ONE = (seen(date(2025, 6, 20), 4),)
TWO = (*ONE, seen(date(2025, 7, 14), 11, 310))


@cache
def fitted(counts: tuple[Seen, ...], state: int = 1) -> Fitted:
    return fit(counts, NORTH, (), np.random.default_rng(state))


class FromCounts(unittest.TestCase):
    def test_the_reference_example(self) -> None:
        """One wash of 4 in 300, then a second of 11 in 310: medians and 80 % bands of the reference, itself one run of
        an ensemble: to a tenth of the median, a fifth of the band's ends."""
        expected: dict[tuple[CountSeen, ...], dict[int, tuple[float, float, float]]] = {
            ONE: {0: (1.69, 0.71, 3.90), 14: (2.29, 0.98, 5.24), 42: (4.38, 1.80, 10.3)},
            TWO: {0: (3.39, 2.03, 5.78), 42: (10.6, 5.7, 20.4)},
        }
        for counts, days in expected.items():
            result = bands(project(fitted(counts), 42))
            for ahead, (median, low, high) in days.items():
                with self.subTest(counts=len(counts), ahead=ahead):
                    self.assertAlmostEqual(result[ahead].median / median, 1.0, delta=0.1)
                    self.assertAlmostEqual(result[ahead].low80 / low, 1.0, delta=0.2)
                    self.assertAlmostEqual(result[ahead].high80 / high, 1.0, delta=0.2)
        run = project(fitted(ONE), 90)
        two, three = crossing(run, 2.0), crossing(run, 3.0)
        self.assertEqual(two.date10, date(2025, 6, 20))
        assert two.date50 and two.date90 and three.date50
        self.assertLessEqual(abs((two.date50 - date(2025, 6, 28)).days), 4)
        self.assertLessEqual(abs((two.date90 - date(2025, 8, 6)).days), 5)
        self.assertLessEqual(abs((three.date50 - date(2025, 7, 17)).days), 4)
        self.assertGreater(two.share, 0.98)

    def test_on_the_day_of_a_single_count_it_is_the_posterior(self) -> None:
        """What the members say of the day of one count is Bayes' rule by quadrature: negative binomial of size 6, bees
        lognormal, recovery Beta(47.5, 2.5), and Jeffreys' prior sqrt(1/(1/285 theta + 1/6 + 0.12^2 + 0.033^2))."""
        for mites in (4, 20):
            log_rate = np.linspace(np.log(1e-5), np.log(2.0), 1500)
            bees = BeesInSample(300.0, 0.12).quantiles((np.arange(60) + 0.5) / 60)
            found = stats.beta(47.5, 2.5).ppf((np.arange(60) + 0.5) / 60)
            mean = np.exp(log_rate)[:, None] * np.outer(bees, found).ravel()
            beyond = 1 / 6 + 0.12**2 + stats.beta(47.5, 2.5).var() / 0.95**2
            prior = (1 / (285 * np.exp(log_rate)) + beyond) ** -0.5
            density = prior * stats.nbinom.pmf(mites, 6, 6 / (6 + mean)).mean(axis=1)
            reached = np.cumsum(density) / density.sum()
            rates = bands(project(fitted((seen(date(2025, 6, 20), mites),)), 1))[0]
            for level, value in ((0.1, rates.low80), (0.5, rates.median), (0.9, rates.high80)):
                exact = 100 * float(np.exp(np.interp(level, reached, log_rate)))
                # Arrivals put a floor under the lowest loads, which the quadrature does not know of.
                self.assertAlmostEqual(value / exact, 1.0, delta=0.1, msg=f"{mites} at {level}")

    def test_on_the_day_of_a_board_it_is_the_wide_posterior(self) -> None:
        """Bayes' rule by quadrature for 24 mites in 3 days at peak: negative binomial of size 6 around a fall whose
        meaning strays by the logarithms of K (sd 0.6), of the bees (CV 25 %) and of the share on bees, Beta(20, 25)."""
        day, factors = date(2025, 6, 20), FACTORS["peak"]
        log_rate = np.linspace(np.log(1e-6), np.log(1.0), 1500)
        levels = (np.arange(80) + 0.5) / 80
        share = np.log(stats.beta(20, 25).ppf(levels) * (45 / 20))
        error = (stats.norm(0, np.sqrt(0.36 + np.log(1.0625))).ppf(levels)[:, None] + share).ravel()
        per_mite = 3 * 25_000 / (1.2 * 30 * 20 / 45)
        mean = per_mite * np.exp(log_rate)[:, None] * np.exp(error)
        beyond = 1 / 6 + 0.36 + np.log(1.0625) + stats.beta(20, 25).expect(lambda b: (np.log(b) - np.log(20 / 45)) ** 2)
        prior = (1 / (per_mite * np.exp(log_rate)) + beyond) ** -0.5
        density = prior * stats.nbinom.pmf(24, 6, 6 / (6 + mean)).mean(axis=1)
        reached = np.cumsum(density) / density.sum()
        rates = bands(project(fitted((FallSeen(day, 24, 3.0, 0.0, factors),)), 1))[0]
        for level, value in ((0.1, rates.low80), (0.5, rates.median), (0.9, rates.high80)):
            exact = 100 * float(np.exp(np.interp(level, reached, log_rate)))
            self.assertAlmostEqual(value / exact, 1.0, delta=0.12, msg=str(level))

    def test_many_boards_share_one_error(self) -> None:
        """Three boards say little more than one, a wash says much: widths of the 80 % band in logarithms."""
        day, factors = date(2025, 6, 20), FACTORS["peak"]
        boards = [FallSeen(day + timedelta(days=3 * at), 24, 3.0, 0.0, factors) for at in range(3)]
        last = boards[-1].taken_on

        def width(*counts: Seen) -> float:
            band = bands(project(fitted(counts), (last - counts[-1].taken_on).days))[-1]
            return float(np.log(band.high80 / band.low80))

        self.assertGreater(width(*boards), 0.85 * width(boards[0]))
        self.assertLess(width(*boards, seen(last, 4)), 0.8 * width(*boards))

    def test_bands_stand_still(self) -> None:
        """Another random state moves the median by less than 5 %, the 80 % band by less than 10 %."""
        first, other = (bands(project(fitted(ONE, state), 42)) for state in (1, 2))
        for ahead in (0, 21, 42):
            self.assertAlmostEqual(first[ahead].median / other[ahead].median, 1.0, delta=0.05)
            self.assertAlmostEqual(first[ahead].high80 / other[ahead].high80, 1.0, delta=0.10)
        self.assertGreater(fitted(ONE).effective, 3000)

    def test_counts_that_no_colony_explains(self) -> None:
        """Nothing, then four hundred a week later: more members are tried, and the answer says that they disagree."""
        odd = fit([seen(date(2025, 6, 20), 0), seen(date(2025, 6, 27), 400)], NORTH, (), np.random.default_rng(1), 500)
        self.assertTrue(odd.disagree)
        self.assertEqual(odd.drawn, 8000)
        self.assertTrue(np.isfinite(odd.rates).all())

    def test_a_treatment_between_counts_is_not_read_as_a_fall(self) -> None:
        """The same two counts, once with its treatment: the untreated course is worse than without knowing."""
        counts = [seen(date(2025, 7, 1), 15), seen(date(2025, 8, 1), 5)]
        known = (treat(date(2025, 7, 3), FORMIC),)
        result = fit(counts, NORTH, known, np.random.default_rng(1))
        self.assertFalse(result.disagree)
        unknown = fit(counts, NORTH, (), np.random.default_rng(1))
        self.assertGreater(result.effective / result.drawn, 3 * unknown.effective / unknown.drawn)

    def test_a_colony_in_danger(self) -> None:
        """Forty in three hundred in August: in danger within weeks; four in June not within the month."""
        self.assertIsNotNone(danger_from(project(fitted((seen(date(2025, 8, 1), 40),)), 45)))
        self.assertIsNone(danger_from(project(fitted(ONE), 30)))


class Advice(unittest.TestCase):
    def test_scenarios_side_by_side(self) -> None:
        """Medians of the reference on 25 August and 15 September; nothing kept the winter bees' load under 2."""
        days = (date(2025, 8, 25), date(2025, 9, 15))
        expected = {
            "nothing": ((), (10.8, 18.3)),
            "formic now": ((treat(date(2025, 7, 15), FORMIC),), (2.7, 4.5)),
            "formic later": ((treat(date(2025, 8, 10), FORMIC),), (2.4, 4.1)),
            "thymol": ((treat(date(2025, 7, 20), THYMOL),), (2.8, 4.6)),
            "oxalic once": ((treat(date(2025, 7, 15), OXALIC),), (6.2, 10.4)),
        }
        alone = project(fitted(TWO), 70)
        runs = {name: project(fitted(TWO), 70, events) for name, (events, _) in expected.items()}
        found = {name: outcome(run, alone, days, 2.0, alone.first) for name, run in runs.items()}
        for name, (_, medians) in expected.items():
            for result, median in zip(found[name].at, medians, strict=True):
                self.assertAlmostEqual(result.median / median, 1.0, delta=0.08, msg=name)
            self.assertLess(found[name].p_below or 0.0, 0.25)
        self.assertEqual(found["nothing"].killed, 0.0)
        self.assertGreater(found["formic now"].killed, found["oxalic once"].killed)

    def test_how_late_a_treatment_makes_sense(self) -> None:
        """From 1 in 300 on 10 June with the winter level 3: formic to about 9 August, amitraz to about 12 July; from the
        two washes no single treatment is enough, and the best chance is given instead of a date."""
        june = fit([seen(date(2025, 6, 10), 1)], NORTH, (), np.random.default_rng(1), 1500)

        def window(ensemble: Fitted, agent: tuple[float, float, int], level: float) -> Any:
            return start_window(
                ensemble, (), treat(START, agent), NORTH, not_before=ensemble.on, winter_level=level, urgent_level=5.0
            )

        formic, amitraz = window(june, FORMIC, 3.0), window(june, AMITRAZ, 3.0)
        self.assertLessEqual(abs((formic.latest - date(2025, 8, 9)).days), 4)
        self.assertLessEqual(abs((amitraz.latest - date(2025, 7, 12)).days), 3)
        self.assertGreater(amitraz.p_latest, 0.85)
        hopeless = window(fitted(TWO), FORMIC, 2.0)
        self.assertIsNone(hopeless.latest)
        self.assertLess(hopeless.p_latest, 0.3)
        self.assertIsNone(
            start_window(june, (), treat(START, FORMIC), WARM, not_before=june.on, winter_level=3, urgent_level=5)
        )

        def last(ensemble: Fitted, level: float, *agents: tuple[float, float, int]) -> Any:
            kinds = [treat(START, agent) for agent in agents]
            return last_start(ensemble, (), kinds, NORTH, not_before=ensemble.on, winter_level=level, urgent_level=5.0)

        found = last(june, 3.0, AMITRAZ, FORMIC)
        self.assertEqual(found.which, 1)
        self.assertLessEqual(abs((found.on - formic.latest).days), 3)
        self.assertLessEqual(abs((last(june, 3.0, AMITRAZ).on - amitraz.latest).days), 3)
        none = last(fitted(TWO), 2.0, THYMOL, FORMIC)
        self.assertEqual((none.enough, none.which, none.on), (False, 1, date(2025, 8, 11)))


class Calculator(unittest.TestCase):
    BODY: dict[str, Any] = {
        "counts": [{"date": "2025-06-20", "mites": 4, "bees": 300}],
        "calendar": {"dormant": "11-01", "build_up": "03-01", "peak": "05-15", "decline": "07-25"},
        "events": [],
        "horizon_days": 30,
        "threshold_per_100": 2.0,
        "random_state": 7,
    }

    def test_the_answer(self) -> None:
        """The same state, the same answer; a day more than the horizon; bands one inside the other; null for never."""
        answer = calculator("forecast")(self.BODY)
        self.assertEqual(answer, calculator("forecast")(self.BODY))
        self.assertEqual(
            [day["date"] for day in answer["days"]], [date(2025, 6, 20) + timedelta(days=n) for n in range(31)]
        )
        for day in answer["days"]:
            ends = [day[end] for end in ("low95", "low80", "low50", "median", "high50", "high80", "high95")]
            self.assertEqual(ends, sorted(ends))
        never = calculator("forecast")({**self.BODY, "threshold_per_100": 900.0})["crossing"]
        self.assertEqual(never, {"date10": None, "date50": None, "date90": None, "share": 0.0})

    def test_methods_widen(self) -> None:
        """The same mites in a rolled sample stand for more than in a wash, and for less exactly known a load."""

        def first(method: str, bees_from: str = "volume") -> Any:
            count = {**self.BODY["counts"][0], "method": method, "bees_from": bees_from}
            return calculator("forecast")({**self.BODY, "counts": [count]})["days"][0]

        wash, sugar, co2 = first("wash"), first("sugar"), first("co2")
        self.assertLess(wash["median"], sugar["median"])
        self.assertLess(sugar["median"], co2["median"])

    def test_bad_fields_are_named(self) -> None:
        """The first bad field in the order of the contract, by its path."""
        for part, field in (
            ({"counts": []}, "counts"),
            ({"counts": [{"date": "2025-06-20", "mites": 4.5, "bees": 300}]}, "counts[0].mites"),
            ({"counts": [{"date": "2025-06-31", "mites": 4, "bees": 300}]}, "counts[0].date"),
            ({"counts": [{"date": "2025-06-20", "mites": 4, "bees": 300, "method": "board"}]}, "counts[0].method"),
            ({"calendar": {"peak": "02-30"}}, "calendar.peak"),
            ({"events": [{"type": "frost"}]}, "events[0].type"),
            ({"events": [{"type": "treat", "start": "2025-07-01", "days": 3, "kp": 1.5, "kc": 0}]}, "events[0].kp"),
            ({"horizon_days": 121}, "horizon_days"),
            ({"threshold_per_100": 0}, "threshold_per_100"),
            ({"random_state": 1.5}, "random_state"),
            ({"horizon": 30}, "horizon"),
            ({"counts": [{"date": f"20{y}-06-20", "mites": 4, "bees": 300} for y in (25, 29)]}, "counts"),
        ):
            with self.subTest(field=field), self.assertRaises(InvalidInput) as caught:
                calculator("forecast")({**self.BODY, **part})
            self.assertEqual(caught.exception.field, field)


if __name__ == "__main__":
    unittest.main()
