"""A dead colony from the day it is found to the last comb: by mentor, inspector and keeper, in any order."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, date, datetime
from typing import Any
from uuid import UUID, uuid4

import psycopg

from redframe.core.deadouts.read_back import read_back
from redframe.core.deadouts.record import CombLooked, DeadSeen, DeadStepRecord
from redframe.core.errors import InvalidInput, Refused
from redframe.outlets.winters_table import COLUMNS, winters_csv
from redframe.store import holds as holds_store
from redframe.store.database import Identity
from redframe.store.errors import Conflict, NotAllowed, NotFound
from redframe.work.cases import read as cases_read
from redframe.work.cases import record as cases_record
from redframe.work.cases.record import NewCase
from redframe.work.colonies import read as colonies_read
from redframe.work.colonies.frames import WantedMove, move_frame
from redframe.work.colonies.holds import hold_colony
from redframe.work.colonies.record import amend_colony
from redframe.work.deadouts import exclusion, fates, read, record, winters
from redframe.work.deadouts.exclusion import WantedExclusion
from redframe.work.deadouts.facts import record_of
from redframe.work.deadouts.fates import Item
from redframe.work.deadouts.record import NewDeadOut
from tests.support import as_app, at_work, identity, living, owner_rows
from tests.work.test_holds import HAY, TODAY, WHY, Demo

MENTOR, INSPECTOR = identity("mentor"), identity("inspector")
OPENED = datetime(2031, 8, 2, 9, tzinfo=UTC)
SHUT = DeadStepRecord(is_done=True, is_shut=True, sure_by=["opened"])

COURSE = """
    INSERT INTO course SELECT (jsonb_populate_record(t, jsonb_build_object(
        'id', gen_random_uuid(), 'colony_id', %s::uuid, 'placed_on', %s::date, 'ended_on', %s::date, 'start_on', %s::date,
        'plan_id', gen_random_uuid(), 'occupies', daterange(%s::date, %s::date, '[]')))).*
    FROM course t JOIN association a ON a.id = t.association_id AND a.name LIKE 'Corrane%%'
    WHERE t.ended_on IS NOT NULL AND t.state LIKE 'verified%%' LIMIT 1 RETURNING 1
