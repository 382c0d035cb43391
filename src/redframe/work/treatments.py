"""Courses: planned for several colonies at once, carried out step by step, verified, closed or abandoned."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import Any, Literal
from uuid import UUID, uuid5

import numpy as np
from psycopg.types.json import Jsonb

from redframe.core.calculators import suitability_as_plain
from redframe.core.errors import InvalidInput, Refused
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.reading import RECOVERY_PRIOR, Reading, Recovery
from redframe.core.thresholds.standing import GROWTH_PER_DAY
from redframe.core.treatments import verification
from redframe.core.treatments.catalogue import Option, default_catalogue
from redframe.core.treatments.course import BASELINE_USABLE_DAYS, Step, plan_course
from redframe.core.treatments.course import Course as PlannedCourse
from redframe.core.treatments.eligibility import Reason, Suitability
from redframe.core.treatments.weather import next_usable, weather_on
from redframe.store import colonies, people, places, sampling
from redframe.store import treatments as store
from redframe.store.errors import AlreadyDone
from redframe.store.sampling import Count
from redframe.store.treatments import Course, CourseAct, Occupied
from redframe.work.course_view import CourseView, course_view
from redframe.work.desk import Work
from redframe.work.eligibility import ColonyChoice, options_for
from redframe.work.plain import plain
from redframe.work.roles import require
from redframe.work.thresholds import lay_standings, policy_in_force, reading_on_record
from redframe.work.weather import forecast_at

Outcome = Literal["done", "skipped"]

MAY_BE_SKIPPED = frozenset({"baseline_count", "interim_check"})
CONTROL_NEAR_DAYS = 7
CLOSED_STATES: dict[str, str] = {
    "worked": "verified_worked",
    "partly": "verified_partly",
    "failed": "verified_failed",
    "cannot_tell_yet": "verified_cannot_tell",
}


@dataclass(frozen=True, slots=True)
class Override:
    """A rule set aside: L rules need a name, every rule a reason. The course carries it for good."""

    rule: str
    authorised_by: str
    reason: str


@dataclass(frozen=True, slots=True)
class WantedCourse:
    """One colony of a plan, under the course's own id."""

    id: UUID
    colony_id: UUID
    overrides: Sequence[Override] = ()


@dataclass(frozen=True, slots=True)
class PlannedRow:
    """What became of one colony of a plan: a course, or held back by rules."""

    colony_id: UUID
    label: str
    course_id: UUID | None
    suitability: Suitability
    held_by: Sequence[Reason]


async def plan_courses(
    work: Work,
    *,
    plan_id: UUID,
    apiary_id: UUID,
    option_id: str,
    start_on: date,
    interval_override: int | None,
    wanted: Sequence[WantedCourse],
) -> list[PlannedRow]:
    """Plan one option on several colonies of an apiary. A colony that a rule holds back is reported with the rule and
    does not stop the others; weather past the forecast is checked again when the dose is placed.

    Raises InvalidInput for the plan as a whole: unknown option, colonies of another apiary, a day in the past.
    """
    require(work.who, "record")
    option = default_catalogue().option(option_id, "option_id")
    planned = plan_course(option, start_on, interval_override=interval_override)
    ids = [one.colony_id for one in wanted]
    choices = await options_for(work, apiary_id, ids, start_on)
    occupied = await store.courses_in_the_way(work.connection, ids, start_on, planned.ending.window.ideal)
    by_colony = {item.colony.id: item for item in choices.colonies}
    rows = []
    for item in wanted:
        choice = by_colony[item.colony_id]
        suited = choice.choice.options[option_id]
        held = _held_by(suited, item.overrides)
        if option.chemical:
            others = [one for one in occupied if one.colony_id == item.colony_id and one.id != item.id]
            held += [_in_the_way(other) for other in others]
        if held:
            rows.append(PlannedRow(item.colony_id, choice.colony.label, None, suited, held))
            continue
        content = {"plan": plan_id, "colony": item.colony_id, "option": option_id, "start": start_on}
        if await work.accept(item.id, "course", content):
            await _add_course(work, item, choice, suited, choices.policy.version, plan_id, start_on, interval_override)
        rows.append(PlannedRow(item.colony_id, choice.colony.label, item.id, suited, ()))
    return rows


