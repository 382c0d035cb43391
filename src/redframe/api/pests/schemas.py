"""Pests, traps, the entrance."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from pydantic import Field

from redframe.api.base import Note, Reason, Why, Word
from redframe.core.inputs import Input, IsoDate
from redframe.core.pests.entrance import Device
from redframe.core.pests.pests import PestId
from redframe.core.pests.scoring import Counted
from redframe.store.pests import TrapKind
from redframe.work.pests.record import WantedCheck, WantedEntrance, WantedTrap

Counting = Annotated[int, Field(strict=True, ge=0, le=100_000)]


class CountedInput(Input):
    """What was counted: beetles on lid and bars, their eggs, larvae, slime; wasps in five minutes; combs with moth."""

    adults: Counting | None = None
    eggs: bool = False
    larvae: bool = False
    slime: bool = False
    hovering: Counting | None = None
    going_in: Counting | None = None
    stopped: bool = False
    combs: Counting | None = None
    abandoned: bool = False


class PestCheckInput(Input):
    """A pest that was scored at a colony, or at combs in store of an apiary."""

    id: UUID
    colony_id: UUID | None = None
    apiary_id: UUID | None = None
    pest: PestId
    seen_on: IsoDate
    score: Annotated[int, Field(strict=True, ge=0, le=5)] | None = None
    counted: CountedInput = CountedInput()
    done: Reason = ""
    note: Note = ""
    robbers: Annotated[list[UUID], Field(max_length=20)] = []
    robbers_seen: bool = True

    def as_wanted(self) -> WantedCheck:
        """What is recorded."""
        return WantedCheck(
            self.id, self.apiary_id, self.colony_id, self.pest, self.seen_on, self.score,
            Counted(**self.counted.model_dump()), self.done, self.note, self.robbers, self.robbers_seen,
        )  # fmt: skip


class NotSo(Input):
    """Why a check was not so."""

    why: Why


class TrapInput(Input):
    """Traps that were set in a hive."""

    id: UUID
    colony_id: UUID
    kind: TrapKind
    place: Word = ""
    number: Annotated[int, Field(strict=True, ge=1, le=40)]
    placed_on: IsoDate

    def as_wanted(self) -> WantedTrap:
        """What is recorded."""
        return WantedTrap(self.id, self.colony_id, self.kind, self.place, self.number, self.placed_on)


class TrapEmptied(Input):
    """What was in traps when they were emptied."""

    id: UUID
    emptied_on: IsoDate
    caught: Counting


class TrapOut(Input):
    """The day on which traps were taken out."""

    on: IsoDate


class EntranceInput(Input):
    """How an entrance stands from a day on; no width: as wide as it is."""

    id: UUID
    colony_id: UUID
    since: IsoDate
    width_mm: Annotated[int, Field(strict=True, ge=1, le=420)] | None = None
    device: Device
    mesh_shut: bool = False
    why: Reason = ""

    def as_wanted(self) -> WantedEntrance:
        """What is recorded."""
        return WantedEntrance(
            self.id, self.colony_id, self.since, self.width_mm, self.device, self.mesh_shut, self.why
        )  # fmt: skip