"""
"""A course like one of the demo, of another colony and day."""


def seen(**values: Any) -> list[DeadSeen]:
    """Signs by their values."""
    return [DeadSeen(sign=sign, value=value) for sign, value in values.items()]


class DeadOuts(Demo):
    def dead(self, found_on: date = TODAY, who: Identity = MENTOR) -> read.DeadOutView:
        """A colony that lived yesterday, found dead and opened."""
        colony = self.colony()
        new = NewDeadOut(uuid4(), colony, found_on, "dead", OPENED)
        return self.do(lambda unit: record.open_deadout(unit, new), who)

    def save(self, view: read.DeadOutView, step: Any, content: DeadStepRecord, version: int = 0) -> read.DeadOutView:
        """Save a step."""
        return self.do(lambda unit: record.save_step(unit, view.id, step, version, content), MENTOR)

    def read_combs(
        self, view: read.DeadOutView, signs: list[DeadSeen] | None = None, most: int = 99
    ) -> read.DeadOutView:
        """Read combs in side light, signs on the first."""
        combs = [
            CombLooked(box_id=one.box_id, slot=one.slot, signs=signs if signs and not at else [])
            for at, one in enumerate(view.place.combs[:most])
        ]
        return self.save(view, "combs", DeadStepRecord(is_done=True, combs=combs))

    def closed(self, view: read.DeadOutView) -> read.DeadOutView:
        """Close it."""
        return self.do(lambda unit: record.close_deadout(unit, view.id))

    def cleared(self) -> read.DeadOutView:
        """Mites, every comb read, closed, foulbrood excluded by examination."""
        view = self.save(self.dead(), "shut", SHUT)
        self.save(view, "wash", DeadStepRecord(is_done=True, wash_bees=150, wash_mites=18))
        self.read_combs(view, seen(d_guanine=40.0))
        view = self.closed(view)
        self.exclude(view)
        return view

    def exclude(
        self, view: read.DeadOutView, who: Identity = MENTOR, by: Any = "examination", reference: str = ""
    ) -> None:
        """Exclude foulbrood."""
        wanted = WantedExclusion(uuid4(), by, TODAY, reference, WHY)
        self.do(lambda unit: exclusion.exclude_foulbrood(unit, view.colony_id, wanted), who)

    def fates(self, view: read.DeadOutView) -> fates.FatesView:
        """Where its combs and boxes go."""
        return self.do(lambda unit: fates.fates_view(unit, view.colony_id))

    def refused(self, rule: str, act: Callable[[], Any]) -> None:
        """The act is refused by this rule."""
        with self.assertRaises(Refused) as caught:
            act()
        self.assertEqual(caught.exception.rule, rule)


class Examined(DeadOuts):
    def test_a_living_colony_is_found_dead(self) -> None:
        """It is lost from that day, nobody visits it, its combs are there to be read; opened again, it is the same."""
        view = self.dead()
        self.assertEqual((view.colony_state, view.state, len(view.place.combs)), ("dead", "draft", 10))
        again = NewDeadOut(uuid4(), view.colony_id, TODAY, "dead", OPENED)
        self.assertEqual(self.do(lambda unit: record.open_deadout(unit, again), INSPECTOR).id, view.id)
        listed = self.do(lambda unit: read.deadout_list(unit, HAY)).lines
        self.assertIn((view.colony_id, "draft"), {(one.colony_id, one.state) for one in listed})

    def test_days_that_cannot_be(self) -> None:
        """Not before its last visit, not tomorrow; a merged colony left nothing to read."""
        colony = self.colony()
        for day in (date(2031, 8, 1), date(2031, 8, 3)):
            new = NewDeadOut(uuid4(), colony, day, "dead", OPENED)
            with self.assertRaises(InvalidInput) as caught:
                self.do(lambda unit, new=new: record.open_deadout(unit, new))
            self.assertEqual(caught.exception.field, "found_on")
        merged = owner_rows(self.url, "SELECT id FROM colony WHERE state = 'merged' LIMIT 1")[0][0]
        with self.assertRaises(Conflict):
            self.do(lambda unit: record.open_deadout(unit, NewDeadOut(uuid4(), merged, TODAY, "dead", OPENED)))

    def test_a_step_is_resumed_and_two_do_not_overwrite(self) -> None:
        """Each step has its own version; the same content twice is accepted, other content is a conflict at the step."""
        view = self.dead()
        floor = DeadStepRecord(is_done=True, signs=seen(d_floor_many=2000.0, d_mites_floor=60.0))
        self.save(view, "floor", floor)
        self.save(view, "floor", floor)
        other = DeadStepRecord(is_done=True, signs=seen(d_floor_many="few"))
        with self.assertRaises(Conflict) as caught:
            self.save(view, "floor", other)
        self.assertEqual(caught.exception.field, "floor")
        told = self.save(view, "floor", other, version=1)
        self.assertEqual([(one.step, one.version) for one in told.steps], [("floor", 2)])
        self.assertEqual(self.save(view, "lid", DeadStepRecord(signs=seen(d_lid_drip=0.0))).steps[-1].version, 1)

    def test_bad_entries_say_where(self) -> None:
        """A sign of another step, a cluster small and large, a comb that did not hang, mites without bees."""
        view = self.dead()
        for step, content, field in (
            ("lid", DeadStepRecord(signs=seen(d_floor_many="few")), "signs[0].sign"),
            ("stores", DeadStepRecord(signs=seen(d_stores_none="some")), "signs[0].sign"),
            ("cluster", DeadStepRecord(signs=seen(d_bees_gone="some", d_cluster_large="some")), "signs"),
            ("combs", DeadStepRecord(combs=[CombLooked(box_id=uuid4(), slot=1)]), "combs[0].slot"),
            ("outside", DeadStepRecord(no_flight_since=date(2031, 8, 9)), "no_flight_since"),
            ("record", DeadStepRecord(alive_on=date(2031, 8, 3)), "alive_on"),
            ("stores", DeadStepRecord(stores_place="none", signs=seen(d_stores_plenty=9.0)), "stores_place"),
        ):
            with self.subTest(step=step, field=field), self.assertRaises(InvalidInput) as caught:
                self.save(view, step, content)
            self.assertEqual(caught.exception.field, field)

    def test_what_was_not_looked_at_is_no_no(self) -> None:
        """A queen sought among too few bees is not known to be absent; combs read in part are a glance."""
        view = self.dead()
        self.save(view, "queen", DeadStepRecord(bees_left=200, signs=seen(d_queen_absent="some")))
        told = self.read_combs(view, most=4)
        self.assertEqual((told.combs.read, told.combs.of, told.is_complete), (4, 10, False))
        signs = {term.sign for fit in told.reading.fits for term in fit.terms}
        self.assertNotIn("d_queen_absent", signs)
        told = self.save(view, "combs", DeadStepRecord(combs=[CombLooked(box_id=one.box_id, slot=one.slot) for one in view.place.combs]), 1)  # fmt: skip
        self.assertTrue(told.is_complete)

    def test_it_is_shut_before_it_is_closed(self) -> None:
        """While it is not cleared bees could rob it: closing asks for it at its field."""
        view = self.save(self.dead(), "outside", DeadStepRecord(is_done=True))
        with self.assertRaises(InvalidInput) as caught:
            self.closed(view)
        self.assertEqual(caught.exception.field, "is_shut")
        self.save(view, "shut", SHUT)
        self.assertEqual(self.closed(view).state, "closed")
        with self.assertRaises(Conflict):
            self.closed(view)

    def test_a_closed_one_reads_the_same_for_ever(self) -> None:
        """Whatever becomes of the hive and the policy; an amendment says why, and what it came to follows."""
        view = self.cleared()
        before = self.do(lambda unit: read.deadout_view(unit, view.id))
        owner_rows(self.url, "UPDATE colony SET label = 'other' WHERE id = %s RETURNING 1", view.colony_id)
        owner_rows(self.url, "UPDATE frame SET box_id = NULL, slot = NULL, away = 'melted' WHERE box_id = %s RETURNING 1", view.place.boxes[0].box_id)  # fmt: skip
        after = self.do(lambda unit: read.deadout_view(unit, view.id))
        self.assertEqual((after.place, after.reading, after.timeline), (before.place, before.reading, before.timeline))
        with self.assertRaises(Conflict):
            self.save(view, "wash", DeadStepRecord(wash_bees=150, wash_mites=0), version=1)

    def test_foulbrood_in_a_dead_hive_is_a_case(self) -> None:
        """A stuck scale on one comb: a case under the laboratory's word, the apiary stands still."""
        view = self.save(self.dead(), "shut", SHUT)
        told = self.read_combs(view, seen(d_scale_stuck="some"))
        self.assertTrue(told.reading.suspects_foulbrood and told.reading.raises_case)
        self.closed(view)
        rows = owner_rows(
            self.url, "SELECT id, rules, deadout_id FROM disease_case WHERE colony_id = %s", view.colony_id
        )
        ((case, rules, deadout),) = rows
        self.assertEqual((deadout, "D1" in rules), (view.id, True))
        case_view = self.do(lambda unit: cases_read.case_view(unit, case), INSPECTOR)
        self.assertEqual((case_view.line.case.state, case_view.line.case.hold), ("suspected", "voluntary"))
        self.assertTrue(case_view.laboratory_decides)
        self.assertEqual(self.fates(view).held, "case")

    def test_a_draft_that_was_a_mistake(self) -> None:
        """Dropped, and another begun; a closed one is not."""
        view = self.dead()
        self.do(lambda unit: record.drop_deadout(unit, view.id))
        with self.assertRaises(Conflict):
            self.save(view, "lid", DeadStepRecord(is_done=True))
        again = self.do(
            lambda unit: record.open_deadout(unit, NewDeadOut(uuid4(), view.colony_id, TODAY, "dead", OPENED))
        )
        self.assertNotEqual(again.id, view.id)
        self.closed(self.save(again, "shut", SHUT))
        with self.assertRaises(Conflict):
            self.do(lambda unit: record.drop_deadout(unit, again.id))


