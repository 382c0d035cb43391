"""Every act that a hold can stop, tried on every colony that can be held back, by a mentor and by an inspector."""

from __future__ import annotations

import unittest
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import UTC, date, datetime
from typing import Any
from uuid import UUID, uuid4

import psycopg

from redframe.core.cases.evidence import StepEvidence
from redframe.core.colonies.hive_state import WantedBox
from redframe.core.colonies.holds import ANYWAY, CAUTION, RELEASE, TABLE, HeldAct, HoldReason
from redframe.core.errors import InvalidInput, Refused
from redframe.core.treatments.honey import HoneyFor
from redframe.core.treatments.overrides import Override
from redframe.core.visits.record import After, FrameRecord, SignSeen
from redframe.demo.scenario import made_id
from redframe.store import holds as holds_store
from redframe.store.database import Identity
from redframe.store.errors import Conflict
from redframe.work.cases import read as cases_read
from redframe.work.cases import record as cases_record
from redframe.work.cases.record import NewCase, WantedStep
from redframe.work.colonies import frames as colonies_frames
from redframe.work.colonies import hives as colonies_hives
from redframe.work.colonies import holds as colonies_holds
from redframe.work.colonies import lineage as colonies_lineage
from redframe.work.colonies import queens as colonies_queens
from redframe.work.colonies import read as colonies_read
from redframe.work.colonies import record as colonies_record
from redframe.work.colonies.harvests import HarvestOf, Taken, record_harvest
from redframe.work.colonies.hives import HiveChange
from redframe.work.colonies.queens import QueenRecord
from redframe.work.colonies.record import NewColony
from redframe.work.colonies.undo import undo_change
from redframe.work.treatments import plan as treatments_plan
from redframe.work.treatments import record as treatments_record
from redframe.work.treatments.plan import WantedCourse
from redframe.work.treatments.record import NewAct
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.visits import record as visits_record
from redframe.work.visits.record import FrameEntry
from tests.support import as_app, at_work, demo_template, identity, living, new_database, owner_rows, visited

TODAY = date(2031, 8, 2)
YESTERDAY = date(2031, 8, 1)
OPENED = datetime(2031, 8, 2, 10, tzinfo=UTC)
HAY = made_id("corrane", "apiary", "Plover Hay")
BANK = made_id("corrane", "apiary", "Skerrow Bank")
DEEP = WantedBox("brood", "A_deep", 10)
MENTOR, INSPECTOR = identity("mentor"), identity("inspector")
WHY = "laboratory: negative"
LAYING = QueenRecord(2030, None, "mated", date(2031, 5, 1), date(2031, 5, 1), None)
REASONS: tuple[HoldReason, ...] = ("notifiable", "other", "lost", "signs")
LIVING_ONLY: frozenset[HeldAct] = frozenset({"requeen", "treat", "split", "merge", "receive_merger", "move", "rehouse"})
"""Acts that a colony which died has no part in, hold or not."""


@dataclass(frozen=True, slots=True)
class Held:
    """A colony that is held back, its hive, and one of its combs."""

    id: UUID
    hive: UUID
    box: UUID
    version: int


