"""The counts that a course is verified by."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import timedelta
from typing import Any

import numpy as np

from redframe.core.errors import InvalidInput, Refused
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.reading import RECOVERY_PRIOR, Reading, Recovery
from redframe.core.season.growth import GROWTH_PER_DAY
from redframe.core.treatments import verification
from redframe.core.treatments.progress import Plan
from redframe.store import colonies, sampling
from redframe.store import treatments as store
from redframe.store.sampling import Count
from redframe.store.treatments import Course, CourseAct
from redframe.work.policy.read import policy_in_force
from redframe.work.status.recompute import reading_on_record
from redframe.work.unit_of_work import UnitOfWork

CONTROL_NEAR_DAYS = 7


def _pool(count: Count) -> verification.Pool:
    assert count.bees_mean is not None and count.bees_cv is not None and count.recovery is not None
    recovery: Recovery = "all"
    if count.recovery in RECOVERY_PRIOR:
        recovery = count.recovery
    return verification.Pool(sum(count.shakes or []), BeesInSample(count.bees_mean, count.bees_cv), recovery)


async def _verdict(unit: UnitOfWork, course: Course, plan: Plan, acts: Sequence[CourseAct]) -> dict[str, Any]:
    """Judge a course from the count before and the count after, with untreated neighbours where they were counted."""
    policy = await policy_in_force(unit, course.apiary_id)
    option, days = plan.option, plan.days(acts)
    done = {act.step: act for act in acts}
    ending = plan.course(days).ending
    start, end = days["place_1"], days.get(ending.name, ending.window.ideal)
    post_id = done["verify"].count_id
    assert post_id is not None
    post = await sampling.count_by_id(unit.connection, post_id)
    if post.colony_id != course.colony_id:
        raise InvalidInput("count_id", "is a count of another colony", code="unknown")
    if post.recovery is None:
        raise InvalidInput("count_id", "this count has no rate: wash a jar of known bees", code="refused")
    if post.taken_on < end:
        raise InvalidInput("count_id", "was taken before the course ended", code="out_of_range")
    earliest = verification.earliest_post(option, end, course.broodless)
    if post.taken_on < earliest:
        raise Refused("S5", f"too early to tell: count on {earliest.isoformat()} or later", field="count_id")
    history = await sampling.counts_of_colonies(unit.connection, [course.colony_id], start - timedelta(days=60))
    before = [count for count in history if count.recovery is not None and count.taken_on <= start]
    named = done.get("baseline_count")
    pre = next((count for count in before if named is not None and count.id == named.count_id), None)
    pre = pre or (before[0] if before else None)
    reading_phase = policy.calendar.phase(post.taken_on)
    act = policy.for_scale("mites_per_100").levels[reading_phase].act
    controls: tuple[list[verification.Pool], list[verification.Pool]] | None = None
    control_labels: list[str] = []
    if pre is not None:
        controls, control_labels = await _controls(unit, course, pre, post)
    reading = reading_on_record(post)
    residual = reading.p_over(act) if isinstance(reading, Reading) else 0.0
    found = verification.judge(
        option,
        start=start,
        end=end,
        broodless=course.broodless,
        pre=_pool(pre) if pre else None,
        pre_on=pre.taken_on if pre else None,
        post=_pool(post),
        post_on=post.taken_on,
        residual_p_act=residual,
        growth_per_day=GROWTH_PER_DAY[policy.calendar.phase(start)],
        generator=np.random.default_rng(course.id.int % 2**63),
        controls=controls,
    )
    effect = found.efficacy
    return {
        "word": found.word,
        "why_not": found.why_not,
        "target_pct": found.target_pct,
        "p_target": found.p_target,
        "p_half": found.p_half,
        "median_pct": effect.median_pct if effect else None,
        "low_pct": effect.low_pct if effect else None,
        "high_pct": effect.high_pct if effect else None,
        "controls": control_labels,
        "residual_p_act": residual,
        "act_per_100": act,
        "projected": found.projected,
        "pre_mites_needed": found.pre_mites_needed,
        "earliest": earliest.isoformat(),
        "pre": _as_side(pre),
        "post": _as_side(post),
        "policy_version": policy.version,
    }


def _as_side(count: Count | None) -> dict[str, Any] | None:
    if count is None:
        return None
    return {
        "count_id": str(count.id),
        "taken_on": count.taken_on.isoformat(),
        "mites": count.mites,
        "bees": count.bees_mean,
        "median": count.median,
        "low": count.low,
        "high": count.high,
    }


async def _controls(
    unit: UnitOfWork, course: Course, pre: Count, post: Count
) -> tuple[tuple[list[verification.Pool], list[verification.Pool]] | None, list[str]]:
    """Untreated colonies of the apiary counted within a week of both counts."""
    near = timedelta(days=CONTROL_NEAR_DAYS)
    ids = await store.untreated_colonies(unit.connection, course.apiary_id, pre.taken_on - near, post.taken_on)
    ids = [one for one in ids if one != course.colony_id]
    if not ids:
        return None, []
    counts = await sampling.counts_of_colonies(unit.connection, ids, pre.taken_on - near)
    names = {colony.id: colony.label for colony in await colonies.colonies_by_id(unit.connection, ids)}
    before: list[verification.Pool] = []
    after: list[verification.Pool] = []
    labels: list[str] = []
    for one in ids:
        own = [count for count in counts if count.colony_id == one and count.recovery is not None]
        first = next((count for count in own if abs((count.taken_on - pre.taken_on).days) <= CONTROL_NEAR_DAYS), None)
        last = next((count for count in own if abs((count.taken_on - post.taken_on).days) <= CONTROL_NEAR_DAYS), None)
        if first is not None and last is not None and first.id != last.id:
            before.append(_pool(first))
            after.append(_pool(last))
            labels.append(names[one])
    return ((before, after), labels) if before else (None, [])
