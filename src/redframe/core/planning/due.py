"""By when a piece of work must be begun, why, and which apiary that puts first.

Each piece has its last sensible day (`by`); an apiary stands where the earliest of its days puts it. The rules and
their sources: docs/methods/planning.md.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import Literal

from redframe.core.policy.policy import Policy
from redframe.core.policy.schemes import Answer
from redframe.core.said import Params, nothing
from redframe.core.treatments.course import StepKind

URGENT_ANSWER_DAYS = 7
UNKNOWN_COUNT_DAYS = 7
BOARD_DAYS = 3
VISIT_GRACE_DAYS = 7

WorkKind = Literal["report", "treat", "flag", "step", "verify", "boards", "count", "visit", "close"]
WORK: tuple[WorkKind, ...] = ("report", "treat", "step", "verify", "boards", "flag", "count", "visit", "close")
"""Kinds of work; of one day the first comes first."""
CAN_WAIT: frozenset[WorkKind] = frozenset({"visit", "close"})
"""No colony is the worse for it within days: an apiary stands by its other work, where it has any."""

DueCode = Literal[
    "report_mite", "treat_overdue", "treat_urgent", "treat_before_winter_bees", "treat_while_known", "step_by",
    "step_was", "count_unknown", "count_by", "boards_by", "visit_by",
]  # fmt: skip


@dataclass(frozen=True, slots=True)
class Due:
    """A piece of work at an apiary for some colonies: its last sensible day (`by`) and why that day, as a code; of a
    course which `step`, of an option with so many `placings`; `chemical`: something is placed that a label governs."""

    kind: WorkKind
    colonies: int
    by: date
    code: DueCode
    params: Params = field(default_factory=nothing)
    step: str | None = None
    placings: int = 1
    chemical: bool = True


def answer_due(
    answer: Answer, *, colonies: int, urgent: int, counted_on: date, overdue_from: date | None, today: date,
    policy: Policy, effect_days: int | None,
) -> Due:  # fmt: skip
    """What is to be done about colonies over their act level that no course answers.

    Late from the day on which the level stays for want of an answer; a colony at danger level within a week of its
    count; before the winter bees so that a course still acts before they are laid, `effect_days` being those of the
    quickest treatment in use that gets at the brood (None: no such treatment); else while the count tells anything.
    """
    if answer == "report":
        return Due("report", colonies, counted_on, "report_mite")
    kind: WorkKind = "flag" if answer == "flag" else "treat"
    if overdue_from is not None:
        return Due(kind, colonies, overdue_from, "treat_overdue", {"by": overdue_from})
    known = counted_on + timedelta(days=policy.stale_after(policy.calendar.phase(counted_on)))
    found = Due(kind, colonies, known, "treat_while_known", {"by": known})
    winter = policy.calendar.winter_bee_date(today)
    if winter is not None and effect_days is not None and winter > today:
        last = winter - timedelta(days=effect_days)
        if last < known:
            found = Due(kind, colonies, last, "treat_before_winter_bees", {"by": last, "winter": winter})
    soon = counted_on + timedelta(days=URGENT_ANSWER_DAYS)
    if urgent and soon < found.by:
        found = Due(kind, colonies, soon, "treat_urgent", {"by": soon, "days": URGENT_ANSWER_DAYS})
    return found


def step_due(
    kind: StepKind, step: str, colonies: int, latest: date, today: date, placings: int = 1, *, chemical: bool = True
) -> Due:
    """A step of a course: its window says the day. Closing a course is work for the desk."""
    work: WorkKind = kind if kind in ("verify", "close") else "step"
    code: DueCode = "step_was" if latest < today else "step_by"
    return Due(work, colonies, latest, code, {"by": latest, "step": kind}, step, placings, chemical)


def count_due(colonies: int, unknown: int, due_on: date | None, today: date) -> Due:
    """Colonies to count: those of which nothing is known within the week, others by their day; a count is never late
    before it is due."""
    if unknown or due_on is None:
        by = today + timedelta(days=UNKNOWN_COUNT_DAYS)
        return Due("count", colonies, by, "count_unknown", {"unknown": unknown or colonies, "by": by})
    by = max(due_on, today)
    return Due("count", colonies, by, "count_by", {"by": by})


def boards_due(colonies: int, placed_on: date) -> Due:
    """Boards to read: after three days they read low."""
    by = placed_on + timedelta(days=BOARD_DAYS)
    return Due("boards", colonies, by, "boards_by", {"by": by, "days": BOARD_DAYS})


def visit_due(colonies: int, set_for: date) -> Due:
    """Colonies to open: within a week of the day that the last visit set."""
    by = set_for + timedelta(days=VISIT_GRACE_DAYS)
    return Due("visit", colonies, by, "visit_by", {"on": set_for})


def in_order(dues: Sequence[Due]) -> list[Due]:
    """The most pressing first: what cannot wait before what can, by the day, by the kind of work, and more colonies
    before fewer."""
    return sorted(dues, key=_pressing)


def rank(dues: Sequence[Due]) -> tuple[bool, date, int, int]:
    """Where an apiary with this work stands among others (smaller is sooner). Raises ValueError without work."""
    return min(map(_pressing, dues))


def _pressing(due: Due) -> tuple[bool, date, int, int]:
    return due.kind in CAN_WAIT, due.by, WORK.index(due.kind), -due.colonies
