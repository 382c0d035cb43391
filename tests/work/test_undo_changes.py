"""Undo of what was changed of a colony: every row is as it was before, whatever the change; and what it refuses."""

from __future__ import annotations

import unittest
from collections.abc import Callable, Coroutine
from datetime import UTC, date, datetime
from typing import Any
from uuid import UUID, uuid4

import psycopg
from psycopg.sql import SQL, Identifier

from redframe.core.colonies.hive_state import WantedBox
from redframe.core.colonies.states import ColonyState
from redframe.core.visits.record import After
from redframe.demo.scenario import made_id
from redframe.store import undo as store
from redframe.store.database import Identity
from redframe.store.errors import Conflict
from redframe.work.colonies import frames, hives, holds, lineage, queens, read, record, undo
from redframe.work.colonies.queens import QueenRecord
from redframe.work.sampling import record as sampling_record
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.visits import record as visits_record
from tests.support import at_work, demo_template, identity, new_database, owner_rows, visited, washed

TODAY = date(2031, 8, 2)
NOW = datetime(2031, 8, 2, 9, tzinfo=UTC)
HAY, BANK = made_id("corrane", "apiary", "Plover Hay"), made_id("corrane", "apiary", "Skerrow Bank")
DEEP, SUPER = WantedBox("brood", "A_deep", 10), WantedBox("super", "A_medium", 9)
LAYING = QueenRecord(2030, None, "mated", date(2031, 5, 1), None, None)
INSPECTOR = identity("inspector")
MAY = date(2031, 5, 1)
TIME = "CREATE OR REPLACE FUNCTION undo_time() RETURNS interval LANGUAGE sql STABLE AS $$ SELECT interval '{}' $$"
TABLES = ("colony", "queen", "colony_hold", "colony_event", "hive", "hive_box", "frame", "frame_move", "colony_status")
Act = Callable[[UnitOfWork], Coroutine[Any, Any, Any]]