def _in_the_way(other: Occupied) -> Reason:
    """Nobody can set this aside: the register would hold two chemicals in one colony on one day."""
    name = default_catalogue().option(other.option_id).name
    text = (
        f"{name} has the colony from {other.occupies_from} to {other.occupies_to}: abandon that course or start later"
    )
    return Reason("T09", "not_now", "L", {"until": str(other.occupies_to)}, text, other.occupies_to)


def _held_by(suited: Suitability, overrides: Sequence[Override]) -> list[Reason]:
    given = {override.rule: override for override in overrides}
    held = []
    for reason in suited.holding:
        override = given.get(reason.rule)
        named = override is not None and override.authorised_by.strip() if "L" in reason.source else True
        if override is None or not override.reason.strip() or not named:
            held.append(reason)
    if suited.dose is None and not held:
        held = [reason for reason in suited.reasons if reason.rule == "T41"]
    return held


async def _add_course(
    work: Work,
    item: WantedCourse,
    choice: ColonyChoice,
    suited: Suitability,
    policy_version: int,
    plan_id: UUID,
    start_on: date,
    interval_override: int | None,
) -> None:
    assert suited.dose is not None
    option = suited.option
    planned = plan_course(option, start_on, interval_override=interval_override)
    await store.add_course(
        work.connection,
        id=item.id,
        apiary_id=choice.colony.apiary_id,
        colony_id=item.colony_id,
        plan_id=plan_id,
        option_id=option.id,
        catalogue_version=default_catalogue().version,
        policy_version=policy_version,
        chemical=option.chemical,
        start_on=start_on,
        interval_override=interval_override,
        dose_quantity=suited.dose.quantity,
        dose_unit=suited.dose.unit,
        broodless=choice.situation.colony.capped_worker_brood == "no",
        occupies_from=start_on,
        occupies_to=planned.ending.window.ideal,
        honey_clear_on=planned.honey_clear,
        suitability=Jsonb(plain(suitability_as_plain(suited))),
        overrides=Jsonb(
            [{"rule": o.rule, "authorised_by": o.authorised_by, "reason": o.reason} for o in item.overrides]
        ),
    )
    baseline = choice.colony.counted_on
    known = (
        baseline is not None
        and choice.colony.recovery is not None
        and 0 <= (start_on - baseline).days <= BASELINE_USABLE_DAYS
    )
    if known:
        await store.add_act(
            work.connection,
            id=uuid5(item.id, "baseline_count"),
            course_id=item.id,
            step="baseline_count",
            outcome="done",
            done_on=baseline,
            quantity=None,
            quantity_unit=None,
            lot="",
            count_id=choice.colony.count_id,
            note="",
            override_by="",
            override_why="",
        )
    await store.lay_steps(work.connection, item.id, planned, {"baseline_count"} if known else set())


@dataclass(frozen=True, slots=True)
class NewAct:
    """A step as a person reports it."""

    id: UUID
    step: str
    outcome: Outcome
    done_on: date
    quantity: float | None
    lot: str
    count_id: UUID | None
    note: str
    override: Override | None


async def record_act(work: Work, course_id: UUID, act: NewAct) -> CourseView:
    """Record a step of a course once; everything behind it moves with the day it was done.

    Raises Refused with the rule (too early, the step before it not done, weather), AlreadyDone with who and when,
    InvalidInput naming `done_on`, `quantity`, `count_id` or `note`.
    """
    require(work.who, "record")
    course = await store.course(work.connection, course_id)
    content = {"course": course_id, **plain(act)}
    if await work.accept(act.id, "act", content):
        await store.lock_course(work.connection, course_id)
        course = await store.course(work.connection, course_id)
        acts = await store.acts_of_courses(work.connection, [course_id])
        before = next((done for done in acts if done.step == act.step), None)
        if before is not None:
            raise AlreadyDone(
                f"recorded before by {before.by_name or 'somebody'}, done on {before.done_on.isoformat()}"
            )
        option = default_catalogue().option(course.option_id)
        planned = _planned(course, option, acts)
        step = planned.step(act.step)
        _check_act(work, course, step, act, acts)
        if step.kind == "place":
            await _check_weather(work, course, option, act)
        await store.add_act(
            work.connection,
            id=act.id,
            course_id=course_id,
            step=act.step,
            outcome=act.outcome,
            done_on=act.done_on,
            quantity=act.quantity if step.kind == "place" else None,
            quantity_unit=course.dose_unit if step.kind == "place" and act.quantity else None,
            lot=act.lot,
            count_id=act.count_id if step.kind in ("verify", "baseline_count") else None,
            note=act.note,
            override_by=act.override.authorised_by if act.override else "",
            override_why=act.override.reason if act.override else "",
        )
        await _move_on(work, course, option)
    return await course_view(work, course_id)


