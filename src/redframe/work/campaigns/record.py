"""Count weeks: opened, entered (bench, phone, CSV), followed, and read together without giving a place away."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from typing import Protocol
from uuid import UUID, uuid5

from redframe.core.campaigns.records import WeekKeeper
from redframe.core.errors import CoreError, InvalidInput
from redframe.core.sampling.jar import JarSample
from redframe.store import campaigns as store
from redframe.store.association_forecast import defer_job
from redframe.store.campaigns import CountWeek, CountWeekDetails
from redframe.store.database import Identity, columns
from redframe.store.errors import StoreError
from redframe.work.campaigns.read import _invited
from redframe.work.roles import require
from redframe.work.sampling.record import NewCount, record_count
from redframe.work.unit_of_work import Services, UnitOfWork

REMIND = "remind_keepers"


class MailService(Protocol):
    """What sends messages."""

    def send(self, to: str, subject: str, text: str, at: datetime) -> None:
        """Send a message."""


async def open_week(
    unit: UnitOfWork, week_id: UUID, details: CountWeekDetails, keepers: Sequence[UUID] | None
) -> CountWeek:
    """Open a count week once; all keepers are invited where none are named.

    Raises InvalidInput for days out of order or that another week has, and for an unknown keeper.
    """
    require(unit.who, "organise")
    await _check_days(unit, week_id, details.first_on, details.last_on)
    invited = await _invited(unit, keepers)
    if await unit.accept(week_id, "count_week", {**columns(details), "keepers": invited}):
        await store.add_count_week(unit.connection, week_id, details)
        await store.invite_keepers(unit.connection, week_id, invited)
    return await store.count_week(unit.connection, week_id)


async def amend_week(
    unit: UnitOfWork, week_id: UUID, version: int, details: CountWeekDetails, keepers: Sequence[UUID] | None
) -> CountWeek:
    """Amend a count week. Raises NotFound, Conflict when it has changed since `version`, and as `open_week`."""
    require(unit.who, "organise")
    await store.count_week(unit.connection, week_id)
    await _check_days(unit, week_id, details.first_on, details.last_on)
    await store.amend_count_week(unit.connection, week_id, version, details)
    await store.invite_keepers(unit.connection, week_id, await _invited(unit, keepers))
    return await store.count_week(unit.connection, week_id)


async def _check_days(unit: UnitOfWork, week_id: UUID, first_on: date, last_on: date) -> None:
    if last_on < first_on:
        raise InvalidInput("last_on", "lies before the first day", code="out_of_range")
    if (last_on - first_on).days > 20:
        raise InvalidInput("last_on", "a count week has three weeks at the most", code="out_of_range")
    if await store.overlaps(unit.connection, week_id, first_on, last_on):
        raise InvalidInput("first_on", "another count week has some of these days", code="taken")


COLUMN_OF = {"volume_ml": "ml", "mass_g": "g", "shakes": "mites", "taken_at": "date"}
"""The column of a table of counts in which a field of a count stands, where the names differ."""


@dataclass(frozen=True, slots=True)
class CountRow:
    """A line of a table of counts as it was written: `line` in the file, and the jar."""

    line: int
    apiary: str
    colony: str
    taken_on: date
    jar: JarSample


@dataclass(frozen=True, slots=True)
class RowReport:
    """What becomes of a line: taken, with its day, its mites and what they come to per 100 bees (None: bees not
    recorded), or not and why (`field` names the column)."""

    line: int
    apiary: str
    colony: str
    taken: bool
    field: str
    why: str
    taken_on: date | None
    mites: int | None
    rate: float | None


def refused_row(line: int, apiary: str, colony: str, field: str, why: str) -> RowReport:
    """A line that is not taken, and why."""
    return RowReport(line, apiary, colony, taken=False, field=field, why=why, taken_on=None, mites=None, rate=None)


async def import_counts(unit: UnitOfWork, week_id: UUID, rows: Sequence[CountRow], *, take: bool) -> list[RowReport]:
    """Take lines of a table as counts of a week, or (without `take`) say what would be taken and what not, and why.

    Each line is a write of its own that is accepted once, however often the file is sent.
    """
    require(unit.who, "organise")
    week = await store.count_week(unit.connection, week_id)
    named: dict[tuple[str, str], UUID] = {}
    for colony in await store.colonies_by_name(unit.connection, week_id):
        named[colony.apiary.casefold(), colony.label.casefold()] = colony.id
    seen: set[tuple[UUID, date]] = set()
    reports = []
    for row in rows:
        reports.append(await _take(unit, week, row, named, seen, take=take))
    return reports


async def _take(
    unit: UnitOfWork, week: CountWeek, row: CountRow, named: dict[tuple[str, str], UUID],
    seen: set[tuple[UUID, date]], *, take: bool,
) -> RowReport:  # fmt: skip
    def refused(field: str, why: str) -> RowReport:
        return refused_row(row.line, row.apiary, row.colony, field, why)

    colony = named.get((row.apiary.casefold(), row.colony.casefold()))
    if colony is None:
        return refused("colony", "there is no such living colony in that apiary")
    if not week.first_on <= row.taken_on <= week.last_on:
        return refused("date", f"is not a day of this week ({_said(week.first_on)} to {_said(week.last_on)})")
    if (colony, row.taken_on) in seen:
        return refused("colony", "stands twice in this table")
    jar = row.jar
    content = (colony, row.taken_on, jar.method, jar.shakes, jar.known_by, jar.bees, jar.volume_ml, jar.mass_g)
    new = NewCount(uuid5(week.id, repr(content)), colony, jar.taken_at, jar)
    try:
        async with unit.connection.transaction(force_rollback=not take):
            meaning = await record_count(unit, new)
    except InvalidInput as error:
        return refused(COLUMN_OF.get(error.field.split("[")[0], error.field), error.message)
    except (CoreError, StoreError) as error:
        return refused("", str(error))
    seen.add((colony, row.taken_on))
    rate = meaning.reading.median if meaning.reading else None
    return RowReport(
        row.line,
        row.apiary,
        row.colony,
        taken=True,
        field="",
        why="",
        taken_on=row.taken_on,
        mites=sum(jar.shakes),
        rate=rate,
    )


def _said(day: date) -> str:
    return f"{day.day} {day.strftime('%B %Y')}"


def noon(unit: UnitOfWork, day: date) -> datetime:
    """Noon of a day at the place: what is known only by its day was taken then."""
    return min(datetime.combine(day, time(12), tzinfo=unit.zone), unit.now)


async def ask_reminders(unit: UnitOfWork, week_id: UUID) -> int:
    """Ask for reminders to those invited who have not counted and have an address; how many will be written to."""
    require(unit.who, "organise")
    week = await store.count_week(unit.connection, week_id)
    if unit.today > week.last_on:
        raise InvalidInput("week", "is over: there is nothing to remind of", code="refused")
    waiting = await _waiting(unit, week)
    if waiting:
        args = {"association_id": unit.who.association_id, "week_id": week_id, "timezone": unit.who.timezone}
        await defer_job(unit.connection, REMIND, args)
    return len(waiting)


async def _waiting(unit: UnitOfWork, week: CountWeek) -> list[WeekKeeper]:
    counts = await store.week_counts(unit.connection, week.id, week.first_on, week.last_on)
    counted = {one.apiary_id for one in counts}
    apiaries = await store.week_apiaries(unit.connection, week.id)
    done = {one.keeper_id for one in apiaries if one.id in counted}
    keeping = {one.keeper_id for one in apiaries if one.colonies > 0}
    lately = unit.now - timedelta(hours=20)
    return [
        one
        for one in await store.week_keepers(unit.connection, week.id)
        if one.id in keeping - done and one.email and (one.reminded_at is None or one.reminded_at < lately)
    ]


async def send_reminders(services: Services, mail: MailService, who: Identity, week_id: UUID) -> None:
    """Write to those who have not counted yet, each once a day at the most.

    Noted letter by letter: a mail service that gives way half through does not write to the first ones again.
    """
    async with services.unit_of_work(who, wide=True) as unit:
        week = await store.count_week(unit.connection, week_id)
        waiting = await _waiting(unit, week)
    for keeper in waiting:
        async with services.unit_of_work(who, wide=True) as unit:
            mail.send(keeper.email or "", f"Count week: {week.name}", _letter(week, keeper), unit.now)
            await store.note_reminder(unit.connection, week.id, keeper.id, unit.now)


def _letter(week: CountWeek, keeper: WeekKeeper) -> str:
    last = _said(week.last_on)
    protocol = f"\n{week.protocol}\n" if week.protocol else ""
    return (
        f'Dear {keeper.name},\n\nthe count week "{week.name}" is on until {last}. None of your colonies has been '
        f"counted in it yet.\n{protocol}\nOpen Red Frame, choose your apiary on the bench, and count: about ten "
        "minutes a colony.\nYour places are shown to nobody; the map is coarse.\n"
    )
