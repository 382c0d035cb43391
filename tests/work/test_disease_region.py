"""What an association says of disease in its region: seen beforehand on the latest visits, kept with who said it."""

from __future__ import annotations

import unittest
from typing import Any
from uuid import UUID

from redframe.core.disease.region import DiseaseRegion
from redframe.store.errors import NotAllowed
from redframe.work.disease import preview
from redframe.work.disease.preview import RegionPreview
from redframe.work.policy import record as policy_record
from redframe.work.policy.read import policy_in_force
from redframe.work.visits import read
from tests.support import at_work, demo_template, identity, new_database, owner_rows


class Region(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def do(self, act: Any, role: str = "administrator") -> Any:
        return at_work(self.url, act, identity(role))

    def preview(self, **said: Any) -> RegionPreview:
        found: RegionPreview = self.do(lambda unit: preview.preview_region(unit, DiseaseRegion(**said)))
        return found

    def test_a_preview_changes_nothing_and_says_what_would(self) -> None:
        """As it is, nothing would change; chalkbrood four times as common raises its chance at the visits that saw
        mummies, which say afterwards what they said before."""
        in_force = self.do(policy_in_force).region
        same = self.do(lambda unit: preview.preview_region(unit, in_force))
        self.assertGreater(same.visits, 3)
        self.assertEqual(same.changes, [])
        commoner = self.preview(commonness={"chalkbrood": "much_commoner"})
        self.assertEqual(commoner.visits, same.visits)
        chalk = [one for one in commoner.changes if one.before and one.after and one.after.name == "chalkbrood"]
        self.assertTrue(chalk)
        for one in chalk:
            assert one.before is not None and one.after is not None
            if one.before.name == "chalkbrood":
                self.assertGreater(one.after.chance, one.before.chance)
        self.assertEqual(self.do(lambda unit: preview.preview_region(unit, in_force)).changes, [])
        with self.assertRaises(NotAllowed):
            self.do(lambda unit: preview.preview_region(unit, in_force), "mentor")

    def test_what_was_said_stays_and_closed_visits_too(self) -> None:
        """A new version is the newest word; a version that changed something else says nothing new; a visit closed
        before reads as it did."""
        visit = owner_rows(self.url, "SELECT visit_id FROM handling LIMIT 1")[0][0]
        before = self.do(lambda unit: read.visit_view(unit, UUID(str(visit)))).assessment.disease
        said = len(self.do(preview.region_record).said)
        for region in (DiseaseRegion(commonness={"chalkbrood": "much_rarer"}), None):
            policy = self.do(policy_in_force)
            draft = policy_record.PolicyDraft(
                policy.scheme, policy.basis, policy.scope, policy.dates, policy.own_levels,
                policy.policy.stale_after_days + (region is None), policy.policy.stale_after_days_dormant,
                policy.treatment_rules, policy.scoops, region or policy.region,
            )  # fmt: skip
            self.do(lambda unit, draft=draft, at=policy.version: policy_record.set_policy(unit, draft, at))
        record = self.do(preview.region_record)
        self.assertEqual(len(record.said), said + 1)
        self.assertEqual(dict(record.said[0].region.commonness), {"chalkbrood": "much_rarer"})
        self.assertTrue(record.said[0].by_name)
        self.assertNotIn("afb", record.conditions)
        self.assertEqual(self.do(lambda unit: read.visit_view(unit, UUID(str(visit)))).assessment.disease, before)


if __name__ == "__main__":
    unittest.main()
