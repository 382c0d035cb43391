"""What the findings of a dead colony fit, in the words of the trade: the chain, what would settle it, what must be
done, and what the neighbours need now."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from redframe.core.deadouts.assessment import CauseRanked, DeadAssessment, assess_dead
from redframe.core.deadouts.causes import UNDETERMINED, causes
from redframe.core.deadouts.safety import RAISES
from redframe.core.deadouts.settings import dead_settings
from redframe.core.deadouts.signs import dead_signs
from redframe.core.disease.evidence import Context
from redframe.core.disease.findings import Findings
from redframe.core.disease.safety import SUSPICIONS, Flag
from redframe.core.disease.safety_words import safety_words
from redframe.core.disease.shown import FitTerm, RuleMet, TestNext, test_next

SHOWN, TESTS_SHOWN, TERMS_SHOWN = 5, 4, 12
SHOWN_FROM = 0.02
"""A cause below this chance takes no line."""


@dataclass(frozen=True, slots=True)
class CauseFit:
    """A cause that the findings may fit, with the chance that it had a part (chances do not add up to 1), the rules
    that put it first, whether a finding of its own speaks for it, its marks, what settles it, and each finding for or
    against it."""

    id: str
    name: str
    chance: float
    pinned_by: Sequence[str]
    has_own: bool
    tells: str
    like: str
    settles: str
    terms: Sequence[FitTerm]


@dataclass(frozen=True, slots=True)
class DeadReading:
    """What the findings fit. `is_settled`: a cause with a finding of its own reaches a half; else it cannot be told
    yet; `chain`: causes by name, the earliest first; `after`: what came after or with them; `undetermined`: the chance
    of none of them; `neighbours`: what the colonies beside it need now; `suspects_foulbrood`, `raises_case`: what
    closing does."""

    fits: Sequence[CauseFit]
    is_settled: bool
    leader: str
    chain: Sequence[str]
    chain_ids: Sequence[str]
    after: Sequence[str]
    undetermined: float
    unexplained: Sequence[str]
    rules: Sequence[RuleMet]
    orders: Sequence[str]
    flags: Sequence[Flag]
    suspects_foulbrood: bool
    raises_case: bool
    tests: Sequence[TestNext]
    neighbours: Sequence[str]
    version: int


def read_dead_colony(findings: Findings, context: Context, without: Sequence[str] = ()) -> DeadReading:
    """What the findings fit; `without`: findings that are left out, to see what hangs on them."""
    kept = {name: one for name, one in findings.items() if name not in without}
    found = assess_dead(kept, context)
    flags = sorted(found.flags, key=lambda flag: flag not in SUSPICIONS)
    leader = _leader(found)
    return DeadReading(
        fits=_fits(found, kept),
        is_settled=found.is_settled,
        leader=leader,
        chain=[causes()[one].name for one in found.chain],
        chain_ids=list(found.chain),
        after=[causes()[one].name for one in found.secondary],
        undetermined=next(one.probability for one in found.ranking if one.id == UNDETERMINED),
        unexplained=[dead_signs()[one].name for one in found.unexplained],
        rules=[
            RuleMet(one.id, safety_words().rules[one.id], [causes()[pin].name for pin in one.pins])
            for one in found.rules
        ],
        orders=[safety_words().flags[flag] for flag in flags],
        flags=flags,
        suspects_foulbrood="AFB_SUSPECT" in flags,
        raises_case=any(rule.id in RAISES for rule in found.rules),
        tests=[test_next(one, dead_settings().tests[one.id]) for one in found.next_tests[:TESTS_SHOWN]],
        neighbours=_neighbours(found, leader),
        version=found.settings_version,
    )


def _leader(found: DeadAssessment) -> str:
    """The likeliest cause with a finding of its own where that settles it; else that it cannot be told."""
    if not found.is_settled:
        return UNDETERMINED
    own = [one for one in found.ranking if one.has_own and one.id not in found.secondary]
    return max(own, key=lambda one: one.probability).id


def _neighbours(found: DeadAssessment, leader: str) -> list[str]:
    """What those beside it need: of the chain and of what came after, each once."""
    named = [one for one in (*found.chain, *found.secondary) if one in causes()]
    if not named and leader in causes():
        named = [leader]
    return list(dict.fromkeys(line for one in named for line in causes()[one].neighbours))


def _fits(found: DeadAssessment, findings: Findings) -> list[CauseFit]:
    """Those that rules put first, then by chance as far as it is worth a line; foulbrood always where something in the
    hive speaks for it."""
    seen = [one for one in found.ranking if one.id != UNDETERMINED and not one.nothing_seen]
    seen.sort(key=lambda one: (not one.pinned_by, one.id in found.secondary))
    likely = [one for one in seen if one.probability >= SHOWN_FROM or one.pinned_by][:SHOWN]
    kept = [one for one in seen if one in likely or (one.id == "foulbrood" and one.has_own)]
    return [_fit(one, found, findings) for one in kept]


def _fit(one: CauseRanked, found: DeadAssessment, findings: Findings) -> CauseFit:
    words = causes()[one.id]
    terms = [
        FitTerm(term.sign, dead_signs()[term.sign].name, findings[term.sign].present, term.log_odds)
        for term in found.terms
        if term.condition == one.id and abs(term.log_odds) >= 0.01
    ]
    terms.sort(key=lambda term: (-abs(term.log_odds), term.sign))
    return CauseFit(
        one.id, words.name, one.probability, one.pinned_by, one.has_own, words.tells, words.like, words.settles,
        terms[:TERMS_SHOWN],
    )  # fmt: skip
