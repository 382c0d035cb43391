"""Recording a wash, amending it, and saying what it means."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import cast
from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.core.sampling.bees import SAME_SCOOP_CV, BeesInSample, BeesKnownBy, bees_in_sample
from redframe.core.sampling.reading import INCOMPLETE_SHARE, RECOVERY_PRIOR, Reading, Recovery, read_wash, recovery_of
from redframe.core.sampling.shakes import Removal
from redframe.core.sampling.trend import Growth, growth
from redframe.core.sampling.wash import (
    BroodState,
    Finding,
    PlaceOfBees,
    QueenSafe,
    TreatmentSpan,
    Wash,
    WashResult,
    check_taken_at,
    read_count,
)
from redframe.core.thresholds.judgement import Judgement, judge_reading
from redframe.store import colonies, people, treatments
from redframe.store import sampling as store
from redframe.store.sampling import Count
from redframe.work.desk import Work
from redframe.work.roles import require
from redframe.work.thresholds import PolicyInForce, lay_standings, policy_in_force

RULER_MOST_MITES = 60


@dataclass(frozen=True, slots=True)
class NewCount:
    """A wash as a person or a device reports it."""

    id: UUID
    colony_id: UUID
    taken_at: datetime
    shakes: tuple[int, ...]
    bees_known_by: BeesKnownBy
    bees: int | None
    volume_ml: float | None
    mass_g: float | None
    place_of_bees: PlaceOfBees
    brood_state: BroodState
    queen_safe: QueenSafe
    note: str

    def as_wash(self) -> Wash:
        """The wash as the core takes it."""
        return Wash(
            self.taken_at, self.shakes, self.bees_known_by, self.bees, self.volume_ml, self.mass_g,
            self.place_of_bees, self.brood_state, self.queen_safe,
        )  # fmt: skip

    def as_fields(self, taken_on: date) -> dict[str, object]:
        """The columns of the record."""
        return {
            "taken_at": self.taken_at,
            "taken_on": taken_on,
            "shakes": list(self.shakes),
            "bees_known_by": self.bees_known_by,
            "bees": self.bees,
            "volume_ml": self.volume_ml,
            "mass_g": self.mass_g,
            "place_of_bees": self.place_of_bees,
            "brood_state": self.brood_state,
            "queen_safe": self.queen_safe,
            "note": self.note,
        }


@dataclass(frozen=True, slots=True)
class CountMeaning:
    """A count with everything that follows from it; reading and judgement are None where the bees are not known."""

    count: Count
    reading: Reading | None
    removal: Removal | None
    shake_again: bool
    findings: Sequence[Finding]
    judgement: Judgement | None
    trend: Growth | None
    trend_since: date | None
    policy_version: int


async def record_count(work: Work, new: NewCount) -> CountMeaning:
    """Record a wash once, and say what it means.

    Raises InvalidInput for what cannot be a wash, NotFound for a colony that the person does not see, Conflict for an
    id that was used for another record.
    """
    require(work.who, "record")
    fields = new.as_fields(work.day_of(new.taken_at))
    await store.lock_colonies(work.connection, [new.colony_id])
    policy = await policy_in_force(work)
    if await work.accept(new.id, "count", {**fields, "colony_id": new.colony_id}):
        colony = await colonies.colony_for_update(work.connection, new.colony_id)
        if colony.state in ("dead", "merged", "gone") and work.day_of(new.taken_at) > colony.state_since:
            raise InvalidInput(
                "taken_at", f"colony {colony.label} is {colony.state} since {colony.state_since.isoformat()}"
            )
        result = await _read(work, new, policy)
        await store.add_count(work.connection, id=new.id, colony_id=new.colony_id, **fields)
        await store.lay_reading(work.connection, new.id, new.colony_id, result.reading)
        await lay_standings(work, [new.colony_id])
    return await meaning_of(work, new.id)


async def amend_count(work: Work, count_id: UUID, version: int, amended: NewCount) -> CountMeaning:
    """Amend a wash; the former version is kept with the reason of the transaction.

    Raises Conflict when it has changed since `version`.
    """
    require(work.who, "record")
    before = await store.count_by_id(work.connection, count_id)
    if before.colony_id != amended.colony_id:
        raise InvalidInput("colony_id", "a count cannot be moved to another colony: record it there")
    await store.lock_colonies(work.connection, [before.colony_id])
    policy = await policy_in_force(work)
    result = await _read(work, amended, policy)
    fields = amended.as_fields(work.day_of(amended.taken_at))
    await store.amend_count(work.connection, id=count_id, version=version, **fields)
    await store.lay_reading(work.connection, count_id, before.colony_id, result.reading)
    await lay_standings(work, [before.colony_id])
    return await meaning_of(work, count_id)


async def _read(work: Work, new: NewCount, policy: PolicyInForce) -> WashResult:
    check_taken_at(new.taken_at, work.now)
    day = work.day_of(new.taken_at)
    spans = await treatment_spans(work, new.colony_id)
    others = await store.counts_of_colonies(work.connection, [new.colony_id], day - timedelta(days=2))
    times = [count.taken_at for count in others if count.id != new.id]
    return read_count(new.as_wash(), treatments=spans, other_counts=times, basis=policy.basis)


async def treatment_spans(work: Work, colony_id: UUID) -> list[TreatmentSpan]:
    """When chemical treatments were in a colony."""
    courses = await treatments.courses_of_colonies(work.connection, [colony_id])
    return [TreatmentSpan(course.placed_on, course.ended_on) for course in courses if course.placed_on is not None]


async def meaning_of(work: Work, count_id: UUID) -> CountMeaning:
    """What a recorded count means under the policy in force."""
    count = await store.count_by_id(work.connection, count_id)
    policy = await policy_in_force(work)
    wash = Wash(
        count.taken_at,
        tuple(count.shakes),
        cast(BeesKnownBy, count.bees_known_by),
        count.bees,
        count.volume_ml,
        count.mass_g,
        cast(PlaceOfBees, count.place_of_bees),
        cast(BroodState, count.brood_state),
        cast(QueenSafe, count.queen_safe),
    )
    spans = await treatment_spans(work, count.colony_id)
    earlier = await store.counts_of_colonies(work.connection, [count.colony_id], count.taken_on - timedelta(days=120))
    others = [other.taken_at for other in earlier if other.id != count.id]
    result = read_count(wash, treatments=spans, other_counts=others, basis=policy.basis)
    judgement = None
    if result.reading is not None:
        judgement = judge_reading(
            result.reading, count.taken_on, policy.policy, policy.school, can_clear=result.can_clear
        )
    before = next((other for other in earlier if other.taken_on < count.taken_on and other.median is not None), None)
    trend = _trend(before, count, spans) if before is not None else None
    return CountMeaning(
        count=count,
        reading=result.reading,
        removal=result.removal,
        shake_again=result.shake_again,
        findings=result.findings,
        judgement=judgement,
        trend=trend,
        trend_since=before.taken_on if before is not None and trend is not None else None,
        policy_version=policy.version,
    )


def _trend(before: Count, after: Count, spans: Sequence[TreatmentSpan]) -> Growth | None:
    """Growth between two counts; None across a treatment, which is not growth."""
    if before.bees_mean is None or after.bees_mean is None or after.taken_on <= before.taken_on:
        return None
    if any(span.start <= after.taken_on and (span.end is None or span.end >= before.taken_on) for span in spans):
        return None
    same_scoop = before.bees_known_by == after.bees_known_by == "volume_level" and before.by_name == after.by_name
    differ = before.recovery != after.recovery
    return growth(
        sum(before.shakes),
        before.bees_mean,
        before.taken_on,
        sum(after.shakes),
        after.bees_mean,
        after.taken_on,
        cv_1=SAME_SCOOP_CV if same_scoop else before.bees_cv or 0.0,
        cv_2=SAME_SCOOP_CV if same_scoop else after.bees_cv or 0.0,
        recovery_cv2=_recovery_cv2(before.recovery) + _recovery_cv2(after.recovery) if differ else 0.0,
    )


def _recovery_cv2(recovery: str | None) -> float:
    prior = RECOVERY_PRIOR.get(cast(Recovery, recovery))
    if prior is None:
        return 0.0
    a, b = prior
    return b / (a * (a + b + 1))


async def trail(work: Work, count_id: UUID) -> list[people.TrailEntry]:
    """The history of a count, newest first. Raises NotFound for one that the person does not see."""
    await store.count_by_id(work.connection, count_id)
    return await people.trail_of(work.connection, "mite_count", count_id)


@dataclass(frozen=True, slots=True)
class RulerMark:
    """What so many mites in a jar would mean: reading, level and chance of being at or over the act level."""

    mites: int
    median: float
    low: float
    high: float
    p_act: float
    level: str
    advice: str


@dataclass(frozen=True, slots=True)
class Ruler:
    """A jar's ruler: what each number of mites would mean after one shake, and after two or more.

    It is computed when the jar is set up, so that the rate moves with every tap without asking the server.
    """

    phase: str
    school: str
    watch: float
    act: float
    urgent: float
    bees_mean: float
    bees_low: float
    bees_high: float
    incomplete_share: float
    one_shake: list[RulerMark]
    more_shakes: list[RulerMark]


async def ruler(
    work: Work,
    *,
    known_by: BeesKnownBy,
    bees: int | None,
    volume_ml: float | None,
    mass_g: float | None,
    place_of_bees: PlaceOfBees,
    mites_from: int,
    mites_to: int,
) -> Ruler | None:
    """The ruler of a jar for `mites_from` to `mites_to` mites; None where the bees are not known."""
    if not 0 <= mites_from <= mites_to <= 30_000:
        raise InvalidInput("mites_to", "must not be less than mites_from", code="out_of_range")
    if mites_to - mites_from > RULER_MOST_MITES:
        raise InvalidInput("mites_to", f"at most {RULER_MOST_MITES} marks at a time", code="out_of_range")
    sample = bees_in_sample(known_by, bees=bees, volume_ml=volume_ml, mass_g=mass_g)
    if sample is None:
        return None
    policy = await policy_in_force(work)
    levels = policy.policy.levels[policy.calendar.phase(work.today)]
    low, high = sample.interval()
    can_clear = sample.mean >= 100 and place_of_bees in ("brood_frame", "other_brood_box")

    def marks(shakes: int) -> list[RulerMark]:
        recovery = recovery_of(shakes, None, policy.basis)
        return [_mark(m, sample, recovery, policy, work.today, can_clear) for m in range(mites_from, mites_to + 1)]

    return Ruler(
        phase=policy.calendar.phase(work.today),
        school=policy.school,
        watch=levels.watch,
        act=levels.act,
        urgent=levels.urgent,
        bees_mean=sample.mean,
        bees_low=low,
        bees_high=high,
        incomplete_share=INCOMPLETE_SHARE,
        one_shake=marks(1),
        more_shakes=marks(2),
    )


def _mark(
    mites: int, bees: BeesInSample, recovery: Recovery, policy: PolicyInForce, today: date, can_clear: bool
) -> RulerMark:
    reading = read_wash(mites, bees, recovery)
    judged = judge_reading(reading, today, policy.policy, policy.school, can_clear=can_clear)
    return RulerMark(mites, reading.median, reading.low, reading.high, judged.p_act, judged.level, judged.advice)