class LivesAfterAll(DeadOuts):
    def test_a_death_that_was_a_mistake(self) -> None:
        """The colony lives: its examination is of the past, nothing is excluded for the day on which it dies, and then it is
        read anew."""
        view = self.cleared()
        colony = self.do(lambda unit: colonies_read.colony_view(unit, view.colony_id)).colony
        lives = lambda unit: amend_colony(  # noqa: E731
            unit, colony.id, colony.version, label=colony.label, state="alive", state_since=TODAY, note=""
        )
        self.do(lives)
        with self.assertRaises(Conflict):
            self.save(view, "lid", DeadStepRecord(is_done=True))
        again = self.do(lambda unit: record.open_deadout(unit, NewDeadOut(uuid4(), colony.id, TODAY, "dead", OPENED)))
        self.assertNotEqual(again.id, view.id)
        self.assertEqual(self.fates(again).held, "uncleared")
        (held,) = self.do(lambda unit: holds_store.held_back(unit.connection, [colony.id], TODAY))
        self.assertFalse(held.is_cleared)

    def test_scale_found_after_the_release(self) -> None:
        """An amendment of the closed examination: a case, and what was released is held again."""
        view = self.cleared()
        combs = [CombLooked(box_id=one.box_id, slot=one.slot) for one in view.place.combs[1:]]
        first = view.place.combs[0]
        combs.append(CombLooked(box_id=first.box_id, slot=first.slot, signs=seen(d_scale_stuck="some")))
        found = DeadStepRecord(is_done=True, combs=combs)
        save = lambda unit: record.save_step(unit, view.id, "combs", 1, found)  # noqa: E731
        at_work(self.url, save, MENTOR, reason="looked again by daylight")
        self.assertEqual(self.fates(view).held, "case")
        item = Item(first.box_id, first.frame_id)
        with self.assertRaises(Refused):
            self.do(lambda unit: fates.decide_fates(unit, view.colony_id, [item], "freeze", ""))
        (held,) = self.do(lambda unit: holds_store.held_back(unit.connection, [view.colony_id], TODAY))
        self.assertIsNotNone(held.case_number)


