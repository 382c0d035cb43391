"""Hives, colonies, queens, lineage and visits."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from psycopg.types.json import Jsonb

from redframe.core.sampling.reading import Recovery
from redframe.store.database import Connection, many, one, run
from redframe.store.errors import Conflict


@dataclass(frozen=True, slots=True)
class Colony:
    """A colony by itself."""

    id: UUID
    apiary_id: UUID
    label: str
    state: str
    state_since: date
    hive_id: UUID | None
    note: str
    version: int


@dataclass(frozen=True, slots=True)
class ColonyOverview:
    """A colony with its queen, strength, latest count and standing on a day; rates in mites per 100 bees. `on_purpose`:
    it was chosen for that count because it was likely to be over or to tell most."""

    id: UUID
    apiary_id: UUID
    label: str
    state: str
    state_since: date
    hive_id: UUID | None
    note: str
    version: int
    queen_id: UUID | None
    queen_year: int | None
    mark_seen: str | None
    queen_status: str | None
    queen_since: date | None
    laying_since: date | None
    release_on: date | None
    queen_version: int
    strength_on: date | None
    strength: float | None
    strength_unit: str | None
    level: str
    level_reason: str
    level_since: date | None
    phase: str | None
    act_at: float | None
    school: str | None
    overdue_from: date | None
    count_id: UUID | None
    counted_on: date | None
    scale: str | None
    recovery: Recovery | None
    mites: int | None
    bees_mean: float | None
    median: float | None
    low: float | None
    high: float | None
    recount_on: date | None
    on_purpose: bool


@dataclass(frozen=True, slots=True)
class HiveBox:
    """One box of a hive (from the floor up), with the labels of the living colonies that share the hive and of the one
    that lives left of its divider."""

    id: UUID
    hive_type: str
    floor: str
    numbered_from: str
    divided_after: int | None
    version: int
    box_id: UUID | None
    position: int | None
    purpose: str | None
    frame_format: str | None
    frames: int | None
    since: date | None
    labels: list[str] | None
    left_label: str | None


@dataclass(frozen=True, slots=True)
class FrameFormat:
    """A frame by its outer size."""

    id: str
    name: str
    width_mm: int
    height_mm: int


@dataclass(frozen=True, slots=True)
class Queen:
    """A queen of a colony, in office while `until` is None."""

    id: UUID
    year: int | None
    mark_seen: str | None
    status: str
    since: date
    until: date | None
    laying_since: date | None
    release_on: date | None
    version: int


@dataclass(frozen=True, slots=True)
class ColonyEvent:
    """One event of a lineage."""

    id: UUID
    colony_id: UUID
    kind: str
    happened_on: date
    other_colony_id: UUID | None
    other_label: str | None
    own_label: str
    former: str
    present: str
    note: str
    by_name: str


@dataclass(frozen=True, slots=True)
class Visit:
    """What a visit found of the colony as a whole; None and "unknown" for what was not looked at."""

    id: UUID
    colony_id: UUID
    visited_on: date
    strength: float | None
    strength_unit: str | None
    capped_brood: str
    eggs_seen: bool | None
    queen_seen: bool | None
    supers_on: bool | None
    fed: bool | None
    note: str
    by_name: str
    version: int


NOBODY = UUID(int=0)
"""Matches no record: the filter of a query that takes one of several."""


async def frame_formats(connection: Connection) -> list[FrameFormat]:
    """The frame formats that a box may have."""
    return await many(connection, FrameFormat, "frame_formats")


async def colonies_of_apiary(connection: Connection, apiary_id: UUID, today: date) -> list[ColonyOverview]:
    """The colonies of an apiary, the living first."""
    return await many(
        connection, ColonyOverview, "colonies_of_apiary", apiary_id=apiary_id, colony_id=NOBODY, today=today
    )


async def colony_overview(connection: Connection, colony_id: UUID, today: date) -> ColonyOverview:
    """One colony with everything that is known of it today. Raises NotFound."""
    return await one(
        connection,
        ColonyOverview,
        "colonies_of_apiary",
        what="colony",
        apiary_id=NOBODY,
        colony_id=colony_id,
        today=today,
    )


async def colony(connection: Connection, colony_id: UUID) -> Colony:
    """One colony. Raises NotFound."""
    return await one(connection, Colony, "colony", what="colony", id=colony_id)


async def colony_for_update(connection: Connection, colony_id: UUID) -> Colony:
    """One colony, held until the transaction ends. Raises NotFound."""
    return await one(connection, Colony, "colony_for_update", what="colony", id=colony_id)


async def colonies_by_id(connection: Connection, ids: Sequence[UUID]) -> list[Colony]:
    """The colonies among these ids that the person may see."""
    return await many(connection, Colony, "colonies_by_id", ids=list(ids))


async def add_hive(
    connection: Connection,
    hive_id: UUID,
    apiary_id: UUID,
    hive_type: str,
    boxes: Sequence[dict[str, object]],
    since: date,
) -> None:
    """Add a hive with its boxes from the floor up."""
    await run(connection, "add_hive", id=hive_id, apiary_id=apiary_id, hive_type=hive_type)
    await lay_boxes(connection, hive_id, [{**box, "id": None} for box in boxes], since)


async def lay_boxes(connection: Connection, hive_id: UUID, boxes: Sequence[dict[str, object]], on: date) -> None:
    """Record the boxes of a hive, from the floor up, as they stand from a day on.

    Boxes with an `id` stay, perhaps elsewhere in the stack; those taken off keep their days.
    """
    rows = [{"position": number, **box} for number, box in enumerate(boxes, start=1)]
    await run(connection, "lay_hive_boxes", hive_id=hive_id, boxes=Jsonb(plain_ids(rows)), on=on)


def plain_ids(rows: Sequence[dict[str, object]]) -> list[dict[str, object]]:
    """Ids as text, as JSON takes them."""
    return [{name: str(value) if isinstance(value, UUID) else value for name, value in row.items()} for row in rows]


async def amend_hive(connection: Connection, hive_id: UUID, version: int, **fields: object) -> None:
    """Amend a hive. Raises Conflict when it has changed since `version`."""
    if await run(connection, "amend_hive", id=hive_id, version=version, **fields) == 0:
        raise Conflict("this hive was changed by somebody else meanwhile")


async def set_side(connection: Connection, hive_id: UUID, colony_id: UUID, side: str | None) -> None:
    """Say on which side of the divider a colony lives (None: nothing divides it); the other one gets the other side."""
    await run(connection, "set_hive_side", hive_id=hive_id, colony_id=colony_id, side=side)


async def move_hive(connection: Connection, hive_id: UUID, apiary_id: UUID) -> None:
    """Let a hive stand in another apiary."""
    await run(connection, "move_hive", id=hive_id, apiary_id=apiary_id)


async def hives_of_apiary(connection: Connection, apiary_id: UUID) -> list[HiveBox]:
    """Boxes of every hive of an apiary; a hive without boxes has one row without a position."""
    return await many(connection, HiveBox, "hives_of_apiary", apiary_id=apiary_id)


async def add_colony(connection: Connection, **fields: object) -> None:
    """Add a colony."""
    await run(connection, "add_colony", **fields)


async def amend_colony(connection: Connection, **fields: object) -> None:
    """Amend a colony. Raises Conflict when it has changed since version `version`."""
    if await run(connection, "amend_colony", **fields) == 0:
        raise Conflict("this colony was changed by somebody else meanwhile")


async def add_queen(connection: Connection, **fields: object) -> None:
    """Put a queen in office."""
    await run(connection, "add_queen", **fields)


async def retire_queen(connection: Connection, colony_id: UUID, until: date) -> None:
    """End the office of the present queen, if there is one."""
    await run(connection, "retire_queen", colony_id=colony_id, until=until)


async def amend_queen(connection: Connection, **fields: object) -> None:
    """Amend the queen in office. Raises Conflict when she has changed since version `version`."""
    if await run(connection, "amend_queen", **fields) == 0:
        raise Conflict("the queen's record was changed by somebody else meanwhile")


async def queens_of_colony(connection: Connection, colony_id: UUID) -> list[Queen]:
    """The queens of a colony, the latest first."""
    return await many(connection, Queen, "queens_of_colony", colony_id=colony_id)


async def add_event(connection: Connection, **fields: object) -> None:
    """Add to the lineage of a colony."""
    await run(connection, "add_colony_event", **fields)


async def events_of_colony(connection: Connection, colony_id: UUID) -> list[ColonyEvent]:
    """The lineage of a colony, both ways, newest first."""
    return await many(connection, ColonyEvent, "events_of_colony", colony_id=colony_id)


async def add_visit(connection: Connection, **fields: object) -> None:
    """Add a visit."""
    await run(connection, "add_visit", **fields)


async def visits_of_colonies(connection: Connection, colony_ids: Sequence[UUID], since: date) -> list[Visit]:
    """Visits of these colonies since a day, newest first."""
    return await many(connection, Visit, "visits_of_colonies", colony_ids=list(colony_ids), since=since)
