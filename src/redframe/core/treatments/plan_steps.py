"""The steps of a plan over its colonies of one apiary: how many wait for each, and when one journey does for all.

A colony that is late, or that was begun on another day, narrows the days that all have in common; where none is left,
the plan costs a journey more.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from redframe.core.treatments.course import StepKind
from redframe.core.treatments.progress import StepProgress

AT_THE_HIVE: frozenset[StepKind] = frozenset({"place", "interim_check", "remove", "verify"})
"""Steps that somebody has to go to the apiary for."""


@dataclass(frozen=True, slots=True)
class PlanStep:
    """A step that `waiting` colonies of a plan have before them. `from_day` to `to_day` are the days on which it can be
    done in all of them (None: there is no such day), `best_from` to `best_to` their best days; `overdue` of them are
    past their last day."""

    name: str
    kind: StepKind
    waiting: int
    overdue: int
    from_day: date | None
    to_day: date | None
    best_from: date
    best_to: date


def plan_steps(courses: Sequence[Sequence[StepProgress]], *, today: date) -> list[PlanStep]:
    """The steps to come at the hive, in their order; `courses`: the steps of each open course of the
    plan at one apiary."""
    names = dict.fromkeys(step.name for steps in courses for step in steps if step.kind in AT_THE_HIVE)
    found = []
    for name in names:
        waiting = [
            step for steps in courses for step in steps
            if step.name == name and step.state in ("pending", "ready", "overdue", "waiting_for_weather")
        ]  # fmt: skip
        if waiting:
            found.append(_together(name, waiting, today))
    return found


def _together(name: str, waiting: Sequence[StepProgress], today: date) -> PlanStep:
    overdue = sum(one.latest < today for one in waiting)
    # What is past its last day is done as soon as somebody is there: it asks for today at the earliest, not for a day
    # that is gone.
    first = max(max(one.earliest for one in waiting), today)
    last = min((one.latest for one in waiting if one.latest >= today), default=first)
    ideals = [one.ideal for one in waiting]
    common = first <= last
    return PlanStep(
        name, waiting[0].kind, len(waiting), overdue, first if common else None, last if common else None,
        min(ideals), max(ideals),
    )  # fmt: skip
