"""The words of what a trace goes through: colonies by their label of the day, combs in store, places elsewhere."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date

from redframe.core.tracing.movements import Stay
from redframe.store.tracing import StayRow

IN_STORE = "a comb in store"
EXTRACTOR = "the extractor of that day"
UNKNOWN = "an unknown source"


class Names:
    """Looks up what a place of a trace was called on a day."""

    def __init__(self, rows: Sequence[StayRow], elsewhere: Mapping[str, str]) -> None:
        self.rows = {str(one.colony_id): one for one in rows}
        self._elsewhere = elsewhere
        self._apiaries = {str(one.apiary_id): one.apiary for one in rows}

    def of(self, place: str, on: date) -> str:
        """The name of a place of a trace."""
        row = self.rows.get(place)
        if row is not None:
            return _until(on, row.renumbered_on, row.labels) or row.label
        if place.startswith("frame "):
            return IN_STORE
        if place.startswith("extractor "):
            return EXTRACTOR
        return self._elsewhere.get(place, "") or UNKNOWN

    def apiary(self, place: str, on: date) -> str:
        """The apiary at which a colony stood; "" for what is no colony."""
        row = self.rows.get(place)
        if row is None:
            return ""
        before = _until(on, row.moved_on, [str(one) for one in row.moved_from])
        return row.apiary if before is None else self._apiaries.get(before, "another apiary")

    def is_outside(self, place: str) -> bool:
        """Whether it is a place elsewhere, known or not."""
        return place.startswith(("elsewhere ", "unknown "))


def _until(on: date, days: Sequence[date], values: Sequence[str]) -> str | None:
    """What held on a day, of values that each held until the day of its change."""
    return next((value for day, value in zip(days, values, strict=True) if day > on), None)


def stays_of(rows: Sequence[StayRow]) -> list[Stay]:
    """Where each colony stood from when to when, by its moves."""
    found = []
    for row in rows:
        begins = [row.began_on, *row.moved_on]
        ends = [*row.moved_on, row.ended_on]
        for apiary, since, until in zip([*row.moved_from, row.apiary_id], begins, ends, strict=True):
            found.append(Stay(str(row.colony_id), str(apiary), since, until))
    return found
