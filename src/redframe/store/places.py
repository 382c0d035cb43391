"""Keepers and apiaries."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, Literal
from uuid import UUID

from redframe.core.status.status import Level
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
    """An apiary with how its living colonies stand; `highest` in mites per 100 bees, `due` what is due there as it was
    kept. Of those that are forecast how many are over today, and by when the next is. `key` puts it among others."""

    id: UUID
    name: str
    keeper_id: UUID
    keeper: str
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
    due: list[dict[str, Any]]
    worst: Level | None
    key: str
    forecast_of: int
    forecast_over: int
    over_next_by: date | None


@dataclass(frozen=True, slots=True)
class ApiaryPlace:
    """An apiary where it stands; `worst` is the level that needs attention first, `highest` in mites per 100 bees;
    `old`: the oldest of the latest counts says nothing any more."""

    id: UUID
    name: str
    keeper_id: UUID
    keeper: str
    latitude: float
    longitude: float
    elevation_m: int
    colonies: int
    oldest_count_on: date | None
    newest_count_on: date | None
    highest: float | None
    worst: Level | None
    old: bool


@dataclass(frozen=True, slots=True)
class ApiaryName:
    """An apiary and whose it is."""

    id: UUID
    name: str
    keeper_id: UUID


@dataclass(frozen=True, slots=True)
class Totals:
    """How many apiaries, living colonies and keepers the person may see."""

    apiaries: int
    colonies: int
    keepers: int


ApiaryOrder = Literal["by", "name", "level", "highest", "forecast", "counted"]
"""By the day on which work must begin; by name; by what needs attention, the highest figure, the forecast or the oldest
count first."""


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
class Fit:
    """Which apiaries are wanted: those whose name or keeper has some letters (`find`, in small letters), those of a
    level."""

    find: str = ""
    level: Level | None = None


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


async def apiaries_page(
    connection: Connection, today: date, sort: ApiaryOrder, fit: Fit, after: tuple[str, UUID], most: int
) -> list[ApiaryOverview]:
    """Apiaries that fit, in an order, behind a key and an apiary."""
    page = {"today": today, "after_key": after[0], "after_id": after[1], "most": most}
    if sort == "by" and fit == Fit():
        return await many(connection, ApiaryOverview, "apiaries_in_order_of_work", **page)
    return await many(connection, ApiaryOverview, "apiaries_page", sort=sort, **columns(fit), **page)


async def apiary_places(connection: Connection, fit: Fit, today: date, longest: int) -> list[ApiaryPlace]:
    """Every apiary that fits, by name; a count tells for at most so many days."""
    return await many(connection, ApiaryPlace, "apiary_places", **columns(fit), today=today, longest=longest)


async def apiary_names(connection: Connection) -> list[ApiaryName]:
    """Every apiary with its keeper."""
    return await many(connection, ApiaryName, "apiary_names")


async def totals(connection: Connection) -> Totals:
    """How much there is in all."""
    return await one(connection, Totals, "place_totals")


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
