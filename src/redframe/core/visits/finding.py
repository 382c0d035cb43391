"""A conclusion of a visit with its reasons, so that it can be opened and doubted."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

Level = Literal["note", "watch", "act"]
ExpectedEvent = Literal["new_queen_emerges", "first_eggs", "first_cell_sealed"]


@dataclass(frozen=True, slots=True)
class ExpectedOn:
    """Something that is expected: at the earliest, as a rule, at the latest."""

    event: ExpectedEvent
    early: date
    typical: date
    late: date


@dataclass(frozen=True, slots=True)
class VisitFinding:
    """A short word for what follows, how pressing it is, what it says, and why.

    `dates` are days that follow from it.
    """

    code: str
    level: Level
    text: str
    because: Sequence[str] = ()
    dates: Sequence[ExpectedOn] = ()
