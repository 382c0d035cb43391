"""Repeated shakes and growth between counts."""

from __future__ import annotations

import math
import unittest
from datetime import UTC, date, datetime, timedelta

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from redframe.core.errors import InvalidInput
from redframe.core.sampling.jar import JarSample, read_jar_sample
from redframe.core.sampling.method import TreatmentSpan, check_taken_at
from redframe.core.sampling.shakes import removal, shake_again
from redframe.core.sampling.trend import TrendPoint, growth, trend_line, trend_words

# shakes: total, estimate, remaining, release, depleting, share left, again (varroa reference, section 2.6)
SHAKES = [
    ([41, 9, 3], 53, 53, 0, 0.779, True, 0.011, False),
    ([7, 8, 6], 21, 33, 12, 0.273, True, 0.318, True),
    ([5, 0, 1], 6, 6, 0, 0.750, True, 0.016, False),
    ([12, 5, 2, 1], 20, 20, 0, 0.625, True, 0.015, False),
    ([3, 1], 4, 4, 0, 0.800, True, 0.053, True),
    ([2, 0], 2, 2, 0, 1.000, True, 0.040, False),
    ([38, 26, 12], 76, 91, 15, 0.444, True, None, True),
]
NOW = datetime(2031, 8, 2, 13, tzinfo=UTC)


class Removal(unittest.TestCase):
    def test_matches_the_table(self) -> None:
        """Estimate, release, depletion and advice agree with the reference; the last row is a published fishery."""
        for shakes, total, estimate, remaining, release, depleting, left, again in SHAKES:
            with self.subTest(shakes=shakes):
                found = removal(shakes)
                self.assertEqual((found.total_counted, found.estimate, found.remaining), (total, estimate, remaining))
                self.assertAlmostEqual(found.release_per_shake or 0, release, places=3)
                self.assertEqual(found.depleting, depleting)
                self.assertEqual(found.shake_again, again)
                if left is not None:
                    self.assertAlmostEqual(found.share_left or 0, left, places=3)

    @settings(max_examples=200, deadline=None)
    @given(st.lists(st.integers(0, 200), min_size=2, max_size=8))
    def test_never_fewer_than_were_counted(self, shakes: list[int]) -> None:
        """Whatever the order of catches, an estimate exists and is no less than what was counted."""
        found = removal(shakes)
        self.assertGreaterEqual(found.estimate, sum(shakes))
        self.assertEqual(found.remaining, found.estimate - found.total_counted)
        if sum(shakes):
            self.assertTrue(0 < (found.share_left or 0) < 1)

    def test_refuses_what_is_not_a_series(self) -> None:
        """One shake, nine shakes and a negative one are named."""
        for shakes, field in (([3], "shakes"), ([1] * 9, "shakes"), ([1, -2], "shakes[1]")):
            with self.subTest(shakes=shakes), self.assertRaises(InvalidInput) as refused:
                removal(shakes)
            self.assertEqual(refused.exception.field, field)

    def test_advice_starts_and_ends(self) -> None:
        """After one shake always another; after two without a mite none."""
        self.assertTrue(shake_again([0]))
        self.assertFalse(shake_again([0, 0]))


class Growth(unittest.TestCase):
    def test_matches_the_table(self) -> None:
        """Growth, interval, doubling and chances agree with the reference table."""
        for m1, n1, m2, n2, days, rate, low, high, doubling, rose in (
            (3, 300, 9, 290, 35, 0.0295, -0.0024, 0.0724, 23.5, 0.965),
            (0, 300, 2, 305, 21, 0.0759, -0.0338, 0.4009, 9.1, 0.923),
            (8, 300, 5, 310, 21, -0.0223, -0.0789, 0.0279, None, 0.187),
        ):
            with self.subTest(m1=m1, m2=m2):
                found = growth(m1, n1, date(2031, 6, 1), m2, n2, date.fromordinal(date(2031, 6, 1).toordinal() + days))
                self.assertAlmostEqual(found.rate_per_day, rate, places=4)
                self.assertAlmostEqual(found.low_per_day, low, places=4)
                self.assertAlmostEqual(found.high_per_day, high, places=4)
                self.assertAlmostEqual(found.p_rose, rose, places=3)
                if doubling is None:
                    self.assertIsNone(found.doubling_days)
                else:
                    self.assertAlmostEqual(found.doubling_days or 0, doubling, places=1)

    @given(st.integers(0, 80), st.integers(0, 80))
    def test_turned_round_it_is_its_own_mirror(self, first: int, second: int) -> None:
        """Exchanging the counts turns the sign of growth and the chance of having risen."""
        there = growth(first, 300, date(2031, 6, 1), second, 300, date(2031, 6, 22))
        back = growth(second, 300, date(2031, 6, 1), first, 300, date(2031, 6, 22))
        self.assertAlmostEqual(there.rate_per_day, -back.rate_per_day, places=12)
        self.assertAlmostEqual(there.p_rose, 1 - back.p_rose, places=9)
        self.assertAlmostEqual(there.low_per_day, -back.high_per_day, places=9)

    def test_cautious_words(self) -> None:
        """With uncounted bees and patchy frames the chance of 0.965 becomes 0.887: probably rose."""
        found = growth(3, 300, date(2031, 6, 1), 9, 290, date(2031, 7, 6))
        self.assertAlmostEqual(found.p_rose_cautious, 0.887, places=3)
        self.assertEqual(found.words, "probably_rose")
        self.assertEqual([trend_words(p) for p in (0.96, 0.5, 0.1, 0.01)],
                         ["really_rose", "no_clear_change", "probably_fell", "really_fell"])  # fmt: skip

    def test_a_line_of_two_days_is_the_growth_between_them(self) -> None:
        """With two counts on each of two days the line runs through their weighted means, as least squares has it."""
        first, last = date(2031, 6, 1), date(2031, 6, 22)
        points = [TrendPoint(first, 3, 300), TrendPoint(first, 3, 300), TrendPoint(last, 9, 290, 0.1)]
        found = trend_line(points)
        assert found is not None
        self.assertAlmostEqual(found.rate_per_day, math.log((9.5 / 290) / (3.5 / 300)) / 21, places=12)
        ours = np.array([[1, (point.day - first).days] for point in points], dtype=float)
        root = np.sqrt([1 / point.variance for point in points])
        covariance = np.linalg.inv((ours * root[:, None]).T @ (ours * root[:, None]))
        self.assertAlmostEqual(
            (found.high_per_day - found.low_per_day) / 2, 1.959964 * covariance[1, 1] ** 0.5, places=6
        )
        self.assertIsNone(trend_line(points[:2]))
        self.assertIsNone(trend_line([points[0]] * 3))

    def test_a_line_finds_the_growth_it_was_drawn_with(self) -> None:
        """Five hundred lines through six patchy counts growing 0.02 a day: the 95 % interval holds it 92 to 98 %."""
        draw, held = np.random.default_rng(8), 0
        for _ in range(500):
            points = []
            for number in range(6):
                rate = 0.02 * math.exp(0.02 * 14 * number) * draw.gamma(6, 1 / 6)
                points.append(
                    TrendPoint(date(2031, 5, 1) + timedelta(days=14 * number), int(draw.poisson(300 * rate)), 300)
                )
            line = trend_line(points)
            assert line is not None
            held += line.low_per_day <= 0.02 <= line.high_per_day
        self.assertGreater(held, 460)
        self.assertLess(held, 495)

    def test_the_second_count_must_be_later(self) -> None:
        """Two counts of one day are no growth."""
        with self.assertRaises(InvalidInput) as refused:
            growth(3, 300, date(2031, 6, 1), 9, 290, date(2031, 6, 1))
        self.assertEqual(refused.exception.field, "date_2")


