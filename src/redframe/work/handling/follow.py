"""What became of handlings by the visits after them: each look, each comb that is followed, the outcome so far."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any
from uuid import UUID

from redframe.core.handling.options import handled_conditions
from redframe.core.handling.outcome import Look, Outcome, SignOnComb, cells_on, outcome_of
from redframe.store import handling as store
from redframe.store.database import together
from redframe.store.handling import CombFollowed, Handling, LookRow
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class LookSaid:
    """A later look and what it says against the beginning (None: a part of the combs only)."""

    visit_id: UUID
    on: date
    cells: float
    with_sign: int
    looked_at: int
    of: int | None
    outcome: Outcome | None


@dataclass(frozen=True, slots=True)
class CombPatient:
    """A comb that is followed: where it hangs, its sick cells as it began and when it was last looked at, the share of
    them that is cleared (None: not looked at since)."""

    frame_id: UUID
    colony_id: UUID | None
    label: str | None
    slot: int | None
    away: str | None
    cells_before: float
    cells_now: float | None
    looked_on: date | None
    cleared: float | None


@dataclass(frozen=True, slots=True)
class HandlingView:
    """A handling with its words, the looks since, the combs that it follows, its outcome (that of its end, else by the
    last look), and whether it is to be looked at again by now."""

    handling: Handling
    name: str
    option_name: str
    looks: list[LookSaid]
    combs: list[CombPatient]
    outcome: Outcome | None
    is_due: bool


async def followed(unit: UnitOfWork, handlings: Sequence[Handling], names: Mapping[str, str]) -> list[HandlingView]:
    """Handlings with what became of them; `names` of the conditions."""
    ids = [one.id for one in handlings]
    async with together(unit.connection) as begin:
        of_looks = begin(store.looks(unit.connection, ids))
        of_combs = begin(store.combs_followed(unit.connection, ids))
    rows: dict[UUID, list[LookRow]] = defaultdict(list)
    for row in of_looks.result():
        rows[row.handling_id].append(row)
    combs: dict[UUID, list[CombFollowed]] = defaultdict(list)
    for comb in of_combs.result():
        combs[comb.handling_id].append(comb)
    return [_view(one, rows[one.id], combs[one.id], names[one.condition], unit.today) for one in handlings]


def _view(
    handling: Handling, rows: Sequence[LookRow], combs: Sequence[CombFollowed], name: str, today: date
) -> HandlingView:
    handled = handled_conditions()[handling.condition]
    looks = looks_in(rows, handled.signs, len(handling.combs))
    said = [
        LookSaid(visit, one.on, one.cells, one.with_sign, one.looked_at, one.of, outcome_of(handling.cells, one))
        for visit, one in looks
    ]
    last = next((one.outcome for one in reversed(said) if one.outcome is not None), None)
    outcome = handling.outcome if handling.state == "ended" else last
    is_due = handling.state == "open" and today >= handling.recheck_from and not any(
        one.on >= handling.recheck_from for one in said
    )  # fmt: skip
    return HandlingView(
        handling, name, handled.options[handling.option].name, said, _patients(combs, rows, handled.signs), outcome,
        is_due,
    )  # fmt: skip


def looks_in(rows: Sequence[LookRow], signs: Sequence[str], combs: int) -> list[tuple[UUID, Look]]:
    """The looks in what later visits recorded; with combs that are followed, all of them that are looked at on one day
    are one look."""
    by_look: dict[Any, list[LookRow]] = defaultdict(list)
    for row in rows:
        by_look[row.visited_on if combs else row.visit_id].append(row)
    found = []
    for rows_of_look in by_look.values():
        # A comb that was looked at twice on a day counts once, as it was last.
        own = list({row.frame_id: row for row in rows_of_look}.values()) if combs else rows_of_look
        cells = [cells_on(_signs(row.signs), signs) for row in own if row.is_comb]
        looked_at: int
        of: int | None
        if combs:
            looked_at, of = len(own), combs
        else:
            looked_at, of = max(len(cells), own[0].combs_read or 0), own[0].brood_combs
        if looked_at:
            look = Look(own[0].visited_on, sum(cells), sum(one > 0 for one in cells), looked_at, of)
            found.append((own[0].visit_id, look))
    return found


def _patients(combs: Sequence[CombFollowed], rows: Sequence[LookRow], signs: Sequence[str]) -> list[CombPatient]:
    last = {row.frame_id: row for row in rows}
    found = []
    for comb in combs:
        before = cells_on(_signs(comb.signs), signs)
        row = last.get(comb.frame_id)
        now = cells_on(_signs(row.signs), signs) if row is not None else None
        cleared = None if now is None or before <= 0 else max(0.0, 1 - now / before)
        found.append(
            CombPatient(
                comb.frame_id, comb.colony_id, comb.label, comb.slot, comb.away, before, now,
                row.visited_on if row is not None else None, cleared,
            )
        )  # fmt: skip
    return found


def _signs(recorded: Sequence[Mapping[str, Any]]) -> list[SignOnComb]:
    return [SignOnComb(one["sign"], one.get("extent"), one.get("number")) for one in recorded]
