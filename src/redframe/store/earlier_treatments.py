"""What is known of treatments that were given before they were planned here, and how far back the record reaches."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID, uuid5

from redframe.core.treatments.earlier import EndKnown, KnownFrom
from redframe.core.treatments.states import CourseOutcome
from redframe.store.database import Connection, columns, many, run
from redframe.store.errors import Conflict


@dataclass(frozen=True, slots=True)
class Earlier:
    """What is known of a treatment that was given before anybody planned it here: the days of its doses as they were
    entered, what became of it, who gave it and how that is known. `version` is that of this record."""

    doses_on: Sequence[date]
    end_known: EndKnown
    outcome: CourseOutcome | None
    given_by: str
    known_from: KnownFrom
    note: str
    withdrawn_why: str
    version: int


@dataclass(frozen=True, slots=True)
class EarlierDetails:
    """What is entered of a treatment that was given earlier, and can be amended."""

    doses_on: list[date]
    end_known: EndKnown
    outcome: CourseOutcome | None
    given_by: str
    known_from: KnownFrom
    note: str


async def add_earlier(connection: Connection, course_id: UUID, details: EarlierDetails) -> None:
    """Add what is known of a course that was given earlier."""
    await run(connection, "add_earlier", id=course_id, **columns(details))


async def amend_earlier(
    connection: Connection, course_id: UUID, version: int, details: EarlierDetails, withdrawn_why: str
) -> None:
    """Amend it; the transaction carries the reason. Raises Conflict when it has changed since `version`."""
    amended = {"id": course_id, "version": version, "withdrawn_why": withdrawn_why, **columns(details)}
    if await run(connection, "amend_earlier", **amended) == 0:
        raise Conflict("this treatment was amended by somebody else meanwhile")


async def amend_earlier_dose(connection: Connection, course_id: UUID, quantity: float | None) -> None:
    """Amend the dose of a course that was given earlier."""
    await run(connection, "amend_earlier_dose", id=course_id, quantity=quantity)


@dataclass(frozen=True, slots=True)
class TreatmentsKnown:
    """When a colony came to where it was first (`came_on`; `is_first_day`: it was split off on that day, and was none
    before), since when it is on record, when it ended (`last_on`, None while it lives), and from which earlier day on
    somebody says that all its treatments are known (None: nobody does)."""

    colony_id: UUID
    label: str
    came_on: date
    recorded_since: date
    is_first_day: bool
    last_on: date | None
    said_since: date | None

    @property
    def known_since(self) -> date:
        """The first day from which on all its treatments are on record."""
        return self.recorded_since if self.said_since is None else min(self.recorded_since, self.said_since)


async def treatments_known(connection: Connection, colony_ids: Sequence[UUID]) -> list[TreatmentsKnown]:
    """How far back the treatments of these colonies are known."""
    return await many(connection, TreatmentsKnown, "treatments_known", colony_ids=list(colony_ids))


async def say_treatments_known(
    connection: Connection, colony_id: UUID, known_since: date, known_from: KnownFrom
) -> None:
    """Record that all treatments of a colony from a day on are on record."""
    id = uuid5(colony_id, "treatments_known")
    await run(
        connection, "say_treatments_known", id=id, colony_id=colony_id, known_since=known_since, known_from=known_from
    )
