"""Cards of signs: every sign of the comb has one where cells can show it, drawn inside its frame, the same for ever."""

from __future__ import annotations

import math
import unittest
from collections import Counter

from redframe.core.combs.cards import CELLS, HEIGHT_MM, VARIANTS, WIDTH_MM, cards, laid_out, look
from redframe.core.combs.pen import CELL_MM, HEXAGON, Ellipse
from redframe.core.disease.matrix import brood_matrix
from redframe.core.disease.signs import signs
from redframe.launch.cards import CARDS
from redframe.outlets.sign_cards import all_cards

NOT_IN_CELLS = frozenset({"brood_exceeds_bees"})
"""Signs of cappings, larvae and pupae that no few cells can show."""


class Cards(unittest.TestCase):
    def test_what_ships_is_what_is_drawn(self) -> None:
        """`./redframe cards` was run with the last change of a look."""
        shipped = {one.name: one.read_text(encoding="utf-8") for one in CARDS.glob("*.svg")}
        self.assertEqual(shipped, all_cards())

    def test_every_sign_of_cells_has_a_card_and_what_it_is_taken_for(self) -> None:
        wanted = {
            one.id for one in signs().values()
            if one.on_frame and one.scale == "cells" and one.group in ("cappings", "larvae")
        } - NOT_IN_CELLS  # fmt: skip
        self.assertEqual(wanted - cards().cards.keys(), set())
        self.assertEqual(wanted - cards().look_alikes.keys(), set())
        for sign, alike in cards().look_alikes.items():
            with self.subTest(sign=sign):
                self.assertNotIn(sign, [one.card for one in alike])
                self.assertTrue(all(one.tells and one.tells[-1] not in ".," for one in alike))

    def test_a_card_shows_its_mark_in_the_middle(self) -> None:
        """The middle is what a close card shows; marks are few among the ground unless the sign says otherwise."""
        for name, card in cards().cards.items():
            cells = laid_out(name)
            middle = min(cells, key=lambda one: math.hypot(one.x - WIDTH_MM / 2, one.y - HEIGHT_MM / 2))
            with self.subTest(card=name):
                if card.spread != "rim":
                    self.assertIn(middle.cell, card.marks)
                self.assertTrue(card.shows.endswith("."))
                self.assertEqual(laid_out(name), cells)
                count = Counter(one.cell in card.marks for one in cells)
                self.assertGreater(count[False], 20)

    def test_a_look_stays_by_its_cell(self) -> None:
        """Nothing reaches past the neighbours, but for the match; each variant is its own and the same again."""
        for cell in CELLS:
            for variant in range(VARIANTS):
                shapes = look(cell, variant)
                self.assertEqual(shapes, look(cell, variant))
                far = max(
                    math.hypot(one.x, one.y) + max(one.rx, one.ry) if isinstance(one, Ellipse)
                    else max(math.hypot(x, y) for x, y in one.points)
                    for one in shapes
                )  # fmt: skip
                with self.subTest(cell=cell):
                    self.assertLess(far, 6.2 if cell == "thread" else 4.0)
        if look("sealed", 0) == look("sealed", 1):
            self.fail("two sealed cells look the same")

    def test_a_cell_is_as_wide_as_a_worker_cell(self) -> None:
        """Between its flats; its area is that of the lattice (850 cells to the square decimetre of both sides)."""
        xs = [x for x, _ in HEXAGON]
        self.assertAlmostEqual(max(xs) - min(xs), CELL_MM, places=9)
        area = (
            abs(sum(x0 * y1 - x1 * y0 for (x0, y0), (x1, y1) in zip(HEXAGON, (*HEXAGON[1:], HEXAGON[0]), strict=True)))
            / 2
        )
        self.assertAlmostEqual(2 * 10_000 / area, 792, delta=4)

    def test_the_matrix_is_pictured(self) -> None:
        """At least twenty signs of the matrix have a card."""
        self.assertGreaterEqual(len(cards().cards.keys() & {one.id for one in brood_matrix().signs}), 20)


if __name__ == "__main__":
    unittest.main()
