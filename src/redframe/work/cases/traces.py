"""The traces of a case: from whom it may have come, to whom it may have gone, by what is on record."""

from __future__ import annotations

import asyncio
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from redframe.core.cases.states import CaseDisease
from redframe.core.tracing.movements import Band, Certainty, Movement, MovementKind, Stay, band_of
from redframe.core.tracing.traces import Reached, trace
from redframe.core.tracing.windows import SEEN_WITHIN_DAYS, Window, window
from redframe.store import cases as store
from redframe.store import tracing
from redframe.store.database import together
from redframe.store.errors import NotAllowed
from redframe.store.tracing import StayRow
from redframe.work.unit_of_work import UnitOfWork

IN_STORE = "a comb in store"


@dataclass(frozen=True, slots=True)
class Leg:
    """A movement of a path, with the names of its day."""

    kind: MovementKind
    certainty: Certainty
    earliest: date
    latest: date
    origin: str
    target: str


@dataclass(frozen=True, slots=True)
class Contact:
    """A colony that a trace reaches: how dangerous the contact is, from which day it may have been there (or up to
    which it may have left), the riskiest path in the order of time, when it was examined last, by when it is seen."""

    colony_id: UUID
    label: str
    apiary_id: UUID
    apiary: str
    keeper: str
    is_living: bool
    band: Band
    risk: float
    is_certain: bool
    on: date
    path: list[Leg]
    last_examined: date | None
    see_by: date


@dataclass(frozen=True, slots=True)
class Traces:
    """Both lists of a case, drafted from what is on record today, with their days; nobody is contacted by them before
    the authority says so."""

    today: date
    window: Window
    sources: list[Contact]
    spread: list[Contact]


async def traces_of(unit: UnitOfWork, case_id: UUID) -> Traces:
    """The traces of a case. Raises NotFound, NotAllowed for who is no inspector or administrator."""
    if unit.who.role not in ("inspector", "administrator"):
        raise NotAllowed("tracing is the inspector's")
    row = await store.case(unit.connection, case_id)
    clean = await tracing.last_clean_examination(unit.connection, row.colony_id, row.found_on)
    days = window(row.disease, row.found_on, clean)
    async with together(unit.connection) as begin:
        of_log = begin(tracing.movements(unit.connection, days.back_to, unit.today))
        of_stays = begin(tracing.stays(unit.connection))
    log, there = of_log.result(), of_stays.result()
    # A long log takes a second: other people's requests go on meanwhile.
    return await asyncio.to_thread(_traced, log, there, str(row.colony_id), row.disease, days, unit.today)


def _traced(
    log: Sequence[Movement], there: Sequence[StayRow], colony: str, disease: CaseDisease, days: Window, today: date
) -> Traces:
    stood, named = stays_of(there), {str(one.colony_id): one for one in there}
    back = trace(log, stood, colony, disease, since=days.back_to, until=today, direction="backward")
    gone = trace(log, stood, colony, disease, since=days.infectious_from, until=today, direction="forward")
    return Traces(today, days, _contacts(back, named, today), _contacts(gone, named, today))


def stays_of(rows: Sequence[StayRow]) -> list[Stay]:
    """Where each colony stood from when to when, by its moves."""
    found = []
    for row in rows:
        begins = [row.began_on, *row.moved_on]
        ends = [*(day for day in row.moved_on), row.ended_on]
        for apiary, since, until in zip([*row.moved_from, row.apiary_id], begins, ends, strict=True):
            found.append(Stay(str(row.colony_id), str(apiary), since, until))
    return found


def _contacts(reached: Sequence[Reached], named: Mapping[str, StayRow], today: date) -> list[Contact]:
    """Colonies alone: a comb in store is a place on the way."""
    return [_contact(one, named[one.colony], named, today) for one in reached if one.colony in named]


def _contact(reached: Reached, row: StayRow, named: Mapping[str, StayRow], today: date) -> Contact:
    best, band = reached.best, band_of(reached.best.risk)
    see_by = today + timedelta(days=SEEN_WITHIN_DAYS[band])
    return Contact(
        row.colony_id, row.label, row.apiary_id, row.apiary, row.keeper, row.is_living, band, best.risk,
        best.is_certain, best.on, [_leg(one, named) for one in best.movements], row.last_examined, see_by,
    )  # fmt: skip


def _leg(movement: Movement, named: Mapping[str, StayRow]) -> Leg:
    def name(place: str) -> str:
        return named[place].label if place in named else IN_STORE

    return Leg(
        movement.kind, movement.certainty, movement.earliest, movement.latest, name(movement.origin),
        name(movement.target),
    )  # fmt: skip