class Demo(unittest.TestCase):
    url: str

    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def do(self, act: Callable[[UnitOfWork], Any], who: Identity = MENTOR) -> Any:
        """Carry an act out."""
        return at_work(self.url, act, who)

    def colony(self, label: str = "", **changes: Any) -> UUID:
        """A sound colony of nine frames in a deep box."""
        number = uuid4()
        new = NewColony(id=number, apiary_id=HAY, label=label or str(number)[:8], since=date(2031, 5, 1), boxes=[DEEP], queen=LAYING, override_why=WHY)  # fmt: skip
        self.do(lambda unit: colonies_record.add_colony(unit, new))
        looked = {"frames_of_bees": 9.0, "capped_brood": True, "eggs_seen": True, "queen": "seen", "supers_on": False, "feed": "none", **changes}  # fmt: skip
        visited(self.url, number, TODAY, After(**looked))
        return number

    def held(self, reason: HoldReason | None) -> Held:
        """A colony that is held back for this reason (None: for none)."""
        number = self.colony()
        view = self.do(lambda unit: colonies_read.colony_view(unit, number))
        hive = view.colony.hive_id
        box = owner_rows(self.url, "SELECT id FROM hive_box WHERE hive_id = %s AND until IS NULL", hive)[0][0]
        self.open_and_drop(number)
        if reason in ("notifiable", "other"):
            self.do(lambda unit: colonies_holds.hold_colony(unit, number, uuid4(), kind=reason, since=TODAY, why="waits for the laboratory"))  # type: ignore[arg-type]  # fmt: skip
        elif reason == "signs":
            self.sign(number, box)
        elif reason == "lost":
            self.do(
                lambda unit: colonies_record.amend_colony(
                    unit,
                    number,
                    view.colony.version,
                    label=view.colony.label,
                    state="dead",
                    state_since=YESTERDAY,
                    note="",
                )
            )
        version = self.do(lambda unit: colonies_read.colony_view(unit, number)).colony.version
        assert hive is not None
        return Held(number, hive, box, version)

    def open_and_drop(self, colony: UUID) -> None:
        """A draft opened at a hive counts its combs in."""
        visit = uuid4()
        self.do(lambda unit: visits_record.open_visit(unit, visit, colony, OPENED))
        self.do(lambda unit: visits_record.drop_visit(unit, visit))

    def sign(self, colony: UUID, box: UUID) -> None:
        """A visit that saw a sunken cap and was closed."""
        visit = uuid4()
        self.do(lambda unit: visits_record.open_visit(unit, visit, colony, OPENED))
        record = FrameRecord(signs=[SignSeen(sign="cap_sunken", extent="few")])
        self.do(lambda unit: visits_record.save_frames(unit, visit, [FrameEntry(box, 3, 0, record)]))
        self.do(lambda unit: visits_record.close_visit(unit, visit))


