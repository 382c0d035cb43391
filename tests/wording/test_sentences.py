"""Sentences of the core: every code has words, every place is filled by what visits say, browser and paper agree."""

from __future__ import annotations

import json
import re
import unittest
from datetime import date, timedelta
from importlib.resources import files
from typing import Any, get_args, get_type_hints

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from redframe.core.colonies.brood_state import BroodCode
from redframe.core.colonies.hive_state import PlacedBox
from redframe.core.deadouts.fates import FateCode, FateId
from redframe.core.deadouts.losses import SizeGoingIn, TreatedInTime
from redframe.core.deadouts.read_back import MissingCode, ReadBackCode
from redframe.core.deadouts.timeline import AliveCode, BroodTold, DeadCode
from redframe.core.disease.evidence import Context
from redframe.core.disease.signs import signs
from redframe.core.feeding.programme import ProgrammeCode
from redframe.core.forecast.turns import TurnCode
from redframe.core.planning.due import DueCode
from redframe.core.registers.register import LineField
from redframe.core.registers.treated_for import WhyCode
from redframe.core.sampling.method import CountCode, Method
from redframe.core.season.calendar import Phase
from redframe.core.status.status import Level
from redframe.core.treatments.course import StepKind
from redframe.core.treatments.earlier import KnownFrom
from redframe.core.treatments.lateness import LateCode
from redframe.core.treatments.progress import MovedCode
from redframe.core.treatments.reasons import ReasonCode
from redframe.core.treatments.why_failed import CauseCode, EvidenceCode
from redframe.core.visits.assessment import Assessment, VisitFacts, assess
from redframe.core.visits.comparison import QueenTrace
from redframe.core.visits.estimates import SeenFrame
from redframe.core.visits.finding import Said, SentenceCode
from redframe.core.visits.next_visit import NextVisit
from redframe.core.visits.past import PastVisit
from redframe.core.visits.queen import Criterion
from redframe.core.visits.record import After, Before, FrameRecord
from redframe.wording.sentences import PLACE, TOPICS, sentence, word
from tests.core.test_eligibility_properties import TODAY, situations, weigh
from tests.core.test_visit_assessment import BOTH_COURSES, BROOD_BOX, past
from tests.web.test_pure import run

ON = date(2031, 6, 14)
TEXTS: dict[str, dict[str, Any]] = json.loads(files("redframe.wording").joinpath("sentences.json").read_text("utf-8"))
SENTENCES: dict[str, str] = {code: text for topic in TOPICS for code, text in TEXTS[topic].items()}
KINDS = {"date", "temperature", "weight", "exact", "tenth", "whole", "percent", "Names", "places"}
tenths = st.integers(0, 5)
side = st.fixed_dictionaries({"capped": tenths, "open": st.integers(0, 2), "eggs": st.integers(0, 1), "bees": st.integers(0, 10)})  # fmt: skip
found_sign = st.fixed_dictionaries(
    {
        "sign": st.sampled_from(sorted(sign.id for sign in signs().values() if sign.on_frame)),
        "extent": st.just("few"),
    }
)
found_cells = st.fixed_dictionaries({
    "content": st.sampled_from(["cup", "egg", "larva", "capped", "emerged", "torn"]),
    "place": st.sampled_from(["edge", "face"]), "number": st.integers(1, 7),
})  # fmt: skip
comb = st.fixed_dictionaries({
    "a": side, "b": side, "queen": st.booleans(), "cells": st.lists(found_cells, max_size=2),
    "signs": st.lists(found_sign, max_size=1), "comb": st.lists(st.sampled_from(["old", "mould"]), max_size=1),
})  # fmt: skip
whole = st.fixed_dictionaries({}, optional={
    "frames_of_bees": st.floats(0, 20), "stores": st.floats(0, 30),
    "temper": st.integers(1, 10), "pattern_empty_pct": st.floats(0, 100), "queen": st.just("seen"),
    "eggs_seen": st.booleans(), "open_brood": st.booleans(), "capped_brood": st.booleans(),
})  # fmt: skip
outside = st.fixed_dictionaries({}, optional={
    "air_temp_c": st.floats(-5, 30), "rain": st.just("raining"), "traffic": st.just("fighting"),
    "board_mites": st.integers(0, 90), "board_days": st.floats(0.5, 5), "emergency": st.booleans(),
})  # fmt: skip


def combs(recorded: list[dict[str, Any]]) -> list[SeenFrame]:
    """Combs of the brood box, from its first slot on."""
    return [SeenFrame(1, slot, "A_deep", FrameRecord.model_validate(record)) for slot, record in enumerate(recorded, 1)]


def everything_said(found: Assessment) -> list[Said]:
    """Each sentence of an assessment."""
    findings = [*found.opening, *found.findings]
    reasons = [reason for one in findings for reason in one.because]
    return [*(Said(one.code, one.params) for one in findings), *reasons, *(one.found for one in found.worth)]


def literals(of: Any, field: str) -> set[str]:
    """The codes that a field of a dataclass can take."""
    return set(get_args(get_type_hints(of)[field]))


