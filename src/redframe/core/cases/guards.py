"""What a step of a case must show before it may follow: checked here, field by field."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from redframe.core.cases.evidence import StepEvidence
from redframe.core.cases.laboratory import LaboratoryResult
from redframe.core.cases.law import LawPack
from redframe.core.cases.schedule import DueDays, recheck_due, reinspection_due
from redframe.core.cases.states import (
    ENTRIES,
    Actor,
    CaseAct,
    CaseDisease,
    Tracks,
    Transition,
    possible,
    transition,
)
from redframe.core.errors import InvalidInput, Refused

RESULT_OF: Mapping[CaseAct, frozenset[LaboratoryResult]] = {
    "accept_negative": frozenset({"nothing_found"}),
    "accept_inconclusive": frozenset({"could_not_tell", "unsuitable"}),
    "accept_confirmed": frozenset({"found"}),
}
"""What the laboratory must have written for a result to be accepted."""
LABORATORY_ONLY = frozenset({"R1", "R2", "R4", "R5", "D1"})
"""Raised by a thread, a stuck scale, a tongue or a positive kit: only the laboratory ends such a suspicion."""
UNPROVEN: dict[CaseAct, str] = {
    "accept_negative": "this is not what the laboratory wrote",
    "accept_inconclusive": "this is not what the laboratory wrote",
    "accept_confirmed": "this is not what the laboratory wrote",
    "reopen_reinspect": "nothing was ordered in this case: go on as suspected, or take a sample",
    "open_tracing": "only a confirmed case is traced",
    "open_radius": "only around a confirmed case is inspected",
    "release": "the law of {law} asks for {number} clear inspections",
    "reinspect_clear": "the law of {law} asks for no further inspection",
}
"""What a step says that the table allows and this case does not."""
MISSING: dict[str, str] = {
    "reference": "give the number of the document",
    "ordered_by": "say which officer decided",
    "text": "say it in a sentence",
    "covers": "say how far it reaches",
    "option": "choose what was ordered",
    "deadline": "say by when",
    "witness": "say who was witness",
    "hives": "count the hives",
    "frames": "count the combs",
    "disinfected": "say what was made clean",
    "brood_frames": "count the brood combs that were looked at",
    "all_brood_frames": "say whether every brood comb was looked at",
    "rope_negative": "say what the match drew",
    "scales_negative": "say whether scales were looked for",
    "colonies_examined": "count the colonies that were looked at",
    "hold_stays": "say whether the standstill stays",
    "receipt_condition": "say how it arrived",
}


@dataclass(frozen=True, slots=True)
class CaseFacts:
    """What the guards ask of a case: its tracks, the rules that raised it, whether it was confirmed, its order, its
    result, its re-inspections since the order, how many samples were handed over since the last sending, how many
    colonies live at the apiary; and what the laboratory wrote of the samples that were sent last, whether it has
    written of all of them, and whether their custody was whole."""

    disease: CaseDisease
    tracks: Tracks
    rules: Sequence[str]
    is_confirmed: bool
    ordered_on: date | None
    result_on: date | None
    clear_examinations: int
    sealed_samples: int
    living_colonies: int
    results: frozenset[LaboratoryResult] = frozenset()
    all_answered: bool = True
    is_custody_whole: bool = True


def may_follow(facts: CaseFacts, actors: frozenset[Actor], law: LawPack) -> list[Transition]:
    """What a person in these roles may record now."""
    return [
        one
        for one in possible(facts.tracks)
        if one.actors & actors and not _by_mentor_against_law(one, actors, law) and _is_open_to(one, facts, law)
    ]


def _by_mentor_against_law(row: Transition, actors: frozenset[Actor], law: LawPack) -> bool:
    return row.act == "sample" and "inspector" not in actors and not law.mentor_may_sample


def _is_open_to(row: Transition, facts: CaseFacts, law: LawPack) -> bool:
    """Whether the row is to be offered at all: what only the laboratory can end is not."""
    if row.act == "not_supported":
        return not laboratory_decides(facts)
    if row.act in RESULT_OF:
        return _was_written(row.act, facts)
    if row.act == "reopen_reinspect":
        return facts.ordered_on is not None
    if row.act in ("open_tracing", "open_radius"):
        return facts.is_confirmed
    if row.act == "release" and row.source == "reinspected_clear":
        return facts.clear_examinations >= law.clear_examinations
    if row.act == "reinspect_clear" and row.source == "reinspected_clear":
        return facts.clear_examinations < law.clear_examinations
    return True


def _was_written(act: CaseAct, facts: CaseFacts) -> bool:
    """Whether the laboratory wrote what is to be accepted: one sample in which it was found is enough; nothing found
    means that in all. A result on a broken chain may also be taken for none."""
    if act == "accept_negative":
        return facts.results == {"nothing_found"} and facts.all_answered
    if act == "accept_inconclusive" and facts.results and not facts.is_custody_whole:
        return True
    return bool(facts.results & RESULT_OF[act]) and not (act == "accept_inconclusive" and "found" in facts.results)


def laboratory_decides(facts: CaseFacts) -> bool:
    """Whether the suspicion rests on a thread, a stuck scale, a tongue or a positive kit."""
    return facts.disease == "afb" and bool(LABORATORY_ONLY & set(facts.rules))


def check_step(
    facts: CaseFacts, act: CaseAct, evidence: StepEvidence, actors: frozenset[Actor], law: LawPack, on: date
) -> Transition | None:
    """The row of the table that a step follows; None for an entry that changes no state.

    Raises Refused where the table, the role or a guard says no, InvalidInput naming the field that is missing.
    """
    if act in ENTRIES:
        _need(evidence, ("text",))
        if not ENTRIES[act] & actors:
            raise Refused("case_role", "this is not yours to record", field="act")
        return None
    row = transition(facts.tracks, act)
    if row is None:
        raise Refused("case_order", "this cannot follow on where the case stands", field="act")
    if not row.actors & actors or _by_mentor_against_law(row, actors, law):
        raise Refused("case_role", "this is not yours to record", field="act")
    _need(evidence, row.needs)
    _check_looked(row, facts, evidence)
    _check_days(row, facts, evidence, law, on)
    if row.act == "not_supported" and laboratory_decides(facts):
        raise Refused(
            "case_laboratory", "a thread, a scale, a tongue or a kit: only the laboratory decides", field="act"
        )
    if not _is_open_to(row, facts, law):
        raise Refused(
            "case_unproven", UNPROVEN[row.act].format(law=law.name, number=law.clear_examinations), field="act"
        )
    if row.act == "sample" and facts.sealed_samples == 0:
        raise Refused("case_sample", "record the sample and who has it first", field="act")
    if row.act == "order" and evidence.option not in law.diseases[facts.disease].options:
        raise Refused("case_option", f"the law of {law.name} knows no such order", field="evidence.option")
    return row


def _need(evidence: StepEvidence, fields: Sequence[str]) -> None:
    for field in fields:
        if not evidence.has(field):  # type: ignore[arg-type]
            raise InvalidInput(f"evidence.{field}", MISSING[field], code="missing")


def _check_looked(row: Transition, facts: CaseFacts, evidence: StepEvidence) -> None:
    if "all_brood_frames" in row.needs and not evidence.all_brood_frames:
        raise Refused("case_brood", "every brood comb must be looked at", field="evidence.all_brood_frames")
    if "brood_frames" in row.needs and not evidence.brood_frames and facts.living_colonies:
        raise Refused("case_brood", "without brood nothing can be seen: wait for it", field="evidence.brood_frames")
    for field, words in (("rope_negative", "a thread was drawn"), ("scales_negative", "a scale was seen")):
        if field in row.needs and not getattr(evidence, field):
            raise Refused("case_signs", f"{words}: the suspicion stands", field=f"evidence.{field}")
    if "colonies_examined" in row.needs and (evidence.colonies_examined or 0) < facts.living_colonies:
        text = f"{facts.living_colonies} colonies live here: all must be looked at"
        raise Refused("case_colonies", text, field="evidence.colonies_examined")
    if row.act == "order_done" and evidence.hives == 0:
        raise InvalidInput("evidence.hives", "at least one hive", code="out_of_range")


def _check_days(row: Transition, facts: CaseFacts, evidence: StepEvidence, law: LawPack, on: date) -> None:
    if evidence.deadline is not None and row.act == "order" and evidence.deadline < on:
        raise InvalidInput("evidence.deadline", "lies before the order", code="out_of_range")
    if evidence.until is not None and evidence.until < on:
        raise InvalidInput("evidence.until", "lies before the standstill begins", code="out_of_range")
    due: DueDays | None = None
    if row.act == "reinspect_clear" and facts.ordered_on is not None:
        due = reinspection_due(facts.ordered_on, law)
    if row.act == "release" and row.source == "recheck_due" and facts.result_on is not None:
        due = recheck_due(facts.result_on, law)
    if due is not None and on < due.first:
        raise Refused("case_early", f"not before {due.first.day} {due.first:%B}", field="act")
