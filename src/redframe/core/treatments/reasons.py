"""Why an option is held back or needs care: a rule that fires, what it compared, and what it says as a code."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import date
from typing import Literal

from redframe.core.said import Params, nothing

ReasonLevel = Literal["caution", "not_now", "never_here"]
Source = Literal["L", "E", "P", "L/E"]
"""Label and law, evidence, policy."""
Figure = float | int | str | date | bool | None
ReasonCode = Literal[
    "not_authorised", "group_excluded", "needs_prescription", "needs_respirator",
    "on_hold", "on_hold_until", "other_disease",
    "uses_reached", "second_dose", "too_soon", "still_under_way", "has_the_colony",
    "same_group", "group_failed", "resistance_known",
    "capped_brood", "brood_unknown", "broodless_by_calendar",
    "brood_sighting_old", "brood_sighting_undated", "works_partly", "needs_brood",
    "do_before",
    "queen_virgin", "queen_raised", "queen_caged", "queenless", "queen_unknown", "queen_new",
    "too_weak", "strength_unknown", "small_dose", "small_dose_of", "many_brood_boxes", "maximum_dose",
    "supers_on", "supers_unknown", "supers_by_label", "supers_unknown_by_label",
    "fed", "fed_unknown", "feed_late", "supers_planned",
    "supers_in_course", "supers_in_course_by_label", "feed_in_course",
    "day_too_hot", "days_too_cold", "no_forecast", "no_forecast_days", "rain", "near_limit", "hot_spell", "hot_later",
    "hot_in_course", "hot_after_start",
    "wrong_season", "winter_bees_reared", "into_the_cold", "too_late_to_rebuild",
    "dose_off_its_days", "out_too_early", "out_too_late", "doses_missing", "later_too_soon",
    "lost_too_fast", "lost_too_slowly", "not_all_out",
    "too_slow", "weak_evidence", "no_recent_count", "below_threshold", "treatment_free",
]  # fmt: skip


@dataclass(frozen=True, slots=True)
class Reason:
    """A rule that fires: what was compared with what, what it says, and the day from which it no longer would (if it
    knows). `was_due`: that day has passed, and the rule fires still."""

    rule: str
    level: ReasonLevel
    source: Source
    compared: Mapping[str, Figure]
    code: ReasonCode
    params: Params = field(default_factory=nothing)
    until: date | None = None
    was_due: date | None = None

    def on(self, today: date) -> Reason:
        """The same on a day: one that has passed is no promise."""
        if self.until is None or self.until > today:
            return self
        return replace(self, until=None, was_due=self.until)


DISEASE_HOLD = "T05"
"""The rule of a hold for a notifiable disease: only who may release combs sets it aside."""
CHECKED_AT_PLACING = frozenset({"T60", "T61", "T62", "T63", "T64", "T65"})
"""Rules of the weather: a plan is made days ahead, so they are judged when the dose is placed."""
