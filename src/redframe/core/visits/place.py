"""Where a visit was made: what a closed visit keeps of its day, so that it reads the same when the hive has changed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from redframe.core.colonies.hive_state import HangingFrame, HiveState
from redframe.core.season.calendar import Phase


@dataclass(frozen=True, slots=True)
class VisitPlace:
    """Label, apiary and keeper of the colony on the day of a visit; its hive as it stood then (None: not known), and
    the frames that hung in it; the year of the queen that headed it (None: not known), the phase of the season there,
    and the daily maximum from which the association opened its hives."""

    label: str
    apiary_id: UUID
    apiary: str
    keeper: str
    hive: HiveState | None
    frames: Sequence[HangingFrame]
    queen_year: int | None
    phase: Phase
    open_from_c: float
