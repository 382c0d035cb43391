"""A visit from opening to amendment, on one device and on two; frames that move, and combs that are held back."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date, datetime, timedelta
from typing import Any
from uuid import UUID, uuid4

from redframe.core.colonies.hive_state import WantedBox
from redframe.core.errors import InvalidInput, Refused
from redframe.core.visits.record import After, Before, FrameRecord
from redframe.demo.scenario import DEMO_TODAY, made_id
from redframe.store.database import Identity
from redframe.store.errors import Conflict, NotAllowed, NotFound
from redframe.work.colonies import frames as colonies_frames
from redframe.work.colonies import hives as colonies_hives
from redframe.work.colonies import holds as colonies_holds
from redframe.work.colonies import read as colonies_read
from redframe.work.colonies.frames import NewFrame, WantedMove
from redframe.work.colonies.hives import Divider, HiveChange
from redframe.work.visits import read as visits_read
from redframe.work.visits import record as visits_record
from redframe.work.visits.read import VisitView
from redframe.work.visits.record import FrameEntry
from tests.support import FixedClock, as_app, at_work, demo_template, identity, new_database, owner_rows

NOW = FixedClock().now()
BROOD = {"capped": 4, "open": 2, "eggs": 1, "bees": 8}


def record(**fields: Any) -> FrameRecord:
    return FrameRecord.model_validate(fields)


class Visits(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())
        cls.k1, cls.k3, cls.k4 = (made_id("corrane", "Kettle Wood", label) for label in ("K1", "K3", "K4"))

    def open(self, colony: UUID, *, visit_id: UUID | None = None, at: datetime = NOW) -> VisitView:
        return at_work(self.url, lambda unit: visits_record.open_visit(unit, visit_id or uuid4(), colony, at))

    def keep(
        self, view: VisitView, slot: int, version: int = 0, *, box: int = 0, reason: str = "", **fields: Any
    ) -> VisitView:
        framed = [one for one in view.place.hive.boxes if one.frames]
        entry = FrameEntry(framed[box].id, slot, version, record(**fields))
        return at_work(self.url, lambda unit: visits_record.save_frames(unit, view.visit.id, [entry]), reason=reason)

    def after(self, view: VisitView, version: int, *, reason: str = "", **fields: Any) -> VisitView:
        content = After.model_validate(fields)
        return at_work(
            self.url,
            lambda unit: visits_record.save_part(unit, view.visit.id, "after", version, content),
            reason=reason,
        )

    def close(self, view: VisitView) -> VisitView:
        return at_work(self.url, lambda unit: visits_record.close_visit(unit, view.visit.id))

    def drop(self, view: VisitView) -> None:
        at_work(self.url, lambda unit: visits_record.drop_visit(unit, view.visit.id))

    def move(self, *, who: Identity | None = None, **fields: Any) -> Any:
        given: dict[str, Any] = {
            "id": uuid4(), "frame_id": None, "new": None, "to_box": None, "to_slot": None, "to_away": None,
            "moved_on": DEMO_TODAY, "visit_id": None, "override_why": "", "note": "", **fields,
        }  # fmt: skip
        return at_work(self.url, lambda unit: colonies_frames.move_frame(unit, WantedMove(**given)), who)

    def test_from_opening_to_closing(self) -> None:
        """Frames, estimates, findings, a suggested date; closed, it is what lists and treatments read."""
        view = self.open(self.k1)
        self.addCleanup(lambda: None)
        self.assertEqual(len(view.place.frames), sum(box.frames for box in view.place.hive.boxes))
        for slot in (3, 4, 5):
            view = self.keep(view, slot, a=BROOD, b=BROOD)
        answer = view.assessment.estimates
        self.assertEqual(
            (answer.hive.seen, answer.on_combs.frames_of_brood, answer.on_combs.frames_of_bees), (3, 3, 2.4)
        )
        self.assertIsNone(answer.frames_of_bees, "three combs are not the hive")
        self.assertEqual(view.assessment.findings[0].code, "eggs")
        self.after(view, 0, temper=8, stores_kg=6.0, stores_by="hefting", frames_of_bees=9)
        closed = self.close(view)
        self.assertEqual(closed.visit.state, "closed")
        self.assertEqual(closed.visit.after.next_visit, view.assessment.suggested.on)
        seen = at_work(self.url, lambda unit: colonies_read.colony_view(unit, self.k1)).visits[0]
        self.assertEqual((seen.strength, seen.capped_brood, seen.eggs_seen), (9.0, "yes", True))
        history = owner_rows(self.url, "SELECT act FROM audit WHERE record_id = %s", view.visit.id)
        self.assertEqual(history, [("created",)], "a draft leaves no history, the closed visit begins one")
        with self.assertRaises(Conflict):
            self.close(view)
        with self.assertRaises(Conflict):
            self.keep(closed, 4, 1, a={"capped": 2})
        amended = self.keep(closed, 4, 1, a={"capped": 2}, reason="misread the comb")
        self.assertEqual(amended.assessment.estimates.on_combs.frames_of_brood, 3)
        history = owner_rows(
            self.url, "SELECT act, reason FROM audit WHERE record_id = %s AND act = 'amended'", view.visit.id
        )
        self.assertIn(("amended", "misread the comb"), history)

    def test_two_devices_go_on_with_one_draft(self) -> None:
        """The second finds the draft; what both record of a slot is a conflict that keeps the first, said twice is none."""
        colony = made_id("corrane", "Kettle Wood", "K5")
        one, other = self.open(colony), self.open(colony)
        self.assertEqual(one.visit.id, other.visit.id)
        self.keep(one, 3, a={"honey": 8})
        with self.assertRaises(Conflict) as caught:
            self.keep(other, 3, a={"honey": 2})
        self.assertEqual(caught.exception.field, "version")
        again = self.keep(other, 3, a={"honey": 8})
        self.assertEqual([(kept.slot, kept.version) for kept in again.records], [(3, 1)])
        settled = self.keep(other, 3, 1, a={"honey": 2})
        self.assertEqual(getattr(settled.records[0].record.a, "honey", None), 2)
        self.after(one, 0, temper=7)
        with self.assertRaises(Conflict):
            self.after(other, 0, temper=3)
        self.drop(one)
        with self.assertRaises(Conflict):
            self.keep(other, 4, a={"honey": 2})

    def test_what_is_refused_is_said_where_it_arose(self) -> None:
        """Tomorrow, before the last visit, a slot that is not there, a second queen, one still caged, an empty visit."""
        colony = made_id("corrane", "Kettle Wood", "K6")
        for moment, word in ((NOW + timedelta(days=1), "future"), (NOW - timedelta(days=200), "before the last visit")):
            with self.assertRaises(InvalidInput) as caught:
                self.open(colony, at=moment)
            self.assertEqual(caught.exception.field, "opened_at")
            self.assertIn(word, caught.exception.message)
        view = self.open(colony)
        with self.assertRaises(InvalidInput) as caught:
            self.close(view)
        self.assertEqual(caught.exception.field, "after")
        with self.assertRaises(InvalidInput) as caught:
            self.keep(view, 33, a={"honey": 1})
        self.assertEqual(caught.exception.field, "frames[0].slot")
        self.keep(view, 4, a=BROOD, queen=True)
        with self.assertRaises(InvalidInput) as caught:
            self.keep(view, 6, a=BROOD, queen=True)
        self.assertEqual(caught.exception.field, "frames[0].record.queen")
        self.after(view, 0, two_queens=True, queen_caged=True)
        self.keep(view, 6, a=BROOD, queen=True)
        with self.assertRaises(InvalidInput) as caught:
            self.close(view)
        self.assertEqual(caught.exception.field, "queen_released")
        with self.assertRaises(InvalidInput) as caught:
            self.after(view, 1, next_visit=(DEMO_TODAY - timedelta(days=3)).isoformat())
        self.assertEqual(caught.exception.field, "next_visit")
        self.drop(view)

    def test_the_last_visit_lies_beside(self) -> None:
        """The next visit is compared with the last that looked at frames: gained, lost, new, and where she was."""
        colony = made_id("corrane", "Kettle Wood", "K7")
        first = self.open(colony)
        self.keep(first, 4, a=BROOD, b=BROOD, queen=True)
        self.keep(first, 5, a={"capped": 2}, b={"capped": 2})
        self.close(first)
        second = self.open(colony)
        self.assertEqual(getattr(second.compared_with, "id", None), first.visit.id)
        first_guess = second.assessment.trace[0]
        self.assertEqual((first_guess.slot, first_guess.why), (4, "seen_last_time"))
        view = self.keep(second, 5, a={"capped": 6}, b={"capped": 6}, signs=[{"sign": "mummy_white", "extent": "few"}])
        change = next(one for one in view.assessment.changes if one.slot == 5)
        self.assertEqual((change.brood, change.signs[0].change), (8, "new"))
        self.drop(second)

    def test_frames_move_and_are_traced(self) -> None:
        """Slot to slot swaps, into the freezer, new foundation into the gap; the moves are kept, a repeat moves nothing."""
        view = self.open(self.k4)
        before = len(at_work(self.url, lambda unit: colonies_frames.moves_of_colony(unit, self.k4)))
        box = next(one for one in view.place.hive.boxes if one.frames)
        at = {frame.slot: frame.id for frame in view.place.frames if frame.box_id == box.id}
        with self.assertRaises(Refused) as occupied:
            self.move(frame_id=at[1], to_box=box.id, to_slot=2)
        self.assertEqual(occupied.exception.rule, "occupied")
        self.move(frame_id=at[1], to_box=box.id, to_slot=2, swap=True)
        act = {"id": uuid4(), "frame_id": at[3], "to_away": "freezer"}
        self.move(**act)
        self.move(**act)
        fresh = uuid4()
        self.move(id=fresh, new=NewFrame("foundation", 2031), to_box=box.id, to_slot=3)
        now = at_work(self.url, lambda unit: visits_read.visit_view(unit, view.visit.id))
        hangs = {frame.slot: frame.id for frame in now.place.frames if frame.box_id == box.id}
        self.assertEqual((hangs[2], hangs[1], hangs[3]), (at[1], at[2], fresh))
        self.assertEqual(len(hangs), box.frames)
        moves = at_work(self.url, lambda unit: colonies_frames.moves_of_colony(unit, self.k4))
        self.assertEqual(len(moves) - before, 4, "two of the swap, one away, one new")
        with self.assertRaises(InvalidInput) as caught:
            self.move(to_box=box.id, to_slot=5)
        self.assertEqual((caught.exception.field, "no frame" in caught.exception.message), ("frame_id", True))
        stored = at_work(self.url, lambda unit: colonies_frames.frames_in_store(unit, view.place.apiary_id))
        self.assertIn(at[3], [frame.id for frame in stored])
        self.drop(view)

    def test_combs_are_held_back(self) -> None:
        """From a colony with signs, on hold, or dead, no comb goes to another but by a role that may, with a reason."""
        sick = made_id("corrane", "Kettle Wood", "K8")
        view = self.open(sick)
        self.keep(view, 5, a=BROOD, signs=[{"sign": "cap_sunken", "extent": "few"}])
        self.close(view)
        there = self.open(self.k3)
        target = next(one for one in there.place.hive.boxes if one.frames)
        comb = next(frame.id for frame in view.place.frames if frame.slot == 5)
        wanted = {"frame_id": comb, "to_box": target.id, "to_slot": 1, "swap": True}
        with self.assertRaises(Refused) as caught:
            self.move(**wanted)
        self.assertEqual((caught.exception.rule, caught.exception.can_override), ("hold_signs", False))
        with self.assertRaises(Refused):
            self.move(**wanted, override_why="looks fine to me")
        moved = self.move(**wanted, override_why="laboratory: negative", who=identity("inspector"))
        self.assertEqual({frame.id for frame in moved} & {comb}, {comb})
        rows = owner_rows(self.url, "SELECT rule, override_why FROM frame_move WHERE frame_id = %s", comb)
        self.assertEqual(rows, [("hold_signs", "laboratory: negative")])
        at_work(
            self.url,
            lambda unit: colonies_holds.hold_colony(
                unit, self.k3, uuid4(), kind="other", since=DEMO_TODAY, why="waiting for the laboratory"
            ),
        )
        other = self.open(self.k4)
        slot = next(one for one in other.place.hive.boxes if one.frames)
        held = next(frame.id for frame in there.place.frames if frame.slot == 4)
        with self.assertRaises(Refused) as caught:
            self.move(frame_id=held, to_box=slot.id, to_slot=1, swap=True)
        self.assertEqual(caught.exception.rule, "hold_other")
        with self.assertRaises(NotAllowed):
            at_work(self.url, lambda unit: colonies_holds.lift_hold(unit, self.k3, "negative"))
        at_work(self.url, lambda unit: colonies_holds.lift_hold(unit, self.k3, "negative"), identity("inspector"))
        self.move(frame_id=held, to_box=slot.id, to_slot=1, swap=True)
        self.drop(there)
        self.drop(other)

    def test_a_box_that_stays_keeps_its_frames(self) -> None:
        """An excluder between two boxes moves the upper one up with its frames; a box taken off sends them into store."""
        colony = made_id("corrane", "Kettle Wood", "K9")
        view = self.open(colony)
        self.drop(view)
        hive = view.place.hive.hive
        boxes = [WantedBox(box.purpose, box.frame_format, box.frames, box.id) for box in view.place.hive.boxes]
        excluder = WantedBox("excluder")
        on = date(2031, 8, 1)

        def lay(version: int, wanted: list[WantedBox]) -> None:
            at_work(
                self.url,
                lambda unit: colonies_hives.amend_hive(unit, colony, version, HiveChange("stacked boxes", wanted, on)),
            )

        lay(hive.version, [boxes[0], excluder, *boxes[1:]])
        now = self.open(colony)
        self.drop(now)
        self.assertEqual({frame.id for frame in now.place.frames}, {frame.id for frame in view.place.frames})
        lay(now.place.hive.hive.version, [excluder, *boxes[1:]] if len(boxes) > 1 else [excluder])
        gone = owner_rows(self.url, "SELECT count(*) FROM frame WHERE away = 'store' AND id = ANY(%s)",
                          [frame.id for frame in view.place.frames if frame.box_id == boxes[0].id])  # fmt: skip
        self.assertEqual(gone, [(boxes[0].frames,)])
        with self.assertRaises(InvalidInput):
            lay(now.place.hive.hive.version + 1, [replace(boxes[0], id=uuid4())])

    def test_two_colonies_in_one_body(self) -> None:
        """A divider parts the slots: each colony records its own side, and a comb over the divider is a move between two."""
        k2 = made_id("corrane", "Kettle Wood", "K2")
        view = self.open(k2)
        self.addCleanup(lambda: self.drop(view))
        self.assertEqual(view.place.hive.hive.divided_after, 5)
        self.assertEqual({one.label: one.hive_side for one in view.place.hive.colonies}, {"K1": "left", "K2": "right"})
        self.keep(view, 8, a=BROOD)
        with self.assertRaises(InvalidInput) as caught:
            self.keep(view, 3, a=BROOD)
        self.assertIn("other side of the divider", caught.exception.message)
        box = next(one for one in view.place.hive.boxes if one.frames)
        at = {frame.slot: frame.id for frame in view.place.frames if frame.box_id == box.id}
        self.move(frame_id=at[10], to_box=box.id, to_slot=5, swap=True)
        crossed = at_work(self.url, lambda unit: colonies_frames.moves_of_colony(unit, k2))
        self.assertEqual({(one.from_label, one.to_label) for one in crossed[:2]}, {("K2", "K1"), ("K1", "K2")})
        stack = [WantedBox(one.purpose, one.frame_format, one.frames, one.id) for one in view.place.hive.boxes]

        def lay(divider: Divider | None) -> VisitView:
            hive = at_work(self.url, lambda unit: visits_read.visit_view(unit, view.visit.id)).place.hive.hive
            at_work(self.url, lambda unit: colonies_hives.amend_hive(
                unit, k2, hive.version, HiveChange(hive.hive_type, stack, DEMO_TODAY, divider=divider),
            ))  # fmt: skip
            return at_work(self.url, lambda unit: visits_read.visit_view(unit, view.visit.id))

        out = lay(Divider())
        self.assertEqual(
            (out.place.hive.hive.divided_after, {one.hive_side for one in out.place.hive.colonies}),
            (None, {None}),
        )
        self.keep(view, 3, a=BROOD)
        elsewhere = lay(Divider(4, "left"))
        self.assertEqual(
            {one.label: one.hive_side for one in elsewhere.place.hive.colonies}, {"K1": "right", "K2": "left"}
        )
        self.assertEqual(lay(None).place.hive.hive.divided_after, 4, "said nothing of, the divider stays")
        lay(Divider(5, "right"))

    def test_a_keeper_reaches_only_the_own(self) -> None:
        """Another keeper's visit is not found, its frames and moves are not seen, its photo neither."""
        view = self.open(self.k1)
        keeper = owner_rows(self.url, "SELECT keeper_id FROM apiary WHERE id <> %s AND association_id = %s "
                            "AND keeper_id <> (SELECT keeper_id FROM apiary WHERE id = %s) LIMIT 1",
                            view.place.apiary_id, made_id("corrane"), view.place.apiary_id)[0][0]  # fmt: skip
        stranger = Identity(made_id("person", "keeper@corrane.example"), made_id("x"), made_id("corrane"), "keeper", keeper, "Etc/GMT+1")  # fmt: skip
        with self.assertRaises(NotFound):
            at_work(self.url, lambda unit: visits_read.visit_view(unit, view.visit.id), stranger)
        with as_app(self.url, stranger) as connection:
            for table in ("frame", "visit_frame", "frame_move", "colony_hold"):
                own = f"SELECT count(*) FROM {table} WHERE association_id IS NOT NULL"  # noqa: S608
                everything = owner_rows(self.url, own)[0][0]
                found = connection.execute(own).fetchone()
                assert found is not None
                self.assertLess(int(str(found[0])), max(1, everything), table)
        self.drop(view)

    def test_before_opening(self) -> None:
        """The weather is judged before the hive is opened, and kept with its version."""
        view = self.open(self.k3)
        cold = Before(air_temp_c=8.0, board_mites=12, board_days=3.0)
        kept = at_work(self.url, lambda unit: visits_record.save_part(unit, view.visit.id, "before", 0, cold))
        self.assertEqual([one.code for one in kept.assessment.opening], ["too_cold", "board"])
        self.assertEqual(kept.visit.before_version, 1)
        self.drop(view)


if __name__ == "__main__":
    unittest.main()
