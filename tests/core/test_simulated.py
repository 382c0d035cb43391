"""The statistics against simulated apiaries: what is promised of an interval is what happens.

Nothing here repeats a formula of the core. True rates are chosen, bees are drawn and counted, and the core is asked
what it makes of the counts; the shares of right answers are then compared with the shares that it claims.
"""

from __future__ import annotations

import unittest
from datetime import date, timedelta

import numpy as np

from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.rates import rate_interval
from redframe.core.sampling.reading import read_jar
from redframe.core.sampling.shakes import removal
from redframe.core.sampling.trend import growth
from redframe.core.treatments.verification import Pool, efficacy

DAY_1, DAY_2 = date(2031, 7, 1), date(2031, 7, 29)


class Coverage(unittest.TestCase):
    def setUp(self) -> None:
        self.random = np.random.default_rng(2031)

    def test_the_exact_interval_never_covers_less_than_it_says(self) -> None:
        """Clopper and Pearson's interval holds the true rate in 95 of 100 or more, at rates from 0.3 to 12 per 100."""
        for true in (0.3, 1.0, 2.0, 5.0, 12.0):
            counts = self.random.binomial(300, true / 100, 1500)
            held = {int(mites): rate_interval(int(mites), 300) for mites in set(counts)}
            inside = np.mean([held[int(m)].low_per_100 <= true <= held[int(m)].high_per_100 for m in counts])
            with self.subTest(true=true):
                self.assertGreaterEqual(inside, 0.945)

    def test_the_reading_covers_loads_of_an_island(self) -> None:
        """Loads spread as on an island, bees scooped with 10 % of scatter, recovery as three shakes have it: the 95 %
        interval holds the true load in 92 to 98 of 100, and the median is over and under it about as often."""
        inside, under = [], []
        for _ in range(400):
            load = self.random.gamma(0.9, 2.6)
            bees = int(self.random.lognormal(np.log(300), 0.10))
            mites = int(self.random.poisson(load / 100 * bees * self.random.beta(47.5, 2.5)))
            reading = read_jar(mites, BeesInSample(300, 0.10), "wash_shakes")
            inside.append(reading.low <= load <= reading.high)
            under.append(reading.median < load)
        self.assertTrue(0.92 <= np.mean(inside) <= 0.985, np.mean(inside))
        self.assertTrue(0.40 <= np.mean(under) <= 0.60, np.mean(under))

    def test_the_chance_of_being_over_is_the_share_that_is_over(self) -> None:
        """Loads even on the square-root scale, which is what the prior says: of those given a chance, that share is over."""
        loads = self.random.uniform(0, 4, 4000) ** 2
        chance_of = {mites: read_jar(mites, BeesInSample(300, 0.0), "all").p_over(2.0) for mites in range(90)}
        chances = np.array([chance_of[min(int(mites), 89)] for mites in self.random.poisson(loads * 3)])
        over = loads >= 2.0
        for low, high in ((0.0, 0.2), (0.2, 0.8), (0.8, 1.0)):
            band = (chances >= low) & (chances < high)
            with self.subTest(band=(low, high)):
                self.assertGreater(band.sum(), 100)
                self.assertAlmostEqual(float(over[band].mean()), float(chances[band].mean()), delta=0.06)

    def test_growth_holds_the_true_rate(self) -> None:
        """Two washes four weeks apart, growing 2.1 % a day: the interval holds it in 93 to 97 of 100."""
        true = 0.021
        held = []
        for _ in range(1500):
            first = self.random.uniform(1.5, 5)
            then = first * np.exp(true * 28)
            before, after = self.random.poisson(first * 3), self.random.poisson(then * 3.1)
            found = growth(int(before), 300, DAY_1, int(after), 310, DAY_2)
            held.append(found.low_per_day <= true <= found.high_per_day)
        self.assertTrue(0.925 <= np.mean(held) <= 0.975, np.mean(held))

    def test_really_rose_is_seldom_said_of_what_did_not(self) -> None:
        """Steady colonies whose bees are patchy from frame to frame: "really rose" or "really fell" in at most 1 of 10."""
        words = []
        for _ in range(1500):
            load = self.random.uniform(1, 6) * 3
            first, second = (int(self.random.poisson(load * self.random.gamma(6, 1 / 6))) for _ in range(2))
            words.append(growth(first, 300, DAY_1, second, 300, DAY_2).words)
        self.assertLess(np.mean([word.startswith("really") for word in words]), 0.10)

    def test_efficacy_holds_the_true_share(self) -> None:
        """Treatments that kill 50, 80 or 95 of 100, one colony before and after: the interval holds the share in 92
        to 98 of 100, and the chance of reaching it is spread evenly."""
        for true in (0.5, 0.8, 0.95):
            held = []
            for number in range(70):
                load = self.random.uniform(4, 10) * 3
                before, after = self.random.poisson(load), self.random.poisson(load * (1 - true))
                found = efficacy(
                    Pool(int(before), BeesInSample(300, 0.0), "all"),
                    Pool(int(after), BeesInSample(300, 0.0), "all"),
                    np.random.default_rng(number),
                )
                held.append(found.low_pct <= 100 * true <= found.high_pct)
            with self.subTest(true=true):
                self.assertGreaterEqual(np.mean(held), 0.90)

    def test_controls_take_out_what_the_season_did(self) -> None:
        """Everything doubled meanwhile: without controls 80 % looks like 60, with six of them it reads 80 again."""
        to_json, corrected = [], []
        for number in range(40):
            load = 24.0
            before, after = self.random.poisson(load), self.random.poisson(load * 0.2 * 2)
            controls = [self.random.poisson(load, 6), self.random.poisson(load * 2, 6)]
            pools = [[Pool(int(m), BeesInSample(300, 0.0), "all") for m in side] for side in controls]
            pre, post = (Pool(int(m), BeesInSample(300, 0.0), "all") for m in (before, after))
            to_json.append(efficacy(pre, post, np.random.default_rng(number)).median_pct)
            found = efficacy(pre, post, np.random.default_rng(number), controls=(pools[0], pools[1]))
            corrected.append(found.median_pct)
        self.assertAlmostEqual(float(np.median(to_json)), 60, delta=6)
        self.assertAlmostEqual(float(np.median(corrected)), 80, delta=4)

    def test_shakes_find_what_was_in_the_jar(self) -> None:
        """72 of 100 mites let go at each shake: from four shakes the total is known within a tenth, on the average."""
        for true in (30, 80):
            totals = []
            for _ in range(400):
                left, shakes = true, []
                for _ in range(4):
                    down = int(self.random.binomial(left, 0.72))
                    shakes.append(down)
                    left -= down
                totals.append(removal(shakes).estimate)
            with self.subTest(true=true):
                self.assertAlmostEqual(float(np.mean(totals)), true, delta=0.1 * true)

    def test_time_scales_growth_and_nothing_else(self) -> None:
        """The same two counts twice as far apart: half the rate, twice the doubling time, the same chance."""
        near = growth(6, 300, DAY_1, 18, 300, DAY_1 + timedelta(days=14))
        far = growth(6, 300, DAY_1, 18, 300, DAY_1 + timedelta(days=28))
        self.assertAlmostEqual(near.rate_per_day, 2 * far.rate_per_day)
        self.assertAlmostEqual((near.doubling_days or 0) * 2, far.doubling_days or 0)
        self.assertEqual(near.p_rose, far.p_rose)
