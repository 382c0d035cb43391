"""Labels of products in the policy: what is planned follows them, and goes on by the one it was planned under."""

from __future__ import annotations

from datetime import timedelta

from redframe.core.policy.treatment_rules import TreatmentRules
from redframe.core.treatments.product_label import ProductLabel
from redframe.core.visits.record import After
from redframe.work.policy import record as policy_record
from redframe.work.policy.read import policy_in_force
from redframe.work.policy.record import PolicyDraft
from redframe.work.treatments import options as treatments_options
from redframe.work.treatments.plan import Override
from redframe.work.unit_of_work import UnitOfWork
from tests.support import at_work, identity, visited
from tests.work.test_treatments import SHORE, TODAY, Courses, later

ADMINISTRATOR = identity("administrator")


class ProductLabels(Courses):
    def label(self, *labels: ProductLabel) -> int:
        """Put labels in force; the version of the policy."""

        async def act(unit: UnitOfWork) -> int:
            present = await policy_in_force(unit)
            rules = present.treatment_rules.model_copy(update={"product_labels": list(labels)})
            draft = PolicyDraft(
                present.scheme, present.basis, present.scope, present.dates, present.own_levels,
                present.policy.stale_after_days, present.policy.stale_after_days_dormant,
                TreatmentRules.model_validate(rules.model_dump()), present.scoops,
            )  # fmt: skip
            return (await policy_record.set_policy(unit, draft, present.version)).version

        return at_work(self.url, act, ADMINISTRATOR)

    def test_a_course_goes_on_by_its_label(self) -> None:
        """One strip and 21 days to clear honey: planned so, and so it stays when the label is taken back."""
        said = ProductLabel(option="FA_STRIP2", product="grey pack", dose_amount=1, withdrawal_days=21, stay_days=[7, 9, 12])  # fmt: skip
        version = self.label(said)
        course = self.planned("FA_STRIP2")
        view = self.view(course)
        self.assertEqual((view.course.policy_version, view.option.product, view.course.dose_quantity), (version, "grey pack", 1))  # fmt: skip
        self.assertEqual(self.step(view, "end").ideal, later(9))
        self.label()
        other = self.sound(SHORE)
        fresh = self.plan("FA_STRIP2", other)
        assert fresh.course_id is not None
        self.assertEqual((self.view(fresh.course_id).option.product, self.view(fresh.course_id).course.dose_quantity), ("", 2))  # fmt: skip
        self.act(course, "prepare")
        self.act(course, "close_supers_feeder")
        self.act(course, "place_1", quantity=1)
        done = self.act(course, "end", later(9), today=later(9))
        self.assertEqual(done.course.honey_clear_on, later(30))
        self.assertEqual({one.figure for one in done.option.by_label}, {"dose_amount", "withdrawal_days", "stay_days"})

    def test_closing_for_what_bears_supers_says_nothing_of_them(self) -> None:
        """By a label that lets supers stay, the step takes the feeder off and leaves what a visit saw of the supers."""
        self.label(ProductLabel(option="FA_STRIP2", supers="yes"))
        visited(self.url, self.colony, TODAY, After(supers_on=True, feed="fondant"))
        course = self.planned("FA_STRIP2", overrides=[Override("T52", "Idris Calloway", "it comes off now")])
        for step in ("prepare", "close_supers_feeder"):
            self.act(course, step)
        choice = at_work(self.url, lambda unit: treatments_options.options_for(unit, SHORE, [self.colony]))
        facts = choice.colonies[0].situation.colony
        self.assertEqual((facts.supers_on, facts.fed), (True, False))
        self.label()

    def test_the_choice_judges_by_it(self) -> None:
        """A label that allows one use a year closes the second."""
        self.label(ProductLabel(option="FA_STRIP2", max_uses_per_year=1))
        found = at_work(self.url, lambda unit: treatments_options.options_for(unit, SHORE, [self.colony], TODAY))
        judged = found.colonies[0].choice.options["FA_STRIP2"]
        self.assertEqual(judged.option.max_uses_per_year, 1)
        course = self.planned("FA_STRIP2")
        for step in ("prepare", "close_supers_feeder"):
            self.act(course, step)
        self.act(course, "place_1", quantity=2)
        self.act(course, "end", later(7), today=later(7))
        again = at_work(
            self.url,
            lambda unit: treatments_options.options_for(unit, SHORE, [self.colony], TODAY + timedelta(days=50)),
            day=later(8),
        )
        self.assertIn("T07", again.colonies[0].choice.options["FA_STRIP2"].rules)
        self.label()