class Words(unittest.TestCase):
    def test_each_code_has_words_and_each_word_a_code(self) -> None:
        """Sentences, next visits, traces of the queen and criteria: nothing missing, nothing left over."""
        self.assertEqual(set(TEXTS["visits"]), set(get_args(SentenceCode)))
        self.assertEqual(set(TEXTS["counts"]), set(get_args(CountCode)))
        self.assertEqual(set(TEXTS["treatments"]), set(get_args(ReasonCode)))
        self.assertEqual(set(TEXTS["steps"]), set(get_args(MovedCode)))
        self.assertEqual(set(TEXTS["days"]), set(get_args(DueCode)))
        self.assertEqual(set(TEXTS["lateness"]), set(get_args(LateCode)))
        self.assertEqual(set(TEXTS["turns"]), set(get_args(TurnCode)))
        self.assertEqual(set(TEXTS["registers"]), set(get_args(WhyCode)))
        self.assertEqual(set(TEXTS["brood"]), set(get_args(BroodCode)))
        self.assertEqual(set(TEXTS["failure"]), set(get_args(EvidenceCode)))
        self.assertEqual(set(TEXTS["autumn"]), set(get_args(ProgrammeCode)))
        self.assertEqual(set(TEXTS["deadouts"]), set(get_args(ReadBackCode)))
        self.assertEqual(len(SENTENCES), sum(len(TEXTS[topic]) for topic in TOPICS), "a code stands in one topic")
        for table, codes in (
            ("next_visit", literals(NextVisit, "why")),
            ("queen_trace", literals(QueenTrace, "why")),
            ("criterion", literals(Criterion, "name")),
            ("step", set(get_args(StepKind))),
            ("method", set(get_args(Method))),
            ("phase", set(get_args(Phase))),
            ("level", set(get_args(Level))),
            ("cause", set(get_args(CauseCode))),
            ("cause_test", set(get_args(CauseCode))),
            ("known_from", set(get_args(KnownFrom))),
            ("register_field", set(get_args(LineField))),
            ("fate", set(get_args(FateId))),
            ("fate_why", set(get_args(FateCode))),
            ("bound", {*get_args(AliveCode), *get_args(DeadCode)}),
            ("brood_told", literals(BroodTold, "code")),
            ("not_on_record", set(get_args(MissingCode))),
            ("treated_in_time", set(get_args(TreatedInTime))),
            ("size_going_in", set(get_args(SizeGoingIn))),
        ):
            with self.subTest(table=table):
                self.assertEqual(set(TEXTS["words"][table]), codes)
                if table in ("step", "method", "phase", "criterion", "queen_trace"):
                    self.assertEqual(len(set(TEXTS["words"][table].values())), len(codes), "no word twice")

    def test_each_place_is_of_a_known_kind(self) -> None:
        """A place without a kind, one of the kinds, a noun with its plural, or a table that exists."""
        for code, text in SENTENCES.items():
            with self.subTest(code=code):
                for place in PLACE.finditer(text):
                    kind = place[2]
                    self.assertTrue(kind is None or kind in KINDS or kind in TEXTS["words"] or kind.count("|") == 1)
                self.assertNotRegex(PLACE.sub("", text), r"[{}]|\d °C|\d kg")

    def test_without_words_it_is_an_error(self) -> None:
        """A code or a figure that is missing is never printed as a hole."""
        for code, given_ in (("no such code", {}), ("swarm", {}), ("swarm", {"score": 9})):
            with self.assertRaises(KeyError):
                sentence(code, given_)
        with self.assertRaises(KeyError):
            word("next_visit", "no such reason")

    def test_figures_on_paper(self) -> None:
        """Days written out, metric units, the noun with its number, a capital where a name begins the sentence."""
        for code, params, said in (
            ("capped_only", {"since": date(2031, 6, 5)}, "No laying for at least 9 days, since 5 June 2031 or before."),
            ("stores_seen", {"kg": 8, "low": 5.2, "high": 10.81, "by": "hefting"}, "8 kg (5.2 kg to 10.8 kg) by hefting"),
            ("mites_in_days", {"mites": 1, "days": 2.5}, "1 mite in 2.5 days"),
            ("renew_comb", {"combs": 2, "places": ["1/3", "2/10"]}, "Renew 2 combs: box 1 frame 3, box 2 frame 10. Move to the edge, take when empty of brood."),
            ("share_of_median", {"share": 0.545}, "55% of the apiary's median"),
            ("swarm", {"score": 1}, "Swarm intent 1 of 5: cups with eggs. Give space; look again in 7 days."),
            ("no_shaking", {"limit": 18.0}, "Too cool to shake brood frames clear (from 18 °C)."),
        ):  # fmt: skip
            self.assertEqual(sentence(code, params), said)
        suspicion = sentence("suspicious", {"signs": ["sunken cappings", "ropy larvae"]})
        self.assertTrue(suspicion.startswith("Sunken cappings, ropy larvae: open cells"), suspicion)


