"""Colonies over their lives: moved, rehoused, split, merged, renumbered, requeened; and what is refused."""

from __future__ import annotations

import unittest
from datetime import date
from typing import Any
from uuid import UUID, uuid4

from redframe.core.colonies.hive_state import WantedBox
from redframe.core.errors import InvalidInput
from redframe.core.visits.record import After
from redframe.demo.scenario import made_id
from redframe.store import colonies as store
from redframe.store.errors import Conflict, NotFound
from redframe.work.colonies import hives as colonies_hives
from redframe.work.colonies import lineage as colonies_lineage
from redframe.work.colonies import queens as colonies_queens
from redframe.work.colonies import read as colonies_read
from redframe.work.colonies import record as colonies_record
from redframe.work.colonies.hives import HiveChange
from redframe.work.colonies.lineage import Merger
from redframe.work.colonies.queens import QueenRecord
from redframe.work.colonies.read import ColonyView
from redframe.work.unit_of_work import UnitOfWork
from tests.support import at_work, demo_template, identity, living, new_database, owner_rows, visited

AUGUST = date(2031, 8, 1)
DEEP = WantedBox("brood", "A_deep", 10)
SUPER = WantedBox("super", "A_medium", 9)
LAYING = QueenRecord(2030, None, "mated", date(2031, 5, 1), None, None)


class Demo(unittest.TestCase):
    """A copy of the demo, and what the tests ask of it."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def view(self, colony: UUID) -> ColonyView:
        """A colony as its screen shows it."""
        return at_work(self.url, lambda unit: colonies_read.colony_view(unit, colony))

    def add(self, apiary: str, label: str, **changes: Any) -> UUID:
        """Add a colony to an apiary of the demo."""
        number = uuid4()
        fields: dict[str, Any] = {
            "apiary_id": made_id("corrane", "apiary", apiary), "label": label, "since": date(2031, 5, 1), "note": "",
            "hive_id": None, "hive_type": "stacked boxes", "boxes": [DEEP], "queen": None, "split_from": None, **changes,
        }  # fmt: skip
        at_work(self.url, lambda unit: colonies_record.add_colony(unit, colonies_record.NewColony(id=number, **fields)))
        return number

    def move(self, colony: UUID, to: str, **changes: Any) -> None:
        """Move a colony to an apiary of the demo."""
        before = self.view(colony).colony
        fields: dict[str, Any] = {
            "apiary_id": made_id("corrane", "apiary", to), "hive": "along", "hive_id": None, "hive_type": "stacked boxes",
            "boxes": [], "label": before.label, "on": AUGUST, "note": "", **changes,
        }  # fmt: skip
        at_work(
            self.url,
            lambda unit: colonies_lineage.move(unit, colony, before.version, colonies_lineage.WantedPlace(**fields)),
        )

    def refuses(self, field: str) -> Any:
        """A refusal that names the field."""
        return self.assertRaisesRegex(InvalidInput, f"^{field}:")


class Moves(Demo):
    def test_a_colony_moves_with_its_hive_and_its_history(self) -> None:
        """Counts, level and hive go along; the lineage tells from where to where; the old apiary has one fewer."""
        number = UUID(living(self.url, "Plover Hay")[0][0])
        before = self.view(number)
        here = len(living(self.url, "Plover Hay"))
        self.move(number, "Skerrow Bank", label="P-new", note="for the heather")
        after = self.view(number)
        self.assertEqual((after.apiary.name, after.colony.label), ("Skerrow Bank", "P-new"))
        self.assertEqual([count.id for count in after.counts], [count.id for count in before.counts])
        self.assertEqual((after.colony.level, after.colony.count_id), (before.colony.level, before.colony.count_id))
        self.assertEqual([box.id for box in after.hive], [box.id for box in before.hive])
        kinds = {event.kind: (event.previous, event.current) for event in after.events if event.kind != "started"}
        self.assertEqual(kinds["moved"], ("Plover Hay", "Skerrow Bank"))
        self.assertEqual(kinds["renumbered"], (before.colony.label, "P-new"))
        self.assertEqual(len(living(self.url, "Plover Hay")), here - 1)

    def test_one_of_two_in_a_hive_moves_without_it(self) -> None:
        """A shared hive stays; the colony that leaves needs another, of its own or shared."""
        first = self.add("Plover Hay", "pair-1", hive_type="two colonies side by side")
        shared = self.view(first).colony.hive_id
        second = self.add("Plover Hay", "pair-2", hive_id=shared)
        self.assertEqual(self.view(second).hive[0].labels, ["pair-1", "pair-2"])
        with self.refuses("hive"):
            self.move(second, "Skerrow Bank")
        with self.refuses("boxes"):
            self.move(second, "Skerrow Bank", hive="own")
        self.move(second, "Skerrow Bank", hive="own", boxes=[DEEP, SUPER])
        self.assertEqual([box.purpose for box in self.view(second).hive], ["brood", "super"])
        self.assertEqual(self.view(first).hive[0].labels, ["pair-1"])
        third = self.add("Skerrow Bank", "guest")
        with self.refuses("hive_id"):
            self.move(third, "Skerrow Bank", hive="shared", hive_id=shared)
        self.move(third, "Skerrow Bank", hive="shared", hive_id=self.view(second).colony.hive_id)
        self.assertEqual(self.view(third).hive[0].labels, ["guest", "pair-2"])

    def test_what_a_move_refuses(self) -> None:
        """The same place, a taken label, a day to come, a dead colony, somebody else's apiary, a stale version."""
        number = self.add("Plover Hay", "stays")
        taken = living(self.url, "Skerrow Bank")[0][1]
        for field, changes in (
            ("apiary_id", {"to": "Plover Hay"}), ("label", {"to": "Skerrow Bank", "label": taken}),
            ("on", {"to": "Skerrow Bank", "on": date(2031, 8, 3)}),
        ):  # fmt: skip
            with self.subTest(field=field), self.refuses(field):
                self.move(number, **changes)  # type: ignore[arg-type]
        fields: dict[str, Any] = {
            "apiary_id": made_id("ellery", "apiary", "nowhere"), "hive": "along", "hive_id": None, "hive_type": "", "boxes": [],
            "label": "stays", "on": AUGUST, "note": "",
        }  # fmt: skip
        with self.assertRaises(NotFound):
            at_work(
                self.url, lambda unit: colonies_lineage.move(unit, number, 1, colonies_lineage.WantedPlace(**fields))
            )
        fields["apiary_id"] = made_id("corrane", "apiary", "Skerrow Bank")
        with self.assertRaises(Conflict):
            at_work(
                self.url, lambda unit: colonies_lineage.move(unit, number, 7, colonies_lineage.WantedPlace(**fields))
            )
        self.assertEqual(self.view(number).apiary.name, "Plover Hay", "a refused move moves nothing")
        orla = identity("keeper", keeper="Orla Fenwick")
        own = UUID(living(self.url, "Tarn Head")[0][0])
        fields |= {"apiary_id": made_id("corrane", "apiary", "Plover Hay"), "label": "T-x"}
        with self.assertRaises(NotFound):
            at_work(
                self.url, lambda unit: colonies_lineage.move(unit, own, 1, colonies_lineage.WantedPlace(**fields)), orla
            )


