"""The register of treatments: one line a placing, never rewritten; what changes is entered after it, with its reason.

A line is what is known of a placing now. The register itself is a list of entries: the line as it was first entered,
amendments of single fields (old and new value), and a void. What the entries add up to is the line, so that nothing is
lost and nothing is unexplained. See docs/methods/register.md.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, fields
from datetime import date
from typing import Any, Literal
from uuid import UUID

EntryKind = Literal["line", "added", "amended", "void", "restored"]
"""A line that begins; what was not known when it began; a correction; a placing that is no longer on record, and one
that is again."""
Value = str | float | bool | None
LineField = Literal[
    "keeper", "registration", "apiary", "latitude", "longitude", "colony", "treated_for", "option", "active", "product",
    "form", "strength", "lot", "expires_on", "quantity", "unit", "placed_on", "ended_on", "withdrawal_days",
    "honey_clear_on", "supers", "applied_by", "supplier", "bought_on", "receipt", "prescriber", "disposal", "adverse",
    "result", "exceptions", "source",
]  # fmt: skip
PLACE: frozenset[str] = frozenset({"keeper", "registration", "apiary", "latitude", "longitude", "colony"})
"""Where and whose it was on the day that it was entered: it stays, whatever the hive is called later."""
SAID_ONCE: frozenset[str] = frozenset({"prescriber"})
"""Taken from the policy: it may be added later, and stays when the policy names another."""
LEAST_YEARS = 5


@dataclass(frozen=True, slots=True)
class Line:
    """One placing in one colony, as far as it is known. Days are ISO text, for the line is kept as it is printed;
    `latitude` and `longitude` in degrees, `quantity` in `unit`; "" and None: not known."""

    keeper: str
    registration: str
    apiary: str
    latitude: float
    longitude: float
    colony: str
    treated_for: str
    option: str
    active: str
    product: str
    form: str
    strength: str
    lot: str
    expires_on: str | None
    quantity: float | None
    unit: str
    placed_on: str
    ended_on: str | None
    withdrawal_days: int
    honey_clear_on: str | None
    supers: str
    applied_by: str
    supplier: str
    bought_on: str | None
    receipt: str
    prescriber: str
    disposal: str
    adverse: str
    result: str
    exceptions: str
    source: str


MANDATORY: tuple[LineField, ...] = (
    "registration", "treated_for", "product", "lot", "expires_on", "quantity", "applied_by", "supplier", "bought_on",
    "receipt",
)  # fmt: skip
"""What every line needs; keeper, place, colony, active ingredient and day are there from the first."""


@dataclass(frozen=True, slots=True)
class FieldChange:
    """A field of a line that has another value now."""

    field: LineField
    old: Value
    new: Value


def missing_of(line: Line, *, removal_required: bool, needs_prescription: bool) -> list[LineField]:
    """The mandatory fields that a line still lacks: such a line is kept, listed, and never printed as complete.

    Disposal is asked for once what was in the hive is out of it.
    """
    empty = (None, "")
    found = [name for name in MANDATORY if getattr(line, name) in empty]
    if removal_required and line.ended_on is not None and not line.disposal:
        found.append("disposal")
    if needs_prescription and not line.prescriber:
        found.append("prescriber")
    return found


def changes_between(kept: Line, now: Line) -> list[FieldChange]:
    """What an amendment must say, field by field. Whose and where it was stays as it was entered."""
    found = []
    for each in fields(Line):
        old, new = getattr(kept, each.name), getattr(now, each.name)
        if each.name in PLACE or (each.name in SAID_ONCE and old not in (None, "")):
            continue
        if old != new:
            found.append(FieldChange(each.name, old, new))  # type: ignore[arg-type]
    return found


@dataclass(frozen=True, slots=True)
class Entry:
    """One numbered entry: a new line in full, or what has changed of one."""

    line_id: UUID
    kind: EntryKind
    line: Line | None
    changes: Sequence[FieldChange]


@dataclass(frozen=True, slots=True)
class KeptLine:
    """A line as the entries have it so far."""

    line_id: UUID
    line: Line
    is_void: bool


def entries_for(kept: Sequence[KeptLine], now: Mapping[UUID, Line]) -> list[Entry]:
    """The entries that bring the register to what is known now: new lines, what was added or amended, and a void for a
    placing that is no longer on record (one that comes back is restored). None where nothing has changed."""
    found = []
    by_id = {one.line_id: one for one in kept}
    for line_id, line in now.items():
        before = by_id.get(line_id)
        if before is None:
            found.append(Entry(line_id, "line", line, ()))
            continue
        changes = changes_between(before.line, line)
        if before.is_void:
            found.append(Entry(line_id, "restored", None, changes))
        elif changes:
            adds = all(one.old in (None, "") for one in changes)
            found.append(Entry(line_id, "added" if adds else "amended", None, changes))
    found += [Entry(one.line_id, "void", None, ()) for one in kept if one.line_id not in now and not one.is_void]
    return found


def amended(line: Line, changes: Sequence[FieldChange]) -> Line:
    """A line after an amendment."""
    now: dict[str, Any] = {one.field: one.new for one in changes}
    return Line(**{**asdict(line), **now})


def folded(entries: Sequence[Entry]) -> dict[UUID, KeptLine]:
    """What entries add up to, in the order of their numbers."""
    found: dict[UUID, KeptLine] = {}
    for entry in entries:
        if entry.kind == "line":
            assert entry.line is not None
            found[entry.line_id] = KeptLine(entry.line_id, entry.line, False)
            continue
        before = found[entry.line_id]
        found[entry.line_id] = KeptLine(entry.line_id, amended(before.line, entry.changes), entry.kind == "void")
    return found


def kept_until(last_day: date, years: int) -> date:
    """The day up to which a line is kept at the least: so many years after its last day, never fewer than five."""
    years = max(years, LEAST_YEARS)
    try:
        return last_day.replace(year=last_day.year + years)
    except ValueError:
        # 29 February: the law's year is over on the day after.
        return date(last_day.year + years, 3, 1)


def line_as_plain(line: Line) -> dict[str, Any]:
    """A line as JSON values."""
    return asdict(line)