class Visits(unittest.TestCase):
    @given(st.lists(comb, max_size=10), whole, outside, st.sampled_from(get_args(Phase)), st.sampled_from([None, 18.0]))
    @settings(max_examples=120, deadline=None, derandomize=True)
    def test_what_a_visit_says_can_be_said(
        self, recorded: list[dict[str, Any]], after: dict[str, Any], before: dict[str, Any], phase: Phase, bees: float | None
    ) -> None:  # fmt: skip
        """Whatever is recorded, each sentence that follows fills all its places; no code and no bare figure shows."""
        after, kg = {name: value for name, value in after.items() if name != "stores"}, after.get("stores")
        if kg is not None:
            after = {**after, "stores_kg": kg, "stores_by": "hefting"}
        if "board_mites" not in before or "board_days" not in before:
            before = {name: value for name, value in before.items() if not name.startswith("board_")}
        earlier: list[PastVisit] = [] if bees is None else [past(21, bees=bees)]
        boxes: list[PlacedBox] = [BROOD_BOX]
        found = assess(VisitFacts(
            on=ON, phase=phase, before=Before.model_validate(before), after=After.model_validate(after), boxes=boxes, numbered_from="left",
            now=combs(recorded), then=(), compared_with=None, past=earlier, near=(), left_on=(), queen_year=2030,
            open_from_c=15.0, courses=BOTH_COURSES, winter_target_kg=20.0, disease=Context("summer"), level="unknown", counted_on=None,
        ))  # fmt: skip
        for one in everything_said(found):
            text = sentence(one.code, one.params)
            self.assertNotRegex(text, r"[{}_]|\d{4}-\d\d|\.\d{3}")
        word("next_visit", found.suggested.why)

    @given(
        situations(),
        st.sampled_from(["colony_holds", "colony_last_treatments", "policy_approach", "policy_feed_start_by", ""]),
    )
    @settings(max_examples=60, deadline=None, derandomize=True, suppress_health_check=[HealthCheck.too_slow])
    def test_what_a_rule_says_can_be_said(self, answer: dict[str, Any], against: str) -> None:
        """Whatever is known of a colony, each reason for or against an option fills all its places."""
        day = TODAY - timedelta(days=20)
        changes: dict[str, Any] = {
            "colony_holds": [{"kind": "notifiable", "name": "foulbrood", "until": str(TODAY)}, {"kind": "other", "name": "chalk brood"}],
            "colony_last_treatments": [{"option": "OX_TRICKLE", "start": str(day), "end": str(day)}, {"option": "FA_STRIP2", "start": str(TODAY)}],
            "policy_approach": "treatment_free", "policy_feed_start_by": str(TODAY),
        }  # fmt: skip
        chosen = weigh(answer, **({against: changes[against]} if against else {}))
        for option in chosen.options.values():
            for reason in option.reasons:
                text = sentence(reason.code, reason.params)
                self.assertNotRegex(text, r"[{}_]|\d{4}-\d\d|\.\d{3}", reason.code)

    def test_browser_and_paper_say_the_same(self) -> None:
        """Each sentence, filled with figures of its kinds, reads the same in the browser for somebody who reads metric
        units and long days; for somebody else the figures are his, in every place and nowhere else."""
        asked = []
        for code, text in sorted(SENTENCES.items()):
            params: dict[str, Any] = {}
            for place in PLACE.finditer(text):
                name, kind = place[1], place[2]
                numbers = name in ("score",)
                if kind == "date":
                    params[name] = date(2031, 7, 30)
                elif kind in TEXTS["words"]:
                    params[name] = 3 if numbers else sorted(TEXTS["words"][kind])[0]
                elif kind in ("Names", "places") or name == "signs":
                    params[name] = ["1/3", "2/10"]
                else:
                    params.setdefault(name, 3 if numbers else 12.34)
            asked.append((code, params))
        wire = [(code, {k: v.isoformat() if isinstance(v, date) else v for k, v in params.items()}) for code, params in asked]  # fmt: skip
        script = """
            const metric = {date: (d) => d === "2031-07-30" ? "30 July 2031" : "?", temperature: (c) => `${Math.round(c * 10) / 10} °C`, weight: (k) => `${Math.round(k * 10) / 10} kg`};
            const other = {date: () => "<day>", temperature: () => "<degrees>", weight: () => "<pounds>"};
            return %s.map(([code, params]) => [module.sentence(code, params, metric), module.sentence(code, params, other)]);
        """
        answers = run("wording/sentences.ts", script % json.dumps(wire))
        for (code, params), (metric, other) in zip(asked, answers, strict=True):
            with self.subTest(code=code):
                self.assertEqual(metric, sentence(code, params))
                for kind, mark in (("date", "<day>"), ("temperature", "<degrees>"), ("weight", "<pounds>")):
                    wanted = len(re.findall(r"\{\w+:" + kind + r"\}", SENTENCES[code]))
                    self.assertEqual(other.count(mark), wanted)
                self.assertNotRegex(other, r"°C| kg\b|\d{4}-")
