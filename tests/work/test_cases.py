"""A suspect case from the suspicion to its closing: who may record what, when, and what stands still meanwhile."""

from __future__ import annotations

import unittest
from collections.abc import Collection
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from typing import Any
from uuid import UUID, uuid4

import psycopg

from redframe.core.cases.evidence import StepEvidence
from redframe.core.cases.laboratory import LaboratoryDocument, LaboratoryResult, Parcel
from redframe.core.cases.states import TABLE, CaseAct, CaseDisease
from redframe.core.errors import InvalidInput, Refused
from redframe.core.visits.record import FrameRecord, SignSeen
from redframe.demo.scenario import made_id
from redframe.stand_ins.laboratory import StandInLaboratory
from redframe.store.database import Identity
from redframe.store.errors import Conflict, NotFound
from redframe.work.cases import read, record, samples
from redframe.work.cases.read import CaseView
from redframe.work.cases.record import NewCase, WantedStep
from redframe.work.cases.samples import NewCustody, NewSample
from redframe.work.visits import record as visits_record
from redframe.work.visits.read import visit_view
from redframe.work.visits.record import FrameEntry
from tests.support import as_app, at_work, demo_template, identity, living, new_database, owner_rows

TODAY = date(2031, 8, 2)
PLACE = "Mell Fold"
INSPECTOR, MENTOR, ADMINISTRATOR = identity("inspector"), identity("mentor"), identity("administrator")
OFFICER = {"reference": "B-31-7", "ordered_by": "Case officer"}
LOOKED = {"all_brood_frames": True, "brood_frames": 12}


def noon(day: date) -> datetime:
    return datetime(day.year, day.month, day.day, 11, 0, tzinfo=UTC)


class Answers:
    """A laboratory that has received the parcel and written one result."""

    def __init__(self, result: LaboratoryResult, whole: bool = True, silent: Collection[str] = ()) -> None:
        self.result, self.whole, self.silent = result, whole, silent

    def documents(self, parcel: Parcel, by: datetime) -> list[LaboratoryDocument]:
        at = parcel.sent_at + timedelta(hours=20)
        receipt = LaboratoryDocument(
            "receipt", parcel.code, at, parcel.seal, self.whole, "PCR", None, "", "L", "s" * 20
        )
        if parcel.code in self.silent:
            return [receipt]
        return [receipt, replace(receipt, kind="result", result=self.result, text="written")]

    def is_signed(self, document: LaboratoryDocument) -> bool:
        return len(document.signature) == 20


class Case(unittest.TestCase):
    def setUp(self) -> None:
        self.url = new_database(demo_template())
        self.apiary = made_id("corrane", "apiary", PLACE)
        self.colony = UUID(living(self.url, PLACE)[0][0])
        self.now = TODAY

    def at_work(self, act: Any, who: Identity = INSPECTOR, reason: str = "") -> Any:
        return at_work(self.url, act, who, reason=reason, day=self.now)

    def suspect(self, disease: CaseDisease = "afb", who: Identity = INSPECTOR) -> CaseView:
        new = NewCase(uuid4(), self.colony, disease, self.now, "sunken cappings, brown remains")
        return self.at_work(lambda unit: record.raise_case(unit, new), who)

    def read(self, case: UUID, who: Identity = INSPECTOR) -> CaseView:
        return self.at_work(lambda unit: read.case_view(unit, case), who)

    def step(self, case: UUID, act: CaseAct, who: Identity = INSPECTOR, **evidence: Any) -> CaseView:
        version = self.read(case).line.case.version
        at = noon(self.now) - timedelta(hours=1)
        last = max(one.at for one in self.read(case).steps)
        wanted = WantedStep(uuid4(), act, version, max(at, last), StepEvidence.model_validate(evidence))
        return self.at_work(lambda unit: record.record_step(unit, case, wanted), who)

    def sample(self, case: UUID, who: Identity = INSPECTOR) -> UUID:
        """A sample taken, sealed and handed over."""
        number, at = uuid4(), noon(self.now) - timedelta(hours=1)
        taken = NewSample(number, self.colony, "comb", "comb 4", at, "Inspector", "S-1")
        self.at_work(lambda unit: samples.take_sample(unit, case, taken), who)
        handed = NewCustody(uuid4(), "handed_over", at, "Inspector", "Carrier", "S-1", 6.0)
        self.at_work(lambda unit: samples.hand_on(unit, number, handed), who)
        return number

    def to_laboratory(self, case: UUID, result: LaboratoryResult = "found", whole: bool = True) -> CaseView:
        self.sample(case)
        self.step(case, "sample")
        self.now += timedelta(days=2)
        return self.at_work(lambda unit: samples.ask_laboratory(unit, Answers(result, whole), case))

    def confirmed(self) -> UUID:
        case = self.suspect().line.case.id
        self.step(case, "report", reference="R-1", text="by telephone")
        self.step(case, "hold_official", **OFFICER, covers="apiary")
        self.to_laboratory(case)
        self.step(case, "accept_confirmed", **OFFICER)
        return case


