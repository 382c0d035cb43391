"""Disease at visits and at an apiary: what signs fit, what was not seen, and that closed visits read the same."""

from __future__ import annotations

import unittest
from datetime import UTC, date, datetime, time, timedelta
from typing import Any
from uuid import UUID, uuid4

from redframe.core.disease.region import DiseaseRegion
from redframe.core.visits.examination import Examination
from redframe.core.visits.record import After, FrameRecord
from redframe.demo.scenario import made_id
from redframe.work.disease.unseen import unseen_here
from redframe.work.policy import read as policy_read
from redframe.work.policy import record as policy_record
from redframe.work.policy.record import PolicyDraft
from redframe.work.visits import read as visits_read
from redframe.work.visits import record as visits_record
from redframe.work.visits.read import VisitView
from redframe.work.visits.record import FrameEntry
from tests.support import DEMO_TODAY, at_work, demo_template, identity, new_database, owner_rows, visited

ADMINISTRATOR = identity("administrator")
SHORE = made_id("corrane", "apiary", "Skerrow Bank")
S1, S2, S3 = (made_id("corrane", "Skerrow Bank", label) for label in ("S1", "S2", "S3"))

FULL = {
    "brood_combs": 6, "combs_read": 6, "bees_off": "shaken", "scale_read": True, "smelled": True, "cells_opened": 10,
    "not_seen": ["foulbrood", "mummies_and_sacs"],
}  # fmt: skip


class DiseaseTest(unittest.TestCase):
    """A copy of the demo for each test."""

    def setUp(self) -> None:
        self.url = new_database(demo_template())

    def closed(self, examination: dict[str, Any], day: date = DEMO_TODAY) -> VisitView:
        """A closed visit of a colony at the shore with an examination."""
        visit = uuid4()
        visited(self.url, S1, day, After(examination=Examination.model_validate(examination)), visit)
        return self.view(visit)

    def view(self, visit: Any) -> VisitView:
        """A visit as its screen shows it."""
        return at_work(self.url, lambda unit: visits_read.visit_view(unit, visit))

    def region(self, **region: Any) -> None:
        """Put a policy in force that differs in its region."""

        async def act(unit: Any) -> None:
            now = await policy_read.policy_in_force(unit)
            draft = PolicyDraft(
                now.scheme, now.basis, now.scope, now.dates, now.own_levels, now.policy.stale_after_days,
                now.policy.stale_after_days_dormant, now.treatment_rules, now.scoops, DiseaseRegion(**region),
            )  # fmt: skip
            await policy_record.set_policy(unit, draft, now.version)

        at_work(self.url, act, ADMINISTRATOR)


class AtAVisit(DiseaseTest):
    def test_signs_of_the_bees_ask_for_a_count(self) -> None:
        """Crippled bees: mites first, by their rule; the visit comes back sooner than by the season."""
        seen = {"bees_looked_at": 100, "signs": [{"sign": "dwv", "number": 8, "of": 100}]}
        found = self.closed(seen).assessment
        assert found.disease is not None
        self.assertEqual((found.disease.fits[0].id, found.disease.rules[0].id), ("varroa_pms", "R16"))
        self.assertEqual(found.suggested.why, "disease_recheck")

    def test_a_thread_in_the_examination_holds_the_combs(self) -> None:
        """As one on a comb does: the summary of the visit lists it, so that rounds and lists show the suspect."""
        view = self.closed({"thread_mm": 24, "thread_cells": 5})
        self.assertIn("ropy_thread", view.assessment.suspicious)
        self.assertIn("AFB_SUSPECT", view.assessment.disease.flags if view.assessment.disease else [])
        rows = owner_rows(self.url, "SELECT suspicious FROM visit WHERE id = %s", view.visit.id)
        self.assertEqual(rows, [(["ropy_thread"],)])

    def test_a_closed_visit_reads_the_same(self) -> None:
        """When the region is said to be otherwise, and when the colony is counted afterwards."""
        seen = {"signs": [{"sign": "cap_sunken", "extent": "some"}, {"sign": "larva_melted", "extent": "few"}]}
        then = self.closed(seen)
        self.region(afb_level="common", efb_level="common", shb_established=True)
        now = self.view(then.visit.id)
        self.assertEqual(now.assessment.disease, then.assessment.disease)
        later = self.closed(seen)
        assert later.assessment.disease is not None and then.assessment.disease is not None
        chance = {one.id: one.chance for one in then.assessment.disease.fits}
        common = {one.id: one.chance for one in later.assessment.disease.fits}
        self.assertGreater(common["efb"], chance["efb"])

    def test_without_a_finding(self) -> None:
        """The reading without a sign is that of a visit that never saw it; the visit itself is not touched."""
        view = self.closed(
            {"signs": [{"sign": "mummy_white", "extent": "many"}, {"sign": "cap_sunken", "extent": "few"}]}
        )
        struck = at_work(self.url, lambda unit: visits_read.disease_of_visit(unit, view.visit.id, ["mummy_white"]))
        assert struck is not None
        self.assertNotIn("chalkbrood", [one.id for one in struck.fits[:1]])
        self.assertEqual(self.view(view.visit.id).assessment.disease, view.assessment.disease)


