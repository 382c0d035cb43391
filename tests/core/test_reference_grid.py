"""Intervals and chances against another implementation, R's, over a grid of cases, to 1e-6.

`reference/grid.R` says how each figure was made and how to make them again; `reference/grid.csv` keeps them.
"""

from __future__ import annotations

import csv
import unittest
from collections.abc import Iterator, Sequence
from datetime import UTC, date, datetime, timedelta
from pathlib import Path

from redframe.core.campaigns.results import share_over
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.board import board_fall
from redframe.core.sampling.plan import chance_to_detect
from redframe.core.sampling.rates import p_over, rate_interval
from redframe.core.sampling.reading import RECOVERY_PRIOR, read_jar
from redframe.core.sampling.sequential import chance_of_flip
from redframe.core.sampling.trend import growth

GRID = Path(__file__).parent / "reference" / "grid.csv"
DAY = date(2031, 6, 1)
NOON = datetime(2031, 6, 1, 12, tzinfo=UTC)


def cases(what: str) -> Iterator[list[float]]:
    """The figures of one computation, a case at a time."""
    with GRID.open(encoding="ascii", newline="") as lines:
        for name, *figures in csv.reader(lines):
            if name == what:
                yield [float(figure) for figure in figures]


class AgainstR(unittest.TestCase):
    def close(self, what: str, inputs: Sequence[float], found: Sequence[float], expected: Sequence[float]) -> None:
        """To a millionth, of the figure where it is over one."""
        for at, (ours, theirs) in enumerate(zip(found, expected, strict=True)):
            self.assertLessEqual(abs(ours - theirs), 1e-6 * max(1.0, abs(theirs)), f"{what} {inputs} [{at}]")

    def test_rate_interval(self) -> None:
        """Clopper and Pearson's limits: R's binom.test."""
        for mites, bees, confidence, *expected in cases("rate_interval"):
            found = rate_interval(int(mites), int(bees), confidence)
            self.close("rate_interval", (mites, bees), (found.low_per_100, found.high_per_100), expected)

    def test_p_over(self) -> None:
        """The chance of being over: R's pgamma."""
        for mites, bees, threshold, *expected in cases("p_over"):
            self.close("p_over", (mites, bees, threshold), [p_over(int(mites), int(bees), threshold)], expected)

    def test_board_fall(self) -> None:
        """Garwood's limits over days: R's poisson.test."""
        for mites, hours, *expected in cases("board_fall"):
            found = board_fall(int(mites), NOON, NOON + timedelta(hours=hours))
            self.close("board_fall", (mites, hours), (found.low_per_day, found.high_per_day), expected)

    def test_growth(self) -> None:
        """Rate, limits and chance of having risen: R's qbeta and pbeta."""
        for m1, n1, m2, n2, days, *expected in cases("growth"):
            found = growth(int(m1), n1, DAY, int(m2), n2, DAY + timedelta(days=days))
            ours = (found.rate_per_day, found.low_per_day, found.high_per_day, found.p_rose)
            self.close("growth", (m1, n1, m2, n2, days), ours, expected)

    def test_detection(self) -> None:
        """The chance to find one that is over: R's dhyper."""
        for colonies, over, sampled, sensitivity, *expected in cases("detect"):
            found = chance_to_detect(int(colonies), int(over), int(sampled), sensitivity)
            self.close("detect", (colonies, over, sampled, sensitivity), [found], expected)

    def test_readings(self) -> None:
        """Quantiles and chance with bees and share found uncertain: R's pgamma, qlnorm, qbeta and uniroot."""
        kinds = {prior or (0.0, 0.0): name for name, prior in RECOVERY_PRIOR.items()}
        for mites, bees, cv, a, b, *expected in cases("reading"):
            found = read_jar(int(mites), BeesInSample(bees, cv), kinds[a, b])
            ours = (found.low, found.median, found.upper80, found.high, found.p_over(2.0))
            self.close("reading", (mites, bees, cv, a, b), ours, expected)

    def test_second_sample(self) -> None:
        """The chance that a second sample turns the verdict: R's dnbinom and pgamma."""
        for mites, bees, threshold, *expected in cases("flip"):
            found = chance_of_flip(read_jar(int(mites), BeesInSample(bees, 0.0), "all"), threshold)
            self.close("flip", (mites, threshold), [found], expected)

    def test_share(self) -> None:
        """Wilson's limits: R's prop.test."""
        for over, counted, *expected in cases("share"):
            found = share_over(int(over), int(counted), 1.0)
            assert found is not None
            self.close("share", (over, counted), (found.low, found.high), expected)