def wash(**changes: object) -> JarSample:
    """A sound wash, with changes."""
    fields: dict[str, object] = {
        "taken_at": datetime(2031, 8, 2, 11, tzinfo=UTC),
        "shakes": (5, 1, 0),
        "known_by": "volume_level",
        "volume_ml": 120.0,
        "queen_safe": "yes",
        "brood_state": "open_and_capped",
    }
    return JarSample(**{**fields, **changes})  # type: ignore[arg-type]


class WashFindings(unittest.TestCase):
    def codes(self, **changes: object) -> set[str]:
        """Codes of the findings of a wash."""
        return {finding.code for finding in read_jar_sample(wash(**changes)).findings}

    def test_a_sound_wash_has_none(self) -> None:
        """A careful wash of 300 bees from a brood frame is not nagged about."""
        self.assertEqual(self.codes(), set())

    def test_each_mistake_is_named(self) -> None:
        """Few bees, a honey frame, one shake, shakes that rise, the queen, no brood, no bees, a slip of the pen."""
        for code, changes in {
            "LOW_N": {"volume_ml": 60.0},
            "LOW_N_BLOCK": {"volume_ml": 30.0},
            "PLACE": {"place_of_bees": "super"},
            "ONE_SHAKE": {"shakes": (5,)},
            "RISING": {"shakes": (2, 3, 9)},
            "QUEEN": {"queen_safe": "no"},
            "NO_BROOD": {"brood_state": "none"},
            "NO_N": {"known_by": "not_recorded", "volume_ml": None},
            "TYPO_RATE": {"shakes": (300, 40, 10)},
        }.items():
            with self.subTest(code=code):
                self.assertIn(code, self.codes(**changes))

    def test_a_recent_treatment_is_noted_until_the_fourteenth_day(self) -> None:
        """Day 13 after the end is noted, day 14 is not."""
        for end, noted in ((date(2031, 7, 20), True), (date(2031, 7, 19), False), (None, True)):
            spans = [TreatmentSpan(date(2031, 7, 1), end)]
            found = read_jar_sample(wash(), treatments=spans)
            self.assertEqual("RECENT_TREAT" in {one.code for one in found.findings}, noted)

    def test_impossible_washes_are_refused(self) -> None:
        """Over 100 mites a bee, negative, or no shake at all."""
        for field, changes in (
            ("shakes", {"shakes": (30_000, 30_000)}),
            ("shakes[0]", {"shakes": (-1,)}),
            ("shakes", {"shakes": ()}),
        ):
            with self.subTest(field=field, changes=changes), self.assertRaises(InvalidInput) as refused:
                read_jar_sample(wash(**changes))
            self.assertEqual(refused.exception.field, field)

    def test_a_wash_comes_neither_from_the_future_nor_from_long_ago(self) -> None:
        """Ten minutes are a device's clock; eleven are not. What is on record is read without asking a clock."""
        for taken_at, refused in (
            (NOW + timedelta(minutes=10), False), (NOW + timedelta(minutes=11), True), (NOW - timedelta(days=9000), False),
            (datetime(1931, 8, 5, tzinfo=UTC), True),
        ):  # fmt: skip
            with self.subTest(taken_at=taken_at):
                if refused:
                    with self.assertRaisesRegex(InvalidInput, "^taken_at:"):
                        check_taken_at(taken_at, NOW)
                else:
                    check_taken_at(taken_at, NOW)
        self.assertIsNotNone(read_jar_sample(wash(taken_at=NOW + timedelta(days=900))).reading)

    def test_without_bees_there_is_no_rate(self) -> None:
        """The mites are kept and nothing is computed from them."""
        found = read_jar_sample(wash(known_by="not_recorded", volume_ml=None))
        self.assertIsNone(found.reading)
