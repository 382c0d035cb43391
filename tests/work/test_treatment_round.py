"""The round of a day from the records: its order, what it asks for, and that it follows what is done meanwhile."""

from __future__ import annotations

from uuid import UUID, uuid4

from redframe.core.treatments.overrides import Override
from redframe.demo.scenario import made_id
from redframe.store.errors import AlreadyDone, NotFound
from redframe.work.colonies import holds as colonies_holds
from redframe.work.treatments.round import RoundStop, TreatmentRound, treatment_round
from tests.support import at_work, identity
from tests.work.test_treatments import SHORE, TODAY, Courses, later

FENN = made_id("corrane", "apiary", "Upper Fenn")


class Rounds(Courses):
    def round(self, today: int = 0) -> TreatmentRound:
        """The round of a day from today at the shore."""
        return at_work(self.url, lambda unit: treatment_round(unit, SHORE), day=later(today))

    def stop(self, found: TreatmentRound, course: UUID) -> RoundStop | None:
        """The stop of a course."""
        return next((one for one in found.stops if one.course.course.id == course), None)

    def test_a_day(self) -> None:
        """From the product at hand to the dose on one round, less by every step that is done; what was done stays."""
        course = self.planned("OX_TRICKLE", overrides=[Override(rule, "the vet", "a trial") for rule in ("T20", "T21")])
        for step, left in (
            ("prepare", ["prepare", "close_supers_feeder", "place_1"]),
            ("close_supers_feeder", ["close_supers_feeder", "place_1"]),
            ("place_1", ["place_1"]),
        ):
            found = self.stop(self.round(), course)
            assert found is not None
            self.assertEqual(found.steps, left)
            self.assertTrue(found.is_due)
            self.act(course, step, quantity=45 if step == "place_1" else None)
        found = self.stop(self.round(), course)
        assert found is not None
        self.assertEqual(found.steps, ["dispose"])
        done = next(one for one in self.round().done if one.course.id == course)
        self.assertEqual([one.step.name for one in done.steps if one.act is not None and one.act.count_id is None],
                         ["prepare", "close_supers_feeder", "place_1"])  # fmt: skip
        with self.assertRaises(AlreadyDone):
            self.act(course, "place_1", quantity=45)
        self.assertNotIn(course, [one.course.id for one in self.round(1).done])

    def test_what_to_take_along(self) -> None:
        """The dose of the colony from the lot that expires first; nothing of a course that starts later."""
        before = {one.option_id: one.quantity for one in self.round().take.doses}
        self.planned("OX_TRICKLE", overrides=[Override(rule, "the vet", "a trial") for rule in ("T20", "T21")])
        found = self.round()
        (dose,) = [one for one in found.take.doses if one.option_id == "OX_TRICKLE"]
        self.assertAlmostEqual(dose.quantity - before.get("OX_TRICKLE", 0.0), 45)
        self.assertEqual(
            {one.id for one in found.lots}, {share.lot_id for each in found.take.doses for share in each.lots}
        )
        self.assertAlmostEqual(sum(one.quantity for one in dose.lots if one.unit == "g"), dose.quantity * 0.045)
        self.assertIn("acid-resistant gloves", found.take.wear)

    def test_a_suspect_is_last(self) -> None:
        """A colony that is held comes after all others, whatever its label."""
        rules = [Override(rule, "the vet", "a trial") for rule in ("T20", "T21")]
        first = self.planned("OX_TRICKLE", overrides=rules)
        held = self.colony
        self.colony = self.sound(SHORE)
        self.planned("OX_TRICKLE", overrides=rules)
        at_work(
            self.url,
            lambda unit: colonies_holds.hold_colony(
                unit, held, uuid4(), kind="notifiable", since=TODAY, why="ropy cells"
            ),
        )
        found = self.round()
        self.assertEqual((found.stops[-1].course.course.id, found.stops[-1].is_suspect), (first, True))
        self.assertFalse(any(one.is_suspect for one in found.stops[:-1]))

    def test_nobody_elses(self) -> None:
        """The apiary of another association is not there; a keeper sees the round of an own apiary only."""
        with self.assertRaises(NotFound):
            at_work(self.url, lambda unit: treatment_round(unit, made_id("ellery", "apiary", "Old Jetty")))
        with self.assertRaises(NotFound):
            at_work(self.url, lambda unit: treatment_round(unit, FENN), identity("keeper", keeper="Orla Fenwick"))
