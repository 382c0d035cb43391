"""What comes of every colony."""

from __future__ import annotations

from datetime import date, datetime
from typing import Literal
from uuid import UUID

from redframe.api.base import Output
from redframe.core.inputs import Input
from redframe.core.sampling.method import Scale
from redframe.core.status.status import Level
from redframe.store.association_forecast import Crossings, ForecastTally
from redframe.work.forecast.outlook import ColonyOutlook


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


class ColonyInList(Output):
    """A living colony, how it stands, and what is forecast of it: null where no count is late enough to start from."""

    colony_id: UUID
    label: str
    apiary_id: UUID
    apiary: str
    keeper: str
    level: Level
    rate: float | None
    scale: Scale | None
    counted_on: date | None
    in_course: bool
    forecast: ColonyOutlook | None


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
    """A page of all colonies with their forecasts, how many go over their level when, the latest run, and how earlier
    forecasts did."""

    today: date
    last: date
    run: ForecastRun | None
    tally: ForecastTally
    crossings: list[Crossings]
    colonies: list[ColonyInList]
    evaluation: list[ForecastEvaluation]
    look_ahead_days: int


class AskedRun(Output):
    """The run that was asked for, or the one that is under way already."""

    run: ForecastRun | None
