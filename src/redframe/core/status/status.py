"""The level of a colony: clear, watch, act, urgent or unknown, day by day until the next count.

A single count raises a level at once; it comes down one level a count unless the count verifies a completed
treatment. A phase that lowers the threshold judges the same count again; one that raises it never clears a
colony by itself. A count that grows too old makes the colony *unknown*, except that an unanswered act or urgent
stays and grows overdue (docs/methods/thresholds.md).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from math import exp
from typing import Literal

from redframe.core.policy.policy import Policy
from redframe.core.policy.schemes import Levels, SchemeId
from redframe.core.season.calendar import Phase
from redframe.core.season.growth import GROWTH_PER_DAY

Level = Literal["clear", "watch", "act", "urgent", "unknown"]
StatusReason = Literal[
    "never_counted",
    "count",
    "held_one_step",
    "threshold_changed",
    "too_old",
    "overdue",
    "cannot_show_clear",
    "none_found",
]

ORDER: tuple[Level, ...] = ("clear", "watch", "act", "urgent")
LEAST_GAP_DAYS = 7


@dataclass(frozen=True, slots=True)
class Sample:
    """A count as the level sees it: the day, two points of the posterior (in the unit of its scale), whether it may
    show a colony clear or lower a level at all, and whether a mite was found."""

    taken_on: date
    median: float
    upper80: float
    can_clear: bool = True
    can_lower: bool = True
    verifies: bool = False
    found_mites: bool = True


@dataclass(frozen=True, slots=True)
class Status:
    """One level from a day on, until the next change or count. `act_at` is the act level in force;
    `overdue_from` the day from which an unanswered act or urgent counts as overdue."""

    since: date
    level: Level
    reason: StatusReason
    phase: Phase
    act_at: float
    overdue_from: date | None = None


def judge(sample: Sample, levels: Levels, scheme: SchemeId = "season_phase") -> Level:
    """The level that one sample shows by itself, from the cut points of docs/methods/thresholds.md.

    Where one mite is too many, none found is never clear: it was only not found.
    """
    if scheme == "any_mite":
        return "urgent" if sample.found_mites else "watch"
    if sample.median >= levels.urgent:
        return "urgent"
    if sample.median >= levels.act:
        return "act"
    if sample.median >= levels.watch or sample.upper80 >= levels.act or not sample.can_clear:
        return "watch"
    return "clear"


def _higher(a: Level, b: Level) -> Level:
    return a if ORDER.index(a) >= ORDER.index(b) else b


def statuses(samples: Sequence[Sample], policy: Policy, treated_since: Sequence[date] = ()) -> list[Status]:
    """Levels from the last sample on; [] when the colony was never counted (it is unknown from the start).

    `samples` are valid counts of one colony in order of the day; `treated_since` are the end days of completed
    treatments, which free an act or urgent from staying overdue.
    """
    held: Level = "unknown"
    path: list[Status] = []
    for index, sample in enumerate(samples):
        if path:
            held = _at(path, sample.taken_on).level
        until = samples[index + 1].taken_on if index + 1 < len(samples) else None
        path = statuses_after(sample, held, policy, treated_since, until)
    return path


def _at(path: Sequence[Status], day: date) -> Status:
    return [step for step in path if step.since <= day][-1] if path[0].since <= day else path[0]


def statuses_after(
    sample: Sample, held: Level, policy: Policy, treated_since: Sequence[date] = (), until: date | None = None
) -> list[Status]:
    """Levels from one sample on, where the colony was `held` at a level before it, until the day of the next sample."""
    phase = policy.calendar.phase(sample.taken_on)
    shown = judge(sample, policy.levels[phase], policy.scheme)
    reason: StatusReason = "count"
    if policy.scheme == "any_mite":
        reason = "count" if sample.found_mites else "none_found"
    elif shown == "watch" and not sample.can_clear and judge_clear(sample, policy.levels[phase]):
        reason = "cannot_show_clear"
    level = shown
    if held in ORDER and ORDER.index(shown) < ORDER.index(held):
        if not sample.can_lower:
            level, reason = held, "held_one_step"
        elif not sample.verifies:
            step_down = ORDER[ORDER.index(held) - 1]
            level = _higher(shown, step_down)
            if level != shown:
                reason = "held_one_step"
    path = [Status(sample.taken_on, level, reason, phase, policy.levels[phase].act)]
    answered = any(end >= sample.taken_on for end in treated_since)
    last = until or sample.taken_on + timedelta(days=max(policy.stale_after_days, policy.stale_after_days_dormant) + 1)
    day = sample.taken_on
    while day < last:
        day += timedelta(days=1)
        now = policy.calendar.phase(day)
        age = (day - sample.taken_on).days
        current = path[-1]
        if current.level in ORDER and age > policy.stale_after(now):
            if current.level in ("act", "urgent") and not answered:
                path.append(Status(day, current.level, "overdue", now, policy.levels[now].act, overdue_from=day))
            else:
                path.append(Status(day, "unknown", "too_old", now, policy.levels[now].act))
            break
        if now != phase:
            phase = now
            again = judge(sample, policy.levels[now], policy.scheme)
            if ORDER.index(again) > ORDER.index(current.level):
                path.append(Status(day, again, "threshold_changed", now, policy.levels[now].act))
            elif policy.levels[now].act != current.act_at:
                path.append(Status(day, current.level, current.reason, now, policy.levels[now].act))
    return path


def judge_clear(sample: Sample, levels: Levels) -> bool:
    """Whether the figures alone would be clear, had the sample been able to show it."""
    return sample.median < levels.watch and sample.upper80 < levels.act


def recount_on(sample: Sample, policy: Policy) -> date:
    """The day by which to count again: the last before the upper 80 % point, growing as the phase of each day does,
    passes the act level of that day; not before 7 days, and not after the last day on which the count tells anything
    (`Policy.stale_after` of that day's phase, the rule by which the level becomes unknown)."""
    growth = 0.0
    longest = max(policy.stale_after_days, policy.stale_after_days_dormant)
    for days in range(1, longest + 1):
        day = sample.taken_on + timedelta(days=days)
        phase = policy.calendar.phase(day)
        growth += GROWTH_PER_DAY[phase]
        if days > policy.stale_after(phase) or sample.upper80 * exp(growth) > policy.levels[phase].act:
            return sample.taken_on + timedelta(days=max(LEAST_GAP_DAYS, days - 1))
    return sample.taken_on + timedelta(days=longest)
