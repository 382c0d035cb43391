"""The apiary as a whole: its mean, the spread between colonies, how many to count and which, and how it stands."""

from __future__ import annotations

import math
import unittest
from collections import Counter
from datetime import date
from uuid import UUID, uuid4

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from redframe.core.errors import InvalidInput
from redframe.core.policy.schemes import Levels
from redframe.core.sampling.apiary_estimate import ColonyCount, apiary_estimate
from redframe.core.sampling.plan import Aim, Candidate, choose, over_to_find, precision_sample, rate_cv
from redframe.core.status.apiary import apiary_status
from redframe.core.status.status import Level

EIGHT = [ColonyCount(*one) for one in ((2, 310), (0, 298), (9, 305), (4, 280), (1, 322), (17, 300), (3, 290), (5, 315))]
LEVELS = Levels(1, 2, 4)


class Estimate(unittest.TestCase):
    def test_the_references_apiary(self) -> None:
        """Thirty colonies, eight counted: mean 1.703; fitted mu 1.701 and kappa 1.197; shrunk rates; 9.2 over 2 expected."""
        found = apiary_estimate(EIGHT, 30)
        assert found is not None
        self.assertAlmostEqual(found.mean, 1.703, places=3)
        self.assertAlmostEqual(found.mu, 1.701, delta=0.001)
        self.assertAlmostEqual(found.kappa, 1.197, delta=0.001)
        self.assertAlmostEqual(found.variance_ratio or 0, 5.99, places=2)
        self.assertEqual(
            [round(found.mean_of([one])[0], 2) for one in range(8)], [0.84, 0.32, 2.72, 1.48, 0.56, 4.91, 1.16, 1.61]
        )
        self.assertAlmostEqual(found.p_uncounted_over(2.0), 0.313, places=3)
        self.assertAlmostEqual(found.expected_over(2.0), 9.2, delta=0.05)

    def test_its_interval_is_the_references_with_the_chance_of_counting_kept(self) -> None:
        """0.558 between colonies (the reference's), and the Poisson part that counting every colony would leave."""
        found = apiary_estimate(EIGHT, 30)
        assert found is not None and found.se is not None
        counting = np.mean([1e4 * one.mites / one.exposure**2 for one in EIGHT])
        self.assertAlmostEqual(math.sqrt(found.se**2 - counting / 30), 0.558, places=3)
        t = stats.t.ppf(0.975, 7) * found.se / found.mean
        self.assertAlmostEqual(found.high or 0, found.mean * math.exp(t), places=9)
        self.assertAlmostEqual(found.p_mean_over(2.0) or 0, 0.32, delta=0.01)

    def test_the_interval_holds_in_simulated_apiaries(self) -> None:
        """Colonies of a gamma, jars of 300: the apiary's true mean lies within in 90 to 99 %, counted in part or whole."""
        draw = np.random.default_rng(3)
        for colonies, counted in ((30, 8), (12, 12)):
            held = 0
            for _ in range(200):
                theta = draw.gamma(1.5, 2.0 / 1.5, colonies)
                mites = draw.poisson(3 * theta[:counted])
                found = apiary_estimate([ColonyCount(int(m), 300.0) for m in mites], colonies)
                assert found is not None
                held += found.low is not None and found.high is not None and found.low <= theta.mean() <= found.high
            with self.subTest(counted=counted):
                self.assertTrue(0.90 <= held / 200 <= 0.99, held / 200)

    def test_the_mean_of_some_colonies(self) -> None:
        """Two of the eight: the shrunk rates' mean, and the interval that drawing both gammas gives; one is its gamma."""
        found = apiary_estimate(EIGHT, 30)
        assert found is not None
        draw = np.random.default_rng(9)
        gammas = [
            draw.gamma(found.kappa + one.mites, 1 / (100 * found.kappa / found.mu + one.exposure), 400_000)
            for one in (EIGHT[2], EIGHT[3])
        ]
        mean, low, high = found.mean_of([2, 3])
        self.assertAlmostEqual(mean, (found.mean_of([2])[0] + found.mean_of([3])[0]) / 2, places=12)
        expected = np.quantile(50 * (gammas[0] + gammas[1]), (0.025, 0.975))
        self.assertAlmostEqual(low / expected[0], 1.0, delta=0.01)
        self.assertAlmostEqual(high / expected[1], 1.0, delta=0.01)
        self.assertAlmostEqual(found.mean_of([2])[2], 100 * float(np.quantile(gammas[0], 0.975)), delta=0.02)

    def test_one_colony_and_none_with_a_mite(self) -> None:
        """One colony has no interval; three without a mite in 900 bees exclude 0.28 per 100."""
        one = apiary_estimate(EIGHT[:1], 5)
        assert one is not None
        self.assertEqual((one.low, one.high, one.p_mean_over(1.0)), (None, None, None))
        none = apiary_estimate([ColonyCount(0, 300.0)] * 3, 5)
        assert none is not None
        self.assertEqual((none.mean, none.low), (0.0, 0.0))
        self.assertAlmostEqual(none.high or 0, 100 * stats.gamma.ppf(0.975, 0.5) / 900, places=9)
        self.assertEqual(none.mean_of([0, 1, 2]), (0.0, 0.0, none.high))
        self.assertIsNone(apiary_estimate([], 5))


