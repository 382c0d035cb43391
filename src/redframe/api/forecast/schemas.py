"""Forecasts and scenarios compared with them."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from redframe.api.base import Output
from redframe.api.forecast.association_schemas import ForecastEvaluation
from redframe.core.forecast.evaluation import NextCount
from redframe.core.inputs import Input, IsoDate
from redframe.core.sampling.method import Method
from redframe.work.forecast.read import ScenarioView


class ScenarioInput(Input):
    """A course of an option, or mites arriving, from a day on."""

    kind: Literal["course", "arrivals"] = "course"
    option_id: Annotated[str, Field(max_length=40)] | None = None
    start: IsoDate


class ForecastRequest(Input):
    """The scenarios to compare with doing nothing more."""

    scenarios: Annotated[list[ScenarioInput], Field(max_length=6)] = []


class StartCount(Output):
    """A count that the forecast starts from, in mites per 100 bees; `converted` from a natural fall, and wide."""

    id: UUID
    taken_on: date
    method: Method
    mites: int
    bees_mean: float | None
    median: float
    low: float
    high: float
    converted: bool


class CourseSeen(Output):
    id: UUID
    option_id: str
    name: str
    start_on: date
    ended_on: date | None
    state: str


class ModelledOption(Output):
    """An option that the forecast knows an effect of, with the days that its course takes."""

    id: str
    name: str
    days: int


class ForecastView(Output):
    """The forecast of a colony; the first view is that of doing nothing more. `why_not` says why there is none."""

    colony_id: UUID
    label: str
    apiary_id: UUID
    today: date
    why_not: str
    act_per_100: float
    winter_level: float
    ask: list[date]
    danger_from: date | None
    members: int
    effective: float
    disagree: bool
    counts: list[StartCount]
    courses: list[CourseSeen]
    views: list[ScenarioView]
    options: list[ModelledOption]
    next_counts: list[NextCount]
    evaluation: ForecastEvaluation | None