class Hives(Demo):
    def lay(self, colony: UUID, boxes: list[WantedBox], on: date = AUGUST, version: int | None = None) -> None:
        """Record the boxes of a colony's hive."""
        seen = self.view(colony).hive
        held = version if version is not None else (seen[0].version if seen else 0)
        at_work(
            self.url, lambda unit: colonies_hives.amend_hive(unit, colony, held, HiveChange("stacked boxes", boxes, on))
        )

    def test_boxes_keep_the_days_on_which_they_stood(self) -> None:
        """A super on in June and off in August: today one box, and both kept with their days."""
        number = self.add("Plover Hay", "boxes")
        self.lay(number, [DEEP, SUPER], date(2031, 6, 10))
        self.assertEqual([(box.purpose, box.since) for box in self.view(number).hive], [("brood", date(2031, 5, 1)), ("super", date(2031, 6, 10))])  # fmt: skip
        self.lay(number, [DEEP])
        self.assertEqual([box.purpose for box in self.view(number).hive], ["brood"])
        kept = owner_rows(self.url, "SELECT purpose, since, until FROM hive_box WHERE hive_id = %s ORDER BY since", self.view(number).colony.hive_id)  # fmt: skip
        self.assertEqual(kept, [("brood", date(2031, 5, 1), None), ("super", date(2031, 6, 10), AUGUST)])

    def test_two_people_at_one_hive(self) -> None:
        """The second of two who read the same hive hears of it; so is a day before the last change."""
        number = self.add("Plover Hay", "two")
        version = self.view(number).hive[0].version
        self.lay(number, [DEEP, DEEP], version=version)
        with self.assertRaises(Conflict):
            self.lay(number, [DEEP, SUPER], version=version)
        with self.refuses("on"):
            self.lay(number, [DEEP], date(2031, 7, 1))
        self.assertEqual([box.purpose for box in self.view(number).hive], ["brood", "brood"])

    def test_a_colony_without_a_hive_gets_one(self) -> None:
        """Found hanging in a tree, boxed later."""
        number = self.add("Plover Hay", "swarm", boxes=[])
        self.assertEqual(self.view(number).hive, [])
        self.lay(number, [DEEP])
        self.assertEqual([box.frame_format for box in self.view(number).hive], ["A_deep"])


