"""How findings weigh for each condition, alone and with others: terms, scores, shares, and the chance of each.

Single mode sets each condition against none of them; combined mode sets of up to three, so that mites do not argue
foulbrood away. Absences pull a notifiable condition down only to its floor. What a subject adds of its own, a living
colony or a dead one, its kind of weighing says. See docs/methods/brood-diagnosis.md.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from itertools import combinations
from math import exp, log

import numpy as np
import numpy.typing as npt

from redframe.core.disease.findings import Findings
from redframe.core.disease.matrix import Matrix, Values
from redframe.core.disease.settings import EngineSettings, Level, Season
from redframe.core.errors import InvalidInput

Places = npt.NDArray[np.intp]
Set = tuple[int, ...]
"""Conditions by their column; () is a colony with none of them."""
SETS_KEPT = 256
LEAST, MOST = 1e-9, 1 - 1e-9
SPEAKS_FROM = 1.5
"""A sign speaks for a condition that makes it so many times likelier."""
NONE = ""
"""The share of none of the conditions."""


@dataclass(frozen=True, slots=True)
class Context:
    """Where and when: the season there, how common both foulbroods are, which pests are established, whether every
    brood comb was shaken clear and read on both sides, what happened of late (keys of the settings), and by what factor
    a condition is commoner or rarer there than usual."""

    season: Season
    afb_level: Level = "occasional"
    efb_level: Level = "occasional"
    shb_established: bool = False
    tropilaelaps_present: bool = False
    all_brood_frames_shaken: bool = False
    flags: frozenset[str] = field(default_factory=frozenset)
    factors: frozenset[tuple[str, float]] = frozenset()


@dataclass(frozen=True, slots=True)
class Term:
    """One bar: what a finding adds to the log odds of a condition, and the weight it was given."""

    condition: str
    sign: str
    weight: float
    log_odds: float


@dataclass(frozen=True)
class Weighed:
    """What findings come to. `singles`: shares of each condition alone, NONE for none; `chances`: the chance that each
    is there, alone or with others (`none` of them: the share of the empty set); `best`: the likeliest set."""

    priors: Mapping[str, float]
    terms: Sequence[Term]
    singles: Mapping[str, float]
    chances: Mapping[str, float]
    none: float
    best: Sequence[str]


@dataclass(frozen=True, eq=False)
class Sets:
    """Sets of conditions, the smaller before the larger: who is in each (sets by conditions), and for each condition
    the sets with it of one size, paired with the same without it."""

    groups: Sequence[Set]
    members: Values
    pairs: Sequence[tuple[int, Places, Places]]


@lru_cache(maxsize=SETS_KEPT)
def sets_of(held: Set, most_together: int, conditions: int) -> Sets:
    """Every set of up to so many of these conditions, the empty one first; `conditions`: how many there are in all."""
    groups: list[Set] = [one for size in range(most_together + 1) for one in combinations(held, size)]
    members = np.zeros((len(groups), conditions))
    members[
        np.repeat(np.arange(len(groups)), [len(one) for one in groups]), [at for one in groups for at in one]
    ] = 1  # fmt: skip
    place = {one: at for at, one in enumerate(groups)}
    pairs = []
    for size in range(1, most_together + 1):
        for condition in held:
            having = [one for one in groups if len(one) == size and condition in one]
            rest = [place[tuple(other for other in one if other != condition)] for one in having]
            pairs.append((condition, np.array([place[one] for one in having], dtype=int), np.array(rest, dtype=int)))
    return Sets(groups, members, pairs)


class Weighing(ABC):
    """Findings in their context, ready to be weighed for any set of conditions."""

    empty_score = 0.0
    """The log score of none of the conditions."""

    def __init__(self, matrix: Matrix, settings: EngineSettings, findings: Findings, context: Context) -> None:
        unknown = context.flags - settings.context.keys()
        if unknown:
            raise InvalidInput("context.flags", f"{min(unknown)} is not one of them", code="unknown")
        self.matrix, self.settings, self.context = matrix, settings, context
        self.findings = {name: one for name, one in findings.items() if self._counts(name, findings)}
        self.rows = [matrix.row(name) for name in self.findings]
        self.priors = self._priors()
        self._log_odds = np.array([log(one / (1 - one)) for one in self.priors.values()])
        self.normal = np.array([self.baseline(matrix.signs[row].id) for row in self.rows])
        self._chances = self._chances_here()

    @abstractmethod
    def _counts(self, sign: str, findings: Findings) -> bool:
        """Whether a finding says anything here."""

    @abstractmethod
    def _priors(self) -> dict[str, float]:
        """Each condition's chance before anything was seen."""

    @abstractmethod
    def _neutral_for(self, sign: str) -> Iterable[str]:
        """The conditions for which the absence of a sign says nothing here."""

    @abstractmethod
    def _is_cleared(self, condition: str) -> bool:
        """Whether a laboratory did not find a condition in a sample that could have shown it."""

    def baseline(self, sign: str) -> float:
        """The chance of a sign at this season where none of the conditions is there."""
        by_season = self.settings.baselines.get(sign, {})
        return by_season.get(self.context.season, self.matrix.signs[self.matrix.row(sign)].baseline)

    def is_present(self, sign: str) -> bool:
        """Whether a sign was seen."""
        return sign in self.findings and self.findings[sign].present

    def is_absent(self, sign: str) -> bool:
        """Whether a sign was looked for and not seen."""
        return sign in self.findings and not self.findings[sign].present

    @property
    def notifiable(self) -> frozenset[str]:
        """The conditions that are notifiable there."""
        lifted = {one for one, fact in self.settings.notifiable_where_absent.items() if getattr(self.context, fact)}
        return frozenset({*self.settings.notifiable, *self.settings.notifiable_where_absent} - lifted)

    def _chances_here(self) -> Values:
        """The rows of the matrix that were examined, with what is neutral here set to the baseline."""
        chances = self.matrix.chances[self.rows].copy() if self.rows else np.empty((0, len(self.matrix.conditions)))
        columns = {name: at for at, name in enumerate(self.matrix.conditions)}
        for at, (row, (sign, finding)) in enumerate(zip(self.rows, self.findings.items(), strict=True)):
            if not finding.present:
                for condition in self._neutral_for(sign):
                    if condition in columns:
                        chances[at, columns[condition]] = self.matrix.signs[row].baseline
        return chances

    def seen_in(self, members: Values, rows: Sequence[int], normal: Values, chances: Values) -> Values:
        """The chance of each sign in each set (rows by sets): noisy-or of the conditions, those below the baseline
        multiplying it down."""
        flat = self.matrix.baselines[list(rows)][:, None]
        lifts = np.log1p(-np.clip((chances - flat) / (1 - flat), 0, MOST))
        lowers = np.log(np.minimum(chances / flat, 1.0))
        found = (1 - (1 - normal[:, None]) * np.exp(lifts @ members.T)) * np.exp(lowers @ members.T)
        return np.asarray(np.clip(found, LEAST, MOST))

    def terms(self, members: Values) -> tuple[Values, Values]:
        """What each finding adds for each set (findings by sets), and the weight it was given."""
        if not self.rows:
            return np.zeros((0, len(members))), np.zeros((0, len(members)))
        seen = self.seen_in(members, self.rows, self.normal, self._chances)
        present, normal = self._present, self.normal[:, None]
        plain = np.empty_like(seen)
        plain[present] = np.log(seen[present] / normal[present])
        plain[~present] = np.log((1 - seen[~present]) / (1 - normal[~present]))
        weights = self._weights()[:, None] * self._together(plain)
        return plain * weights, weights

    @cached_property
    def _present(self) -> npt.NDArray[np.bool_]:
        return np.array([one.present for one in self.findings.values()], dtype=bool)

    def _weights(self) -> Values:
        found = []
        for row, finding in zip(self.rows, self.findings.values(), strict=True):
            by_extent = self.matrix.signs[row].by_extent
            if finding.extent is None:
                found.append(self.settings.effort[finding.effort])
            else:
                found.append(self.settings.extent[finding.extent] if by_extent else 1.0)
        return np.array(found)

    def _together(self, plain: Values) -> Values:
        """The factors of signs of one cause: the largest counts in full, each that follows less."""
        sized = np.abs(plain * self._weights()[:, None])
        factors = np.ones_like(plain)
        steps = np.array(self.settings.group_factors)
        groups: dict[str, list[int]] = {}
        for at, row in enumerate(self.rows):
            groups.setdefault(self.matrix.signs[row].group, []).append(at)
        for members in groups.values():
            if len(members) > 1:
                order = np.argsort(-sized[members], axis=0, kind="stable")
                rank = np.argsort(order, axis=0, kind="stable")
                factors[members] = steps[np.minimum(rank, len(steps) - 1)]
        return factors

    def scores(self, sets: Sets) -> Values:
        """The log score of each set against none of them. Absences pull a notifiable condition no further down
        than its floor."""
        terms, _ = self.terms(sets.members)
        against = terms[~self._present].sum(axis=0)
        floors = {at: log(self._floor(one)) for at, one in enumerate(self.matrix.conditions) if one in self.notifiable}
        for condition, having, rest in sets.pairs:
            if condition in floors:
                against[having] = np.maximum(against[having], against[rest] + floors[condition])
        empty = self.empty_score * (sets.members.sum(axis=1) == 0)
        return np.asarray(sets.members @ self._log_odds + terms[self._present].sum(axis=0) + against + empty)

    def _floor(self, condition: str) -> float:
        if self._is_cleared(condition):
            return self.settings.floors["laboratory"]
        return self.settings.floors["all_shaken" if self.context.all_brood_frames_shaken else "ordinary"]

    def left_of(self, condition: str) -> float:
        """What of the odds of a condition is left by all that was looked for and not seen, down to its floor."""
        column = self.matrix.conditions.index(condition)
        alone = np.zeros((1, len(self.matrix.conditions)))
        alone[0, column] = 1
        terms, _ = self.terms(alone)
        against = float(terms[~self._present].sum())
        return exp(max(against, log(self._floor(condition))) if condition in self.notifiable else against)

    def alone(self) -> Sets:
        """None, and each condition by itself."""
        every = len(self.matrix.conditions)
        return sets_of(tuple(range(every)), 1, every)

    def weigh(self) -> Weighed:
        """The findings weighed, each condition alone and with others."""
        names = self.matrix.conditions
        scores = self.scores(self.alone())
        singles = _shares(scores)
        sets = self.candidates(scores[1:])
        together = _shares(self.scores(sets))
        chances = together @ sets.members
        none = float(together[0])
        # What is not weighed with others is as likely as it is alone, whatever else is there.
        left_out = sets.members.sum(axis=0) == 0
        chances[left_out] = 1 / (1 + np.exp(-scores[1:][left_out]))
        terms, weights = self.terms(np.eye(len(names)))
        return Weighed(
            priors=self.priors,
            terms=[
                Term(name, sign, float(weights[row, at]), float(terms[row, at]))
                for at, name in enumerate(names)
                for row, sign in enumerate(self.findings)
                if terms[row, at] != 0
            ],
            singles=dict(zip((NONE, *names), map(float, singles), strict=True)),
            chances=dict(zip(names, map(float, chances), strict=True)),
            none=none,
            best=[names[at] for at in sets.groups[int(np.argmax(together))]],
        )

    def candidates(self, alone: Values) -> Sets:
        """The sets that are weighed, given the score of each condition alone: of the likeliest conditions, every
        notifiable one, and for each sign that was seen the one that explains it best."""
        likely = sorted(range(len(alone)), key=lambda at: (-alone[at], at))[: self.settings.most_singles]
        held = {*likely, *(at for at, name in enumerate(self.matrix.conditions) if name in self.notifiable)}
        for row, finding in zip(self.rows, self.findings.values(), strict=True):
            if finding.present:
                held.add(int(np.argmax(self.matrix.chances[row])))
        return sets_of(tuple(sorted(held)), self.settings.most_together, len(alone))


def _shares(scores: Values) -> Values:
    weights = np.exp(scores - scores.max())
    return np.asarray(weights / weights.sum())


def explains(weighing: Weighing, conditions: Sequence[str], sign: str, at_least: float) -> bool:
    """Whether a set of conditions makes a sign that was seen so many times likelier than it is without them."""
    matrix = weighing.matrix
    row = matrix.row(sign)
    members = np.array([[float(one in conditions) for one in matrix.conditions]])
    normal = np.array([weighing.baseline(sign)])
    seen = weighing.seen_in(members, [row], normal, matrix.chances[[row]])
    return float(seen[0, 0]) >= at_least * float(normal[0])


def speaks_for(seen: Weighing, condition: str, at_least: float = SPEAKS_FROM, besides: Collection[str] = ()) -> bool:
    """Whether a sign that was seen, other than these, is so many times likelier with the condition: what is known of a
    place alone says nothing."""
    matrix = seen.matrix
    column = matrix.conditions.index(condition)
    return any(
        matrix.chances[matrix.row(sign), column] >= at_least * matrix.signs[matrix.row(sign)].baseline
        for sign, finding in seen.findings.items()
        if finding.present and sign not in besides
    )
