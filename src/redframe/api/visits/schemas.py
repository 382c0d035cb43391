"""Visits, frames, their moves, photos and holds."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import AfterValidator, AwareDatetime, Field

from redframe.api.base import Note, Output, Why
from redframe.core.inputs import Input, IsoDate, printable
from redframe.core.visits.record import After, Before, FrameRecord

Reason = Annotated[str, Field(max_length=400)]
PhotoCaption = Annotated[str, Field(max_length=400), AfterValidator(printable)]


class OpenInput(Input):
    id: UUID
    opened_at: AwareDatetime


class BeforeInput(Input):
    """`version` is the one that was read; `reason` is needed once the visit is closed."""

    content: Before
    version: Annotated[int, Field(ge=0, le=1_000_000)]
    reason: Reason = ""


class AfterInput(Input):
    content: After
    version: Annotated[int, Field(ge=0, le=1_000_000)]
    reason: Reason = ""


class FrameEntry(Input):
    box_id: UUID
    slot: Annotated[int, Field(ge=1, le=40)]
    version: Annotated[int, Field(ge=0, le=1_000_000)] = 0
    record: FrameRecord


class FramesInput(Input):
    frames: Annotated[list[FrameEntry], Field(min_length=1, max_length=80)]
    reason: Reason = ""


class NewFrame(Input):
    kind: Literal["comb", "foundation", "drone_comb", "feeder", "dummy"]
    comb_year: Annotated[int, Field(ge=1950, le=2200)] | None = None


class MoveFrameInput(Input):
    """A frame into a slot (`to_box`, `to_slot`) or away (`to_away`); `new` brings one in. Slots count from the left."""

    id: UUID
    frame_id: UUID | None = None
    new: NewFrame | None = None
    to_box: UUID | None = None
    to_slot: Annotated[int, Field(ge=1, le=40)] | None = None
    to_away: Literal["store", "freezer", "melted", "burned"] | None = None
    moved_on: IsoDate
    visit_id: UUID | None = None
    override_why: Reason = ""
    note: Note = ""


class HoldInput(Input):
    id: UUID
    since: IsoDate
    why: Why


class LiftInput(Input):
    why: Why


class LineInput(Input):
    text: Annotated[str, Field(max_length=400)]


class Frame(Output):
    id: UUID
    kind: str
    frame_format: str
    comb_year: int | None
    box_id: UUID | None
    slot: int | None
    away: str | None
    version: int


class StandingBox(Output):
    id: UUID
    position: int
    purpose: str
    frame_format: str | None
    frames: int


class Dweller(Output):
    id: UUID
    label: str
    hive_side: str | None


class VisitHive(Output):
    id: UUID
    hive_type: str
    floor: str
    numbered_from: str
    divided_after: int | None
    version: int


class VisitFrame(Output):
    box_id: UUID
    slot: int
    frame_id: UUID | None
    record: FrameRecord
    version: int
    by_name: str


class OpenVisit(Output):
    id: UUID
    colony_id: UUID
    visited_on: date
    state: Literal["draft", "closed", "dropped"]
    opened_at: datetime | None
    closed_at: datetime | None
    before: Before
    before_version: int
    after: After
    after_version: int
    version: int
    by_name: str


class PastVisit(Output):
    id: UUID
    visited_on: date
    frames: int


class Photo(Output):
    id: UUID
    box_id: UUID | None
    slot: int | None
    sign: str
    caption: str
    width: int
    height: int
    made_at: datetime
    by_name: str


class Hold(Output):
    id: UUID
    since: date
    why: str
    by_name: str


class Estimate(Output):
    value: float
    low: float
    high: float


class Balance(Output):
    now: float
    days_3_to_9: float
    days_9_to_21: float
    r1: float | None
    r2: float | None
    reading: str
    text: str


class Estimates(Output):
    frames_seen: int
    adults: Estimate | None
    adults_by: str | None
    bees_away: list[float] | None
    frames_of_bees: float | None
    frames_of_brood: int | None
    tenths_of_brood: int | None
    eggs: Estimate | None
    eggs_known: str
    open: Estimate | None
    capped: Estimate | None
    emerging_12_days: Estimate | None
    emerging_a_day: float | None
    adults_in_12_days: Estimate | None
    stores_kg: Estimate | None
    stores_by: str | None
    balance: Balance | None


class VisitFinding(Output):
    code: str
    level: Literal["note", "watch", "act"]
    text: str
    because: list[str]
    dates: dict[str, list[date]]


class SignChange(Output):
    sign: str
    change: Literal["new", "gone", "spread", "less", "same"]


class FrameChange(Output):
    box: int
    slot: int
    brood: int | None
    honey: int | None
    signs: list[SignChange]
    queen: Literal["here_now", "here_then", "both", "no"]


class QueenTrace(Output):
    box: int
    slot: int
    why: str


class Trend(Output):
    name: Literal["frames_of_bees", "frames_of_brood", "stores_kg"]
    now: float | None
    then: float | None
    apiary_median: float | None
    colonies: int


class Criterion(Output):
    name: str
    found: str
    verdict: Literal["keep", "watch", "replace"]


class NextVisit(Output):
    on: date
    why: str


class VisitReading(Output):
    told: Estimates
    opening: list[VisitFinding]
    findings: list[VisitFinding]
    changes: list[FrameChange]
    trace: list[QueenTrace]
    trends: list[Trend]
    worth: list[Criterion]
    suspicious: list[str]
    suggested: NextVisit


class VisitColony(Output):
    id: UUID
    label: str
    state: str
    queen_year: int | None
    mark_seen: str | None
    queen_status: str | None
    level: str


class VisitApiary(Output):
    id: UUID
    name: str
    keeper: str


class VisitView(Output):
    """A visit, the hive as it stands, the visit beside it, and what the core says of it."""

    today: date
    visit: OpenVisit
    colony: VisitColony
    apiary: VisitApiary
    hive: VisitHive
    dwellers: list[Dweller]
    boxes: list[StandingBox]
    frames: list[Frame]
    records: list[VisitFrame]
    photos: list[Photo]
    past: list[PastVisit]
    against: PastVisit | None
    former: list[VisitFrame]
    hold: Hold | None
    phase: str
    reading: VisitReading


class NotUnderstood(Output):
    start: int
    end: int
    text: str
    why: str


class ReadLine(Output):
    box: int | None
    slot: int | None
    same: bool
    record: FrameRecord | None
    not_understood: list[NotUnderstood]
    printed: str


class Sign(Output):
    id: str
    group: str
    name: str
    definition: str
    examined: list[str]
    scale: str
    suspicious: bool


class RoundStop(Output):
    id: UUID
    label: str
    draft: UUID | None
    last_visit: date | None
    next_visit: date | None
    hold: str | None
    suspicious: list[str]


class FrameMove(Output):
    id: UUID
    act_id: UUID
    frame_id: UUID
    moved_on: date
    from_label: str | None
    from_slot: int | None
    from_away: str | None
    to_label: str | None
    to_slot: int | None
    to_away: str | None
    rule: str
    override_why: str
    note: str
    by_name: str
