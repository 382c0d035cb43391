"""Apiaries in the order of their work: by when, why, how their colonies stand, what to take along."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Protocol
from uuid import UUID

from redframe.core.forecast.effects import kill_of, modelled, reaches_brood
from redframe.core.planning.due import Due, answer_due, boards_due, count_due, in_order, rank, step_due, visit_due
from redframe.core.planning.kit import Kit, Placing, kit
from redframe.core.sampling.method import Scale
from redframe.core.status.status import Level
from redframe.core.treatments.catalogue import default_catalogue
from redframe.store import planning as store
from redframe.store.planning import BoardsDue, CountsDue, OverWithoutCourse, StepsDue, VisitsDue
from redframe.work.policy.read import PolicyInForce
from redframe.work.unit_of_work import UnitOfWork

SOON_DAYS = 3


@dataclass(frozen=True, slots=True)
class ColonyMark:
    """A colony on the rate rule: its level, the figure of its latest count; `old`: too old to say its level now."""

    label: str
    level: Level
    rate: float | None
    scale: Scale | None
    old: bool


@dataclass(frozen=True, slots=True)
class ApiaryDue:
    """What is due at an apiary, the most pressing first. `by`: its last sensible day, `late` so many days ago."""

    apiary_id: UUID
    apiary: str
    keeper: str
    by: date
    late: int
    due: Sequence[Due]


@dataclass(frozen=True, slots=True)
class ApiaryWork(ApiaryDue):
    """The work at an apiary with how its colonies stand and what to take along."""

    colonies: Sequence[ColonyMark]
    kit: Kit


@dataclass(frozen=True, slots=True)
class Found:
    """All that is due, as the store found it."""

    over: Sequence[OverWithoutCourse]
    steps: Sequence[StepsDue]
    counts: Sequence[CountsDue]
    boards: Sequence[BoardsDue]
    visits: Sequence[VisitsDue]


class _AtApiary(Protocol):
    @property
    def apiary_id(self) -> UUID: ...
    @property
    def apiary(self) -> str: ...
    @property
    def keeper(self) -> str: ...


async def find_work(unit: UnitOfWork, most: int) -> Found:
    """What is due today and within SOON_DAYS, at most so many lines of a kind."""
    until = unit.today + timedelta(days=SOON_DAYS)
    return Found(
        over=await store.over_without_course(unit.connection, most),
        steps=await store.steps_due(unit.connection, until, most),
        counts=await store.counts_due(unit.connection, until, most),
        boards=await store.boards_due(unit.connection, unit.now, most),
        visits=await store.visits_due(unit.connection, unit.today, until, most),
    )


def in_order_of_work(unit: UnitOfWork, found: Found, policy: PolicyInForce) -> list[ApiaryDue]:
    """The apiaries with work, the one whose work must be begun first on top."""
    today = unit.today
    dues = _dues(unit, found, policy)
    found_at: list[_AtApiary] = [*found.over, *found.steps, *found.counts, *found.boards, *found.visits]
    names = {one.apiary_id: (one.apiary, one.keeper) for one in found_at}
    works = []
    for apiary_id in sorted(dues, key=lambda one: (rank(dues[one]), names[one][0])):
        due = in_order(dues[apiary_id])
        works.append(ApiaryDue(apiary_id, *names[apiary_id], due[0].by, max(0, (today - due[0].by).days), due))
    return works


async def apiary_works(unit: UnitOfWork, found: Found, policy: PolicyInForce, most: int) -> list[ApiaryWork]:
    """The first apiaries in the order of their work, with what a day's page shows of them."""
    works = in_order_of_work(unit, found, policy)[:most]
    longest = policy.policy.stale_after(policy.calendar.phase(unit.today))
    marks: dict[UUID, list[ColonyMark]] = defaultdict(list)
    for one in await store.rates_by_apiary(unit.connection, [work.apiary_id for work in works]):
        old = one.counted_on is None or (unit.today - one.counted_on).days > longest
        marks[one.apiary_id].append(ColonyMark(one.label, one.level, one.rate, one.scale, old))
    return [
        ApiaryWork(
            work.apiary_id, work.apiary, work.keeper, work.by, work.late, work.due,
            marks[work.apiary_id], _kit(found, work.due, work.apiary_id),
        )
        for work in works
    ]  # fmt: skip


def _dues(unit: UnitOfWork, found: Found, policy: PolicyInForce) -> dict[UUID, list[Due]]:
    today = unit.today
    dues: dict[UUID, list[Due]] = defaultdict(list)
    quickest = _quickest(policy)
    for over in found.over:
        dues[over.apiary_id].append(
            answer_due(
                over.answer, colonies=over.colonies, urgent=over.urgent, counted_on=over.oldest_count_on,
                overdue_from=over.overdue_from, today=today, policy=policy.policy, effect_days=quickest,
            )
        )  # fmt: skip
    for step in found.steps:
        placings = default_catalogue().option(step.option_id).applications
        dues[step.apiary_id].append(step_due(step.kind, step.step, step.colonies, step.latest, today, placings))
    for count in found.counts:
        dues[count.apiary_id].append(count_due(count.colonies, count.never + count.too_old, count.due_on, today))
    for board in found.boards:
        dues[board.apiary_id].append(boards_due(board.colonies, board.placed_at.astimezone(unit.zone).date()))
    for visit in found.visits:
        dues[visit.apiary_id].append(visit_due(visit.colonies, visit.due_on))
    return dues


def _quickest(policy: PolicyInForce) -> int | None:
    """Days after which the quickest treatment in use that gets at the brood has acted."""
    catalogue = default_catalogue()
    days = [
        catalogue.option(one).effect_days
        for one in modelled()
        if policy.treatment_rules.offers(one) and (kill := kill_of(one)) is not None and reaches_brood(kill)
    ]
    return min(days, default=None)


def _kit(found: Found, dues: Sequence[Due], apiary_id: UUID) -> Kit:
    catalogue = default_catalogue()
    washes = sum(due.colonies for due in dues if due.kind in ("count", "verify"))
    placings = [
        Placing(catalogue.option(step.option_id), step.dose_quantity, step.dose_unit)
        for step in found.steps
        if step.apiary_id == apiary_id and step.kind == "place"
    ]
    return kit(washes, placings)
