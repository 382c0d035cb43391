"""A hive on a day: its boxes from the floor up, and who lives around each slot."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal
from uuid import UUID

from redframe.core.colonies.frame_places import Box
from redframe.core.errors import InvalidInput

Side = Literal["left", "right"]
Floor = Literal["solid", "mesh", "mesh_with_board"]
BoxPurpose = Literal["brood", "super", "eke", "excluder", "feeder"]
FrameKind = Literal["comb", "foundation", "drone_comb", "feeder", "dummy"]


@dataclass(frozen=True, slots=True)
class Hive:
    """A hive: its floor, the side from which its frames are numbered, the slot after which it is divided."""

    id: UUID
    apiary_id: UUID
    hive_type: str
    floor: Floor
    numbered_from: Side
    divided_after: int | None
    version: int


def frame_number(slot: int, frames: int, numbered_from: Side) -> int:
    """The number by which a slot is called: slots count from the left, people from the side that they chose."""
    return frames + 1 - slot if numbered_from == "right" else slot


@dataclass(frozen=True, slots=True)
class PlacedBox:
    """A box that stands on a hive, from the floor up."""

    id: UUID
    position: int
    purpose: BoxPurpose
    frame_format: str | None
    frames: int
    since: date


@dataclass(frozen=True, slots=True)
class HiveColony:
    """A living colony of a hive, with its side where two share it."""

    id: UUID
    label: str
    hive_side: Side | None


@dataclass(frozen=True, slots=True)
class HangingFrame:
    """A frame in a slot of a box."""

    id: UUID
    box_id: UUID
    slot: int
    kind: FrameKind
    frame_format: str
    comb_year: int | None


@dataclass(frozen=True, slots=True)
class HiveState:
    """A hive with its boxes and who lives around each slot."""

    hive: Hive
    boxes: Sequence[PlacedBox]
    colonies: Sequence[HiveColony]

    def as_boxes(self) -> dict[UUID, Box]:
        """The boxes that take frames, as the core sees them."""
        return {
            box.id: Box(
                box.id, box.frames, box.frame_format or "", [self.owner(slot) for slot in range(1, box.frames + 1)]
            )
            for box in self.boxes
            if box.frames and self.colonies
        }

    def owner(self, slot: int) -> UUID:
        """The colony around a slot: the divider parts two; without one, or with one colony, it is the first."""
        if len(self.colonies) > 1 and self.hive.divided_after is not None:
            side = "left" if slot <= self.hive.divided_after else "right"
            found = next((one for one in self.colonies if one.hive_side == side), None)
            if found is not None:
                return found.id
        return self.colonies[0].id


@dataclass(frozen=True, slots=True)
class WantedBox:
    """A box as somebody wants it to stand; `id` names one that stands already and stays, perhaps elsewhere in the
    stack."""

    purpose: BoxPurpose
    frame_format: str | None = None
    frames: int = 0
    id: UUID | None = None


def boxes_with_frames_change(placed: Sequence[PlacedBox], kept: Sequence[WantedBox]) -> bool:
    """Whether a box that holds frames comes onto a hive or leaves it; ekes, excluders and feeders carry no comb."""
    stays = {box.id for box in kept}
    stood = {box.id for box in placed}
    return any(box.frames > 0 and box.id not in stays for box in placed) or any(
        box.frames > 0 and box.id not in stood for box in kept
    )


def match_boxes(placed: Sequence[PlacedBox], wanted: Sequence[WantedBox]) -> list[WantedBox]:
    """The wanted boxes with the ids of those that stand: by id, or where none is given the like box at the same place.

    Raises InvalidInput for a box that does not stand there, stands twice, or would change its frames.
    """
    known = {box.id: box for box in placed}
    named = [box.id for box in wanted if box.id is not None]
    matched: list[WantedBox] = []
    for number, box in enumerate(wanted):
        if box.id is not None:
            found = known.get(box.id)
            if found is None or named.count(box.id) > 1:
                raise InvalidInput(f"boxes[{number}].id", "is not a box of this hive", code="unknown")
            if (found.frame_format, found.frames) != (box.frame_format, box.frames):
                raise InvalidInput(f"boxes[{number}].frames", "a box that stays keeps its frames: add another box")
        else:
            like = (box.purpose, box.frame_format, box.frames)
            same = (one for one in placed if one.position == number + 1 and one.id not in named)
            found = next((one for one in same if (one.purpose, one.frame_format, one.frames) == like), None)
        matched.append(WantedBox(box.purpose, box.frame_format, box.frames, found.id if found is not None else None))
    return matched
