"""What a step asks for besides its day and dose, what cannot be, and what the answers say."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date, timedelta

from redframe.core.errors import InvalidInput, Refused
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.step_facts import (
    NOTHING,
    Placed,
    asked_at,
    check_dose,
    check_facts,
    check_taken_out,
    findings_of,
    lost_per_day,
)

CATALOGUE = default_catalogue()
EVAPORATOR, GEL, STRIPS = (CATALOGUE.option(one) for one in ("FA_EVAP", "THY_GEL", "AMZ_STRIP"))
ON = date(2031, 8, 2)


class Asked(unittest.TestCase):
    def test_what_stays_is_counted_out(self) -> None:
        """Strips are counted; gel has no number; frames of drone brood and cages are no remains."""
        self.assertIn("taken_out", asked_at(STRIPS, "remove", None))
        self.assertNotIn("taken_out", asked_at(GEL, "remove", None))
        self.assertNotIn("taken_out", asked_at(CATALOGUE.option("QUEEN_CAGE"), "remove", None))

    def test_what_evaporates_is_looked_at(self) -> None:
        """At the interim check and at each exchange, not when the first dose goes in."""
        self.assertIn("left_pct", asked_at(GEL, "interim_check", None))
        self.assertNotIn("left_pct", asked_at(GEL, "place", 1))
        self.assertIn("left_pct", asked_at(GEL, "place", 2))
        self.assertNotIn("left_pct", asked_at(STRIPS, "interim_check", None))

    def test_what_is_not_asked_is_not_kept(self) -> None:
        """A field of another step is left out, not refused: a form may carry it along."""
        given = replace(NOTHING, taken_out=2.0, disposed="burnt", adverse="bees crawled")
        self.assertEqual(
            check_facts(STRIPS, "remove", None, given), replace(NOTHING, taken_out=2.0, adverse="bees crawled")
        )
        self.assertEqual(check_facts(STRIPS, "prepare", None, given), NOTHING)

    def test_what_cannot_be(self) -> None:
        """Each at its field."""
        for field, value in (("temperature_c", 51), ("temperature_c", -31), ("left_pct", 101), ("left_pct", -1)):
            with self.subTest(field=field, value=value), self.assertRaises(InvalidInput) as caught:
                check_facts(GEL, "place", 2, replace(NOTHING, **{field: value}))
            self.assertEqual(caught.exception.field, field)
        with self.assertRaises(InvalidInput):
            check_facts(STRIPS, "remove", None, replace(NOTHING, taken_out=-1))


class Doses(unittest.TestCase):
    def test_another_dose_than_planned_needs_a_word(self) -> None:
        """More or less, with the reason; as planned, none."""
        check_dose(STRIPS, 2, 2, "", is_set_aside=False)
        check_dose(STRIPS, None, 2, "", is_set_aside=False)
        check_dose(STRIPS, 2, 1, "the colony has shrunk", is_set_aside=False)
        for quantity, word in ((1, "less"), (3, "more")):
            with self.subTest(quantity=quantity), self.assertRaises(InvalidInput) as caught:
                check_dose(STRIPS, 2, quantity, " ", is_set_aside=False)
            self.assertEqual(caught.exception.field, "note")
            self.assertIn(word, caught.exception.message)

    def test_never_more_than_the_label_allows(self) -> None:
        """Unless somebody named takes it on."""
        with self.assertRaises(Refused) as caught:
            check_dose(STRIPS, 2, 7, "two boxes", is_set_aside=False)
        self.assertEqual((caught.exception.rule, caught.exception.can_override), ("T44", True))
        check_dose(STRIPS, 2, 7, "two boxes", is_set_aside=True)

    def test_as_many_out_as_in(self) -> None:
        """A difference needs a word; where nobody counted there is none."""
        check_taken_out(2, replace(NOTHING, taken_out=2), "")
        check_taken_out(2, NOTHING, "")
        check_taken_out(2, replace(NOTHING, taken_out=1), "one had fallen through the mesh")
        with self.assertRaises(InvalidInput):
            check_taken_out(2, replace(NOTHING, taken_out=1), "")


class Findings(unittest.TestCase):
    def codes(self, option: str, left: float, days: int, dose: float) -> list[str]:
        """What a share left after so many days says."""
        facts = replace(NOTHING, left_pct=left)
        placed = [Placed(ON - timedelta(days=days), dose)]
        return [one.code for one in findings_of(CATALOGUE.option(option), facts, ON, placed)]

    def test_evaporation(self) -> None:
        """The evaporator should lose 8 to 20 ml a day: of 120 ml 80 % left after two days are 12, 90 % are 6."""
        cases = [(80, 2, 120, []), (90, 2, 120, ["lost_too_slowly"]), (50, 2, 120, ["lost_too_fast"]),
                 (67, 2, 120, []), (66, 2, 120, ["lost_too_fast"])]  # fmt: skip
        for left, days, dose, codes in cases:
            with self.subTest(left=left):
                self.assertEqual(self.codes("FA_EVAP", left, days, dose), codes)

    def test_gel(self) -> None:
        """A tray of 50 g lasts ten days to four weeks: half left after a week is well, all of it is not."""
        self.assertEqual(self.codes("THY_GEL", 50, 7, 50), [])
        self.assertEqual(self.codes("THY_GEL", 100, 7, 50), ["lost_too_slowly"])
        self.assertEqual(self.codes("THY_GEL", 0, 7, 50), ["lost_too_fast"])

    def test_where_nothing_tells(self) -> None:
        """On the day of the placing, of an unknown dose, and of what has no figure, nothing is said."""
        self.assertIsNone(lost_per_day(EVAPORATOR, Placed(ON, 120), 80, ON))
        self.assertIsNone(lost_per_day(EVAPORATOR, Placed(ON - timedelta(days=2), None), 80, ON))
        self.assertEqual(self.codes("THY_TAB", 0, 1, 1), [])
        self.assertIsNone(lost_per_day(STRIPS, Placed(ON - timedelta(days=2), 2), 80, ON))

    def test_fewer_out_than_in(self) -> None:
        """The last dose is the one that is counted out: what was exchanged came out before."""
        facts = replace(NOTHING, taken_out=1)
        placed = [Placed(ON - timedelta(days=14), 2), Placed(ON - timedelta(days=7), 1)]
        self.assertEqual(findings_of(STRIPS, facts, ON, placed), [])
        self.assertEqual([one.code for one in findings_of(STRIPS, facts, ON, placed[:1])], ["not_all_out"])
