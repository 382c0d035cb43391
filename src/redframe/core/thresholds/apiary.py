"""The worst of an apiary: what its colonies' standings say together, unknown shown and never counted as clear."""

from __future__ import annotations

from collections.abc import Iterable

from redframe.core.thresholds.standing import Level

WORST_FIRST: tuple[Level, ...] = ("urgent", "act", "unknown", "watch", "clear")


def worst(levels: Iterable[Level]) -> Level | None:
    """The level that needs attention first: urgent, act, then unknown before watch and clear. None for no colony."""
    present = set(levels)
    return next((level for level in WORST_FIRST if level in present), None)
