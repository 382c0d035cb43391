"""Judges of options that are kept say what new ones would, whoever asks at once, and make room."""

from __future__ import annotations

import unittest
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from typing import Any
from unittest.mock import patch
from uuid import UUID

from redframe.core.policy.treatment_rules import TreatmentRules
from redframe.demo.scenario import DEMO_TODAY, made_id
from redframe.work.treatments import judges as kept
from redframe.work.treatments import options
from redframe.work.treatments.judges import MOST_JUDGES, Judges
from tests.support import at_work, demo_template, living, new_database

PLACE = made_id("corrane", "apiary", "Kettle Wood")


class KeptJudges(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())
        cls.colonies = [UUID(one) for one, _ in living(cls.url, "Kettle Wood")]

    def asked(self, colony: UUID) -> Any:
        """What is said of a colony and of the days ahead, without what is only carried along."""
        choice, days = at_work(self.url, lambda unit: options.options_by_day(unit, PLACE, [colony]))
        return [[one.choice for one in choice.colonies], choice.together, choice.mix, days]

    def test_a_kept_judge_says_what_a_new_one_does(self) -> None:
        """Each colony asked by the same judges in two orders, and by new ones: word for word the same."""
        new = {}
        for colony in self.colonies:
            with patch.object(options, "judges", Judges()):
                new[colony] = self.asked(colony)
        with patch.object(options, "judges", Judges()):
            for colony in [*self.colonies, *reversed(self.colonies)]:
                self.assertEqual(self.asked(colony), new[colony])

    def test_two_at_once_have_each_their_own(self) -> None:
        """A judge that is busy is not lent; both answers are kept apart, and one of them stays."""
        found, rules = Judges(), TreatmentRules()
        with found.of(PLACE, DEMO_TODAY, rules) as first, found.of(PLACE, DEMO_TODAY, rules) as second:
            self.assertIsNot(first, second)
        with found.of(PLACE, DEMO_TODAY, rules) as again:
            self.assertIn(again, (first, second))
        with ThreadPoolExecutor(4) as pool:
            self.assertEqual(len({str(one) for one in pool.map(self.asked, [self.colonies[0]] * 8)}), 1)

    def test_another_day_or_rule_is_another_judge(self) -> None:
        """And old ones make room; one that remembers much begins anew."""
        found = Judges()
        with found.of(PLACE, DEMO_TODAY, TreatmentRules()) as first:
            pass
        with found.of(PLACE, DEMO_TODAY + timedelta(days=1), TreatmentRules()) as tomorrow:
            self.assertIsNot(tomorrow, first)
        with found.of(PLACE, DEMO_TODAY, TreatmentRules(authorised=[])) as strict:
            self.assertIsNot(strict, first)
        for days in range(MOST_JUDGES):
            with found.of(PLACE, DEMO_TODAY + timedelta(days=10 + days), TreatmentRules()):
                pass
        with found.of(PLACE, DEMO_TODAY, TreatmentRules()) as later:
            self.assertIsNot(later, first)
        with patch.object(kept, "MOST_ASKED", 0), found.of(PLACE, DEMO_TODAY, TreatmentRules()) as full:
            pass
        with found.of(PLACE, DEMO_TODAY, TreatmentRules()) as anew:
            self.assertIsNot(anew, full)


if __name__ == "__main__":
    unittest.main()