class Released(DeadOuts):
    def test_nothing_is_excluded_by_half(self) -> None:
        """Not before it is examined, not by a draft, not by part of the combs, not by a keeper, not twice."""
        view = self.save(self.dead(), "shut", SHUT)
        self.refused("exclude_first", lambda: self.exclude(view))
        self.read_combs(view, most=9)
        self.closed(view)
        self.refused("exclude_incomplete", lambda: self.exclude(view))
        self.refused("exclude_laboratory", lambda: self.exclude(view, by="laboratory", reference="L 7"))
        with self.assertRaises(InvalidInput):
            self.exclude(view, INSPECTOR, by="laboratory")
        self.exclude(view, INSPECTOR, by="laboratory", reference="L 7")
        with self.assertRaises(Conflict):
            self.exclude(view, INSPECTOR, by="laboratory", reference="L 7")
        with self.assertRaises(NotAllowed):
            self.exclude(view, identity("keeper"))

    def test_the_hold_is_lifted_by_nothing_else(self) -> None:
        """Held, each item stays; released, combs of the apiary may go; withdrawn, they are held again."""
        view = self.save(self.dead(), "shut", SHUT)
        item = Item(view.place.combs[0].box_id, view.place.combs[0].frame_id)
        for way in ("freeze", "melt", "burn", "extract"):
            self.refused("fate_barred", lambda way=way: self.decide(view, [item], way))
        view = self.cleared()
        colony = view.colony_id
        self.assertIsNone(self.fates(view).held)
        self.do(lambda unit: exclusion.withdraw_exclusion(unit, colony, "another comb was found"))
        self.assertEqual(self.fates(view).held, "uncleared")
        with self.assertRaises(NotFound):
            self.do(lambda unit: exclusion.withdraw_exclusion(unit, colony, "twice"))

    def decide(self, view: read.DeadOutView, items: list[Item], fate: Any, reason: str = "") -> fates.FatesView:
        """Decide where items go."""
        return self.do(lambda unit: fates.decide_fates(unit, view.colony_id, items, fate, reason))

    def test_every_comb_and_box_has_exactly_one_fate(self) -> None:
        """Held where nothing was decided; decided again, still one; carried out, the combs are where they went."""
        view = self.cleared()
        told = self.fates(view)
        self.assertEqual(len({(one.box_id, one.frame_id) for one in told.items}), len(told.items))
        self.assertEqual({one.fate for one in told.items}, {"hold"})
        combs = [Item(one.box_id, one.frame_id) for one in told.items if one.frame_id is not None]
        self.decide(view, combs, "freeze")
        with self.assertRaises(InvalidInput):
            self.decide(view, combs[:3], "melt")
        self.decide(view, combs[:3], "melt", "black, five years old")
        rows = owner_rows(
            self.url, "SELECT frame_id, count(*) FROM item_fate WHERE colony_id = %s GROUP BY 1", view.colony_id
        )
        self.assertEqual({count for _, count in rows}, {1})
        done = self.do(lambda unit: fates.carry_out(unit, view.colony_id, "melt", TODAY))
        self.assertEqual(sum(one.done_on is not None for one in done.items), 3)
        gone = owner_rows(self.url, "SELECT away, count(*) FROM frame WHERE id = ANY(%s) GROUP BY 1", [one.frame_id for one in combs])  # fmt: skip
        self.assertEqual(dict(gone), {"melted": 3, None: 7})
        with self.assertRaises(InvalidInput):
            self.decide(view, combs[:1], "freeze")
        with self.assertRaises(InvalidInput):
            self.do(lambda unit: fates.carry_out(unit, view.colony_id, "melt", TODAY))

    def test_combs_of_the_dead_stay_in_their_apiary(self) -> None:
        """Held, they go nowhere; released, to bees of the same apiary; elsewhere only on an inspector's word."""
        view = self.cleared()
        near, far = self.held(None), UUID(living(self.url, "Skerrow Bank")[3][0])
        self.open_and_drop(far)
        far_box = owner_rows(self.url, "SELECT b.id FROM hive_box b JOIN colony c ON c.hive_id = b.hive_id WHERE c.id = %s AND b.until IS NULL AND b.frames > 0", far)[0][0]  # fmt: skip
        for comb, box, who, why in (
            (view.place.combs[0], near.box, MENTOR, ""), (view.place.combs[1], far_box, INSPECTOR, WHY),
        ):  # fmt: skip
            move = WantedMove(uuid4(), comb.frame_id, None, box, 1, None, TODAY, None, why, "", swap=True)
            if box == far_box:
                bare = replace(move, id=uuid4(), override_why="")
                self.refused("dead_other_apiary", lambda bare=bare: self.do(lambda unit: move_frame(unit, bare)))
            self.do(lambda unit, move=move: move_frame(unit, move), who)

    def test_a_fate_decided_before_a_case_waits(self) -> None:
        """Released and decided; then withdrawn: what was decided is not carried out."""
        view = self.cleared()
        combs = [Item(one.box_id, one.frame_id) for one in self.fates(view).items if one.frame_id is not None]
        self.decide(view, combs, "freeze")
        self.do(lambda unit: exclusion.withdraw_exclusion(unit, view.colony_id, "doubt"))
        self.refused(
            "fate_barred", lambda: self.do(lambda unit: fates.carry_out(unit, view.colony_id, "freeze", TODAY))
        )

    def test_a_burned_box_no_longer_stands(self) -> None:
        """Its combs are in store, or where they went before."""
        view = self.cleared()
        boxes = [Item(one.box_id, None) for one in self.fates(view).items if one.frame_id is None]
        self.decide(view, boxes, "burn", "rotten")
        self.do(lambda unit: fates.carry_out(unit, view.colony_id, "burn", TODAY))
        rows = owner_rows(self.url, "SELECT until FROM hive_box WHERE id = %s", boxes[0].box_id)
        self.assertEqual(rows, [(TODAY,)])

    def test_a_poisoned_hive_waits_for_its_result(self) -> None:
        """Foulbrood is excluded, yet nothing leaves before the residues are known; then it is melted, never frozen."""
        view = self.save(self.dead(), "shut", SHUT)
        self.save(view, "outside", DeadStepRecord(signs=seen(d_outside_pile="many", d_multi_same_day="some")))
        self.save(view, "heads", DeadStepRecord(signs=seen(d_tongues_out="many")))
        self.read_combs(view)
        self.closed(view)
        self.exclude(view)
        self.assertEqual(self.fates(view).held, "poison")
        save = lambda unit: record.save_step(unit, view.id, "record", 0, DeadStepRecord(residue_result="found"))  # noqa: E731
        at_work(self.url, save, INSPECTOR, reason="the laboratory wrote")
        told = self.fates(view)
        self.assertIsNone(told.held)
        self.assertNotIn("freeze", {way.fate for one in told.items for way in one.ways})

    def test_the_database_lets_no_keeper_exclude(self) -> None:
        """Whatever way he takes."""
        view = self.cleared()
        keeper = identity("keeper")
        with as_app(self.url, keeper) as app, self.assertRaises(psycopg.errors.InsufficientPrivilege):
            app.execute(
                "INSERT INTO foulbrood_exclusion (id, association_id, colony_id, found_by, excluded_on, reference, why)"
                " VALUES (%s, my_association(), %s, 'laboratory', '2031-08-02', 'x', 'because')",
                [uuid4(), view.colony_id],
            )


