"""Keepers and apiaries."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.store.database import Connection, columns, many, one, run
from redframe.store.errors import Conflict


@dataclass(frozen=True, slots=True)
class Keeper:
    """Somebody who keeps bees."""

    id: UUID
    name: str
    phone: str
    registration: str
    version: int


@dataclass(frozen=True, slots=True)
class ApiaryOverview:
    """An apiary with how its living colonies stand on a day; `highest` in mites per 100 bees. Of those that are
    forecast how many are over then and in three weeks more, and by when the next is."""

    id: UUID
    name: str
    keeper_id: UUID
    keeper: str
    latitude: float
    longitude: float
    elevation_m: int
    colonies: int
    urgent: int
    act: int
    watch: int
    clear: int
    unknown: int
    oldest_count_on: date | None
    newest_count_on: date | None
    in_course: int
    highest: float | None
    forecast_of: int
    forecast_over: int
    over_in_three_weeks: int
    over_next_by: date | None


@dataclass(frozen=True, slots=True)
class UrgentNeighbour:
    """An apiary near another, `km` away, with how many of its colonies are urgent."""

    id: UUID
    name: str
    km: float
    urgent: int


@dataclass(frozen=True, slots=True)
class Apiary:
    """One apiary with its notes."""

    id: UUID
    name: str
    keeper_id: UUID
    keeper: str
    latitude: float
    longitude: float
    elevation_m: int
    access_note: str
    forage_note: str
    version: int


async def keepers(connection: Connection) -> list[Keeper]:
    """The keepers whom the person may see."""
    return await many(connection, Keeper, "keepers")


@dataclass(frozen=True, slots=True)
class NewKeeper:
    """A keeper as somebody enters one."""

    name: str
    phone: str = ""
    registration: str = ""


@dataclass(frozen=True, slots=True)
class ApiaryDetails:
    """What can be amended of an apiary; degrees, metres."""

    name: str
    latitude: float
    longitude: float
    elevation_m: int = 0
    access_note: str = ""
    forage_note: str = ""


async def add_keeper(connection: Connection, keeper_id: UUID, keeper: NewKeeper) -> None:
    """Add a keeper."""
    await run(connection, "add_keeper", id=keeper_id, **columns(keeper))


async def apiaries_overview(connection: Connection, today: date) -> list[ApiaryOverview]:
    """Every apiary that the person may see, by name."""
    return await many(connection, ApiaryOverview, "apiaries_overview", today=today)


async def apiary(connection: Connection, apiary_id: UUID) -> Apiary:
    """One apiary. Raises NotFound."""
    return await one(connection, Apiary, "apiary", what="apiary", id=apiary_id)


async def urgent_neighbours(connection: Connection, apiary_id: UUID, km: float) -> list[UrgentNeighbour]:
    """Apiaries within `km` kilometres that hold urgent colonies, the nearest first, as far as the person may see."""
    return await many(connection, UrgentNeighbour, "urgent_neighbours", id=apiary_id, km=km)


async def add_apiary(connection: Connection, apiary_id: UUID, keeper_id: UUID, details: ApiaryDetails) -> None:
    """Add an apiary."""
    await run(connection, "add_apiary", id=apiary_id, keeper_id=keeper_id, **columns(details))


async def amend_apiary(connection: Connection, apiary_id: UUID, version: int, details: ApiaryDetails) -> None:
    """Amend an apiary. Raises Conflict when it has changed since version `version`."""
    if await run(connection, "amend_apiary", id=apiary_id, version=version, **columns(details)) == 0:
        raise Conflict("this apiary was changed by somebody else meanwhile")


@dataclass(frozen=True, slots=True)
class ColonyPlace:
    """The apiary in which a colony stands."""

    id: UUID
    apiary_id: UUID


async def apiaries_of(connection: Connection, colony_ids: Sequence[UUID]) -> dict[UUID, UUID]:
    """The apiary of each colony."""
    rows = await many(connection, ColonyPlace, "apiaries_of", colony_ids=list(colony_ids))
    return {row.id: row.apiary_id for row in rows}
