"""One plan for several colonies."""

from __future__ import annotations

import random
import unittest
from collections import Counter
from datetime import timedelta

from redframe.core.treatments.eligibility import Choice, choose
from redframe.core.treatments.mix import propose
from redframe.core.treatments.situation import Situation
from tests.core.test_eligibility_many import CATALOGUE, TODAY, situation


def colony(**facts: object) -> Choice:
    """A strong colony with brood on a warm day of early August, everything known and nothing in the way; and `facts`."""
    known = {
        "strength": {"value": 10.0, "unit": "frames"}, "brood_boxes": 1, "capped_worker_brood": "yes",
        "brood_seen_on": str(TODAY), "queen": "mated", "queen_since": str(TODAY - timedelta(days=90)),
        "laying_since": str(TODAY - timedelta(days=90)), "supers_on": False, "fed": False,
        "infestation_pct": 4.0, "counted_on": str(TODAY), "last_treatments": [],
    }  # fmt: skip
    weather = {"start": str(TODAY), "tmax": [24.0] * 10, "tmin": [12.0] * 10, "rain_mm": [0.0] * 10}
    now = {
        "today": str(TODAY), "season_phase": "post_harvest", "colony": {**known, **facts}, "forecast": weather,
        "policy": {"winter_bee_date": "2031-08-25", "cold_date": "2031-09-20", "threshold_pct": 2.0, "respirator_ok": True},
    }  # fmt: skip
    return choose(CATALOGUE, Situation.model_validate(now))


class OnePlan(unittest.TestCase):
    def test_colonies_alike_get_the_same(self) -> None:
        """And it is what ranks first for each of them."""
        strong = [colony() for _ in range(4)]
        self.assertEqual([one.option_id for one in propose(strong)], [strong[0].ranking[0]] * 4)

    def test_only_who_may_not_have_it_leaves_the_common_option(self) -> None:
        """A colony on four frames is too weak for the strips of the others: it has what suits it."""
        found = propose([colony(), colony(), colony(strength={"value": 4.0, "unit": "frames"}), colony()])
        self.assertEqual([one.why for one in found], ["common", "common", "instead", "common"])
        self.assertNotEqual(found[2].option_id, found[0].option_id)

    def test_a_colony_that_may_have_nothing_now_waits_for_the_first_day(self) -> None:
        """A hold until a date bars all; from that date on something may be begun."""
        until = TODAY + timedelta(days=12)
        held = colony(holds=[{"kind": "notifiable", "until": str(until)}])
        found = propose([colony(), held])[1]
        days = [one.from_day for one in held.options.values() if one.from_day is not None and not one.supporting]
        self.assertEqual((found.why, found.from_day), ("waits", min(days)))
        self.assertEqual((found.from_day, found.option_id), (until, propose([colony()])[0].option_id))

    def test_too_weak_for_any_dose_gets_nothing(self) -> None:
        """Half a frame of bees."""
        weak = colony(strength={"value": 0.5, "unit": "frames"})
        self.assertEqual(propose([weak])[0].option_id, None)

    def test_nobody_is_given_what_is_held_back(self) -> None:
        """Of colonies of every kind: what is proposed may be begun, the common one is first in most, and nobody who may
        have it is given another."""
        chance = random.Random(11)
        for _ in range(40):
            choices = [choose(CATALOGUE, situation(chance)) for _ in range(8)]
            found = propose(choices)
            common = {one.option_id for one in found if one.why == "common"}
            self.assertLessEqual(len(common), 1)
            firsts = Counter(
                next(option for option in choice.ranking if choice.options[option].dose is not None)
                for choice in choices
                if any(choice.options[option].dose is not None for option in choice.ranking)
            )
            for option in common:
                self.assertEqual(firsts[option or ""], max(firsts.values()))
            for choice, one in zip(choices, found, strict=True):
                if one.why in ("common", "instead"):
                    self.assertTrue(choice.options[one.option_id or ""].verdict.startswith("allowed"))
                if one.why == "instead":
                    self.assertFalse(common & set(choice.ranking))
