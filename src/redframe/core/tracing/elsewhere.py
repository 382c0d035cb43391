"""What came or went and no act of the record says: bought, sold, lent, a swarm, bees shaken, gear and food.

A movement has a colony of the record at one end; at the other another colony, a place elsewhere, or an unknown source.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal
from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.core.names import look_of
from redframe.core.tracing.movements import CLEANED

Way = Literal["came", "went"]
MovedKind = Literal[
    "purchase", "sale", "loan", "swarm", "package", "bees", "queen", "queen_cell", "brood_frame", "honey_frame",
    "drawn_comb", "honey_fed", "pollen_fed", "equipment", "extractor", "tools", "wax", "robbing",
]  # fmt: skip
ONE_WAY: Mapping[MovedKind, Way] = {"purchase": "came", "sale": "went", "package": "came"}
LONGEST_SPAN = timedelta(days=1100)
"""Somebody who does not know the day within three years does not know it."""


@dataclass(frozen=True, slots=True)
class OutsideMovement:
    """What came to a colony or went from it between two days; the other end: a colony, or a place in words ("" for an
    unknown source)."""

    colony_id: UUID
    way: Way
    kind: MovedKind
    earliest: date
    latest: date
    other_colony_id: UUID | None
    elsewhere: str
    is_seen: bool
    is_disinfected: bool
    note: str


def check_movement(moved: OutsideMovement, today: date) -> None:
    """Raise InvalidInput naming the field that cannot be."""
    if moved.latest < moved.earliest:
        raise InvalidInput("latest", "lies before the first day", code="out_of_range")
    if moved.latest > today:
        raise InvalidInput("latest", "lies in the future", code="out_of_range")
    if moved.latest - moved.earliest > LONGEST_SPAN:
        raise InvalidInput("earliest", "lies more than three years before the last day", code="out_of_range")
    if ONE_WAY.get(moved.kind, moved.way) != moved.way:
        raise InvalidInput("kind", f"a {moved.kind} never {moved.way}", code="inconsistent")
    if moved.other_colony_id == moved.colony_id:
        raise InvalidInput("other_colony_id", "is the same colony", code="inconsistent")
    if moved.other_colony_id is not None and moved.elsewhere.strip():
        raise InvalidInput("elsewhere", "say one colony or one place elsewhere", code="inconsistent")
    if moved.way == "went" and moved.other_colony_id is None and not moved.elsewhere.strip():
        raise InvalidInput("elsewhere", "say to whom or where it went", code="missing")
    if moved.is_disinfected and moved.kind not in CLEANED:
        raise InvalidInput(
            "is_disinfected", "only gear, tools, an extractor and wax can be cleaned", code="inconsistent"
        )


def node_elsewhere(words: str, movement_id: UUID) -> str:
    """The node of a place in words: the same for words that look the same; each unknown source is one of its own."""
    return f"elsewhere {look_of(words)}" if words.strip() else f"unknown {movement_id}"