class OfTheDemo(DiseaseTest):
    def readings(self, place: str, label: str) -> list[VisitView]:
        """Closed visits of a colony that looked at combs, oldest first."""
        rows = owner_rows(
            self.url,
            "SELECT id FROM visit v WHERE colony_id = %s AND state = 'closed' AND EXISTS (SELECT FROM visit_frame f "
            "WHERE f.visit_id = v.id) ORDER BY visited_on",
            made_id("corrane", place, label),
        )
        return [self.view(row[0]) for row in rows]

    def test_chalkbrood_that_falls_off(self) -> None:
        """Mummies of both combs, fewer at each visit: chalkbrood with the mites that were counted, nothing stopped."""
        seen = self.readings("Whin Moor", "W5")
        self.assertGreaterEqual(len(seen), 2)
        for view in seen:
            found = view.assessment.disease
            assert found is not None
            self.assertGreater({one.id: one.chance for one in found.fits}["chalkbrood"], 0.6, view.visit.visited_on)
            self.assertLessEqual(set(found.flags), {"MITE_ACTION"})
        changes = {one.change for one in [sign for frame in seen[1].assessment.changes for sign in frame.signs]}
        self.assertEqual(changes, {"less"})

    def test_clean_examinations(self) -> None:
        """Elsewhere what was looked for and not seen is on record; the suspect has its suspicion."""
        clean = self.readings("Whin Moor", "W1")[-1].assessment
        self.assertIsNone(clean.disease)
        self.assertIn("foulbrood", [one.group for one in clean.not_seen])
        suspect = self.readings("Saltby Rise", "R2")[-1].assessment.disease
        assert suspect is not None
        self.assertIn("AFB_SUSPECT", suspect.flags)


class Brood(DiseaseTest):
    def test_brood_of_last_time_is_missed(self) -> None:
        """Five combs of open brood, nine days later little of it sealed: said at the visit, which comes back soon."""

        def visit(colony: UUID, day: date, **side: int) -> VisitView:
            opened = datetime.combine(day, time(10), UTC)
            view = at_work(self.url, lambda unit: visits_record.open_visit(unit, uuid4(), colony, opened), day=day)
            box = next(one for one in view.place.hive.boxes if one.frames) if view.place.hive else None
            assert box is not None
            seen = FrameRecord.model_validate({"a": side, "b": side})
            entries = [FrameEntry(box.id, slot, 0, seen) for slot in range(3, 8)]
            at_work(self.url, lambda unit: visits_record.save_frames(unit, view.visit.id, entries), day=day)
            at_work(self.url, lambda unit: visits_record.close_visit(unit, view.visit.id), day=day)
            return at_work(self.url, lambda unit: visits_read.visit_view(unit, view.visit.id), day=day)

        for colony, sealed, lost in ((S1, 5, False), (S3, 2, True)):
            visit(colony, DEMO_TODAY, open=6)
            found = visit(colony, DEMO_TODAY + timedelta(days=9), capped=sealed).assessment
            assert found.cohorts is not None
            self.assertEqual([one.is_short for one in found.cohorts.combs], [lost] * 5)
            self.assertEqual("brood_lost" in [one.code for one in found.findings], lost)


class Unseen(DiseaseTest):
    def chances(self) -> dict[str, tuple[float, int]]:
        """Chance and colonies examined, by disease."""
        found = at_work(self.url, lambda unit: unseen_here(unit, SHORE))
        return {one.id: (one.chance, one.examined) for one in found.diseases}

    def test_an_examination_takes_of_the_chance(self) -> None:
        """Of foulbrood; not of the exotic mite, which nobody looked for. An open draft takes nothing."""
        before = self.chances()
        self.closed(FULL)
        after = self.chances()
        self.assertLess(after["afb"][0], before["afb"][0])
        self.assertEqual(after["afb"][1], before["afb"][1])
        self.assertEqual(after["tropilaelaps"][1], before["tropilaelaps"][1])
        self.assertGreater(after["tropilaelaps"][0], 0.8 * before["tropilaelaps"][0])
        draft = at_work(self.url, lambda unit: visits_record.open_visit(unit, uuid4(), S2, unit.now))
        at_work(
            self.url,
            lambda unit: visits_record.save_part(
                unit, draft.visit.id, "after", 0, After(examination=Examination.model_validate(FULL))
            ),
        )
        self.assertEqual(self.chances(), after)

    def test_a_suspect_has_none(self) -> None:
        """A sign that stands unexplained takes the colony out; a later look without it brings it back."""
        self.closed({"thread_mm": 24, "thread_cells": 5})
        self.assertIn("S1", self.suspects())
        self.closed(FULL)
        self.assertNotIn("S1", self.suspects())

    def suspects(self) -> list[str]:
        """Colonies at the shore of which a sign stands unexplained."""
        found = at_work(self.url, lambda unit: unseen_here(unit, SHORE))
        return list(found.diseases[0].suspicious)


if __name__ == "__main__":
    unittest.main()
