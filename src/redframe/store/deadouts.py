"""Examinations of dead colonies, what was excluded, where combs and boxes go, and the winters of an association."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any, Literal
from uuid import UUID

from psycopg.types.json import Jsonb

from redframe.core.colonies.states import ColonyState
from redframe.core.deadouts.fates import FateId
from redframe.core.deadouts.signs import DeadStep
from redframe.core.sampling.method import Scale
from redframe.core.status.status import Level
from redframe.store.database import Connection, many, maybe, one, run, scalar
from redframe.store.errors import Conflict, NotFound
from redframe.store.frames import Frame

DeadOutState = Literal["draft", "closed", "dropped"]
FoundBy = Literal["examination", "laboratory"]
MOST_LISTED = 500


@dataclass(frozen=True, slots=True)
class DeadOut:
    """An examination of a dead colony; `kept`: what it came to when it was closed; `is_past`: the colony lives
    after all."""

    id: UUID
    colony_id: UUID
    state: DeadOutState
    found_on: date
    examined_on: date
    opened_at: datetime
    closed_at: datetime | None
    kept: dict[str, Any] | None
    cause: str | None
    chain: list[str]
    was_avoidable: bool | None
    is_complete: bool
    is_suspect: bool
    is_past: bool
    by_name: str
    version: int


@dataclass(frozen=True, slots=True)
class StepRow:
    """A step as it was saved."""

    step: DeadStep
    record: dict[str, Any]
    version: int
    by_name: str
    saved_at: datetime


@dataclass(frozen=True, slots=True)
class DeadOutLine:
    """A colony that died, and how far its examination is; `to_do`: combs and boxes whose fate waits to be carried
    out."""

    colony_id: UUID
    label: str
    colony_state: ColonyState
    state_since: date
    apiary_id: UUID
    apiary: str
    keeper: str
    deadout_id: UUID | None
    state: DeadOutState | None
    cause: str | None
    chain: list[str] | None
    is_suspect: bool | None
    is_complete: bool | None
    is_cleared: bool
    to_do: int


@dataclass(frozen=True, slots=True)
class RecordRow:
    """What the record of a colony holds of its last year; None: nothing is on record."""

    counted_on: date | None
    rate: float | None
    scale: Scale | None
    act_at: float | None
    level: Level
    stores_kg: float | None
    stores_on: date | None
    frames_summer: float | None
    frames_autumn: float | None
    frames_on: date | None
    queen_year: int | None
    queen_signs: list[str]
    eggs_looked_on: date | None
    last_visit_on: date | None
    spray_on: date | None
    foul_contact: bool
    neighbours: int
    neighbours_lost: int


@dataclass(frozen=True, slots=True)
class Settled:
    """What lists and reports read of an examination when it is closed."""

    cause: str | None
    chain: list[str]
    was_avoidable: bool
    is_complete: bool
    is_suspect: bool


@dataclass(frozen=True, slots=True)
class DeadOutPhoto:
    """A photo of a step without its picture."""

    id: UUID
    step: str
    caption: str
    width: int
    height: int
    created_at: datetime
    by_name: str


@dataclass(frozen=True, slots=True)
class Exclusion:
    """That foulbrood was excluded: by what, when, by whom."""

    id: UUID
    found_by: FoundBy
    excluded_on: date
    reference: str
    why: str
    by_name: str


@dataclass(frozen=True, slots=True)
class Fate:
    """Where a comb goes, or the box (`frame_id` None), and when that was done."""

    id: UUID
    box_id: UUID
    frame_id: UUID | None
    fate: FateId
    decided_on: date
    done_on: date | None
    reason: str
    by_name: str
    version: int


@dataclass(frozen=True, slots=True)
class WinteredRow:
    """A colony that went into a winter and what became of it."""

    colony_id: UUID
    apiary: str
    is_lost: bool
    cause: str | None
    was_avoidable: bool | None
    frames: float | None
    treated_on: date | None
    is_merged: bool


async def add_deadout(
    connection: Connection, id: UUID, colony_id: UUID, found_on: date, examined_on: date, opened_at: datetime
) -> None:
    """Open an examination."""
    await run(
        connection, "add_deadout", id=id, colony_id=colony_id, found_on=found_on, examined_on=examined_on,
        opened_at=opened_at,
    )  # fmt: skip


async def deadout(connection: Connection, id: UUID, *, hold: bool = False) -> DeadOut:
    """An examination, held until the transaction ends where asked. Raises NotFound."""
    return await one(connection, DeadOut, "lock_deadout" if hold else "deadout_by_id", what="examination", id=id)


async def deadout_of_colony(connection: Connection, colony_id: UUID) -> UUID | None:
    """The examination of a colony, if any."""
    found: UUID | None = await scalar(connection, "deadout_of_colony", colony_id=colony_id)
    return found


async def steps(connection: Connection, deadout_id: UUID) -> list[StepRow]:
    """The steps that were saved."""
    return await many(connection, StepRow, "deadout_steps", deadout_id=deadout_id)


async def save_step(
    connection: Connection, deadout_id: UUID, colony_id: UUID, step: DeadStep, version: int, record: dict[str, Any]
) -> None:
    """Save a step. Raises Conflict with its name when somebody else has saved it since `version`."""
    saved = await run(
        connection, "save_deadout_step", deadout_id=deadout_id, colony_id=colony_id, step=step, version=version,
        record=Jsonb(record),
    )  # fmt: skip
    if saved != 1:
        raise Conflict("somebody else has recorded this step meanwhile", step)


async def close_deadout(
    connection: Connection, id: UUID, settled: Settled, kept: dict[str, Any], closed_at: datetime
) -> None:
    """Close an examination, or settle it again."""
    await run(
        connection, "close_deadout", id=id, kept=Jsonb(kept), closed_at=closed_at, cause=settled.cause,
        chain=settled.chain, was_avoidable=settled.was_avoidable, is_complete=settled.is_complete,
        is_suspect=settled.is_suspect,
    )  # fmt: skip


async def drop_deadout(connection: Connection, id: UUID) -> None:
    """Drop a draft. Raises Conflict for a closed examination."""
    if await run(connection, "drop_deadout", id=id) != 1:
        raise Conflict("this examination is closed: amend it, and say why")


async def deadout_lines(connection: Connection, since: date, apiary_id: UUID | None) -> list[DeadOutLine]:
    """Colonies that died since a day, those not examined first."""
    return await many(
        connection, DeadOutLine, "list_deadouts", since=since, apiary_id=apiary_id, most=MOST_LISTED
    )  # fmt: skip


async def record_of(
    connection: Connection, colony_id: UUID, on: date, bees_from: date | None, queen_signs: Sequence[str]
) -> RecordRow:
    """What the record of a colony holds of the year before a day. Raises NotFound."""
    return await one(
        connection, RecordRow, "deadout_record", what="colony", colony_id=colony_id, on=on, bees_from=bees_from,
        queen_signs=list(queen_signs),
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class StepPicture:
    """A picture of a step and a small one, both JPEG, and the size of the first in pixels."""

    step: DeadStep
    caption: str
    picture: bytes
    thumbnail: bytes
    width: int
    height: int


async def add_photo(
    connection: Connection, photo_id: UUID, deadout_id: UUID, colony_id: UUID, photo: StepPicture
) -> None:
    """Keep a photo."""
    await run(
        connection, "add_deadout_photo", id=photo_id, deadout_id=deadout_id, colony_id=colony_id, step=photo.step,
        caption=photo.caption, width=photo.width, height=photo.height, picture=photo.picture, thumbnail=photo.thumbnail,
    )  # fmt: skip


async def photos(connection: Connection, deadout_id: UUID) -> list[DeadOutPhoto]:
    """The photos of an examination, the first first."""
    return await many(connection, DeadOutPhoto, "photos_of_deadout", deadout_id=deadout_id)


async def picture(connection: Connection, photo_id: UUID, *, small: bool) -> bytes:
    """A photo's picture as JPEG. Raises NotFound."""
    name = "deadout_photo_small" if small else "deadout_photo_whole"
    found: bytes | None = await scalar(connection, name, id=photo_id)
    if found is None:
        raise NotFound("photo")
    return found


