"""Courses without a product, act by act: what each writes of queen, boxes and combs, and where it can be stopped."""

from __future__ import annotations

from collections import Counter
from datetime import date
from typing import Any
from uuid import UUID, uuid4

from redframe.core.colonies.hive_state import HiveState, WantedBox
from redframe.core.errors import InvalidInput, Refused
from redframe.core.treatments.overrides import Override
from redframe.demo.scenario import made_id
from redframe.store import frames
from redframe.store.colonies import colony
from redframe.store.errors import AlreadyDone, Conflict, NotFound
from redframe.store.frames import Frame, FrameMove
from redframe.work.colonies.condition import recorded_of
from redframe.work.colonies.frames import WantedMove, move_frame, moves_of_colony
from redframe.work.colonies.hives import HiveChange, amend_hive
from redframe.work.colonies.holds import hold_colony
from redframe.work.colonies.queens import queens_of
from redframe.work.colonies.read import colony_view
from redframe.work.colonies.record import amend_colony
from redframe.work.treatments.abandon import abandon
from redframe.work.treatments.hive_stack import hive_of_colony
from redframe.work.treatments.hive_work import (
    HiveWorkView,
    NewHiveAct,
    hive_work_of,
    record_hive_act,
    withdraw_hive_act,
)
from redframe.work.treatments.hive_writes import HiveActDetails
from redframe.work.unit_of_work import UnitOfWork
from tests.support import at_work, identity
from tests.work.test_treatments import TODAY, Courses, later

ANYWAY = [Override(rule, "Idris Calloway", "a trial") for rule in ("T24", "T70", "T73", "T61", "T77")]
DEEP = {"frame_format": "A_deep", "box_frames": 10, "fill": "foundation"}


