"""A policy as it is drafted, previewed and put in force: who would stand where, and what stays as it was decided."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date
from typing import Any

from redframe.core.errors import InvalidInput
from redframe.core.policy.draft import CalendarDates, CountedScoop
from redframe.core.policy.schemes import SCHEMES
from redframe.core.policy.treatment_rules import DAYS, TreatmentRules
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.reading import read_jar
from redframe.demo.scenario import CORRANE, made_id
from redframe.store.errors import Conflict, NotAllowed
from redframe.store.status import Outlook
from redframe.work.places import read as places_read
from redframe.work.policy import read as policy_read
from redframe.work.policy import record as policy_record
from redframe.work.policy.read import PolicyInForce
from redframe.work.policy.record import PolicyDraft, PolicyPreview
from redframe.work.status.many import outlooks_of_many
from redframe.work.status.outlooks import outlooks_of
from redframe.work.unit_of_work import UnitOfWork
from tests.support import at_work, demo_template, identity, new_database, owner_rows

ADMINISTRATOR = identity("administrator")
STRICT = PolicyDraft(
    "flat_2", "corrected", "whole_apiary", CalendarDates.model_validate(CORRANE.calendar), {}, 21, 90, TreatmentRules()
)


class Policies(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def preview(self, draft: PolicyDraft) -> PolicyPreview:
        """What a draft would do."""
        return at_work(self.url, lambda unit: policy_record.preview_policy(unit, draft), ADMINISTRATOR)

    def put(self, draft: PolicyDraft) -> PolicyInForce:
        """Put a draft in force."""

        async def act(unit: UnitOfWork) -> PolicyInForce:
            present = await policy_read.policy_in_force(unit)
            return await policy_record.set_policy(unit, draft, present.version)

        return at_work(self.url, act, ADMINISTRATOR)

    def in_force(self) -> PolicyDraft:
        """The policy in force as a draft."""
        found = at_work(self.url, policy_read.policy_in_force)
        return PolicyDraft(found.scheme, found.basis, found.scope, found.dates, found.own_levels, found.policy.stale_after_days,
                           found.policy.stale_after_days_dormant, found.treatment_rules, found.scoops,
                           found.region)  # fmt: skip

    def levels(self) -> dict[str, int]:
        """Living colonies by their level today, as the places screen adds them up."""
        rows = owner_rows(
            self.url,
            "SELECT s.level, count(*) FROM colony_status s JOIN colony c ON c.id = s.colony_id WHERE s.association_id = %s "
            "AND c.state IN ('alive', 'queenless') "
            "AND s.since <= '2031-08-02' AND (s.until IS NULL OR s.until > '2031-08-02') GROUP BY 1",
            made_id("corrane"),
        )
        return {str(level): int(number) for level, number in rows}

    def test_a_preview_is_what_then_happens(self) -> None:
        """The table shown before is the table that stands after; the same policy again changes nobody."""
        before = self.in_force()
        self.assertEqual(self.preview(before).changed, 0)
        draft = replace(before, scheme="flat_3", threshold_basis="as_counted")
        answer = self.preview(draft)
        self.assertGreater(answer.changed, 0)
        self.assertEqual(len(answer.moves), answer.changed, "each is named")
        for level in answer.before:
            gone, come = (sum(getattr(one, side) == level for one in answer.moves) for side in ("before", "after"))
            self.assertEqual(answer.before[level] - gone + come, answer.after[level])
        self.assertFalse(any(one.before == one.after for one in answer.moves))
        self.assertEqual({level: number for level, number in answer.before.items() if number}, self.levels())
        self.put(draft)
        self.assertEqual({level: number for level, number in answer.after.items() if number}, self.levels())
        self.put(before)
        self.assertEqual({level: number for level, number in answer.before.items() if number}, self.levels())

    def test_a_higher_threshold_never_raises_anybody(self) -> None:
        """From flat 2 to flat 3 nobody comes to stand higher: monotone, whatever the counts are."""
        two, three = self.preview(STRICT).after, self.preview(replace(STRICT, scheme="flat_3")).after
        for levels in (("urgent",), ("urgent", "act"), ("urgent", "act", "watch")):
            self.assertLessEqual(sum(three[level] for level in levels), sum(two[level] for level in levels))
        self.assertEqual(sum(two.values()), sum(three.values()))

    def test_readings_follow_the_basis(self) -> None:
        """As counted, the reading of a wash is the reading without what a wash misses; back again it is as it was."""
        query = (
            "SELECT r.count_id, r.mites, r.bees_mean, r.bees_cv, r.median FROM count_reading r JOIN mite_count m ON m.id = r.count_id "
            "WHERE r.association_id = %s AND m.taken_on > '2031-07-01' AND r.mites > 0 AND m.method = 'wash' ORDER BY r.count_id LIMIT 20"
        )
        before = self.in_force()
        corrected = owner_rows(self.url, query, made_id("corrane"))
        self.put(replace(before, threshold_basis="as_counted"))
        for (_, mites, mean, cv, median), was in zip(
            owner_rows(self.url, query, made_id("corrane")), corrected, strict=True
        ):
            self.assertAlmostEqual(
                float(median), read_jar(int(mites), BeesInSample(float(mean), float(cv)), "all").median
            )
            self.assertLess(float(median), float(was[4]))
        self.put(before)
        self.assertEqual(owner_rows(self.url, query, made_id("corrane")), corrected)

    def test_readings_follow_the_scoop(self) -> None:
        """With scoops that hold fewer bees, every level scoop reads higher and no counted jar moves; back, as before."""
        query = (
            "SELECT m.bees_known_by, r.bees_mean, r.median FROM mite_count m JOIN count_reading r ON r.count_id = m.id "
            "WHERE m.shakes IS NOT NULL AND m.association_id = %s AND m.taken_on > '2030-09-01' ORDER BY m.id"
        )
        before, draft = owner_rows(self.url, query, made_id("corrane")), self.in_force()
        self.put(replace(draft, scoops=[CountedScoop(ml=120, bees=bees) for bees in (240, 231, 236, 244)]))
        then = owner_rows(self.url, query, made_id("corrane"))
        kinds = set()
        for old, new in zip(before, then, strict=True):
            kinds.add(old[0])
            moved = old[0] in ("volume_level", "volume_heaped")
            self.assertEqual((new[1] < old[1], new[2] > old[2]), (moved, moved), old)
        self.assertGreater(len(kinds), 1)
        self.put(draft)
        self.assertEqual(owner_rows(self.url, query, made_id("corrane")), before)

    def test_many_at_once_are_judged_as_each_alone(self) -> None:
        """Every colony that was counted, with its pairs, boards and courses, under every school."""
        ids = [
            row[0]
            for row in owner_rows(
                self.url, "SELECT DISTINCT colony_id FROM mite_count WHERE association_id = %s", made_id("corrane")
            )
        ]

        async def both(unit: UnitOfWork) -> tuple[list[Outlook], list[Outlook]]:
            present = await policy_read.policies_of(unit, ids)
            row = draft.as_row(99)
            policies = {**present, **await policy_read.policies_of(unit, ids[::2], row)}
            return await outlooks_of(unit, policies), await outlooks_of_many(unit, policies)

        for scheme in SCHEMES:
            draft = replace(self.in_force(), scheme=scheme)
            alone, together = at_work(self.url, both)
            self.assertEqual({one.colony_id: one for one in together}, {one.colony_id: one for one in alone}, scheme)
            self.assertEqual(len(together), len(ids))

    def test_bad_policies_are_named_at_their_field(self) -> None:
        """A day that does not exist, phases out of order, an unknown school or option."""

        def year(**changes: Any) -> dict[str, Any]:
            return {"calendar": CalendarDates.model_validate(CORRANE.calendar | changes)}

        cases: tuple[tuple[str, dict[str, Any]], ...] = (
            ("scheme", {"scheme": "moon"}), ("levels.moon", {"levels": {"moon": {}}}),
            ("levels.flat_2.peak.act", {"levels": {"flat_2": {"peak": {"watch": 2, "act": 1, "urgent": 4}}}}),
            ("levels.flat_2.noon", {"levels": {"flat_2": {"noon": {"watch": 1, "act": 2, "urgent": 4}}}}),
            ("calendar.peak", year(peak="02-30")), ("calendar", year(peak=CORRANE.calendar["decline"])),
            ("calendar.lead_days", year(lead_days=400)), ("calendar", {"calendar": CalendarDates()}),
            ("treatment_rules.authorised[1]", {"treatment_rules": TreatmentRules(authorised=["OX_TRICKLE", "SMOKE"])}),
            ("treatment_rules.prescription_needed[0]", {"treatment_rules": TreatmentRules(prescription_needed=["SMOKE"])}),
            *((f"treatment_rules.{day}", {"treatment_rules": TreatmentRules.model_validate({day: "13-01"})}) for day in DAYS),
            ("scoops[0].bees", {"scoops": [CountedScoop(ml=120, bees=3000)]}),
        )  # fmt: skip
        for field, changes in cases:
            with self.subTest(field=field, changes=str(changes)[:60]), self.assertRaises(InvalidInput) as refused:
                self.preview(replace(STRICT, **changes))
            self.assertEqual(refused.exception.field, field)

    def test_two_administrators_and_a_mentor(self) -> None:
        """The second of two who read the same version hears of it; a mentor may not."""
        with self.assertRaises(Conflict):
            at_work(self.url, lambda unit: policy_record.set_policy(unit, STRICT, 999), ADMINISTRATOR)
        with self.assertRaises(NotAllowed):
            at_work(self.url, lambda unit: policy_record.set_policy(unit, STRICT, 1))
        with self.assertRaises(NotAllowed):
            at_work(self.url, lambda unit: policy_record.preview_policy(unit, STRICT))

    def test_decisions_keep_the_version_they_were_taken_under(self) -> None:
        """A new version leaves courses as they were planned; strips are drawn by the new levels."""
        kept = "SELECT id, policy_version FROM course WHERE association_id = %s ORDER BY id"
        before = owner_rows(self.url, kept, made_id("corrane"))
        present = self.in_force()
        self.put(STRICT)
        self.assertEqual(owner_rows(self.url, kept, made_id("corrane")), before)
        view = at_work(self.url, lambda unit: places_read.apiary_view(unit, made_id("corrane", "apiary", "Tarn Head")))
        self.assertEqual({band.act for band in view.phases}, {2})
        self.assertEqual(view.phases[0].first, date(2031, 8, 2).fromordinal(date(2031, 8, 2).toordinal() - 150))
        self.put(present)
