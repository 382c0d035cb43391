"""What comes in about colonies; what goes out are the shapes of `work` and `store`."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal, Self
from uuid import UUID

from pydantic import AfterValidator, Field, StringConstraints, model_validator

from redframe.api.base import Label, Note, Output, Reason, Why, Word
from redframe.core.colonies.frame_places import Away
from redframe.core.colonies.hive_state import BoxPurpose, Floor, FrameKind, Side, WantedBox
from redframe.core.colonies.holds import HoldKind
from redframe.core.colonies.lineage import CombsOfMerger, QueenOfMerger
from redframe.core.colonies.queens import MarkColour, QueenState
from redframe.core.errors import InvalidInput
from redframe.core.inputs import Input, IsoDate, printable
from redframe.core.treatments.honey import HoneyFor
from redframe.store.brood import BroodEventKind
from redframe.work.colonies.frames import NewFrame, WantedMove
from redframe.work.colonies.harvests import HeldHoney
from redframe.work.colonies.hives import Divider, HiveChange
from redframe.work.colonies.lineage import Home, Merger, WantedPlace
from redframe.work.colonies.queens import QueenRecord
from redframe.work.colonies.record import NewColony

FrameFormatId = Literal["A_deep", "A_medium", "A_shallow", "A_jumbo", "B_deep", "B_shallow", "B_extra_deep"]


class BoxInput(Input):
    """A part of the stack: brood box or super with its frames, or an eke, excluder or feeder without.

    `id` names a box that stands already and stays, perhaps elsewhere in the stack.
    """

    id: UUID | None = None
    purpose: BoxPurpose
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

    def as_box(self) -> WantedBox:
        """The box as the use case takes it."""
        return WantedBox(self.purpose, self.frame_format, self.frames, self.id)


class QueenFields(Input):
    """A queen: her year, her mark as seen, her state and since when."""

    year: Annotated[int, Field(ge=1950, le=2200)] | None = None
    mark_seen: MarkColour | None = None
    status: QueenState = "mated"
    since: IsoDate
    laying_since: IsoDate | None = None
    release_on: IsoDate | None = None

    def as_record(self) -> QueenRecord:
        """The queen as the use case takes her."""
        return QueenRecord(self.year, self.mark_seen, self.status, self.since, self.laying_since, self.release_on)


class QueenInput(QueenFields):
    """Another queen, under the device's own id; `override_why` sets a hold aside."""

    id: UUID
    override_why: Reason = ""


class QueenAmendment(QueenFields):
    """The current queen, corrected."""


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
    queen: QueenFields | None = None
    split_from: UUID | None = None
    override_why: Reason = ""

    def as_new(self) -> NewColony:
        """The colony as the use case takes it."""
        return NewColony(
            self.id, self.apiary_id, self.label, self.since, self.note, self.hive_id, self.hive_type,
            [box.as_box() for box in self.boxes], self.queen.as_record() if self.queen is not None else None,
            self.split_from, self.override_why,
        )  # fmt: skip


class ColonyAmendment(Input):
    """A colony renumbered, or in another state since a day; it is merged by its own act."""

    label: Label
    state: Literal["alive", "queenless", "dead", "gone"]
    state_since: IsoDate
    note: Note = ""


class MergeInput(Input):
    """The colony that receives this one; whose queen stays, where the combs go. `override_why` sets a hold aside."""

    into: UUID
    on: IsoDate
    queen: QueenOfMerger | None = None
    combs: CombsOfMerger | None = None
    note: Note = ""
    override_why: Reason = ""

    def as_merger(self) -> Merger:
        """The merger as the use case takes it."""
        return Merger(self.into, self.on, self.queen, self.combs, self.note, self.override_why)


