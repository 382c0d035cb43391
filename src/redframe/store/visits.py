"""Visits with their frames, where every frame is and how it came there, photos, holds."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any
from uuid import UUID

from psycopg.types.json import Jsonb

from redframe.store.database import Connection, many, maybe, one, run, scalar
from redframe.store.errors import Conflict, NotFound


@dataclass(frozen=True, slots=True)
class OpenVisit:
    """A visit as it stands: `before` and `after` as recorded, each with its own version."""

    id: UUID
    colony_id: UUID
    visited_on: date
    state: str
    opened_at: datetime | None
    closed_at: datetime | None
    before: dict[str, Any]
    before_version: int
    after: dict[str, Any]
    after_version: int
    version: int
    by_name: str


@dataclass(frozen=True, slots=True)
class VisitFrame:
    """What a visit recorded of the frame in one slot."""

    visit_id: UUID
    box_id: UUID
    slot: int
    frame_id: UUID | None
    record: dict[str, Any]
    version: int
    by_name: str
    kept_at: datetime


@dataclass(frozen=True, slots=True)
class PastVisit:
    """An earlier visit: how many frames it looked at and what it found of the colony."""

    id: UUID
    visited_on: date
    frames: int
    frames_of_bees: float | None
    frames_of_brood: float | None
    stores_kg: float | None
    capped_cells: float | None
    temper: int | None
    pattern_empty_pct: float | None
    strength: float | None
    strength_unit: str | None


@dataclass(frozen=True, slots=True)
class Neighbour:
    """Another colony of the apiary at its latest visit."""

    colony_id: UUID
    visited_on: date
    frames_of_bees: float | None
    frames_of_brood: float | None
    capped_cells: float | None
    stores_kg: float | None


@dataclass(frozen=True, slots=True)
class Hive:
    """A hive: its floor, the side from which its frames are numbered, the slot after which it is divided."""

    id: UUID
    apiary_id: UUID
    hive_type: str
    floor: str
    numbered_from: str
    divided_after: int | None
    version: int


@dataclass(frozen=True, slots=True)
class StandingBox:
    """A box that stands on a hive, from the floor up."""

    id: UUID
    position: int
    purpose: str
    frame_format: str | None
    frames: int
    since: date


@dataclass(frozen=True, slots=True)
class Dweller:
    """A living colony of a hive, with its side where two share it."""

    id: UUID
    label: str
    hive_side: str | None


@dataclass(frozen=True, slots=True)
class Frame:
    """A frame and where it is."""

    id: UUID
    apiary_id: UUID
    kind: str
    frame_format: str
    comb_year: int | None
    box_id: UUID | None
    slot: int | None
    away: str | None
    version: int


@dataclass(frozen=True, slots=True)
class FrameMove:
    """One move of one frame, as tracing reads it."""

    id: UUID
    act_id: UUID
    frame_id: UUID
    visit_id: UUID | None
    moved_on: date
    from_colony: UUID | None
    from_box: UUID | None
    from_slot: int | None
    from_away: str | None
    to_colony: UUID | None
    to_box: UUID | None
    to_slot: int | None
    to_away: str | None
    rule: str
    override_why: str
    note: str
    by_name: str
    from_label: str | None
    to_label: str | None


@dataclass(frozen=True, slots=True)
class HeldBack:
    """What keeps the combs of a colony where they are: a hold, its death, unexplained signs."""

    colony_id: UUID
    label: str
    state: str
    hold: str | None
    suspicious: list[str] | None


@dataclass(frozen=True, slots=True)
class Hold:
    """An open hold of a colony."""

    id: UUID
    colony_id: UUID
    since: date
    why: str
    by_name: str


@dataclass(frozen=True, slots=True)
class RoundStop:
    """A colony of a round: whether somebody is at it, when it was opened last, and what makes it a suspect."""

    id: UUID
    label: str
    draft: UUID | None
    last_visit: date | None
    next_visit: date | None
    hold: str | None
    suspicious: list[str]


@dataclass(frozen=True, slots=True)
class Photo:
    """A photo without its picture."""

    id: UUID
    visit_id: UUID
    box_id: UUID | None
    slot: int | None
    sign: str
    caption: str
    width: int
    height: int
    made_at: datetime
    by_name: str


async def open_visit(
    connection: Connection, *, id: UUID, colony_id: UUID, visited_on: date, opened_at: datetime
) -> None:
    """Open a draft."""
    await run(connection, "open_visit", id=id, colony_id=colony_id, visited_on=visited_on, opened_at=opened_at)


async def draft_of_colony(connection: Connection, colony_id: UUID) -> UUID | None:
    """The draft that somebody has open of a colony, if any."""
    found: UUID | None = await scalar(connection, "draft_of_colony", colony_id=colony_id)
    return found


async def visit(connection: Connection, visit_id: UUID, *, hold: bool = False) -> OpenVisit:
    """A visit; `hold` keeps it until the transaction ends. Raises NotFound."""
    return await one(connection, OpenVisit, "lock_visit" if hold else "visit_by_id", what="visit", id=visit_id)


async def keep_part(connection: Connection, visit_id: UUID, part: str, version: int, content: dict[str, Any]) -> None:
    """Keep `before` or `after` of a visit. Raises Conflict when it has changed since `version`."""
    name = "keep_before" if part == "before" else "keep_after"
    if await run(connection, name, id=visit_id, version=version, content=Jsonb(content)) == 0:
        raise Conflict("somebody else recorded this meanwhile", part)


async def close_visit(connection: Connection, **fields: object) -> None:
    """Close a visit, or lay its summary anew after an amendment."""
    await run(connection, "close_visit", **fields)


async def drop_visit(connection: Connection, visit_id: UUID, closed_at: datetime) -> None:
    """Drop a draft."""
    await run(connection, "drop_visit", id=visit_id, closed_at=closed_at)


async def frames_of_visits(connection: Connection, visit_ids: Sequence[UUID]) -> list[VisitFrame]:
    """What these visits recorded, frame by frame."""
    return await many(connection, VisitFrame, "frames_of_visits", visit_ids=list(visit_ids))


async def keep_frame(
    connection: Connection, *, visit_id: UUID, box_id: UUID, slot: int, colony_id: UUID, frame_id: UUID | None,
    version: int, record: dict[str, Any],
) -> None:  # fmt: skip
    """Keep what was seen in a slot; `version` 0 where nothing was kept. Raises Conflict when it has changed since."""
    shared = {"visit_id": visit_id, "box_id": box_id, "slot": slot, "frame_id": frame_id, "record": Jsonb(record)}
    if version == 0:
        done = await run(connection, "add_visit_frame", colony_id=colony_id, **shared)
    else:
        done = await run(connection, "amend_visit_frame", version=version, **shared)
    if done == 0:
        raise Conflict("somebody else recorded this frame meanwhile", "version")


async def visits_to_compare(connection: Connection, visit_id: UUID, colony_id: UUID, on: date) -> list[PastVisit]:
    """Closed visits of a colony up to a day, newest first."""
    return await many(connection, PastVisit, "visits_to_compare", id=visit_id, colony_id=colony_id, on=on)


async def neighbours(
    connection: Connection, apiary_id: UUID, colony_id: UUID, since: date, on: date
) -> list[Neighbour]:
    """The other living colonies of the apiary at their latest visit in a span."""
    return await many(
        connection, Neighbour, "apiary_at_visits", apiary_id=apiary_id, colony_id=colony_id, since=since, on=on
    )


async def hive(connection: Connection, hive_id: UUID) -> Hive:
    """A hive. Raises NotFound."""
    return await one(connection, Hive, "hive_by_id", what="hive", id=hive_id)


async def hive_of_box(connection: Connection, box_id: UUID) -> UUID | None:
    """The hive on which a box stands, None where it does not stand."""
    found: UUID | None = await scalar(connection, "hive_of_box", box_id=box_id)
    return found


async def last_colony_of_frame(connection: Connection, frame_id: UUID) -> UUID | None:
    """The colony that a frame was taken from last, None where it never hung in one."""
    found: UUID | None = await scalar(connection, "last_colony_of_frame", frame_id=frame_id)
    return found


async def boxes_of_hive(connection: Connection, hive_id: UUID) -> list[StandingBox]:
    """The boxes that stand, from the floor up."""
    return await many(connection, StandingBox, "boxes_of_hive", hive_id=hive_id)


async def dwellers(connection: Connection, hive_id: UUID) -> list[Dweller]:
    """The living colonies of a hive."""
    return await many(connection, Dweller, "colonies_of_hive", hive_id=hive_id)


async def lay_frames(connection: Connection, hive_id: UUID) -> None:
    """Give each box that was never told to have frames a comb in every slot."""
    await run(connection, "lay_frames", hive_id=hive_id)


async def frames_of_boxes(connection: Connection, box_ids: Sequence[UUID]) -> list[Frame]:
    """The frames that hang in these boxes."""
    return await many(connection, Frame, "frames_of_boxes", box_ids=list(box_ids))


async def frames_away(connection: Connection, apiary_id: UUID) -> list[Frame]:
    """Frames of an apiary in store or in the freezer."""
    return await many(connection, Frame, "frames_away", apiary_id=apiary_id)


async def lock_frames(connection: Connection, ids: Sequence[UUID], box_id: UUID, slot: int) -> list[Frame]:
    """These frames and the one in a slot, held until the transaction ends."""
    return await many(connection, Frame, "lock_frames", ids=list(ids), box_id=box_id, slot=slot)


async def add_frame(connection: Connection, **fields: object) -> None:
    """Add a frame to the store of an apiary."""
    await run(connection, "add_frame", **fields)


async def place_frame(connection: Connection, **fields: object) -> None:
    """Say where a frame is from now on."""
    await run(connection, "place_frame", **fields)


async def add_frame_move(connection: Connection, **fields: object) -> None:
    """Record one frame's move."""
    await run(connection, "add_frame_move", **fields)


