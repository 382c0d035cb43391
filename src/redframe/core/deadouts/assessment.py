"""What the findings of a dead colony fit, as a chain of causes, what must be done, and what to look at next.

A decision aid: it names what fits, not what happened. See docs/methods/dead-outs.md.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass

from redframe.core.deadouts.causes import UNDETERMINED, causes
from redframe.core.deadouts.safety import NONE_MAY_LEAD, REMAINS, rules_met
from redframe.core.deadouts.settings import dead_matrix, dead_settings
from redframe.core.deadouts.weighing import DeadWeighing
from redframe.core.disease.evidence import Context, Term, Weighed, explains, speaks_for
from redframe.core.disease.findings import Findings
from redframe.core.disease.gain import NextTest, by_gain
from redframe.core.disease.safety import Flag, Rule

ROBBING = "robbing"
ROBBING_MARKS = ("d_rob_ragged", "d_wax_bits_floor")


@dataclass(frozen=True, slots=True)
class CauseRanked:
    """A cause in its place: the chance that it had a part, the rules that pin it, whether a finding of its own speaks
    for it, and whether nothing that was seen speaks for or against it."""

    id: str
    probability: float
    pinned_by: Sequence[str]
    has_own: bool
    nothing_seen: bool


@dataclass(frozen=True, slots=True)
class DeadAssessment:
    """The answer. `is_settled`: a cause with a finding of its own reaches a half; else it cannot be told yet and the
    rest are base rates. `chain`: those of the best set with findings of their own, in the order in which they follow;
    `secondary`: what came after or with them; `unexplained`: findings that the best set does not make likelier."""

    ranking: Sequence[CauseRanked]
    is_settled: bool
    best_set: Sequence[str]
    chain: Sequence[str]
    secondary: Sequence[str]
    unexplained: Sequence[str]
    rules: Sequence[Rule]
    next_tests: Sequence[NextTest]
    terms: Sequence[Term]
    settings_version: int

    @property
    def flags(self) -> list[Flag]:
        """What the rules set, each once, in their order."""
        return list(dict.fromkeys(flag for rule in self.rules for flag in rule.flags))


def assess_dead(findings: Findings, context: Context) -> DeadAssessment:
    """Assess the findings of a dead colony. Raises InvalidInput naming `context.flags` for a flag that is none."""
    settings = dead_settings()
    weighing = DeadWeighing(dead_matrix(), settings, findings, context)
    weighed = weighing.weigh()
    rules = rules_met(weighing, weighed)
    own = {one for one in weighed.chances if speaks_for(weighing, one, settings.own_from)}
    after = _after(weighing, weighed, own, settings.settled_from)
    seen = [sign for sign, finding in weighing.findings.items() if finding.present]
    return DeadAssessment(
        ranking=_ranking(weighing, weighed, rules, own, after),
        is_settled=any(weighed.chances[one] >= settings.settled_from for one in own),
        best_set=weighed.best,
        chain=in_order([one for one in weighed.best if one in own and one not in after]),
        secondary=after,
        unexplained=[one for one in seen if not explains(weighing, weighed.best, one, settings.unexplained_below)],
        rules=rules,
        next_tests=_next_tests(weighing, weighed, rules),
        terms=weighed.terms,
        settings_version=settings.version,
    )


def in_order(found: Collection[str]) -> list[str]:
    """Causes in the order in which they follow one another, the earliest first."""
    return sorted(found, key=lambda one: causes()[one].order)


def _after(weighing: DeadWeighing, weighed: Weighed, own: Collection[str], settled_from: float) -> list[str]:
    """Robbing is no cause where another explains the death: it came after or with it."""
    primary = any(one != ROBBING and weighed.chances[one] >= settled_from for one in own)
    marked = ROBBING in weighed.best or any(weighing.is_present(one) for one in ROBBING_MARKS)
    return [ROBBING] if primary and marked else []


def _ranking(
    weighing: DeadWeighing, weighed: Weighed, rules: Sequence[Rule], own: Collection[str], after: Collection[str]
) -> list[CauseRanked]:
    """By chance; causes of which nothing was seen stand last, what came after the causes that were seen."""
    within = weighing.settings.nothing_seen_within
    found = [CauseRanked(UNDETERMINED, weighed.none, (), has_own=False, nothing_seen=False)]
    for cause, chance in weighed.chances.items():
        prior = weighed.priors[cause]
        pins = tuple(dict.fromkeys(rule.id for rule in rules if cause in rule.pins))
        nothing = prior / within <= chance <= prior * within and not pins and not speaks_for(weighing, cause)
        found.append(CauseRanked(cause, chance, pins, cause in own, nothing))
    found.sort(key=lambda one: (one.nothing_seen, one.id in after, -one.probability, one.id))
    if any(rule.id in NONE_MAY_LEAD for rule in rules):
        led = max(at for at, one in enumerate(found) if one.pinned_by)
        held = [one for one in found[:led] if one.id == UNDETERMINED]
        found = [one for one in found[: led + 1] if one not in held] + held + found[led + 1 :]
    return found


def _next_tests(weighing: DeadWeighing, weighed: Weighed, rules: Sequence[Rule]) -> list[NextTest]:
    forced: dict[str, str] = {}
    for rule in rules:
        if "LAB_SAMPLE" in rule.flags:
            forced.setdefault("lab_foul", rule.id)
        if rule.id == "D6":
            forced.setdefault("scale", rule.id)
            if any(weighing.is_present(one) for one in REMAINS):
                forced.setdefault("rope", rule.id)
    left = {}
    for name, test in weighing.settings.tests.items():
        unknown = [sign for sign in test.tells if sign not in weighing.findings]
        if unknown and (name != "rope" or name in forced or not _no_remains(weighing)):
            left[name] = unknown
    return by_gain(weighing, weighed, left, {name: by for name, by in forced.items() if name in left})


def _no_remains(weighing: DeadWeighing) -> bool:
    """Whether remains were looked for and there are none to draw out."""
    return weighing.is_present("d_no_brood_ever") or all(weighing.is_absent(one) for one in REMAINS)
