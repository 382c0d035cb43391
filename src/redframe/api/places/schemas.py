"""Keepers, apiaries and what their screens show."""

from __future__ import annotations

from datetime import date
from typing import Annotated
from uuid import UUID

from pydantic import AfterValidator, Field

from redframe.api.base import Name, Note, Output
from redframe.core.inputs import Input, printable
from redframe.core.policy.schemes import SchemeId
from redframe.core.sampling.method import Method, Scale
from redframe.core.sampling.plan import Why
from redframe.core.season.calendar import Phase
from redframe.core.status.advice import ApiaryAdvice
from redframe.core.status.status import Level
from redframe.core.treatments.states import CourseState
from redframe.store.colonies import ColonyOverview


class KeeperInput(Input):
    id: UUID
    name: Name
    phone: Annotated[str, Field(max_length=40), AfterValidator(printable)] = ""
    registration: Annotated[str, Field(max_length=40), AfterValidator(printable)] = ""


class Keeper(Output):
    id: UUID
    name: str
    phone: str
    registration: str
    version: int


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


class Apiary(Output):
    id: UUID
    name: str
    keeper_id: UUID
    keeper: str
    latitude: float
    longitude: float
    elevation_m: int
    access_note: str
    forage_note: str
    version: int


class ApiaryRow(Output):
    """An apiary in the list: how many of its living colonies stand where, the worst of them, and the age of that
    knowledge; `highest` in mites per 100 bees."""

    id: UUID
    name: str
    keeper_id: UUID
    keeper: str
    latitude: float
    longitude: float
    elevation_m: int
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
    worst: Level | None


class PlacesView(Output):
    today: date
    apiaries: list[ApiaryRow]
    keepers: list[Keeper]


class PhaseBand(Output):
    first: date
    last: date
    phase: Phase
    watch: float
    act: float
    urgent: float


class HiveBox(Output):
    id: UUID
    hive_type: str
    version: int
    position: int | None
    purpose: str | None
    box_id: UUID | None
    floor: str
    numbered_from: str
    divided_after: int | None
    frame_format: str | None
    frames: int | None
    since: date | None
    labels: list[str] | None
    left_label: str | None


class StripCount(Output):
    """A count on the axis of the scheme in force; null figures where it has no place there."""

    colony_id: UUID
    id: UUID
    method: Method
    taken_on: date
    mites: int | None
    bees_mean: float | None
    median: float | None
    low: float | None
    high: float | None
    converted: bool


class StripVisit(Output):
    colony_id: UUID
    visited_on: date


class StripCourse(Output):
    id: UUID
    colony_id: UUID
    option_id: str
    state: CourseState
    is_open: bool
    start_on: date
    placed_on: date | None
    ended_on: date | None
    honey_clear_on: date | None
    occupies_from: date
    occupies_to: date
    placings: list[date]


class ApiaryStatus(Output):
    """How an apiary stands: its level and why, whom to treat, which become watch for their neighbours; `enough`:
    colonies to count before it can be called clear."""

    scope: str
    level: Level
    reason: str
    treat: list[UUID]
    watch_too: list[UUID]
    counted: int
    colonies: int
    enough: int | None


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


class UrgentNeighbour(Output):
    """An apiary near another, `km` away, with how many of its colonies are urgent."""

    id: UUID
    name: str
    km: float
    urgent: int


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
    courses: list[StripCourse]
    phases: list[PhaseBand]
    first: date
    last: date
