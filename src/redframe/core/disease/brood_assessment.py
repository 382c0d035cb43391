"""What the findings of a living colony fit, what must be done, and what to look at next.

A decision aid: the laboratory decides, and the authority. See docs/methods/brood-diagnosis.md.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from redframe.core.disease.brood_weighing import BroodWeighing
from redframe.core.disease.evidence import Context, Term, Weighed, explains, speaks_for
from redframe.core.disease.findings import Findings
from redframe.core.disease.gain import NextTest
from redframe.core.disease.matrix import Matrix, brood_matrix
from redframe.core.disease.next_tests import next_tests
from redframe.core.disease.safety import NONE_MAY_LEAD, Flag, Rule, rules_met
from redframe.core.disease.settings import Settings, brood_settings

HEALTHY = "healthy"
BENIGN = "benign_cappings"


@dataclass(frozen=True, slots=True)
class Ranked:
    """A condition in its place: the chance that it is there, the rules that pin it, and whether nothing that was seen
    speaks for or against it."""

    id: str
    probability: float
    pinned_by: Sequence[str]
    nothing_seen: bool


@dataclass(frozen=True, slots=True)
class BroodAssessment:
    """The answer. `tie`: the leader is not clearly before the next; `unexplained`: signs that the best set does not
    make likelier."""

    ranking: Sequence[Ranked]
    best_set: Sequence[str]
    unexplained: Sequence[str]
    rules: Sequence[Rule]
    next_tests: Sequence[NextTest]
    terms: Sequence[Term]
    tie: bool
    settings_version: int

    @property
    def flags(self) -> list[Flag]:
        """What the rules set, each once, in their order."""
        return list(dict.fromkeys(flag for rule in self.rules for flag in rule.flags))


def assess_brood(findings: Findings, context: Context, settings: Settings | None = None) -> BroodAssessment:
    """Assess the findings of a colony. Raises InvalidInput naming `context.flags` for a flag that is none."""
    settings = settings or brood_settings()
    weighing = BroodWeighing(brood_matrix(), settings, findings, context)
    weighed = weighing.weigh()
    rules = rules_met(weighing, weighed)
    ranking = _ranking(weighing, weighed, rules)
    seen = [sign for sign, finding in weighing.findings.items() if finding.present]
    return BroodAssessment(
        ranking=ranking,
        best_set=weighed.best,
        unexplained=[one for one in seen if not explains(weighing, weighed.best, one, settings.unexplained_below)],
        rules=rules,
        next_tests=next_tests(weighing, weighed, rules),
        terms=weighed.terms,
        tie=len(ranking) > 1 and ranking[0].probability < settings.tie_below * ranking[1].probability,
        settings_version=settings.version,
    )


def leading(findings: Findings, context: Context, settings: Settings, matrix: Matrix) -> str:
    """The likeliest condition of which something was seen, by a matrix; `healthy` where there is none. What a rule puts
    first is another matter: it hangs on no estimate."""
    weighing = BroodWeighing(matrix, settings, findings, context)
    weighed = weighing.weigh()
    ranking = _ranking(weighing, weighed, rules_met(weighing, weighed))
    return next((one.id for one in ranking if one.id != HEALTHY and not one.nothing_seen), HEALTHY)


def _ranking(weighing: BroodWeighing, weighed: Weighed, rules: Sequence[Rule]) -> list[Ranked]:
    """By chance; conditions of which nothing was seen for or against stand last, and where a rule forbids it neither a
    healthy colony nor benign cappings lead."""
    within = weighing.settings.nothing_seen_within
    found = [Ranked(HEALTHY, weighed.none, (), nothing_seen=False)]
    for condition, chance in weighed.chances.items():
        prior = weighed.priors[condition]
        pins = tuple(dict.fromkeys(rule.id for rule in rules if condition in rule.pins))
        as_before = prior / within <= chance <= prior * within
        nothing = as_before and not pins and not speaks_for(weighing, condition)
        found.append(Ranked(condition, chance, pins, nothing))
    found.sort(key=lambda one: (one.nothing_seen, -one.probability, one.id))
    if any(rule.id in NONE_MAY_LEAD for rule in rules):
        named = {pin for rule in rules if rule.id in NONE_MAY_LEAD for pin in rule.pins}
        first = max((at for at, one in enumerate(found) if one.id in named), default=-1)
        held = [one for one in found[:first] if one.id in (HEALTHY, BENIGN)]
        found = [one for one in found[: first + 1] if one not in held] + held + found[first + 1 :]
    return found
