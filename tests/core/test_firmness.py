"""How firm is what is likeliest: a thread with a scale stays, what hangs on one weak sign does not, the shaking is as said."""

from __future__ import annotations

import unittest

import numpy as np

from redframe.core.disease.brood_assessment import assess_brood
from redframe.core.disease.evidence import Context
from redframe.core.disease.findings import SignSeen, read_findings
from redframe.core.disease.firmness import SPEAKS_FROM, STEP, firmness, shaken
from redframe.core.disease.matrix import brood_matrix

SUMMER = Context("summer")


def seen(**signs: object) -> dict[str, object]:
    """Findings of signs that were seen."""
    return read_findings([SignSeen(sign, True, value) for sign, value in signs.items()])  # type: ignore[return-value, arg-type]


class Firm(unittest.TestCase):
    def test_many_mummies_are_firm_and_a_lone_spotty_pattern_is_not(self) -> None:
        mummies = firmness(seen(mummy_white="many", mummies_entrance=40), SUMMER)  # type: ignore[arg-type]
        self.assertEqual((mummies.leader, mummies.runs), ("chalkbrood", 50))
        self.assertGreaterEqual(mummies.kept, 48)
        weak = firmness(seen(cap_perforated="few"), SUMMER)  # type: ignore[arg-type]
        self.assertLess(weak.kept, mummies.kept)
        self.assertEqual(weak.kept + sum(times for _, times in weak.instead), 50)

    def test_a_thread_and_a_scale_stay_whatever_is_moved(self) -> None:
        found = firmness(seen(ropy_thread=25.0, scale_stuck="few"), SUMMER)  # type: ignore[arg-type]
        self.assertEqual((found.leader, found.kept, found.instead), ("afb", 50, ()))

    def test_it_starts_from_the_likeliest_of_the_page_and_stays(self) -> None:
        for signs in ({"larva_sac": "some"}, {"mummy_white": "few"}, {"larva_twisted": "some", "larva_melted": "some"}):
            findings = seen(**signs)
            shown = [
                one for one in assess_brood(findings, SUMMER).ranking if one.id != "healthy" and not one.nothing_seen
            ]  # type: ignore[arg-type]
            first = max(shown, key=lambda one: one.probability).id
            self.assertEqual(firmness(findings, SUMMER).leader, first)  # type: ignore[arg-type]
            self.assertEqual(firmness(findings, SUMMER), firmness(findings, SUMMER))  # type: ignore[arg-type]

    def test_the_shaking_is_as_said(self) -> None:
        """Cells that say nothing stay; the others move by the step in log odds, neither up nor down on the average."""
        matrix, dice = brood_matrix(), np.random.default_rng(1)
        before = np.clip(matrix.chances, 1e-6, 1 - 1e-6)
        speaks = np.abs(np.log(before / matrix.baselines[:, None])) >= SPEAKS_FROM
        moves = []
        for _ in range(20):
            after = shaken(matrix, dice).chances
            np.testing.assert_allclose(after[~speaks], before[~speaks], rtol=1e-9)
            moves.append((np.log(after / (1 - after)) - np.log(before / (1 - before)))[speaks])
        every = np.concatenate(moves)
        self.assertAlmostEqual(float(np.std(every)), STEP, delta=0.01)
        self.assertAlmostEqual(float(np.mean(every)), 0, delta=0.01)


if __name__ == "__main__":
    unittest.main()
