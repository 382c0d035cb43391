"""Count weeks: who is invited, and what was counted in their days."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from uuid import UUID

from redframe.core.campaigns.records import WeekApiary, WeekCount, WeekKeeper
from redframe.core.sampling.method import JarMethod
from redframe.core.sampling.reading import Recovery
from redframe.store.database import Connection, columns, many, one, run, scalar
from redframe.store.errors import Conflict


@dataclass(frozen=True, slots=True)
class CountWeek:
    """A count week; `half_width` is the wanted half-width of each apiary's mean, by which its colonies are drawn."""

    id: UUID
    name: str
    first_on: date
    last_on: date
    method: JarMethod
    half_width: float
    protocol: str
    opened_by: str
    version: int
    invited: int


@dataclass(frozen=True, slots=True)
class WashAndSugar:
    """A colony washed and rolled in the same days."""

    washed: int
    wash_bees: float
    wash_recovery: Recovery
    rolled: int
    sugar_bees: float


@dataclass(frozen=True, slots=True)
class WeekTreatment:
    """Courses of an option placed in these days: how many colonies, and of how many courses a count has said what."""

    option_id: str
    colonies: int
    worked: int
    partly: int
    failed: int
    cannot_tell: int
    not_verified: int


@dataclass(frozen=True, slots=True)
class NamedColony:
    """A living colony by its apiary and label."""

    id: UUID
    label: str
    apiary: str


@dataclass(frozen=True, slots=True)
class Rate:
    """A bare figure, mites per 100 bees."""

    rate: float


@dataclass(frozen=True, slots=True)
class CoarseApiary:
    """An apiary of a week without its place: its cells, and the day and mites per 100 bees of each colony counted."""

    apiary_id: UUID
    keeper_id: UUID
    single_row: int
    single_column: int
    double_row: int
    double_column: int
    days: list[date]
    rates: list[float]


async def count_weeks(connection: Connection) -> list[CountWeek]:
    """All count weeks, the latest first."""
    return await many(connection, CountWeek, "count_weeks", id=None)


async def count_week(connection: Connection, week_id: UUID) -> CountWeek:
    """One count week. Raises NotFound."""
    return await one(connection, CountWeek, "count_weeks", what="count week", id=week_id)


async def overlaps(connection: Connection, week_id: UUID, first_on: date, last_on: date) -> bool:
    """Whether another count week has one of these days."""
    return int(await scalar(connection, "week_overlaps", id=week_id, first_on=first_on, last_on=last_on)) > 0


@dataclass(frozen=True, slots=True)
class CountWeekDetails:
    """What can be amended of a count week; `half_width` of the apiary means that it aims at, in mites per 100 bees."""

    name: str
    first_on: date
    last_on: date
    method: JarMethod
    half_width: float
    protocol: str


async def add_count_week(connection: Connection, week_id: UUID, details: CountWeekDetails) -> None:
    """Add a count week."""
    await run(connection, "add_count_week", id=week_id, **columns(details))


async def amend_count_week(connection: Connection, week_id: UUID, version: int, details: CountWeekDetails) -> None:
    """Amend a count week. Raises Conflict when it has changed since `version`."""
    if await run(connection, "amend_count_week", id=week_id, version=version, **columns(details)) == 0:
        raise Conflict("this count week was changed by somebody else meanwhile")


async def invite_keepers(connection: Connection, week_id: UUID, keepers: Sequence[UUID]) -> None:
    """Invite these keepers and no others."""
    await run(connection, "invite_keepers", week_id=week_id, keepers=list(keepers))


async def week_keepers(connection: Connection, week_id: UUID) -> list[WeekKeeper]:
    """Who is invited."""
    return await many(connection, WeekKeeper, "week_keepers", week_id=week_id)


async def week_apiaries(connection: Connection, week_id: UUID) -> list[WeekApiary]:
    """The apiaries of those invited, of those that the person may see."""
    return await many(connection, WeekApiary, "week_apiaries", week_id=week_id)


async def week_counts(connection: Connection, week_id: UUID, first_on: date, last_on: date) -> list[WeekCount]:
    """The count of each colony of those invited between two days."""
    return await many(connection, WeekCount, "week_counts", week_id=week_id, first_on=first_on, last_on=last_on)


async def week_treatments(connection: Connection, week_id: UUID, since: date, until: date) -> list[WeekTreatment]:
    """Courses of those invited that were placed between two days, the commonest option first."""
    return await many(connection, WeekTreatment, "week_treatments", week_id=week_id, since=since, until=until)


async def wash_and_sugar(connection: Connection, first_on: date, last_on: date) -> list[WashAndSugar]:
    """Colonies washed and rolled in these days."""
    return await many(connection, WashAndSugar, "wash_and_sugar", first_on=first_on, last_on=last_on)


async def apiary_rates_between(connection: Connection, first_on: date, last_on: date) -> list[float]:
    """The apiaries' mean rates as bare figures, lowest first; none where fewer than three keepers counted."""
    return [
        row.rate for row in await many(connection, Rate, "apiary_rates_between", first_on=first_on, last_on=last_on)
    ]


async def week_coarsely(connection: Connection, week_id: UUID) -> list[CoarseApiary]:
    """All apiaries of a week without their places, for whoever may see the week."""
    return await many(connection, CoarseApiary, "week_coarsely", week_id=week_id)


async def note_reminder(connection: Connection, week_id: UUID, keeper_id: UUID, at: datetime) -> None:
    """A keeper was reminded."""
    await run(connection, "note_reminder", week_id=week_id, keeper_id=keeper_id, at=at)


async def colonies_by_name(connection: Connection, week_id: UUID) -> list[NamedColony]:
    """Living colonies of those invited, by apiary and label."""
    return await many(connection, NamedColony, "colonies_by_name", week_id=week_id)
