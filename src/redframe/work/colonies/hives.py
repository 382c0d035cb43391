"""The boxes of a hive as they stand, and amending them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, Literal
from uuid import UUID, uuid4

from redframe.core.colonies.frame_places import Box
from redframe.core.errors import InvalidInput
from redframe.store import colonies as store
from redframe.store import hives
from redframe.store.colonies import ColonyOverview
from redframe.store.hives import Dweller, Hive, StandingBox
from redframe.work.colonies import frames as colonies_frames
from redframe.work.colonies.record import (
    _amend,
    _not_in_future,
)
from redframe.work.roles import require
from redframe.work.unit_of_work import Work


@dataclass(frozen=True, slots=True)
class Divider:
    """What parts two colonies in one hive: it stands after a slot and the colony spoken of lives on a side of it.

    Both are None where no divider parts them (any more).
    """

    after: int | None = None
    side: Literal["left", "right"] | None = None


async def amend_hive(
    work: Work,
    colony_id: UUID,
    version: int,
    *,
    hive_type: str,
    boxes: Sequence[dict[str, Any]],
    on: date,
    floor: str | None = None,
    numbered_from: str | None = None,
    divider: Divider | None = None,
) -> ColonyOverview:
    """Record the boxes of a colony's hive as they stand from a day on (`version` is the hive's; 0 where it has none).

    What stood there before keeps its days; the frames of a box that is taken off go into store. Raises Conflict when
    the hive has changed meanwhile, InvalidInput for a box that does not stand there. Floor, numbering and divider stay
    as they are where they are None.
    """
    require(work.who, "record")
    colony = await store.colony_for_update(work.connection, colony_id)
    _not_in_future(work, "on", on)
    if colony.hive_id is None:
        home = uuid4()
        await hives.add_hive(work.connection, home, colony.apiary_id, hive_type, boxes, on)
        await _amend(
            work, colony, colony.version, label=colony.label, state=colony.state, state_since=colony.state_since,
            note=colony.note, hive_id=home,
        )  # fmt: skip
    else:
        standing = await hives.boxes_of_hive(work.connection, colony.hive_id)
        latest = max((box.since for box in standing), default=on)
        if on < latest:
            raise InvalidInput("on", f"its boxes were last changed on {latest}", code="out_of_range")
        present = await hives.hive(work.connection, colony.hive_id)
        kept = keep_identity(standing, boxes)
        await hives.amend_hive(
            work.connection, colony.hive_id, version, hive_type=hive_type, floor=floor or present.floor,
            numbered_from=numbered_from or present.numbered_from,
            divided_after=divider.after if divider is not None else present.divided_after,
        )  # fmt: skip
        staying = {box.get("id") for box in kept}
        await colonies_frames.into_store(work, present, [box.id for box in standing if box.id not in staying], on)
        await hives.lay_boxes(work.connection, colony.hive_id, kept, on)
        if divider is not None:
            await hives.set_side(work.connection, colony.hive_id, colony_id, divider.side)
    return await store.colony_overview(work.connection, colony_id, work.today)


def keep_identity(standing: Sequence[StandingBox], boxes: Sequence[dict[str, Any]]) -> list[dict[str, Any]]:
    """The wanted boxes with the ids of those that stand: by id, or where none is given the like box at the same place.

    Raises InvalidInput for a box that does not stand there, stands twice, or would change its frames.
    """
    known = {box.id: box for box in standing}
    named = [box["id"] for box in boxes if box.get("id") is not None]
    kept: list[dict[str, Any]] = []
    for number, box in enumerate(boxes):
        like = (box["purpose"], box.get("frame_format"), box.get("frames", 0))
        wanted = box.get("id")
        if wanted is not None:
            found = known.get(wanted)
            if found is None or named.count(wanted) > 1:
                raise InvalidInput(f"boxes[{number}].id", "is not a box of this hive", code="unknown")
            if (found.frame_format, found.frames) != like[1:]:
                raise InvalidInput(f"boxes[{number}].frames", "a box that stays keeps its frames: add another box")
        else:
            same = (one for one in standing if one.position == number + 1 and one.id not in named)
            found = next((one for one in same if (one.purpose, one.frame_format, one.frames) == like), None)
        kept.append({**box, "id": found.id if found is not None else None})
    return kept


@dataclass(frozen=True, slots=True)
class Standing:
    """A hive with its boxes and who lives around each slot."""

    hive: Hive
    boxes: Sequence[StandingBox]
    dwellers: Sequence[Dweller]

    def as_boxes(self) -> dict[UUID, Box]:
        """The boxes that take frames, as the core sees them."""
        return {
            box.id: Box(
                box.id, box.frames, box.frame_format or "", [self.owner(slot) for slot in range(1, box.frames + 1)]
            )
            for box in self.boxes
            if box.frames and self.dwellers
        }

    def owner(self, slot: int) -> UUID:
        """The colony around a slot: the divider parts two; without one, or with one colony, it is the first."""
        if len(self.dwellers) > 1 and self.hive.divided_after is not None:
            side = "left" if slot <= self.hive.divided_after else "right"
            found = next((one for one in self.dwellers if one.hive_side == side), None)
            if found is not None:
                return found.id
        return self.dwellers[0].id


async def standing_hive(work: Work, hive_id: UUID) -> Standing:
    """A hive as it stands."""
    return Standing(
        await hives.hive(work.connection, hive_id),
        await hives.boxes_of_hive(work.connection, hive_id),
        await hives.dwellers(work.connection, hive_id),
    )
