"""The season of a place, dated once by its association and free of hemisphere.

A phase runs from its start day to the next start, round the year; days are counted on the 366-day leap year so
that 29 February is an ordinary day. `pre_winter` is laid over the phases for `lead_days` before the day on which
the first winter bees are laid: the load must be down before they are reared, not when they emerge.
"""

from __future__ import annotations

import re
from bisect import bisect_right
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cached_property, lru_cache
from typing import Any, Literal

from redframe.core.errors import InvalidInput

Phase = Literal["dormant", "build_up", "peak", "decline", "pre_winter"]
BasePhase = Literal["dormant", "build_up", "peak", "decline"]
TreatmentSeason = Literal["winter_cluster", "spring_build", "swarm", "flow", "post_harvest", "autumn"]

BASE_PHASES: tuple[BasePhase, ...] = ("dormant", "build_up", "peak", "decline")
YEAR = 366
MARCH_1 = 60
EARLY_SPRING_DAYS = 40
POST_HARVEST_PAST_WINTER_BEES = 21
POST_HARVEST_WITHOUT_WINTER_BEES = 42
_MONTH_DAY = re.compile(r"\d{2}-\d{2}")


_LEAP_YEAR = [date(2000, 1, 1) + timedelta(days=index) for index in range(YEAR)]
_INDEX = {(day.month, day.day): index for index, day in enumerate(_LEAP_YEAR)}


def day_index(day: date) -> int:
    """Day of the leap year, 0 for 1 January; 1 March is 60 in every year."""
    return _INDEX[day.month, day.day]


def _month_day(field: str, value: object) -> int | None:
    if value is None:
        return None
    if not isinstance(value, str) or not _MONTH_DAY.fullmatch(value):
        raise InvalidInput(field, "write the day as MM-DD, or null", allowed="MM-DD")
    try:
        return day_index(date.fromisoformat(f"2000-{value}"))
    except ValueError:
        raise InvalidInput(field, f"{value} is not a day of the year", allowed="MM-DD") from None


