"""Rolls, boards, drone brood and looks: what each says, what can go wrong with it, and what it may do to a level."""

from __future__ import annotations

import unittest
from datetime import UTC, date, datetime, timedelta
from typing import Any
from uuid import uuid4

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from redframe.core.errors import InvalidInput
from redframe.core.policy.policy import Policy
from redframe.core.policy.schemes import SCHEMES, SchemeId
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.board import BoardSample
from redframe.core.sampling.conversion import chance_over, fall_as_rate
from redframe.core.sampling.count import AnySample, CountResult, LookSample, read_count
from redframe.core.sampling.drone_brood import DroneSample
from redframe.core.sampling.jar import JarSample
from redframe.core.sampling.method import TreatmentSpan
from redframe.core.sampling.reading import FallReading, Reading, read_fall, read_jar, would_have_found
from redframe.core.sampling.sequential import chance_of_flip, together
from redframe.core.sampling.squares import squares_seen
from redframe.core.season.calendar import Calendar
from redframe.core.status.judgement import judge_reading
from redframe.core.status.samples import Counted, judged_samples, prompted_on
from redframe.core.status.status import statuses

NOON = datetime(2031, 6, 20, 12, tzinfo=UTC)
CALENDAR = Calendar.parse(
    {"dormant": "11-01", "build_up": "03-01", "peak": "05-15", "decline": "07-25", "winter_bees": "08-25"}
)


def jar(*shakes: int, **changes: Any) -> JarSample:
    """A jar of 300 counted bees of a brood frame."""
    return JarSample(NOON, shakes, "counted", 300, **changes)


def board(mites: int, days: float, **changes: Any) -> BoardSample:
    """A clean, greased board without ants that lay so many days."""
    fields = {"cleaned": "yes", "greased": "yes", "ants": "no", "squares": (mites,), **changes}
    return BoardSample(NOON - timedelta(days=days), NOON, **fields)


def codes(sample: AnySample, **more: Any) -> set[str]:
    """Codes of the findings of a count."""
    return {finding.code for finding in read_count(sample, **more).findings}


def policy(scheme: SchemeId) -> Policy:
    """A school with its own levels in the northern calendar."""
    return Policy(CALENDAR, SCHEMES[scheme].levels, scheme)


class Rolls(unittest.TestCase):
    def test_the_share_found_is_that_of_the_method(self) -> None:
        """The reference's points for 6 mites by sugar and 3 by gas, bees by scoop."""
        sugar = read_jar(6, BeesInSample(300, 0.12), "sugar_roll")
        gas = read_jar(3, BeesInSample(300, 0.18), "co2_roll")
        self.assertEqual([round(x, 3) for x in (sugar.low, sugar.median, sugar.high)], [1.068, 2.768, 6.101])
        self.assertEqual([round(x, 3) for x in (gas.low, gas.median, gas.high)], [0.445, 1.806, 5.423])
        self.assertEqual((round(sugar.p_over(2), 3), round(gas.p_over(2), 3)), (0.764, 0.434))

    def test_what_goes_wrong_with_a_roll(self) -> None:
        """Wet bees, a hurried rest; a gas roll is a screening; none of them is asked to shake again."""
        self.assertIn("WET", codes(jar(4, method="sugar", wet="yes")))
        self.assertIn("REST_SHORT", codes(jar(4, method="sugar", rested_s=119)))
        self.assertEqual(codes(jar(4, method="sugar", rested_s=120, wet="no")), set())
        self.assertIn("SCREENING", codes(jar(4, method="co2")))
        self.assertFalse(read_count(jar(4, method="co2")).shake_again)
        self.assertFalse(read_count(jar(0, method="sugar", rested_s=30)).use.can_clear)
        with self.assertRaisesRegex(InvalidInput, "^shakes:"):
            read_count(jar(4, 1, method="sugar"))

    def test_none_found_excludes_so_much_and_no_more(self) -> None:
        """300 bees by a wash exclude 1.05 per 100, eight colonies 0.13 (the reference's figures)."""
        for bees, limit in ((300, 1.05), (2400, 0.13), (3153, 0.1)):
            found = would_have_found(read_jar(0, BeesInSample(bees, 0.0), "wash_shakes"))
            self.assertAlmostEqual(found, limit, places=2)