class Plan(unittest.TestCase):
    def test_the_references_numbers(self) -> None:
        """14, 19, 8 and 30 colonies; a CV of 0.94."""
        wanted = [precision_sample(*one) for one in ((40, 0.4), (40, 0.3), (12, 0.4), (200, 0.3))]
        self.assertEqual(wanted, [14, 19, 8, 30])
        self.assertAlmostEqual(rate_cv(1.4, 2.0, 300), 0.94, places=2)
        self.assertEqual([over_to_find(n) for n in (1, 10, 11, 24, 40)], [1, 1, 2, 3, 4])
        with self.assertRaisesRegex(InvalidInput, "^half_width:"):
            precision_sample(10, 0.0)

    @given(st.integers(1, 60), st.integers(1, 60), st.integers(0, 10), st.sampled_from(["mean", "find"]))
    def test_which_are_chosen(self, colonies: int, sample: int, seed: int, aim: Aim) -> None:
        """Each once; those over and the strongest always; at least as many as asked for, as far as there are; for the
        mean just so many by lot, for finding none."""
        draw = np.random.default_rng(seed)
        candidates = [
            Candidate(uuid4(), float(draw.random()) if n % 3 else None, n == 2, n == 3, float(n), date(2031, 6, 1))
            for n in range(colonies)
        ]
        wanted = min(sample, colonies)
        chosen = choose(candidates, wanted, aim, draw)
        ids = [one.colony_id for one in chosen]
        self.assertEqual(len(ids), len(set(ids)))
        self.assertGreaterEqual(len(ids), wanted)
        self.assertIn(candidates[-1].colony_id, ids)
        self.assertEqual(sum(not one.targeted for one in chosen), wanted if aim == "mean" else 0)
        if colonies > 2:
            self.assertIn(candidates[2].colony_id, ids)

    def test_the_lot_favours_nobody(self) -> None:
        """Over many plans for the mean each of ten colonies is drawn as often, the one that is over too."""
        candidates = [Candidate(uuid4(), 0.9, n == 0, False, float(n), None) for n in range(10)]
        draw, drawn = np.random.default_rng(2), Counter[UUID]()
        for _ in range(2000):
            drawn.update(one.colony_id for one in choose(candidates, 4, "mean", draw) if not one.targeted)
        for one in candidates:
            self.assertAlmostEqual(drawn[one.colony_id] / 2000, 0.4, delta=0.04)

    def test_what_is_hardest_to_guess_tells_most(self) -> None:
        """To find one that is over: the unknown first, then those nearest to one half."""
        sure = [Candidate(uuid4(), 0.01, False, False, None, None) for _ in range(20)]
        close = Candidate(uuid4(), 0.45, False, False, None, None)
        unknown = Candidate(uuid4(), None, False, False, None, None)
        why = {one.colony_id: one.why for one in choose([*sure, close, unknown], 3, "find", np.random.default_rng(5))}
        self.assertEqual((len(why), why[close.colony_id], why[unknown.colony_id]), (3, "close_call", "never_counted"))


class Status(unittest.TestCase):
    def stand(self, scope: str, levels: list[Level], treats: bool = True) -> tuple[str, str, int, int]:
        """Level, reason, colonies to treat and to watch too of an apiary of colonies at these levels."""
        now: dict[UUID, Level] = {uuid4(): level for level in levels}
        found = apiary_status(scope, now, LEVELS, None, treats=treats)  # type: ignore[arg-type]
        return found.level, found.reason, len(found.treat), len(found.watch_too)

    def test_whole_apiary(self) -> None:
        """Urgent by one colony; act by a quarter; watch by one; clear only when enough were counted; else unknown."""
        self.assertEqual(
            self.stand("whole_apiary", ["urgent", "unknown", "clear"]), ("urgent", "a_colony_urgent", 3, 0)
        )
        self.assertEqual(
            self.stand("whole_apiary", ["act", "clear", "clear", "clear", "unknown"])[:2], ("act", "a_quarter_over")
        )
        self.assertEqual(self.stand("whole_apiary", ["act", *["clear"] * 4])[:2], ("watch", "a_colony_over"))
        self.assertEqual(self.stand("whole_apiary", ["clear"] * 24)[:2], ("clear", "enough_counted_none_over"))
        self.assertEqual(
            self.stand("whole_apiary", [*["clear"] * 17, *["unknown"] * 7])[:2], ("unknown", "too_few_counted")
        )
        self.assertEqual(self.stand("whole_apiary", [*["clear"] * 18, *["unknown"] * 6])[:2], ("clear", "enough_counted_none_over"))  # fmt: skip
        self.assertEqual(self.stand("whole_apiary", ["unknown"] * 3)[:2], ("unknown", "none_counted"))

    def test_single_colonies(self) -> None:
        """Only those over are treated; the clear ones beside them become watch; the uncounted are not known."""
        self.assertEqual(self.stand("single_colony", ["act", "clear", "clear", "watch"]), ("act", "worst_colony", 1, 2))
        self.assertEqual(self.stand("single_colony", ["clear", "unknown"])[0], "unknown")

    def test_a_mean_over_the_level_speaks_for_all(self) -> None:
        """No colony over, but the mean more likely over than not: act; the observing programme lists none to treat."""
        now: dict[UUID, Level] = {uuid4(): "watch" for _ in range(8)}
        mean = apiary_estimate([ColonyCount(8, 300.0), ColonyCount(9, 300.0), *[ColonyCount(7, 300.0)] * 6], 8)
        found = apiary_status("whole_apiary", now, LEVELS, mean)
        self.assertEqual((found.level, found.reason, len(found.treat)), ("act", "mean_over_act", 8))
        self.assertEqual(apiary_status("whole_apiary", now, LEVELS, mean, treats=False).treat, [])
