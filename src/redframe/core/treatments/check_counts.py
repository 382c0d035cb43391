"""Which counts verify a course: the one before, the check count after, and those of untreated neighbours.

Pure: takes the counts of the apiary as they are on record, answers with a verdict and what it rests on
(docs/methods/verification.md).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

import numpy as np

from redframe.core.errors import InvalidInput, Refused
from redframe.core.policy.policy import Policy
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.reading import Reading
from redframe.core.season.growth import GROWTH_PER_DAY
from redframe.core.treatments.catalogue import Option
from redframe.core.treatments.states import VerdictWord
from redframe.core.treatments.verification import Pool, WhyNot, earliest_post, judge

CONTROL_NEAR_DAYS = 7
"""How far the counts of an untreated neighbour may lie from those of the treated colony."""
BEFORE_DAYS = 60
"""How far back the count before a course is looked for."""


@dataclass(frozen=True, slots=True)
class JarCount:
    """A jar with a rate, of whichever colony: its day, and its reading with the mites and bees behind it."""

    id: UUID
    colony_id: UUID
    taken_on: date
    reading: Reading

    @property
    def pool(self) -> Pool:
        """The count as the comparison takes it."""
        reading = self.reading
        return Pool(reading.mites, BeesInSample(reading.bees_mean, reading.bees_cv), reading.recovery)


@dataclass(frozen=True, slots=True)
class Treated:
    """The course that is verified: of which colony, what was given, from when to when, and whether there was brood."""

    colony_id: UUID
    option: Option
    start: date
    end: date
    broodless: bool
    seed: int


@dataclass(frozen=True, slots=True)
class Controls:
    """Untreated neighbours counted about when the treated colony was, each once before and once after."""

    colonies: tuple[UUID, ...]
    before: tuple[Pool, ...]
    after: tuple[Pool, ...]


@dataclass(frozen=True, slots=True)
class VerdictSide:
    """One of the two counts that a verdict compares."""

    count_id: UUID
    taken_on: date
    mites: int
    bees: float | None
    median: float | None
    low: float | None
    high: float | None


@dataclass(frozen=True, slots=True)
class Neighbours:
    """Untreated neighbours taken together: mites per 100 bees as counted, before and after the course."""

    before: float
    after: float


@dataclass(frozen=True, slots=True)
class CourseVerdict:
    """Did it work: the word, the share killed in percent with its 95 % interval, and the chance of still being over.

    `p_target`, `p_half`: chances that at least the target, or half of it, was killed; `residual_p_act`: chance that the
    colony is still at or over the act level (`act_per_100`); `controls`: labels of the untreated neighbours;
    `projected`: the count before was older than a week and was projected; `earliest`: the first day of a check count.
    """

    word: VerdictWord
    why_not: WhyNot | None
    target_pct: float
    p_target: float | None
    p_half: float | None
    median_pct: float | None
    low_pct: float | None
    high_pct: float | None
    controls: tuple[str, ...]
    residual_p_act: float | None
    act_per_100: float
    projected: bool
    pre_mites_needed: int | None
    earliest: date
    pre: VerdictSide | None
    post: VerdictSide | None
    policy_version: int
    neighbours: Neighbours | None = None
    """What the result is corrected by; None without neighbours, and in verdicts kept before these figures were."""


def check_post(post: JarCount | None, treated: Treated, counted_colony: UUID, taken_on: date) -> JarCount:
    """The check count, if it can verify the course. Raises InvalidInput("count_id") for a count of another colony,
    without a rate, or taken before the course ended, Refused("S5") for one that is too early to tell."""
    if counted_colony != treated.colony_id:
        raise InvalidInput("count_id", "is a count of another colony", code="unknown")
    if post is None:
        raise InvalidInput("count_id", "this count has no rate: wash a jar of known bees", code="refused")
    if taken_on < treated.end:
        raise InvalidInput("count_id", "was taken before the course ended", code="out_of_range")
    earliest = earliest_post(treated.option, treated.end, treated.broodless)
    if taken_on < earliest:
        raise Refused("S5", f"too early to tell: count on {earliest.isoformat()} or later", field="count_id")
    return post


def choose_pre(history: Sequence[JarCount], treated: Treated, named: UUID | None) -> JarCount | None:
    """The count before: the one that the course names, else the last of the colony up to the first dose."""
    before = [one for one in history if one.colony_id == treated.colony_id and one.taken_on <= treated.start]
    chosen = next((one for one in before if one.id == named), None)
    return chosen or max(before, key=lambda one: one.taken_on, default=None)


def choose_controls(history: Sequence[JarCount], untreated: Sequence[UUID], pre: JarCount, post: JarCount) -> Controls:
    """Of each untreated colony the counts nearest to both days; those counted only once, or not near them, take no
    part."""
    chosen: list[tuple[UUID, Pool, Pool]] = []
    for colony in untreated:
        own = [one for one in history if one.colony_id == colony]
        first, last = _nearest(own, pre.taken_on), _nearest(own, post.taken_on)
        if first is not None and last is not None and first.id != last.id:
            chosen.append((colony, first.pool, last.pool))
    return Controls(
        tuple(one for one, _, _ in chosen), tuple(one for _, one, _ in chosen), tuple(one for _, _, one in chosen)
    )


def _nearest(counts: Sequence[JarCount], day: date) -> JarCount | None:
    near = [one for one in counts if abs((one.taken_on - day).days) <= CONTROL_NEAR_DAYS]
    return min(near, key=lambda one: (abs((one.taken_on - day).days), one.taken_on), default=None)


def verify(
    treated: Treated, pre: JarCount | None, post: JarCount, controls: Controls | None, policy: Policy,
    *, labels: Mapping[UUID, str], policy_version: int,
) -> CourseVerdict:  # fmt: skip
    """The verdict on a course. `policy` judges rates; `labels` name the controls; the draws follow `treated.seed`."""
    act = policy.levels[policy.calendar.phase(post.taken_on)].act
    residual = post.reading.p_over(act)
    found = judge(
        treated.option,
        start=treated.start,
        end=treated.end,
        broodless=treated.broodless,
        pre=pre.pool if pre else None,
        pre_on=pre.taken_on if pre else None,
        post=post.pool,
        post_on=post.taken_on,
        residual_p_act=residual,
        growth_per_day=GROWTH_PER_DAY[policy.calendar.phase(treated.start)],
        generator=np.random.default_rng(treated.seed),
        controls=(controls.before, controls.after) if controls and controls.colonies else None,
    )
    effect = found.efficacy
    return CourseVerdict(
        word=found.word,
        why_not=found.why_not,
        target_pct=found.target_pct,
        p_target=found.p_target,
        p_half=found.p_half,
        median_pct=effect.median_pct if effect else None,
        low_pct=effect.low_pct if effect else None,
        high_pct=effect.high_pct if effect else None,
        controls=tuple(labels[one] for one in controls.colonies) if controls else (),
        residual_p_act=residual,
        act_per_100=act,
        projected=found.projected,
        pre_mites_needed=found.pre_mites_needed,
        earliest=earliest_post(treated.option, treated.end, treated.broodless),
        pre=_side(pre),
        post=_side(post),
        policy_version=policy_version,
        neighbours=_neighbours(controls) if controls and controls.colonies else None,
    )


def _neighbours(controls: Controls) -> Neighbours:
    def rate(pools: Sequence[Pool]) -> float:
        return 100 * sum(one.mites for one in pools) / sum(one.bees.mean for one in pools)

    return Neighbours(rate(controls.before), rate(controls.after))


def _side(count: JarCount | None) -> VerdictSide | None:
    if count is None:
        return None
    reading = count.reading
    return VerdictSide(
        count.id, count.taken_on, reading.mites, reading.bees_mean, reading.median, reading.low, reading.high
    )