class Boards(unittest.TestCase):
    def use(self, sample: BoardSample, **more: Any) -> tuple[bool, bool]:
        """Whether a board enters a level, and whether it may lower one."""
        found = read_count(sample, **more).use
        return found.enters, found.can_lower

    def test_how_long_it_lay(self) -> None:
        """Three days are right; longer is warned, over seven not judged; in the dormant phase fourteen are right."""
        self.assertEqual(codes(board(5, 3)), set())
        self.assertIn("BOARD_LOW", codes(board(5, 4)))
        self.assertEqual([self.use(board(5, days))[0] for days in (3, 7, 7.2)], [True, True, False])
        self.assertEqual(codes(board(5, 13), dormant=True), set())
        self.assertEqual([self.use(board(5, days), dormant=True)[0] for days in (14, 14.2)], [True, False])
        for days in (0.4, 61.0):
            with self.assertRaisesRegex(InvalidInput, "^placed_at:"):
                read_count(board(5, days))

    def test_what_goes_wrong_with_a_board(self) -> None:
        """Not known to have been clean: not judged. Ants, or no grease: it raises, never lowers."""
        for answer in ("no", "not_looked"):
            self.assertIn("BOARD_DIRTY", codes(board(5, 3, cleaned=answer)))
            self.assertEqual(self.use(board(5, 3, cleaned=answer)), (False, False))
        for code, changes in (("ANTS", {"ants": "yes"}), ("NO_GREASE", {"greased": "no"})):
            self.assertIn(code, codes(board(5, 3, **changes)))
            self.assertEqual(self.use(board(5, 3, **changes)), (True, False))

    def test_a_treatments_fall_is_never_natural(self) -> None:
        """Placed during a course or within 14 days of its end; a board placed on day 14 is natural again."""
        placed = (NOON - timedelta(days=3)).date()
        for end, natural in ((None, False), (placed - timedelta(days=13), False), (placed - timedelta(days=14), True)):
            spans = [TreatmentSpan(placed - timedelta(days=40), end)]
            self.assertEqual(self.use(board(5, 3), treatments=spans)[0], natural)
        self.assertFalse(self.use(board(5, 3, method="board_after_treatment"))[0])

    def test_a_board_counted_whole_has_the_exact_interval(self) -> None:
        """Garwood's limits from the chi-square table, divided by the days."""
        for mites, days in ((37, 3.0), (0, 3.0), (12, 1.958)):
            found = read_fall(mites, days)
            low = stats.chi2.ppf(0.025, 2 * mites) / 2 / days if mites else 0.0
            self.assertAlmostEqual(found.low, low, delta=1e-9)
            self.assertAlmostEqual(found.high, stats.chi2.ppf(0.975, 2 * mites + 2) / 2 / days, delta=1e-9)
            self.assertAlmostEqual(found.p_over(10), stats.gamma.sf(10, mites + 0.5, scale=1 / days), delta=1e-9)

    def test_some_squares_stand_for_all_and_say_how_far(self) -> None:
        """Squares alike add nothing to chance; squares that differ widen; all of them counted leave nothing open."""
        alike, patchy = squares_seen((4, 5, 4, 5), 16), squares_seen((0, 18, 0, 0), 16)
        self.assertEqual((alike.mites, alike.share_counted, alike.cv), (18, 0.25, 0.0))
        self.assertGreater(patchy.cv, 0.5)
        self.assertEqual(squares_seen((0, 18, 0, 0), 4).cv, 0.0)
        found = read_count(board(0, 2, squares=(4, 5, 4, 5), squares_in_all=16)).reading
        assert isinstance(found, FallReading)
        self.assertAlmostEqual(found.as_counted, 18 / 0.25 / 2)
        wide = read_count(board(0, 2, squares=(0, 18, 0, 0), squares_in_all=16)).reading
        assert isinstance(wide, FallReading)
        self.assertGreater(wide.high / wide.low, 2 * found.high / found.low)
        for field, squares, in_all in (("squares", (), 4), ("squares[1]", (1, -1), 4), ("squares_in_all", (1, 1), 1)):
            with self.subTest(field=field), self.assertRaises(InvalidInput) as refused:
                squares_seen(squares, in_all)
            self.assertEqual(refused.exception.field, field)

    def test_the_squares_interval_holds_on_striped_boards(self) -> None:
        """Boards with mites in stripes, 12 of 60 squares counted at random: in 92 to 98 % the true total lies within."""
        draw = np.random.default_rng(1)
        held, boards = 0, 800
        for _ in range(boards):
            stripes = np.repeat(draw.gamma(1.5, 1 / 1.5, 10), 6)
            truth = draw.poisson(4 * stripes)
            seen = truth[draw.permutation(60)[:12]]
            found = squares_seen([int(one) for one in seen], 60)
            reading = read_fall(found.mites, found.share_counted, found.cv)
            held += reading.low <= truth.sum() <= reading.high
        self.assertTrue(0.92 <= held / boards <= 0.98, held / boards)