class Changes(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def at(self, act: Act, who: Identity | None = None) -> Any:
        return at_work(self.url, act, who)

    def rows(self) -> dict[str, set[str]]:
        """All rows of all tables that a change may touch, but for their versions."""
        with psycopg.connect(self.url) as owner:
            return {
                table: {
                    str(row[0])
                    for row in owner.execute(SQL("SELECT to_jsonb(t) - 'version' FROM {} t").format(Identifier(table)))
                }
                for table in TABLES
            }

    def lasts(self, time: str) -> None:
        """Let an undo be possible for so long."""
        with psycopg.connect(self.url, autocommit=True) as owner:
            owner.execute(TIME.format(time))

    def change(self, colony: UUID, who: Identity = INSPECTOR) -> store.Change | None:
        """The change of a colony that its page offers to undo."""
        view: read.ColonyView = self.at(lambda unit: read.colony_view(unit, colony), who)
        return view.undoable

    def undo(self, colony: UUID, change: store.Change | None, who: Identity = INSPECTOR) -> None:
        name = change.change if change else "0"
        self.at(lambda unit: undo.undo_change(unit, colony, name), who)

    def colony(self, label: str, **changes: Any) -> UUID:
        """A colony of Plover Hay with a hive and a queen, or as `changes` say."""
        fields: dict[str, Any] = {
            "id": uuid4(), "apiary_id": HAY, "label": label, "since": date(2031, 5, 1), "note": "", "hive_id": None,
            "hive_type": "stacked boxes", "boxes": [DEEP, SUPER], "queen": LAYING, "split_from": None, **changes,
        }  # fmt: skip
        self.at(lambda unit: record.add_colony(unit, record.NewColony(**fields)))
        number: UUID = fields["id"]
        return number

    def test_every_change_goes_without_a_trace_but_its_history(self) -> None:
        """Whatever was done to a colony, its neighbour, its hive and its frames, all rows are as before."""
        one, other = self.colony("U1"), self.colony("U2")
        # A comb for each slot, and a hold to lift, from before.
        self.at(lambda unit: visits_record.open_visit(unit, uuid4(), one, NOW))
        held = self.colony("U3", queen=None)
        self.at(lambda unit: holds.hold_colony(unit, held, uuid4(), kind="other", since=TODAY, why="found weak"))
        view: read.ColonyView = self.at(lambda unit: read.colony_view(unit, one))
        boxes = [box for box in view.hive if box.frames]
        frame = owner_rows(self.url, "SELECT id FROM frame WHERE box_id = %s AND slot = 3", boxes[0].box_id)[0][0]
        kept = [WantedBox(box.purpose, box.frame_format, box.frames, box.box_id) for box in boxes[:1] if box.purpose]
        new = record.NewColony(uuid4(), HAY, "U4", TODAY, "", None, "stacked boxes", [DEEP], None, one)
        wanted = hives.HiveChange("stacked boxes", [*kept, SUPER, SUPER], TODAY, divider=hives.Divider(4, "left"))
        caged = QueenRecord(2029, "red", "caged", date(2031, 5, 1), None, date(2031, 8, 20))
        away = frames.WantedMove(uuid4(), frame, None, None, None, "freezer", TODAY, None, "", "")
        merger = lineage.Merger(other, TODAY, "of_this", "onto_other")

        def amended(label: str = "U1", state: ColonyState = "alive", since: date = MAY, note: str = "") -> Act:
            return lambda unit: record.amend_colony(
                unit, one, view.colony.version, label=label, state=state, state_since=since, note=note
            )

        # Versions grow with an undo too: an act takes its own from `view`, which is read again before each.
        acts: dict[store.ChangeKind, tuple[UUID, Act]] = {
            "held": (one, lambda unit: holds.hold_colony(unit, one, uuid4(), kind="other", since=TODAY, why="spotty")),
            "lifted": (held, lambda unit: holds.lift_hold(unit, held, "laboratory: negative")),
            "queen_given": (one, lambda unit: queens.add_queen(unit, uuid4(), one, LAYING)),
            "queen_amended": (one, lambda unit: queens.amend_queen(unit, one, view.queens[0].queen.version, caged)),
            "renumbered": (one, amended(label="U9")),
            "state": (one, amended(state="dead", since=TODAY)),
            "note": (one, amended(note="by the gate")),
            "moved": (one, lambda unit: lineage.move(
                unit, one, view.colony.version, lineage.WantedPlace(BANK, "B77", TODAY))),
            "merged_into": (one, lambda unit: lineage.merge(unit, one, view.colony.version, merger)),
            "split_from": (one, lambda unit: record.add_colony(unit, new)),
            "boxes": (one, lambda unit: hives.amend_hive(unit, one, view.hive[0].version, wanted)),
            "frame_moved": (one, lambda unit: frames.move_frame(unit, away)),
        }  # fmt: skip
        for kind, (colony, act) in acts.items():
            with self.subTest(kind=kind):
                view = self.at(lambda unit: read.colony_view(unit, one))
                before = self.rows()
                self.at(act, INSPECTOR)
                self.assertNotEqual(self.rows(), before)
                found = self.change(colony)
                self.assertEqual(found and found.kind, kind)
                self.undo(colony, found)
                self.assertEqual(self.rows(), before)
                self.assertIsNone(self.change(colony))
                with self.assertRaises(Conflict):
                    self.undo(colony, found)

    def test_another_person_and_another_colony_do_not_undo_it(self) -> None:
        """It is offered to whoever changed it, of the colony that was changed, and for a while."""
        one, other = self.colony("V1"), self.colony("V2")
        self.at(lambda unit: queens.add_queen(unit, uuid4(), one, LAYING), INSPECTOR)
        found = self.change(one)
        for number, who in ((one, identity("mentor")), (one, identity("administrator")), (other, INSPECTOR)):
            with self.subTest(who=who.role), self.assertRaises(Conflict):
                self.undo(number, found, who)
            self.assertNotEqual(found, self.change(number, who))
        self.lasts("0 seconds")
        self.addCleanup(self.lasts, "15 minutes")
        self.assertIsNone(self.change(one))
        with self.assertRaises(Conflict):
            self.undo(one, found)

    def test_what_rests_on_it_keeps_it(self) -> None:
        """A count, a visit, a later change by another and a draft of a colony just split keep what they rest on."""
        mentor = identity("mentor")
        new = record.NewColony(uuid4(), HAY, "W9", TODAY, "", None, "stacked boxes", [DEEP], None, None)
        later: dict[str, Callable[[UUID], None]] = {
            "a count": lambda one: self.at(
                lambda unit: sampling_record.record_count(unit, washed(one, (3,), TODAY)), mentor),
            "a visit": lambda one: visited(self.url, one, TODAY, After(temper=8)),
            "another's change": lambda one: self.at(
                lambda unit: queens.add_queen(unit, uuid4(), one, LAYING), mentor),
        }  # fmt: skip
        for number, (name, rest) in enumerate(later.items()):
            with self.subTest(name):
                one = self.colony(f"W{number}")
                self.at(lambda unit, one=one: queens.add_queen(unit, uuid4(), one, LAYING), INSPECTOR)
                found = self.change(one)
                self.assertIsNotNone(found)
                rest(one)
                self.assertIsNone(self.change(one))
                with self.assertRaises(Conflict):
                    self.undo(one, found)
        self.at(lambda unit: record.add_colony(unit, new), INSPECTOR)
        found = self.change(new.id)
        self.at(lambda unit: visits_record.open_visit(unit, uuid4(), new.id, NOW), mentor)
        with self.assertRaises(Conflict):
            self.undo(new.id, found)
        view = self.at(lambda unit: read.colony_view(unit, new.id))
        self.assertEqual(view.colony.label, "W9")