class DividerInput(Input):
    """A divider after a slot, with the side of it on which this colony lives; both null where it is taken out."""

    after: Annotated[int, Field(ge=1, le=39)] | None = None
    side: Side | None = None

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
    floor: Floor | None = None
    numbered_from: Side | None = None
    divider: DividerInput | None = None
    override_why: Reason = ""

    def as_change(self) -> HiveChange:
        """The boxes as the use case takes them."""
        divider = Divider(self.divider.after, self.divider.side) if self.divider is not None else None
        boxes = [box.as_box() for box in self.boxes]
        return HiveChange(self.hive_type, boxes, self.on, self.floor, self.numbered_from, divider, self.override_why)


class MoveInput(Input):
    """Where a colony goes and how it is housed there: with its hive, in a new one of `boxes`, or sharing `hive_id`."""

    apiary_id: UUID
    hive: Home = "along"
    hive_id: UUID | None = None
    hive_type: Word = "stacked boxes"
    boxes: Annotated[list[BoxInput], Field(max_length=12)] = []
    label: Label
    on: IsoDate
    note: Note = ""
    override_why: Reason = ""

    def as_place(self) -> WantedPlace:
        """The place as the use case takes it."""
        return WantedPlace(
            self.apiary_id, self.label, self.on, self.hive, self.hive_id, self.hive_type,
            [box.as_box() for box in self.boxes], self.note, self.override_why,
        )  # fmt: skip


class NewFrameInput(Input):
    """A frame that comes in from outside."""

    kind: FrameKind
    comb_year: Annotated[int, Field(ge=1950, le=2200)] | None = None


class MoveFrameInput(Input):
    """A frame into a slot (`to_box`, `to_slot`) or away (`to_away`); `new` brings one in; `swap`: it changes places
    with the frame that hangs there. Slots count from the left."""

    id: UUID
    frame_id: UUID | None = None
    new: NewFrameInput | None = None
    to_box: UUID | None = None
    to_slot: Annotated[int, Field(ge=1, le=40)] | None = None
    to_away: Away | None = None
    swap: bool = False
    moved_on: IsoDate
    visit_id: UUID | None = None
    override_why: Reason = ""
    note: Note = ""

    def as_move(self) -> WantedMove:
        """The move as the use case takes it."""
        new = NewFrame(self.new.kind, self.new.comb_year) if self.new is not None else None
        return WantedMove(
            self.id, self.frame_id, new, self.to_box, self.to_slot, self.to_away, self.moved_on, self.visit_id,
            self.override_why, self.note, self.swap,
        )  # fmt: skip


class BroodEventInput(Input):
    """What stopped the laying; `release_on` only of a caged queen: the day on which she is, or will be, set free."""

    id: UUID
    kind: BroodEventKind
    happened_on: IsoDate
    release_on: IsoDate | None = None


class WithdrawBroodEvent(Input):
    why: Why


class HarvestOverride(Input):
    """Who takes on that honey is taken though it is not clear, and why."""

    authorised_by: Word
    reason: Why


class HarvestRow(Input):
    id: UUID
    colony_id: UUID
    honey_kg: Annotated[float, Field(allow_inf_nan=False)] | None = None


class HarvestInput(Input):
    """Honey taken from colonies on a day, for people or for bees, into one batch."""

    harvested_on: IsoDate
    honey_for: HoneyFor
    batch: Annotated[str, StringConstraints(strip_whitespace=True, max_length=80), AfterValidator(printable)] = ""
    note: Note = ""
    override: HarvestOverride | None = None
    rows: Annotated[list[HarvestRow], Field(min_length=1, max_length=100)]


class HarvestBarred(Output):
    option: str
    until: date | None


class HarvestedRow(Output):
    colony_id: UUID
    label: str
    barred: HarvestBarred | None
    held: HeldHoney | None


class WithdrawHarvest(Input):
    why: Why


class HoldInput(Input):
    """A hold from a day on: for a notifiable disease, or for another reason."""

    id: UUID
    kind: HoldKind = "other"
    since: IsoDate
    why: Why


class LiftInput(Input):
    """Why a hold is lifted."""

    why: Why
