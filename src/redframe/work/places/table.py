"""Apiaries from a table: each with its keeper, who is added where unknown, and its colonies."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID, uuid4, uuid5

from redframe.core.errors import CoreError, InvalidInput
from redframe.core.names import look_of
from redframe.store import colonies
from redframe.store import places as store
from redframe.store.errors import StoreError
from redframe.store.places import ApiaryDetails, NewKeeper
from redframe.work.colonies.record import NewColony, add_colony
from redframe.work.places.record import add_apiary, add_keeper
from redframe.work.roles import require
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class ApiaryRow:
    """A line of a table of apiaries: `line` in the file, degrees, metres, and the labels of its colonies."""

    line: int
    apiary: str
    keeper: str
    latitude: float
    longitude: float
    elevation_m: int
    colonies: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class ApiaryReport:
    """What becomes of a line: taken with so many colonies, its keeper a new one or known, or not and why (`field` names
    the column)."""

    line: int
    apiary: str
    taken: bool
    field: str
    why: str
    keeper: str
    new_keeper: bool
    colonies: int


def refused_apiary(line: int, apiary: str, field: str, why: str) -> ApiaryReport:
    """A line that is not taken, and why."""
    return ApiaryReport(line, apiary, taken=False, field=field, why=why, keeper="", new_keeper=False, colonies=0)


async def take_apiaries(unit: UnitOfWork, rows: Sequence[ApiaryRow], *, take: bool) -> list[ApiaryReport]:
    """Take lines of a table as apiaries, or (without `take`) say what would be taken and what not, and why.

    Each line is taken as a whole or not at all. An apiary that its keeper has already is left as it is; colonies that
    are missing there are added, so that the same file can be sent again.
    """
    require(unit.who, "keep_keepers")
    known = _Known(
        {look_of(one.name): one.id for one in await store.keepers(unit.connection)},
        {(one.keeper_id, look_of(one.name)): one.id for one in await store.apiary_names(unit.connection)},
    )
    seen: set[tuple[str, str]] = set()
    reports = []
    for row in rows:
        key = (look_of(row.keeper), look_of(row.apiary))
        if key in seen:
            reports.append(refused_apiary(row.line, row.apiary, "apiary", "stands twice in this table"))
            continue
        seen.add(key)
        reports.append(await _take(unit, row, known, take=take))
    return reports


@dataclass(frozen=True, slots=True)
class _Known:
    """Keepers by their names, and apiaries by keeper and name."""

    keepers: dict[str, UUID]
    apiaries: dict[tuple[UUID, str], UUID]


COLUMN_OF = {"name": "apiary", "keeper_id": "keeper", "label": "colonies"}
"""The column in which a field stands, where the names differ."""


async def _take(unit: UnitOfWork, row: ApiaryRow, known: _Known, *, take: bool) -> ApiaryReport:
    keeper = known.keepers.get(look_of(row.keeper))
    try:
        async with unit.connection.transaction(force_rollback=not take):
            keeper_id, added = await _add(unit, row, keeper, known)
    except InvalidInput as error:
        return refused_apiary(row.line, row.apiary, COLUMN_OF.get(error.field, error.field), error.message)
    except (CoreError, StoreError) as error:
        return refused_apiary(row.line, row.apiary, "", str(error))
    if take:
        known.keepers[look_of(row.keeper)] = keeper_id
    return ApiaryReport(
        row.line, row.apiary, taken=True, field="", why="", keeper=row.keeper, new_keeper=keeper is None, colonies=added
    )


async def _add(unit: UnitOfWork, row: ApiaryRow, keeper: UUID | None, known: _Known) -> tuple[UUID, int]:
    """Add what is missing of a line; its keeper, and how many colonies were added."""
    if keeper is None:
        keeper = uuid5(unit.who.association_id, f"keeper {look_of(row.keeper)}")
        await add_keeper(unit, keeper, NewKeeper(row.keeper))
    apiary = known.apiaries.get((keeper, look_of(row.apiary)))
    there: set[str] = set()
    if apiary is None:
        apiary = uuid5(keeper, f"apiary {look_of(row.apiary)}")
        await add_apiary(unit, apiary, keeper, ApiaryDetails(row.apiary, row.latitude, row.longitude, row.elevation_m))
    else:
        found = await colonies.colonies_of_apiary(unit.connection, apiary, unit.today)
        there = {look_of(one.label) for one in found if one.is_living}
    missing = [label for label in row.colonies if look_of(label) not in there]
    for label in missing:
        await add_colony(unit, NewColony(uuid4(), apiary, label, unit.today))
    return keeper, len(missing)
