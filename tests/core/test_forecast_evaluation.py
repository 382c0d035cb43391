"""Looking back on forecasts: chances against scipy's, calibration of what is right and of what is not, what is compared."""

from __future__ import annotations

import unittest
from datetime import date, timedelta

import numpy as np
from scipy import stats

from redframe.core.forecast.ensemble import fit
from redframe.core.forecast.evaluation import Later, Predicted, known_before, next_count, predict, sum_up
from redframe.core.forecast.events import Treat
from redframe.core.forecast.projection import project
from redframe.core.forecast.seen import CountSeen, FallSeen
from redframe.core.forecast.side_by_side import Record
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.conversion import FACTORS
from redframe.core.season.calendar import Calendar

NORTH = Calendar.parse(
    {"dormant": "11-01", "build_up": "03-01", "peak": "05-15", "decline": "07-25", "winter_bees": "08-25"}
)
JUNE = date(2025, 6, 1)


def wash(days: int, mites: int) -> CountSeen:
    return CountSeen(JUNE + timedelta(days=days), mites, BeesInSample(300.0, 0.12))


def answer(mean: float, mites: int) -> Predicted:
    """A count of which a negative binomial of size 6 around a mean was predicted."""
    predicted = stats.nbinom(6, 6 / (6 + mean))
    below, upto = float(predicted.cdf(mites - 1)), float(predicted.cdf(mites))
    return Predicted(21, below, upto, mites >= 6, float(predicted.sf(5)), 0.5, float(mites < 6))


class SummedUp(unittest.TestCase):
    def test_what_is_right_is_told_as_right(self) -> None:
        """Counts that follow what was predicted lie in its bands as often as these promise, however few mites they are."""
        draw = np.random.default_rng(3)
        counts = [answer(mean, int(draw.poisson(mean * draw.gamma(6, 1 / 6)))) for mean in draw.gamma(1.0, 4.0, 4000)]
        found = sum_up(counts)
        assert found is not None
        for share, promised in ((found.held50, 0.5), (found.held80, 0.8), (found.held95, 0.95), (found.above, 0.5)):
            self.assertAlmostEqual(share, promised, delta=0.02)
        self.assertEqual((found.bands, found.counts, found.days), ("right", 4000, 21.0))
        self.assertAlmostEqual(found.brier_stays, 0.25, places=12)
        self.assertAlmostEqual(found.brier_one_rate, 1.0, places=12)
        self.assertLess(found.brier, found.happened * (1 - found.happened))

    def test_what_is_wrong_is_told_as_wrong(self) -> None:
        """Where half of what comes was predicted, counts lie over the middle and bands hold too few; where counts never
        stray, bands hold too many. Fewer than fifty are not summed up."""
        draw = np.random.default_rng(4)
        low = [answer(5.0, int(draw.poisson(10.0 * draw.gamma(6, 1 / 6)))) for _ in range(300)]
        found, wide = sum_up(low), sum_up([answer(10.0, 9)] * 60)
        assert found is not None and wide is not None
        self.assertGreater(found.above, 0.8)
        self.assertEqual((found.bands, wide.bands), ("too_narrow", "too_wide"))
        self.assertIsNone(sum_up(low[:49]))


class Foretelling(unittest.TestCase):
    def test_one_count_against_an_ensemble_of_its_own(self) -> None:
        """Colonies side by side predict what 4000 members of the colony alone do, by scipy's negative binomial."""
        before, later = (wash(0, 4), wash(21, 8)), wash(42, 12)
        alone = project(fit(before, NORTH, (), np.random.default_rng(2)), 21).rates[-1]
        draw = np.random.default_rng(5)
        s = np.sqrt(np.log(1 + 0.12**2))
        means = alone / 100 * 300 * np.exp(draw.normal(-(s**2) / 2, s, len(alone))) * draw.beta(47.5, 2.5, len(alone))
        expected = stats.nbinom(6, 6 / (6 + means))
        others = [Later(later, Record(before, (), 2.0))] * 40
        found = predict(others, NORTH, np.random.default_rng(1))
        self.assertAlmostEqual(float(np.mean([one.below for one in found])), expected.cdf(11).mean(), delta=0.03)
        self.assertAlmostEqual(float(np.mean([one.p_over for one in found])), expected.sf(5).mean(), delta=0.03)
        self.assertEqual({(one.days, one.over) for one in found}, {(21, True)})

    def test_a_treatment_in_between_is_known(self) -> None:
        """After a fortnight of formic acid few mites are predicted, and a count of many stands high."""
        before, later = (wash(0, 12),), wash(28, 12)
        known = (Treat(JUNE + timedelta(days=3), 14, 0.15, 0.065),)
        left, treated = predict(
            [Later(later, Record(before, events, 2.0)) for events in ((), known)], NORTH, np.random.default_rng(1)
        )
        self.assertGreater(treated.below, 0.75)
        self.assertLess(left.below, 0.6)
        self.assertLess(treated.p_over, left.p_over)
        self.assertEqual(predict([], NORTH, np.random.default_rng(1)), [])

    def test_what_is_compared(self) -> None:
        """A count a week to sixty days after the last; one too near, too far, or with boards alone before it is not."""
        counts = [wash(0, 2), wash(20, 5), wash(24, 6), wash(90, 9)]
        self.assertEqual(known_before(counts, counts[1]), (counts[0],))
        self.assertEqual([known_before(counts, counts[number]) for number in (0, 2, 3)], [(), (), ()])
        board = FallSeen(JUNE - timedelta(days=2), 24, 3.0, 0.0, FACTORS["peak"])
        self.assertEqual(known_before([board, counts[1]], counts[1]), ())
        self.assertEqual(known_before([board, *counts], counts[1]), (board, counts[0]))

    def test_the_next_count(self) -> None:
        """What a wash of 300 bees would find at 3 mites per 100 exactly: R's qnbinom(c(.1, .5, .9), 6, mu = 8.55) is
        3, 8, 15; the bees and the share found add little."""
        found = next_count(JUNE, BeesInSample(300.0, 0.12), np.full(40_000, 3.0), np.random.default_rng(6))
        self.assertEqual((found.low80, found.middle, found.high80, found.bees), (3, 8, 15, 300.0))
