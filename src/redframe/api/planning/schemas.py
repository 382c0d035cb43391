"""The day's work."""

from __future__ import annotations

from datetime import date, datetime
from typing import Literal
from uuid import UUID

from redframe.api.base import Output
from redframe.core.policy.schemes import Answer, SchemeId
from redframe.core.sampling.method import Scale
from redframe.core.season.calendar import Phase
from redframe.core.status.status import Level
from redframe.core.treatments.course import StepKind
from redframe.core.treatments.reasons import Reason
from redframe.work.planning.alarms import HeatAlarm
from redframe.work.planning.apiaries import ApiaryWork


class OverLine(Output):
    """Colonies over their act level without a course; `answer`: what their scheme does about them, `highest` on
    `scale`."""

    apiary_id: UUID
    apiary: str
    keeper: str
    colonies: int
    labels: list[str]
    ids: list[UUID]
    urgent: int
    highest: float
    act_at: float
    scheme: SchemeId
    scale: Scale
    answer: Answer
    oldest_count_on: date
    overdue_from: date | None


class StepLine(Output):
    plan_id: UUID
    course_id: UUID
    apiary_id: UUID
    apiary: str
    keeper: str
    option_id: str
    option_name: str
    placings: int
    chemical: bool
    step: str
    kind: StepKind
    colonies: int
    labels: list[str]
    earliest: date
    ideal: date
    latest: date
    first_ideal: date
    hard_stop: bool
    urgency: Literal["overdue", "due", "soon", "waiting_for_weather"]
    weather: Reason | None
    next_usable: date | None


class CountLine(Output):
    apiary_id: UUID
    apiary: str
    keeper: str
    colonies: int
    labels: list[str]
    ids: list[UUID]
    never: int
    too_old: int
    level: Level
    due_on: date | None
    oldest_count_on: date | None


class BoardLine(Output):
    """Boards to read; `placed_at` is when the first of them was put in."""

    apiary_id: UUID
    apiary: str
    keeper: str
    colonies: int
    labels: list[str]
    ids: list[UUID]
    placed_at: datetime


class VisitLine(Output):
    apiary_id: UUID
    apiary: str
    keeper: str
    colonies: int
    labels: list[str]
    ids: list[UUID]
    due_on: date
    overdue: int
    why: str


class WorkLinesView(Output):
    """What is due of some kinds across apiaries; `more`: lines were left off."""

    today: date
    over: list[OverLine]
    steps: list[StepLine]
    counts: list[CountLine]
    boards: list[BoardLine]
    visits: list[VisitLine]
    more: bool


class WorklistView(Output):
    """The day's work at the apiaries whose work must begin first, with every line of theirs; `next`: where the next
    page begins (`after`), null where this is the last. `with_work`: apiaries where something is due."""

    today: date
    phase: Phase
    act_at: float
    scheme: SchemeId
    winter_bees: date | None
    colonies: int
    apiaries: int
    with_work: int
    work: list[ApiaryWork]
    over: list[OverLine]
    steps: list[StepLine]
    counts: list[CountLine]
    boards: list[BoardLine]
    visits: list[VisitLine]
    next: str | None
    alarms: list[HeatAlarm]
