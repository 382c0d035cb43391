"""Did it really rise? Two counts of a colony compared, the line through several, and boards taken together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import cast
from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.core.sampling.bees import SAME_SCOOP_CV
from redframe.core.sampling.board import PooledFall, pooled_fall
from redframe.core.sampling.method import Method, TreatmentSpan
from redframe.core.sampling.reading import RECOVERY_PRIOR, Recovery, mean_recovery
from redframe.core.sampling.trend import Growth, NotCompared, TrendLine, TrendPoint, growth, trend_line
from redframe.core.status.samples import use_of
from redframe.store import colonies, sampling, treatments
from redframe.store.colonies import ColonyEvent
from redframe.store.sampling import Count
from redframe.work.policy.read import PolicyInForce
from redframe.work.status.outlooks import counted, spans_of
from redframe.work.unit_of_work import UnitOfWork

TREND_BACK_DAYS = 120
BOARDS_BACK_DAYS = 30
BREAKS = ("split_from", "merged_into")


@dataclass(frozen=True, slots=True)
class Compared:
    """Two counts of a colony, the earlier first: how it grew between them, or why that cannot be said."""

    first: UUID
    second: UUID
    growth: Growth | None
    why_not: NotCompared | None


@dataclass(frozen=True, slots=True)
class Trend:
    """The line through a colony's counts of one kind since something last broke its growth."""

    methods: Sequence[Method]
    line: TrendLine


async def breaks_of(unit: UnitOfWork, colony_id: UUID) -> list[date]:
    """Days on which bees left a colony, or came to it, by a split or a merger: growth is not read across them."""
    return breaks_among(await colonies.events_of_colony(unit.connection, colony_id))


def breaks_among(events: Sequence[ColonyEvent]) -> list[date]:
    """Those days among all that happened to a colony."""
    return [event.happened_on for event in events if event.kind in BREAKS]


async def compare(unit: UnitOfWork, first_id: UUID, second_id: UUID) -> Compared:
    """Whether a colony's infestation really rose from one count to a later one.

    Raises NotFound, and InvalidInput("second") for counts of two colonies.
    """
    found = [await sampling.count_by_id(unit.connection, one) for one in (first_id, second_id)]
    if found[0].colony_id != found[1].colony_id:
        raise InvalidInput("second", "is a count of another colony", code="refused")
    before, after = sorted(found, key=lambda count: count.taken_at)
    courses = await treatments.courses_of_colonies(unit.connection, [before.colony_id])
    growth = growth_between(before, after, spans_of(courses), await breaks_of(unit, before.colony_id))
    if isinstance(growth, Growth):
        return Compared(before.id, after.id, growth, None)
    return Compared(before.id, after.id, None, growth)


def growth_between(
    before: Count, after: Count, spans: Sequence[TreatmentSpan], breaks: Sequence[date]
) -> Growth | NotCompared:
    """Growth between two counts of one scale, or why there is none to tell: what lies across a treatment, a split or a
    merger is not growth, and a fall that a treatment moves is none either."""
    if after.taken_on <= before.taken_on:
        return "same_day"
    if before.scale != after.scale or before.scale == "percent_of_cells":
        return "scale"
    one, other = _point(before, after), _point(after, before)
    if one is None or other is None:
        return "no_rate"
    if _treated_between(before, after, spans):
        return "treated"
    if any(before.taken_on < day <= after.taken_on for day in breaks):
        return "divided"
    return growth(
        one.mites, one.exposure, one.day, other.mites, other.exposure, other.day, cv_1=one.cv, cv_2=other.cv,
        recovery_cv2=one.recovery_cv2 + other.recovery_cv2,
    )  # fmt: skip


def _treated_between(before: Count, after: Count, spans: Sequence[TreatmentSpan]) -> bool:
    overlaps = any(span.start <= after.taken_on and (span.end is None or span.end >= before.taken_on) for span in spans)
    falls = before.board_days is not None
    return overlaps or (falls and any(span.moves(before.taken_on) for span in spans))


def _point(count: Count, other: Count) -> TrendPoint | None:
    """A count as it stands in a comparison with another: what one scoop of one person has in common cancels out, and so
    does the recovery of one method."""
    if count.mites is None:
        return None
    if count.board_days is not None:
        return TrendPoint(count.taken_on, count.mites, count.board_days, count.board_cv or 0.0)
    if count.bees_mean is None or count.recovery is None:
        return None
    same_scoop = count.bees_known_by == other.bees_known_by == "volume_level" and count.by_name == other.by_name
    cv = SAME_SCOOP_CV if same_scoop else count.bees_cv or 0.0
    if count.recovery == other.recovery:
        return TrendPoint(count.taken_on, count.mites, count.bees_mean, cv)
    recovery = cast(Recovery, count.recovery)
    return TrendPoint(
        count.taken_on, count.mites, count.bees_mean * mean_recovery(recovery), cv, _recovery_cv2(recovery)
    )


def _recovery_cv2(recovery: Recovery) -> float:
    prior = RECOVERY_PRIOR.get(recovery)
    if prior is None:
        return 0.0
    a, b = prior
    return b / (a * (a + b + 1))


def trend_of(
    counts: Sequence[Count], spans: Sequence[TreatmentSpan], breaks: Sequence[date], today: date
) -> Trend | None:
    """The line through the jars of the last months, back to the last treatment, split or merger; `counts` newest first.

    None for fewer than three.
    """
    since = today - timedelta(days=TREND_BACK_DAYS)
    jars = [one for one in counts if one.scale == "mites_per_100" and one.taken_on >= since]
    if not jars:
        return None
    latest = jars[0]
    jars = [
        one for one in jars
        if one.taken_on == latest.taken_on or isinstance(growth_between(one, latest, spans, breaks), Growth)
    ]  # fmt: skip
    other = next((one for one in jars if one.recovery != latest.recovery), latest)
    points = [_point(one, other if one.recovery == latest.recovery else latest) for one in jars]
    line = trend_line([point for point in points if point is not None])
    return Trend(sorted({one.method for one in jars}), line) if line else None


def boards_together(
    unit: UnitOfWork, counts: Sequence[Count], policy: PolicyInForce, spans: Sequence[TreatmentSpan]
) -> PooledFall | None:
    """The natural falls of the last month in the phase of the latest, taken together; None for fewer than two boards
    that are judged. `counts` newest first."""
    since = unit.today - timedelta(days=BOARDS_BACK_DAYS)
    boards = [
        one for one in counts
        if one.scale == "mites_per_day" and one.taken_on >= since
        and use_of(counted(one, unit.zone), policy.policy, spans).enters
    ]  # fmt: skip
    phase = policy.calendar.phase(boards[0].taken_on) if boards else None
    return pooled_fall(
        [
            (one.mites, one.board_days) for one in boards
            if policy.calendar.phase(one.taken_on) == phase and one.mites is not None and one.board_days is not None
        ]
    )  # fmt: skip
