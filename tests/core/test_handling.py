"""Ways to handle brood disease: how each stands for a colony, what later looks say, how a region compares."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date

import numpy as np
from scipy import stats

from redframe.core.disease.conditions import conditions
from redframe.core.handling.choice import HandlingFacts, WayFit, options_for
from redframe.core.handling.options import HandledCondition, HandlingId, handled_conditions
from redframe.core.handling.outcome import Ended, Look, SignOnComb, cells_on, compare, outcome_of, share_interval

FACTS = HandlingFacts(
    cells=20, share=0.01, frames_of_bees=9, phase="peak", foulbrood_open=False, foulbrood_looked_for=True,
    had_before=False, strong_neighbour=True,
)  # fmt: skip
DAY = date(2031, 7, 14)


def fit(condition: HandledCondition, option: HandlingId, facts: HandlingFacts) -> WayFit:
    """How a way stands."""
    return next(one.fit for one in options_for(condition, facts) if one.option == option)


class Choice(unittest.TestCase):
    def test_the_table_of_the_method(self) -> None:
        """Row by row what docs/methods/handling.md says."""
        table: list[tuple[HandledCondition, HandlingId, dict[str, object], WayFit]] = [
            ("chalkbrood", "clean_above_excluder", {}, "fits"),
            ("chalkbrood", "clean_above_excluder", {"strong_neighbour": False}, "unlikely"),
            ("chalkbrood", "clean_above_excluder", {"foulbrood_looked_for": False}, "barred"),
            ("chalkbrood", "melt_and_requeen", {"share": 0.31}, "fits"),
            ("chalkbrood", "melt_and_requeen", {"had_before": True}, "fits"),
            ("chalkbrood", "melt_and_requeen", {}, "possible"),
            ("chalkbrood", "wait_for_flow", {}, "fits"),
            ("chalkbrood", "wait_for_flow", {"phase": "decline"}, "possible"),
            ("chalkbrood", "wait_for_flow", {"share": 0.1}, "unlikely"),
            ("sacbrood", "watch_and_wait", {"cells": 29}, "fits"),
            ("sacbrood", "watch_and_wait", {"cells": 30}, "possible"),
            ("sacbrood", "watch_and_wait", {"frames_of_bees": 7.9}, "possible"),
            ("sacbrood", "watch_and_wait", {"share": 0.11}, "unlikely"),
            ("sacbrood", "requeen", {"had_before": True}, "fits"),
            ("sacbrood", "requeen", {"frames_of_bees": 4}, "fits"),
            ("sacbrood", "requeen", {}, "possible"),
            ("sacbrood", "break_in_brood", {}, "possible"),
            ("sacbrood", "break_in_brood", {"phase": "pre_winter"}, "unlikely"),
            ("laying_workers", "unite_with_strong", {}, "fits"),
            ("laying_workers", "unite_with_strong", {"frames_of_bees": 3}, "unlikely"),
            ("laying_workers", "unite_with_strong", {"foulbrood_looked_for": False}, "barred"),
            ("laying_workers", "shake_out", {"frames_of_bees": 3}, "possible"),
            ("laying_workers", "brood_then_queen", {"phase": "dormant"}, "unlikely"),
        ]
        for condition, option, change, said in table:
            with self.subTest(option=option, change=change):
                self.assertEqual(fit(condition, option, replace(FACTS, **change)), said)  # type: ignore[arg-type]

    def test_nothing_while_foulbrood_is_open_and_never_against_an_order(self) -> None:
        for condition, handled in handled_conditions().items():
            with self.subTest(condition=condition):
                found = options_for(condition, replace(FACTS, foulbrood_open=True))
                self.assertEqual({one.fit for one in found}, {"barred"})
                self.assertEqual({one.option for one in found}, set(handled.options))
                self.assertIn(condition, conditions())
        for condition in ("afb", "efb"):
            self.assertEqual({one.fit for one in options_for(condition, FACTS)}, {"barred"})

    def test_nothing_known_is_no_reason(self) -> None:
        """What was not counted neither fits nor bars by its number."""
        blank = replace(FACTS, cells=None, share=None, frames_of_bees=None)
        found = {one.option: one.fit for one in options_for("sacbrood", blank)}
        self.assertEqual(set(found.values()), {"possible"})


class Outcomes(unittest.TestCase):
    def test_less_and_more(self) -> None:
        def said(cells: float, looked: int = 8, of: int | None = 8) -> str | None:
            return outcome_of(100, Look(DAY, cells, int(cells > 0), looked, of))

        self.assertEqual([said(one) for one in (69, 70, 140, 141)], ["less", "same", "same", "more"])
        self.assertEqual(said(0), "gone")
        self.assertEqual([said(0, 7), said(0, 8, None), said(0, 0)], [None, None, None])
        # What was not looked at may be as sick as it was: a part says at most that there are more.
        self.assertEqual([said(one, 7) for one in (1, 69, 100, 140, 141)], [None, None, None, None, "more"])
        self.assertEqual(outcome_of(0, Look(DAY, 3, 1, 8, 8)), "more")

    def test_cells_of_a_comb(self) -> None:
        """One cell shows several signs: the most of them counts, of what is followed."""
        seen = [
            SignOnComb("larva_sac", None, 9),
            SignOnComb("larva_slipper", "some", None),
            SignOnComb("mummy_white", "many", None),
        ]
        self.assertEqual(cells_on(seen, ("larva_sac", "larva_slipper")), 33)
        self.assertEqual(cells_on(seen, ("larva_sac",)), 9)
        self.assertEqual(cells_on(seen, ("scale_stuck",)), 0)
        self.assertEqual(cells_on([SignOnComb("mummy_white", None, None)], ("mummy_white",)), 3)

    def test_a_region(self) -> None:
        ended = [Ended("wait_for_flow", "gone", 20), Ended("wait_for_flow", "more", 21), Ended("wait_for_flow", None, None),
                 Ended("wait_for_flow", "gone", 40), Ended("melt_and_requeen", "less", 30)]  # fmt: skip
        first, second = compare(ended)
        self.assertEqual((first.option, first.chosen, first.known, first.days_to_gone), ("wait_for_flow", 4, 3, 30))
        self.assertEqual(dict(first.outcomes), {"gone": 2, "less": 0, "same": 0, "more": 1})
        self.assertAlmostEqual(first.better or 0, 2 / 3)
        self.assertEqual((second.better, second.high), (1.0, 1.0))
        self.assertEqual(compare([Ended("requeen", None, None)])[0].better, None)

    def test_the_interval_is_jeffreys(self) -> None:
        """Against the quantiles of the beta distribution, and its ends where none or all were better."""
        for hits, of in ((1, 2), (3, 7), (9, 10), (40, 100)):
            low, high = share_interval(hits, of)
            shape = (hits + 0.5, of - hits + 0.5)
            self.assertAlmostEqual(low, float(stats.beta.ppf(0.05, *shape)), places=9)
            self.assertAlmostEqual(high, float(stats.beta.ppf(0.95, *shape)), places=9)
        self.assertEqual((share_interval(0, 5)[0], share_interval(5, 5)[1]), (0.0, 1.0))

    def test_the_interval_covers(self) -> None:
        """Drawn a thousand times at several shares and sizes it holds the true share in nine of ten, on the average
        over shares (Jeffreys' intervals do on the average, not at each)."""
        dice = np.random.default_rng(7)
        shares = dice.uniform(0.02, 0.98, 1000)
        for of in (5, 12, 40):
            hits = dice.binomial(of, shares)
            inside = [low <= share <= high for share, (low, high) in
                      zip(shares, (share_interval(int(one), of) for one in hits), strict=True)]  # fmt: skip
            self.assertAlmostEqual(float(np.mean(inside)), 0.9, delta=0.035)


if __name__ == "__main__":
    unittest.main()
