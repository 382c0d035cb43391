"""What works here as CSV: a row an option over all apiaries, then a row an apiary; shares killed in percent, with
numbers and intervals with each."""

from __future__ import annotations

import csv
import io

from redframe.core.treatments.catalogue import default_catalogue
from redframe.outlets.register_table import safe
from redframe.work.treatments.what_works import WhatWorks

COLUMNS = (
    "option", "active", "group", "apiary", "courses", "apiaries", "worked", "partly", "failed", "cannot_tell",
    "killed_pct", "low_pct", "high_pct", "own_pct", "resistance",
)  # fmt: skip


def what_works_csv(found: WhatWorks) -> str:
    """The figures of every option and of each apiary in which it was given."""
    out = io.StringIO(newline="")
    table = csv.DictWriter(out, COLUMNS, restval="")
    table.writeheader()
    for one in found.options:
        option = default_catalogue().option(one.option_id)
        named = {"option": option.name, "active": option.active, "group": one.group}
        table.writerow(
            named
            | {
                "courses": one.courses, "apiaries": one.apiaries, "worked": one.worked, "partly": one.partly,
                "failed": one.failed, "cannot_tell": one.cannot_tell, "killed_pct": _pct(one.pct),
                "low_pct": _pct(one.low_pct), "high_pct": _pct(one.high_pct), "resistance": one.resistance,
            }
        )  # fmt: skip
        table.writerows(
            named
            | {
                "apiary": safe(found.apiaries.get(each.apiary_id, "")), "courses": each.courses,
                "killed_pct": _pct(each.shrunk_pct), "low_pct": _pct(each.low_pct), "high_pct": _pct(each.high_pct),
                "own_pct": _pct(each.own_pct),
            }
            for each in one.by_apiary
        )  # fmt: skip
    return out.getvalue()


def _pct(value: float | None) -> str:
    return "" if value is None else f"{value:.1f}"
