"""When to come back, what a frame holds, the vocabulary of signs, and where a move leads."""

from __future__ import annotations

import unittest
from datetime import date, timedelta
from typing import get_args
from uuid import UUID, uuid5

from redframe.core.colonies.frame_places import Box, Shift, Slot, between_colonies, move
from redframe.core.disease.signs import signs
from redframe.core.errors import InvalidInput, Refused
from redframe.core.season.calendar import Phase
from redframe.core.visits.capacity import BEES_PER_CM2, CAPACITY, CELLS_PER_CM2, HONEY_KG_PER_CM2, capacity
from redframe.core.visits.finding import VisitFinding
from redframe.core.visits.next_visit import USUAL_DAYS, next_visit

ON = date(2031, 6, 14)
NS = UUID(int=11)


class NextVisits(unittest.TestCase):
    def days(self, phase: Phase, *found: VisitFinding) -> int:
        return (next_visit(ON, phase, found).on - ON).days

    def test_the_season_sets_the_usual_day(self) -> None:
        """7 to 10 days in swarming season, 14 to 21 in the flow, 4 to 6 weeks toward winter; every phase has its days."""
        self.assertEqual(set(USUAL_DAYS), set(get_args(Phase)))
        self.assertTrue(7 <= self.days("build_up") <= 10)
        self.assertTrue(14 <= self.days("peak") <= 21)
        for phase in ("decline", "pre_winter"):
            self.assertTrue(28 <= self.days(phase) <= 42)

    def test_the_soonest_finding_wins(self) -> None:
        """Cells ask for a week, no brood for less; play cups ask for nothing; a new queen is left in peace."""
        cells = VisitFinding("swarm", "act", "")
        cups = VisitFinding("swarm", "note", "")
        lost = VisitFinding("no_brood", "act", "")
        self.assertEqual(self.days("peak", cups), self.days("peak"))
        self.assertEqual(self.days("peak", cells), 7)
        self.assertLess(self.days("peak", cells, lost), 7)
        self.assertEqual(self.days("build_up", VisitFinding("emergency_cells", "act", "")), 21)
        self.assertGreater(next_visit(ON, "dormant", []).on, ON + timedelta(days=30))


class Frames(unittest.TestCase):
    def test_the_table_follows_from_the_area(self) -> None:
        """Bees, cells and honey of every format are the comb's area times the published densities, to their rounding."""
        for name, held in CAPACITY.items():
            with self.subTest(frame=name):
                self.assertAlmostEqual(held.bees_per_side, held.comb_cm2 * BEES_PER_CM2, delta=7)
                self.assertAlmostEqual(held.cells_per_side, held.comb_cm2 * CELLS_PER_CM2, delta=6)
                self.assertAlmostEqual(held.honey_kg, held.comb_cm2 * HONEY_KG_PER_CM2, delta=0.2)
        with self.assertRaises(InvalidInput) as caught:
            capacity("C_round")
        self.assertEqual(caught.exception.field, "frame_format")

    def test_the_signs(self) -> None:
        """Each has a name, a definition, a way of examining it; those of foulbrood hold combs back."""
        known = signs()
        self.assertGreater(len(known), 80)
        for sign in known.values():
            self.assertTrue(sign.name and sign.definition and sign.examined, sign.id)
        for sign in ("cap_sunken", "ropy_thread", "scale_stuck", "shb_larvae"):
            self.assertTrue(known[sign].suspicious, sign)
        for sign in ("mummy_white", "pattern_spotty", "eggs_multiple"):
            self.assertFalse(known[sign].suspicious, sign)


class Moving(unittest.TestCase):
    def setUp(self) -> None:
        self.box, self.one, self.other = uuid5(NS, "box"), uuid5(NS, "one"), uuid5(NS, "other")
        self.boxes = {self.box: Box(self.box, 4, "A_deep", [self.one, self.one, self.other, self.other])}
        self.frames = [uuid5(NS, f"frame {number}") for number in range(3)]
        self.places = {
            self.frames[0]: Slot(self.box, 1), self.frames[1]: Slot(self.box, 3), self.frames[2]: "burned",
        }  # fmt: skip

    def test_whose_comb_goes_where(self) -> None:
        """Over the divider it goes from one colony to the other, and the one it displaces goes back; away is nobody's."""
        shifts = move(self.places, self.boxes, self.frames[0], Slot(self.box, 3), swap=True)  # type: ignore[arg-type]
        crossing = [between_colonies(shift, self.boxes) for shift in shifts]
        self.assertEqual(crossing, [(self.one, self.other), (self.other, self.one)])
        away = Shift(self.frames[0], Slot(self.box, 1), "freezer")
        self.assertEqual(between_colonies(away, self.boxes), (self.one, None))

    def test_what_cannot_be_moved(self) -> None:
        """A burned comb, one onto another unless they are to change places, one that is not there, a slot that is not
        there, the place it has already."""
        with self.assertRaises(Refused):
            move(self.places, self.boxes, self.frames[2], Slot(self.box, 2))  # type: ignore[arg-type]
        with self.assertRaises(Refused) as occupied:
            move(self.places, self.boxes, self.frames[0], Slot(self.box, 3))  # type: ignore[arg-type]
        self.assertEqual(occupied.exception.rule, "occupied")
        for frame, slot, field in (
            (uuid5(NS, "none"), 2, "frame_id"),
            (self.frames[0], 5, "to"),
            (self.frames[0], 1, "to"),
        ):
            with self.subTest(slot=slot), self.assertRaises(InvalidInput) as caught:
                move(self.places, self.boxes, frame, Slot(self.box, slot))  # type: ignore[arg-type]
            self.assertEqual(caught.exception.field, field)


if __name__ == "__main__":
    unittest.main()
