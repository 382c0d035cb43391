"""Colonies, hives, queens, lineage, visits."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal, Self
from uuid import UUID

from pydantic import Field, model_validator

from redframe.api.base import Frames, Label, Note, Output, Word
from redframe.core.colonies.queens import MarkColour
from redframe.core.errors import InvalidInput
from redframe.core.inputs import Input, IsoDate

FrameFormatId = Literal["A_deep", "A_medium", "A_shallow", "A_jumbo", "B_deep", "B_shallow", "B_extra_deep"]


class BoxInput(Input):
    """A part of the stack: brood box or super with its frames, or an eke, excluder or feeder without.

    `id` names a box that stands already and stays, perhaps elsewhere in the stack.
    """

    id: UUID | None = None
    purpose: Literal["brood", "super", "eke", "excluder", "feeder"]
    frame_format: FrameFormatId | None = None
    frames: Annotated[int, Field(ge=0, le=40)] = 0

    @model_validator(mode="after")
    def _frames_where_they_belong(self) -> BoxInput:
        framed = self.purpose in ("brood", "super")
        if framed and self.frames == 0:
            raise InvalidInput("frames", "say how many frames the box takes", code="missing")
        if framed and self.frame_format is None:
            raise InvalidInput("frame_format", "say which frames the box takes", code="missing")
        if not framed and (self.frames or self.frame_format is not None):
            raise InvalidInput("frames", "only brood boxes and supers take frames", code="refused")
        return self


class FrameFormat(Output):
    id: str
    name: str
    width_mm: int
    height_mm: int


QueenStatus = Literal["mated", "virgin", "caged", "queenless", "unknown"]


class NewQueen(Input):
    year: Annotated[int, Field(ge=1950, le=2200)] | None = None
    mark_seen: MarkColour | None = None
    status: QueenStatus = "mated"
    since: IsoDate
    laying_since: IsoDate | None = None
    release_on: IsoDate | None = None


class QueenInput(NewQueen):
    """`new` puts another queen in office; otherwise the present one, at `version`, is amended."""

    new: bool
    version: Annotated[int, Field(ge=0, le=1_000_000)] = 0


class ColonyInput(Input):
    """A colony in a hive of its own (`boxes` from the floor up) or sharing `hive_id`."""

    id: UUID
    apiary_id: UUID
    label: Label
    since: IsoDate
    note: Note = ""
    hive_id: UUID | None = None
    hive_type: Word = "stacked boxes"
    boxes: Annotated[list[BoxInput], Field(max_length=12)] = []
    queen: NewQueen | None = None
    split_from: UUID | None = None


class ColonyAmendment(Input):
    label: Label
    state: Literal["alive", "queenless", "dead", "gone"]
    state_since: IsoDate
    note: Note = ""


class MergeInput(Input):
    into: UUID
    on: IsoDate
    note: Note = ""


class DividerInput(Input):
    """A divider after a slot, with the side of it on which this colony lives; both null where it is taken out."""

    after: Annotated[int, Field(ge=1, le=39)] | None = None
    side: Literal["left", "right"] | None = None

    @model_validator(mode="after")
    def _both_or_neither(self) -> Self:
        if (self.after is None) != (self.side is None):
            raise ValueError("a divider needs its slot and the side on which this colony lives")
        return self


class HiveInput(Input):
    """The boxes of a colony's hive from the floor up, as they stand from a day on.

    Left out, floor, numbering and divider stay as they are.
    """

    hive_type: Word = "stacked boxes"
    boxes: Annotated[list[BoxInput], Field(min_length=1, max_length=24)]
    on: IsoDate
    floor: Literal["solid", "mesh", "mesh_with_board"] | None = None
    numbered_from: Literal["left", "right"] | None = None
    divider: DividerInput | None = None


class MoveInput(Input):
    """Where a colony goes and how it is housed there: with its hive, in a new one of `boxes`, or sharing `hive_id`."""

    apiary_id: UUID
    hive: Literal["along", "own", "shared"] = "along"
    hive_id: UUID | None = None
    hive_type: Word = "stacked boxes"
    boxes: Annotated[list[BoxInput], Field(max_length=12)] = []
    label: Label
    on: IsoDate
    note: Note = ""


class Queen(Output):
    id: UUID
    year: int | None
    mark_seen: MarkColour | None
    status: str
    since: date
    until: date | None
    laying_since: date | None
    release_on: date | None
    version: int


class QueenView(Output):
    queen: Queen
    mark_expected: MarkColour | None
    mark_differs: str | None


class ColonyEvent(Output):
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


class VisitInput(Input):
    """What a visit found of the colony as a whole; what was not looked at is left out."""

    id: UUID
    colony_id: UUID
    visited_on: IsoDate
    strength: Frames | None = None
    strength_unit: Literal["frames", "seams"] | None = None
    capped_brood: Literal["yes", "no", "unknown"] = "unknown"
    eggs_seen: bool | None = None
    queen_seen: bool | None = None
    supers_on: bool | None = None
    fed: bool | None = None
    note: Note = ""


class Visit(Output):
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
