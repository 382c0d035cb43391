"""Apiaries in the order of their work: by when, why, how their colonies stand, what to take along.

An apiary is judged when its records have been written to, and what was said of it is kept: the order is read from
there.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any, Protocol
from uuid import UUID

from pydantic import TypeAdapter

from redframe.core.forecast.effects import kill_of, modelled, reaches_brood
from redframe.core.planning.due import Due, answer_due, boards_due, count_due, in_order, rank, step_due, visit_due
from redframe.core.planning.kit import Kit, Placing, kit
from redframe.core.sampling.method import Scale
from redframe.core.status.status import Level
from redframe.core.treatments.catalogue import default_catalogue
from redframe.store import planning as store
from redframe.store.database import together
from redframe.store.planning import BoardsDue, CountsDue, KeptWork, OverWithoutCourse, StepsDue, VisitsDue
from redframe.work.policy.read import PolicyInForce
from redframe.work.unit_of_work import UnitOfWork

SOON_DAYS = 3
MOST_LINES = 100_000
"""More than there are apiaries: nothing is left out of what is judged."""
MOST_COLONIES = 99_999
NOTHING_DUE = "z"


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


_DUES = TypeAdapter(list[Due])


class _AtApiary(Protocol):
    @property
    def apiary_id(self) -> UUID: ...
    @property
    def apiary(self) -> str: ...
    @property
    def keeper(self) -> str: ...


async def find_work(unit: UnitOfWork, at: Sequence[UUID]) -> Found:
    """What is due at some apiaries today and within SOON_DAYS."""
    until = unit.today + timedelta(days=SOON_DAYS)
    async with together(unit.connection) as begin:
        over = begin(store.over_without_course(unit.connection, MOST_LINES, at))
        steps = begin(store.steps_due(unit.connection, until, MOST_LINES, at))
        counts = begin(store.counts_due(unit.connection, until, MOST_LINES, at))
        boards = begin(store.boards_due(unit.connection, unit.now, MOST_LINES, at))
        visits = begin(store.visits_due(unit.connection, unit.today, until, MOST_LINES, at))
    return Found(over.result(), steps.result(), counts.result(), boards.result(), visits.result())


async def judge_what_turned(unit: UnitOfWork, policy: PolicyInForce) -> None:
    """Judge again the apiaries whose records were written to since they were judged last."""
    if not await store.anything_turned(unit.connection, unit.now):
        return
    turned = await store.take_turned(unit.connection, unit.now)
    if not turned:
        return
    found = await find_work(unit, turned)
    dues = _dues(unit, found, policy)
    found_at: list[_AtApiary] = [*found.over, *found.steps, *found.counts, *found.boards, *found.visits]
    names = {one.apiary_id: one.apiary for one in found_at}
    works = []
    for apiary_id in sorted(set(turned)):
        due = in_order(dues.get(apiary_id, []))
        key = order_key(due, names[apiary_id]) if due else NOTHING_DUE
        works.append((apiary_id, key, _DUES.dump_json(due).decode()))
    await store.keep_work(unit.connection, unit.now, works)


def as_due(unit: UnitOfWork, kept: KeptWork) -> ApiaryDue:
    """What was kept of an apiary, as it is today."""
    return apiary_due(kept.apiary_id, kept.apiary, kept.keeper, kept.due, unit.today)


def apiary_due(apiary_id: UUID, apiary: str, keeper: str, due: list[dict[str, Any]], today: date) -> ApiaryDue:
    """An apiary with what is due there, as it was kept."""
    dues = _DUES.validate_python(due)
    return ApiaryDue(apiary_id, apiary, keeper, dues[0].by, max(0, (today - dues[0].by).days), dues)


def order_key(dues: Sequence[Due], name: str) -> str:
    """A text that puts an apiary with this work where `rank` does among others, and by name among equals."""
    waits, by, kind, colonies = rank(dues)
    return f"{waits:d}{by.toordinal():07d}{kind:02d}{MOST_COLONIES + colonies:05d} {name.casefold()}"


async def apiary_works(
    unit: UnitOfWork, works: Sequence[ApiaryDue], found: Found, policy: PolicyInForce
) -> list[ApiaryWork]:
    """Apiaries with work, with what a day's page shows of them."""
    today = unit.today
    longest = policy.policy.stale_after(policy.calendar.phase(today))
    marks: dict[UUID, list[ColonyMark]] = defaultdict(list)
    for one in await store.rates_by_apiary(unit.connection, [work.apiary_id for work in works]):
        old = one.counted_on is None or (today - one.counted_on).days > longest
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
        option = step.option
        dues[step.apiary_id].append(
            step_due(
                step.kind, step.step, step.colonies, step.latest, today, option.applications, chemical=option.chemical
            )
        )
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
    washes = sum(due.colonies for due in dues if due.kind in ("count", "verify"))
    placings = [
        Placing(step.option, step.dose_quantity, step.dose_unit)
        for step in found.steps
        if step.apiary_id == apiary_id and step.kind == "place"
    ]
    return kit(washes, placings)