class HiveWork(Courses):
    def course(self, option: str) -> UUID:
        """A course for today whose season somebody took on."""
        return self.planned(option, overrides=ANYWAY)

    def do(self, course: UUID, act: str, day: date = TODAY, act_id: UUID | None = None, **details: Any) -> HiveWorkView:
        """Record an act."""
        why = Override("S2", "Idris Calloway", "a trial")
        new = NewHiveAct(act_id or uuid4(), act, day, HiveActDetails(**details), "", why)
        return at_work(self.url, lambda unit: record_hive_act(unit, course, new), day=day)

    def hive(self) -> HiveState:
        """The hive as it stands."""
        found = at_work(self.url, lambda unit: hive_of_colony(unit, self.colony))
        assert found is not None
        return found

    def hung(self) -> list[Frame]:
        """What hangs in it."""
        boxes = [box.id for box in self.hive().boxes]
        return at_work(self.url, lambda unit: frames.frames_of_boxes(unit.connection, boxes))

    def moves(self) -> list[FrameMove]:
        """Where its combs went and came from."""
        return at_work(self.url, lambda unit: moves_of_colony(unit, self.colony), day=later(60))

    def queen(self) -> tuple[str, int | None]:
        """State and year of the queen there now."""
        found = at_work(self.url, lambda unit: queens_of(unit, self.colony), day=later(60))
        now = next((one.queen for one in found if one.queen.until is None), None)
        state = at_work(self.url, lambda unit: colony(unit.connection, self.colony), day=later(60)).state
        self.assertEqual(now is None, state == "queenless")
        return ("queenless", None) if now is None else (now.status, now.year)

    def work(self, course: UUID) -> HiveWorkView:
        """The work as it stands."""
        found = at_work(self.url, lambda unit: hive_work_of(unit, course))
        assert found is not None
        return found

    def test_a_drone_comb_in_and_out(self) -> None:
        """It hangs in its slot, what hung there is in store; out on its day, frozen, and the course waits for its
        count."""
        course = self.course("DRONE_TRAP")
        (box,) = self.hive().boxes
        view = self.work(course)
        self.assertEqual(view.edge[box.id], 9)
        self.do(course, "drone_comb_in", box_id=box.id, slot=8)
        by_slot = {one.slot: one for one in self.hung()}
        self.assertEqual((by_slot[8].kind, len(by_slot)), ("drone_comb", 10))
        self.assertIsNotNone(self.view(course).course.placed_on)
        with self.assertRaises(AlreadyDone):
            self.do(course, "drone_comb_in", box_id=box.id, slot=3)
        with self.assertRaises(InvalidInput) as caught:
            self.do(course, "drone_comb_out", day=later(20))
        self.assertEqual(caught.exception.field, "fate")
        self.do(course, "drone_comb_out", day=later(20), fate="freezer")
        self.assertEqual(sorted(one.slot or 0 for one in self.hung()), [1, 2, 3, 4, 5, 6, 7, 9, 10])
        self.assertEqual(Counter(one.to_away for one in self.moves()), {"store": 1, "freezer": 1, None: 1})
        self.assertEqual(self.view(course, later(20)).course.ended_on, later(20))

    def test_the_drone_comb_was_moved(self) -> None:
        """Somebody took it out at a visit: the act is recorded for what it is, and takes nothing else."""
        course = self.course("DRONE_TRAP")
        (box,) = self.hive().boxes
        self.do(course, "drone_comb_in", box_id=box.id, slot=8)
        (comb,) = [one.id for one in self.hung() if one.kind == "drone_comb"]
        out = WantedMove(uuid4(), comb, None, None, None, "freezer", later(15), None, "", "")
        at_work(self.url, lambda unit: move_frame(unit, out), day=later(15))
        self.do(course, "drone_comb_out", day=later(20))
        self.assertEqual(len(self.hung()), 9)
        self.assertEqual(self.view(course, later(20)).course.ended_on, later(20))

    def test_all_brood_out(self) -> None:
        """The combs ticked are melted, foundation hangs in their slots, the queen is held and free again; the step is
        on record with the last act."""
        course = self.course("BROOD_OUT")
        view = self.do(course, "queen_held")
        self.assertEqual(self.queen(), ("caged", 2030))
        self.assertEqual(len(view.combs), 10)
        with self.assertRaises(InvalidInput) as caught:
            self.do(course, "brood_out", fate="melted")
        self.assertEqual(caught.exception.field, "frame_ids")
        brood = [one.frame_id for one in view.combs[3:7]]
        self.do(course, "brood_out", frame_ids=brood, fate="melted", fill="foundation")
        self.assertIsNone(self.view(course).course.placed_on)
        self.assertEqual(Counter(one.kind for one in self.hung()), {"comb": 6, "foundation": 4})
        self.do(course, "queen_back")
        self.assertEqual(self.queen(), ("mated", 2030))
        self.assertEqual(self.view(course).course.placed_on, TODAY)
        self.do(course, "fed", feed="syrup_1_1", feed_amount=2.0)
        fed = at_work(self.url, lambda unit: _fed(unit, self.colony))
        self.assertTrue(fed)

    def test_brood_hatches_with_another(self) -> None:
        """Twelve combs of two boxes go on the nest of another: two free slots, then a box for ten; every comb once, its
        move from colony to colony. Not into the hive they came out of, nor to a colony that is held."""
        other = self.sound(self.view_apiary())
        hive = self.hive()
        two = [WantedBox(one.purpose, one.frame_format, one.frames, one.id) for one in hive.boxes]
        wanted = HiveChange("stacked boxes", [*two, WantedBox("brood", "A_deep", 10)], TODAY)
        at_work(self.url, lambda unit: amend_hive(unit, self.colony, hive.hive.version, wanted))
        course = self.course("BROOD_OUT")
        view = self.do(course, "queen_held")
        self.assertIn(other, [one.id for one in view.others])
        self.assertNotIn(self.colony, [one.id for one in view.others])
        gone = [one.id for one in at_work(self.url, lambda unit: _hung(unit, other))[:2]]
        for comb in gone:
            out = WantedMove(uuid4(), comb, None, None, None, "store", TODAY, None, "", "")
            at_work(self.url, lambda unit, out=out: move_frame(unit, out))
        twelve = [one.frame_id for one in view.combs[:12]]
        for wrong, field in ((self.colony, "hatch_with"), (uuid4(), None)):
            with self.assertRaises((InvalidInput, NotFound)) as caught:
                self.do(course, "brood_out", frame_ids=twelve, hatch_with=wrong)
            self.assertEqual(getattr(caught.exception, "field", None), field)
        with self.assertRaises(InvalidInput) as twice:
            self.do(course, "brood_out", frame_ids=twelve, hatch_with=other, fate="melted")
        self.assertEqual(twice.exception.field, "fate")
        view = self.do(course, "brood_out", frame_ids=twelve, hatch_with=other, fill="foundation")
        hatching = view.acts[1].hatching
        assert hatching is not None
        self.assertEqual((hatching.colony_id, hatching.by), (other, later(22)))
        there = at_work(self.url, lambda unit: _hung(unit, other))
        self.assertEqual(len(there), 20)
        self.assertLessEqual(set(twelve), {one.id for one in there})
        stack = at_work(self.url, lambda unit: hive_of_colony(unit, other))
        assert stack is not None
        self.assertEqual([one.purpose for one in stack.boxes[:2]], ["brood", "brood"])
        moves = [one for one in self.moves() if one.to_colony == other]
        self.assertEqual({one.frame_id for one in moves}, set(twelve))
        self.assertEqual({one.from_colony for one in moves}, {self.colony})
        self.assertEqual(len(self.hung()), 20)

    def test_no_brood_to_a_held_colony(self) -> None:
        """Its evidence stays as it is."""
        other = self.sound(self.view_apiary())
        course = self.course("BROOD_OUT")
        view = self.do(course, "queen_held")
        at_work(self.url, lambda unit: hold_colony(unit, other, uuid4(), kind="other", since=TODAY, why="a sample"))
        with self.assertRaises(Refused) as caught:
            self.do(course, "brood_out", frame_ids=[view.combs[0].frame_id], hatch_with=other)
        self.assertEqual(caught.exception.rule, "hold_other")
        self.assertEqual(len(self.hung()), 10)

    def test_stopped_midway(self) -> None:
        """The brood is out and the weather turns: the course is broken off, and on record are the brood that is out and
        the queen in her clip."""
        course = self.course("BROOD_OUT")
        view = self.do(course, "queen_held")
        self.do(course, "brood_out", frame_ids=[view.combs[4].frame_id], fate="freezer")
        at_work(self.url, lambda unit: abandon(unit, course, "a thunderstorm", None))
        after = self.view(course).course
        self.assertEqual((after.state, after.placed_on), ("abandoned", TODAY))
        self.assertEqual(self.queen(), ("caged", 2030))
        self.assertEqual(len(self.hung()), 9)
        self.assertIn("in a clip", str(self.work(course).stands))
        with self.assertRaises(Refused):
            self.do(course, "queen_back")

    def test_a_shaken_swarm(self) -> None:
        """A new box with an excluder under it, the old one off with its combs melted or in store, fed, the excluder out
        on its day: the boxes at each point are those that stand there."""
        course = self.course("SHAKEN")
        (old,) = self.hive().boxes
        self.do(course, "queen_held")
        with self.assertRaises(Refused):
            self.do(course, "bees_shaken")
        with self.assertRaises(InvalidInput) as caught:
            self.do(course, "new_box", frame_format="A_deep")
        self.assertEqual(caught.exception.field, "box_frames")
        self.do(course, "new_box", **DEEP)
        self.assertEqual([one.purpose for one in self.hive().boxes], ["excluder", "brood", "brood"])
        self.do(course, "bees_shaken")
        view = self.do(course, "queen_in")
        old_combs = [one.frame_id for one in view.combs if one.box_id == old.id]
        new_combs = [one.frame_id for one in view.combs if one.box_id != old.id]
        with self.assertRaises(InvalidInput):
            self.do(course, "old_combs", frame_ids=new_combs[:1], fate="melted")
        self.do(course, "old_combs", frame_ids=old_combs[:7], fate="melted")
        self.assertEqual([one.purpose for one in self.hive().boxes], ["excluder", "brood"])
        self.assertEqual(Counter(one.kind for one in self.hung()), {"foundation": 10})
        gone = Counter(one.to_away for one in self.moves() if one.to_away is not None)
        self.assertEqual(gone, {"melted": 7, "store": 3})
        self.assertIsNone(self.view(course).course.placed_on)
        self.do(course, "fed", feed="syrup_1_1", feed_amount=3.0)
        self.assertEqual(self.view(course).course.placed_on, TODAY)
        self.do(course, "excluder_out", day=later(5))
        self.assertEqual([one.purpose for one in self.hive().boxes], ["brood"])
        self.assertEqual(self.step(self.view(course, later(5)), "interim_check").state, "done")

    def test_a_comb_change(self) -> None:
        """The clean box stands above the excluder and the nest; weeks later the old box goes, and the excluder."""
        course = self.course("COMB_CHANGE")
        self.do(course, "clean_box", **DEEP)
        self.assertEqual([one.purpose for one in self.hive().boxes], ["brood", "excluder", "brood"])
        view = self.do(course, "queen_up")
        self.assertEqual(self.view(course).course.placed_on, TODAY)
        old = self.hive().boxes[0].id
        self.do(course, "old_box_off", day=later(24), frame_ids=[one.frame_id for one in view.combs if one.box_id == old],
                fate="melted")  # fmt: skip
        self.assertEqual([one.purpose for one in self.hive().boxes], ["brood"])
        self.assertEqual(self.hive().boxes[0].id, next(one.box_id for one in view.combs if one.box_id != old))

    def test_boxes_changed_by_somebody_else(self) -> None:
        """While the course went on a box was added and the old one taken off elsewhere: the act leaves what stands."""
        course = self.course("COMB_CHANGE")
        self.do(course, "clean_box", **DEEP)
        self.do(course, "queen_up")
        hive = self.hive()
        kept = [WantedBox(one.purpose, one.frame_format, one.frames, one.id) for one in hive.boxes[1:]]
        wanted = HiveChange("stacked boxes", [*kept, WantedBox("brood", "A_deep", 10)], later(10))
        at_work(self.url, lambda unit: amend_hive(unit, self.colony, hive.hive.version, wanted), day=later(10))
        self.do(course, "old_box_off", day=later(24))
        self.assertEqual([one.purpose for one in self.hive().boxes], ["brood", "brood"])

    def test_another_queen(self) -> None:
        """The old one out, the new one in her cage; accepted she heads the colony, not accepted it is queenless."""
        for accepted, stands in ((True, ("mated", 2031)), (False, ("queenless", None))):
            with self.subTest(accepted=accepted):
                self.colony = self.sound(self.view_apiary())
                course = self.course("REQUEEN")
                self.do(course, "old_queen_out")
                self.assertEqual(self.queen()[0], "queenless")
                self.do(course, "new_queen_in", year=2031, mark_seen="white")
                self.assertEqual(self.queen(), ("caged", 2031))
                with self.assertRaises(InvalidInput) as caught:
                    self.do(course, "accepted", day=later(7))
                self.assertEqual(caught.exception.field, "accepted")
                view = self.do(course, "accepted", day=later(7), accepted=accepted, eggs_seen=accepted)
                self.assertEqual(self.queen(), stands)
                self.assertEqual("queenless" in str(view.stands), not accepted)

    def view_apiary(self) -> UUID:
        """The apiary of these tests."""
        return made_id("corrane", "apiary", "Skerrow Bank")

    def test_repeated_and_withdrawn(self) -> None:
        """Sent twice it counts once; withdrawn it may be done again, the last first, and what it wrote stays."""
        course = self.course("BROOD_OUT")
        same = uuid4()
        for _ in range(2):
            view = self.do(course, "queen_held", act_id=same)
        self.assertEqual([one.now.state for one in view.acts[:2]], ["done", "ready"])
        view = self.do(course, "brood_out", frame_ids=[view.combs[0].frame_id], fate="melted")
        out = view.acts[1].done
        assert out is not None
        with self.assertRaises(Conflict):
            at_work(self.url, lambda unit: withdraw_hive_act(unit, same, "no"), reason="no")
        view = at_work(self.url, lambda unit: withdraw_hive_act(unit, out.id, "no"), reason="no")
        self.assertEqual([one.now.state for one in view.acts[:2]], ["done", "ready"])
        self.assertEqual(len(self.hung()), 9)
        with self.assertRaises(InvalidInput) as caught:
            self.do(course, "brood_out", frame_ids=list(out.details["frame_ids"]), fate="melted")
        self.assertEqual(caught.exception.field, "frame_ids")

    def test_a_hold_stops_it(self) -> None:
        """No comb leaves a held colony by a course; an inspector with a reason may go on."""
        course = self.course("BROOD_OUT")
        at_work(
            self.url,
            lambda unit: hold_colony(unit, self.colony, uuid4(), kind="notifiable", since=TODAY, why="ropy cells"),
        )
        with self.assertRaises(Refused) as caught:
            self.do(course, "queen_held")
        self.assertEqual(caught.exception.rule, "hold_notifiable")
        new = NewHiveAct(
            uuid4(), "queen_held", TODAY, HiveActDetails(), "", Override("hold", "the inspector", "ordered")
        )
        at_work(self.url, lambda unit: record_hive_act(unit, course, new), identity("inspector"))
        self.assertEqual(self.queen()[0], "caged")

    def test_a_dead_colony_is_not_worked_at(self) -> None:
        """Its course is open still: what it left stays for a mentor, and nothing was done at it after its death, whoever
        says so."""
        course = self.course("BROOD_OUT")
        view = at_work(self.url, lambda unit: colony_view(unit, self.colony)).colony
        at_work(
            self.url,
            lambda unit: amend_colony(
                unit, view.id, view.version, label=view.label, state="dead", state_since=later(1), note=""
            ),
            day=later(2),
        )
        with self.assertRaises(Refused) as held:
            self.do(course, "queen_held", day=later(2))
        self.assertEqual(held.exception.rule, "hold_lost")
        after = NewHiveAct(
            uuid4(), "queen_held", later(2), HiveActDetails(), "", Override("T05", "the inspector", "why")
        )
        with self.assertRaises(InvalidInput) as caught:
            at_work(
                self.url, lambda unit: record_hive_act(unit, course, after), identity("inspector"), day=later(2)
            )  # fmt: skip
        self.assertEqual(caught.exception.field, "done_on")

    def test_evidence_is_not_melted(self) -> None:
        """Held for another reason the queen may be looked for; the combs stay where they are, whatever a mentor says."""
        course = self.course("BROOD_OUT")
        at_work(
            self.url,
            lambda unit: hold_colony(unit, self.colony, uuid4(), kind="other", since=TODAY, why="a sample is out"),
        )
        view = self.do(course, "queen_held")
        with self.assertRaises(Refused) as caught:
            self.do(course, "brood_out", frame_ids=[view.combs[0].frame_id], fate="melted")
        self.assertEqual((caught.exception.rule, caught.exception.can_override), ("hold_other", False))
        self.assertEqual(len(self.hung()), 10)

    def test_two_in_one_hive(self) -> None:
        """Boxes that two colonies share are not changed by a course of one of them."""
        self.colony = made_id("corrane", "Kettle Wood", "K2")
        kettle = made_id("corrane", "apiary", "Kettle Wood")
        rules = ["T09", "T40", "T41", "T50", "T30", "T33", "T24", "T70", "T73", "T61", "T77", "T06", "T52"]
        row = self.plan("COMB_CHANGE", self.colony, overrides=[Override(one, "the vet", "a trial") for one in rules],
                        apiary=kettle)  # fmt: skip
        assert row.course_id is not None, row.held_by
        with self.assertRaises(Refused) as caught:
            self.do(row.course_id, "clean_box", **DEEP)
        self.assertEqual(caught.exception.rule, "shared_hive")


async def _hung(unit: UnitOfWork, of: UUID) -> list[Frame]:
    """What hangs in the hive of a colony."""
    hive = await hive_of_colony(unit, of)
    assert hive is not None
    await frames.fill_boxes(unit.connection, hive.hive.id)
    return await frames.frames_of_boxes(unit.connection, [box.id for box in hive.boxes])


async def _fed(unit: UnitOfWork, of: UUID) -> bool:
    """Whether feed is in the hive today, by what is recorded."""
    fed = (await recorded_of(unit, [of]))[of].on(unit.today).fed
    return fed is not None and fed.value


if __name__ == "__main__":
    import unittest

    unittest.main()