def _check_act(work: Work, course: Course, step: Step, act: NewAct, acts: Sequence[CourseAct]) -> None:
    if course.state == "abandoned" or course.state.startswith("verified"):
        raise Refused(
            "closed", f"this course is {course.state.replace('_', ' ')}: nothing more can be recorded", field="step"
        )
    if act.done_on > work.today:
        raise InvalidInput("done_on", "lies in the future", code="out_of_range")
    done = {one.step: one for one in acts}
    if step.after is not None and step.after not in done and step.kind != "interim_check":
        raise Refused("order", f"first: {step.after.replace('_', ' ')}", field="step")
    if step.after is not None and step.after in done and act.done_on < done[step.after].done_on:
        raise InvalidInput("done_on", "is before the step that comes before it", code="out_of_range")
    overridden = act.override is not None and act.override.authorised_by.strip() and act.override.reason.strip()
    if act.outcome == "skipped":
        if step.name not in MAY_BE_SKIPPED:
            raise Refused("skip", "this step cannot be skipped", field="outcome")
        if not act.note.strip():
            raise InvalidInput("note", "say why it is skipped", code="missing")
        return
    if act.done_on < step.window.earliest and not overridden:
        raise Refused(
            "S2",
            f"too early: not before {step.window.earliest.isoformat()}, unless somebody named takes it on",
            field="done_on",
            can_override=step.kind != "verify",
        )
    if step.kind == "place" and act.done_on > step.window.latest and not overridden:
        raise Refused(
            "S4",
            f"past its window ({step.window.latest.isoformat()}): plan again, or somebody named takes it on",
            field="done_on",
            can_override=True,
        )
    if step.kind == "place" and (act.quantity is None or not 0 < act.quantity <= 1000):
        raise InvalidInput("quantity", f"enter the dose placed, in {course.dose_unit}", code="missing")
    if step.kind == "verify" and act.count_id is None:
        raise InvalidInput("count_id", "a course is verified by a count", code="missing")


async def _check_weather(work: Work, course: Course, option: Option, act: NewAct) -> None:
    """The weather is looked at again on the day of the placing; a placing entered later was seen by who placed it."""
    if act.done_on != work.today or (act.override and act.override.reason.strip()):
        return
    apiary = await places.apiary(work.connection, course.apiary_id)
    forecast = forecast_at(work, apiary.latitude, apiary.longitude)
    blocked = [found for found in weather_on(option, forecast, act.done_on) if found.level == "not_now"]
    if blocked:
        following = next_usable(option, forecast, act.done_on)
        then = f"; next usable day {following.isoformat()}" if following else "; no usable day in the forecast"
        raise Refused(blocked[0].rule, blocked[0].text + then, field="done_on", can_override=True)


def _planned(course: Course, option: Option, acts: Sequence[CourseAct]) -> PlannedCourse:
    actuals = {act.step: act.done_on for act in acts if act.outcome == "done"}
    return plan_course(option, course.start_on, actuals, course.interval_override)


async def _move_on(work: Work, course: Course, option: Option, abandoned_why: str = "") -> None:
    """Lay steps, state and dates of a course anew from what has been done of it."""
    acts = await store.acts_of_courses(work.connection, [course.id])
    done = {act.step: act for act in acts}
    planned = _planned(course, option, acts)
    placed = done.get("place_1")
    ending = done.get(planned.ending.name)
    verdict: dict[str, Any] | None = course.verdict
    if "verify" in done and done["verify"].count_id is not None:
        verdict = await _verdict(work, course, option, done, ending.done_on if ending else planned.ending.window.ideal)
    if abandoned_why:
        state = "abandoned"
    elif "close" in done and verdict is not None:
        state = CLOSED_STATES[str(verdict["word"])]
    elif ending is not None:
        state = "awaiting_verification"
    else:
        state = "under_way" if placed is not None else "planned"
    await store.lay_steps(work.connection, course.id, planned, set(done))
    await store.move_course(
        work.connection,
        id=course.id,
        state=state,
        occupies_from=placed.done_on if placed else course.start_on,
        occupies_to=max(
            ending.done_on if ending else planned.ending.window.ideal, placed.done_on if placed else date.min
        ),
        placed_on=placed.done_on if placed else None,
        ended_on=ending.done_on if ending else None,
        honey_clear_on=planned.honey_clear,
        verdict=Jsonb(verdict) if verdict is not None else None,
        abandoned_why=abandoned_why,
    )
    if placed is not None:
        await lay_standings(work, [course.colony_id])


