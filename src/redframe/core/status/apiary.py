"""How an apiary stands by what its colonies say together, for those who treat all of it and for those who treat single
colonies. Unknown is never counted as clear, and a colony not counted is unknown (docs/methods/thresholds.md)."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal
from uuid import UUID

from redframe.core.policy.policy import Scope
from redframe.core.policy.schemes import Levels
from redframe.core.sampling.apiary_estimate import ApiaryEstimate
from redframe.core.sampling.plan import NEAR_SENSITIVITY, detection_sample, over_to_find
from redframe.core.status.status import Level

ApiaryReason = Literal[
    "a_colony_urgent", "mean_over_act", "a_quarter_over", "mean_over_watch", "a_colony_over",
    "enough_counted_none_over", "too_few_counted", "worst_colony", "none_counted", "none_living",
]  # fmt: skip

WORST_FIRST: tuple[Level, ...] = ("urgent", "act", "unknown", "watch", "clear")
SHARE_OVER = 0.25
HALF = 0.5
FIND_WITH = 0.95


def worst(levels: Iterable[Level]) -> Level | None:
    """The level that needs attention first: urgent, act, then unknown before watch and clear. None for no colony."""
    shown = set(levels)
    return next((level for level in WORST_FIRST if level in shown), None)


def quarter_over(levels: Iterable[Level]) -> bool:
    """Whether a quarter of the colonies whose level is known, or more, are at or over their act level."""
    known = [level for level in levels if level != "unknown"]
    return bool(known) and sum(level in ("act", "urgent") for level in known) >= SHARE_OVER * len(known)


@dataclass(frozen=True, slots=True)
class ApiaryStatus:
    """The level of an apiary under a scope, why, which colonies to treat, and which become watch for their neighbours.

    `enough` is how many colonies must be counted before the apiary can be called clear (None: not even all are enough).
    """

    scope: Scope
    level: Level
    reason: ApiaryReason
    treat: Sequence[UUID]
    watch_too: Sequence[UUID]
    counted: int
    colonies: int
    enough: int | None


def apiary_status(
    scope: Scope,
    levels_now: Mapping[UUID, Level],
    levels: Levels | None,
    estimate: ApiaryEstimate | None,
    *,
    treats: bool = True,
) -> ApiaryStatus:
    """How an apiary stands from its living colonies' levels today.

    `levels` are those of the scheme in force where the estimate is on their scale, else None: then only the colonies'
    levels speak. `treats`: whether the scheme ever lists a treatment.
    """
    colonies = len(levels_now)
    counted = sum(1 for level in levels_now.values() if level != "unknown")
    over = [one for one, level in levels_now.items() if level in ("act", "urgent")]
    enough = (
        detection_sample(colonies, over_to_find(colonies), FIND_WITH, NEAR_SENSITIVITY).sample if colonies else None
    )
    if colonies == 0:
        return ApiaryStatus(scope, "unknown", "none_living", (), (), 0, 0, None)
    if scope == "single_colony":
        level = worst(levels_now.values()) or "unknown"
        near = [one for one, now in levels_now.items() if now == "clear"] if over else []
        reason: ApiaryReason = "worst_colony" if counted else "none_counted"
        return ApiaryStatus(scope, level, reason, over if treats else (), near, counted, colonies, enough)
    level, reason = _whole(levels_now, over, counted, levels, estimate, enough)
    treat = list(levels_now) if treats and level in ("act", "urgent") else []
    return ApiaryStatus(scope, level, reason, treat, (), counted, colonies, enough)


def _whole(
    levels_now: Mapping[UUID, Level],
    over: Sequence[UUID],
    counted: int,
    levels: Levels | None,
    estimate: ApiaryEstimate | None,
    enough: int | None,
) -> tuple[Level, ApiaryReason]:
    if "urgent" in levels_now.values():
        return "urgent", "a_colony_urgent"
    p_act = estimate.p_mean_over(levels.act) if estimate and levels else None
    p_watch = estimate.p_mean_over(levels.watch) if estimate and levels else None
    if p_act is not None and p_act >= HALF:
        return "act", "mean_over_act"
    if counted and len(over) >= SHARE_OVER * counted:
        return "act", "a_quarter_over"
    if p_watch is not None and p_watch >= HALF:
        return "watch", "mean_over_watch"
    if over:
        return "watch", "a_colony_over"
    if counted and (counted >= enough if enough is not None else counted == len(levels_now)):
        return "clear", "enough_counted_none_over"
    return "unknown", "too_few_counted" if counted else "none_counted"
