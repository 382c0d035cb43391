"""The course of a case: its table, its days, its codes, its chain of custody."""

from __future__ import annotations

import random
import unittest
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from itertools import pairwise

from redframe.core.cases.case_words import case_words
from redframe.core.cases.evidence import StepEvidence
from redframe.core.cases.guards import CaseFacts, may_follow
from redframe.core.cases.laboratory import LaboratoryResult, Parcel
from redframe.core.cases.law import law_packs
from redframe.core.cases.samples import CODE_LETTERS, CustodyLine, code_is_whole, gaps, sample_code, sample_methods
from redframe.core.cases.schedule import StepTime, clocks, recheck_due, reinspection_due
from redframe.core.cases.states import (
    ACTS,
    ENTRIES,
    LABORATORY,
    OPEN_STATES,
    STATES,
    TABLE,
    Actor,
    CaseAct,
    Tracks,
    possible,
    transition,
)
from redframe.core.disease.conditions import conditions
from redframe.core.disease.safety import RAISES
from redframe.core.disease.safety_words import safety_words
from redframe.launch.system import ROOT
from redframe.stand_ins.laboratory import StandInLaboratory

START = Tracks("suspected", "none", "not_begun", "not_begun")
TODAY = date(2031, 8, 2)
RESULTS: tuple[frozenset[LaboratoryResult], ...] = (
    frozenset({"found"}), frozenset({"nothing_found"}), frozenset({"unsuitable"}),
)  # fmt: skip
EVERYBODY: frozenset[Actor] = frozenset({"keeper", "mentor", "inspector", "administrator", "laboratory", "system"})
NOON = datetime(2031, 7, 29, 12, tzinfo=UTC)


def walk(dice: random.Random, steps: int) -> list[CaseAct]:
    """A way through the table and its guards by chance; the acts taken."""
    tracks: Tracks = START
    taken: list[CaseAct] = []
    for _ in range(steps):
        ordered = TODAY if "order" in taken else None
        facts = CaseFacts(
            "afb", tracks, ["R3"], "accept_confirmed" in taken, ordered, TODAY, 1, 1, 5, dice.choice(RESULTS)
        )
        rows = may_follow(facts, EVERYBODY, law_packs()["general"])
        if not rows:
            break
        row = dice.choice(rows)
        taken.append(row.act)
        tracks = replace(tracks, **{row.track: row.target})  # type: ignore[arg-type]
    return taken


