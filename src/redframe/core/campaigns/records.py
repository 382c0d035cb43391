"""What the days of a count week hold: who is invited with which apiaries, the counts, and what they are judged by."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime
from uuid import UUID

from redframe.core.policy.schemes import Levels, SchemeId
from redframe.core.sampling.method import JarMethod
from redframe.core.sampling.reading import Recovery, mean_recovery
from redframe.core.season.calendar import Calendar, Phase


@dataclass(frozen=True, slots=True)
class WeekKeeper:
    """A keeper who is invited; `email` is that of the keeper's own account, where there is one."""

    id: UUID
    name: str
    reminders: int
    reminded_at: datetime | None
    email: str | None


@dataclass(frozen=True, slots=True)
class WeekApiary:
    """An apiary of somebody invited, with its living colonies."""

    id: UUID
    name: str
    keeper_id: UUID
    latitude: float
    longitude: float
    colonies: int


@dataclass(frozen=True, slots=True)
class WeekCount:
    """The count of a colony in these days; figures in mites per 100 bees, None where the bees were not recorded.
    `treated`: a treatment was in it within 28 days before."""

    id: UUID
    colony_id: UUID
    label: str
    apiary_id: UUID
    method: JarMethod
    taken_on: date
    shakes: list[int]
    bees_known_by: str
    mites: int | None
    bees_mean: float | None
    recovery: Recovery | None
    median: float | None
    low: float | None
    high: float | None
    treated: bool

    @property
    def exposed(self) -> tuple[int, float]:
        """Mites counted, and those expected for one mite a bee; only of a count whose bees are known."""
        assert self.mites is not None and self.bees_mean is not None and self.recovery is not None
        return self.mites, self.bees_mean * mean_recovery(self.recovery)


@dataclass(frozen=True, slots=True)
class WeekLevels:
    """What the counts of a week are judged by: the calendar, the levels in force (mites per 100 bees), and those of
    every scheme as the association has them."""

    calendar: Calendar
    per_100: Mapping[Phase, Levels]
    of_scheme: Mapping[SchemeId, Mapping[Phase, Levels]]

    def on(self, day: date) -> Levels:
        """The levels in force on a day."""
        return self.per_100[self.calendar.phase(day)]

    def is_over(self, count: WeekCount) -> bool:
        """Whether a count is at or over the act level of its day."""
        return count.median is not None and count.median >= self.on(count.taken_on).act