@dataclass(frozen=True)
class Calendar:
    """Start days (index in the leap year) of the phases that the place has, and of the winter bees."""

    starts: tuple[tuple[int, BasePhase], ...]
    winter_bees: int | None
    lead_days: int

    @classmethod
    def parse(cls, data: object, field: str = "calendar") -> Calendar:
        """Read `{dormant, build_up, peak, decline, winter_bees: "MM-DD" or null, lead_days}`.

        Raises InvalidInput naming `calendar.dormant` and so on for a day that does not exist, and `calendar`
        for none, equal or mis-ordered starts.
        """
        if not isinstance(data, Mapping):
            raise InvalidInput(field, "must be an object with the days on which the phases start")
        known: Mapping[str, Any] = data
        starts: list[tuple[int, BasePhase]] = []
        for phase in BASE_PHASES:
            index = _month_day(f"{field}.{phase}", known.get(phase))
            if index is not None:
                starts.append((index, phase))
        if not starts:
            raise InvalidInput(field, "give the start of at least one phase", code="missing")
        days = [index for index, _ in starts]
        turns = sum(1 for a, b in zip(days, days[1:] + days[:1], strict=True) if b <= a)
        if len(set(days)) != len(days) or (len(days) > 1 and turns != 1):
            raise InvalidInput(field, "phases must follow one another: dormant, build-up, peak, decline")
        winter_bees = _month_day(f"{field}.winter_bees", known.get("winter_bees"))
        lead = known.get("lead_days", 42)
        if isinstance(lead, bool) or not isinstance(lead, int) or not 0 <= lead <= 120:
            raise InvalidInput(f"{field}.lead_days", "must be a whole number of days, 0 to 120", allowed="0 to 120")
        unknown = sorted(set(known) - {*BASE_PHASES, "winter_bees", "lead_days"})
        if unknown:
            raise InvalidInput(f"{field}.{unknown[0]}", "is not a field of a calendar", code="extra_forbidden")
        return cls(tuple(sorted(starts)), winter_bees, lead)

    @cached_property
    def _start_days(self) -> list[int]:
        return [index for index, _ in self.starts]

    def base_phase(self, day: date) -> BasePhase:
        """The phase in force without the pre-winter window laid over it."""
        return self._base_phase_at(day_index(day))

    def _base_phase_at(self, index: int) -> BasePhase:
        return self.starts[bisect_right(self._start_days, index) - 1][1]

    @cached_property
    def _year(self) -> tuple[Phase, ...]:
        """The phase of each day of the leap year: levels ask for it day by day."""
        return tuple(self._phase_at(index) for index in range(YEAR))

    def _phase_at(self, index: int) -> Phase:
        if self.winter_bees is not None and 1 <= (self.winter_bees - index) % YEAR <= self.lead_days:
            return "pre_winter"
        return self._base_phase_at(index)

    @cached_property
    def _turns(self) -> tuple[int, ...]:
        """The days of the leap year on which another phase may be in force than on the day before: 1 March always,
        for in most years a turn on 29 February falls on it."""
        return tuple(index for index in range(YEAR) if self._year[index] != self._year[index - 1] or index == MARCH_1)

    def phase(self, day: date) -> Phase:
        """The phase in force on a day."""
        return self._year[day_index(day)]

    def phase_spans(self, first: date, last: date) -> list[tuple[date, date, Phase]]:
        """Runs of one phase between two days, both included: (first day, last day, phase)."""
        spans: list[tuple[date, date, Phase]] = []
        day = first
        while day <= last:
            following = day + timedelta(days=1)
            end = min([next_day(following, index) - timedelta(days=1) for index in self._turns] + [last])
            phase = self.phase(day)
            start = spans.pop()[0] if spans and spans[-1][2] == phase else day
            spans.append((start, end, phase))
            day = end + timedelta(days=1)
        return spans

    def _days_since(self, start: int, day: date) -> int:
        return (day_index(day) - start) % YEAR

    def winter_bee_date(self, today: date) -> date | None:
        """Winter-bee date of the running season: it stays in the past until the dormant phase (build-up where
        there is none) begins, and rolls to the next year from then on. None where the place has none."""
        return None if self.winter_bees is None else self.in_running_season(today, self.winter_bees)

    def in_running_season(self, today: date, index: int) -> date:
        """The day of the running season with a leap-year index, gone by or still to come: seasons begin with the
        dormant phase (with build-up where there is none)."""
        starts = {phase: start for start, phase in self.starts}
        return next_day(latest_day(today, starts.get("dormant", starts.get("build_up", self.starts[0][0]))), index)

    def treatment_season(self, day: date, honey_off: int | None = None) -> TreatmentSeason:
        """The season in the words of the treatment catalogue. `honey_off` is the day (index) on which the
        association takes honey off; without it, the start of the pre-winter window, else of decline."""
        base = self.base_phase(day)
        starts = {phase: index for index, phase in self.starts}
        if base == "dormant":
            return "winter_cluster"
        if base == "build_up":
            return "spring_build" if self._days_since(starts["build_up"], day) < EARLY_SPRING_DAYS else "swarm"
        if honey_off is None:
            if self.winter_bees is not None:
                honey_off = (self.winter_bees - self.lead_days) % YEAR
            else:
                honey_off = starts.get("decline", starts.get("peak", 0))
        if self.winter_bees is not None:
            length = (self.winter_bees + POST_HARVEST_PAST_WINTER_BEES - honey_off) % YEAR
        else:
            length = POST_HARVEST_WITHOUT_WINTER_BEES
        summer_start = starts.get("peak", starts.get("decline", self.starts[0][0]))
        if self._days_since(summer_start, day) < (honey_off - summer_start) % YEAR:
            return "flow"
        return "post_harvest" if self._days_since(honey_off, day) < length else "autumn"


def _in_year(index: int, year: int) -> date:
    model = date(2000, 1, 1) + timedelta(days=index)
    leap = year % 4 == 0 and (year % 100 != 0 or year % 400 == 0)
    return date(year, model.month, 28 if (model.month, model.day) == (2, 29) and not leap else model.day)


def latest_day(today: date, index: int) -> date:
    """The latest day on or before today with the given leap-year index (29 February falls back to the 28th)."""
    this_year = _in_year(index, today.year)
    return this_year if this_year <= today else _in_year(index, today.year - 1)


def next_day(today: date, index: int) -> date:
    """The first day on or after today with the given leap-year index."""
    this_year = _in_year(index, today.year)
    return this_year if this_year >= today else _in_year(index, today.year + 1)


def year_around(day: date, index: int, years_back: int = 0) -> tuple[date, date]:
    """The year that turns on a leap-year index and holds `day`: its first day (or that of so many years before), and
    the first day of the next."""
    following = next_day(day + timedelta(days=1), index)
    return _in_year(index, max(1, following.year - 1 - years_back)), following


@lru_cache(maxsize=1024)
def month_day_index(value: str, field: str = "day") -> int:
    """Leap-year index of an `MM-DD` day; raises InvalidInput for a day that does not exist."""
    index = _month_day(field, value)
    if index is None:
        raise InvalidInput(field, "give a day as MM-DD", code="missing")
    return index
