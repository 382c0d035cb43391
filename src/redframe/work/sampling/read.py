"""Recording a count of any kind, amending it, and saying what it means; boards that lie and wait to be read."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from redframe.core.policy.policy import Policy
from redframe.core.policy.schemes import SchemeId
from redframe.core.sampling.conversion import Converted, fall_as_rate
from redframe.core.sampling.count import CountResult, read_count
from redframe.core.sampling.disagreement import CountOfDay, disagreement
from redframe.core.sampling.method import CountFinding, TreatmentSpan, Use
from redframe.core.sampling.reading import (
    AnyReading,
    FallReading,
    Reading,
    would_have_found,
)
from redframe.core.sampling.sequential import TOGETHER_WITHIN_DAYS
from redframe.core.sampling.shakes import Removal
from redframe.core.sampling.trend import Growth
from redframe.core.status.judgement import Judgement, SchemeView, judge_reading, scheme_views, views_of_other_scale
from redframe.core.status.samples import Counted, Judged, judged_samples, prompt_of, use_of
from redframe.store import colonies, records, treatments
from redframe.store import sampling as store
from redframe.store.sampling import Count
from redframe.work.forecast.read import LastStartView, last_start_of
from redframe.work.policy.read import SCHEME_OF_SCALE, PolicyInForce, policy_in_force
from redframe.work.sampling.samples import sample_of
from redframe.work.sampling.trends import TREND_BACK_DAYS, breaks_of, growth_between
from redframe.work.status.outlooks import counted, spans_of
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class CountMeaning:
    """A count with everything that follows from it.

    `reading` is None where there is none to give, `judgement` where the scheme in force does not judge it; `pair` is
    the reading of two jars taken together, by which the second is judged; `last_start` is what an unsettled verdict was
    set against; `views` are the other schemes'; `converted` and `prompt` are what a natural fall may stand for on the
    scale of a wash; `would_find` is the rate that a count without a mite would have found with 95 %.
    """

    count: Count
    reading: AnyReading | None
    pair: Reading | None
    removal: Removal | None
    shake_again: bool
    findings: Sequence[CountFinding]
    use: Use
    judgement: Judgement | None
    last_start: LastStartView | None
    views: Sequence[SchemeView]
    converted: Converted | None
    prompt: float | None
    would_find: float | None
    trend: Growth | None
    trend_since: date | None
    scheme: SchemeId
    policy_version: int
    own_policy: bool


@dataclass(frozen=True, slots=True)
class KnownOfColony:
    """What a count of a colony is read by: the policy in force there, the counts of TREND_BACK_DAYS before it or more,
    newest first, when treatments were in, and the days of splits and mergers."""

    in_force: PolicyInForce
    counts: Sequence[Count]
    spans: Sequence[TreatmentSpan]
    breaks: Sequence[date]


async def policy_of_colony(unit: UnitOfWork, colony_id: UUID) -> PolicyInForce:
    """The policy that a colony is judged by. Raises NotFound."""
    return await policy_in_force(unit, (await colonies.colony(unit.connection, colony_id)).apiary_id)


async def _known_of(unit: UnitOfWork, count: Count) -> KnownOfColony:
    since = count.taken_on - timedelta(days=TREND_BACK_DAYS)
    return KnownOfColony(
        in_force=await policy_of_colony(unit, count.colony_id),
        counts=await store.counts_of_colonies(unit.connection, [count.colony_id], since),
        spans=await treatment_spans(unit, count.colony_id),
        breaks=await breaks_of(unit, count.colony_id),
    )


async def treatment_spans(unit: UnitOfWork, colony_id: UUID) -> list[TreatmentSpan]:
    """When chemical treatments were in a colony."""
    return spans_of(await treatments.courses_of_colonies(unit.connection, [colony_id]))


async def meaning_of(unit: UnitOfWork, count_id: UUID, *, look_ahead: bool = False) -> CountMeaning:
    """What a recorded count means under the policy in force. Raises NotFound. `look_ahead` as in `meaning_among`."""
    count = await store.count_by_id(unit.connection, count_id)
    return await meaning_among(unit, count, await _known_of(unit, count), look_ahead=look_ahead)


async def meaning_among(
    unit: UnitOfWork, count: Count, known: KnownOfColony, *, look_ahead: bool = False
) -> CountMeaning:
    """What a count means under the policy in force, among all that is known of its colony.

    `look_ahead`: where a second sample would be asked for of a colony that is at the act level, see first whether there
    is time for one before the last sensible start of a treatment. It takes a forecast, so that whoever records many at
    once does without.
    """
    in_force, spans = known.in_force, known.spans
    policy = in_force.policy
    sample = sample_of(count, unit.zone)
    since = count.taken_on - timedelta(days=TREND_BACK_DAYS)
    history = [one for one in known.counts if one.taken_on >= since]
    others = [other.taken_at for other in history if other.id != count.id and other.method == count.method]
    dormant = policy.calendar.phase(count.taken_on) == "dormant"
    result = read_count(
        sample, treatments=spans, other_counts=others, dormant=dormant, basis=in_force.basis, scoop=in_force.scoop
    )
    recorded = [counted(one, unit.zone) for one in reversed(history)]
    judged = next((one for one in judged_samples(recorded, policy, spans) if one.counted.id == count.id), None)
    reading = result.reading
    before = next((one for one in history if one.taken_on < count.taken_on and one.scale == count.scale), None)
    trend = None
    if before is not None:
        found = growth_between(before, count, spans, known.breaks)
        trend = found if isinstance(found, Growth) else None
    natural = isinstance(reading, FallReading) and result.use.enters
    judgement, last_start = _judgement(judged, policy, result), None
    unsettled = judgement is not None and judgement.level == "act" and judgement.advice == "second_sample"
    if look_ahead and unsettled and unit.today - count.taken_on <= timedelta(days=TOGETHER_WITHIN_DAYS):
        last_start = await last_start_of(unit, count.colony_id, in_force)
        judgement = _judgement(judged, policy, result, last_start.on if last_start else None)
    other_method = _other_method(count.id, recorded, policy, spans)
    return CountMeaning(
        count=count,
        reading=reading,
        pair=_pair_of(judged),
        removal=result.removal,
        shake_again=result.shake_again,
        findings=[*result.findings, *other_method],
        use=result.use,
        judgement=judgement,
        last_start=last_start,
        views=[
            *(scheme_views(reading, count.taken_on, policy, result.use, in_force.levels_of) if reading else ()),
            *_views_of_other_scale(recorded, count, in_force, spans),
        ],
        converted=_converted(reading, count.taken_on, policy) if natural else None,
        prompt=prompt_of(reading, count.taken_on, policy) if natural else None,
        would_find=would_have_found(reading) if isinstance(reading, Reading) and reading.mites == 0 else None,
        trend=trend,
        trend_since=before.taken_on if before is not None and trend is not None else None,
        scheme=in_force.scheme,
        policy_version=in_force.version,
        own_policy=in_force.has_own,
    )


def _other_method(
    count_id: UUID, recorded: Sequence[Counted], policy: Policy, spans: Sequence[TreatmentSpan]
) -> list[CountFinding]:
    """What a board and a jar of the same days say against one another, of those that may stand for the colony."""
    believed = {
        one.id: CountOfDay(one.taken_on, one.reading)
        for one in recorded
        if one.reading is not None and use_of(one, policy, spans).enters
    }
    own = believed.pop(count_id, None)
    found = disagreement(own, list(believed.values()), policy.calendar) if own is not None else None
    return [found] if found is not None else []


def _views_of_other_scale(
    recorded: Sequence[Counted], count: Count, in_force: PolicyInForce, spans: Sequence[TreatmentSpan]
) -> list[SchemeView]:
    """What the schemes of another scale than the count's say, by the colony's latest count of theirs."""
    views: list[SchemeView] = []
    for scale in SCHEME_OF_SCALE:
        if scale != count.scale:
            policy_for_scale = in_force.for_scale(scale)
            views += views_of_other_scale(
                recorded, count.taken_on, in_force.policy, policy_for_scale, spans, in_force.levels_of
            )
    return views


def _pair_of(judged: Judged | None) -> Reading | None:
    return judged.reading if judged is not None and judged.second and isinstance(judged.reading, Reading) else None


def _judgement(
    judged: Judged | None, policy: Policy, result: CountResult, latest_start: date | None = None
) -> Judgement | None:
    if judged is None:
        return None
    use = Use(True, judged.sample.can_lower, judged.sample.can_clear) if judged.second else result.use
    return judge_reading(
        judged.reading, judged.counted.taken_on, policy, use=use, second=judged.second, latest_start=latest_start
    )


def _converted(reading: AnyReading | None, taken_on: date, policy: Policy) -> Converted | None:
    if not isinstance(reading, FallReading):
        return None
    return fall_as_rate(reading.mites, reading.board_days, policy.calendar.base_phase(taken_on))


async def history(unit: UnitOfWork, count_id: UUID) -> list[records.HistoryEntry]:
    """The history of a count, newest first. Raises NotFound for one that the person does not see."""
    await store.count_by_id(unit.connection, count_id)
    return await records.history_of(unit.connection, "mite_count", count_id)
