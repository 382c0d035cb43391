"""What is due across apiaries."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any
from uuid import UUID

from redframe.core.policy.schemes import SCHEMES, Answer, SchemeId
from redframe.core.sampling.method import Scale
from redframe.core.status.status import Level
from redframe.core.treatments.course import StepKind
from redframe.store.database import Connection, many, one, run, scalar
from redframe.store.labels import OfOption


@dataclass(frozen=True, slots=True)
class StepsDue(OfOption):
    """A step that colonies of one apiary and plan wait for; the dose is that of all of them at one placing."""

    plan_id: UUID
    apiary_id: UUID
    apiary: str
    keeper: str
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
    """How many living colonies and how many apiaries the person may see, and at how many of them something is due."""

    colonies: int
    apiaries: int
    with_work: int


@dataclass(frozen=True, slots=True)
class _Turned:
    apiary_id: UUID


@dataclass(frozen=True, slots=True)
class DoseInHives(OfOption):
    """A dose that is in colonies of one apiary since a day."""

    apiary_id: UUID
    apiary: str
    latitude: float
    longitude: float
    placed_on: date
    labels: list[str]
    course_id: UUID


@dataclass(frozen=True, slots=True)
class KeptWork:
    """What is due at an apiary as it was judged last; `key` puts it among the others, the smaller the sooner."""

    apiary_id: UUID
    apiary: str
    keeper: str
    due: list[dict[str, Any]]
    key: str


Apiaries = Sequence[UUID] | None
"""The apiaries that are looked at; None for all."""


async def steps_due(connection: Connection, until: date, most: int, at: Apiaries = None) -> list[StepsDue]:
    """Steps that may be done by a day, the most pressing first."""
    return await many(connection, StepsDue, "steps_due", until=until, most=most, apiaries=at and list(at))


async def doses_in_hives(connection: Connection, since: Mapping[str, date]) -> list[DoseInHives]:
    """Doses that are in hives, of courses that began since a day of each option's own (`since`)."""
    return await many(
        connection, DoseInHives, "doses_in_hives", options=list(since), since=list(since.values())
    )  # fmt: skip


async def over_without_course(connection: Connection, most: int, at: Apiaries = None) -> list[OverWithoutCourse]:
    """Apiaries with colonies to treat, the worst first."""
    return await many(connection, OverWithoutCourse, "over_without_course", most=most, apiaries=at and list(at))


async def counts_due(connection: Connection, until: date, most: int, at: Apiaries = None) -> list[CountsDue]:
    """Apiaries with colonies to count, those least known first."""
    return await many(connection, CountsDue, "counts_due", until=until, most=most, apiaries=at and list(at))


async def boards_due(connection: Connection, now: datetime, most: int, at: Apiaries = None) -> list[BoardsDue]:
    """Apiaries with boards to read, the longest lying first."""
    return await many(connection, BoardsDue, "boards_due", now=now, most=most, apiaries=at and list(at))


async def visits_due(
    connection: Connection, today: date, until: date, most: int, at: Apiaries = None
) -> list[VisitsDue]:
    """Apiaries with colonies to visit, the longest due first."""
    return await many(
        connection, VisitsDue, "visits_due", today=today, until=until, most=most, apiaries=at and list(at)
    )


async def anything_turned(connection: Connection, now: datetime) -> bool:
    """Whether any apiary that the person may see is to be judged again."""
    return bool(await scalar(connection, "anything_turned", now=now))


async def take_turned(connection: Connection, now: datetime) -> list[UUID]:
    """The apiaries to judge again, taken from the list; until the transaction ends nobody else of the association
    judges any."""
    await run(connection, "judge_alone")
    return [one.apiary_id for one in await many(connection, _Turned, "take_turned", now=now)]


async def keep_work(connection: Connection, now: datetime, works: Sequence[tuple[UUID, str, str]]) -> None:
    """Keep what was judged of apiaries: of each its key, and what is due as JSON."""
    apiaries, keys, dues = zip(*works, strict=True)
    await run(connection, "keep_work", now=now, apiaries=list(apiaries), keys=list(keys), dues=list(dues))


async def work_in_order(connection: Connection, after: tuple[str, UUID], most: int) -> list[KeptWork]:
    """Apiaries with work in its order, those behind a key and an apiary."""
    return await many(connection, KeptWork, "work_in_order", after_key=after[0], after_id=after[1], most=most)


async def rates_by_apiary(connection: Connection, apiaries: Sequence[UUID]) -> list[ColonyRate]:
    """How the living colonies of some apiaries stand."""
    return await many(connection, ColonyRate, "rates_by_apiary", apiaries=list(apiaries))


async def totals(connection: Connection) -> Totals:
    """How much there is in all."""
    return await one(connection, Totals, "totals")