def _pool(count: Count) -> verification.Pool:
    assert count.bees_mean is not None and count.bees_cv is not None and count.recovery is not None
    recovery: Recovery = "all"
    if count.recovery in RECOVERY_PRIOR:
        recovery = count.recovery
    return verification.Pool(sum(count.shakes or []), BeesInSample(count.bees_mean, count.bees_cv), recovery)


async def _verdict(
    work: Work, course: Course, option: Option, done: Mapping[str, CourseAct], end: date
) -> dict[str, Any]:
    """Judge a course from the count before and the count after, with untreated neighbours where they were counted."""
    policy = await policy_in_force(work, course.apiary_id)
    start = course.placed_on or done["place_1"].done_on
    post_id = done["verify"].count_id
    assert post_id is not None
    post = await sampling.count_by_id(work.connection, post_id)
    if post.colony_id != course.colony_id:
        raise InvalidInput("count_id", "is a count of another colony", code="unknown")
    if post.recovery is None:
        raise InvalidInput("count_id", "this count has no rate: wash a jar of known bees", code="refused")
    if post.taken_on < end:
        raise InvalidInput("count_id", "was taken before the course ended", code="out_of_range")
    earliest = verification.earliest_post(option, end, course.broodless)
    if post.taken_on < earliest:
        raise Refused("S5", f"too early to tell: count on {earliest.isoformat()} or later", field="count_id")
    history = await sampling.counts_of_colonies(work.connection, [course.colony_id], start - timedelta(days=60))
    before = [count for count in history if count.recovery is not None and count.taken_on <= start]
    named = done.get("baseline_count")
    pre = next((count for count in before if named is not None and count.id == named.count_id), None)
    pre = pre or (before[0] if before else None)
    reading_phase = policy.calendar.phase(post.taken_on)
    act = policy.beside("mites_per_100").levels[reading_phase].act
    controls: tuple[list[verification.Pool], list[verification.Pool]] | None = None
    control_labels: list[str] = []
    if pre is not None:
        controls, control_labels = await _controls(work, course, pre, post)
    reading = reading_on_record(post)
    residual = reading.p_over(act) if isinstance(reading, Reading) else 0.0
    found = verification.judge(
        option,
        start=start,
        end=end,
        broodless=course.broodless,
        pre=_pool(pre) if pre else None,
        pre_on=pre.taken_on if pre else None,
        post=_pool(post),
        post_on=post.taken_on,
        residual_p_act=residual,
        growth_per_day=GROWTH_PER_DAY[policy.calendar.phase(start)],
        generator=np.random.default_rng(course.id.int % 2**63),
        controls=controls,
    )
    effect = found.efficacy
    return {
        "word": found.word,
        "why_not": found.why_not,
        "target_pct": found.target_pct,
        "p_target": found.p_target,
        "p_half": found.p_half,
        "median_pct": effect.median_pct if effect else None,
        "low_pct": effect.low_pct if effect else None,
        "high_pct": effect.high_pct if effect else None,
        "controls": control_labels,
        "residual_p_act": residual,
        "act_per_100": act,
        "projected": found.projected,
        "pre_mites_needed": found.pre_mites_needed,
        "earliest": earliest.isoformat(),
        "pre": _as_side(pre),
        "post": _as_side(post),
        "policy_version": policy.version,
    }


def _as_side(count: Count | None) -> dict[str, Any] | None:
    if count is None:
        return None
    return {
        "count_id": str(count.id),
        "taken_on": count.taken_on.isoformat(),
        "mites": count.mites,
        "bees": count.bees_mean,
        "median": count.median,
        "low": count.low,
        "high": count.high,
    }


