"""Winter losses as CSV: a row a winter, then a row a group of it (treatment, size, apiary) and a row a cause; shares in
percent with their 95 % intervals."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator

from redframe.core.deadouts.losses import LossGroup
from redframe.outlets.register_table import safe
from redframe.work.deadouts.winters import Winter, Winters

COLUMNS = (
    "winter_from", "winter_until", "by", "group", "went_in", "lost", "share_pct", "low_pct", "high_pct", "apiaries",
    "clustering",
)  # fmt: skip


def winters_csv(winters: Winters) -> str:
    """The figures of every winter and of its groups."""
    out = io.StringIO(newline="")
    table = csv.DictWriter(out, COLUMNS, restval="")
    table.writeheader()
    for winter in winters.winters:
        days = {"winter_from": winter.since.isoformat(), "winter_until": winter.until.isoformat()}
        table.writerows(days | row for row in _rows(winter, winters))
    return out.getvalue()


def _rows(winter: Winter, winters: Winters) -> Iterator[dict[str, object]]:
    losses = winter.losses
    yield _group("all", "", losses.whole)
    for by, groups in (
        ("treatment", losses.by_treatment), ("size", losses.by_size), ("apiary", losses.by_apiary),
    ):  # fmt: skip
        yield from (_group(by, str(safe(one.key)), one) for one in groups)
    for one in losses.by_cause:
        yield {
            "by": "cause", "group": winters.names.get(one.cause, one.cause), "went_in": losses.examined,
            "lost": one.lost, "share_pct": _pct(one.share), "low_pct": _pct(one.low), "high_pct": _pct(one.high),
        }  # fmt: skip


def _group(by: str, name: str, one: LossGroup) -> dict[str, object]:
    return {
        "by": by, "group": name, "went_in": one.of, "lost": one.lost, "share_pct": _pct(one.share),
        "low_pct": _pct(one.low), "high_pct": _pct(one.high), "apiaries": one.apiaries,
        "clustering": f"{one.clustering:.2f}",
    }  # fmt: skip


def _pct(share: float | None) -> str:
    return "" if share is None else f"{100 * share:.1f}"
