"""Traces from the record: combs from hive to hive and out of store, splits, mergers, moves, the round of a day."""

from __future__ import annotations

import unittest
from datetime import UTC, date, datetime
from typing import Any
from uuid import UUID, uuid4

from redframe.core.colonies.hive_state import WantedBox
from redframe.core.tracing import elsewhere as elsewhere_record
from redframe.core.tracing.elsewhere import MovedKind, Way
from redframe.core.visits.record import After, FrameRecord
from redframe.demo.scenario import made_id
from redframe.store.database import Identity
from redframe.store.errors import Conflict, NotAllowed, NotFound
from redframe.work.cases import record as cases_record
from redframe.work.cases import sources, traces
from redframe.work.cases.record import NewCase
from redframe.work.cases.traces import Contact, Traces, traces_of
from redframe.work.colonies import frames, lineage
from redframe.work.colonies import record as colonies_record
from redframe.work.colonies.record import NewColony
from redframe.work.movements import record as movements_record
from redframe.work.movements import where
from redframe.work.visits import record as visits_record
from redframe.work.visits.record import FrameEntry
from tests.support import at_work, demo_template, identity, new_database, owner_rows, visited

TODAY = date(2031, 8, 2)
INSPECTOR = identity("inspector")
HAY, GARTH = made_id("corrane", "apiary", "Plover Hay"), made_id("corrane", "apiary", "Brae Garth")
DEEP = WantedBox("brood", "A_deep", 10)


class TracesTest(unittest.TestCase):
    """Colonies, combs and moves at two apiaries of the demo."""

    url: str

    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    @classmethod
    def do(cls, act: Any, who: Identity = INSPECTOR, day: date = TODAY) -> Any:
        return at_work(cls.url, act, who, day=day)

    @classmethod
    def colony(cls, label: str, apiary: UUID, **more: Any) -> UUID:
        """A colony of ten combs that was looked at in July."""
        number = more.pop("id", None) or uuid4()
        new = NewColony(id=number, apiary_id=apiary, label=label, since=date(2031, 5, 1), boxes=[DEEP], **more)
        cls.do(lambda unit: colonies_record.add_colony(unit, new))
        visit = uuid4()
        view = cls.do(lambda unit: visits_record.open_visit(unit, visit, number, unit.now))
        cls.do(lambda unit: visits_record.drop_visit(unit, visit))
        assert view.place.frames
        return number

    def box(self, colony: UUID) -> UUID:
        query = "SELECT b.id FROM hive_box b JOIN colony c ON c.hive_id = b.hive_id WHERE c.id = %s AND b.until IS NULL"
        return UUID(str(owner_rows(self.url, query, colony)[0][0]))

    def comb(self, colony: UUID, slot: int) -> UUID:
        rows = owner_rows(self.url, "SELECT id FROM frame WHERE box_id = %s AND slot = %s", self.box(colony), slot)
        return UUID(str(rows[0][0]))

    def move(self, comb: UUID, to: UUID | None, slot: int | None, day: date) -> None:
        """A comb into another hive, or into store."""
        wanted = frames.WantedMove(
            uuid4(),
            comb,
            None,
            self.box(to) if to else None,
            slot,
            None if to else "store",
            day,
            None,
            "",
            "",
            swap=True,
        )
        self.do(lambda unit: frames.move_frame(unit, wanted))


