"""What was changed of a colony a short while ago, taken back as one act."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal
from uuid import UUID

from redframe.store.database import Connection, maybe, scalar

ChangeKind = Literal[
    "merged_into", "split_from", "started", "moved", "state", "renumbered", "held", "lifted", "queen_given",
    "queen_amended", "boxes", "frame_moved", "note",
]  # fmt: skip
"""What a change was: of lineage, of a hold, of the queen, of the hive's boxes, of a frame's place, of the note."""


@dataclass(frozen=True, slots=True)
class Change:
    """A change that may still be undone by the person who asks; `change` names it."""

    change: str
    kind: ChangeKind


async def undoable_change(connection: Connection, colony_id: UUID) -> Change | None:
    """The person's latest change of a colony while it may be undone, if any."""
    return await maybe(connection, Change, "undoable_change", colony_id=colony_id)


async def undo_change(connection: Connection, colony_id: UUID, change: str) -> Sequence[UUID] | None:
    """Take a change back; the colonies that it had touched, None where it is not to be undone any more."""
    touched: list[UUID] | None = await scalar(connection, "undo_change", colony_id=colony_id, change=change)
    return touched