class Suspected(DeadOuts):
    def test_a_suspicion_is_lifted_by_its_case_alone(self) -> None:
        """Greasy caps: no examination and no report beside the case excludes."""
        view = self.save(self.dead(), "shut", SHUT)
        self.read_combs(view, seen(d_sunken_greasy=3.0))
        self.closed(view)
        for who, by in ((MENTOR, "examination"), (INSPECTOR, "laboratory")):
            self.refused("exclude_case", lambda who=who, by=by: self.exclude(view, who, by, "L 9"))

    def test_a_standstill_holds_what_was_released(self) -> None:
        """Another colony of the apiary is suspected: nothing leaves, whatever was decided; on hold neither."""
        view = self.cleared()
        suspect = self.colony()
        self.do(lambda unit: cases_record.raise_case(unit, NewCase(uuid4(), suspect, "afb", TODAY, "brown remains")))
        told = self.fates(view)
        self.assertEqual(told.held, "standstill")
        self.assertTrue(
            all(way.ruling == "barred" for one in told.items for way in one.ways if way.fate in ("freeze", "melt"))
        )


class OnHold(DeadOuts):
    def test_a_hold_holds_too(self) -> None:
        """Put on by a mentor after the release."""
        view = self.cleared()
        hold = lambda unit: hold_colony(unit, view.colony_id, uuid4(), kind="other", since=TODAY, why="to be asked")  # noqa: E731
        self.do(hold)
        self.assertEqual(self.fates(view).held, "hold")