class FromTheRecord(TracesTest):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.suspect = cls.colony("sick", HAY)
        cls.near, cls.far, cls.late = cls.colony("near", HAY), cls.colony("far", GARTH), cls.colony("late", GARTH)
        cls.child = uuid4()

    def test_what_left_and_what_came(self) -> None:
        """A comb to another apiary by way of the store, a split, a comb that came before; in days and words; what went
        before it was sick carries nothing."""
        kept = self.comb(self.suspect, 4)
        self.move(kept, None, None, date(2031, 7, 5))
        self.move(kept, self.far, 2, date(2031, 7, 9))
        self.move(self.comb(self.late, 3), self.suspect, 7, date(2031, 5, 20))
        self.colony("child", HAY, id=self.child, split_from=self.suspect)
        visited(self.url, self.suspect, date(2031, 7, 20), After(frames_of_bees=5))
        visited(self.url, self.far, date(2031, 7, 20), After(frames_of_bees=5))
        new = NewCase(uuid4(), self.suspect, "afb", TODAY, "brown remains")
        self.do(lambda unit: cases_record.raise_case(unit, new))
        found: Traces = self.do(lambda unit: traces_of(unit, new.id))
        self.assertTrue(found.window.assumed)
        spread = {one.label: one for one in found.spread}
        sources = {one.label: one for one in found.sources}
        by_store = spread["far"]
        self.assertEqual([one.kind for one in by_store.path], ["drawn_comb", "transfer"])
        self.assertEqual([one.origin for one in by_store.path], ["sick", "a comb in store"])
        self.assertEqual((by_store.on, by_store.band, by_store.apiary), (date(2031, 7, 9), "high", "Brae Garth"))
        self.assertEqual(spread["child"].path[0].kind, "split")
        self.assertEqual(spread["near"].path[0].kind, "same_apiary")
        self.assertEqual((sources["late"].path[0].kind, sources["late"].band), ("brood_frame", "high"))
        self.assertLess(sources["late"].on, date(2031, 5, 21))
        kinds = {leg.kind for one in found.spread for leg in one.path}
        self.assertIn("tools", kinds)
        self.assertOrdered(found.spread)
        with self.assertRaises(NotAllowed):
            self.do(lambda unit: traces_of(unit, new.id), identity("mentor"))

    def assertOrdered(self, contacts: list[Contact]) -> None:
        """The most dangerous first, each to be seen within the days of its band."""
        self.assertEqual([one.risk for one in contacts], sorted((one.risk for one in contacts), reverse=True))
        days = {one.band: (one.see_by - TODAY).days for one in contacts}
        self.assertLessEqual(set(days.items()), {("high", 7), ("medium", 14), ("low", 42)})

    def test_a_colony_is_followed_where_it_went(self) -> None:
        """It stood at one apiary until it was moved: whoever came there later is no contact, whoever is at the new is."""
        moved, host = self.colony("wander", GARTH), self.colony("host", made_id("corrane", "apiary", "Dunnock Mill"))
        version = owner_rows(self.url, "SELECT version FROM colony WHERE id = %s", moved)[0][0]
        place = lineage.WantedPlace(made_id("corrane", "apiary", "Dunnock Mill"), "wander", date(2031, 7, 1))
        self.do(lambda unit: lineage.move(unit, moved, version, place))
        after = self.do(lambda unit: colonies_record.add_colony(unit, NewColony(
            id=uuid4(), apiary_id=GARTH, label="after", since=date(2031, 7, 10), boxes=[DEEP])))  # fmt: skip
        new = NewCase(uuid4(), moved, "efb", TODAY, "twisted larvae")
        self.do(lambda unit: cases_record.raise_case(unit, new))
        spread = {one.colony_id: one for one in self.do(lambda unit: traces_of(unit, new.id)).spread}
        self.assertEqual([one.kind for one in spread[host].path], ["same_apiary"])
        direct = [one for one in spread.values() if len(one.path) == 1]
        self.assertNotIn(after.id, {one.colony_id for one in direct})


