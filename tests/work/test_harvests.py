"""Honey taken: refused where it is not clear, taken on by name, kept for ever, found by a recall."""

from __future__ import annotations

from datetime import date
from uuid import UUID, uuid4

import psycopg

from redframe.core.errors import InvalidInput
from redframe.core.treatments.honey import HoneyFor
from redframe.core.treatments.overrides import Override
from redframe.demo.scenario import made_id
from redframe.demo.stock import lot_id
from redframe.store.errors import Conflict, NotFound
from redframe.store.harvests import Harvest
from redframe.work.colonies.harvests import HarvestOf, Taken, TakenRow, harvests_of, record_harvest, withdraw_harvest
from redframe.work.colonies.holds import hold_colony
from redframe.work.stock.read import where_placed
from redframe.work.treatments.record import NewAct, record_act
from tests.support import at_work, identity
from tests.work.test_treatments import SHORE, TODAY, Courses, later

VET = Override("C04", "the vet", "the strips never touched the supers")


class Harvests(Courses):
    def take(
        self, *taken: Taken, day: date = TODAY, honey_for: HoneyFor = "people", override: Override | None = None
    ) -> list[TakenRow]:
        """Take honey on a day."""
        of = HarvestOf(day, honey_for, "shore 1", "", override)
        return at_work(self.url, lambda unit: record_harvest(unit, of, taken), day=max(day, TODAY))

    def taken_of(self, colony: UUID) -> list[Harvest]:
        """What was taken from a colony."""
        return at_work(self.url, lambda unit: harvests_of(unit, colony))

    def in_hive(self) -> UUID:
        """A colony with strips in it since today."""
        course = self.planned()
        self.ready(course)
        self.act(course, "place_1", quantity=1, override=Override("T60", "Bettrys Lund", "own thermometer"))
        return self.colony

    def test_two_of_three(self) -> None:
        """One under treatment does not stop the others; sent again nothing is doubled."""
        shut = self.in_hive()
        free = [self.sound(SHORE) for _ in range(2)]
        rows = [Taken(uuid4(), one, kilograms) for one, kilograms in ((free[0], 12.5), (shut, 20.0), (free[1], None))]
        for _ in range(2):
            found = self.take(*rows)
            self.assertEqual([row.barred is not None for row in found], [False, True, False])
            self.assertEqual(found[1].barred and found[1].barred.until, None)
        self.assertEqual([one.honey_kg for one in self.taken_of(free[0])], [12.5])
        self.assertEqual([one.honey_kg for one in self.taken_of(free[1])], [None])
        self.assertEqual(self.taken_of(shut), [])

    def test_for_bees_and_by_name(self) -> None:
        """Bees may have it; for people somebody named takes it on, and that stays with it."""
        shut = self.in_hive()
        self.assertIsNone(self.take(Taken(uuid4(), shut, 3.0), honey_for="bees")[0].barred)
        self.assertIsNone(self.take(Taken(uuid4(), shut, 4.0), override=VET)[0].barred)
        self.assertEqual(
            [(one.honey_kg, one.honey_for, one.override_by) for one in self.taken_of(shut)],
            [(4.0, "people", "the vet"), (3.0, "bees", "")],
        )

    def test_held_back(self) -> None:
        """A hold bars it for people and for bees, and the others are recorded; a mentor's name does not lift it, an
        inspector with a reason sets it aside."""
        held, free = self.colony, self.sound(SHORE)
        at_work(
            self.url, lambda unit: hold_colony(unit, held, uuid4(), kind="notifiable", since=TODAY, why="ropy cells")
        )
        uses: tuple[HoneyFor, ...] = ("people", "bees")
        for honey_for in uses:
            for override in (None, VET):
                rows = self.take(
                    Taken(uuid4(), held, 5.0), Taken(uuid4(), free, 5.0), honey_for=honey_for, override=override
                )
                self.assertEqual([row.held is not None for row in rows], [True, False])
        self.assertEqual((len(self.taken_of(held)), len(self.taken_of(free))), (0, 4))
        of = HarvestOf(TODAY, "people", "", "", VET)
        (row,) = at_work(
            self.url, lambda unit: record_harvest(unit, of, [Taken(uuid4(), held, 5.0)]), identity("inspector")
        )  # fmt: skip
        self.assertEqual((row.held, len(self.taken_of(held))), (None, 1))

    def test_as_of_the_day_it_was_taken(self) -> None:
        """A hold of today does not reach back to the honey of yesterday; what was taken before the colony came is wrong."""
        held = self.colony
        at_work(
            self.url, lambda unit: hold_colony(unit, held, uuid4(), kind="notifiable", since=TODAY, why="ropy cells")
        )
        self.assertIsNone(self.take(Taken(uuid4(), held, 5.0), day=later(-1))[0].held)
        self.assertIsNotNone(self.take(Taken(uuid4(), held, 5.0))[0].held)
        with self.assertRaises(InvalidInput) as caught:
            self.take(Taken(uuid4(), held, 5.0), day=date(2019, 1, 1))
        self.assertEqual(caught.exception.field, "harvested_on")
        self.assertEqual(len(self.taken_of(held)), 1)

    def test_a_name_stays_only_where_it_was_needed(self) -> None:
        """Of two hives one was clear: nobody had to take on anything for it."""
        shut, free = self.in_hive(), self.sound(SHORE)
        self.take(Taken(uuid4(), shut, 4.0), Taken(uuid4(), free, 6.0), override=VET)
        self.assertEqual([self.taken_of(one)[0].override_by for one in (shut, free)], ["the vet", ""])

    def test_the_database_refuses_it_whoever_writes(self) -> None:
        """Past every rule of ours: what lies in the hive keeps honey for people out of the record."""
        shut = self.in_hive()
        with psycopg.connect(self.url) as owner, self.assertRaises(psycopg.errors.CheckViolation) as caught:
            owner.execute(
                "INSERT INTO harvest (id, association_id, colony_id, harvested_on, honey_for) "
                "SELECT gen_random_uuid(), association_id, id, %s, 'people' FROM colony WHERE id = %s",
                [TODAY, shut],
            )
        self.assertEqual(caught.exception.diag.constraint_name, "harvest_is_clear")

    def test_what_cannot_be(self) -> None:
        """The third row names its field; a day to come and another's colony are refused."""
        with self.assertRaises(InvalidInput) as caught:
            self.take(Taken(uuid4(), self.colony, 5.0), Taken(uuid4(), self.colony, 201.0))
        self.assertEqual(caught.exception.field, "rows[1].honey_kg")
        self.assertEqual(self.taken_of(self.colony), [])
        with self.assertRaises(InvalidInput) as caught:
            at_work(
                self.url,
                lambda unit: record_harvest(
                    unit, HarvestOf(later(1), "bees", "", "", None), [Taken(uuid4(), self.colony, 5.0)]
                ),
            )
        self.assertEqual(caught.exception.field, "harvested_on")
        with self.assertRaises(NotFound):
            self.take(Taken(uuid4(), made_id("ellery", "Old Jetty", "O1"), 5.0))
        with self.assertRaises(NotFound):
            at_work(
                self.url, lambda unit: harvests_of(unit, made_id("corrane", "Upper Fenn", "U1")),
                identity("keeper", keeper="Orla Fenwick"),
            )  # fmt: skip

    def test_it_was_not_so(self) -> None:
        """Withdrawn with a reason it stays on record; twice is a conflict."""
        one = Taken(uuid4(), self.colony, 5.0)
        self.take(one)
        for _ in range(2):
            try:
                at_work(self.url, lambda unit: withdraw_harvest(unit, one.id, "another hive"), reason="another hive")
            except Conflict:
                break
        else:
            self.fail("withdrawn twice")
        (kept,) = self.taken_of(self.colony)
        self.assertEqual((kept.honey_kg, kept.withdrawn_why), (5.0, "another hive"))

    def test_a_recall_finds_the_honey(self) -> None:
        """From the lot to the colony and on to the batches of honey taken since; what was withdrawn is not among them."""
        course = self.planned("OX_TRICKLE", overrides=[Override(rule, "the vet", "a trial") for rule in ("T20", "T21")])
        self.ready(course)
        crystals = lot_id("corrane", "XC-40")
        dose = NewAct(uuid4(), "place_1", "done", TODAY, 45, "", None, "", None, lot_id=crystals)
        at_work(self.url, lambda unit: record_act(unit, course, dose))
        self.take(Taken(uuid4(), self.colony, 9.0), override=VET)
        found = at_work(self.url, lambda unit: where_placed(unit, crystals))
        self.assertEqual([one.honey_batches for one in found if one.colony_id == self.colony], [["shore 1"]])
