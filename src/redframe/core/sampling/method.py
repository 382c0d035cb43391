"""The methods of counting, the scales they read on, and what every one of them may have to say about itself."""

from __future__ import annotations

import dataclasses
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Literal

from redframe.core.errors import InvalidInput
from redframe.core.said import Params, nothing

Method = Literal["wash", "sugar", "co2", "board", "board_after_treatment", "drone_brood", "look"]
JarMethod = Literal["wash", "sugar", "co2"]
BoardMethod = Literal["board", "board_after_treatment"]
Scale = Literal["mites_per_100", "mites_per_day", "percent_of_cells"]
Answer = Literal["yes", "no", "not_looked"]
"""An answer to a question of the moment; nobody is made to guess."""
FindingLevel = Literal["refused", "warning", "note"]
CountCode = Literal[
    "NO_N", "LOW_N_BLOCK", "LOW_N", "PLACE", "PLACE_UNKNOWN", "WET", "REST_SHORT", "SCREENING", "ONE_SHAKE", "RISING",
    "QUEEN", "NO_BROOD", "RECENT_TREAT", "TYPO_RATE", "TYPO_BEES", "TYPO_TWICE",
    "BOARD_DIRTY", "ANTS", "NO_GREASE", "BOARD_LONG", "BOARD_LOW", "BOARD_TREATED", "FEW_SQUARES",
    "FEW_CELLS", "ONE_PATCH", "OWN_SCALE", "LOOKED", "BOARD_HIGHER", "JAR_HIGHER",
]  # fmt: skip

JAR_METHODS: frozenset[str] = frozenset({"wash", "sugar", "co2"})
BOARD_METHODS: frozenset[str] = frozenset({"board", "board_after_treatment"})
AFTER_TREATMENT_DAYS = 14


@dataclass(frozen=True, slots=True)
class CountFinding:
    """Something about a count that its reader must know, and the field that it is about."""

    code: CountCode
    level: FindingLevel
    field: str
    params: Params = dataclasses.field(default_factory=nothing)


@dataclass(frozen=True, slots=True)
class Use:
    """What a count may do to a level: enter it at all, lower it, show the colony clear."""

    enters: bool = True
    can_lower: bool = True
    can_clear: bool = True


@dataclass(frozen=True, slots=True)
class TreatmentSpan:
    """When a treatment was in the colony; `end` None while it still is."""

    start: date
    end: date | None

    def moves(self, day: date) -> bool:
        """Whether mites are still falling from it on a day: from its start to 14 days after its end."""
        return self.start <= day and (self.end is None or day < self.end + timedelta(days=AFTER_TREATMENT_DAYS))


def check_taken_at(taken_at: datetime, now: datetime) -> None:
    """Refuse a moment that no count recorded now can have been taken at; a device's clock may be ten minutes ahead.

    Only for what comes in: a count on record is read whatever the clock says later. Raises InvalidInput("taken_at").
    """
    if taken_at > now + timedelta(minutes=10):
        raise InvalidInput("taken_at", "this count lies in the future", code="out_of_range")
    if taken_at < now - timedelta(days=365 * 30):
        raise InvalidInput("taken_at", "this count is older than thirty years", code="out_of_range")