class Lives(Demo):
    def test_a_split_knows_its_mother_and_the_mother_her_split(self) -> None:
        """The lineage reads both ways."""
        mother = UUID(living(self.url, "Plover Hay")[1][0])
        number = self.add("Plover Hay", "daughter", split_from=mother)
        own = next(event for event in self.view(number).events if event.kind == "split_from")
        hers = next(event for event in self.view(mother).events if event.colony_id == number)
        self.assertEqual((own.other_colony_id, hers.kind, hers.own_label), (mother, "split_from", "daughter"))

    def test_a_merger_ends_one_and_keeps_both_histories(self) -> None:
        """The one that went in is merged, without a queen, and cannot go in twice; itself is no partner."""
        one, other = self.add("Plover Hay", "m1", queen=LAYING), self.add("Plover Hay", "m2")  # fmt: skip
        version = self.view(one).colony.version
        with self.refuses("into"):
            at_work(self.url, lambda unit: colonies_lineage.merge(unit, one, version, Merger(one, AUGUST)))
        at_work(
            self.url,
            lambda unit: colonies_lineage.merge(unit, one, version, Merger(other, AUGUST, combs="store", note="weak")),
        )
        merged = self.view(one)
        self.assertEqual((merged.colony.state, merged.queens[0].queen.until), ("merged", AUGUST))
        with self.assertRaises(Conflict):
            at_work(
                self.url, lambda unit: colonies_lineage.merge(unit, one, merged.colony.version, Merger(other, AUGUST))
            )
        with self.refuses("into"):
            at_work(self.url, lambda unit: colonies_lineage.merge(unit, other, 1, Merger(one, AUGUST)))

    def test_a_label_names_one_living_colony(self) -> None:
        """Taken while its bearer lives, free once it is dead."""
        first, second = self.add("Plover Hay", "L1"), self.add("Plover Hay", "L2")

        async def relabel(unit: UnitOfWork) -> None:
            await colonies_record.amend_colony(unit, second, 1, label="L1", state="alive", state_since=AUGUST, note="")

        with self.refuses("label"):
            at_work(self.url, relabel)
        at_work(self.url, lambda unit: colonies_record.amend_colony(unit, first, 1, label="L1", state="dead", state_since=AUGUST, note=""))  # fmt: skip
        at_work(self.url, relabel)
        self.assertEqual(self.view(second).colony.label, "L1")

    def test_a_queens_mark_is_read_against_her_year(self) -> None:
        """2031 is white: a blue mark on her says that the year or the queen is another."""
        number = self.add("Plover Hay", "queen")

        first = uuid4()

        def crown(queen_id: UUID) -> None:
            record = QueenRecord(2031, "blue", "mated", AUGUST, None, None)
            at_work(self.url, lambda unit: colonies_queens.add_queen(unit, queen_id, number, record))

        crown(first)
        queen = self.view(number).queens[0]
        self.assertEqual(queen.mark_expected, "white")
        self.assertIn("white", queen.mark_differs or "")
        crown(first)
        self.assertEqual(len(self.view(number).queens), 1, "sent twice she is one queen")
        crown(uuid4())
        present = [(one.queen.until is None) for one in self.view(number).queens]
        self.assertEqual(present, [True, False], "the record of the queen before her has ended")

    def test_a_visit_told_twice_is_one_visit(self) -> None:
        """The device that got no answer sends it again; the same id for another visit is refused."""
        number, visit = self.add("Plover Hay", "visited"), uuid4()
        found = After(seams_of_bees=7.0, capped_brood=True, eggs_seen=True, supers_on=False)
        for _ in range(2):
            visited(self.url, number, AUGUST, found, visit)
        self.assertEqual([one.id for one in self.view(number).visits], [visit])
        self.assertEqual((self.view(number).colony.strength, self.view(number).colony.strength_unit), (7.0, "seams"))
        with self.assertRaises(Conflict):
            visited(self.url, number, AUGUST, After(seams_of_bees=3.0), visit)

    def test_frame_formats_have_their_sizes(self) -> None:
        """Outer sizes in mm; the standard deep frame is 448 by 232."""
        formats = {one.id: one for one in at_work(self.url, colonies_read.frame_formats)}
        self.assertEqual((formats["A_deep"].width_mm, formats["A_deep"].height_mm), (448, 232))
        self.assertEqual(at_work(self.url, lambda unit: store.colonies_by_id(unit.connection, [uuid4()])), [])
