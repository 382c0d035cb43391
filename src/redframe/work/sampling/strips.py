"""The counts of colonies as their season strips draw them: one axis, that of the scheme in force."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID
from zoneinfo import ZoneInfo

from redframe.core.sampling.conversion import fall_as_rate
from redframe.core.sampling.method import Method, Scale, TreatmentSpan
from redframe.core.sampling.reading import FallReading
from redframe.core.status.samples import use_of
from redframe.store.sampling import Count
from redframe.work.policy.read import PolicyInForce
from redframe.work.status.outlooks import counted, reading_on_record


@dataclass(frozen=True, slots=True)
class StripCount:
    """A count on the strip. `median`, `low` and `high` stand on the axis of the scheme in force, mites per 100 bees or
    mites a day, and are None for a count that has no place there; `converted` from a natural fall, and wide."""

    colony_id: UUID
    id: UUID
    method: Method
    taken_on: date
    mites: int | None
    bees_mean: float | None
    median: float | None
    low: float | None
    high: float | None
    converted: bool


def axis_of(policy: PolicyInForce) -> Scale:
    """The axis of the strips: mites a day where the scheme judges the daily fall, else mites per 100 bees."""
    return policy.policy.scale or "mites_per_100"


def strip_counts(
    counts: Sequence[Count], spans: dict[UUID, list[TreatmentSpan]], policy: PolicyInForce, zone: ZoneInfo
) -> list[StripCount]:
    """Counts (newest first) as strips draw them, oldest first; `spans` are the treatments of each colony."""
    return [_strip_count(count, zone, spans.get(count.colony_id, []), policy) for count in reversed(counts)]


def _strip_count(count: Count, zone: ZoneInfo, spans: Sequence[TreatmentSpan], policy: PolicyInForce) -> StripCount:
    figures: tuple[float | None, float | None, float | None] = (None, None, None)
    converted = False
    fall = reading_on_record(count) if count.scale == "mites_per_day" else None
    if fall is not None and not use_of(counted(count, zone), policy.policy, spans).enters:
        pass  # a treatment's fall, or one that is not judged, has no place on either axis
    elif count.scale == axis_of(policy):
        figures = (count.median, count.low, count.high)
    elif isinstance(fall, FallReading):
        rate = fall_as_rate(fall.mites, fall.board_days, policy.calendar.base_phase(count.taken_on))
        figures, converted = (rate.median, rate.low, rate.high), True
    return StripCount(
        count.colony_id, count.id, count.method, count.taken_on, count.mites, count.bees_mean, *figures, converted
    )


def spans_by_colony(placed: Sequence[tuple[UUID, date | None, date | None]]) -> dict[UUID, list[TreatmentSpan]]:
    """Treatment spans of each colony from (colony, placed on, ended on)."""
    spans: dict[UUID, list[TreatmentSpan]] = defaultdict(list)
    for colony_id, placed_on, ended_on in placed:
        if placed_on is not None:
            spans[colony_id].append(TreatmentSpan(placed_on, ended_on))
    return spans