class Doors(Demo):
    """Each act of the table, as somebody would do it to a colony that is held back."""

    def act(self, name: HeldAct, held: Held, who: Identity, why: str) -> None:
        """Do it, with a reason or without."""
        getattr(self, f"_{name}")(held, who, why)

    def _comb_out(self, held: Held, who: Identity, why: str) -> None:
        other = self.held(None)
        comb = owner_rows(self.url, "SELECT id FROM frame WHERE box_id = %s AND slot = 5", held.box)
        wanted = colonies_frames.WantedMove(uuid4(), comb[0][0], None, other.box, 1, None, TODAY, None, why, "", swap=True)  # fmt: skip
        self.do(lambda unit: colonies_frames.move_frame(unit, wanted), who)

    def _merge(self, held: Held, who: Identity, why: str) -> None:
        into = self.colony()
        wanted = colonies_lineage.Merger(into, TODAY, "of_other", "store", "", why)
        self.do(lambda unit: colonies_lineage.merge(unit, held.id, held.version, wanted), who)

    def _receive_merger(self, held: Held, who: Identity, why: str) -> None:
        own = self.held(None)
        wanted = colonies_lineage.Merger(held.id, TODAY, "of_other", "store", "", why)
        self.do(lambda unit: colonies_lineage.merge(unit, own.id, own.version, wanted), who)

    def _split(self, held: Held, who: Identity, why: str) -> None:
        number = uuid4()
        new = NewColony(id=number, apiary_id=HAY, label=str(number)[:8], since=TODAY, boxes=[DEEP], split_from=held.id, override_why=why)  # fmt: skip
        self.do(lambda unit: colonies_record.add_colony(unit, new), who)

    def _move(self, held: Held, who: Identity, why: str) -> None:
        wanted = colonies_lineage.WantedPlace(BANK, str(held.id)[:8], TODAY, override_why=why)
        self.do(lambda unit: colonies_lineage.move(unit, held.id, held.version, wanted), who)

    def _rehouse(self, held: Held, who: Identity, why: str) -> None:
        wanted = colonies_lineage.WantedPlace(HAY, str(held.id)[:8], TODAY, hive="own", boxes=[DEEP], override_why=why)
        self.do(lambda unit: colonies_lineage.move(unit, held.id, held.version, wanted), who)

    def _house(self, held: Held, who: Identity, why: str) -> None:
        number = uuid4()
        new = NewColony(id=number, apiary_id=HAY, label=str(number)[:8], since=TODAY, hive_id=held.hive, override_why=why)  # fmt: skip
        self.do(lambda unit: colonies_record.add_colony(unit, new), who)

    def _requeen(self, held: Held, who: Identity, why: str) -> None:
        queen = QueenRecord(2031, None, "mated", TODAY, None, None)
        self.do(lambda unit: colonies_queens.add_queen(unit, uuid4(), held.id, queen, why), who)

    def _boxes(self, held: Held, who: Identity, why: str) -> None:
        view = self.do(lambda unit: colonies_read.colony_view(unit, held.id))
        boxes = [
            *(WantedBox(one.purpose, one.frame_format, one.frames, one.box_id) for one in view.hive),
            WantedBox("brood", "A_deep", 10),
        ]
        wanted = HiveChange(view.hive[0].hive_type, boxes, TODAY, override_why=why)
        self.do(lambda unit: colonies_hives.amend_hive(unit, held.id, view.hive[0].version, wanted), who)

    def _treat(self, held: Held, who: Identity, why: str) -> None:
        rules = [one.rule for one in self.plan(held.id, INSPECTOR, []).held_by]
        overrides = [Override(rule, "Idris Calloway", WHY) for rule in rules]
        course = self.plan(held.id, INSPECTOR, overrides).course_id
        assert course is not None
        for step in ("prepare", "close_supers_feeder"):
            new = NewAct(uuid4(), step, "done", TODAY, None, "", None, "", None)
            self.do(lambda unit, new=new: treatments_record.record_act(unit, course, new), INSPECTOR)
        override = Override("hold", "Bettrys Lund", why) if why else None
        place = NewAct(uuid4(), "place_1", "done", TODAY, 50.0, "", None, "", override)
        self.do(lambda unit: treatments_record.record_act(unit, course, place), who)

    def _honey(self, held: Held, who: Identity, why: str, honey_for: HoneyFor = "people") -> None:
        of = HarvestOf(TODAY, honey_for, "", "", Override("hold", "Bettrys Lund", why) if why else None)
        (row,) = self.do(lambda unit: record_harvest(unit, of, [Taken(uuid4(), held.id, 5.0)]), who)
        if row.held is not None:
            raise Refused(row.held.rule, row.held.text, can_override=row.held.can_override)

    def _honey_for_bees(self, held: Held, who: Identity, why: str) -> None:
        self._honey(held, who, why, "bees")

    def plan(self, colony: UUID, who: Identity, overrides: list[Override]) -> Any:
        """Plan strips for a colony."""
        wanted = [WantedCourse(uuid4(), colony, overrides)]
        rows = self.do(
            lambda unit: treatments_plan.plan_courses(
                unit,
                plan_id=uuid4(),
                apiary_id=HAY,
                option_id="THY_GEL",
                start_on=TODAY,
                interval_override=None,
                wanted=wanted,
            ),
            who,
        )
        return rows[0]


