"""The policy as rules take it: the calendar, the scheme with its levels, and when a count is too old."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from redframe.core.policy.schemes import SCHEMES, Levels, SchemeId
from redframe.core.sampling.method import Scale
from redframe.core.season.calendar import Calendar, Phase

STALE_AFTER_DAYS = 21


STALE_AFTER_DAYS_DORMANT = 90


@dataclass(frozen=True, slots=True)
class Policy:
    """What a level is judged by: the calendar, the scheme in force with its levels by phase (in the scheme's unit),
    and the days after which a count is too old to tell."""

    calendar: Calendar
    levels: Mapping[Phase, Levels]
    scheme: SchemeId = "season_phase"
    stale_after_days: int = STALE_AFTER_DAYS
    stale_after_days_dormant: int = STALE_AFTER_DAYS_DORMANT

    @property
    def scale(self) -> Scale | None:
        """The scale of the counts that the scheme judges; None: of any count."""
        return SCHEMES[self.scheme].scale

    def stale_after(self, phase: Phase) -> int:
        """Days after which a count no longer tells how a colony stands."""
        return self.stale_after_days_dormant if phase == "dormant" else self.stale_after_days


Scope = Literal["whole_apiary", "single_colony"]
