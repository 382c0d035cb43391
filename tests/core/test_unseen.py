"""Disease that nobody saw: what an examination takes of its chance, and how time gives it back."""

from __future__ import annotations

import random
import unittest
from dataclasses import replace
from datetime import date, timedelta

from redframe.core.disease.evidence import Context
from redframe.core.disease.unseen import ColonyLooked, Looked, Unseen, unseen_at
from redframe.core.visits.examination import Examination

TODAY = date(2031, 8, 2)
REGION = Context("summer")
FULL = Examination.model_validate(
    {"brood_combs": 6, "combs_read": 6, "bees_off": "shaken", "scale_read": True, "smelled": True, "cells_opened": 10,
     "not_seen": ["foulbrood"]}
)  # fmt: skip


def looked(days_ago: int, examined: Examination = FULL) -> Looked:
    """An examination so long ago."""
    return Looked(TODAY - timedelta(days=days_ago), "summer", dict(examined.absences()), examined.all_shaken)


def of(condition: str, *colonies: ColonyLooked, region: Context = REGION) -> Unseen:
    """A disease at an apiary of these colonies."""
    return next(one for one in unseen_at(colonies, region, TODAY) if one.id == condition)


class OneColony(unittest.TestCase):
    def test_nobody_looked(self) -> None:
        """It is as likely as in the region: foulbrood over the seasons with brood, four times that where common."""
        self.assertAlmostEqual(of("afb", ColonyLooked("C1")).chance, (0.004 + 0.006 + 0.006 + 0.007 + 0.005) / 5)
        common = of("afb", ColonyLooked("C1"), region=replace(REGION, afb_level="common"))
        self.assertAlmostEqual(common.chance, 4 * 0.0056)

    def test_a_full_examination_leaves_a_twentieth_of_the_odds(self) -> None:
        """The floor of foulbrood: 0.05 where all was shaken clear, 0.15 otherwise; a look at mummies takes nothing."""
        share = of("afb", ColonyLooked("C1")).share
        for examined, floor in ((FULL, 0.05), (FULL.model_copy(update={"combs_read": 5}), 0.15)):
            odds = floor * share / (1 - share)
            found = of("afb", ColonyLooked("C1", [looked(0, examined)]))
            self.assertAlmostEqual(found.chance, odds / (1 + odds))
            self.assertEqual((found.examined, found.last_on), (1, TODAY))
        other = FULL.model_copy(update={"not_seen": ["odd_cappings"], "bees_off": "on"})
        found = of("afb", ColonyLooked("C1", [looked(0, other)]))
        self.assertAlmostEqual(found.chance, share)
        self.assertEqual(found.examined, 0)

    def test_time_gives_it_back(self) -> None:
        """Never past the share of the region; a second look counts, one in the future does not."""
        share = of("afb", ColonyLooked("C1")).share
        chances = [of("afb", ColonyLooked("C1", [looked(days)])).chance for days in (0, 30, 180, 365, 4000)]
        self.assertEqual(chances, sorted(chances))
        self.assertAlmostEqual(chances[-1], share)
        twice = of("afb", ColonyLooked("C1", [looked(40), looked(10)])).chance
        self.assertLess(twice, of("afb", ColonyLooked("C1", [looked(10)])).chance)
        self.assertAlmostEqual(of("afb", ColonyLooked("C1", [looked(-1)])).chance, share)


class OfAnApiary(unittest.TestCase):
    def test_colonies_together(self) -> None:
        """The chance that any has it is that of all free, turned round."""
        both = of("afb", ColonyLooked("C1", [looked(5)]), ColonyLooked("C2"))
        alone = [of("afb", one).chance for one in (ColonyLooked("C1", [looked(5)]), ColonyLooked("C2"))]
        self.assertAlmostEqual(both.chance, 1 - (1 - alone[0]) * (1 - alone[1]))
        self.assertEqual([one.label for one in both.colonies], ["C2", "C1"])
        self.assertEqual(of("afb").chance, 0)

    def test_a_suspicion_has_no_chance(self) -> None:
        """Where a sign stands unexplained nothing is unseen."""
        found = of("afb", ColonyLooked("C1", [looked(5)], is_suspicious=True), ColonyLooked("C2"))
        self.assertEqual((found.suspicious, [one.label for one in found.colonies]), (["C1"], ["C2"]))

    def test_what_is_established_is_not_notifiable(self) -> None:
        """The hive beetle leaves the list where it lives."""
        ids = {one.id for one in unseen_at([ColonyLooked("C1")], REGION, TODAY)}
        self.assertEqual(ids, {"afb", "efb", "tropilaelaps", "small_hive_beetle"})
        there = {one.id for one in unseen_at([ColonyLooked("C1")], replace(REGION, shb_established=True), TODAY)}
        self.assertEqual(there, ids - {"small_hive_beetle"})


class Simulated(unittest.TestCase):
    def test_the_posterior_is_the_share_that_is_ill(self) -> None:
        """Many colonies, ill by lot and examined once by a look that misses what it says it misses: among those
        where nothing was seen as many are ill as is said."""
        chance = random.Random(3)
        region = replace(REGION, afb_level="common")
        share = of("afb", ColonyLooked("C1"), region=region).share
        missed = 0.15
        unseen = ill = 0
        for _ in range(200_000):
            is_ill = chance.random() < share
            if is_ill and chance.random() > missed:
                continue
            unseen += 1
            ill += is_ill
        said = of("afb", ColonyLooked("C1", [looked(0, FULL.model_copy(update={"combs_read": 5}))]), region=region)
        self.assertAlmostEqual(said.chance, ill / unseen, delta=0.0005)


if __name__ == "__main__":
    unittest.main()
