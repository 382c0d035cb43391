"""What comes of every colony."""

from __future__ import annotations

from datetime import date, datetime
from typing import Literal
from uuid import UUID

from redframe.api.base import Output
from redframe.core.inputs import Input
from redframe.core.status.status import Level
from redframe.store.association_forecast import ForecastTally


class RunInput(Input):
    """Ask for the forecasts of all colonies."""

    id: UUID


class ForecastRun(Output):
    """A run over all colonies, with its progress; `asked_by_name` is empty for the run of the night."""

    id: UUID
    asked_by_name: str
    asked_at: datetime
    for_day: date
    state: Literal["waiting", "running", "done", "failed"]
    colonies: int
    done: int
    finished_at: datetime | None
    note: str


class ColonyForecastRow(Output):
    """What comes of a colony: mites per 100 bees from `for_day` on, the days by which 10, 50 and 90 % of what may come
    are over the level (null: not within what was looked at), and the chance to be over it soon."""

    colony_id: UUID
    label: str
    apiary_id: UUID
    apiary: str
    keeper: str
    level: Level
    for_day: date
    counted_on: date
    counted_since: bool | None
    act_per_100: float
    median: list[float]
    low80: list[float]
    high80: list[float]
    date10: date | None
    date50: date | None
    date90: date | None
    p_over_ahead: float
    danger_from: date | None
    disagree: bool
    in_course: bool


class ForecastEvaluation(Output):
    """How earlier forecasts did over later counts of colonies left alone, or treated, in between: the shares of
    counts inside the central 50, 80 and 95 %, and over the middle; the share that read over the act level; and the mean
    squared misses (Brier scores) of the chances given for it by the forecast, by "the last count stays", by "it grows
    at one rate". `bands` says whether the 80 % band held what it promised, `middle` whether counts lay on both sides of
    what was predicted, `beats_plain` whether it missed by less than both alternatives."""

    between: Literal["untreated", "treated"]
    looked_on: date
    since: date
    counts: int
    days: float
    held50: float
    held80: float
    held95: float
    above: float
    happened: float
    brier: float
    brier_stays: float
    brier_one_rate: float
    bands: Literal["right", "too_narrow", "too_wide"]
    middle: Literal["right", "too_high", "too_low"]
    beats_plain: bool


class AssociationForecast(Output):
    """The latest run, a page of colonies, the soonest to cross first, and how earlier forecasts did; figures lie
    `every_days` apart."""

    today: date
    run: ForecastRun | None
    tally: ForecastTally
    colonies: list[ColonyForecastRow]
    evaluation: list[ForecastEvaluation]
    every_days: int
    look_ahead_days: int


class AskedRun(Output):
    """The run that was asked for, or the one that is under way already."""

    run: ForecastRun | None
