"""Rates, intervals and chances, against exact identities, published tables and simulation."""

from __future__ import annotations

import math
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import stats

from redframe.core.errors import InvalidInput
from redframe.core.sampling.bees import DEFAULT_SCOOP, BeesInSample, bees_in_sample, calibrated_scoop
from redframe.core.sampling.rates import p_over, rate_interval
from redframe.core.sampling.reading import read_jar, recovery_of

# mites, bees: rate, Clopper-Pearson low and high (varroa reference, section 2.2)
CLOPPER_PEARSON = {
    (6, 300): (2.00, 0.737, 4.302),
    (0, 300): (0.00, 0.0, 1.222),
    (3, 312): (0.96, 0.199, 2.784),
    (11, 287): (3.83, 1.929, 6.754),
    (0, 40): (0.00, 0.0, 8.810),
}
# mites in 300 bees: P(rate >= 1, 2, 3, 4 per 100) (section 2.4)
P_OVER_300 = {
    0: (0.014, 0.001, 0.000, 0.000),
    2: (0.306, 0.035, 0.003, 0.000),
    3: (0.540, 0.101, 0.012, 0.001),
    5: (0.873, 0.364, 0.082, 0.013),
    6: (0.946, 0.528, 0.158, 0.031),
    9: (0.998, 0.886, 0.522, 0.196),
    12: (1.000, 0.987, 0.842, 0.519),
}
# mites, cv of the bees, recovery: P(>= 2), low, median, high; mean 300 bees (section 2.5)
UNCERTAIN = {
    (6, 0.0, "all"): (0.528, 0.835, 2.057, 4.123),
    (6, 0.0, "wash_shakes"): (0.577, 0.877, 2.165, 4.355),
    (6, 0.12, "wash_shakes"): (0.579, 0.860, 2.176, 4.561),
    (6, 0.12, "wash_one_shake"): (0.674, 0.951, 2.437, 5.237),
    (3, 0.12, "wash_shakes"): (0.132, 0.293, 1.119, 2.925),
}


class RateInterval(unittest.TestCase):
    def test_matches_the_table(self) -> None:
        """Rates and exact intervals agree with the reference table to its last digit."""
        for (mites, bees), (rate, low, high) in CLOPPER_PEARSON.items():
            with self.subTest(mites=mites, bees=bees):
                found = rate_interval(mites, bees)
                self.assertAlmostEqual(found.rate_per_100, rate, delta=0.005)
                self.assertAlmostEqual(found.low_per_100, low, delta=0.0006)
                self.assertAlmostEqual(found.high_per_100, high, delta=0.0006)

    @settings(max_examples=60, deadline=None)
    @given(st.integers(1, 400), st.data())
    def test_the_limits_leave_the_tail_that_they_promise(self, bees: int, data: st.DataObject) -> None:
        """At the upper limit so few mites have probability 2.5 %, at the lower so many: the interval's definition."""
        mites = data.draw(st.integers(0, bees))
        found = rate_interval(mites, bees)
        if mites < bees:
            self.assertAlmostEqual(float(stats.binom.cdf(mites, bees, found.high_per_100 / 100)), 0.025, places=6)
        if mites > 0:
            self.assertAlmostEqual(float(stats.binom.sf(mites - 1, bees, found.low_per_100 / 100)), 0.025, places=6)
        self.assertLessEqual(found.low_per_100, found.rate_per_100)
        self.assertGreaterEqual(found.high_per_100, found.rate_per_100)

    def test_more_mites_than_bees_is_refused_as_a_share(self) -> None:
        """30 mites on 20 bees have no share, but the chance of being over is known."""
        with self.assertRaises(InvalidInput) as refused:
            rate_interval(30, 20)
        self.assertEqual(refused.exception.field, "mites")
        self.assertAlmostEqual(p_over(26, 20, 100), 0.906, places=3)


class POver(unittest.TestCase):
    def test_matches_the_table(self) -> None:
        """The chance of being over agrees with the reference table."""
        for mites, row in P_OVER_300.items():
            for threshold, expected in zip((1, 2, 3, 4), row, strict=True):
                with self.subTest(mites=mites, threshold=threshold):
                    self.assertAlmostEqual(p_over(mites, 300, threshold), expected, delta=0.0006)

    def test_fewest_mites_for_even_chances(self) -> None:
        """3, 6, 9 and 12 mites in 300 are the fewest that make 1, 2, 3 and 4 per 100 as likely as not."""
        for threshold, fewest in ((1, 3), (2, 6), (3, 9), (4, 12)):
            self.assertGreaterEqual(p_over(fewest, 300, threshold), 0.5)
            self.assertLess(p_over(fewest - 1, 300, threshold), 0.5)

    def test_agrees_with_simulation(self) -> None:
        """Among rates drawn evenly in square root that gave 6 mites in 300, about 0.528 are over 2 per 100."""
        draw = np.random.default_rng(1)
        theta = draw.uniform(0, math.sqrt(0.2), 1_500_000) ** 2
        gave_six = theta[draw.poisson(300 * theta) == 6]
        self.assertAlmostEqual(float(np.mean(gave_six >= 0.02)), p_over(6, 300, 2), delta=0.01)


