"""The rules of suitability that look back on what was given, seen and laid, each on both sides of its limit."""

from __future__ import annotations

import unittest
from typing import Any

from tests.core.test_treatments import weigh

STRIPS = {"option": "AMZ_STRIP", "start": "2026-07-20"}
BARE = {"colony_capped_worker_brood": "no", "colony_brood_seen_on": "2026-08-14"}
"""No capped brood, seen on the day before the worked example."""


class LookingBack(unittest.TestCase):
    def reason(self, option: str, rule: str, **changes: Any) -> tuple[str, str | None] | None:
        """Level and date of a rule for an option, or None where it does not fire."""
        row = weigh(**changes)["options"][option]
        found = [one for one in row["reasons"] if one["rule"] == rule]
        self.assertLessEqual(len(found), 1)
        return (found[0]["level"], str(found[0]["until"]) if found[0]["until"] else None) if found else None

    def assertFires(self, option: str, rule: str, expected: tuple[str, str | None] | None, **changes: Any) -> None:
        """The rule says just that."""
        with self.subTest(option=option, rule=rule, **changes):
            self.assertEqual(self.reason(option, rule, **changes), expected)

    def test_what_is_still_in_the_hive(self) -> None:
        """A strip is in until its end, one that lies ahead too; what does not stay and what is no chemical bars nothing."""
        for past, expected in (
            ({**STRIPS}, ("not_now", None)),
            ({**STRIPS, "due_out": "2026-09-07"}, ("not_now", "2026-09-07")),
            ({**STRIPS, "end": "2026-08-30"}, ("not_now", "2026-08-30")),
            ({**STRIPS, "end": "2026-08-15"}, None),
            ({"option": "OX_TRICKLE", "start": "2026-08-14"}, None),
            ({"option": "OX_VAPN", "start": "2026-08-01"}, None),
            ({"option": "QUEEN_CAGE", "start": "2026-07-24"}, None),
        ):
            self.assertFires("OX_EXT", "T09", expected, colony_last_treatments=[past])
        self.assertFires("DRONE_TRAP", "T09", None, colony_last_treatments=[STRIPS])

    def test_a_passed_date_promises_nothing(self) -> None:
        """What was due out last week and is still in gives no day from which another could be had."""
        row = weigh(colony_last_treatments=[{**STRIPS, "due_out": "2026-08-07"}])["options"]["OX_EXT"]
        self.assertEqual((row["verdict"], row["from"]), ("not_now", None))

    def test_rotation_remembers_through_an_acid(self) -> None:
        """Strips of the same group after a winter's trickle are the same group twice; after the other group they are not."""
        failed = {"option": "FLUM_STRIP", "start": "2025-08-01", "end": "2025-09-20", "outcome": "failed"}
        trickle = {"option": "OX_TRICKLE", "start": "2025-12-20", "end": "2025-12-20", "outcome": "worked"}
        other = {"option": "AMZ_STRIP", "start": "2026-03-01", "end": "2026-04-15", "outcome": "worked"}
        self.assertFires("FLUV_STRIP", "T11", ("not_now", None), colony_last_treatments=[failed, trickle])
        worked = {**failed, "outcome": "worked"}
        self.assertFires("FLUV_STRIP", "T10", ("caution", None), colony_last_treatments=[worked, trickle])
        self.assertFires("FLUV_STRIP", "T11", None, colony_last_treatments=[failed, trickle, other])

    def test_oxalic_by_another_way(self) -> None:
        """Seven days between trickle, vapour and its series, from the last placing; a day after formic acid or thymol."""
        bare = {**BARE, "policy_respirator_ok": True}
        for option, past, expected in (
            ("OX_TRICKLE", {"option": "OX_VAP1", "start": "2026-08-09"}, ("not_now", "2026-08-16")),
            ("OX_TRICKLE", {"option": "OX_VAP1", "start": "2026-08-08"}, None),
            ("OX_VAP1", {"option": "OX_VAPN", "start": "2026-07-25", "end": "2026-08-10"}, ("not_now", "2026-08-17")),
            ("OX_TRICKLE", {"option": "FA_STRIP2", "start": "2026-08-08", "end": "2026-08-15"}, ("not_now", "2026-08-16")),
        ):  # fmt: skip
            self.assertFires(option, "T08", expected, colony_last_treatments=[past], **bare)

    def test_the_second_trickle_of_a_pair(self) -> None:
        """On day 14 to 16, where the association allows it: a caution, and no use of its own in the year."""
        day = {"option": "OX_TRICKLE", "start": "2026-08-01", "end": "2026-08-01"}
        winter = {"option": "OX_TRICKLE", "start": "2026-01-05", "end": "2026-01-05"}
        both = {"colony_last_treatments": [winter, day], **BARE}
        self.assertFires("OX_TRICKLE", "T08", ("caution", None), policy_trickle_repeat=True, **both)
        self.assertFires("OX_TRICKLE", "T07", None, policy_trickle_repeat=True, **both)
        self.assertFires("OX_TRICKLE", "T07", ("not_now", "2027-01-01"), **both)
        pair = {"colony_last_treatments": [winter, {**winter, "start": "2026-01-19", "end": "2026-01-19"}], **BARE}
        self.assertFires("OX_TRICKLE", "T07", None, policy_trickle_repeat=True, **pair)

    def test_how_long_a_broodless_sighting_holds(self) -> None:
        """It needs its date, a week at most; eggs end it after five days, a queen that lays after eight."""
        bare = {"colony_capped_worker_brood": "no"}
        for changes, expected in (
            ({}, ("not_now", None)),
            ({"colony_brood_seen_on": "2026-08-08"}, None),
            ({"colony_brood_seen_on": "2026-08-07"}, ("not_now", None)),
            ({"colony_brood_seen_on": "2026-08-07", "colony_queen": "caged"}, None),
            ({"colony_brood_seen_on": "2026-08-14", "colony_eggs_seen_on": "2026-08-10"}, ("not_now", None)),
            ({"colony_brood_seen_on": "2026-08-14", "colony_eggs_seen_on": "2026-08-11"}, None),
            ({"colony_brood_seen_on": "2026-08-14", "colony_laying_since": "2026-08-07"}, ("not_now", None)),
            ({"colony_brood_seen_on": "2026-08-14", "colony_laying_since": "2026-08-08"}, None),
        ):
            self.assertFires("OX_TRICKLE", "T21", expected, **bare, **changes)
        self.assertFires("OX_TRICKLE", "T25", ("caution", None), **BARE, colony_laying_since="2026-08-10")
        self.assertFires("OX_TRICKLE", "T25", None, **BARE, colony_laying_since="2026-08-11")

    def test_no_formic_acid_before_mating_is_over(self) -> None:
        """With no queen or none known, after a removal for 34 days and after a swarm for 28; one that lays ends it."""
        for queen in ("queenless", "unknown"):
            removed = {"colony_queen": queen, "colony_brood_event": {"type": "queen_removed", "date": "2026-07-13"}}
            self.assertFires("FA_STRIP2", "T30", ("not_now", "2026-08-16"), **removed)
            self.assertFires("FA_STRIP2", "T30", None, **removed, colony_laying_since="2026-08-10")
            self.assertFires("AMZ_STRIP", "T30", None, **removed)
            swarmed = {"colony_queen": queen, "colony_brood_event": {"type": "swarm", "date": "2026-07-18"}}
            self.assertFires("FA_STRIP2", "T30", None, **swarmed)

    def test_supers_that_nobody_recorded(self) -> None:
        """Where the label decides about supers, not knowing is a caution as well."""
        self.assertFires("FA_STRIP2", "T51", ("caution", None), colony_supers_on=None)
        self.assertFires("FA_STRIP2", "T51", None, colony_supers_on=False)

    def test_the_supers_of_last_spring(self) -> None:
        """A day for supers that has gone by holds nothing back."""
        self.assertFires("AMZ_STRIP", "T54", ("not_now", None), policy_planned_supers_on="2026-08-15")
        self.assertFires("AMZ_STRIP", "T54", None, policy_planned_supers_on="2026-08-14")

    def test_long_courses_by_their_whole_length(self) -> None:
        """Four tablets of a week each run as long as strips; two strips of formic acid do not."""
        self.assertFires("THY_TAB", "T72", ("caution", None), policy_cold_date="2026-09-05")
        self.assertFires("FA_STRIP2", "T72", None, policy_cold_date="2026-08-16")

    def test_below_the_threshold(self) -> None:
        """For 28 days a low count says recount, also before brood is taken out; strips and drone comb differ."""
        low = {"colony_infestation_pct": 1.0}
        self.assertFires("AMZ_STRIP", "T77", ("caution", None), **low, colony_counted_on="2026-07-18")
        self.assertFires("AMZ_STRIP", "T77", None, **low, colony_counted_on="2026-07-17")
        self.assertFires("BROOD_OUT", "T77", ("caution", None), **low)
        self.assertFires("DRONE_TRAP", "T77", None, **low)
        self.assertFires("AMZ_STRIP", "T77", None, **low, policy_whole_apiary=True, policy_apiary_over=True)

    def test_what_was_not_said_is_noted(self) -> None:
        """Earlier treatments left out change no verdict and are spoken of; none at all is an answer."""
        left_out, none = weigh(), weigh(colony_last_treatments=[])
        self.assertEqual(left_out["options"], none["options"])
        self.assertEqual([note for note in left_out["notes"] if "earlier" in note], ["earlier treatments not recorded"])
        self.assertEqual([note for note in none["notes"] if "earlier" in note], [])

    def test_contact_acids_in_the_flow(self) -> None:
        """A swarm or a caged queen leaves a colony without brood in the flow: its season bars no oxalic acid."""
        for option in ("OX_TRICKLE", "OX_VAP1"):
            self.assertFires(option, "T70", None, season_phase="flow", **BARE)


if __name__ == "__main__":
    unittest.main()