class Elsewhere(TracesTest):
    """What no act of the record says, and the lists that are kept; a case makes its apiary stand still, so that each test
    has hives of its own."""

    @classmethod
    def setUpClass(cls) -> None:
        """Each test makes its own."""

    def setUp(self) -> None:
        type(self).url = new_database(demo_template())

    def moved(self, colony: UUID, way: Way, kind: MovedKind, day: date, **more: Any) -> UUID:
        number = uuid4()
        other, elsewhere = more.pop("other", None), more.pop("elsewhere", "")
        moved = elsewhere_record.OutsideMovement(
            colony, way, kind, more.pop("earliest", day), day, other, elsewhere, False, False, "a name"
        )
        self.do(lambda unit: movements_record.record_movement(unit, number, moved))
        return number

    def test_bought_lent_and_withdrawn(self) -> None:
        """A dealer is a source elsewhere; bees shaken lead on; what was not so counts no more; nothing is taken twice."""
        first, second = self.colony("first", HAY), self.colony("second", GARTH)
        self.moved(first, "came", "brood_frame", date(2031, 6, 20), earliest=date(2031, 6, 1), elsewhere="A dealer")
        shaken = self.moved(first, "went", "bees", date(2031, 7, 2), other=second)
        new = NewCase(uuid4(), first, "afb", TODAY, "brown remains")
        keeper = identity("keeper", "Tobias Quill")
        seen = self.do(lambda unit: where.colony_where(unit, second), keeper).contacts
        self.assertEqual([(one.from_label, one.from_apiary, one.note) for one in seen], [(None, None, "")])
        self.do(lambda unit: cases_record.raise_case(unit, new))
        found: Traces = self.do(lambda unit: traces_of(unit, new.id))
        dealer = next(one for one in found.outside if one.place == "A dealer")
        self.assertEqual((dealer.direction, dealer.band), ("backward", "high"))
        self.assertEqual((dealer.path[0].earliest, dealer.path[0].latest), (date(2031, 6, 1), date(2031, 6, 20)))
        reached = {one.colony_id: one for one in found.spread}
        self.assertEqual((reached[second].path[0].kind, reached[second].path[0].certainty), ("bees", "told"))
        self.assertIn("Brae Garth", {one.apiary for one in found.round})
        there = self.do(lambda unit: where.colony_where(unit, second))
        self.assertEqual(
            [(one.kind, one.from_label, one.is_by_hand) for one in there.contacts], [("bees", "first", False)]
        )
        at_work(
            self.url,
            lambda unit: movements_record.withdraw_movement(unit, shaken, "x"),
            INSPECTOR,
            reason="x",
            day=TODAY,
        )
        after = self.do(lambda unit: traces_of(unit, new.id))
        self.assertNotIn("bees", {leg.kind for one in after.spread for leg in one.path})
        with self.assertRaises(Conflict):
            at_work(
                self.url,
                lambda unit: movements_record.withdraw_movement(unit, shaken, "x"),
                INSPECTOR,
                reason="x",
                day=TODAY,
            )

    def test_a_sign_after_a_clean_look_is_not_clear(self) -> None:
        """All brood was clean in July; a later visit that read one comb saw a sunken cap: the contact is suspect."""
        sick, friend = self.colony("from", HAY), self.colony("to", GARTH)
        self.moved(sick, "went", "brood_frame", date(2031, 7, 3), other=friend)
        new = NewCase(uuid4(), sick, "afb", TODAY, "brown remains")
        self.do(lambda unit: cases_record.raise_case(unit, new))
        clean = {"brood_combs": 2, "combs_read": 2, "bees_off": "shaken", "not_seen": ["foulbrood"]}
        visited(self.url, friend, date(2031, 7, 20), After.model_validate({"examination": clean}))

        def status() -> str:
            found: Traces = self.do(lambda unit: traces_of(unit, new.id))
            return next(one.status for one in found.spread if one.colony_id == friend)

        self.assertEqual(status(), "clear")
        visit, at = uuid4(), datetime(2031, 7, 28, 12, tzinfo=UTC)
        self.do(lambda unit: visits_record.open_visit(unit, visit, friend, at))
        seen = FrameRecord.model_validate({"a": {"capped": 3}, "signs": [{"sign": "cap_sunken", "extent": "few"}]})
        self.do(lambda unit: visits_record.save_frames(unit, visit, [FrameEntry(self.box(friend), 5, 0, seen)]))
        self.do(lambda unit: visits_record.close_visit(unit, visit))
        self.assertEqual(status(), "suspect")

    def test_one_source_of_two_cases(self) -> None:
        one, two = self.colony("one", HAY), self.colony("two", GARTH)
        self.moved(one, "came", "package", date(2031, 5, 20), elsewhere="Bee market")
        self.moved(two, "came", "package", date(2031, 5, 22), elsewhere="bee market")
        for colony in (one, two):
            new = NewCase(uuid4(), colony, "efb", TODAY, "twisted larvae")
            self.do(lambda unit, new=new: cases_record.raise_case(unit, new))
        found = [one for one in self.do(sources.sources_in_common) if one.disease == "efb"]
        market = next(one for one in found if one.place == "Bee market")
        self.assertEqual({case.label for case in market.cases} & {"one", "two"}, {"one", "two"})
        with self.assertRaises(NotAllowed):
            self.do(sources.sources_in_common, identity("mentor"))

    def test_lists_stay_as_they_were_kept(self) -> None:
        """Read again after the hive has changed its label and more has come to light, they say what they said; what has
        changed is said with them."""
        sick, friend = self.colony("kept", HAY), self.colony("friend", GARTH)
        self.moved(sick, "went", "honey_frame", date(2031, 7, 3), other=friend)
        new = NewCase(uuid4(), sick, "afb", TODAY, "brown remains")
        self.do(lambda unit: cases_record.raise_case(unit, new))
        self.do(lambda unit: traces.keep_traces(unit, new.id))
        before = self.do(lambda unit: traces.traces_kept(unit, new.id, 1))
        late = self.colony("late", GARTH)
        self.moved(sick, "went", "brood_frame", date(2031, 7, 5), other=late)
        version = owner_rows(self.url, "SELECT version FROM colony WHERE id = %s", friend)[0][0]
        self.do(lambda unit: colonies_record.amend_colony(
            unit, friend, version, label="other", state="alive", state_since=date(2031, 5, 1), note=""))  # fmt: skip
        self.assertEqual(self.do(lambda unit: traces.traces_kept(unit, new.id, 1)), before)
        self.assertIn("friend", {one.label for one in before.spread})
        now = self.do(lambda unit: traces_of(unit, new.id))
        changed = {one.label: (one.before, one.now) for one in now.changed if one.direction == "forward"}
        self.assertEqual(changed["late"], (None, "high"))
        # On the day of the movement it was still called so.
        path = next(one for one in now.spread if one.colony_id == friend).path
        self.assertEqual((path[-1].target, path[-1].target_apiary), ("friend", "Brae Garth"))
        with self.assertRaises(NotFound):
            self.do(lambda unit: traces.traces_kept(unit, new.id, 2))

    def test_a_comb_keeps_its_history(self) -> None:
        """A comb with mummies goes to another hive: its page says where it hung and what was seen of it, with the labels
        of those days."""
        giver, host = self.colony("giver", HAY), self.colony("host", HAY)
        comb = self.comb(giver, 5)
        visit = uuid4()
        self.do(lambda unit: visits_record.open_visit(unit, visit, giver, unit.now))
        seen = FrameRecord.model_validate({"a": {"capped": 3}, "signs": [{"sign": "mummy_white", "extent": "many"}]})
        entry = FrameEntry(self.box(giver), 5, 0, seen)
        self.do(lambda unit: visits_record.save_frames(unit, visit, [entry]))
        self.do(lambda unit: visits_record.close_visit(unit, visit))
        self.move(comb, host, 3, TODAY)
        found = self.do(lambda unit: where.comb_where(unit, comb))
        self.assertEqual((found.comb.label, found.comb.slot), ("host", 3))
        self.assertEqual([(one.from_label, one.to_label) for one in found.moves], [("giver", "host")])
        self.assertEqual(
            [(one.label, [sign.sign for sign in one.signs]) for one in found.looks], [("giver", ["mummy_white"])]
        )


if __name__ == "__main__":
    unittest.main()