class Course(Case):
    def test_from_suspicion_to_closing(self) -> None:
        """Each step in its order; the standstill begins with the suspicion and ends with the release."""
        case = self.confirmed()
        self.step(case, "open_tracing")
        self.step(case, "order", **OFFICER, option="destruction", text="burn", deadline=self.now + timedelta(days=3))
        self.step(case, "order_done", witness="Keeper", hives=1, frames=20, disinfected=["tools_flamed"])
        self.assertEqual(self.read(case).line.state, "order_done")
        self.assertEqual(self.read(case).line.due.first - self.now, timedelta(days=42))  # type: ignore[union-attr]
        whole = {**LOOKED, "colonies_examined": self.read(case).living}
        with self.assertRaises(Refused) as early:
            self.step(case, "reinspect_clear", **whole)
        self.assertEqual(early.exception.rule, "case_order")
        self.now += timedelta(days=42)
        self.assertEqual(self.read(case).line.state, "reinspect_due")
        with self.assertRaises(Refused) as few:
            self.step(case, "reinspect_clear", **{**whole, "colonies_examined": 1})
        self.assertEqual(few.exception.field, "evidence.colonies_examined")
        self.step(case, "reinspect_clear", **whole)
        view = self.step(case, "release", **OFFICER)
        self.assertEqual((view.line.state, view.line.case.hold), ("released", "lifted"))
        view = self.step(case, "close", ADMINISTRATOR, text="source found", lessons="old combs")
        self.assertEqual((view.line.state, view.next), ("closed", []))
        self.assertEqual([one.seq for one in view.steps], list(range(1, len(view.steps) + 1)))
        self.assertEqual(view.steps[-1].act, "close")
        self.assertIn("reinspect_falls_due", [one.act for one in view.steps])
        kept = owner_rows(
            self.url, "SELECT kind, since, until FROM standstill WHERE case_id = %s ORDER BY since, kind DESC", case
        )
        self.assertEqual([one[0] for one in kept], ["voluntary", "official"])
        self.assertTrue(all(until is not None for _, _, until in kept))

    def test_what_cannot_follow_is_refused_here_and_in_the_database(self) -> None:
        """No order before a confirmation, no release before an inspection, whoever asks."""
        case = self.suspect().line.case.id
        for act in ("order", "release", "close", "accept_confirmed", "open_tracing", "receive", "raise", "anyway"):
            with self.subTest(act=act), self.assertRaises((Refused, InvalidInput)):
                self.step(case, act, **OFFICER, text="x", option="destruction", deadline=self.now)  # type: ignore[arg-type]
        insert = (
            "INSERT INTO case_step (id, association_id, case_id, seq, act, track, source, target, actor, at, happened_on) "
            "VALUES (%s, my_association(), %s, 0, %s, 'case', %s, %s, %s, now(), '2031-08-02')"
        )
        for act, source, target, actor, said in (
            ("release", "suspected", "released", "inspector", "case_step_order"),
            ("report", "confirmed", "reported", "inspector", "case_step_order"),
            ("not_supported", "suspected", "not_supported", "mentor", "case_step_actor"),
            ("receive", "sampled", "lab_pending", "laboratory", "case_step_signed"),
        ):
            with self.subTest(act=act), as_app(self.url, INSPECTOR) as app:
                with self.assertRaises(psycopg.errors.CheckViolation) as refused:
                    app.execute(insert, [uuid4(), case, act, source, target, actor])
                self.assertEqual(refused.exception.diag.constraint_name, said)
        for change in ("UPDATE disease_case SET state = 'closed'", "DELETE FROM case_step", "DELETE FROM standstill",
                       "UPDATE case_step SET act = 'close'", "UPDATE standstill SET until = since",
                       "UPDATE custody_line SET by_name = 'x'"):  # fmt: skip
            with (
                self.subTest(change=change), as_app(self.url, INSPECTOR) as app,
                self.assertRaises(psycopg.errors.InsufficientPrivilege),
            ):  # fmt: skip
                app.execute(change)  # type: ignore[arg-type]

    def test_the_database_holds_the_same_table(self) -> None:
        """Row by row: act, track, from, to, who, what it does to the standstill."""
        rows = owner_rows(self.url, "SELECT act, track, source, target, actors, lifts FROM case_transition")
        here = {(one.act, one.track, one.source, one.target, tuple(sorted(one.actors)), one.lifts) for one in TABLE}
        self.assertEqual({(*row[:4], tuple(row[4]), row[5]) for row in rows}, here)

    def test_who_may_do_what(self) -> None:
        """A keeper raises, reports and reads; only an inspector lays to rest, orders and releases."""
        keeper = identity("keeper", self.keeper())
        case = self.suspect(who=keeper).line.case.id
        mine = {one.act for one in self.read(case, keeper).next if one.mine}
        self.assertEqual(mine, {"report"})
        with self.assertRaises(Refused) as refused:
            self.step(case, "not_supported", keeper, **LOOKED, rope_negative=True, scales_negative=True, text="none")
        self.assertEqual(refused.exception.rule, "case_role")
        self.step(case, "report", keeper, reference="R-1", text="by telephone")
        with self.assertRaises(Refused):
            self.step(case, "hold_official", MENTOR, **OFFICER, covers="apiary")
        stranger = identity("keeper", "Orla Fenwick")
        if self.keeper() != "Orla Fenwick":
            with self.assertRaises(NotFound):
                self.read(case, stranger)

    def keeper(self) -> str:
        return str(
            owner_rows(
                self.url, "SELECT k.name FROM apiary a JOIN keeper k ON k.id = a.keeper_id WHERE a.id = %s", self.apiary
            )[0][0]
        )

    def test_laid_to_rest_by_a_second_look_unless_only_the_laboratory_can(self) -> None:
        """A thread, a scale, a tongue or a kit go to the laboratory; a judgement does not."""
        case = self.suspect().line.case.id
        look = {**LOOKED, "rope_negative": True, "scales_negative": True, "text": "nothing on 12 combs"}
        for field in ("rope_negative", "scales_negative", "all_brood_frames"):
            with self.subTest(field=field), self.assertRaises(Refused) as refused:
                self.step(case, "not_supported", **{**look, field: False})
            self.assertEqual(refused.exception.field, f"evidence.{field}")
        view = self.step(case, "not_supported", **look)
        self.assertEqual((view.line.state, view.line.case.hold), ("not_supported", "lifted"))
        roped = self.visit_with("ropy_thread").line.case
        self.assertEqual(roped.disease, "afb")
        self.assertIn("R1", roped.rules)
        self.assertNotIn("not_supported", {one.act for one in self.read(roped.id).next})
        with self.assertRaises(Refused) as only:
            self.step(roped.id, "not_supported", **look)
        self.assertEqual(only.exception.rule, "case_laboratory")

    def visit_with(self, *signs: str) -> CaseView:
        """The case that a closed visit raises."""
        self.colony = UUID(living(self.url, PLACE)[1][0])
        number = uuid4()
        seen = FrameRecord(signs=[SignSeen(sign=one, extent="few", side="a") for one in signs])

        async def visit(unit: Any) -> None:
            view = await visits_record.open_visit(unit, number, self.colony, noon(self.now))
            box = view.place.frames[3]
            assert box.box_id is not None and box.slot is not None
            await visits_record.save_frames(unit, number, [FrameEntry(box.box_id, box.slot, 0, seen)])
            await visits_record.close_visit(unit, number)

        self.at_work(visit)
        lines = self.at_work(lambda unit: read.case_list(unit, apiary_id=self.apiary))
        found = next(one for one in lines if one.case.colony_id == self.colony)
        return self.read(found.case.id)

    def test_a_visit_raises_its_case_once(self) -> None:
        """Amended, seen again or reopened, a colony has one open case of a disease; without a sign there is none."""
        first = self.visit_with("ropy_thread")
        self.assertEqual([one.act for one in first.steps], ["raise", "hold_voluntary"])
        self.assertEqual(first.line.case.hold, "voluntary")
        visit = owner_rows(self.url, "SELECT id FROM visit WHERE colony_id = %s ORDER BY created_at DESC", self.colony)
        self.at_work(lambda unit: visits_record.reopen_visit(unit, visit[0][0]), reason="undone")
        self.at_work(lambda unit: visits_record.close_visit(unit, visit[0][0]))
        self.assertEqual(len(owner_rows(self.url, "SELECT 1 FROM disease_case WHERE colony_id = %s", self.colony)), 1)

    def test_what_is_added_after_a_case_raises_another(self) -> None:
        """A case was closed; its visit closed again with the same says nothing, with another sign raises a case."""
        first = self.visit_with("cap_sunken", "cap_greasy").line.case
        query = "SELECT id FROM visit WHERE colony_id = %s ORDER BY created_at DESC"
        visit = owner_rows(self.url, query, self.colony)[0][0]
        look = {**LOOKED, "rope_negative": True, "scales_negative": True, "text": "nothing on 12 combs"}
        self.step(first.id, "not_supported", **look)
        self.step(first.id, "close", text="done")
        raised = "SELECT 1 FROM disease_case WHERE colony_id = %s"

        def again(*signs: str) -> int:
            self.at_work(lambda unit: visits_record.reopen_visit(unit, visit), reason="undone")
            view = self.at_work(lambda unit: visit_view(unit, visit))
            seen = next(one for one in view.records if one.record.signs)
            record_of = FrameRecord(signs=[SignSeen(sign=one, extent="few", side="a") for one in signs])
            entry = FrameEntry(seen.box_id, seen.slot, seen.version, record_of)
            self.at_work(lambda unit: visits_record.save_frames(unit, visit, [entry]))
            self.at_work(lambda unit: visits_record.close_visit(unit, visit))
            return len(owner_rows(self.url, raised, self.colony))

        self.assertEqual(again("cap_sunken", "cap_greasy"), 1)
        self.assertEqual(again("cap_sunken", "cap_greasy", "scale_stuck"), 2)

    def test_what_is_seen_later_counts_for_the_case(self) -> None:
        """A suspicion by judgement, then a thread at a visit: from then on only the laboratory decides."""
        self.colony = UUID(living(self.url, PLACE)[1][0])
        case = self.suspect().line.case.id
        self.assertFalse(self.read(case).laboratory_decides)
        seen = self.visit_with("ropy_thread")
        self.assertEqual(seen.line.case.id, case)
        self.assertTrue(seen.laboratory_decides)
        self.assertEqual(seen.steps[-1].act, "seen_again")
        self.assertIn("R1", [one.id for one in seen.rules])

    def test_two_people_at_once(self) -> None:
        """The second to record the same step is told; the same write sent twice is one."""
        case = self.suspect().line.case
        said = StepEvidence(reference="R-1", text="by telephone")
        at = self.read(case.id).steps[-1].at
        wanted = WantedStep(uuid4(), "report", case.version, at, said)
        again = WantedStep(uuid4(), "report", case.version, at, said)
        self.at_work(lambda unit: record.record_step(unit, case.id, wanted))
        self.at_work(lambda unit: record.record_step(unit, case.id, wanted))
        with self.assertRaises((Conflict, Refused)):
            self.at_work(lambda unit: record.record_step(unit, case.id, again))
        self.assertEqual([one.act for one in self.read(case.id).steps].count("report"), 1)

    def test_bad_input_is_named(self) -> None:
        """Each missing piece at its field, a day in the future, a colony elsewhere; nothing is recorded."""
        case = self.suspect().line.case.id
        for evidence, field in (({"text": "x"}, "reference"), ({"reference": "x"}, "text")):
            with self.assertRaises(InvalidInput) as refused:
                self.step(case, "report", **evidence)
            self.assertEqual(refused.exception.field, f"evidence.{field}")
        with self.assertRaises(InvalidInput):
            future = NewCase(uuid4(), self.colony, "efb", self.now + timedelta(days=1), "x")
            self.at_work(lambda unit: record.raise_case(unit, future))
        with self.assertRaises(Conflict):
            self.suspect()
        self.step(case, "report", reference="R-1", text="x")
        with self.assertRaises(Refused) as none:
            self.step(case, "sample")
        self.assertEqual(none.exception.rule, "case_sample")
        elsewhere = UUID(living(self.url, "Kettle Wood")[0][0])
        taken = NewSample(uuid4(), elsewhere, "comb", "", noon(TODAY), "Inspector", "")
        with self.assertRaises(InvalidInput) as wrong:
            self.at_work(lambda unit: samples.take_sample(unit, case, taken))
        self.assertEqual(wrong.exception.field, "colony_id")

    def test_only_what_the_laboratory_wrote_is_accepted(self) -> None:
        """Found is not taken for nothing; before a result nothing is; on a broken chain the authority may take it for
        none."""
        accepts: dict[tuple[LaboratoryResult, bool], set[str]] = {
            ("found", True): {"accept_confirmed"}, ("nothing_found", True): {"accept_negative"},
            ("could_not_tell", True): {"accept_inconclusive"}, ("unsuitable", True): {"accept_inconclusive"},
            ("found", False): {"accept_confirmed", "accept_inconclusive"},
        }  # fmt: skip
        for (result, whole), expected in accepts.items():
            self.setUp()
            case = self.suspect().line.case.id
            self.step(case, "report", reference="R-1", text="x")
            view = self.to_laboratory(case, result, whole)
            with self.subTest(result=result, whole=whole):
                self.assertEqual({one.act for one in view.next if one.act.startswith("accept_")}, expected)
                self.assertEqual(view.line.waits_for, ["inspector"])
                self.assertEqual(view.samples[0].gaps == [], whole)
                for act in {"accept_negative", "accept_inconclusive", "accept_confirmed"} - expected:
                    with self.assertRaises(Refused) as refused:
                        self.step(case, act, **OFFICER)  # type: ignore[arg-type]
                    self.assertEqual(refused.exception.rule, "case_unproven")

    def test_nothing_found_means_in_all_that_was_sent(self) -> None:
        """One of two answered: it is not taken for both. A sample that was never handed over is no part of it; one that
        is handed over later goes with the next sending, however early it was taken."""
        case = self.suspect().line.case.id
        self.step(case, "report", reference="R-1", text="x")
        first, second, kept = self.sample(case), self.sample(case), uuid4()
        at = noon(self.now) - timedelta(hours=1)
        taken = NewSample(kept, self.colony, "larvae", "", at, "Inspector", "S-9")
        self.at_work(lambda unit: samples.take_sample(unit, case, taken))
        self.step(case, "sample")
        codes = {one.sample.id: one.sample.code for one in self.read(case).samples}
        self.now += timedelta(days=2)

        def accepts(*silent: UUID) -> set[str]:
            answers = Answers("nothing_found", silent={codes[one] for one in silent})
            view = self.at_work(lambda unit: samples.ask_laboratory(unit, answers, case))
            return {one.act for one in view.next if one.act.startswith("accept_")}

        self.assertEqual(accepts(second), set())
        with self.assertRaises(Refused):
            self.step(case, "accept_negative", **OFFICER)
        self.assertEqual(accepts(), {"accept_negative"})
        again = NewSample(first, self.colony, "comb", "comb 4", noon(TODAY) - timedelta(hours=1), "Inspector", "S-1")
        self.at_work(lambda unit: samples.take_sample(unit, case, again))
        new = NewSample(uuid4(), self.colony, "comb", "", noon(self.now) - timedelta(hours=2), "Inspector", "")
        with self.assertRaises(Refused):
            self.at_work(lambda unit: samples.take_sample(unit, case, new))
        self.step(case, "reopen", text="signs again")
        with self.assertRaises(Refused):
            self.step(case, "sample")
        handed = NewCustody(
            uuid4(), "handed_over", noon(self.now) - timedelta(hours=2), "Inspector", "Carrier", "S-9", 6.0
        )
        self.at_work(lambda unit: samples.hand_on(unit, kept, handed))
        self.step(case, "sample")
        self.assertEqual(accepts(kept), set())
        view = self.at_work(lambda unit: samples.ask_laboratory(unit, Answers("found"), case))
        self.assertEqual(view.line.state, "lab_pending")
        self.assertIn("accept_confirmed", {one.act for one in view.next})

    def test_an_inspection_is_not_dated_before_its_time(self) -> None:
        """Entered when it is due, but made before: there was too little time for signs."""
        case = self.confirmed()
        self.step(case, "order", **OFFICER, option="destruction", text="burn", deadline=self.now + timedelta(days=3))
        self.step(case, "order_done", witness="Keeper", hives=1, frames=20, disinfected=["tools_flamed"])
        self.now += timedelta(days=50)
        view = self.read(case)
        shown = StepEvidence.model_validate({**LOOKED, "colonies_examined": view.living})
        early = WantedStep(
            uuid4(), "reinspect_clear", view.line.case.version, noon(self.now - timedelta(days=20)), shown
        )
        with self.assertRaises(Refused) as refused:
            self.at_work(lambda unit: record.record_step(unit, case, early))
        self.assertEqual(refused.exception.rule, "case_early")

    def test_an_order_that_the_law_does_not_know(self) -> None:
        """Said at its field."""
        case = self.confirmed()
        with self.assertRaises(Refused) as refused:
            self.step(case, "order", **OFFICER, option="antibiotic_by_vet", text="x", deadline=self.now)
        self.assertEqual((refused.exception.rule, refused.exception.field), ("case_option", "evidence.option"))

    def test_the_laboratory_is_waited_for(self) -> None:
        """Received and not answered: nothing can be accepted, and the list says for whom it waits."""
        case = self.suspect().line.case.id
        self.step(case, "report", reference="R-1", text="x")
        self.sample(case)
        self.step(case, "sample")
        self.now += timedelta(days=1, hours=12)
        view = self.at_work(lambda unit: samples.ask_laboratory(unit, StandInLaboratory(), case))
        self.assertEqual((view.line.state, view.line.waits_for), ("lab_pending", ["laboratory"]))
        self.assertEqual([one.act for one in view.next if one.act.startswith("accept_")], [])

    def test_inconclusive_asks_for_a_new_sample(self) -> None:
        """The old sample does not go a second time."""
        case = self.suspect().line.case.id
        self.step(case, "report", reference="R-1", text="x")
        self.to_laboratory(case, "unsuitable")
        self.assertEqual(self.read(case).line.state, "lab_pending")
        self.step(case, "accept_inconclusive", **OFFICER)
        with self.assertRaises(Refused) as none:
            self.step(case, "sample")
        self.assertEqual(none.exception.rule, "case_sample")
        self.sample(case)
        self.assertEqual(self.step(case, "sample").line.state, "sampled")

    def test_a_negative_with_signs_is_looked_at_again_before_release(self) -> None:
        """Not before two weeks; the standstill stays if the authority says so."""
        case = self.suspect().line.case.id
        self.step(case, "report", reference="R-1", text="x")
        self.to_laboratory(case, "nothing_found")
        self.step(case, "accept_negative", **OFFICER)
        view = self.step(case, "recheck", **OFFICER, hold_stays=True)
        self.assertEqual(view.line.case.hold, "voluntary")
        whole = {**OFFICER, **LOOKED, "colonies_examined": view.living}
        with self.assertRaises(Refused) as early:
            self.step(case, "release", **whole)
        self.assertEqual(early.exception.rule, "case_early")
        self.now += timedelta(days=14)
        self.assertEqual(self.step(case, "release", **whole).line.case.hold, "lifted")


if __name__ == "__main__":
    unittest.main()
