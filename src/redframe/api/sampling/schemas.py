"""Counts of every kind and what they mean."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import AwareDatetime, Discriminator, Field, Tag

from redframe.api.base import BeesKnown, Note, Output, Why
from redframe.core.inputs import Input
from redframe.core.policy.schemes import SchemeId
from redframe.core.sampling.board_marks import Candidate
from redframe.core.sampling.conversion import Converted
from redframe.core.sampling.jar import BroodState, PlaceOfBees
from redframe.core.sampling.method import Answer, BoardMethod, CountFinding, JarMethod, Method, Scale, Use
from redframe.core.sampling.shakes import Removal
from redframe.core.sampling.trend import Growth, NotCompared, TrendLine
from redframe.core.status.judgement import Judgement, SchemeView
from redframe.work.sampling.ruler import Ruler

MitesSeen = Annotated[int, Field(strict=True, ge=0, le=30_000)]


class CountFields(Input):
    """What every count tells: of which colony, and when the bees were taken (a board: when it was removed).
    `targeted`: the colony was chosen because it was likely to be over or to tell most; its count enters no mean."""

    colony_id: UUID
    taken_at: AwareDatetime
    brood_state: BroodState = "not_seen"
    targeted: bool = False
    note: Note = ""


class JarFields(CountFields):
    """Bees in a jar, and how they were measured: counted or by photo (`bees`), a scoop (`volume_ml`), a scale
    (`mass_g`). A sugar roll tells how long the bees rested (`rested_s`) and whether they were wet."""

    method: JarMethod
    shakes: Annotated[list[MitesSeen], Field(min_length=1, max_length=8)]
    bees_known_by: BeesKnown
    bees: Annotated[int, Field(ge=1, le=5000)] | None = None
    volume_ml: Annotated[float, Field(ge=5, le=1000, allow_inf_nan=False)] | None = None
    mass_g: Annotated[float, Field(ge=1, le=500, allow_inf_nan=False)] | None = None
    place_of_bees: PlaceOfBees = "brood_frame"
    queen_safe: Answer = "not_looked"
    rested_s: Annotated[int, Field(strict=True, ge=0, le=7200)] | None = None
    wet: Answer = "not_looked"


class BoardFields(CountFields):
    """An insert board: mites of each square counted, of so many squares in all (one of one: no grid)."""

    method: BoardMethod
    placed_at: AwareDatetime
    squares: Annotated[list[Annotated[int, Field(strict=True, ge=0, le=10_000)]], Field(min_length=1, max_length=400)]
    squares_in_all: Annotated[int, Field(strict=True, ge=1, le=400)] = 1
    cleaned: Answer = "not_looked"
    greased: Answer = "not_looked"
    ants: Answer = "not_looked"


class DroneFields(CountFields):
    """Drone brood opened."""

    method: Literal["drone_brood"]
    cells_opened: Annotated[int, Field(strict=True, ge=1, le=5000)]
    cells_infested: Annotated[int, Field(strict=True, ge=0, le=5000)]
    mites_in_cells: Annotated[int, Field(strict=True, ge=0, le=100_000)] | None = None
    patches: Annotated[int, Field(strict=True, ge=1, le=50)] | None = None


class LookFields(CountFields):
    """Bees looked at: kept as a finding, never a rate."""

    method: Literal["look"]
    mites_seen: bool


Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class Mark(Input):
    """A spot on a picture as shares of its size: `found` by the program or added, `kept` as a mite or struck."""

    x: Share
    y: Share
    found: bool
    kept: bool


class ReadFrom(Input):
    """The picture that a board was read from: the squares counted, row by row from 0, and every mark."""

    picture_id: UUID
    counted: Annotated[list[Annotated[int, Field(strict=True, ge=0, le=399)]], Field(min_length=1, max_length=400)]
    marks: Annotated[list[Mark], Field(max_length=5000)]


class JarInput(JarFields):
    id: UUID


class BoardInput(BoardFields):
    id: UUID
    board_id: UUID | None = None
    picture: ReadFrom | None = None


class DroneInput(DroneFields):
    id: UUID


class LookInput(LookFields):
    id: UUID


class JarAmendment(JarFields):
    reason: Why


class BoardAmendment(BoardFields):
    reason: Why


class DroneAmendment(DroneFields):
    reason: Why


class LookAmendment(LookFields):
    reason: Why


KINDS = {
    "wash": "[jar]", "sugar": "[jar]", "co2": "[jar]", "board": "[board]", "board_after_treatment": "[board]",
    "drone_brood": "[drone]", "look": "[look]",
}  # fmt: skip


def _kind(value: object) -> str:
    method = value.get("method") if isinstance(value, dict) else getattr(value, "method", None)
    # What is of no kind is read as a jar, whose `method` then names the fault.
    return KINDS.get(method, "[jar]") if isinstance(method, str) else "[jar]"


CountInput = Annotated[
    Annotated[JarInput, Tag("[jar]")]
    | Annotated[BoardInput, Tag("[board]")]
    | Annotated[DroneInput, Tag("[drone]")]
    | Annotated[LookInput, Tag("[look]")],
    Discriminator(_kind),
]
"""A count by its `method`; the tags are in brackets so that the path of a bad field does not name them."""

CountAmendment = Annotated[
    Annotated[JarAmendment, Tag("[jar]")]
    | Annotated[BoardAmendment, Tag("[board]")]
    | Annotated[DroneAmendment, Tag("[drone]")]
    | Annotated[LookAmendment, Tag("[look]")],
    Discriminator(_kind),
]
"""The whole count as it should read, and why."""


class RulerInput(Input):
    """A jar by its bees, or a board by the days that it was in times the share of it that is counted."""

    apiary_id: UUID
    method: Method = "wash"
    bees_known_by: BeesKnown | None = None
    bees: Annotated[int, Field(ge=1, le=5000)] | None = None
    volume_ml: Annotated[float, Field(ge=5, le=1000, allow_inf_nan=False)] | None = None
    mass_g: Annotated[float, Field(ge=1, le=500, allow_inf_nan=False)] | None = None
    place_of_bees: PlaceOfBees = "brood_frame"
    board_days: Annotated[float, Field(ge=0.02, le=60, allow_inf_nan=False)] | None = None
    mites_from: Annotated[int, Field(ge=0, le=30_000)] = 0
    mites_to: Annotated[int, Field(ge=0, le=30_000)] = 30


class JarRuler(Output):
    """The ruler; null where the bees are not known."""

    ruler: Ruler | None


class Count(Output):
    """A count as it was taken, and its reading in the unit of its scale; what is not of its method is null."""

    id: UUID
    colony_id: UUID
    method: Method
    taken_at: datetime
    taken_on: date
    shakes: list[int] | None
    bees_known_by: BeesKnown | None
    bees: int | None
    volume_ml: float | None
    mass_g: float | None
    place_of_bees: PlaceOfBees | None
    brood_state: BroodState
    queen_safe: Answer | None
    rested_s: int | None
    wet: Answer | None
    placed_at: datetime | None
    squares: list[int] | None
    squares_in_all: int | None
    cleaned: Answer | None
    greased: Answer | None
    ants: Answer | None
    cells_opened: int | None
    cells_infested: int | None
    mites_in_cells: int | None
    patches: int | None
    mites_seen: bool | None
    targeted: bool
    note: str
    by_name: str
    version: int
    picture_id: UUID | None
    scale: Scale | None
    mites: int | None
    board_days: float | None
    bees_mean: float | None
    as_counted: float | None
    median: float | None
    low: float | None
    high: float | None
    may_undo: bool


class Reading(Output):
    """What a count says, in the unit of its scale: a jar has bees, a board days, drone brood neither."""

    scale: Scale
    mites: int
    bees_mean: float | None = None
    bees_cv: float | None = None
    recovery: str | None = None
    board_days: float | None = None
    board_cv: float | None = None
    as_counted: float
    median: float
    low: float
    high: float


class LastStart(Output):
    """The last day on which a treatment still makes sense before winter bees; where none is `enough` alone, the last
    start that ends before them."""

    on: date
    option_id: str
    name: str
    enough: bool
    winter: date


class CountMeaning(Output):
    """A count and what it means. `pair`: two jars taken together; `views`: the other schemes; `converted` and `prompt`:
    what a natural fall may stand for, and the chance that it is over the act level; `would_find`: the rate that a
    count without a mite would have found."""

    count: Count
    reading: Reading | None
    pair: Reading | None
    removal: Removal | None
    shake_again: bool
    findings: list[CountFinding]
    use: Use
    judgement: Judgement | None
    last_start: LastStart | None
    views: list[SchemeView]
    converted: Converted | None
    prompt: float | None
    would_find: float | None
    trend: Growth | None
    trend_since: date | None
    scheme: SchemeId
    policy_version: int
    own_policy: bool


class Comparison(Output):
    """Two counts of a colony, the earlier first: how it grew between them, or why that cannot be said."""

    first: UUID
    second: UUID
    growth: Growth | None
    why_not: NotCompared | None


class CountTrend(Output):
    """The line through a colony's counts since something last broke its growth."""

    methods: list[Method]
    line: TrendLine


