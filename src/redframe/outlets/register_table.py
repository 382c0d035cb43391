"""The register of treatments as CSV: every entry in the order of its number, in UTF-8, days as YYYY-MM-DD.

A line that begins carries all its fields; an amendment stands in a row of its own for each field, with the old value
and the new one; a void stays where it was and is named.
"""

from __future__ import annotations

import csv
import io
from dataclasses import fields

from redframe.core.registers.register import Line, Value
from redframe.work.registers.read import RegisterView

FIELDS = tuple(each.name for each in fields(Line))
COLUMNS = (
    "number", "keeper_number", "entry", "of_number", "entered_at", "entered_by", "why", "changed", "old", "new",
    "is_void_now", "lacking_now", *FIELDS,
)  # fmt: skip
BEGINS_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def register_csv(view: RegisterView) -> str:
    """The entries of the lines of a register."""
    out = io.StringIO(newline="")
    table = csv.DictWriter(out, COLUMNS, restval="")
    table.writeheader()
    in_order = sorted(
        ((entry, one.line) for one in view.lines for entry in one.entries), key=lambda pair: pair[0].number
    )
    for entry, line in in_order:
        row: dict[str, Value] = {
            "number": entry.number, "keeper_number": entry.keeper_number, "entry": entry.kind, "of_number": line.number,
            "entered_at": entry.entered_at.isoformat(timespec="seconds"), "entered_by": safe(entry.by_name),
            "why": safe(entry.why),
        }  # fmt: skip
        if entry.line is not None:
            row |= {name: safe(getattr(entry.line, name)) for name in FIELDS}
            row |= {"is_void_now": "yes" if line.is_void else "", "lacking_now": " ".join(line.missing)}
        table.writerows(
            [{**row, "changed": one.field, "old": safe(one.old), "new": safe(one.new)} for one in entry.changes]
            or [row]
        )
    return out.getvalue()


def safe(value: Value) -> Value:
    """What a table program would take for a formula becomes text."""
    return f"'{value}" if isinstance(value, str) and value.startswith(BEGINS_FORMULA) else value
