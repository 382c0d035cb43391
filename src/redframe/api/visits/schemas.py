"""What comes in about visits; what goes out are the shapes of `work` and `core`."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from pydantic import AfterValidator, AwareDatetime, Field

from redframe.api.base import Reason
from redframe.core.inputs import Input, IsoDate, printable
from redframe.core.visits.record import After, Before, FrameRecord
from redframe.work.visits.record import FrameEntry

PhotoCaption = Annotated[str, Field(max_length=400), AfterValidator(printable)]

SignId = Annotated[str, Field(max_length=40)]


class OpenInput(Input):
    """A visit that begins at a moment, under the device's own id."""

    id: UUID
    opened_at: AwareDatetime


class PastVisitInput(Input):
    """A visit that looked at the colony as a whole; what was not looked at is left out."""

    id: UUID
    visited_on: IsoDate
    after: After


class BeforeInput(Input):
    """`version` is the one that was read; `reason` is needed once the visit is closed."""

    content: Before
    version: Annotated[int, Field(ge=0, le=1_000_000)]
    reason: Reason = ""


class AfterInput(Input):
    """`version` is the one that was read; `reason` is needed once the visit is closed."""

    content: After
    version: Annotated[int, Field(ge=0, le=1_000_000)]
    reason: Reason = ""


class FrameInput(Input):
    """What was seen in a slot; `version` is that of the entry it replaces."""

    box_id: UUID
    slot: Annotated[int, Field(ge=1, le=40)]
    version: Annotated[int, Field(ge=0, le=1_000_000)] = 0
    record: FrameRecord

    def as_entry(self) -> FrameEntry:
        """The entry as the use case takes it."""
        return FrameEntry(self.box_id, self.slot, self.version, self.record)


class FramesInput(Input):
    """What was seen in several slots."""

    frames: Annotated[list[FrameInput], Field(min_length=1, max_length=80)]
    reason: Reason = ""


class LineInput(Input):
    """A line of shorthand about one frame."""

    text: Annotated[str, Field(max_length=400)]
