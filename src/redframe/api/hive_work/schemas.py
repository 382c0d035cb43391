"""The work at the hive of a course: as it stands, and an act of it."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from redframe.api.base import Note, Output, Why, Word
from redframe.api.treatments.schemas import OverrideInput
from redframe.core.colonies.frame_places import Away
from redframe.core.colonies.hive_state import PlacedBox, Side
from redframe.core.colonies.queens import MarkColour
from redframe.core.inputs import Input, IsoDate, Number
from redframe.core.treatments.hive_work import ActState, Writes
from redframe.core.treatments.overrides import Override
from redframe.core.visits.record import Feed
from redframe.store.colonies import ColonyLabel
from redframe.work.treatments.hive_work import Comb, Hatching, HiveWorkView, NewHiveAct
from redframe.work.treatments.hive_writes import HiveActDetails

MOST_FRAMES = 120
MOST_IN_BOX = 40


class HiveActInput(Input):
    """An act with what it asks for (`frame_ids`: the combs that came out; `feed_amount` in litres of syrup, or kg)."""

    id: UUID
    act: Annotated[str, Field(pattern="^[a-z_]{1,40}$")]
    done_on: IsoDate
    frame_ids: Annotated[list[UUID], Field(max_length=MOST_FRAMES)] = []
    fate: Away | None = None
    hatch_with: UUID | None = None
    fill: Literal["comb", "foundation"] | None = None
    box_id: UUID | None = None
    slot: Annotated[int, Field(ge=1, le=MOST_IN_BOX)] | None = None
    frame_format: Word | None = None
    box_frames: Annotated[int, Field(ge=1, le=MOST_IN_BOX)] | None = None
    year: Annotated[int, Field(ge=1950, le=2200)] | None = None
    mark_seen: MarkColour | None = None
    accepted: bool | None = None
    eggs_seen: bool | None = None
    feed: Feed | None = None
    feed_amount: Annotated[Number, Field(gt=0, le=100)] | None = None
    note: Note = ""
    override: OverrideInput | None = None

    def as_new(self) -> NewHiveAct:
        """The act as the use case takes it."""
        details = HiveActDetails(**self.model_dump(exclude={"id", "act", "done_on", "note", "override"}))
        override = Override(**self.override.model_dump()) if self.override is not None else None
        return NewHiveAct(self.id, self.act, self.done_on, details, self.note, override)


class HiveActWithdrawal(Input):
    why: Why


class HiveActDone(Output):
    id: UUID
    done_on: date
    note: str
    by_name: str


class HiveActNow(Output):
    """An act as it stands; `done` where it is on record, `hatching` where its combs went on to hatch."""

    id: str
    step: str
    writes: Writes
    title: str
    how: str
    optional: bool
    state: ActState
    done: HiveActDone | None
    hatching: Hatching | None


class HiveWorkNow(Output):
    """The work at the hive of a course. `stands`: how things stand there now. `boxes` from the floor up and the combs
    of the colony, with the slot of each box at the edge of its brood nest; `brood` of a comb is what the visit of
    `seen_on` found. `old_box_ids`: the brood boxes that stood before the course put one on. `others`: colonies with
    which combs may hatch."""

    kit: list[str]
    acts: list[HiveActNow]
    stands: str | None
    numbered_from: Side
    boxes: list[PlacedBox]
    own_slots: dict[UUID, list[int]]
    combs: list[Comb]
    seen_on: date | None
    edge: dict[UUID, int]
    old_box_ids: list[UUID]
    others: list[ColonyLabel]


def hive_work_now(found: HiveWorkView) -> HiveWorkNow:
    """The work at the hive as it is sent."""
    acts = [
        {
            "id": one.now.act.id, "step": one.now.act.step, "writes": one.now.act.writes, "title": one.now.act.title,
            "how": one.now.act.how, "optional": one.now.act.optional, "state": one.now.state, "done": one.done,
            "hatching": one.hatching,
        }
        for one in found.acts
    ]  # fmt: skip
    hive = found.hive
    return HiveWorkNow.model_validate(
        {
            "kit": found.work.kit,
            "acts": acts,
            "stands": found.stands,
            "numbered_from": hive.hive.numbered_from if hive is not None else "left",
            "boxes": hive.boxes if hive is not None else [],
            "own_slots": found.own_slots,
            "combs": found.combs,
            "seen_on": found.seen_on,
            "edge": found.edge,
            "old_box_ids": found.old_box_ids,
            "others": found.others,
        }
    )
