"""Pests at a colony: checked, answered, looked at again, withdrawn; robbers, traps and the entrance."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any
from uuid import UUID, uuid4

from redframe.core.errors import InvalidInput
from redframe.core.pests.scoring import Counted
from redframe.store.errors import Conflict, NotFound
from redframe.work.pests import read, record
from redframe.work.pests.record import WantedCheck, WantedEntrance, WantedTrap
from tests.support import at_work, identity, owner_rows
from tests.work.test_holds import HAY, MENTOR, TODAY, YESTERDAY, Demo


class Pests(Demo):
    def check(self, colony: UUID | None, pest: Any, score: int | None = None, **changes: Any) -> UUID:
        """Record a check."""
        usual = {
            "id": uuid4(), "apiary_id": None if colony else HAY, "colony_id": colony, "pest": pest, "seen_on": TODAY,
            "score": score, "counted": Counted(), "done": "", "note": "", "robbers": [], "robbers_seen": True,
        }  # fmt: skip
        wanted = WantedCheck(**{**usual, **changes})
        self.do(lambda unit: record.record_check(unit, wanted))
        self.do(lambda unit: record.record_check(unit, wanted))
        return wanted.id

    def view(self, colony: UUID) -> read.ColonyPests:
        """The pests of a colony."""
        return self.do(lambda unit: read.pests_of_colony(unit, colony))

    def test_before_and_after(self) -> None:
        """Counted, answered, looked at again: the score fell; what it asked for then reads the same."""
        colony = self.colony()
        self.check(colony, "wasps", seen_on=YESTERDAY, counted=Counted(hovering=12), done="entrance to one bee")
        before = self.view(colony).latest[0]
        self.assertEqual((before.check.score, before.check.look_by), (3, YESTERDAY + timedelta(days=3)))
        self.check(colony, "wasps", counted=Counted(hovering=1))
        told = self.view(colony)
        self.assertEqual((told.latest[0].check.score, len(told.checks)), (1, 2))
        self.assertIn("score_fell", told.latest[0].answer.cautions)
        self.assertEqual(told.checks[1], before)

    def test_what_waits_for_another_look(self) -> None:
        """The latest of each pest at each place; one withdrawn brings back the one before."""
        colony = self.colony()
        first = self.check(colony, "ants", 2, seen_on=YESTERDAY)
        second = self.check(colony, "ants", 0)
        lines = lambda: {one.id for one in self.do(read.pests_ahead).lines}  # noqa: E731
        self.assertFalse({first, second} & lines())
        at_work(self.url, lambda unit: record.withdraw_check(unit, second, "another hive"), MENTOR, reason="another hive")  # fmt: skip
        self.assertIn(first, lines())
        with self.assertRaises(Conflict):
            at_work(self.url, lambda unit: record.withdraw_check(unit, second, "twice"), MENTOR, reason="twice")

    def test_bad_entries_say_where(self) -> None:
        """No score, one that differs from the count, one beyond the scale, robbers of no robbing, beetles in store."""
        colony, other = self.colony(), self.colony()
        for pest, score, changes, field in (
            ("ants", None, {}, "score"),
            ("beetle", 1, {"counted": Counted(adults=40)}, "score"),
            ("ants", 4, {}, "score"),
            ("ants", 1, {"robbers": [other]}, "robbers"),
            ("ants", 1, {"seen_on": date(2031, 8, 9)}, "seen_on"),
        ):
            with self.subTest(pest=pest, field=field), self.assertRaises(InvalidInput) as caught:
                self.check(colony, pest, score, **changes)
            self.assertEqual(caught.exception.field, field)
        with self.assertRaises(InvalidInput) as caught:
            self.check(None, "beetle", 1)
        self.assertEqual(caught.exception.field, "pest")

    def test_combs_in_store(self) -> None:
        """Moth in the store of an apiary: looked at again in a fortnight; clean ones in four weeks."""
        self.check(None, "moth", 2)
        self.check(None, "moth", 0)
        told = self.do(lambda unit: read.pests_in_store(unit, HAY))
        days = [(one.check.look_by - TODAY).days for one in told.checks if one.check.look_by]
        self.assertEqual(sorted(days), [14, 28])

    def test_robbers_go_into_the_movements(self) -> None:
        """Seen white with flour: an edge from the robbed to the robber, once; the brood is looked at within a week."""
        colony, robber = self.colony(), self.colony()
        self.check(colony, "robbing", 3, robbers=[robber])
        rows = owner_rows(
            self.url, "SELECT way, kind, other_colony_id, is_seen FROM movement WHERE colony_id = %s", colony
        )
        self.assertEqual(rows, [("went", "robbing", robber, True)])
        self.assertEqual(self.view(colony).latest[0].check.disease_by, TODAY + timedelta(days=7))

    def test_traps_are_read_by_the_day(self) -> None:
        """Days run from the last emptying; not twice on a day, not after they were taken out."""
        colony, trap = self.colony(), uuid4()
        wanted = WantedTrap(trap, colony, "bar_trap", "top box", 2, date(2031, 7, 19))
        self.do(lambda unit: record.set_trap(unit, wanted))
        for on, caught in ((date(2031, 7, 26), 28), (date(2031, 8, 2), 14)):
            self.do(lambda unit, on=on, caught=caught: record.empty_trap(unit, trap, uuid4(), on, caught))
        (shown,) = self.view(colony).traps
        self.assertEqual([one.per_trap_day for one in shown.readings], [2.0, 1.0])
        with self.assertRaises(InvalidInput):
            self.do(lambda unit: record.empty_trap(unit, trap, uuid4(), TODAY, 1))
        self.do(lambda unit: record.remove_trap(unit, trap, TODAY))
        with self.assertRaises(Conflict):
            self.do(lambda unit: record.remove_trap(unit, trap, TODAY))

    def test_the_entrance(self) -> None:
        """The latest state with what speaks against it; bees are not shut in without a word."""
        colony = self.colony()
        first = WantedEntrance(uuid4(), colony, date(2031, 7, 20), 10, "reducer", True, "wasps")
        self.do(lambda unit: record.set_entrance(unit, first))
        told = self.view(colony)
        self.assertLessEqual({"narrow_too_long", "mesh_shut_too", "narrow_and_strong"}, set(told.warnings))
        wide = WantedEntrance(uuid4(), colony, TODAY, None, "open", False, "")
        self.do(lambda unit: record.set_entrance(unit, wide))
        self.assertEqual((self.view(colony).entrance.device, self.view(colony).warnings), ("open", []))  # type: ignore[union-attr]
        shut = WantedEntrance(uuid4(), colony, TODAY, None, "shut", False, "")
        with self.assertRaises(InvalidInput) as caught:
            self.do(lambda unit: record.set_entrance(unit, shut))
        self.assertEqual(caught.exception.field, "why")

    def test_a_keeper_of_other_hives_sees_none(self) -> None:
        """Neither reads nor records."""
        colony = self.colony()
        self.check(colony, "ants", 1)
        keeper = identity("keeper")
        with self.assertRaises(NotFound):
            self.do(lambda unit: read.pests_of_colony(unit, colony), keeper)
        self.assertNotIn(colony, {one.colony_id for one in self.do(read.pests_ahead, keeper).lines})
