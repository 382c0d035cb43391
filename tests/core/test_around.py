"""How an apiary around a case stands by the visits to it."""

from __future__ import annotations

import unittest
from datetime import date
from itertools import product

from redframe.core.cases.around import AroundLook, AroundOutcome, state_of

DAY = date(2031, 8, 2)
OUTCOMES: tuple[AroundOutcome, ...] = ("clear", "suspect", "refused", "no_colonies", "not_found")


class State(unittest.TestCase):
    def test_every_row_of_three_visits(self) -> None:
        """Nobody looked: to be seen. Who was met last says how it stands; who was not met counts for nothing until two
        such visits and a letter."""
        self.assertEqual(state_of([]), "to_see")
        for outcomes in product(OUTCOMES, repeat=3):
            for letter in (False, True):
                looks = [AroundLook(DAY, one, letter and one == "not_found") for one in outcomes]
                met = [one for one in outcomes if one != "not_found"]
                tries = outcomes.count("not_found")
                with self.subTest(outcomes=outcomes, letter=letter):
                    if outcomes[-1] != "not_found":
                        self.assertEqual(state_of(looks), outcomes[-1])
                    elif tries >= 2 and letter:
                        self.assertEqual(state_of(looks), "not_found")
                    else:
                        self.assertEqual(state_of(looks), met[-1] if met else "to_see")


if __name__ == "__main__":
    unittest.main()