class PooledFall(Output):
    """Boards taken together; `differ`: by more than chance, so that the interval is too narrow."""

    boards: int
    mites: int
    days: float
    fall_per_day: float
    low_per_day: float
    high_per_day: float
    differ: bool


class BoardPlacing(Input):
    """A board put in under a colony, and what can only be asked now: was it clean, is it greased?"""

    id: UUID
    colony_id: UUID
    placed_at: AwareDatetime
    cleaned: Answer
    greased: Answer


class BoardLifting(Input):
    """A board taken away unread."""

    removed_at: AwareDatetime


class InsertBoard(Output):
    """A board that lies and waits to be read."""

    id: UUID
    colony_id: UUID
    placed_at: datetime
    cleaned: Answer
    greased: Answer
    by_name: str
    version: int


class MarkKept(Output):
    x: float
    y: float
    found: bool
    kept: bool


class BoardPicture(Output):
    """A picture of a board with its grid and what was found on it; marks and count once a person has counted it."""

    id: UUID
    colony_id: UUID
    width: int
    height: int
    width_mm: float
    grid_columns: int
    grid_rows: int
    candidates: list[Candidate]
    marks: list[MarkKept] | None
    counted: list[int] | None
    count_id: UUID | None
    by_name: str
    created_at: datetime