class Table(unittest.TestCase):
    def test_what_the_reference_says(self) -> None:
        """By hand from the reference: who, from where, to where."""
        rows = {(one.source, one.act): (one.target, one.actors) for one in TABLE if one.track == "case"}
        for source, act, target, actor in (
            ("suspected", "report", "reported", "keeper"), ("suspected", "not_supported", "not_supported", "inspector"),
            ("reported", "sample", "sampled", "inspector"), ("inconclusive", "sample", "sampled", "inspector"),
            ("lab_pending", "accept_confirmed", "confirmed", "inspector"), ("confirmed", "order", "order_issued", "inspector"),
            ("order_done", "reinspect_falls_due", "reinspect_due", "system"), ("released", "close", "closed", "administrator"),
            ("reinspected_positive", "order", "order_issued", "inspector"),
        ):  # fmt: skip
            self.assertEqual(rows[source, act][0], target)  # type: ignore[index]
            self.assertIn(actor, rows[source, act][1])  # type: ignore[index]
        for act in ("not_supported", "order", "release", "accept_negative"):
            for (_, one), (_, actors) in rows.items():
                if one == act:
                    self.assertEqual(actors, {"inspector"})

    def test_the_table_is_the_one_that_people_read(self) -> None:
        """Row by row as the method note has it."""
        lines = (ROOT / "docs" / "methods" / "cases.md").read_text(encoding="utf-8").splitlines()
        written = {
            tuple(cell.strip() for cell in line.strip("|").split("|")) for line in lines if line.startswith("| ")
        }
        rows = {
            (one.track, one.source, one.act, one.target, ", ".join(sorted(one.actors)), ", ".join(one.needs) or "-",
             one.lifts.replace("_", " "))
            for one in TABLE
        }  # fmt: skip
        self.assertEqual({row for row in written if row[0] != "track"}, rows)

    def test_every_state_is_reached_and_none_is_a_trap(self) -> None:
        """From the suspicion every state can be reached; from every open one the case can be closed."""
        leads: dict[str, set[str]] = {}
        for row in TABLE:
            if row.track == "case":
                leads.setdefault(row.source, set()).add(row.target)

        def reached(start: str) -> set[str]:
            found, ahead = {start}, [start]
            while ahead:
                for one in leads.get(ahead.pop(), set()) - found:
                    found.add(one)
                    ahead.append(one)
            return found

        self.assertEqual(reached("suspected"), set(STATES))
        for state in OPEN_STATES:
            self.assertIn("closed", reached(state), state)
        self.assertEqual(leads.get("closed"), None)

    def test_whichever_way_it_goes_the_laboratory_speaks_before_an_order(self) -> None:
        """Fifteen hundred ways: no order without a confirmation, no confirmation without a receipt, no receipt without
        samples; no release from an order without an inspection."""
        dice = random.Random(31)
        ordered = 0
        for _ in range(1500):
            taken = walk(dice, 40)
            for needed, act in (
                ("sample", "receive"), ("receive", "accept_confirmed"), ("accept_confirmed", "order"), ("order", "order_done"),
            ):  # fmt: skip
                if act in taken:
                    self.assertIn(needed, taken[: taken.index(act)])  # type: ignore[arg-type]
            if "order_done" in taken and "release" in taken[taken.index("order_done") :]:
                after = taken[taken.index("order_done") :]
                between = after[: after.index("release")]
                self.assertTrue({"reinspect_clear", "recheck"} & set(between), taken)
                ordered += 1
        self.assertGreater(ordered, 5)

    def test_a_task_begins_with_a_confirmed_case(self) -> None:
        """Tracing and the inspections around wait for it; the official standstill waits for nothing."""
        for confirmed in (False, True):
            facts = CaseFacts("afb", START, [], confirmed, None, None, 0, 0, 5)
            acts = {one.act for one in may_follow(facts, EVERYBODY, law_packs()["general"])}
            self.assertEqual({"open_tracing", "open_radius"} <= acts, confirmed)
        for state in OPEN_STATES:
            self.assertIsNotNone(transition(Tracks(state, "none", "not_begun", "not_begun"), "hold_official"))
        self.assertEqual(possible(Tracks("closed", "none", "not_begun", "not_begun")), [])

    def test_words_for_all(self) -> None:
        """Every act, state, field, disease and rule that raises has its words; a laboratory's acts are its own."""
        words = case_words()
        self.assertEqual(set(words.acts), set(ACTS))
        self.assertEqual({one.act for one in TABLE} | set(ENTRIES), set(ACTS))
        self.assertEqual(set(words.states), set(STATES))
        asked = {field for row in TABLE for field in (*row.needs, *row.asks)}
        self.assertLessEqual(asked, set(words.fields))
        self.assertLessEqual(set(words.fields) - {"samples"}, set(StepEvidence.model_fields))
        self.assertLessEqual(RAISES, set(safety_words().rules))
        self.assertEqual({one.act for one in TABLE if one.actors == LABORATORY}, {"receive"})
        for law in law_packs().values():
            self.assertEqual(set(law.diseases), set(words.diseases))
        for disease in words.diseases:
            self.assertIn(disease, conditions())
            self.assertTrue(any(disease in one.diseases for one in sample_methods().values()))


class Days(unittest.TestCase):
    def test_looked_at_again_where_there_is_brood(self) -> None:
        """42 to 56 days after the order; an order of September waits for April, over the turn of the year."""
        law = law_packs()["general"]
        due = reinspection_due(date(2031, 6, 1), law)
        self.assertEqual((due.first, due.last), (date(2031, 7, 13), date(2031, 7, 27)))
        late = reinspection_due(date(2031, 9, 10), law)
        self.assertEqual((late.first, late.last), (date(2032, 4, 1), date(2032, 4, 15)))
        self.assertEqual(recheck_due(date(2031, 12, 20), law_packs()["ellery"]).first, date(2032, 1, 3))
        for ordered in (date(2031, 1, 1) + timedelta(days=days) for days in range(0, 730, 11)):
            for name, pack in law_packs().items():
                found = reinspection_due(ordered, pack)
                with self.subTest(ordered=ordered, law=name):
                    self.assertIn(found.first.month, pack.season)
                    self.assertGreaterEqual(found.first, ordered + timedelta(days=pack.reinspect_days[0]))
                    self.assertEqual((found.last - found.first).days >= 14, True)

    def test_clocks(self) -> None:
        """Hours from the last beginning to its end, against what the law allows; one that did not begin is not shown."""
        law = law_packs()["general"]
        steps = [StepTime("raise", NOON), StepTime("report", NOON + timedelta(hours=30)), StepTime("hold_official", NOON + timedelta(hours=33))]  # fmt: skip
        found = {one.id: one for one in clocks(steps, "afb", law, NOON + timedelta(hours=40), None)}
        self.assertEqual(set(found), {"to_report", "to_standstill"})
        self.assertEqual((found["to_report"].hours, found["to_report"].is_over), (30, True))
        self.assertEqual((found["to_standstill"].hours, found["to_standstill"].is_over), (3, False))
        again = [*steps, StepTime("sample", NOON + timedelta(hours=35))]
        sent = {one.id: one for one in clocks(again, "afb", law, NOON + timedelta(hours=40), None)}["to_receipt"]
        self.assertEqual((sent.hours, sent.ended, sent.is_over), (5, None, False))


