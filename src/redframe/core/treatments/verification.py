"""Did the treatment work? Efficacy with its interval, against untreated controls where there are any.

A verdict is a statement about probabilities: worked, partly, failed, or cannot tell yet; it comes with the residual,
the chance that the colony is still over its act level. A zero after the treatment is never a bare 100 %
(docs/methods/verification.md).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from math import ceil, exp
from typing import Literal

import numpy as np
import numpy.typing as npt
from scipy import special

from redframe.core.errors import InvalidInput
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.rates import PRIOR_SHAPE
from redframe.core.sampling.reading import Recovery, exposures_of
from redframe.core.treatments.catalogue import Option
from redframe.core.treatments.states import VerdictWord

WhyNot = Literal["no_pre", "pre_too_old", "post_too_early", "post_too_late", "too_few_bees", "not_sure"]

DRAWS = 200_000
SURE = 0.8
PRE_FRESH_DAYS, PRE_USABLE_DAYS = 7, 14
POST_LATEST_DAYS = 35
FEWEST_BEES = 100
TARGET_FLOOR = 0.20


@dataclass(frozen=True, slots=True)
class Pool:
    """One count, or several of one kind taken together: mites, bees, and the share found."""

    mites: int
    bees: BeesInSample
    recovery: Recovery


@dataclass(frozen=True, slots=True)
class Efficacy:
    """Share of the mites killed, as probabilities: point, 95 % interval in percent, chances of reaching marks."""

    median_pct: float
    low_pct: float
    high_pct: float
    with_controls: bool
    draws: npt.NDArray[np.float64]

    def p_at_least(self, share: float) -> float:
        """P(efficacy >= share), share in 0 to 1."""
        return float(np.mean(self.draws >= share))


@dataclass(frozen=True, slots=True)
class Verdict:
    """The word, why it is not known where it is not, and the chances behind it."""

    word: VerdictWord
    why_not: WhyNot | None
    target_pct: float
    p_target: float | None
    p_half: float | None
    efficacy: Efficacy | None
    residual_p_act: float | None
    projected: bool
    pre_mites_needed: int | None


def henderson_tilton(treated_pre: float, treated_post: float, control_pre: float, control_post: float) -> float:
    """Efficacy in percent from rates on one scale, corrected by untreated controls (Henderson and Tilton 1955).

    Negative values are kept. Raises InvalidInput for a zero where a ratio needs a figure.
    """
    for field, value in (
        ("treated_pre", treated_pre),
        ("control_pre", control_pre),
        ("control_post", control_post),
    ):
        if value <= 0:
            raise InvalidInput(
                field, "must be more than 0: without it there is nothing to compare", code="out_of_range"
            )
    if treated_post < 0:
        raise InvalidInput("treated_post", "must be 0 or more", code="out_of_range")
    return 100.0 * (1.0 - (treated_post / treated_pre) * (control_pre / control_post))


def _draw_theta(pool: Pool, generator: np.random.Generator) -> npt.NDArray[np.float64]:
    exposures = exposures_of(pool.bees, pool.recovery)
    picked = exposures if len(exposures) == 1 else generator.choice(exposures, DRAWS)
    return np.asarray(generator.gamma(pool.mites + PRIOR_SHAPE, 1.0 / picked, DRAWS))


def _same_share_found(pre: Pool, post: Pool) -> tuple[Pool, Pool]:
    """The same wash before and after: the share found cancels, so it adds no doubt."""
    if pre.recovery == post.recovery:
        return Pool(pre.mites, pre.bees, "all"), Pool(post.mites, post.bees, "all")
    return pre, post


def efficacy(
    pre: Pool,
    post: Pool,
    generator: np.random.Generator,
    *,
    controls: tuple[Sequence[Pool], Sequence[Pool]] | None = None,
    growth: float = 0.0,
) -> Efficacy:
    """Efficacy from draws of the true rates before and after.

    `growth` projects an older count before to the start (natural log). `controls` are pools of untreated colonies
    before and after; each colony counts equally, whatever its scoop.
    """
    before, after = _same_share_found(pre, post)
    remaining = _draw_theta(after, generator) / (_draw_theta(before, generator) * exp(growth))
    if controls is not None:
        control_before = np.mean([_draw_theta(pool, generator) for pool in controls[0]], axis=0)
        control_after = np.mean([_draw_theta(pool, generator) for pool in controls[1]], axis=0)
        remaining = remaining * control_before / control_after
    draws = 1.0 - remaining
    low, median, high = 100.0 * np.quantile(draws, [0.025, 0.5, 0.975])
    return Efficacy(float(median), float(low), float(high), controls is not None, draws)


def target_of(option: Option, broodless: bool) -> float:
    """The share of mites that the treatment is expected to kill at the least, 0 to 1."""
    target = option.verification.target_pct_broodless if broodless else option.verification.target_pct_with_brood
    if target is not None:
        return target / 100
    span = option.efficacy(broodless)
    return max(TARGET_FLOOR, span[0] / 100) if span else TARGET_FLOOR


def earliest_post(option: Option, end: date, broodless: bool) -> date:
    """The first day on which a wash can tell: mites sealed in cells must have come out, dying ones fallen."""
    days = option.verification.earliest_days_broodless if broodless else option.verification.earliest_days_with_brood
    return end + timedelta(days=option.verify.days[0] if days is None else days)


def judge(
    option: Option,
    *,
    start: date,
    end: date,
    broodless: bool,
    pre: Pool | None,
    pre_on: date | None,
    post: Pool,
    post_on: date,
    residual_p_act: float,
    growth_per_day: float,
    generator: np.random.Generator,
    controls: tuple[Sequence[Pool], Sequence[Pool]] | None = None,
) -> Verdict:
    """The verdict on a course from the count before and the count after.

    A count before the start by more than 7 days is projected with `growth_per_day` and called projected; by more
    than 14 days it tells nothing about efficacy. The residual is judged whatever the verdict.
    """
    target = target_of(option, broodless)

    def cannot(why: WhyNot, found: Efficacy | None = None, projected: bool = False) -> Verdict:
        p_target = found.p_at_least(target) if found else None
        p_half = found.p_at_least(0.5) if found else None
        needed = pre_mites_needed(target) if why == "not_sure" else None
        return Verdict("cannot_tell_yet", why, 100 * target, p_target, p_half, found, residual_p_act, projected, needed)

    if pre is None or pre_on is None:
        return cannot("no_pre")
    age = (start - pre_on).days
    if age > PRE_USABLE_DAYS:
        return cannot("pre_too_old")
    if post_on < earliest_post(option, end, broodless):
        return cannot("post_too_early")
    if (post_on - end).days > POST_LATEST_DAYS:
        return cannot("post_too_late")
    if min(pre.bees.mean, post.bees.mean) < FEWEST_BEES:
        return cannot("too_few_bees")
    projected = age > PRE_FRESH_DAYS
    found = efficacy(pre, post, generator, controls=controls, growth=growth_per_day * age if projected else 0.0)
    p_target, p_half = found.p_at_least(target), found.p_at_least(0.5)
    if p_target >= SURE:
        word: VerdictWord = "worked"
    elif 1 - p_half >= SURE:
        word = "failed"
    elif p_half >= SURE and p_target <= 0.5:
        word = "partly"
    else:
        return cannot("not_sure", found, projected)
    return Verdict(word, None, 100 * target, p_target, p_half, found, residual_p_act, projected, None)


def pre_mites_needed(target: float, bees: int = 300) -> int:
    """Fewest mites before the treatment with which no mite after it would show the target (P >= 0.8)."""
    for mites in range(1, 400):
        share = 1.0 / (1.0 + (1.0 - target) * 1.0)
        if float(special.betaincc(mites + PRIOR_SHAPE, PRIOR_SHAPE, share)) >= SURE:
            return mites
    return ceil(bees)