@dataclass(frozen=True, slots=True)
class NewExclusion:
    """That foulbrood is excluded for a colony: by its examination, or by a laboratory under a reference."""

    colony_id: UUID
    deadout_id: UUID | None
    found_by: FoundBy
    excluded_on: date
    reference: str
    why: str


async def add_exclusion(connection: Connection, id: UUID, new: NewExclusion) -> None:
    """Record an exclusion."""
    await run(
        connection, "add_exclusion", id=id, colony_id=new.colony_id, deadout_id=new.deadout_id, found_by=new.found_by,
        excluded_on=new.excluded_on, reference=new.reference, why=new.why,
    )  # fmt: skip


async def withdraw_exclusion(connection: Connection, colony_id: UUID, on: date, why: str) -> bool:
    """Withdraw the exclusion of a colony; False where there is none."""
    return await run(connection, "withdraw_exclusion", colony_id=colony_id, on=on, why=why) == 1


async def exclusion(connection: Connection, colony_id: UUID) -> Exclusion | None:
    """The exclusion of a colony that stands, if any."""
    return await maybe(connection, Exclusion, "exclusion_of_colony", colony_id=colony_id)


async def fates(connection: Connection, colony_id: UUID) -> list[Fate]:
    """What was decided of combs and boxes of a colony."""
    return await many(connection, Fate, "fates_of_colony", colony_id=colony_id)


async def decide_fates(
    connection: Connection, colony_id: UUID, items: Sequence[tuple[UUID, UUID | None]], fate: FateId, on: date,
    reason: str,
) -> None:  # fmt: skip
    """Decide where items (a box, and a frame in it or None for the box itself) go."""
    await run(
        connection, "decide_fates", colony_id=colony_id, box_ids=[box for box, _ in items],
        frame_ids=[frame for _, frame in items], fate=fate, on=on, reason=reason,
    )  # fmt: skip


async def fates_done(connection: Connection, ids: Sequence[UUID], on: date) -> None:
    """Say that these were carried out."""
    await run(connection, "fates_done", ids=list(ids), on=on)


async def frames_by_id(connection: Connection, ids: Sequence[UUID]) -> list[Frame]:
    """Frames wherever they are."""
    return await many(connection, Frame, "frames_by_id", ids=list(ids))


@dataclass(frozen=True, slots=True)
class WinterDays:
    """The days by which a winter is told: from and until, the autumn visits that tell the size going in, and from when
    on a treatment is one of that season."""

    since: date
    until: date
    size_from: date
    size_until: date
    treated_from: date


async def wintered(connection: Connection, days: WinterDays) -> list[WinteredRow]:
    """Colonies that went into a winter."""
    return await many(
        connection, WinteredRow, "wintered", since=days.since, until=days.until, size_from=days.size_from,
        size_until=days.size_until, treated_from=days.treated_from,
    )  # fmt: skip