class Codes(unittest.TestCase):
    def test_a_slip_of_the_pen_is_found(self) -> None:
        """Every wrong sign and every exchange of neighbours, of codes from all over, by trying them all."""
        dice = random.Random(7)
        for number in (0, 1, 23**5 - 1, *(dice.randrange(23**5) for _ in range(400))):
            code = sample_code(number)
            self.assertTrue(code_is_whole(code))
            for at in range(6):
                for letter in CODE_LETTERS:
                    if letter != code[at]:
                        self.assertFalse(code_is_whole(code[:at] + letter + code[at + 1 :]))
            for at in range(5):
                if code[at] != code[at + 1]:
                    self.assertFalse(code_is_whole(code[:at] + code[at + 1] + code[at] + code[at + 2 :]))
        self.assertEqual(len({sample_code(number) for number in range(20_000)}), 20_000)
        with self.assertRaises(ValueError):
            sample_code(23**5)


class Custody(unittest.TestCase):
    def chain(self) -> list[CustodyLine]:
        """A whole chain."""
        return [
            CustodyLine("taken", NOON, "Inspector", "", "", None, None),
            CustodyLine("sealed", NOON, "Inspector", "", "S-1", None, None),
            CustodyLine("handed_over", NOON + timedelta(hours=2), "Inspector", "Carrier", "S-1", 6, None),
            CustodyLine("received", NOON + timedelta(hours=20), "Carrier", "Laboratory", "S-1", None, True),
        ]

    def test_a_whole_chain_has_no_gap(self) -> None:
        """Hand to hand, under one seal."""
        self.assertEqual(gaps(self.chain()), [])

    def test_each_break_is_named(self) -> None:
        """A seal that changed, that broke, that was never there; a hand that is missing; days with nobody."""
        whole = self.chain()
        for line, change, said in (
            (3, {"seal": "S-2"}, "the seal was S-1 and came as S-2"), (3, {"seal_whole": False}, "was broken"),
            (3, {"by": "Somebody"}, "it was with Carrier, not with Somebody"),
            (3, {"at": NOON + timedelta(days=5)}, "nobody is on record"), (3, {"at": NOON}, "before the line above"),
        ):  # fmt: skip
            broken = [*whole]
            broken[line] = replace(broken[line], **change)  # type: ignore[arg-type]
            with self.subTest(change=change):
                self.assertTrue(any(said in one for one in gaps(broken)), gaps(broken))
        self.assertIn("it was handed over without a seal", gaps([whole[0], replace(whole[2], seal="")]))


class StandIn(unittest.TestCase):
    def test_it_answers_in_time_and_signs(self) -> None:
        """Nothing before its hour, the same again for the same parcel; a changed word breaks the signature."""
        laboratory = StandInLaboratory()
        seen = {"unsuitable": 0, "could_not_tell": 0, "found": 0, "nothing_found": 0}
        for number in range(600):
            parcel = Parcel(sample_code(number * 997), "comb", "afb", NOON, "S-1")
            self.assertEqual(laboratory.documents(parcel, NOON + timedelta(hours=10)), [])
            receipt, result = laboratory.documents(parcel, NOON + timedelta(days=6))
            self.assertEqual(laboratory.documents(parcel, receipt.at), [receipt])
            self.assertTrue(all(laboratory.is_signed(one) for one in (receipt, result)))
            self.assertFalse(laboratory.is_signed(replace(result, result="found" if result.result != "found" else "unsuitable")))  # fmt: skip
            assert result.result is not None
            seen[result.result] += 1
        self.assertTrue(all(seen.values()), seen)
        self.assertLess(seen["unsuitable"], 60)
        self.assertTrue(all(one.at < other.at for one, other in pairwise([receipt, result])))


if __name__ == "__main__":
    unittest.main()
