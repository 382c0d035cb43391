"""Where every frame is, and what moving one does.

A frame hangs in a slot of a box, or it is away: in store, in the freezer, melted, burned. A slot holds one frame; two
change places only when that is said. Whatever is moved, every frame is in exactly one place.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal
from uuid import UUID

from redframe.core.errors import InvalidInput, Refused

Away = Literal["store", "freezer", "melted", "burned"]
ENDED: frozenset[str] = frozenset({"melted", "burned"})
"""From here no frame comes back."""


@dataclass(frozen=True, slots=True)
class Slot:
    """A slot of a box, counted from the left wall as seen from behind the hive."""

    box: UUID
    number: int


Place = Slot | Away


@dataclass(frozen=True, slots=True)
class Box:
    """A box that takes frames: how many, of which format, and the colony of each slot (two may share a body)."""

    id: UUID
    slots: int
    frame_format: str
    colonies: Sequence[UUID]

    def colony_at(self, slot: int) -> UUID:
        """The colony that lives around a slot."""
        return self.colonies[slot - 1]


@dataclass(frozen=True, slots=True)
class Shift:
    """One frame going from one place to another."""

    frame: UUID
    origin: Place
    target: Place


def move(
    places: Mapping[UUID, Place], boxes: Mapping[UUID, Box], frame: UUID, target: Place, *, swap: bool = False
) -> list[Shift]:
    """The shifts that moving a frame to a place makes: one, or two where it changes places (`swap`) with another.

    Raises InvalidInput for a frame or slot that is not there and for a place it is in already; Refused for a frame that
    was melted or burned, and for a slot in which another frame hangs that it is not to change places with.
    """
    if frame not in places:
        raise InvalidInput("frame_id", "there is no such frame here", code="unknown")
    origin = places[frame]
    if origin == target:
        raise InvalidInput("to", "it is there already", code="unchanged")
    if isinstance(origin, str) and origin in ENDED:
        raise Refused("ended", f"this frame was {origin}", field="frame_id")
    shifts = [Shift(frame, origin, target)]
    if isinstance(target, Slot):
        box = boxes.get(target.box)
        if box is None or not 1 <= target.number <= box.slots:
            raise InvalidInput("to", "there is no such slot", code="unknown")
        sitting = next((one for one, place in places.items() if place == target), None)
        if sitting is not None and not swap:
            raise Refused("occupied", f"a frame hangs in slot {target.number}: let the two change places", field="swap")
        if sitting is not None:
            shifts.append(Shift(sitting, target, origin))
    return shifts


def moved(places: Mapping[UUID, Place], shifts: Sequence[Shift]) -> dict[UUID, Place]:
    """The places after the shifts."""
    return {**places, **{shift.frame: shift.target for shift in shifts}}


def between_colonies(shift: Shift, boxes: Mapping[UUID, Box]) -> tuple[UUID | None, UUID | None]:
    """The colony that a frame leaves and the one it comes to; None for a place that is no hive."""

    def at(place: Place) -> UUID | None:
        if isinstance(place, Slot) and place.box in boxes:
            return boxes[place.box].colony_at(place.number)
        return None

    return at(shift.origin), at(shift.target)


def from_away(shifts: Sequence[Shift]) -> list[UUID]:
    """The frames that come into a hive from store or freezer: which colony they hung in before is to be looked up."""
    return [shift.frame for shift in shifts if isinstance(shift.origin, str) and isinstance(shift.target, Slot)]


def colonies_left(
    shifts: Sequence[Shift], boxes: Mapping[UUID, Box], hung_in: Mapping[UUID, UUID | None]
) -> list[UUID]:
    """The colonies of which a comb comes to another colony by these shifts, each once.

    `hung_in` names the colony that a frame from store hung in last (None: in none): a comb that waited in store is
    still the comb of that colony.
    """
    found: dict[UUID, None] = {}
    for shift in shifts:
        origin, target = between_colonies(shift, boxes)
        origin = origin or hung_in.get(shift.frame)
        if origin is not None and target is not None and origin != target:
            found[origin] = None
    return list(found)


def check_formats(shifts: Sequence[Shift], formats: Mapping[UUID, str], boxes: Mapping[UUID, Box]) -> None:
    """Raise Refused at `to_box` where a frame does not fit into the box that it comes to."""
    for shift in shifts:
        if isinstance(shift.target, Slot) and formats[shift.frame] != boxes[shift.target.box].frame_format:
            raise Refused("format", "this frame does not fit into that box", field="to_box")