class Acts(Doors):
    def cases(self) -> Iterator[tuple[HeldAct, HoldReason]]:
        """Each act with each reason that a colony of its kind can have."""
        for act in TABLE:
            for reason in REASONS:
                if not (reason == "lost" and act in LIVING_ONLY):
                    yield act, reason

    def test_what_the_table_stops_is_stopped_at_every_door(self) -> None:
        """Released only with a reason by who may release; a mentor's reason does not do; what the table lets pass
        passes without one."""
        for act, reason in self.cases():
            stopped = TABLE[act][reason] == RELEASE
            with self.subTest(act=act, reason=reason):
                held = self.held(reason)
                if not stopped:
                    self.act(act, held, MENTOR, "")
                    continue
                for who, why, can_override in ((MENTOR, "", False), (MENTOR, WHY, False), (INSPECTOR, "", True)):
                    with self.assertRaises(Refused) as caught:
                        self.act(act, held, who, why)
                    self.assertEqual(caught.exception.rule, f"hold_{reason}")
                    self.assertEqual(caught.exception.can_override, can_override)
                    if act == "treat":
                        # Its course is planned by now, and keeps a second one out.
                        held = self.held(reason)
                self.act(act, held, INSPECTOR, WHY)

    def test_nothing_stops_a_colony_that_is_not_held(self) -> None:
        """The same acts on a sound colony pass for a mentor without a word."""
        for act in TABLE:
            with self.subTest(act=act):
                self.act(act, self.held(None), MENTOR, "")

    def test_a_lost_colony_takes_no_part_in_what_the_living_do(self) -> None:
        """Nobody merges, splits, moves or requeens a colony that died, whatever reason is given."""
        for act in LIVING_ONLY - {"treat"}:
            with self.subTest(act=act):
                held = self.held("lost")
                with self.assertRaises((InvalidInput, Refused, Conflict)):
                    self.act(act, held, INSPECTOR, "")

    def test_a_refused_act_leaves_no_trace(self) -> None:
        """After every refusal colonies, events, frames and courses are as they were."""
        tables = ("colony", "colony_event", "frame_move", "queen", "course_act", "hive", "hive_box")
        query = " UNION ALL ".join(f"SELECT '{one}', count(*) FROM {one}" for one in tables)  # noqa: S608
        for act in ("merge", "split", "move", "rehouse", "requeen"):
            held = self.held("notifiable")
            if act == "merge":
                self.into = self.colony()
            before = owner_rows(self.url, query)
            with self.subTest(act=act), self.assertRaises(Refused):
                if act == "merge":
                    wanted = colonies_lineage.Merger(self.into, TODAY, "of_other", "store")
                    self.do(
                        lambda unit, held=held, wanted=wanted: colonies_lineage.merge(
                            unit, held.id, held.version, wanted
                        )
                    )
                else:
                    self.act(act, held, MENTOR, "")  # type: ignore[arg-type]
            self.assertEqual(owner_rows(self.url, query), before)

    def test_what_was_set_aside_stays_on_record(self) -> None:
        """The lineage of a colony that was split, moved or merged under a hold names the hold and the reason."""
        for act, reason in (("split", "signs"), ("move", "other"), ("merge", "notifiable"), ("boxes", "lost")):
            held = self.held(reason)  # type: ignore[arg-type]
            self.act(act, held, INSPECTOR, WHY)  # type: ignore[arg-type]
            rows = owner_rows(
                self.url,
                "SELECT rule, override_why FROM colony_event WHERE (colony_id = %s OR other_colony_id = %s) AND rule <> ''",
                held.id, held.id,
            )  # fmt: skip
            with self.subTest(act=act):
                self.assertEqual(set(rows), {(f"hold_{reason}", WHY)})

    def test_a_hold_that_was_lifted_stops_nothing(self) -> None:
        """Lifted by who may, the colony is as free as any other; the hold stays on its record."""
        held = self.held("other")
        self.do(lambda unit: colonies_holds.lift_hold(unit, held.id, "negative"), INSPECTOR)
        self.act("split", held, MENTOR, "")
        rows = owner_rows(self.url, "SELECT until, lifted_why FROM colony_hold WHERE colony_id = %s", held.id)
        self.assertEqual(rows, [(TODAY, "negative")])


