"""Why a colony was treated, as the register says it: a count, the calendar, or an order."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Literal

from redframe.core.said import Params

WhyCode = Literal["treated_on_count", "treated_under_level", "treated_by_calendar", "treated_on_order"]
COUNT_HOLDS_DAYS = 28
"""So long a count is a reason to treat."""


@dataclass(frozen=True, slots=True)
class TreatedFor:
    """Why: the count (`mites_per_100` adult bees, against the act level of that day) or the order's reference."""

    code: WhyCode
    mites_per_100: float | None = None
    counted_on: date | None = None
    act_level: float | None = None
    order: str = ""

    @property
    def params(self) -> Params:
        """What goes into its sentence."""
        given = {
            "per_100": self.mites_per_100, "on": self.counted_on, "level": self.act_level, "order": self.order,
        }  # fmt: skip
        return {name: value for name, value in given.items() if value is not None}


def treated_for(
    mites_per_100: float | None, counted_on: date | None, act_level: float | None, day: date, order: str
) -> TreatedFor:
    """Why a course that is decided on `day` is given; an order goes before a count, and a count before the calendar."""
    if order.strip():
        return TreatedFor("treated_on_order", order=order.strip())
    if mites_per_100 is None or counted_on is None or act_level is None or (day - counted_on).days > COUNT_HOLDS_DAYS:
        return TreatedFor("treated_by_calendar")
    over = mites_per_100 >= act_level
    return TreatedFor("treated_on_count" if over else "treated_under_level", mites_per_100, counted_on, act_level)
