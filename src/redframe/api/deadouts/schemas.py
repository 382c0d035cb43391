"""Dead colonies."""

from __future__ import annotations

from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from redframe.api.base import Reason, Why, Word
from redframe.core.deadouts.fates import FateId
from redframe.core.deadouts.record import DeadStepRecord
from redframe.core.inputs import Input, IsoDate, Moment
from redframe.store.deadouts import FoundBy
from redframe.work.deadouts.exclusion import WantedExclusion
from redframe.work.deadouts.fates import Item
from redframe.work.deadouts.record import NewDeadOut


class DeadOutInput(Input):
    """A colony that was found dead, or gone; its examination begins."""

    id: UUID
    colony_id: UUID
    found_on: IsoDate
    found: Literal["dead", "gone"] = "dead"
    opened_at: Moment

    def as_new(self) -> NewDeadOut:
        """What is opened."""
        return NewDeadOut(self.id, self.colony_id, self.found_on, self.found, self.opened_at)


class DeadStepInput(Input):
    """A step; `version` is that of the step it replaces, 0 for a new one; `reason`: why a closed one is amended."""

    version: Annotated[int, Field(strict=True, ge=0)]
    content: DeadStepRecord
    reason: Reason = ""


class ExclusionInput(Input):
    """Foulbrood is excluded."""

    id: UUID
    found_by: FoundBy
    excluded_on: IsoDate
    reference: Word = ""
    why: Why

    def as_wanted(self) -> WantedExclusion:
        """What is recorded."""
        return WantedExclusion(self.id, self.found_by, self.excluded_on, self.reference, self.why)


class WithdrawalInput(Input):
    """Why an exclusion does not hold."""

    why: Why


class FateItem(Input):
    """A comb of a box, or the box itself."""

    box_id: UUID
    frame_id: UUID | None = None


class FatesInput(Input):
    """Where some combs or boxes go, and why this way."""

    items: Annotated[list[FateItem], Field(min_length=1, max_length=200)]
    fate: FateId
    reason: Reason = ""

    def as_items(self) -> list[Item]:
        """The items."""
        return [Item(one.box_id, one.frame_id) for one in self.items]


class CarriedOut(Input):
    """All that was to go one way went it, on a day."""

    fate: FateId
    on: IsoDate
