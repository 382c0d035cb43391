"""Count weeks."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any
from uuid import UUID

from pydantic import BeforeValidator, Field

from redframe.api.base import Name, Note, Output
from redframe.core.campaigns.week import ApiaryLine, CellLine, Coverage, KeeperLine, MethodTally, SchemeShare
from redframe.core.inputs import Input, IsoDate
from redframe.core.sampling.method import JarMethod
from redframe.core.season.calendar import Phase
from redframe.store.campaigns import CountWeek
from redframe.work.campaigns.read import OwnApiary
from redframe.work.campaigns.record import RowReport
from redframe.work.campaigns.results import TreatmentTally


class CountWeekFields(Input):
    """Days, who is invited (null: every keeper), and how is counted; `half_width` draws the colonies of an apiary."""

    name: Name
    first_on: IsoDate
    last_on: IsoDate
    method: JarMethod = "wash"
    half_width: Annotated[float, Field(gt=0.05, le=2, allow_inf_nan=False)] = 0.4
    protocol: Note = ""
    keepers: Annotated[list[UUID], Field(max_length=5000)] | None = None


class CountWeekInput(CountWeekFields):
    id: UUID


class WeekBar(Output):
    """A bar of the distribution, mites per 100 bees; `low` null: no mite found, `high` null: and more."""

    low: float | None
    high: float | None
    colonies: int


class SugarFound(Output):
    """The share of mites that a sugar roll finds here, from colonies both washed and rolled."""

    pairs: int
    a: float
    b: float
    mean: float


class WeekChange(Output):
    """Change in the same colonies since the week before: ratio of rates with its 95 % interval."""

    colonies: int
    ratio: float
    low: float
    high: float
    days: float


def _as_list(value: Any) -> Any:
    return list(value) if isinstance(value, tuple) else value


class WeekResults(Output):
    coverage: Coverage
    phases: list[Phase]
    spans_phases: bool
    median: float | None
    quartiles: Annotated[list[float] | None, BeforeValidator(_as_list)]
    distribution: list[WeekBar]
    shares: list[SchemeShare]
    methods: list[MethodTally]
    recovery: SugarFound | None
    treatments: list[TreatmentTally]
    treated_since: date
    change: WeekChange | None
    change_since: str
    apiaries: list[ApiaryLine]
    cells: list[CellLine]
    elsewhere: CellLine | None
    keepers: list[KeeperLine]


class CountWeekView(Output):
    """A count week: results for those who keep the association or read, their own apiaries for a keeper."""

    week: CountWeek
    today: date
    results: WeekResults | None
    own: list[OwnApiary]


class ImportReport(Output):
    """What was taken of a table (or would be), and what not and why."""

    took: bool
    taken: int
    refused: int
    rows: list[RowReport]


class RemindersAsked(Output):
    """How many keepers are being written to."""

    keepers: int
