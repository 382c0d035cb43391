"""A forecast as it is asked for from outside: counts, calendar, events, how far; and what it answers."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Annotated, Literal

import numpy as np
from pydantic import BeforeValidator, Discriminator, Field, Tag

from redframe.core.errors import InvalidInput
from redframe.core.forecast.ensemble import fit
from redframe.core.forecast.events import DroneCut, Event, LayingBreak, Reinvasion, Split, Treat
from redframe.core.forecast.projection import Band, Crossing, bands, crossing, danger_from, project
from redframe.core.forecast.seen import CountSeen
from redframe.core.inputs import Bees, Input, IsoDate, Mites
from redframe.core.sampling.bees import MEASURE_CV, BeesInSample
from redframe.core.sampling.reading import Recovery
from redframe.core.season.given import GivenCalendar

MOST_SPAN_DAYS = 800
Share = Annotated[float, Field(strict=True, allow_inf_nan=False, ge=0, le=1)]
Days = Annotated[int, Field(strict=True, ge=1, le=400)]

METHODS: dict[str, Recovery] = {
    "wash": "wash_shakes",
    "wash_one_shake": "wash_one_shake",
    "sugar": "sugar_roll",
    "co2": "co2_roll",
}


class GivenCount(Input):
    """A count of mites on bees; the bees measured (`volume`) or `counted`."""

    date: IsoDate
    mites: Mites
    bees: Bees
    method: Literal["wash", "wash_one_shake", "sugar", "co2"] = "wash"
    bees_from: Literal["volume", "counted"] = "volume"

    def seen(self) -> CountSeen:
        """The count as the ensemble takes it."""
        cv = MEASURE_CV["volume_level"] if self.bees_from == "volume" else 0.0
        return CountSeen(self.date, self.mites, BeesInSample(float(self.bees), cv), METHODS[self.method])


class TreatInput(Input):
    """A treatment that kills these shares a day of the mites on bees and in cells."""

    type: Literal["treat"]
    start: IsoDate
    days: Days
    kp: Share
    kc: Share

    def event(self) -> Event:
        """As the model takes it."""
        return Treat(self.start, self.days, self.kp, self.kc)


class LayingBreakInput(Input):
    """No laying for some days."""

    type: Literal["laying_break"]
    start: IsoDate
    days: Days

    def event(self) -> Event:
        """As the model takes it."""
        return LayingBreak(self.start, self.days)


class SplitInput(Input):
    """Shares of bees and brood that leave, and the days without laying after it."""

    type: Literal["split"]
    date: IsoDate
    bees: Share
    brood: Share
    gap: Annotated[int, Field(strict=True, ge=0, le=400)]

    def event(self) -> Event:
        """As the model takes it."""
        return Split(self.date, self.bees, self.brood, self.gap)


class DroneCutInput(Input):
    """A share of the capped drone brood cut out."""

    type: Literal["drone_cut"]
    date: IsoDate
    share: Share

    def event(self) -> Event:
        """As the model takes it."""
        return DroneCut(self.date, self.share)


class ReinvasionInput(Input):
    """Mites arriving a day."""

    type: Literal["reinvasion"]
    start: IsoDate
    days: Days
    mites_per_day: Annotated[float, Field(strict=True, allow_inf_nan=False, ge=0, le=10_000)]

    def event(self) -> Event:
        """As the model takes it."""
        return Reinvasion(self.start, self.days, self.mites_per_day)


def _kind(value: object) -> object:
    return value.get("type") if isinstance(value, Mapping) else getattr(value, "type", None)


def _known_kind(value: object) -> object:
    if _kind(value) not in KINDS:
        raise InvalidInput("type", "is not an event of the forecast", allowed=", ".join(KINDS))
    return value


KINDS = ("treat", "laying_break", "split", "drone_cut", "reinvasion")
EventInput = Annotated[
    Annotated[TreatInput, Tag("[treat]")]
    | Annotated[LayingBreakInput, Tag("[laying_break]")]
    | Annotated[SplitInput, Tag("[split]")]
    | Annotated[DroneCutInput, Tag("[drone_cut]")]
    | Annotated[ReinvasionInput, Tag("[reinvasion]")],
    Discriminator(lambda value: f"[{_kind(value)}]"),
    BeforeValidator(_known_kind),
]
"""An event by its `type`; the tags are in brackets so that the path of a bad field does not name them."""


class ForecastInput(Input):
    """Counts of one colony, the calendar of its place, what was and will be done, how far, and a threshold."""

    counts: Annotated[list[GivenCount], Field(min_length=1, max_length=60)]
    calendar: GivenCalendar
    events: Annotated[list[EventInput], Field(max_length=60)] = []
    horizon_days: Annotated[int, Field(strict=True, ge=1, le=120)]
    threshold_per_100: Annotated[float, Field(strict=True, allow_inf_nan=False, gt=0, le=1000)]
    random_state: Annotated[int, Field(strict=True, ge=0, le=2**32 - 1)] = 0


@dataclass(frozen=True, slots=True)
class ForecastAnswer:
    """Bands from the day of the last count on (mites per 100 bees as a wash of nurse bees would read them, the true
    infestation), when the threshold is crossed, from when the colony counts as in danger, and how many members agree:
    `members` were tried, of which `effective` carry the weight; `counts_disagree` when none explains the counts well.
    """

    days: Sequence[Band]
    crossing: Crossing
    danger_from: date | None
    members: int
    effective: float
    counts_disagree: bool


def forecast(given: ForecastInput) -> ForecastAnswer:
    """The forecast that was asked for; the same `random_state` gives the same answer.

    Raises InvalidInput("counts") when the counts lie more than 800 days apart.
    """
    counts = [count.seen() for count in given.counts]
    days = [count.taken_on for count in counts]
    if (max(days) - min(days)).days > MOST_SPAN_DAYS:
        raise InvalidInput("counts", f"lie more than {MOST_SPAN_DAYS} days apart", code="out_of_range")
    events = [one.event() for one in given.events]
    fitted = fit(counts, given.calendar, events, np.random.default_rng(given.random_state))
    projection = project(fitted, given.horizon_days, events)
    return ForecastAnswer(
        bands(projection),
        crossing(projection, given.threshold_per_100),
        danger_from(projection),
        fitted.drawn,
        fitted.effective,
        fitted.disagree,
    )
