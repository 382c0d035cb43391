"""Count weeks."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any
from uuid import UUID

from pydantic import BeforeValidator, Field

from redframe.api.base import Name, Note, Output
from redframe.core.inputs import Input, IsoDate
from redframe.core.policy.schemes import SchemeId
from redframe.core.sampling.method import JarMethod
from redframe.core.season.calendar import Phase
from redframe.core.status.status import Level


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


class CountWeek(Output):
    id: UUID
    name: str
    first_on: date
    last_on: date
    method: JarMethod
    half_width: float
    protocol: str
    opened_by: str
    version: int
    invited: int


class Coverage(Output):
    """How much was counted; `low`: fewer than 40 % of the keepers, whose own choice it then was."""

    keepers: int
    keepers_reporting: int
    apiaries: int
    apiaries_counted: int
    colonies: int
    colonies_counted: int
    with_bees: int
    low: bool


class Share(Output):
    """A share of colonies with its 95 % interval; `effective`: how many independent colonies they are worth."""

    over: int
    counted: int
    effective: float
    share: float
    low: float
    high: float


class SchemeShare(Output):
    scheme: SchemeId
    name: str
    share: Share | None


class WeekBar(Output):
    """A bar of the distribution, mites per 100 bees; `low` null: no mite found, `high` null: and more."""

    low: float | None
    high: float | None
    colonies: int


class MethodTally(Output):
    method: JarMethod
    colonies: int
    median: float | None


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


class ApiaryLine(Output):
    """An apiary in the week, its mean per 100 bees with the 95 % interval; `quarter` 1 is the lowest, null with fewer
    than three colonies counted."""

    apiary_id: UUID
    name: str
    keeper: str
    cell: str | None
    colonies: int
    counted: int
    rate: float | None
    low: float | None
    high: float | None
    percentile: float | None
    quarter: int | None
    over: int
    treated: int
    near_urgent: bool


class CellLine(Output):
    """A cell of the coarse map; `level` null: nothing counted, `few`: fewer than five colonies."""

    id: str
    south: float
    west: float
    north: float
    east: float
    apiaries: int
    keepers: int
    colonies: int
    counted: int
    over: int
    share: Share | None
    median: float | None
    first_on: date | None
    last_on: date | None
    level: Level | None
    few: bool


class KeeperLine(Output):
    keeper_id: UUID
    name: str
    apiaries: int
    colonies: int
    counted: int
    reminders: int
    reminded_at: datetime | None
    has_address: bool


def _as_list(value: Any) -> Any:
    return list(value) if isinstance(value, tuple) else value


class WeekTreatment(Output):
    """Courses of an option: in how many colonies, and of how many a count has said what."""

    option_id: str
    colonies: int
    worked: int
    partly: int
    failed: int
    cannot_tell: int
    not_proved: int


class TreatmentTally(Output):
    name: str
    placed: WeekTreatment


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


class OwnApiary(Output):
    """What a keeper learns of their own apiary: its mean rate, and its quarter among `of` apiaries."""

    apiary_id: UUID
    name: str
    counted: int
    colonies: int
    rate: float | None
    quarter: int | None
    of: int
    near_urgent: bool


class CountWeekView(Output):
    """A count week: results for those who keep the association or read, their own apiaries for a keeper."""

    week: CountWeek
    today: date
    results: WeekResults | None
    own: list[OwnApiary]


class RowReport(Output):
    """What becomes of a line of a table: taken, with its mites and what they come to per 100 bees (null: bees not
    recorded), or not and why; `field` names the column."""

    line: int
    apiary: str
    colony: str
    taken: bool
    field: str
    why: str
    taken_on: date | None
    mites: int | None
    rate: float | None


class ImportReport(Output):
    """What was taken of a table (or would be), and what not and why."""

    took: bool
    taken: int
    refused: int
    rows: list[RowReport]


class RemindersAsked(Output):
    """How many keepers are being written to."""

    keepers: int