class Standstill(Doors):
    """An apiary stands still for another colony in it: nothing in or out, but what happened is recorded."""

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        suspect = UUID(living(cls.url, "Plover Hay")[0][0])
        new = NewCase(uuid4(), suspect, "afb", TODAY, "brown remains")
        at_work(cls.url, lambda unit: cases_record.raise_case(unit, new), MENTOR)
        cls.case = new.id

    def noted(self) -> int:
        """How much the case noted of what happened anyway."""
        return len(owner_rows(self.url, "SELECT 1 FROM case_step WHERE act = 'anyway' AND case_id = %s", self.case))

    def test_what_stands_still_is_stopped_at_every_door(self) -> None:
        """Refused without a reason; recorded by a mentor with one, and noted in the case; treated only by an inspector's
        reason; honey for people passes."""
        for act, rulings in TABLE.items():
            said = rulings["standstill"]
            with self.subTest(act=act, said=said):
                held, before = self.held(None), self.noted()
                if said == CAUTION:
                    self.act(act, held, MENTOR, "")
                    continue
                with self.assertRaises(Refused) as caught:
                    self.act(act, held, MENTOR, "")
                self.assertEqual(caught.exception.rule, "hold_standstill")
                self.assertEqual(caught.exception.can_override, said == ANYWAY)
                self.assertEqual("if it happened anyway" in str(caught.exception), said == ANYWAY)
                if act == "treat":
                    held = self.held(None)
                self.act(act, held, MENTOR if said == ANYWAY else INSPECTOR, WHY)
                self.assertGreater(self.noted(), before)

    def test_nothing_comes_in_either(self) -> None:
        """A new colony, a colony from elsewhere, a comb from another apiary: refused, then recorded with its reason."""
        number = uuid4()
        for why in ("", WHY):
            new = NewColony(id=number, apiary_id=HAY, label="swarm", since=TODAY, boxes=[DEEP], override_why=why)
            elsewhere = UUID(living(self.url, "Skerrow Bank")[0][0])
            version = self.do(lambda unit, one=elsewhere: colonies_read.colony_view(unit, one)).colony.version
            place = colonies_lineage.WantedPlace(HAY, f"from {str(elsewhere)[:8]}", TODAY, override_why=why)
            acts = (
                lambda unit, new=new: colonies_record.add_colony(unit, new),
                lambda unit, one=elsewhere, version=version, place=place: colonies_lineage.move(
                    unit, one, version, place
                ),
            )
            for act in acts:
                if why:
                    self.do(act)
                    continue
                with self.assertRaises(Refused) as caught:
                    self.do(act)
                self.assertEqual((caught.exception.rule, caught.exception.can_override), ("hold_standstill", True))

    def test_the_database_refuses_what_carries_no_reason(self) -> None:
        """Whoever writes, by whatever way: no event, no comb, no honey for bees without its rule and reason."""
        held, other = self.held(None), UUID(living(self.url, "Skerrow Bank")[1][0])
        comb = owner_rows(self.url, "SELECT id FROM frame WHERE box_id = %s AND slot = 5", held.box)[0][0]
        for statement, given in (
            ("INSERT INTO colony_event (id, association_id, colony_id, kind, happened_on) VALUES (%s, my_association(), %s, 'split_from', '2031-08-02')", [uuid4(), held.id]),
            ("INSERT INTO harvest (id, association_id, colony_id, harvested_on, honey_for) VALUES (%s, my_association(), %s, '2031-08-02', 'bees')", [uuid4(), held.id]),
            ("INSERT INTO frame_move (id, association_id, act_id, frame_id, moved_on, from_apiary, from_colony, to_apiary, to_colony) VALUES (%s, my_association(), %s, %s, '2031-08-02', %s, %s, %s, %s)", [uuid4(), uuid4(), comb, HAY, held.id, BANK, other]),
        ):  # fmt: skip
            with self.subTest(statement=statement[:30]), as_app(self.url, INSPECTOR) as app:
                with self.assertRaises(psycopg.errors.CheckViolation) as refused:
                    app.execute(statement, given)  # type: ignore[arg-type]
                self.assertEqual(refused.exception.diag.constraint_name, "stands_still")

    def test_how_far_it_reaches(self) -> None:
        """One colony, its apiary, or all apiaries of its keeper; another keeper's stay free."""
        url = new_database(demo_template())
        rows = owner_rows(url, "SELECT c.id, c.apiary_id, a.keeper_id FROM colony c JOIN apiary a ON a.id = c.apiary_id WHERE c.is_living AND c.association_id = %s ORDER BY c.id", made_id("corrane"))  # fmt: skip
        suspect, here, keeper = next(
            one for one in rows if sum(other[2] == one[2] and other[1] != one[1] for other in rows)
        )
        beside = next(one[0] for one in rows if one[1] == here and one[0] != suspect)
        elsewhere = next(one[0] for one in rows if one[2] == keeper and one[1] != here)
        stranger = next(
            one[0] for one in rows if one[2] != keeper and one[1] != made_id("corrane", "apiary", "Saltby Rise")
        )
        new = NewCase(uuid4(), suspect, "afb", TODAY, "brown remains")
        at_work(url, lambda unit: cases_record.raise_case(unit, new), INSPECTOR)
        for covers, still in (("colony", {suspect}), ("apiary", {suspect, beside}), ("keeper", {suspect, beside, elsewhere})):  # fmt: skip
            view = at_work(url, lambda unit: cases_read.case_view(unit, new.id), INSPECTOR)
            said = StepEvidence.model_validate({"covers": covers, "reference": "B 1", "ordered_by": "Officer"})
            step = WantedStep(uuid4(), "hold_official", view.line.case.version, view.steps[-1].at, said)
            at_work(url, lambda unit, step=step: cases_record.record_step(unit, new.id, step), INSPECTOR)
            asked = [suspect, beside, elsewhere, stranger]
            found = at_work(
                url, lambda unit, asked=asked: holds_store.held_back(unit.connection, asked, TODAY), INSPECTOR
            )
            with self.subTest(covers=covers):
                self.assertEqual({one.colony_id for one in found if one.standstill is not None}, still)

    def test_a_comb_out_of_store_does_not_slip_through(self) -> None:
        """What lies in store at an apiary that stands still stays there; hung elsewhere it needs its reason."""
        held = self.held(None)
        comb = owner_rows(self.url, "SELECT id FROM frame WHERE box_id = %s AND slot = 6", held.box)[0][0]
        store = colonies_frames.WantedMove(uuid4(), comb, None, None, None, "store", TODAY, None, WHY, "")
        self.do(lambda unit: colonies_frames.move_frame(unit, store), INSPECTOR)
        away = UUID(living(self.url, "Skerrow Bank")[2][0])
        self.open_and_drop(away)
        box = owner_rows(self.url, "SELECT b.id FROM hive_box b JOIN colony c ON c.hive_id = b.hive_id WHERE c.id = %s AND b.until IS NULL AND b.frames > 0", away)[0][0]  # fmt: skip
        for why in ("", WHY):
            hung = colonies_frames.WantedMove(uuid4(), comb, None, box, 1, None, TODAY, None, why, "", swap=True)
            if why:
                self.do(lambda unit, hung=hung: colonies_frames.move_frame(unit, hung), INSPECTOR)
                continue
            with self.assertRaises((Refused, InvalidInput)):
                self.do(lambda unit, hung=hung: colonies_frames.move_frame(unit, hung))

    def test_what_happened_anyway_is_undone_like_any_other(self) -> None:
        """A slip under a standstill is taken back a moment later; the case keeps that it was noted."""
        held, before = self.held(None), self.noted()
        self.act("split", held, MENTOR, WHY)
        notes = owner_rows(self.url, "SELECT evidence ->> 'text' FROM case_step WHERE act = 'anyway' AND case_id = %s ORDER BY seq", self.case)  # fmt: skip
        self.assertEqual([one for (one,) in notes[before:]], [f"a colony was split: {WHY}"], "nothing came in")
        query = "SELECT colony_id FROM colony_event WHERE other_colony_id = %s AND kind = 'split_from'"
        child = owner_rows(self.url, query, held.id)[0][0]
        change = self.do(lambda unit: colonies_read.colony_view(unit, child)).undoable
        self.do(lambda unit: undo_change(unit, child, change.change))
        self.assertEqual(owner_rows(self.url, query, held.id), [])
        self.assertGreater(self.noted(), before)