class Conversion(unittest.TestCase):
    def test_the_references_worked_falls(self) -> None:
        """24 mites in 3 days at peak, 7 in 7 dormant, 45 in 3 in decline: medians and limits to 2 %."""
        for (mites, days, phase), (median, low, high) in {
            (24, 3.0, "peak"): (0.51, 0.13, 1.99), (7, 7.0, "dormant"): (3.3, 0.74, 14.3), (45, 3.0, "decline"): (4.1, 1.1, 15.7),
        }.items():  # fmt: skip
            found = fall_as_rate(mites, days, phase)  # type: ignore[arg-type]
            for got, want in ((found.median, median), (found.low, low), (found.high, high)):
                self.assertLess(abs(got / want - 1), 0.035, (mites, got, want))
        self.assertAlmostEqual(chance_over(24, 3.0, "peak", 2.0), 0.024, places=3)

    def test_it_agrees_with_draws(self) -> None:
        """Quantiles of 400,000 draws of the fall, K, phi and the adults."""
        draw = np.random.default_rng(7)
        n = 400_000
        rate = (
            100 * 1.1 * draw.gamma(10.5, 1 / 2.0, n) * 100 * np.exp(0.6 * draw.standard_normal(n)) * draw.beta(20, 20, n)
            / (20_000 * np.exp(np.sqrt(np.log(1.0625)) * draw.standard_normal(n)))
        )  # fmt: skip
        found = fall_as_rate(10, 2.0, "decline")
        for got, level in ((found.median, 0.5), (found.low, 0.025), (found.high, 0.975)):
            self.assertLess(abs(got / np.quantile(rate, level) - 1), 0.015)


class DroneBrood(unittest.TestCase):
    def test_percent_of_cells_with_the_exact_interval(self) -> None:
        """12 of 80: 15 %, limits of Clopper and Pearson from an independent implementation."""
        found = read_count(DroneSample(80, 12, 19, 3))
        exact = stats.binomtest(12, 80).proportion_ci(method="exact")
        assert found.reading is not None
        self.assertAlmostEqual(found.reading.as_counted, 15.0)
        self.assertAlmostEqual(found.reading.low, 100 * exact.low, delta=1e-7)
        self.assertAlmostEqual(found.reading.high, 100 * exact.high, delta=1e-7)
        self.assertFalse(found.use.enters)

    def test_few_cells_and_impossible_ones(self) -> None:
        """Fewer than 50, one patch; more infested than opened, more mites than cells can hold."""
        self.assertLessEqual({"FEW_CELLS", "ONE_PATCH"}, codes(DroneSample(20, 2, None, 1)))
        for field, sample in (
            ("cells_opened", DroneSample(0, 0)), ("cells_infested", DroneSample(10, 11)), ("mites_in_cells", DroneSample(10, 4, 3)),
            ("mites_in_cells", DroneSample(10, 0, 1)), ("patches", DroneSample(10, 1, 1, 0)),
        ):  # fmt: skip
            with self.subTest(field=field, sample=sample), self.assertRaises(InvalidInput) as refused:
                read_count(sample)
            self.assertEqual(refused.exception.field, field)


