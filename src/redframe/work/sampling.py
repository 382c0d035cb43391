"""Recording a count of any kind, amending it, and saying what it means; boards that lie and wait to be read."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import cast
from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.core.sampling.bees import BeesKnownBy, bees_in_sample
from redframe.core.sampling.board import BoardSample
from redframe.core.sampling.board_marks import Mark
from redframe.core.sampling.conversion import Converted, fall_as_rate
from redframe.core.sampling.count import AnySample, CountResult, read_count
from redframe.core.sampling.jar import FEWEST_BEES
from redframe.core.sampling.method import Finding, JarMethod, Method, Scale, Told, TreatmentSpan, Use, check_taken_at
from redframe.core.sampling.reading import (
    INCOMPLETE_SHARE,
    AnyReading,
    FallReading,
    Reading,
    read_fall,
    read_jar,
    recovery_of,
    would_have_found,
)
from redframe.core.sampling.sequential import TOGETHER_WITHIN_DAYS
from redframe.core.sampling.shakes import Removal
from redframe.core.sampling.trend import Growth
from redframe.core.thresholds.calendar import Phase
from redframe.core.thresholds.judgement import Advice, Judgement, SchoolView, judge_reading, school_views, views_beside
from redframe.core.thresholds.samples import Counted, Judged, judged_samples, prompt_of
from redframe.core.thresholds.schools import SchoolId
from redframe.core.thresholds.standing import Level, Policy
from redframe.store import colonies, people, treatments
from redframe.store import sampling as store
from redframe.store.sampling import Count, InsertBoard
from redframe.work.board_pictures import keep_marks
from redframe.work.desk import Work
from redframe.work.forecast import LastStartView, last_start_of
from redframe.work.roles import require
from redframe.work.samples import fields_of, method_of, sample_of
from redframe.work.thresholds import BESIDE, PolicyInForce, counted, lay_standings, policy_in_force, spans_of
from redframe.work.trends import TREND_BACK_DAYS, breaks_of, growth_between

RULER_MOST_MITES = 60


@dataclass(frozen=True, slots=True)
class ReadFrom:
    """The picture that a board was read from, the squares counted, and what was made of each spot."""

    picture_id: UUID
    counted: tuple[int, ...]
    marks: tuple[Mark, ...]


@dataclass(frozen=True, slots=True)
class NewCount:
    """A count as a person or a device reports it; `board_id` is the board that lay and was read by it, `picture` the
    picture that it was read from; `on_purpose`: the colony was chosen because it was likely to be over or to tell most,
    so that the count is no part of a mean."""

    id: UUID
    colony_id: UUID
    taken_at: datetime
    sample: AnySample
    brood_state: str = "not_seen"
    note: str = ""
    board_id: UUID | None = None
    picture: ReadFrom | None = None
    on_purpose: bool = False

    def as_fields(self, taken_on: date) -> dict[str, object]:
        """The columns of the record."""
        told = {"taken_at": self.taken_at, "taken_on": taken_on, "brood_state": self.brood_state, "note": self.note}
        return {"method": method_of(self.sample), "on_purpose": self.on_purpose, **told, **fields_of(self.sample)}


@dataclass(frozen=True, slots=True)
class CountMeaning:
    """A count with everything that follows from it.

    `reading` is None where there is none to give, `judgement` where the school in force does not judge it; `pair` is
    the reading of two jars taken together, by which the second is judged; `last_start` is what an unsettled verdict was
    set against; `views` are the other schools'; `converted` and `prompt` are what a natural fall may stand for on the
    scale of a wash; `would_find` is the rate that a count without a mite would have found with 95 %.
    """

    count: Count
    reading: AnyReading | None
    pair: Reading | None
    removal: Removal | None
    shake_again: bool
    findings: Sequence[Finding]
    use: Use
    judgement: Judgement | None
    last_start: LastStartView | None
    views: Sequence[SchoolView]
    converted: Converted | None
    prompt: float | None
    would_find: float | None
    trend: Growth | None
    trend_since: date | None
    school: SchoolId
    policy_version: int
    own_policy: bool


async def record_count(work: Work, new: NewCount, *, look_ahead: bool = False) -> CountMeaning:
    """Record a count once, and say what it means; `look_ahead` as in `meaning_of`.

    Raises InvalidInput for what cannot be a count, NotFound for a colony that the person does not see, Conflict for an
    id that was used for another record or a board that was read meanwhile.
    """
    require(work.who, "record")
    fields = new.as_fields(work.day_of(new.taken_at))
    await store.lock_colonies(work.connection, [new.colony_id])
    if await work.accept(new.id, "count", {**fields, "colony_id": new.colony_id}):
        colony = await colonies.colony_for_update(work.connection, new.colony_id)
        if colony.state in ("dead", "merged", "gone") and work.day_of(new.taken_at) > colony.state_since:
            raise InvalidInput(
                "taken_at", f"colony {colony.label} is {colony.state} since {colony.state_since.isoformat()}"
            )
        policy = await policy_in_force(work, colony.apiary_id)
        result = await _read(work, new, policy)
        await store.add_count(work.connection, id=new.id, colony_id=new.colony_id, **fields)
        await store.lay_reading(work.connection, new.id, new.colony_id, result.reading)
        if new.board_id is not None:
            await _board_read(work, new, new.board_id)
        if new.picture is not None:
            await _marks_kept(work, new, new.picture)
        await lay_standings(work, [new.colony_id])
    return await meaning_of(work, new.id, look_ahead=look_ahead)


async def _marks_kept(work: Work, new: NewCount, read: ReadFrom) -> None:
    if not isinstance(new.sample, BoardSample):
        raise InvalidInput("picture", "only a board is read from a picture", code="refused")
    await keep_marks(
        work,
        read.picture_id,
        new.colony_id,
        new.id,
        new.sample.squares,
        new.sample.squares_in_all,
        read.counted,
        read.marks,
    )


async def _board_read(work: Work, new: NewCount, board_id: UUID) -> None:
    if not isinstance(new.sample, BoardSample):
        raise InvalidInput("board_id", "only a board is read", code="refused")
    lying = await store.boards_lying(work.connection, [new.colony_id])
    if board_id not in {board.id for board in lying}:
        raise InvalidInput("board_id", "no such board lies under this colony", code="unknown")
    await store.lift_board(work.connection, board_id, new.taken_at, new.id)


async def amend_count(
    work: Work, count_id: UUID, version: int, amended: NewCount, *, look_ahead: bool = False
) -> CountMeaning:
    """Amend a count; the former version is kept with the reason of the transaction.

    Raises Conflict when it has changed since `version`, InvalidInput for another colony or another kind of count.
    """
    require(work.who, "record")
    before = await store.count_by_id(work.connection, count_id)
    if before.colony_id != amended.colony_id:
        raise InvalidInput("colony_id", "a count cannot be moved to another colony: record it there")
    if _kind(before.method) != _kind(method_of(amended.sample)):
        raise InvalidInput("method", "a count stays of its kind: record the other anew", code="refused")
    if before.picture_id is not None and fields_of(amended.sample)["squares"] != before.squares:
        raise InvalidInput("squares", "were read from a picture: record the board anew from its marks", code="refused")
    await store.lock_colonies(work.connection, [before.colony_id])
    policy = await _policy_at(work, before.colony_id)
    result = await _read(work, amended, policy)
    fields = amended.as_fields(work.day_of(amended.taken_at))
    await store.amend_count(work.connection, id=count_id, version=version, **fields)
    await store.lay_reading(work.connection, count_id, before.colony_id, result.reading)
    await lay_standings(work, [before.colony_id])
    return await meaning_of(work, count_id, look_ahead=look_ahead)


def _kind(method: Method) -> str:
    return "board" if method == "board_after_treatment" else method


async def _policy_at(work: Work, colony_id: UUID) -> PolicyInForce:
    return await policy_in_force(work, (await colonies.colony(work.connection, colony_id)).apiary_id)


async def _read(work: Work, new: NewCount, policy: PolicyInForce) -> CountResult:
    check_taken_at(new.taken_at, work.now)
    day = work.day_of(new.taken_at)
    spans = await treatment_spans(work, new.colony_id)
    others = await store.counts_of_colonies(work.connection, [new.colony_id], day - timedelta(days=2))
    method = method_of(new.sample)
    times = [count.taken_at for count in others if count.id != new.id and count.method == method]
    dormant = policy.calendar.phase(day) == "dormant"
    return read_count(
        new.sample, treatments=spans, other_counts=times, dormant=dormant, basis=policy.basis, scoop=policy.scoop
    )


async def treatment_spans(work: Work, colony_id: UUID) -> list[TreatmentSpan]:
    """When chemical treatments were in a colony."""
    return spans_of(await treatments.courses_of_colonies(work.connection, [colony_id]))


async def meaning_of(work: Work, count_id: UUID, *, look_ahead: bool = False) -> CountMeaning:
    """What a recorded count means under the policy in force.

    `look_ahead`: where a second sample would be asked for of a colony that is at the act level, see first whether there
    is time for one before the last sensible start of a treatment. It takes a forecast, so that whoever records many at
    once does without.
    """
    count = await store.count_by_id(work.connection, count_id)
    in_force = await _policy_at(work, count.colony_id)
    policy = in_force.policy
    sample = sample_of(count, work.zone)
    spans = await treatment_spans(work, count.colony_id)
    since = count.taken_on - timedelta(days=TREND_BACK_DAYS)
    history = await store.counts_of_colonies(work.connection, [count.colony_id], since)
    others = [other.taken_at for other in history if other.id != count.id and other.method == count.method]
    dormant = policy.calendar.phase(count.taken_on) == "dormant"
    result = read_count(
        sample, treatments=spans, other_counts=others, dormant=dormant, basis=in_force.basis, scoop=in_force.scoop
    )
    told = [counted(one, work.zone) for one in reversed(history)]
    judged = next((one for one in judged_samples(told, policy, spans) if one.counted.id == count_id), None)
    reading = result.reading
    before = next((one for one in history if one.taken_on < count.taken_on and one.scale == count.scale), None)
    trend = None
    if before is not None:
        found = growth_between(before, count, spans, await breaks_of(work, count.colony_id))
        trend = found if isinstance(found, Growth) else None
    natural = isinstance(reading, FallReading) and result.use.enters
    judgement, ahead = _judgement(judged, policy, result), None
    unsettled = judgement is not None and judgement.level == "act" and judgement.advice == "second_sample"
    if look_ahead and unsettled and work.today - count.taken_on <= timedelta(days=TOGETHER_WITHIN_DAYS):
        ahead = await last_start_of(work, count.colony_id, in_force)
        judgement = _judgement(judged, policy, result, ahead.on if ahead else None)
    return CountMeaning(
        count=count,
        reading=reading,
        pair=_pair_of(judged),
        removal=result.removal,
        shake_again=result.shake_again,
        findings=result.findings,
        use=result.use,
        judgement=judgement,
        last_start=ahead,
        views=[
            *(school_views(reading, count.taken_on, policy, result.use, in_force.own) if reading else ()),
            *_views_beside(told, count, in_force, spans),
        ],
        converted=_converted(reading, count.taken_on, policy) if natural else None,
        prompt=prompt_of(reading, count.taken_on, policy) if natural else None,
        would_find=would_have_found(reading) if isinstance(reading, Reading) and reading.mites == 0 else None,
        trend=trend,
        trend_since=before.taken_on if before is not None and trend is not None else None,
        school=in_force.school,
        policy_version=in_force.version,
        own_policy=in_force.apart,
    )


def _views_beside(
    told: Sequence[Counted], count: Count, in_force: PolicyInForce, spans: Sequence[TreatmentSpan]
) -> list[SchoolView]:
    """What the schools of another scale than the count's say, by the colony's latest count of theirs."""
    views: list[SchoolView] = []
    for scale in BESIDE:
        if scale != count.scale:
            beside = in_force.beside(scale)
            views += views_beside(told, count.taken_on, in_force.policy, beside, spans, in_force.own)
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


async def trail(work: Work, count_id: UUID) -> list[people.TrailEntry]:
    """The history of a count, newest first. Raises NotFound for one that the person does not see."""
    await store.count_by_id(work.connection, count_id)
    return await people.trail_of(work.connection, "mite_count", count_id)


async def boards_lying(work: Work, colony_ids: Sequence[UUID]) -> list[InsertBoard]:
    """Boards that lie under these colonies and wait to be read."""
    return await store.boards_lying(work.connection, colony_ids)


async def place_board(
    work: Work, board_id: UUID, colony_id: UUID, *, placed_at: datetime, cleaned: Told, greased: Told
) -> InsertBoard:
    """Lay a board under a colony once. Raises Conflict where one lies already, NotFound for a colony not seen."""
    require(work.who, "record")
    check_taken_at(placed_at, work.now)
    content = {"colony_id": colony_id, "placed_at": placed_at, "cleaned": cleaned, "greased": greased}
    if await work.accept(board_id, "board", content):
        await colonies.colony_for_update(work.connection, colony_id)
        await store.place_board(work.connection, id=board_id, **content)
    lying = await store.boards_lying(work.connection, [colony_id])
    return next(board for board in lying if board.id == board_id)


async def take_board_away(work: Work, board_id: UUID, lifted_at: datetime) -> None:
    """Take a board away unread. Raises Conflict for one that lies no longer."""
    require(work.who, "record")
    await store.lift_board(work.connection, board_id, lifted_at)


@dataclass(frozen=True, slots=True)
class RulerMark:
    """What so many mites would mean: reading, level and chance of being at or over the act level."""

    mites: int
    median: float
    low: float
    high: float
    p_act: float
    level: Level
    advice: Advice


@dataclass(frozen=True, slots=True)
class Ruler:
    """The ruler of a jar or a board: what each number of mites would mean; of a wash after one shake, and after more.

    It is computed when the jar is set up, so that the figure moves with every tap without asking the server.
    `in_force`: the levels are those that judge here; else those of the school that stands beside this scale.
    """

    scale: Scale
    phase: Phase
    school: SchoolId
    in_force: bool
    watch: float
    act: float
    urgent: float
    exposure: float
    exposure_low: float
    exposure_high: float
    incomplete_share: float
    one_shake: list[RulerMark]
    more_shakes: list[RulerMark]


@dataclass(frozen=True, slots=True)
class Measure:
    """What a ruler is asked for: a jar by its bees, or a board by the days that it has lain times the share counted."""

    method: Method
    known_by: BeesKnownBy | None = None
    bees: int | None = None
    volume_ml: float | None = None
    mass_g: float | None = None
    place_of_bees: str = "brood_frame"
    board_days: float | None = None


async def ruler(work: Work, apiary_id: UUID, measure: Measure, mites_from: int, mites_to: int) -> Ruler | None:
    """The ruler for `mites_from` to `mites_to` mites; None where there is nothing to set them against."""
    if not 0 <= mites_from <= mites_to <= 30_000:
        raise InvalidInput("mites_to", "must not be less than mites_from", code="out_of_range")
    if mites_to - mites_from > RULER_MOST_MITES:
        raise InvalidInput("mites_to", f"at most {RULER_MOST_MITES} marks at a time", code="out_of_range")
    if measure.method in ("drone_brood", "look"):
        raise InvalidInput("method", "has no ruler", code="refused")
    in_force = await policy_in_force(work, apiary_id)
    every = range(mites_from, mites_to + 1)
    if measure.method in ("board", "board_after_treatment"):
        if measure.board_days is None:
            raise InvalidInput("board_days", "say how long the board lay", code="missing")
        days = measure.board_days
        return _ruler(in_force, "mites_per_day", work.today, (days, days, days), Use(),
                      [read_fall(mites, days) for mites in every], [])  # fmt: skip
    known_by = measure.known_by or "not_recorded"
    bees = bees_in_sample(
        known_by, bees=measure.bees, volume_ml=measure.volume_ml, mass_g=measure.mass_g, scoop=in_force.scoop
    )
    if bees is None:
        return None
    method = cast(JarMethod, measure.method)
    good = bees.mean >= FEWEST_BEES and measure.place_of_bees in ("brood_frame", "other_brood_box")

    def readings(shakes: int) -> list[Reading]:
        return [read_jar(mites, bees, recovery_of(method, shakes, None, in_force.basis)) for mites in every]

    more = readings(2) if method == "wash" else []
    exposure = (bees.mean, *bees.interval())
    return _ruler(in_force, "mites_per_100", work.today, exposure, Use(can_clear=good), readings(1), more)


def _ruler(
    in_force: PolicyInForce, scale: Scale, today: date, exposure: tuple[float, float, float], use: Use,
    one: Sequence[Reading | FallReading], more: Sequence[Reading | FallReading],
) -> Ruler:  # fmt: skip
    beside = in_force.beside(scale)
    phase = beside.calendar.phase(today)
    levels = beside.levels[phase]
    return Ruler(
        scale=scale, phase=phase, school=beside.school, in_force=in_force.policy.scale in (scale, None),
        watch=levels.watch, act=levels.act, urgent=levels.urgent, exposure=exposure[0], exposure_low=exposure[1],
        exposure_high=exposure[2], incomplete_share=INCOMPLETE_SHARE,
        one_shake=[_mark(reading, in_force, beside, today, use) for reading in one],
        more_shakes=[_mark(reading, in_force, beside, today, use) for reading in more],
    )  # fmt: skip


def _mark(reading: Reading | FallReading, in_force: PolicyInForce, beside: Policy, today: date, use: Use) -> RulerMark:
    judging = in_force.policy if in_force.policy.scale is None else beside
    judged = judge_reading(reading, today, judging, use=use)
    assert judged is not None
    return RulerMark(
        reading.mites, reading.median, reading.low, reading.high, reading.p_over(beside.levels[judged.phase].act),
        judged.level, judged.advice,
    )  # fmt: skip
