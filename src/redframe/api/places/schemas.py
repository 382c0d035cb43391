"""Keepers, apiaries and what their screens show."""

from __future__ import annotations

from datetime import date
from typing import Annotated
from uuid import UUID

from pydantic import AfterValidator, Field

from redframe.api.base import Name, Note, Output
from redframe.core.inputs import Input, printable
from redframe.core.policy.schemes import SchemeId
from redframe.core.sampling.method import Scale
from redframe.core.sampling.plan import Why
from redframe.core.status.advice import ApiaryAdvice
from redframe.core.status.apiary import ApiaryStatus
from redframe.core.status.status import Level
from redframe.store.colonies import ColonyOverview
from redframe.store.hives import HiveBox
from redframe.store.places import Apiary, UrgentNeighbour
from redframe.store.visits import StripVisit
from redframe.work.forecast.outlook import ColonyOutlook
from redframe.work.places.read import DrawnCourse, PhaseBand
from redframe.work.places.table import ApiaryReport
from redframe.work.planning.apiaries import ApiaryDue
from redframe.work.sampling.strips import StripCount


class KeeperInput(Input):
    id: UUID
    name: Name
    phone: Annotated[str, Field(max_length=40), AfterValidator(printable)] = ""
    registration: Annotated[str, Field(max_length=40), AfterValidator(printable)] = ""


class ApiaryFields(Input):
    name: Name
    latitude: Annotated[float, Field(ge=-90, le=90, allow_inf_nan=False)]
    longitude: Annotated[float, Field(ge=-180, le=180, allow_inf_nan=False)]
    elevation_m: Annotated[int, Field(ge=-430, le=6000)] = 0
    access_note: Note = ""
    forage_note: Note = ""


class ApiaryInput(ApiaryFields):
    id: UUID
    keeper_id: UUID


class ApiaryRow(Output):
    """An apiary in the list: how many of its living colonies stand where, the worst of them, and the age of that
    knowledge; `highest` in mites per 100 bees. Of those that are forecast how many are over now, and by when the next
    is. `old`: the oldest of the latest counts says nothing any more. `work`: what is due there, if anything is."""

    id: UUID
    name: str
    keeper_id: UUID
    keeper: str
    colonies: int
    urgent: int
    act: int
    watch: int
    clear: int
    unknown: int
    oldest_count_on: date | None
    newest_count_on: date | None
    in_course: int
    highest: float | None
    forecast_of: int
    forecast_over: int
    over_next_by: date | None
    worst: Level | None
    old: bool
    work: ApiaryDue | None


class ApiariesTaken(Output):
    """What was taken of a table of apiaries (or would be), and what not and why."""

    took: bool
    taken: int
    refused: int
    rows: list[ApiaryReport]


class PlacesView(Output):
    """A page of the apiaries that fit; `next`: where the next one begins (`after`), null where this is the last. The
    totals are of all that the person may see."""

    today: date
    apiaries: list[ApiaryRow]
    next: str | None
    total_apiaries: int
    total_colonies: int
    total_keepers: int


class ApiaryEstimate(Output):
    """Mean of the colonies' rates per 100 bees with its 95 % interval (null for one colony), and the spread between
    them: `variance_ratio` would be 1 if only chance were at work."""

    counted: int
    colonies: int
    mean: float
    low: float | None
    high: float | None
    mu: float
    kappa: float
    kappa_fitted: bool
    variance_ratio: float | None


class ChosenColony(Output):
    """A colony to count and why; one chosen `targeted` enters its own level, never the apiary's mean."""

    colony_id: UUID
    why: Why
    targeted: bool


class SamplingPlan(Output):
    """How many colonies to count for the mean of the apiary and to find one that is over, and which."""

    apiary_id: UUID
    apiary: str
    today: date
    colonies: int
    half_width: float
    cv: float
    for_mean: int
    over: int
    to_find: int | None
    found_with: float
    sensitivity: float
    chosen: list[ChosenColony]


class ApiaryView(Output):
    today: date
    apiary: Apiary
    status: ApiaryStatus
    advice: ApiaryAdvice
    urgent_near: list[UrgentNeighbour]
    estimate: ApiaryEstimate | None
    p_mean_act: float | None
    expected_over: float | None
    scheme: SchemeId
    scope: str
    has_own_policy: bool
    axis: Scale
    colonies: list[ColonyOverview]
    hives: list[HiveBox]
    counts: list[StripCount]
    visits: list[StripVisit]
    queens_seen_today: list[UUID]
    courses: list[DrawnCourse]
    phases: list[PhaseBand]
    forecasts: list[ColonyOutlook]
    first: date
    last: date
