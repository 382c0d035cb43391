"""Hives, colonies, queens, lineage and visits."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.colonies.lineage import EventKind
from redframe.core.colonies.queens import MarkColour, QueenState
from redframe.core.colonies.states import ColonyState
from redframe.core.policy.schemes import SchemeId
from redframe.core.sampling.method import Scale
from redframe.core.sampling.reading import Recovery
from redframe.core.season.calendar import Phase
from redframe.core.status.status import Level, StatusReason
from redframe.core.visits.summary import StrengthUnit
from redframe.store.database import Connection, many, one, run
from redframe.store.errors import Conflict


@dataclass(frozen=True, slots=True)
class Colony:
    """A colony by itself."""

    id: UUID
    apiary_id: UUID
    label: str
    state: ColonyState
    is_living: bool
    state_since: date
    hive_id: UUID | None
    note: str
    version: int


@dataclass(frozen=True, slots=True)
class ColonyOverview:
    """A colony with its queen, strength, latest count and level on a day; rates in mites per 100 bees. `targeted`:
    it was chosen for that count because it was likely to be over or to tell most."""

    id: UUID
    apiary_id: UUID
    label: str
    state: ColonyState
    is_living: bool
    state_since: date
    hive_id: UUID | None
    note: str
    version: int
    queen_id: UUID | None
    queen_year: int | None
    mark_seen: MarkColour | None
    queen_status: QueenState | None
    queen_since: date | None
    laying_since: date | None
    release_on: date | None
    queen_version: int
    strength_on: date | None
    strength: float | None
    strength_unit: StrengthUnit | None
    level: Level
    is_over: bool
    level_reason: StatusReason
    level_since: date | None
    phase: Phase | None
    act_at: float | None
    scheme: SchemeId | None
    overdue_from: date | None
    count_id: UUID | None
    counted_on: date | None
    scale: Scale | None
    recovery: Recovery | None
    mites: int | None
    bees_mean: float | None
    median: float | None
    low: float | None
    high: float | None
    recount_on: date | None
    targeted: bool


@dataclass(frozen=True, slots=True)
class ColonyEvent:
    """One event of a lineage."""

    id: UUID
    colony_id: UUID
    kind: EventKind
    happened_on: date
    other_colony_id: UUID | None
    other_label: str | None
    own_label: str
    previous: str
    current: str
    previous_apiary: UUID | None
    rule: str
    override_why: str
    note: str
    by_name: str


NOBODY = UUID(int=0)
"""Matches no record: the filter of a query that takes one of several."""


@dataclass(frozen=True, slots=True)
class ColonyLabel:
    """A living colony and its label."""

    id: UUID
    label: str


@dataclass(frozen=True, slots=True)
class _Level:
    level: Level


async def labels_of_apiary(connection: Connection, apiary_id: UUID) -> list[ColonyLabel]:
    """The labels of the living colonies of an apiary, in their order."""
    return await many(connection, ColonyLabel, "labels_of_apiary", apiary_id=apiary_id)


async def colonies_of_apiary(connection: Connection, apiary_id: UUID, today: date) -> list[ColonyOverview]:
    """The colonies of an apiary, the living first."""
    return await many(connection, ColonyOverview, "colonies_of_apiary", apiary_id=apiary_id, colony_ids=[], today=today)


async def colony_overviews(connection: Connection, ids: Sequence[UUID], today: date) -> list[ColonyOverview]:
    """These colonies, wherever they stand, the living first; those that the person does not see are missing."""
    return await many(
        connection, ColonyOverview, "colonies_of_apiary", apiary_id=NOBODY, colony_ids=list(ids), today=today
    )


async def levels_of_apiary(connection: Connection, apiary_id: UUID, today: date) -> list[Level]:
    """The levels of the living colonies of an apiary."""
    found = await many(connection, _Level, "levels_of_apiary", apiary_id=apiary_id, today=today)
    return [one.level for one in found]


async def colony_overview(connection: Connection, colony_id: UUID, today: date) -> ColonyOverview:
    """One colony with everything that is known of it today. Raises NotFound."""
    return await one(
        connection,
        ColonyOverview,
        "colonies_of_apiary",
        what="colony",
        apiary_id=NOBODY,
        colony_ids=[colony_id],
        today=today,
    )


async def colony(connection: Connection, colony_id: UUID) -> Colony:
    """One colony. Raises NotFound."""
    return await one(connection, Colony, "colony", what="colony", id=colony_id)


async def colony_for_update(connection: Connection, colony_id: UUID) -> Colony:
    """One colony, held until the transaction ends. Raises NotFound."""
    return await one(connection, Colony, "colony_for_update", what="colony", id=colony_id)


@dataclass(frozen=True, slots=True)
class ColonyName:
    """What a colony is called, and where it stands."""

    id: UUID
    label: str
    apiary_id: UUID
    apiary: str


async def colony_names(connection: Connection, ids: Sequence[UUID]) -> list[ColonyName]:
    """What some colonies are called, by apiary."""
    return await many(connection, ColonyName, "colony_names", ids=list(ids))


async def colonies_by_id(connection: Connection, ids: Sequence[UUID]) -> list[Colony]:
    """The colonies among these ids that the person may see."""
    return await many(connection, Colony, "colonies_by_id", ids=list(ids))


async def colonies_for_update(connection: Connection, ids: Sequence[UUID]) -> dict[UUID, Colony]:
    """Several colonies, held until the transaction ends, always in the same order. Raises NotFound."""
    return {one: await colony_for_update(connection, one) for one in sorted(set(ids))}


async def add_colony(
    connection: Connection, *, id: UUID, apiary_id: UUID, hive_id: UUID | None, label: str, since: date, note: str
) -> None:
    """Add a colony."""
    await run(
        connection, "add_colony", id=id, apiary_id=apiary_id, hive_id=hive_id, label=label, since=since, note=note
    )


async def amend_colony(connection: Connection, amended: Colony) -> None:
    """Amend a colony. Raises Conflict when it has changed since its `version`."""
    fields = {
        "id": amended.id, "version": amended.version, "label": amended.label, "state": amended.state,
        "state_since": amended.state_since, "apiary_id": amended.apiary_id, "hive_id": amended.hive_id,
        "note": amended.note,
    }  # fmt: skip
    if await run(connection, "amend_colony", **fields) == 0:
        raise Conflict("this colony was changed by somebody else meanwhile")


async def add_event(
    connection: Connection, *, id: UUID, colony_id: UUID, kind: EventKind, happened_on: date,
    other_colony_id: UUID | None, previous: str, current: str, previous_apiary: UUID | None, rule: str,
    override_why: str, note: str,
) -> None:  # fmt: skip
    """Add to the lineage of a colony; `rule` is the hold that was set aside for it."""
    await run(
        connection, "add_colony_event", id=id, colony_id=colony_id, kind=kind, happened_on=happened_on,
        other_colony_id=other_colony_id, previous=previous, current=current, previous_apiary=previous_apiary, rule=rule,
        override_why=override_why, note=note,
    )  # fmt: skip


async def events_of_colony(connection: Connection, colony_id: UUID) -> list[ColonyEvent]:
    """The lineage of a colony, both ways, newest first."""
    return await many(connection, ColonyEvent, "events_of_colony", colony_id=colony_id)