async def _controls(
    work: Work, course: Course, pre: Count, post: Count
) -> tuple[tuple[list[verification.Pool], list[verification.Pool]] | None, list[str]]:
    """Untreated colonies of the apiary counted within a week of both counts."""
    near = timedelta(days=CONTROL_NEAR_DAYS)
    ids = await store.untreated_colonies(work.connection, course.apiary_id, pre.taken_on - near, post.taken_on)
    ids = [one for one in ids if one != course.colony_id]
    if not ids:
        return None, []
    counts = await sampling.counts_of_colonies(work.connection, ids, pre.taken_on - near)
    names = {colony.id: colony.label for colony in await colonies.colonies_by_id(work.connection, ids)}
    before: list[verification.Pool] = []
    after: list[verification.Pool] = []
    labels: list[str] = []
    for one in ids:
        own = [count for count in counts if count.colony_id == one and count.recovery is not None]
        first = next((count for count in own if abs((count.taken_on - pre.taken_on).days) <= CONTROL_NEAR_DAYS), None)
        last = next((count for count in own if abs((count.taken_on - post.taken_on).days) <= CONTROL_NEAR_DAYS), None)
        if first is not None and last is not None and first.id != last.id:
            before.append(_pool(first))
            after.append(_pool(last))
            labels.append(names[one])
    return ((before, after), labels) if before else (None, [])


async def amend_act(
    work: Work, course_id: UUID, act_id: UUID, version: int, *, done_on: date, quantity: float | None, lot: str,
    count_id: UUID | None, note: str,
) -> CourseView:  # fmt: skip
    """Amend what was recorded of a step; the transaction carries the reason, and the dates behind it move.

    Raises InvalidInput naming `done_on` for an impossible day, Conflict when the act has changed since `version`.
    """
    require(work.who, "record")
    await store.lock_course(work.connection, course_id)
    course = await store.course(work.connection, course_id)
    option = default_catalogue().option(course.option_id)
    if done_on > work.today:
        raise InvalidInput("done_on", "lies in the future", code="out_of_range")
    acts = await store.acts_of_courses(work.connection, [course_id])
    _check_order(_planned(course, option, acts), {act.step: act.done_on for act in acts}, act_id, acts, done_on)
    await store.amend_act(
        work.connection,
        id=act_id,
        course_id=course_id,
        version=version,
        done_on=done_on,
        quantity=quantity,
        lot=lot,
        count_id=count_id,
        note=note,
    )
    try:
        await _move_on(work, course, option)
    except InvalidInput as error:
        raise InvalidInput("done_on", error.message, code=error.code) from error
    return await course_view(work, course_id)


def _check_order(
    planned: PlannedCourse, done: Mapping[str, date], act_id: UUID, acts: Sequence[CourseAct], done_on: date
) -> None:
    """An amended day stays between the step that comes before it and those that follow it."""
    own = next((act.step for act in acts if act.id == act_id), None)
    for step in planned.steps:
        before = done.get(step.after) if step.after is not None else None
        if step.name == own and before is not None and done_on < before:
            raise InvalidInput("done_on", f"is before the step that comes before it ({before})", code="out_of_range")
        behind = done.get(step.name)
        if step.after == own and behind is not None and done_on > behind:
            raise InvalidInput("done_on", f"is after the step that follows it ({behind})", code="out_of_range")


async def abandon(work: Work, course_id: UUID, why: str, removed_on: date | None) -> CourseView:
    """Abandon a course. Where something was placed that does not vanish, the day of its removal is asked for."""
    require(work.who, "record")
    await store.lock_course(work.connection, course_id)
    course = await store.course(work.connection, course_id)
    if course.state == "abandoned" or course.state.startswith("verified"):
        raise Refused("closed", f"this course is {course.state.replace('_', ' ')}")
    if not why.strip():
        raise InvalidInput("why", "say why the course is abandoned", code="missing")
    option = default_catalogue().option(course.option_id)
    if course.placed_on is not None and course.ended_on is None:
        if removed_on is None:
            raise InvalidInput("removed_on", "say when the product came out of the hive", code="missing")
        if not course.placed_on <= removed_on <= work.today:
            raise InvalidInput("removed_on", "must be between the placing and today", code="out_of_range")
        course = replace(course, ended_on=removed_on)
    await _move_on(work, course, option, abandoned_why=why.strip())
    return await course_view(work, course_id)


async def trail(work: Work, course_id: UUID) -> list[people.TrailEntry]:
    """The history of a course, newest first. Raises NotFound."""
    await store.course(work.connection, course_id)
    return await people.trail_of(work.connection, "course", course_id)
