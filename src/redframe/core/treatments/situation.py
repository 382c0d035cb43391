"""What the eligibility engine takes: the colony, the forecast and the policy on a day.

Whatever is missing is unknown, never "no". The names are those of the open calculator `eligibility`.
"""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from pydantic import Field, model_validator

from redframe.core.colonies.queens import QueenState
from redframe.core.errors import InvalidInput
from redframe.core.inputs import Input, IsoDate
from redframe.core.season.calendar import TreatmentSeason
from redframe.core.treatments.weather import Forecast
from redframe.core.visits.summary import BroodSeen, StrengthUnit

Outcome = Literal["worked", "partly", "failed"]
BroodEventType = Literal["caging", "removal", "swarm", "queen_caged", "queen_removed", "swarm_left"]
EVENTS = {"caging": "queen_caged", "removal": "queen_removed", "swarm": "swarm_left"}
"""The short names of the events that stop the laying, as the brood calendar calls them."""
Temperature = Annotated[float, Field(strict=True, allow_inf_nan=False, ge=-60, le=60)]


class StrengthFacts(Input):
    """Strength as it was recorded, nought for a hive found without bees; a seam counts as a frame of bees where only
    one of the two is known."""

    value: Annotated[float, Field(strict=True, allow_inf_nan=False, ge=0, le=60)]
    unit: StrengthUnit


class BroodEvent(Input):
    """Something that stopped the laying."""

    type: BroodEventType
    date: IsoDate


class PastTreatment(Input):
    """A treatment given before; `end` null while it is in the hive, `due_out` when it should come out."""

    option: str
    start: IsoDate
    end: IsoDate | None = None
    due_out: IsoDate | None = None
    outcome: Outcome | None = None


class HoldFact(Input):
    """A disease hold on the colony or its apiary."""

    kind: Literal["notifiable", "other"]
    name: str = "unnamed"
    until: IsoDate | None = None


class ColonyFacts(Input):
    """The colony as it is known to stand today. `brood_by_calendar`: that no brood is capped follows from what stopped
    the laying, and nobody has looked since."""

    strength: StrengthFacts | None = None
    brood_boxes: Annotated[int, Field(strict=True, ge=1, le=6)] = 1
    capped_worker_brood: BroodSeen = "unknown"
    brood_seen_on: IsoDate | None = None
    brood_event: BroodEvent | None = None
    brood_by_calendar: Annotated[bool, Field(strict=True)] = False
    queen: QueenState = "unknown"
    queen_since: IsoDate | None = None
    laying_since: IsoDate | None = None
    release_on: IsoDate | None = None
    eggs_seen_on: IsoDate | None = None
    supers_on: Annotated[bool, Field(strict=True)] | None = None
    supers_off_by: IsoDate | None = None
    fed: Annotated[bool, Field(strict=True)] | None = None
    fed_until: IsoDate | None = None
    last_treatments: list[PastTreatment] = []
    infestation_pct: Annotated[float, Field(strict=True, allow_inf_nan=False, ge=0, le=10_000)] | None = None
    counted_on: IsoDate | None = None
    holds: list[HoldFact] = []


class ForecastFacts(Input):
    """One value a day from `start`: daily maxima and minima in °C, rain in mm."""

    start: IsoDate
    tmax: list[Temperature]
    tmin: list[Temperature]
    rain_mm: list[Annotated[float, Field(strict=True, allow_inf_nan=False, ge=0, le=2000)]]

    @model_validator(mode="after")
    def _whole_days(self) -> ForecastFacts:
        for field in ("tmin", "rain_mm"):
            if len(getattr(self, field)) != len(self.tmax):
                raise InvalidInput(field, f"must have {len(self.tmax)} days, as tmax has")
        for index, (low, high) in enumerate(zip(self.tmin, self.tmax, strict=True)):
            if low > high:
                raise InvalidInput(f"tmin[{index}]", "minimum above maximum", code="out_of_range")
        return self

    def as_forecast(self) -> Forecast:
        """The forecast as the weather rules take it."""
        return Forecast(self.start, self.tmax, self.tmin, self.rain_mm)


class PolicyFacts(Input):
    """What the association, the label and the law allow here."""

    authorised: list[str] | None = None
    excluded_groups: list[str] = []
    prescription_needed: list[str] = []
    prescriber_recorded: Annotated[bool, Field(strict=True)] = False
    respirator_ok: Annotated[bool, Field(strict=True)] = False
    vapour_series: Annotated[bool, Field(strict=True)] = False
    trickle_repeat: Annotated[bool, Field(strict=True)] = False
    allow_oxalic_with_brood: Annotated[bool, Field(strict=True)] = False
    resistance: list[str] = []
    strict_rotation: Annotated[bool, Field(strict=True)] = False
    approach: Literal["counting_first", "calendar", "treatment_free"] = "counting_first"
    whole_apiary: Annotated[bool, Field(strict=True)] = False
    apiary_over: Annotated[bool, Field(strict=True)] = False
    threshold_pct: Annotated[float, Field(strict=True, allow_inf_nan=False, ge=0, le=100)] = 3.0
    winter_bee_date: IsoDate | None = None
    cold_date: IsoDate | None = None
    feed_start_by: IsoDate | None = None
    planned_supers_on: IsoDate | None = None
    treatment_year_start: Annotated[str, Field(pattern=r"^\d{2}-\d{2}$")] = "01-01"


class Situation(Input):
    """Everything the engine judges by. It has no clock: `today` is an argument."""

    today: IsoDate
    season_phase: TreatmentSeason
    colony: ColonyFacts
    forecast: ForecastFacts | None = None
    policy: PolicyFacts = PolicyFacts()

    @model_validator(mode="after")
    def _nothing_from_the_future(self) -> Situation:
        colony = self.colony
        for index, past in enumerate(colony.last_treatments):
            if past.start > self.today:
                raise InvalidInput(f"colony.last_treatments[{index}].start", "treatment start in the future")
            if past.end is not None and past.end < past.start:
                raise InvalidInput(f"colony.last_treatments[{index}].end", "the treatment ends before it starts")
        for field in ("counted_on", "brood_seen_on", "eggs_seen_on"):
            seen: date | None = getattr(colony, field)
            if seen is not None and seen > self.today:
                raise InvalidInput(f"colony.{field}", "lies in the future", code="out_of_range")
        return self
