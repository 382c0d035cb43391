"""Distributions in closed form against those of scipy.stats."""

from __future__ import annotations

import unittest

import numpy as np
from scipy import stats

from redframe.core.distributions import (
    hypergeometric,
    log_negative_binomial,
    negative_binomial_over,
    student_over,
    student_quantile,
)


class AsInStatistics(unittest.TestCase):
    def test_negative_binomial(self) -> None:
        """Log of the mass and what lies over, from rare to many; no failure at all is certain where success is."""
        for size in (0.05, 0.5, 3.0, 80.5):
            for share in (1e-4, 0.2, 0.5, 0.999):
                counts = np.array([0.0, 1, 2, 7, 40, 900])
                np.testing.assert_allclose(
                    log_negative_binomial(counts, size, share), stats.nbinom.logpmf(counts, size, share), rtol=1e-9
                )
                for count in (0, 3, 50):
                    self.assertAlmostEqual(
                        negative_binomial_over(count, size, share), stats.nbinom.sf(count, size, share), 11
                    )
        self.assertEqual(float(log_negative_binomial(0, 2.0, 1.0)), 0.0)

    def test_hypergeometric(self) -> None:
        """Also where so many cannot be found, and where all are taken."""
        for colonies, marked, sampled in ((1, 1, 1), (8, 3, 4), (8, 7, 6), (40, 2, 40), (400, 30, 12), (5, 0, 3)):
            found = np.arange(min(marked, sampled) + 1)
            expected = stats.hypergeom.pmf(found, colonies, marked, sampled)
            np.testing.assert_allclose(
                hypergeometric(found, colonies, marked, sampled), expected, rtol=1e-9, atol=1e-14
            )

    def test_student(self) -> None:
        """Quantiles and tails from one degree of freedom on."""
        for freedom in (1, 2, 7, 300):
            self.assertAlmostEqual(student_quantile(0.975, freedom), stats.t.ppf(0.975, freedom), 9)
            for value in (-2.0, 0.0, 3.5):
                self.assertAlmostEqual(student_over(value, freedom), stats.t.sf(value, freedom), 12)
