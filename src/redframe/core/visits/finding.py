"""A conclusion of a visit with its reasons, so that it can be opened and doubted."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Literal

Level = Literal["note", "watch", "act"]


@dataclass(frozen=True, slots=True)
class Finding:
    """A short word for what follows, how pressing it is, what it says, and why.

    `dates` are days that follow from it: early, typical, late.
    """

    code: str
    level: Level
    text: str
    because: Sequence[str] = ()
    dates: dict[str, tuple[date, date, date]] = field(default_factory=dict)
