"""The register read: lines that fit, each with what was entered of it since, and the whole of it for paper."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.registers.register import kept_until
from redframe.store import registers as store
from redframe.store.registers import RegisterCount, RegisterEntry, RegisterLine, Wanted
from redframe.work.policy.read import policy_in_force
from redframe.work.unit_of_work import UnitOfWork

PAGE = 50
MOST_PRINTED, MOST_EXPORTED = 2_000, 20_000
"""Lines that one document, and one table, take."""


@dataclass(frozen=True, slots=True)
class LineView:
    """A line with the entries that made it what it is, latest first, and the day up to which it is kept at least."""

    line: RegisterLine
    entries: Sequence[RegisterEntry]
    kept_until: date


@dataclass(frozen=True, slots=True)
class RegisterView:
    """A page of the register, the latest number first; `next`: the number behind which the next page begins."""

    count: RegisterCount
    lines: Sequence[LineView]
    next: int | None
    years: int


async def register_page(unit: UnitOfWork, wanted: Wanted, before: int | None = None) -> RegisterView:
    """A page of the lines that fit."""
    found = await store.lines(unit.connection, wanted, before, PAGE + 1)
    return await _view(unit, wanted, found[:PAGE], more=len(found) > PAGE)


async def whole_register(unit: UnitOfWork, wanted: Wanted, most: int = MOST_PRINTED) -> RegisterView:
    """All lines that fit, the first number first; where they are more than `most`, the latest (`next` says so)."""
    found = await store.lines(unit.connection, wanted, None, most + 1)
    view = await _view(unit, wanted, found[:most], more=len(found) > most)
    return RegisterView(view.count, list(reversed(view.lines)), view.next, view.years)


async def _view(unit: UnitOfWork, wanted: Wanted, found: Sequence[RegisterLine], *, more: bool) -> RegisterView:
    years = (await policy_in_force(unit)).treatment_rules.register_years
    entries: dict[UUID, list[RegisterEntry]] = {one.id: [] for one in found}
    for entry in await store.entries(unit.connection, [one.id for one in found]):
        entries[entry.line_id].append(entry)
    return RegisterView(
        await store.count(unit.connection, wanted),
        [LineView(one, entries[one.id], kept_until(one.last_on, years)) for one in found],
        found[-1].number if more and found else None,
        years,
    )
