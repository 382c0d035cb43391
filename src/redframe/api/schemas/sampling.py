"""Counts and what they mean."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import AwareDatetime, Field

from redframe.api.schemas.base import BeesKnown, Note, Output, Why
from redframe.core.inputs import Input
from redframe.core.sampling.wash import BroodState, PlaceOfBees, QueenSafe
from redframe.core.thresholds.calendar import Phase
from redframe.core.thresholds.schools import SchoolId
from redframe.core.thresholds.standing import Level


class JarInput(Input):
    """How the bees of a jar were measured: counted or by photo (`bees`), a scoop (`volume_ml`), a scale (`mass_g`)."""

    bees_known_by: BeesKnown
    bees: Annotated[int, Field(ge=1, le=5000)] | None = None
    volume_ml: Annotated[float, Field(ge=5, le=1000, allow_inf_nan=False)] | None = None
    mass_g: Annotated[float, Field(ge=1, le=500, allow_inf_nan=False)] | None = None
    place_of_bees: PlaceOfBees = "brood_frame"


class CountFields(JarInput):
    colony_id: UUID
    taken_at: AwareDatetime
    shakes: Annotated[list[Annotated[int, Field(strict=True, ge=0, le=30_000)]], Field(min_length=1, max_length=8)]
    brood_state: BroodState = "not_seen"
    queen_safe: QueenSafe = "not_looked"
    note: Note = ""


class CountInput(CountFields):
    id: UUID


class CountAmendment(CountFields):
    """The whole count as it should read, and why."""

    reason: Why


class RulerInput(JarInput):
    mites_from: Annotated[int, Field(ge=0, le=30_000)] = 0
    mites_to: Annotated[int, Field(ge=0, le=30_000)] = 30


class RulerMark(Output):
    mites: int
    median: float
    low: float
    high: float
    p_act: float
    level: Level
    advice: Literal["treat", "second_sample", "come_back"]


class Ruler(Output):
    """What each number of mites in a jar would mean, after one shake and after more; rates per 100 bees."""

    phase: Phase
    school: SchoolId
    watch: float
    act: float
    urgent: float
    bees_mean: float
    bees_low: float
    bees_high: float
    incomplete_share: float
    one_shake: list[RulerMark]
    more_shakes: list[RulerMark]


class JarRuler(Output):
    """The ruler; null where the bees are not known."""

    ruler: Ruler | None


class Count(Output):
    id: UUID
    colony_id: UUID
    taken_at: datetime
    taken_on: date
    shakes: list[int]
    bees_known_by: str
    bees: int | None
    volume_ml: float | None
    mass_g: float | None
    place_of_bees: str
    brood_state: str
    queen_safe: str
    note: str
    by_name: str
    version: int
    mites: int | None
    bees_mean: float | None
    as_counted: float | None
    median: float | None
    low: float | None
    high: float | None


class Reading(Output):
    mites: int
    bees_mean: float
    bees_cv: float
    recovery: str
    as_counted: float
    median: float
    low: float
    high: float


class Removal(Output):
    total_counted: int
    estimate: int
    remaining: int
    release_per_shake: float | None
    depleting: bool | None
    share_left: float | None
    shake_again: bool


class Finding(Output):
    code: str
    level: Literal["refused", "warning", "note"]
    field: str
    message: str


class SchoolView(Output):
    school: SchoolId
    name: str
    level: Level
    act_per_100: float


class Judgement(Output):
    level: Level
    phase: Phase
    school: SchoolId
    watch: float
    act: float
    urgent: float
    p_watch: float
    p_act: float
    p_urgent: float
    advice: Literal["treat", "second_sample", "come_back"]
    come_back_on: date | None
    others: list[SchoolView]


class Growth(Output):
    days: int
    rate_per_day: float
    low_per_day: float
    high_per_day: float
    doubling_days: float | None
    p_rose: float
    p_rose_cautious: float
    words: str


class CountMeaning(Output):
    count: Count
    reading: Reading | None
    removal: Removal | None
    shake_again: bool
    findings: list[Finding]
    judgement: Judgement | None
    trend: Growth | None
    trend_since: date | None
    policy_version: int


class TrailEntry(Output):
    seq: int
    act: str
    at: datetime
    by_name: str
    reason: str
    former: dict[str, Any] | None
    present: dict[str, Any]