class Standings(unittest.TestCase):
    def counted(self, *samples: tuple[date, AnySample]) -> list[Counted]:
        """Counts of a colony as they stand on record."""
        return [Counted(uuid4(), day, sample, self.read(sample).reading) for day, sample in samples]

    def read(self, sample: AnySample) -> CountResult:
        """A count read by itself."""
        return read_count(sample)

    def level(self, scheme: SchemeId, *samples: tuple[date, AnySample]) -> str | None:
        """The level on the day of the last count that judges."""
        found = statuses([one.sample for one in judged_samples(self.counted(*samples), policy(scheme))], policy(scheme))
        return found[0].level if found else None

    def test_each_school_judges_its_own_scale(self) -> None:
        """A heavy fall leaves a school of rates silent and is urgent under the daily fall; a wash the other way round."""
        fall, rate = (date(2031, 6, 20), board(150, 3)), (date(2031, 6, 20), jar(20, 4))
        self.assertEqual([self.level(scheme, fall) for scheme in ("season_phase", "fall_phase")], [None, "urgent"])
        self.assertEqual([self.level(scheme, rate) for scheme in ("season_phase", "fall_phase")], ["urgent", None])

    def test_a_look_changes_nothing(self) -> None:
        """Neither with mites seen nor without, and it never makes an old count new."""
        looked = (date(2031, 6, 25), LookSample(False))
        self.assertIsNone(self.level("season_phase", looked))
        found = judged_samples(self.counted((date(2031, 6, 1), jar(0, 0)), looked), policy("season_phase"))
        self.assertEqual([one.sample.taken_on for one in found], [date(2031, 6, 1)])

    def test_where_any_mite_is_too_many(self) -> None:
        """One mite by any method is urgent, also in drone cells and after a treatment; none found is never clear."""
        day = date(2031, 6, 20)
        for found in (jar(1, 0), board(1, 3, method="board_after_treatment"), DroneSample(60, 1)):
            self.assertEqual(self.level("any_mite", (day, found)), "urgent")
        self.assertEqual(self.level("any_mite", (day, jar(0, 0))), "watch")
        answer = judge_reading(self.reading(jar(1, 0)), day, policy("any_mite"), use=read_count(jar(1, 0)).use)
        assert answer is not None
        self.assertEqual((answer.advice, answer.come_back_on), ("notify", None))

    def reading(self, sample: JarSample) -> Reading:
        """The reading of a jar."""
        found = read_count(sample).reading
        assert isinstance(found, Reading)
        return found

    def test_a_programme_that_observes_never_hears_treat(self) -> None:
        """Noted, flagged, endangers its neighbours: but never treat, however many mites."""
        advice = []
        for mites in (0, 12, 40):
            answer = judge_reading(
                self.reading(jar(mites, 0)), NOON.date(), policy("observe"), use=read_count(jar(mites, 0)).use
            )
            assert answer is not None
            advice.append(answer.advice)
        self.assertEqual(advice, ["come_back", "flag_lead", "endangers_neighbours"])

    def test_two_jars_within_three_days_are_one(self) -> None:
        """5 and 7 in 300 are 12 in 600, which is act at 2; four days apart, or of two methods, each stands alone."""
        first, second = (date(2031, 6, 10), jar(5, 0)), (date(2031, 6, 12), jar(7, 0))
        found = judged_samples(self.counted(first, second), policy("flat_2"))
        self.assertEqual([(one.reading.mites, one.second) for one in found], [(12, True)])
        apart = judged_samples(self.counted(first, (date(2031, 6, 14), jar(7, 0))), policy("flat_2"))
        self.assertEqual([one.second for one in apart], [False, False])
        mixed = judged_samples(self.counted(first, (date(2031, 6, 12), jar(7, method="sugar"))), policy("flat_2"))
        self.assertEqual([one.second for one in mixed], [False, False])
        third = judged_samples(self.counted(first, second, (date(2031, 6, 12), jar(1, 0))), policy("flat_2"))
        self.assertEqual([one.second for one in third], [True, False], "there is no third of a pair")

    def test_a_second_sample_decides(self) -> None:
        """After a pair there is no asking for a third: half decides."""
        pair = together(self.reading(jar(5, 0)), self.reading(jar(7, 0)))
        answer = judge_reading(pair, NOON.date(), policy("flat_2"), use=read_count(jar(5, 0)).use, second=True)
        assert answer is not None
        self.assertEqual(answer.advice, "treat")
        self.assertIsNone(answer.flips)

    def test_a_fall_may_ask_for_a_jar(self) -> None:
        """A fall that likely stands for more than the act level asks for a wash, until one is taken."""
        fall, wash = (date(2031, 8, 30), board(200, 3)), (date(2031, 8, 31), jar(1, 0))
        scheme = policy("season_phase")
        self.assertEqual(prompted_on(self.counted(fall), scheme), date(2031, 8, 30))
        self.assertIsNone(prompted_on(self.counted(fall, wash), scheme))
        self.assertIsNone(prompted_on(self.counted((date(2031, 6, 20), board(3, 3))), scheme))


class SecondSamples(unittest.TestCase):
    def test_the_chance_that_it_turns_the_verdict(self) -> None:
        """The reference's row for 2 to 10 mites in 300 against 2 per 100."""
        found = [chance_of_flip(read_jar(mites, BeesInSample(300, 0.0), "all"), 2.0) for mites in range(2, 11)]
        want = [0.011, 0.050, 0.151, 0.330, 0.442, 0.231, 0.091, 0.025, 0.004]
        for got, expected in zip(found, want, strict=True):
            self.assertAlmostEqual(got, expected, delta=0.0006)

    @given(st.integers(0, 60), st.integers(0, 60))
    def test_taken_together_they_are_the_sum(self, first: int, second: int) -> None:
        """Mites and bees add, and the pair reads as one jar of both."""
        a, b = (read_jar(mites, BeesInSample(300, 0.0), "wash_shakes") for mites in (first, second))
        pair = together(a, b)
        self.assertEqual((pair.mites, pair.bees_mean), (first + second, 600))
        middle = first + second + 1 / 6
        self.assertLess(
            abs(pair.median * 6 * 0.95 - middle), 0.08 + 0.01 * middle, "the median of a gamma is near m + 1/6"
        )

    def test_methods_do_not_mix(self) -> None:
        """Sugar and wash find different shares."""
        with self.assertRaises(InvalidInput):
            together(
                read_jar(3, BeesInSample(300, 0.1), "sugar_roll"), read_jar(3, BeesInSample(300, 0.1), "wash_shakes")
            )