async def moves_of_colony(connection: Connection, colony_id: UUID) -> list[FrameMove]:
    """Moves of frames from and to a colony, newest first."""
    return await many(connection, FrameMove, "moves_of_colony", colony_id=colony_id)


async def held_back(connection: Connection, colony_ids: Sequence[UUID], on: date) -> list[HeldBack]:
    """What keeps the combs of these colonies where they are."""
    return await many(connection, HeldBack, "held_back", ids=list(colony_ids), on=on)


async def add_hold(connection: Connection, **fields: object) -> None:
    """Put a colony on hold."""
    await run(connection, "add_hold", **fields)


async def lift_hold(connection: Connection, colony_id: UUID, until: date, why: str) -> None:
    """End the hold of a colony. Raises NotFound where none is open."""
    if await run(connection, "lift_hold", colony_id=colony_id, until=until, why=why) == 0:
        raise NotFound("hold")


async def hold_of_colony(connection: Connection, colony_id: UUID) -> Hold | None:
    """The open hold of a colony, if any."""
    return await maybe(connection, Hold, "hold_of_colony", colony_id=colony_id)


async def round_of_apiary(connection: Connection, apiary_id: UUID, on: date) -> list[RoundStop]:
    """The living colonies of an apiary in the order of a round, suspects last."""
    return await many(connection, RoundStop, "round_of_apiary", apiary_id=apiary_id, on=on)


async def add_photo(connection: Connection, **fields: object) -> None:
    """Keep a photo."""
    await run(connection, "add_photo", **fields)


async def photos_of_visit(connection: Connection, visit_id: UUID) -> list[Photo]:
    """The photos of a visit, without their pictures."""
    return await many(connection, Photo, "photos_of_visit", visit_id=visit_id)


async def picture(connection: Connection, photo_id: UUID, *, small: bool) -> bytes:
    """A photo's picture as JPEG. Raises NotFound."""
    found: bytes | None = await scalar(connection, "thumbnail" if small else "picture", id=photo_id)
    if found is None:
        raise NotFound("photo")
    return found
