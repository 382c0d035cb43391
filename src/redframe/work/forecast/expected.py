"""What each treatment is expected to leave in colonies by the day that matters, from their own counts.

For choosing: every option that the association uses and the model knows, placed on one day, against doing nothing.
"""

from __future__ import annotations

import asyncio
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import lru_cache
from uuid import UUID

import numpy as np

from redframe.core.errors import InvalidInput
from redframe.core.forecast.effects import effects, modelled
from redframe.core.forecast.ensemble import Fitted, fit
from redframe.core.forecast.events import Event
from redframe.core.forecast.projection import lived_until, project
from redframe.core.forecast.seen import Seen
from redframe.core.forecast.starting import why_not
from redframe.core.season.calendar import Calendar
from redframe.core.treatments.catalogue import default_catalogue
from redframe.store import colonies
from redframe.work.forecast.read import (
    FEW_MEMBERS,
    Record,
    compared_on,
    known_events,
    record_of,
    some_members,
)
from redframe.work.policy.read import PolicyInForce, policy_in_force
from redframe.work.unit_of_work import UnitOfWork

TRIED = 1000
MOST_COLONIES = 12
"""So many are looked ahead for at once: those with the most mites, which a choice is made for."""


@dataclass(frozen=True, slots=True)
class Left:
    """Mites per 100 bees on the day, in the middle and between what eight in ten of the members say."""

    low80: float
    median: float
    high80: float


@dataclass(frozen=True, slots=True)
class LeftByOption:
    """What an option leaves; None as the option: nothing more is done."""

    option_id: str | None
    left: Left


@dataclass(frozen=True, slots=True)
class ExpectedInColony:
    """A colony with what each option would leave; `why_not` says why nothing is known."""

    colony_id: UUID
    label: str
    why_not: str
    options: Sequence[LeftByOption]


@dataclass(frozen=True, slots=True)
class Expected:
    """What is expected on a day (`is_winter_bees`: of the first winter bees) after a first dose on `start_on`."""

    start_on: date
    on: date
    is_winter_bees: bool
    colonies: Sequence[ExpectedInColony]


async def expected_of(unit: UnitOfWork, apiary_id: UUID, colony_ids: Sequence[UUID], start_on: date) -> Expected:
    """What every option in use would leave in these colonies, the first dose on a day from today on.

    Raises InvalidInput for a day that has passed or a colony of another apiary.
    """
    policy = await policy_in_force(unit, apiary_id)
    on = compared_on(policy.calendar, unit.today)[0]
    if not unit.today <= start_on:
        raise InvalidInput("start_on", "a course cannot start in the past", code="out_of_range")
    here = {one.id: one for one in await colonies.colonies_of_apiary(unit.connection, apiary_id, unit.today)}
    for index, one in enumerate(colony_ids):
        if one not in here:
            raise InvalidInput(f"colony_ids[{index}]", "is not a colony of this apiary", code="unknown")
    wanted = sorted((here[one] for one in set(colony_ids)), key=lambda one: (-(one.median or -1.0), one.label))
    records = [(one, await record_of(unit, one.id, policy)) for one in wanted[:MOST_COLONIES]]
    options = [one for one in modelled() if _in_use(one, policy)] if start_on < on else []

    def look() -> list[ExpectedInColony]:
        found = []
        for colony, record in records:
            why = why_not(record.counts, unit.today)
            left = [] if why else _left(colony.id, record, policy, unit.today, start_on, on, options)
            found.append(ExpectedInColony(colony.id, colony.label, why, left))
        return found

    winter = policy.calendar.winter_bee_date(unit.today)
    return Expected(start_on, on, on == winter, await asyncio.to_thread(look))


def _in_use(option_id: str, policy: PolicyInForce) -> bool:
    """What needs nobody's leave is always at hand. What a break in laying leaves depends on the acid given in it: alone
    it only brings the mites onto the bees."""
    option = default_catalogue().option(option_id)
    if option.effect is not None and option.effect.kind == "laying_break":
        return False
    return not option.chemical or policy.treatment_rules.offers(option_id)


def _left(
    colony_id: UUID,
    record: Record,
    policy: PolicyInForce,
    today: date,
    start_on: date,
    on: date,
    options: Sequence[str],
) -> list[LeftByOption]:
    known = known_events(record.courses, today)
    fitted = _members(record.counts, policy.calendar, tuple(known), colony_id.int % 2**32)
    # What lies before the first dose is the same for all: it is lived through once.
    before = min(on, max(fitted.on, start_on - timedelta(days=1)))
    some = lived_until(some_members(fitted, FEW_MEMBERS), before, known)
    cases: list[tuple[str | None, Sequence[Event]]] = [(None, ())]
    cases += [(one, effects(one, start_on)) for one in options]
    return [LeftByOption(option, _on(some, on, [*known, *events])) for option, events in cases]


@lru_cache(maxsize=48)
def _members(counts: tuple[Seen, ...], calendar: Calendar, known: tuple[Event, ...], state: int) -> Fitted:
    """A quarter of the members of a forecast: enough to tell options apart, for many colonies at once."""
    return fit(counts, calendar, known, np.random.default_rng(state), members=TRIED)


def _on(some: Fitted, on: date, events: Sequence[Event]) -> Left:
    rates = project(some, (on - some.on).days, events).at(on)
    low, median, high = np.quantile(rates, (0.1, 0.5, 0.9))
    return Left(round(float(low), 3), round(float(median), 3), round(float(high), 3))
