"""What the signs of a visit fit, in the words of the trade: what would tell, what to do, when to look again.

Made only where a sign of disease was seen; what was looked for and not seen is listed by itself. A decision aid: the
laboratory decides, and the authority. See docs/methods/brood-diagnosis.md.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

from redframe.core.disease.brood_assessment import BENIGN, HEALTHY, BroodAssessment, Ranked, assess_brood
from redframe.core.disease.conditions import conditions
from redframe.core.disease.evidence import Context
from redframe.core.disease.findings import NOT_ENTERED, Findings
from redframe.core.disease.groups import GroupId, groups
from redframe.core.disease.safety import DEAD_BROOD, SUSPICIONS, Flag
from redframe.core.disease.safety_words import safety_words
from redframe.core.disease.settings import Effort, brood_settings
from redframe.core.disease.shown import FitTerm, RuleMet, TestNext, test_next
from redframe.core.disease.signs import signs
from redframe.core.handling.options import handled_conditions
from redframe.core.visits.estimates import SeenFrame
from redframe.core.visits.examination import Examination

SHOWN, TESTS_SHOWN, TERMS_SHOWN = 5, 4, 12
SHOWN_FROM = 0.01
"""A condition below this chance takes no line."""
SPEAKS = 0.1
"""So much in log odds a sign adds that speaks for a condition."""
READ_FROM = 0.3
"""The chance from which a condition says when to look again."""
SOON: frozenset[Flag] = frozenset(
    {"AFB_SUSPECT", "EFB_SUSPECT", "EXOTIC_MITE", "SHB_REPORT", "EFB_CHECK", "ROPE_TEST_NOW", "LAB_SAMPLE"}
)
"""Flags that wait for no usual re-check."""
BEFORE_CLOSING: frozenset[Flag] = frozenset({"ROPE_TEST_NOW", "EFB_CHECK", "PPE_STONE", "FEED_NOW"})
SOON_DAYS, MASKED_DAYS = 7, 42
MASKS = "antibiotic_recent"
"""What happened of late that hides signs: an examination then reassures nobody."""
NO_READING = frozenset({"pattern_spotty", "mite_count_high"})
"""Seen alone, these say nothing of disease: a pattern has its own finding, mites their level."""
TELLING = frozenset({"cappings", "larvae", "tests", "mites_and_bees"})
BEETLES = frozenset({"shb_adults", "shb_larvae", "shb_slime"})


@dataclass(frozen=True, slots=True)
class Fit:
    """A condition that the signs may fit, with the chance that it is there (chances do not add up to 1), the rules that
    put it first, its marks and what is done, each finding for or against it, and whether it is likely and
    schools differ in how it is handled."""

    id: str
    name: str
    chance: float
    pinned_by: Sequence[str]
    tells: str
    like: str
    proves: str
    now: Sequence[str]
    never: Sequence[str]
    terms: Sequence[FitTerm]
    schools_differ: bool


@dataclass(frozen=True, slots=True)
class Sick:
    """Cells with dead brood that were counted, among the cells of brood on the combs that were looked at."""

    cells: int
    of_brood: int

    @property
    def share(self) -> float:
        """The share of brood that is sick, 0 to 1."""
        return min(1.0, self.cells / self.of_brood)


@dataclass(frozen=True, slots=True)
class Recheck:
    """When to look again, and for which condition (None: for what is not settled)."""

    on: date
    latest: date
    name: str | None


@dataclass(frozen=True, slots=True)
class DiseaseReading:
    """What the signs fit. `healthy`: the chance that none of the conditions is there; `tie`: the first is not clearly
    before the next; `unexplained`: signs that the best set does not make likelier; `orders`: what the rules set;
    `raises_case`: a closed visit with it raises a suspect case."""

    fits: Sequence[Fit]
    healthy: float
    tie: bool
    unexplained: Sequence[str]
    rules: Sequence[RuleMet]
    orders: Sequence[str]
    flags: Sequence[Flag]
    raises_case: bool
    tests: Sequence[TestNext]
    sick: Sick | None
    sick_share: float | None
    recheck: Recheck | None
    version: int


@dataclass(frozen=True, slots=True)
class NotSeen:
    """A group of signs that was looked for and not seen: on how many of the brood combs, or on how many bees."""

    group: GroupId
    name: str
    effort: Effort
    combs_read: int | None
    brood_combs: int | None
    bees: int | None


def not_seen(examined: Examination | None) -> list[NotSeen]:
    """The groups that an examination looked for and did not see."""
    if examined is None:
        return []
    found = []
    for name in examined.not_seen:
        group = groups()[name]
        of_combs = group.looked_at == "combs"
        found.append(
            NotSeen(
                name, group.name, examined.effort_of(name) or "glance",
                examined.combs_read if of_combs else None, examined.brood_combs if of_combs else None,
                None if of_combs else examined.bees_looked_at,
            )
        )  # fmt: skip
    return found


def speaks_of_disease(findings: Findings) -> bool:
    """Whether a sign of disease was seen."""
    return any(
        one.present
        and one.sign not in NO_READING
        and (one.sign == NOT_ENTERED or signs()[one.sign].group in TELLING or one.sign in BEETLES)
        for one in findings.values()
    )


def read_disease(
    findings: Findings, context: Context, *, on: date, sick: Sick | None = None, without: Sequence[str] = ()
) -> DiseaseReading | None:
    """What the findings of a visit fit; `without`: findings that are left out, to see what hangs on them. None where no
    sign of disease was seen, but for an examination that an antibiotic masks: that is said whatever was seen."""
    if not speaks_of_disease(findings) and MASKS not in context.flags:
        return None
    kept = {name: one for name, one in findings.items() if name not in without}
    found = assess_brood(kept, context)
    # What is suspected, what is done before the hive is closed, then all that follows.
    flags = sorted(found.flags, key=lambda flag: (flag not in SUSPICIONS, flag not in BEFORE_CLOSING))
    return DiseaseReading(
        fits=_fits(found, kept),
        healthy=next(one.probability for one in found.ranking if one.id == HEALTHY),
        tie=found.tie,
        unexplained=[_name(one) for one in found.unexplained],
        rules=[
            RuleMet(one.id, safety_words().rules[one.id], [conditions()[pin].name for pin in one.pins])
            for one in found.rules
        ],
        orders=[safety_words().flags[flag] for flag in flags],
        flags=flags,
        raises_case=bool(SUSPICIONS & set(flags)),
        tests=[
            test_next(one, brood_settings().tests[one.id]) for one in found.next_tests[:TESTS_SHOWN]
        ],
        sick=sick,
        sick_share=sick.share if sick is not None else None,
        recheck=_recheck(found, flags, on),
        version=found.settings_version,
    )  # fmt: skip


def _fits(found: BroodAssessment, findings: Findings) -> list[Fit]:
    """Those that rules put first, then by chance as far as it is worth a line; what nothing was seen of stays out, and
    what is notifiable is shown however small its chance where a sign speaks for it."""
    speak = {
        term.condition for term in found.terms if term.log_odds >= SPEAKS and findings[term.sign].present
    } & {*brood_settings().notifiable}  # fmt: skip
    seen = [one for one in found.ranking if one.id != HEALTHY and not one.nothing_seen]
    seen.sort(key=lambda one: not one.pinned_by)
    likely = [one for one in seen if one.probability >= SHOWN_FROM or one.pinned_by][:SHOWN]
    return [_fit(one, found, findings) for one in seen if one in likely or one.id in speak]


def _fit(one: Ranked, found: BroodAssessment, findings: Findings) -> Fit:
    words = conditions()[one.id]
    terms = [
        FitTerm(term.sign, _name(term.sign), findings[term.sign].present, term.log_odds)
        for term in found.terms
        if term.condition == one.id and abs(term.log_odds) >= 0.01
    ]
    terms.sort(key=lambda term: (-abs(term.log_odds), term.sign))
    return Fit(
        one.id, words.name, one.probability, one.pinned_by, words.tells, words.like, words.proves, words.now,
        words.never, terms[:TERMS_SHOWN],
        one.id in handled_conditions() and (one.probability >= READ_FROM or bool(one.pinned_by)),
    )  # fmt: skip


def _name(sign: str) -> str:
    return "short thread" if sign == NOT_ENTERED else signs()[sign].name


def _recheck(found: BroodAssessment, flags: Sequence[Flag], on: date) -> Recheck | None:
    """The soonest that a likely condition asks for; where something is open that waits for no usual day, within a
    week."""
    if any(flag in SOON for flag in flags):
        return Recheck(on + timedelta(days=1), on + timedelta(days=SOON_DAYS), None)
    if "MASKED_EXAM" in flags:
        return Recheck(on + timedelta(days=MASKED_DAYS), on + timedelta(days=MASKED_DAYS), None)
    likely = [
        one for one in found.ranking
        if one.id not in (HEALTHY, BENIGN) and not one.nothing_seen and (one.probability >= READ_FROM or one.pinned_by)
    ]  # fmt: skip
    if not likely:
        return None
    first = min(likely, key=lambda one: (conditions()[one.id].recheck_days, -one.probability))
    earliest, latest = (on + timedelta(days=days) for days in conditions()[first.id].recheck_days)
    return Recheck(earliest, latest, conditions()[first.id].name)


def sick_cells(frames: Sequence[SeenFrame], examined: Examination | None, brood_cells: float | None) -> Sick | None:
    """The sign of dead brood of which most cells were counted, against the brood on the combs that were looked at; None
    where no cells were counted, or no brood."""
    counted: dict[str, float] = {}
    named = [(one.sign, one.number) for frame in frames for one in frame.record.signs]
    named += [(one.sign, one.number) for one in (examined.signs if examined is not None else ()) if one.seen == "seen"]
    for sign, number in named:
        if number is not None and sign in DEAD_BROOD and signs()[sign].scale == "cells":
            counted[sign] = counted.get(sign, 0.0) + number
    if not counted or not brood_cells:
        return None
    return Sick(round(max(counted.values())), round(brood_cells))


def with_examination(context: Context, examined: Examination | None) -> Context:
    """The context of a place with what an examination says of itself and of what happened of late."""
    if examined is None:
        return context
    flags = context.flags | frozenset(examined.lately)
    return replace(context, all_brood_frames_shaken=examined.all_shaken, flags=flags)


def count_over(level: str) -> bool | None:
    """Whether a count stands over its level; None where none is fresh."""
    over: Mapping[str, bool] = {"act": True, "urgent": True, "watch": False, "clear": False}
    return over.get(level)
