"""Handling that is chosen at a visit, followed by later visits wherever the combs hang, ended, and compared."""

from __future__ import annotations

import unittest
from datetime import UTC, date, datetime
from typing import Any
from uuid import UUID, uuid4

from redframe.core.errors import InvalidInput, Refused
from redframe.core.visits.record import After, FrameRecord
from redframe.demo.scenario import made_id
from redframe.store.errors import Conflict, NotFound
from redframe.work.cases import record as cases_record
from redframe.work.cases.record import NewCase
from redframe.work.colonies import frames
from redframe.work.handling import choose, compare
from redframe.work.handling.choose import HandlingChoice, WantedHandling
from redframe.work.handling.follow import HandlingView
from redframe.work.visits import record as visits_record
from redframe.work.visits.record import FrameEntry
from tests.support import at_work, demo_template, identity, new_database

SICK, HOST = made_id("corrane", "Kettle Wood", "K4"), made_id("corrane", "Kettle Wood", "K6")
LOOKED = {"brood_combs": 2, "combs_read": 2, "bees_off": "shaken", "cells_opened": 10, "not_seen": ["foulbrood"]}


class Handled(unittest.TestCase):
    def setUp(self) -> None:
        self.url = new_database(demo_template())

    def do(self, act: Any, day: date = date(2031, 8, 2), role: str = "mentor", reason: str = "") -> Any:
        return at_work(self.url, act, identity(role), day=day, reason=reason)

    def visited(
        self, colony: UUID, day: date, mummies: dict[UUID | int, int], *, close: bool = True, looked: Any = LOOKED
    ) -> UUID:
        """A visit that reads two combs (by slot, or by the comb): how many mummies are on each."""
        visit, at = uuid4(), datetime(day.year, day.month, day.day, 12, tzinfo=UTC)
        view = self.do(lambda unit: visits_record.open_visit(unit, visit, colony, at), day)
        entries = []
        for where, number in mummies.items():
            hangs = next(one for one in view.place.frames if where in (one.id, one.slot))
            signs = [{"sign": "mummy_white", "number": number}] if number else []
            seen = FrameRecord.model_validate({"a": {"capped": 5}, "signs": signs})
            entries.append(FrameEntry(hangs.box_id, hangs.slot, 0, seen))
        self.do(lambda unit: visits_record.save_frames(unit, visit, entries), day)
        after = After.model_validate({"frames_of_bees": 9, "examination": looked})
        self.do(lambda unit: visits_record.save_part(unit, visit, "after", 0, after), day)
        if close:
            self.do(lambda unit: visits_record.close_visit(unit, visit), day)
        return visit

    def choice(self, visit: UUID) -> HandlingChoice:
        found: HandlingChoice = self.do(lambda unit: choose.choice_at(unit, visit, "chalkbrood"))
        return found

    def choose(self, visit: UUID, option: Any, combs: list[UUID] | None = None, number: UUID | None = None) -> UUID:
        wanted = WantedHandling(number or uuid4(), visit, "chalkbrood", option, "as the keeper wants it", combs or [])
        self.do(lambda unit: choose.choose(unit, wanted))
        return wanted.id

    def handlings(self) -> list[HandlingView]:
        found: list[HandlingView] = self.do(lambda unit: choose.handlings_of(unit, SICK))
        return found

    def test_a_comb_is_followed_where_it_hangs(self) -> None:
        """Two combs go above an excluder: looked at one by one they are less, then gone; what is left at home says
        nothing of them, and one clean comb declares nothing."""
        visit = self.visited(SICK, date(2031, 7, 27), {4: 40, 5: 20})
        choice = self.choice(visit)
        self.assertEqual([one.cells for one in choice.combs], [40, 20])
        combs = [one.frame_id for one in choice.combs]
        self.choose(visit, "clean_above_excluder", combs)
        self.assertTrue(self.handlings()[0].combs[0].cleared is None and self.handlings()[0].outcome is None)
        place = self.do(lambda unit: visits_record.open_visit(unit, uuid4(), HOST, unit.now)).place
        for comb, there in zip(combs, place.frames, strict=False):
            move = frames.WantedMove(
                uuid4(), comb, None, there.box_id, there.slot, None, date(2031, 7, 28), None, "", "", swap=True
            )
            self.do(lambda unit, move=move: frames.move_frame(unit, move))
        self.drop_drafts()
        self.visited(SICK, date(2031, 7, 29), {1: 0, 2: 0})
        self.assertEqual(self.handlings()[0].looks, [])
        self.visited(HOST, date(2031, 7, 30), {combs[0]: 0})
        (part,) = self.handlings()
        self.assertEqual([(one.looked_at, one.of, one.outcome) for one in part.looks], [(1, 2, None)])
        self.visited(HOST, date(2031, 7, 31), {combs[0]: 9})
        self.assertIsNone(self.handlings()[0].outcome, "the sicker one may be as it was")
        # The rest of the same day: each comb counts once, as it was last.
        self.visited(HOST, date(2031, 7, 31), {combs[0]: 0, combs[1]: 5})
        look = self.handlings()[0].looks[-1]
        self.assertEqual((look.cells, look.looked_at, look.outcome), (5, 2, "less"))
        self.assertEqual([one.cleared for one in self.handlings()[0].combs], [1.0, 0.75])
        self.assertEqual({one.label for one in self.handlings()[0].combs}, {"K6"})
        self.visited(HOST, date(2031, 8, 1), {combs[0]: 0, combs[1]: 0})
        self.assertEqual(self.handlings()[0].outcome, "gone")

    def drop_drafts(self) -> None:
        """The draft by which the host's combs were looked up."""
        from redframe.store import visits

        draft = self.do(lambda unit: visits.draft_of_colony(unit.connection, HOST))
        self.do(lambda unit: visits_record.drop_visit(unit, draft))

    def test_the_order_of_acts(self) -> None:
        """Nothing is chosen at an open visit, of combs without a sign, of another condition, twice; what was chosen
        twice by a device is there once; ended once, and again open to another way."""
        draft = self.visited(SICK, date(2031, 7, 20), {4: 40}, close=False)
        with self.assertRaises(Conflict):
            self.choose(draft, "wait_for_flow")
        self.do(lambda unit: visits_record.close_visit(unit, draft), date(2031, 7, 20))
        comb = self.choice(draft).combs[0].frame_id
        for option, combs, error in (
            ("clean_above_excluder", [], "combs"), ("clean_above_excluder", [uuid4()], "combs"),
            ("wait_for_flow", [comb], "combs"), ("requeen", [], "option"),
        ):  # fmt: skip
            with self.subTest(option=option), self.assertRaises(InvalidInput) as refused:
                self.choose(draft, option, combs)
            self.assertEqual(refused.exception.field, error)
        number = uuid4()
        for _ in range(2):
            self.choose(draft, "wait_for_flow", number=number)
        with self.assertRaises(Conflict):
            self.choose(draft, "melt_and_requeen")
        self.visited(SICK, date(2031, 7, 30), {4: 60, 5: 10})
        (view,) = self.handlings()
        self.assertEqual((view.handling.cells, view.outcome), (40, "more"))
        self.do(lambda unit: choose.end(unit, number, 1, "it grows", by_mistake=False), reason="it grows")
        with self.assertRaises(Conflict):
            self.do(lambda unit: choose.end(unit, number, 1, "again", by_mistake=False), reason="again")
        self.choose(draft, "melt_and_requeen")
        # What was seen after its end changes nothing of it.
        self.visited(SICK, date(2031, 8, 2), {4: 0, 5: 0})
        ended = next(one for one in self.handlings() if one.handling.id == number)
        self.assertEqual((ended.outcome, ended.handling.state), ("more", "ended"))
        with self.assertRaises(NotFound):
            self.do(lambda unit: choose.handlings_of(unit, uuid4()))

    def test_the_neighbours_of_then(self) -> None:
        """A way is judged by what was known on the day of its visit: a colony that grew strong later is none."""
        visit = self.visited(SICK, date(2031, 2, 1), {4: 40})
        ways = {one.id: one.judged.fit for one in self.choice(visit).options}
        self.assertEqual(ways["clean_above_excluder"], "unlikely", "in winter nobody looked how strong they are")
        later = self.visited(SICK, date(2031, 7, 27), {4: 40})
        self.assertEqual({one.id: one.judged.fit for one in self.choice(later).options}["clean_above_excluder"], "fits")

    def test_a_hold_bars_every_way(self) -> None:
        """A case of the colony, or a standstill of its apiary, and nothing may be chosen."""
        visit = self.visited(SICK, date(2031, 7, 27), {4: 40})
        new = NewCase(uuid4(), HOST, "efb", date(2031, 8, 1), "twisted larvae")
        self.do(lambda unit: cases_record.raise_case(unit, new), role="inspector")
        self.assertEqual({one.judged.fit for one in self.choice(visit).options}, {"barred"})
        with self.assertRaises(Refused):
            self.choose(visit, "wait_for_flow")

    def test_the_region(self) -> None:
        """What was entered by mistake counts nowhere; what is open counts by its last look."""
        before = self.counted()
        visit = self.visited(SICK, date(2031, 7, 20), {4: 40})
        number = self.choose(visit, "melt_and_requeen")
        self.visited(SICK, date(2031, 8, 1), {4: 10, 5: 0})
        self.assertEqual(self.counted(), before + 1)
        self.do(lambda unit: choose.end(unit, number, 1, "another hive", by_mistake=True), reason="another hive")
        self.assertEqual(self.counted(), before)

    def counted(self) -> int:
        """How often melting came out as less in the association."""
        found = self.do(compare.outcomes)
        return sum(
            option.compared.outcomes["less"]
            for one in found
            for option in one.options
            if option.compared.option == "melt_and_requeen"
        )


if __name__ == "__main__":
    unittest.main()