class Reading(unittest.TestCase):
    def test_matches_the_table(self) -> None:
        """With bees and recovery uncertain, chances and quantiles agree with the reference table."""
        for (mites, cv, recovery), (p, low, median, high) in UNCERTAIN.items():
            with self.subTest(mites=mites, cv=cv, recovery=recovery):
                found = read_jar(mites, BeesInSample(300, cv), recovery)  # type: ignore[arg-type]
                self.assertAlmostEqual(found.p_over(2), p, delta=0.0006)
                for value, expected in ((found.low, low), (found.median, median), (found.high, high)):
                    self.assertAlmostEqual(value, expected, delta=0.0011)

    @settings(max_examples=40, deadline=None)
    @given(st.integers(0, 300), st.floats(20, 900), st.sampled_from([0.0, 0.05, 0.12, 0.18]))
    def test_quantiles_and_chances_are_one_distribution(self, mites: int, bees: float, cv: float) -> None:
        """The chance of being over the median is a half, over the 80 % point a fifth: what the cut points rest on."""
        found = read_jar(mites, BeesInSample(bees, cv), "wash_shakes")
        self.assertAlmostEqual(found.p_over(found.median), 0.5, places=6)
        self.assertAlmostEqual(found.p_over(found.upper80), 0.2, places=6)
        self.assertAlmostEqual(found.p_over(found.low), 0.975, places=6)
        self.assertLess(found.low, found.median)
        self.assertLess(found.upper80, found.high)

    def test_agrees_with_simulation_of_bees_and_recovery(self) -> None:
        """Drawing bees, recovery and rate at random gives the same quantiles as the grid."""
        draw = np.random.default_rng(7)
        s2 = math.log(1 + 0.12**2)
        bees = np.exp(draw.normal(math.log(300) - s2 / 2, math.sqrt(s2), 400_000))
        theta = draw.gamma(11.5, 1 / (bees * draw.beta(47.5, 2.5, 400_000)))
        found = read_jar(11, BeesInSample(300, 0.12), "wash_shakes")
        for level, value in ((2.5, found.low), (50, found.median), (97.5, found.high)):
            self.assertAlmostEqual(float(np.percentile(100 * theta, level)), value, delta=0.02 * value)

    def test_mites_may_exceed_bees(self) -> None:
        """30 mites on 20 counted bees read 103 to 211 per 100."""
        found = read_jar(30, BeesInSample(20, 0.0), "all")
        self.assertAlmostEqual(found.low, 103, delta=1)
        self.assertAlmostEqual(found.high, 211, delta=1)

    def test_recovery_is_never_corrected_twice(self) -> None:
        """One shake counts less; many shakes that left over 15 % count as one; as-counted corrects nothing."""
        self.assertEqual(recovery_of("wash", 1, None), "wash_one_shake")
        self.assertEqual(recovery_of("wash", 3, 0.05), "wash_shakes")
        self.assertEqual(recovery_of("wash", 3, 0.32), "wash_one_shake")
        self.assertEqual(recovery_of("wash", 1, None, "as_counted"), "all")


class Bees(unittest.TestCase):
    def test_scoops_counted_by_hand(self) -> None:
        """Six scoops of the reference: 2.528 bees a ml, 10.5 %; two are too few; a slip is named at its field."""
        scoops = [(120.0, bees) for bees in (288, 331, 276, 342, 305, 298)]
        found = calibrated_scoop(scoops)
        self.assertAlmostEqual(found.bees_per_ml, 2.528, places=3)
        self.assertAlmostEqual(found.cv, 0.105, places=3)
        self.assertEqual(calibrated_scoop(scoops[:2]), DEFAULT_SCOOP)
        level = bees_in_sample("volume_level", volume_ml=100, scoop=found)
        heaped = bees_in_sample("volume_heaped", volume_ml=100, scoop=found)
        assert level and heaped
        self.assertEqual((level.mean, level.cv, heaped.cv), (100 * found.bees_per_ml, found.cv, 0.18))
        with self.assertRaises(InvalidInput) as refused:
            calibrated_scoop([*scoops, (120.0, 29)])
        self.assertEqual(refused.exception.field, "scoops[6].bees")

    def test_measures_of_the_reference(self) -> None:
        """120 ml level, 120 ml heaped and 38 g dry give the medians and limits of the reference."""
        for known_by, measure, mean, low, high in (
            ("volume_level", {"volume_ml": 120.0}, 300, 236, 377),
            ("volume_heaped", {"volume_ml": 120.0}, 300, 208, 419),
            ("mass_dry", {"mass_g": 38.0}, 304, 249, 368),
        ):
            with self.subTest(known_by=known_by):
                found = bees_in_sample(known_by, **measure)  # type: ignore[arg-type]
                assert found is not None
                self.assertEqual(found.mean, mean)
                self.assertAlmostEqual(found.interval()[0], low, delta=0.6)
                self.assertAlmostEqual(found.interval()[1], high, delta=0.6)

    def test_wet_bees_are_refused_and_nothing_is_assumed(self) -> None:
        """Wet bees on a scale are an error that names the mass; a missing measure is never 300."""
        with self.assertRaises(InvalidInput) as refused:
            bees_in_sample("mass_wet", mass_g=40.0)
        self.assertEqual(refused.exception.field, "mass_g")
        self.assertIsNone(bees_in_sample("not_recorded"))
        for known_by, field in (("counted", "bees"), ("volume_level", "volume_ml"), ("mass_dry", "mass_g")):
            with self.assertRaises(InvalidInput) as missing:
                bees_in_sample(known_by)  # type: ignore[arg-type]
            self.assertEqual(missing.exception.field, field)