class Treated(DeadOuts):
    def test_a_winter_dose_makes_no_treatment_late(self) -> None:
        """Of the courses of a year the one for the winter bees is read back: in time where one ended by their day, whatever
        followed; else the first after it."""
        colony, begun, found = self.colony(), date(2030, 8, 25), date(2031, 1, 10)
        overview = self.do(lambda unit: colonies_read.colony_view(unit, colony)).colony
        for days, ended, late in (
            ([date(2030, 12, 12)], date(2030, 12, 12), True),
            ([date(2030, 9, 20), date(2030, 12, 12)], date(2030, 9, 20), True),
            ([date(2030, 8, 10), date(2030, 12, 12)], date(2030, 8, 10), False),
        ):
            owner_rows(self.url, "DELETE FROM course WHERE colony_id = %s RETURNING 1", colony)
            for day in days:
                owner_rows(self.url, COURSE, colony, day, day, day, day, day)
            told = self.do(lambda unit: record_of(unit, overview, found))
            with self.subTest(days=days):
                self.assertEqual((told.winter_bees, told.treatment.ended_on), (begun, ended))
                codes = {one.code for one in read_back(told).items}
                self.assertEqual("treated_late" in codes, late)


class WinterLosses(DeadOuts):
    def test_the_last_winters_of_the_demo(self) -> None:
        """Every colony in one group of each kind; a colony that died this summer is no winter loss."""
        told = self.do(lambda unit: winters.winters(unit), INSPECTOR)
        self.assertGreater(len(told.winters), 0)
        for winter in told.winters:
            whole = winter.losses.whole
            self.assertEqual(sum(one.of for one in winter.losses.by_apiary), whole.of)
            self.assertEqual(sum(one.lost for one in winter.losses.by_treatment), whole.lost)
        before = told.winters[0].losses.whole
        self.dead()
        after = self.do(lambda unit: winters.winters(unit), INSPECTOR).winters[0].losses.whole
        self.assertEqual(before, after)

    def test_the_table_holds_what_the_page_shows(self) -> None:
        """A row a winter, each kind of group adds up to it, causes are of those examined, bounds hold the share."""
        shown = self.do(lambda unit: winters.winters(unit), INSPECTOR)
        rows = list(csv.DictReader(io.StringIO(winters_csv(shown))))
        self.assertEqual(tuple(rows[0]), COLUMNS)
        for winter in shown.winters:
            of_winter = [row for row in rows if row["winter_from"] == winter.since.isoformat()]
            (whole,) = (row for row in of_winter if row["by"] == "all")
            self.assertEqual(int(whole["lost"]), winter.losses.whole.lost)
            for by in ("treatment", "size", "apiary"):
                lost = sum(int(row["lost"]) for row in of_winter if row["by"] == by)
                self.assertEqual(lost, int(whole["lost"]), by)
            for row in of_winter:
                if row["by"] == "cause":
                    self.assertEqual(int(row["went_in"]), winter.losses.examined)
                if int(row["went_in"]) > 0:
                    share = 100 * int(row["lost"]) / int(row["went_in"])
                    self.assertAlmostEqual(float(row["share_pct"]), share, delta=0.051)
                    self.assertTrue(float(row["low_pct"]) <= share + 0.051 and share - 0.051 <= float(row["high_pct"]))
