"""What the signs of a visit fit in words, what is asked for, and when to look again."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date, timedelta
from typing import Any, get_args

from redframe.core.disease.brood_assessment import assess_brood
from redframe.core.disease.conditions import conditions
from redframe.core.disease.evidence import Context
from redframe.core.disease.findings import SignSeen, read_findings
from redframe.core.disease.matrix import brood_matrix
from redframe.core.disease.safety import Flag
from redframe.core.disease.safety_words import safety_words
from redframe.core.disease.settings import brood_settings
from redframe.core.visits.disease_reading import DiseaseReading, read_disease, sick_cells
from redframe.core.visits.estimates import SeenFrame
from redframe.core.visits.examination import Examination
from redframe.core.visits.record import FrameRecord

DAY = date(2031, 5, 10)
SPRING = Context("spring")


def reading(seen: dict[str, Any], context: Context = SPRING, without: tuple[str, ...] = ()) -> DiseaseReading | None:
    """The reading of signs by their values."""
    found = read_findings([SignSeen(sign, True, value) for sign, value in seen.items()])
    return read_disease(found, context, on=DAY, without=without)


class Words(unittest.TestCase):
    def test_nothing_is_without_words(self) -> None:
        """Every condition of the matrix, every flag, and every rule that the reference names."""
        self.assertEqual(set(conditions()), set(brood_matrix().conditions))
        self.assertEqual(set(safety_words().flags), set(get_args(Flag)))
        named = (
            {f"R{number}" for number in range(1, 20)}
            | {"R3a", "R3b", "R3c", "R7b"}
            | {f"D{number}" for number in range(1, 11)}
        )
        self.assertEqual(set(safety_words().rules), named)


class Readings(unittest.TestCase):
    def test_only_a_sign_of_disease_is_read(self) -> None:
        """A spotty pattern, a queen not seen or a count over its level alone are no disease; absences neither."""
        self.assertIsNone(reading({"pattern_spotty": 30, "queen_not_seen": "some", "mite_count_high": "some"}))
        self.assertIsNone(reading({"cap_sunken": "absent", "mummy_white": "absent"}))
        self.assertIsNotNone(reading({"mummy_white": "few"}))
        self.assertIsNotNone(reading({"shb_larvae": "some"}))

    def test_mummies_are_looked_at_in_two_weeks(self) -> None:
        """Not at the routine date, and without a suspicion."""
        found = reading({"mummy_white": 150})
        assert found is not None and found.recheck is not None
        self.assertEqual((found.fits[0].id, found.flags), ("chalkbrood", []))
        self.assertEqual((found.recheck.on, found.recheck.name), (DAY + timedelta(days=14), "chalkbrood"))

    def test_a_thread_stands_above_the_ranking(self) -> None:
        """Whatever else was seen: the rule, what it sets, and no usual re-check."""
        found = reading({"mummy_white": 150, "ropy_thread": 25})
        assert found is not None and found.recheck is not None
        self.assertEqual(found.fits[0].id, "afb")
        self.assertIn("R1", [one.id for one in found.rules])
        self.assertEqual(found.orders[0], "American foulbrood is suspected.")
        self.assertIsNone(found.recheck.name)
        self.assertLessEqual(found.recheck.on, DAY + timedelta(days=7))
        self.assertTrue({one.id for one in found.tests} <= {"lfd_afb", "lab_brood"})

    def test_without_a_finding(self) -> None:
        """Struck out, it is as if it had not been examined."""
        seen = {"cap_sunken": "few", "cap_perforated": "some", "pattern_spotty": 30}
        struck, never = reading(seen, without=("cap_sunken",)), reading({**seen, "cap_sunken": "absent"})
        plain = read_findings([SignSeen(sign, True, value) for sign, value in list(seen.items())[1:]])
        of = {one.id: one.probability for one in assess_brood(plain, SPRING).ranking}
        assert struck is not None and never is not None
        for fit in struck.fits:
            self.assertEqual(fit.chance, of[fit.id])
            self.assertNotIn("cap_sunken", [term.sign for term in fit.terms])
        self.assertNotEqual(struck.healthy, never.healthy)

    def test_terms_are_all_there(self) -> None:
        """The bars of a condition are its terms, largest first, absences too."""
        found = reading({"cap_perforated": "some", "cap_sunken": "some", "ropy_thread": 0}, Context("late_summer"))
        assert found is not None
        mites = next(one for one in found.fits if one.id == "varroa_pms")
        sizes = [abs(one.log_odds) for one in mites.terms]
        self.assertEqual(sizes, sorted(sizes, reverse=True))
        afb = next(one for one in found.fits if one.id == "afb")
        self.assertFalse(next(one for one in afb.terms if one.sign == "ropy_thread").seen)

    def test_what_is_suspected_heads_what_to_do(self) -> None:
        """Greasy sunken cappings: the suspicion, then the match that comes before closing, then the standstill."""
        found = reading({"cap_sunken": "some", "cap_greasy": "some"})
        assert found is not None
        self.assertEqual(found.flags[:3], ["AFB_SUSPECT", "ROPE_TEST_NOW", "STANDSTILL"])

    def test_what_takes_a_line(self) -> None:
        """Under one in a hundred none, but for foulbrood where a sign speaks for it; a look that saw nothing of it is
        no reason to name it."""
        mummies = reading({"mummy_white": 60, "cap_sunken": "absent", "larva_twisted": "absent"})
        assert mummies is not None
        self.assertEqual([one.id for one in mummies.fits if one.chance < 0.01], [])
        sac = reading({"larva_sac": "many", "larva_slipper": "many", "larva_discoloured": "few", "ropy_thread": 0})
        assert sac is not None
        self.assertIn("efb", [one.id for one in sac.fits])

    def test_a_masked_examination_waits(self) -> None:
        """After an antibiotic nothing reassures: 42 days, also where nothing at all was seen."""
        nothing = reading({"cap_sunken": "absent"}, replace(SPRING, flags=frozenset({"antibiotic_recent"})))
        assert nothing is not None and nothing.recheck is not None
        self.assertEqual((nothing.flags, nothing.recheck.on), (["MASKED_EXAM"], DAY + timedelta(days=42)))
        found = reading({"mummy_white": "few"}, replace(SPRING, flags=frozenset({"antibiotic_recent"})))
        assert found is not None and found.recheck is not None
        self.assertEqual(found.recheck.on, DAY + timedelta(days=42))

    def test_each_test_says_how(self) -> None:
        """And what it would tell, the forced one first."""
        found = reading({"cap_sunken": "few"})
        assert found is not None
        self.assertEqual((found.tests[0].id, found.tests[0].forced_by), ("matchstick", "R12"))
        self.assertEqual(found.tests[0].how, brood_settings().tests["matchstick"].how)


class SickBrood(unittest.TestCase):
    def test_the_sign_of_which_most_were_counted(self) -> None:
        """Two signs in the same cells are not added up; extents alone count nothing."""

        def frame(*seen: dict[str, Any]) -> SeenFrame:
            return SeenFrame(1, 3, "A_deep", FrameRecord.model_validate({"signs": list(seen)}))

        melted, twisted = {"sign": "larva_melted", "number": 40}, {"sign": "larva_twisted", "number": 25}
        found = sick_cells([frame(melted, twisted), frame(melted)], None, 1000.0)
        assert found is not None
        self.assertEqual((found.cells, found.share), (80, 0.08))
        self.assertIsNone(sick_cells([frame({"sign": "larva_melted", "extent": "many"})], None, 1000.0))
        self.assertIsNone(sick_cells([frame(melted)], None, 0.0))
        said = Examination.model_validate({"signs": [{"sign": "larva_sac", "number": 90}]})
        found = sick_cells([frame(melted)], said, 1000.0)
        assert found is not None
        self.assertEqual(found.cells, 90)


if __name__ == "__main__":
    unittest.main()
