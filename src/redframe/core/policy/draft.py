"""What people write of a policy before it is judged: the dates of their year, own levels, scoops they counted."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated

from pydantic import AfterValidator, Field

from redframe.core.inputs import Input, printable
from redframe.core.policy.schemes import Levels, SchemeId
from redframe.core.season.calendar import Calendar, Phase

MonthDay = Annotated[str, Field(max_length=20), AfterValidator(printable)]
"""A day of any year, `MM-DD`."""
DraftLevels = Mapping[str, Mapping[str, Mapping[str, float]]]
"""Levels by scheme and phase as they are written, for the phases that differ: `{"flat_2": {"peak": {"watch": 1, "act":
2, "urgent": 4}}}`."""
OwnLevels = Mapping[SchemeId, Mapping[Phase, Levels]]
"""The same once they were read."""


class CalendarDates(Input):
    """The days on which the phases of a place start (None: it has no such phase) and its bees begin to raise winter
    bees; `lead_days`: so long before those days mites must be down."""

    dormant: MonthDay | None = None
    build_up: MonthDay | None = None
    peak: MonthDay | None = None
    decline: MonthDay | None = None
    winter_bees: MonthDay | None = None
    lead_days: Annotated[int, Field(strict=True)] = 42

    def read(self, field: str = "calendar") -> Calendar:
        """The calendar that these days make. Raises InvalidInput naming the day that does not exist, or `calendar`."""
        return Calendar.parse(self.model_dump(), field)


class CountedScoop(Input):
    """A scoop whose bees were counted by hand."""

    ml: Annotated[float, Field(ge=5, le=1000, allow_inf_nan=False)]
    bees: Annotated[int, Field(strict=True, ge=1, le=5000)]
