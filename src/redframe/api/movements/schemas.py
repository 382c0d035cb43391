"""Movements seen or told."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from pydantic import AfterValidator, StringConstraints

from redframe.api.base import Note, Why
from redframe.core.inputs import Input, IsoDate, printable
from redframe.core.tracing.elsewhere import MovedKind, OutsideMovement, Way

Elsewhere = Annotated[str, StringConstraints(strip_whitespace=True, max_length=120), AfterValidator(printable)]


class MovementInput(Input):
    """What came to a colony or went from it: on a day, or between two; to or from another colony, a place elsewhere in
    words, or (what came) an unknown source."""

    id: UUID
    colony_id: UUID
    way: Way
    kind: MovedKind
    earliest: IsoDate
    latest: IsoDate
    other_colony_id: UUID | None = None
    elsewhere: Elsewhere = ""
    is_seen: bool
    is_disinfected: bool = False
    note: Note = ""

    def as_movement(self) -> OutsideMovement:
        """What is recorded."""
        return OutsideMovement(
            self.colony_id, self.way, self.kind, self.earliest, self.latest, self.other_colony_id, self.elsewhere,
            self.is_seen, self.is_disinfected, self.note,
        )  # fmt: skip


class WithdrawMovement(Input):
    """Why it was not so."""

    why: Why
