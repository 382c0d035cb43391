"""A board and a jar of the same days: when they cannot be of one colony."""

from __future__ import annotations

import unittest
from datetime import date, timedelta

import numpy as np

from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.conversion import CV_ADULTS, FACTORS, LOG_SD_K, chance_under
from redframe.core.sampling.disagreement import CountOfDay, disagreement
from redframe.core.sampling.reading import read_fall, read_jar
from redframe.core.season.calendar import Calendar
from redframe.wording.sentences import sentence

CORRANE = Calendar.parse(
    {"dormant": "11-01", "build_up": "03-01", "peak": "05-15", "decline": "07-25", "winter_bees": "08-25", "lead_days": 42}
)  # fmt: skip
DAY = date(2031, 8, 2)


def jar(mites: int, day: date = DAY) -> CountOfDay:
    """A wash of 300 bees."""
    return CountOfDay(day, read_jar(mites, BeesInSample(300, 0.1), "all"))


def board(mites: int, days: float = 3, day: date = DAY) -> CountOfDay:
    """A clean board read whole."""
    return CountOfDay(day, read_fall(mites, days))


class Disagreements(unittest.TestCase):
    def test_a_heavy_board_beside_a_light_wash_is_said(self) -> None:
        """150 a day and 2.5 per 100 on the same day of decline: said whichever of the two is looked at."""
        for count, other in ((board(450), jar(8)), (jar(8), board(450))):
            found = disagreement(count, [other], CORRANE)
            assert found is not None
            self.assertEqual((found.code, found.level), ("BOARD_HIGHER", "warning"))
            self.assertEqual((found.params["board_on"], found.params["jar_on"]), (DAY, DAY))
            self.assertIn("wrong comb", sentence(found.code, found.params))

    def test_an_empty_board_beside_a_heavy_wash_is_said(self) -> None:
        """No mite in three days and 20 per 100: the board was cleared, or is of another colony."""
        found = disagreement(board(0), [jar(60)], CORRANE)
        assert found is not None
        self.assertEqual(found.code, "JAR_HIGHER")
        self.assertIn("ants or wind", sentence(found.code, found.params))

    def test_what_agrees_within_the_wide_bounds_is_not_said(self) -> None:
        """A fall converts within a factor of three either way: 10 a day goes with 1 and with 6 per 100."""
        for mites in (3, 9, 18):
            with self.subTest(mites=mites):
                self.assertIsNone(disagreement(board(30), [jar(mites)], CORRANE))

    def test_only_counts_of_the_other_kind_within_three_days(self) -> None:
        """Four days apart the colony may have changed; two boards are compared elsewhere."""
        for days, said in ((3, True), (-3, True), (4, False)):
            with self.subTest(days=days):
                found = disagreement(board(450), [jar(8, DAY + timedelta(days=days))], CORRANE)
                self.assertEqual(found is not None, said)
        self.assertIsNone(disagreement(board(450), [board(3)], CORRANE))
        self.assertIsNone(disagreement(jar(1), [jar(60)], CORRANE))

    def test_the_chance_is_that_of_a_simulation(self) -> None:
        """By drawing both: mites from the fall with K, the share on bees and the bees, and the rate from the wash."""
        draw = np.random.default_rng(4)
        size = 400_000
        for mites, days, phase, washed in ((30, 3.0, "decline", 9), (90, 3.0, "peak", 4), (2, 4.0, "dormant", 6)):
            factors = FACTORS[phase]  # type: ignore[index]
            fall = draw.gamma(mites + 0.5, 1.0, size) / days
            k = factors.k * np.exp(draw.normal(0, LOG_SD_K, size))
            adults = factors.adults * np.exp(draw.normal(0, np.sqrt(np.log1p(CV_ADULTS**2)), size))
            rate = 100 * factors.bias * fall * k * draw.beta(*factors.phi, size) / adults
            reading = read_jar(washed, BeesInSample(300, 0.0), "all")
            wash = draw.gamma(washed + 0.5, 1.0, size) / 300 * 100
            with self.subTest(phase=phase):
                self.assertAlmostEqual(
                    chance_under(mites, days, phase, reading.p_over),
                    float(np.mean(rate < wash)),
                    delta=0.006,  # type: ignore[arg-type]
                )
