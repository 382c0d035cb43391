"""What is due across apiaries."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from uuid import UUID

from redframe.core.policy.schemes import SCHEMES, Answer, SchemeId
from redframe.core.sampling.method import Scale
from redframe.core.status.status import Level
from redframe.core.treatments.course import StepKind
from redframe.store.database import Connection, many, one


@dataclass(frozen=True, slots=True)
class StepsDue:
    """A step that colonies of one apiary and plan wait for; the dose is that of all of them at one placing."""

    plan_id: UUID
    apiary_id: UUID
    apiary: str
    keeper: str
    option_id: str
    step: str
    kind: StepKind
    colonies: int
    labels: list[str]
    course_id: UUID
    earliest: date
    ideal: date
    latest: date
    hard_stop: bool
    first_ideal: date
    latitude: float
    longitude: float
    dose_quantity: float
    dose_unit: str


@dataclass(frozen=True, slots=True)
class OverWithoutCourse:
    """Colonies of an apiary at act or urgent that no open course answers: `highest` is on `scale`, `act_at` in the unit
    of the scheme."""

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
    oldest_count_on: date
    overdue_from: date | None

    @property
    def answer(self) -> Answer:
        """What their scheme does about them: treat, flag to the programme, report to the authority."""
        return SCHEMES[self.scheme].answer


@dataclass(frozen=True, slots=True)
class CountsDue:
    """Colonies of an apiary to count; `level` is that of the one that asks for most attention."""

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


@dataclass(frozen=True, slots=True)
class BoardsDue:
    """Boards of an apiary that have been in long enough to be read."""

    apiary_id: UUID
    apiary: str
    keeper: str
    colonies: int
    labels: list[str]
    ids: list[UUID]
    placed_at: datetime


@dataclass(frozen=True, slots=True)
class VisitsDue:
    """Colonies of an apiary whose next visit was set for now; `why` is the reason that most of them share."""

    apiary_id: UUID
    apiary: str
    keeper: str
    colonies: int
    labels: list[str]
    ids: list[UUID]
    due_on: date
    overdue: int
    why: str


@dataclass(frozen=True, slots=True)
class ColonyRate:
    """How a living colony stands: `rate` is that of its latest count, on `scale`; None where it was never counted."""

    apiary_id: UUID
    label: str
    level: Level
    rate: float | None
    scale: Scale | None
    counted_on: date | None


@dataclass(frozen=True, slots=True)
class Totals:
    """How many living colonies and how many apiaries the person may see."""

    colonies: int
    apiaries: int


async def steps_due(connection: Connection, until: date, most: int) -> list[StepsDue]:
    """Steps that may be done by a day, the most pressing first."""
    return await many(connection, StepsDue, "steps_due", until=until, most=most)


async def over_without_course(connection: Connection, most: int) -> list[OverWithoutCourse]:
    """Apiaries with colonies to treat, the worst first."""
    return await many(connection, OverWithoutCourse, "over_without_course", most=most)


async def counts_due(connection: Connection, until: date, most: int) -> list[CountsDue]:
    """Apiaries with colonies to count, those least known first."""
    return await many(connection, CountsDue, "counts_due", until=until, most=most)


async def boards_due(connection: Connection, now: datetime, most: int) -> list[BoardsDue]:
    """Apiaries with boards to read, the longest lying first."""
    return await many(connection, BoardsDue, "boards_due", now=now, most=most)


async def visits_due(connection: Connection, today: date, until: date, most: int) -> list[VisitsDue]:
    """Apiaries with colonies to visit, the longest due first."""
    return await many(connection, VisitsDue, "visits_due", today=today, until=until, most=most)


async def rates_by_apiary(connection: Connection, apiaries: Sequence[UUID]) -> list[ColonyRate]:
    """How the living colonies of some apiaries stand."""
    return await many(connection, ColonyRate, "rates_by_apiary", apiaries=list(apiaries))


async def totals(connection: Connection) -> Totals:
    """How much there is in all."""
    return await one(connection, Totals, "totals")
