"""The brood calendars of colonies, and what somebody says that stopped the laying."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cache
from uuid import UUID

from redframe.core.colonies.brood_state import BroodRecord, BroodState, CellsSeen, QueenCame, Stop
from redframe.core.colonies.condition import Recorded
from redframe.core.errors import InvalidInput
from redframe.core.season.calendar import Calendar
from redframe.core.treatments.catalogue import default_catalogue
from redframe.store import brood as store
from redframe.store import colonies
from redframe.store.brood import NewBroodEvent
from redframe.store.database import together
from redframe.work.colonies.changes import not_in_future
from redframe.work.roles import require
from redframe.work.to_json import to_json
from redframe.work.unit_of_work import UnitOfWork

BACK_DAYS = 120
"""So far back what stopped the laying still bears on the brood."""


@dataclass(frozen=True, slots=True)
class BroodView:
    """The calendar of a colony; `event_id` of what somebody said, which can be withdrawn."""

    state: BroodState
    event_id: UUID | None


@cache
def _options(kind: str) -> tuple[str, ...]:
    """The options that have such an effect, by the facts of the catalogue."""
    return tuple(one.id for one in default_catalogue().options if one.effect is not None and one.effect.kind == kind)


async def _stops(unit: UnitOfWork, colony_ids: Sequence[UUID]) -> list[store.BroodStop]:
    since = unit.today - timedelta(days=BACK_DAYS)
    return await store.brood_stops(
        unit.connection, colony_ids, since, _options("laying_break"), _options("brood_out")
    )  # fmt: skip


async def brood_records_of(
    unit: UnitOfWork, colony_ids: Sequence[UUID], recorded: Mapping[UUID, Recorded]
) -> Mapping[UUID, BroodRecord]:
    """What bears on the brood of each of these colonies; `recorded` has what visits saw."""
    stops: dict[UUID, list[Stop]] = defaultdict(list)
    for one in await _stops(unit, colony_ids):
        stops[one.colony_id].append(Stop(one.kind, one.on, one.release_on, one.source))
    laying: dict[UUID, list[date]] = defaultdict(list)
    cells: dict[UUID, list[CellsSeen]] = defaultdict(list)
    came: dict[UUID, list[QueenCame]] = defaultdict(list)
    if stops:
        since, stopped = unit.today - timedelta(days=BACK_DAYS), list(stops)
        async with together(unit.connection) as begin:
            of_laying = begin(store.laying_days(unit.connection, stopped, since))
            of_cells = begin(store.cells_seen(unit.connection, stopped, since))
            of_queens = begin(store.queens_came(unit.connection, stopped, since))
        for day in of_laying.result():
            laying[day.colony_id].append(day.on)
        for cell in of_cells.result():
            cells[cell.colony_id].append(CellsSeen(cell.on, cell.age))
        for queen in of_queens.result():
            came[queen.colony_id].append(QueenCame(queen.on, queen.is_mated))
    return {
        one: BroodRecord(stops[one], laying[one], recorded[one].visits, cells[one], came[one]) for one in colony_ids
    }


def in_drone_season(calendar: Calendar, day: date) -> bool:
    """Whether colonies raise drones on a day: while they build up and at their peak."""
    return calendar.phase(day) in ("build_up", "peak")


async def brood_view(
    unit: UnitOfWork, colony_id: UUID, recorded: Recorded, calendar: Calendar
) -> BroodView | None:  # fmt: skip
    """The brood calendar of a colony today, None where nothing stopped the laying lately."""
    record = (await brood_records_of(unit, [colony_id], {colony_id: recorded}))[colony_id]
    state = record.on(unit.today, drone_season=in_drone_season(calendar, unit.today))
    if state is None:
        return None
    said = [one for one in await _stops(unit, [colony_id]) if one.event_id is not None]
    event = next((one.event_id for one in said if (one.kind, one.on) == (state.stop.kind, state.stop.on)), None)
    return BroodView(state, event)


async def add_brood_event(unit: UnitOfWork, event_id: UUID, event: NewBroodEvent) -> None:
    """Record what stopped the laying of a colony.

    Raises InvalidInput naming `happened_on` or `release_on`, NotFound.
    """
    require(unit.who, "record")
    if not await unit.accept(event_id, "brood_event", to_json(event)):
        return
    colony = await colonies.colony_for_update(unit.connection, event.colony_id)
    not_in_future(unit, "happened_on", event.happened_on)
    if (unit.today - event.happened_on).days > BACK_DAYS:
        raise InvalidInput("happened_on", f"is more than {BACK_DAYS} days ago: no calendar counts from it now")
    if event.release_on is not None:
        if event.kind != "queen_caged":
            raise InvalidInput("release_on", "only a caged queen is set free", code="refused")
        if event.release_on < event.happened_on:
            raise InvalidInput("release_on", "she cannot be set free before she was caged", code="out_of_range")
    if not colony.is_living:
        raise InvalidInput("happened_on", f"colony {colony.label} is {colony.state}", code="refused")
    await store.add_brood_event(unit.connection, event_id, event)


async def withdraw_brood_event(unit: UnitOfWork, event_id: UUID, why: str) -> None:
    """Say that it was not so; what was said stays on record. Raises NotFound, Conflict when it was withdrawn before."""
    require(unit.who, "record")
    await store.brood_event(unit.connection, event_id)
    await store.withdraw_brood_event(unit.connection, event_id, why.strip())
