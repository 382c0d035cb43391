"""The boxes of a hive, recorded as they stand from a day on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Literal
from uuid import UUID, uuid4

from redframe.core.colonies.hive_state import (
    Floor,
    PlacedBox,
    Side,
    WantedBox,
    boxes_with_frames_change,
    match_boxes,
)
from redframe.core.errors import InvalidInput, Refused
from redframe.core.treatments.honey import honey_barred
from redframe.store import colonies as store
from redframe.store import hives
from redframe.store.colonies import ColonyOverview
from redframe.wording.sentences import written_day
from redframe.work.colonies.changes import add_event, not_in_future, release
from redframe.work.colonies.frames import into_store
from redframe.work.roles import require
from redframe.work.treatments.in_hive import in_hives_of
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class Divider:
    """What parts two colonies in one hive: it stands after a slot and the colony spoken of lives on a side of it.

    Both are None where no divider parts them (any more).
    """

    after: int | None = None
    side: Literal["left", "right"] | None = None


@dataclass(frozen=True, slots=True)
class HiveChange:
    """The boxes of a hive from the floor up, as they stand from a day on. Floor, numbering and divider stay as they are
    where they are None. `override_why`: why supers go on although the honey is not clear."""

    hive_type: str
    boxes: Sequence[WantedBox]
    on: date
    floor: Floor | None = None
    numbered_from: Side | None = None
    divider: Divider | None = None
    override_why: str = ""


async def amend_hive(
    unit: UnitOfWork, colony_id: UUID, version: int, wanted: HiveChange, *, in_course: bool = False
) -> ColonyOverview:
    """Record the boxes of a colony's hive (`version` is the hive's; 0 where it has none).

    What stood there before keeps its days; the frames of a box that is taken off go into store. `in_course`: a step of
    a course changes them, whose plan was asked about holds. Raises Conflict when the hive has changed meanwhile,
    InvalidInput for a box that does not stand there, Refused for a box with frames that comes or goes while a hold
    stands against it, Refused("C04") for a honey super before the honey of a colony that lives in it is clear, unless
    somebody who may says why.
    """
    require(unit.who, "record")
    colony = await store.colony_for_update(unit.connection, colony_id)
    not_in_future(unit, "on", wanted.on)
    if colony.hive_id is None:
        home = uuid4()
        await hives.add_hive(unit.connection, home, colony.apiary_id, wanted.hive_type, wanted.boxes, wanted.on)
        await store.amend_colony(unit.connection, replace(colony, hive_id=home))
        return await store.colony_overview(unit.connection, colony_id, unit.today)
    placed = await hives.boxes_of_hive(unit.connection, colony.hive_id)
    latest = max((box.since for box in placed), default=wanted.on)
    if wanted.on < latest:
        raise InvalidInput("on", f"its boxes were last changed on {latest}", code="out_of_range")
    hive = await hives.hive(unit.connection, colony.hive_id)
    kept = match_boxes(placed, wanted.boxes)
    if not in_course and boxes_with_frames_change(placed, kept):
        await _release_boxes(unit, colony_id, colony.hive_id, wanted)
    await _check_supers(unit, colony.hive_id, placed, kept, wanted)
    divided_after = wanted.divider.after if wanted.divider is not None else hive.divided_after
    await hives.amend_hive(
        unit.connection, colony.hive_id, version, hive_type=wanted.hive_type, floor=wanted.floor or hive.floor,
        numbered_from=wanted.numbered_from or hive.numbered_from, divided_after=divided_after,
    )  # fmt: skip
    staying = {box.id for box in kept}
    await into_store(unit, hive, [box.id for box in placed if box.id not in staying], wanted.on)
    await hives.replace_boxes(unit.connection, colony.hive_id, kept, wanted.on)
    if wanted.divider is not None:
        await hives.set_side(unit.connection, colony.hive_id, colony_id, wanted.divider.side)
    return await store.colony_overview(unit.connection, colony_id, unit.today)


async def _release_boxes(unit: UnitOfWork, colony_id: UUID, hive_id: UUID, wanted: HiveChange) -> None:
    """Ask about the holds of everybody who lives in a hive, and of who left it dead; keep what was set aside."""
    living = await hives.colonies_of_hive(unit.connection, hive_id)
    asked = sorted({colony_id, *(lives.id for lives in living)})
    rule = await release(unit, "boxes", asked, wanted.override_why, on=wanted.on)
    if rule:
        await add_event(unit, colony_id, "boxes", wanted.on, rule=rule, why=wanted.override_why)


async def _check_supers(
    unit: UnitOfWork, hive_id: UUID, placed: Sequence[PlacedBox], kept: Sequence[WantedBox], wanted: HiveChange
) -> None:
    stands = {box.id for box in placed}
    if wanted.override_why.strip() or not any(box.purpose == "super" and box.id not in stands for box in kept):
        return
    living = await hives.colonies_of_hive(unit.connection, hive_id)
    given = await in_hives_of(unit, [lives.id for lives in living])
    for lives in living:
        barred = honey_barred(given[lives.id], wanted.on)
        if barred is not None:
            until = f"clear from {written_day(barred.until)}" if barred.until else "not clear before it is out"
            text = f"no honey supers yet: {barred.option.name} in {lives.label}, honey {until}"
            raise Refused("C04", text, field="boxes", can_override=True)
