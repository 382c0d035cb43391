"""How far a course is: what was done of it, the state and the dates that follow, and what may be recorded next.

Pure and without a clock: what was done goes in, `today` is an argument. An option whose dose needs no stay and no
removal (a trickle, a vapour) ends with its last placing: nobody records that end (docs/methods/courses.md).
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import Literal, Protocol

from redframe.core.errors import InvalidInput, Refused
from redframe.core.said import Params, nothing
from redframe.core.treatments.catalogue import Option
from redframe.core.treatments.course import Course, Step, StepKind, clearance, plan_course
from redframe.core.treatments.reasons import Reason, ReasonCode
from redframe.core.treatments.states import (
    CLOSED_BY_VERDICT,
    COURSE_STATES,
    CourseState,
    VerdictWord,
    is_open,
)
from redframe.core.treatments.weather import NO_FORECAST, Forecast, next_usable, weather_on

ActOutcome = Literal["done", "skipped"]
StepState = Literal["pending", "ready", "overdue", "waiting_for_weather", "done", "done_late", "skipped", "cancelled"]

MAY_BE_SKIPPED: frozenset[StepKind] = frozenset({"baseline_count", "interim_check"})
BEFORE_PLACING: frozenset[StepKind] = frozenset({"prepare", "baseline_count", "close_supers_feeder"})
DOABLE: frozenset[StepState] = frozenset({"ready", "overdue", "waiting_for_weather"})
OVERTAKEN_BY: Mapping[StepKind, frozenset[str]] = {
    "prepare": frozenset({"place_1"}),
    "baseline_count": frozenset({"place_1"}),
    "close_supers_feeder": frozenset({"place_1"}),
    "interim_check": frozenset({"remove", "end", "verify"}),
}
"""Steps that no longer can be done once a later one was: nobody is asked for them."""
EARLY_START_DAYS = 7
"""So many days before its planned day a course may be begun: it is judged again on that day."""
MOST_QUANTITY = 1000


class Done(Protocol):
    """What was recorded of a step."""

    @property
    def step(self) -> str:
        """The step's name."""

    @property
    def outcome(self) -> ActOutcome:
        """Whether it was done, or skipped with a reason."""

    @property
    def done_on(self) -> date:
        """The day on which it was."""


@dataclass(frozen=True, slots=True)
class Plan:
    """What a course was planned as: an option from a day on, with an interval of its own where somebody set one."""

    option: Option
    start_on: date
    interval_override: int | None = None

    def days(self, acts: Sequence[Done]) -> dict[str, date]:
        """The days on which steps were done, with an end that is the last placing."""
        done = {act.step: act.done_on for act in acts if act.outcome == "done"}
        last = done.get(f"place_{self.option.applications}")
        if self.option.ends_at_placing and last is not None:
            done["end"] = max(last, done.get("end", last))
        return done

    def course(self, days: Mapping[str, date]) -> Course:
        """The steps with their dates, moved by the days on which some were done."""
        return plan_course(self.option, self.start_on, days, self.interval_override)


@dataclass(frozen=True, slots=True)
class Progress:
    """A course after what was done: its dated steps, those behind it (`done`, skipped and overtaken ones too), its
    state, and the
    days on which it had or has the colony."""

    course: Course
    done: frozenset[str]
    state: CourseState
    placed_on: date | None
    ended_on: date | None
    occupies_from: date
    occupies_to: date
    honey_clear_on: date | None


def progress(
    plan: Plan,
    acts: Sequence[Done],
    *,
    verdict: VerdictWord | None,
    is_abandoned: bool = False,
    removed_on: date | None = None,
) -> Progress:
    """Where a course is after `acts`; `removed_on` is the day on which an abandoned one came out of the hive.

    Raises InvalidInput naming the step whose day is impossible.
    """
    days = plan.days(acts)
    course = plan.course(days)
    placed, ended = days.get("place_1"), days.get(course.ending.name)
    honey_clear = course.honey_clear
    if is_abandoned and placed is not None and ended is None:
        ended = removed_on
        if removed_on is not None and honey_clear is not None:
            honey_clear = clearance(removed_on, plan.option.withdrawal_days)
    done = frozenset(act.step for act in acts) | frozenset(days)
    done |= _overtaken(course, done)
    start = placed or plan.start_on
    return Progress(
        course=course,
        done=done,
        state=_state(done, placed, ended, verdict, is_abandoned),
        placed_on=placed,
        ended_on=ended,
        occupies_from=start,
        occupies_to=max(ended or course.ending.window.ideal, start),
        honey_clear_on=honey_clear,
    )


def _overtaken(course: Course, done: Collection[str]) -> frozenset[str]:
    """Names of the steps that a later one has overtaken."""
    later = ((step.name, OVERTAKEN_BY.get(step.kind, frozenset())) for step in course.steps)
    return frozenset(name for name, by in later if name not in done and not by.isdisjoint(done))


def _state(
    done: frozenset[str], placed: date | None, ended: date | None, verdict: VerdictWord | None, is_abandoned: bool
) -> CourseState:
    if is_abandoned:
        return "abandoned"
    if "close" in done and verdict is not None:
        return CLOSED_BY_VERDICT[verdict]
    if ended is not None:
        return "awaiting_outcome" if "verify" in done and verdict is not None else "awaiting_verification"
    return "planned" if placed is None else "under_way"


@dataclass(frozen=True, slots=True)
class Report:
    """A step as somebody reports it; `is_set_aside`: somebody named takes on what speaks against it, and says why;
    `supers_on`: honey supers stay on (None: not said, which is no)."""

    step: str
    outcome: ActOutcome
    done_on: date
    quantity: float | None
    has_count: bool
    note: str
    is_set_aside: bool
    supers_on: bool | None = None


def check_report(
    plan: Plan, state: CourseState, acts: Sequence[Done], report: Report, *, today: date, dose_unit: str
) -> Step:
    """The step that a report is about, where it may be recorded now.

    Raises Refused with the rule (closed, order, skip, S2 too early, S4 past its window) or InvalidInput naming
    `done_on`, `note`, `quantity` or `count_id`.
    """
    if not is_open(state):
        raise Refused("closed", f"this course is {said_state(state)}: nothing more can be recorded", field="step")
    days = plan.days(acts)
    step = plan.course(days).step(report.step)
    done = {act.step for act in acts} | set(days)
    if step.name in done:
        raise Refused("order", "it ended with the last dose: there is nothing to record", field="step")
    if report.done_on > today:
        raise InvalidInput("done_on", "lies in the future", code="out_of_range")
    if step.after is not None and step.after not in done and step.kind != "interim_check":
        raise Refused("order", f"first: {said_step(step.after)}", field="step")
    before = _day_before(step, acts, days)
    if before is not None and report.done_on < before:
        raise InvalidInput("done_on", "is before the step that comes before it", code="out_of_range")
    if report.outcome == "skipped":
        if step.kind not in MAY_BE_SKIPPED:
            raise Refused("skip", "this step cannot be skipped", field="outcome")
        if not report.note.strip():
            raise InvalidInput("note", "say why it is skipped", code="missing")
        return step
    earliest = step.window.earliest - timedelta(days=EARLY_START_DAYS if step.placing == 1 else 0)
    if report.done_on < earliest and not report.is_set_aside:
        text = f"too early: not before {earliest.isoformat()}, unless somebody named takes it on"
        raise Refused("S2", text, field="done_on", can_override=step.kind != "verify")
    if step.kind == "place" and report.done_on > step.window.latest and not report.is_set_aside:
        text = f"past its window ({step.window.latest.isoformat()}): plan again, or somebody named takes it on"
        raise Refused("S4", text, field="done_on", can_override=True)
    if step.kind == "place" and (report.quantity is None or not 0 < report.quantity <= MOST_QUANTITY):
        raise InvalidInput("quantity", f"enter the dose placed, in {dose_unit}", code="missing")
    if step.kind == "close_supers_feeder" and report.supers_on and plan.option.supers == "no":
        raise InvalidInput("supers_on", "they come off before this is placed", code="refused")
    if step.kind == "verify" and not report.has_count:
        raise InvalidInput("count_id", "a course is verified by a count", code="missing")
    return step


def _day_before(step: Step, acts: Sequence[Done], days: Mapping[str, date]) -> date | None:
    recorded = {act.step: act.done_on for act in acts}
    return None if step.after is None else recorded.get(step.after, days.get(step.after))


def check_amended_day(plan: Plan, acts: Sequence[Done], amended: str, done_on: date, *, today: date) -> None:
    """Raise InvalidInput("done_on") for a day in the future, before the step that comes before the amended one, or
    after one that follows it."""
    if done_on > today:
        raise InvalidInput("done_on", "lies in the future", code="out_of_range")
    recorded = {act.step: act.done_on for act in acts}
    for step in plan.course(plan.days(acts)).steps:
        before = recorded.get(step.after) if step.after is not None else None
        if step.name == amended and before is not None and done_on < before:
            raise InvalidInput("done_on", f"is before the step that comes before it ({before})", code="out_of_range")
        behind = recorded.get(step.name)
        if step.after == amended and behind is not None and done_on > behind:
            raise InvalidInput("done_on", f"is after the step that follows it ({behind})", code="out_of_range")


def check_abandoned(
    state: CourseState, placed_on: date | None, ended_on: date | None, why: str, removed_on: date | None, *, today: date
) -> None:
    """Whether a course may be abandoned: it is open, a reason is given, and what was placed came out on a day.

    Raises Refused("closed"), or InvalidInput naming `why` or `removed_on`.
    """
    if not is_open(state):
        raise Refused("closed", f"this course is {said_state(state)}")
    if not why.strip():
        raise InvalidInput("why", "say why the course is abandoned", code="missing")
    if placed_on is not None and ended_on is None:
        if removed_on is None:
            raise InvalidInput("removed_on", "say when the product came out of the hive", code="missing")
        if not placed_on <= removed_on <= today:
            raise InvalidInput("removed_on", "must be between the placing and today", code="out_of_range")


MovedCode = Literal[
    "later_than_planned", "counts_from_done", "counts_from_expected", "counts_from_dose_done",
    "counts_from_dose_expected",
]  # fmt: skip


@dataclass(frozen=True, slots=True)
class MovedWhy:
    """Why a step has moved: the weather, or the step that it counts from."""

    code: Literal[MovedCode, ReasonCode]
    params: Params = field(default_factory=nothing)


@dataclass(frozen=True, slots=True)
class StepProgress:
    """A step as it is today. `moved_days` against the plan of record (`first_ideal`), with the reason; `weather` for
    the placing that is next, with the next day on which it could be; `is_ready`: it can be recorded now."""

    name: str
    kind: StepKind
    state: StepState
    earliest: date
    ideal: date
    latest: date
    first_ideal: date
    hard_stop: bool
    after: str | None
    moved_days: int
    moved_why: MovedWhy | None
    weather: Sequence[Reason]
    next_usable: date | None
    is_ready: bool
    is_before_placing: bool
    may_be_skipped: bool


def steps_on(
    plan: Plan,
    state: CourseState,
    acts: Sequence[Done],
    first_ideals: Mapping[str, date],
    forecast: Forecast | None,
    *,
    today: date,
) -> tuple[list[StepProgress], str | None]:
    """The steps of a course as they are on `today`, and the name of the one to do next (None: nothing).

    `first_ideals` are the days of the plan of record. A placing that waits for the weather takes what follows with it.
    """
    days = plan.days(acts)
    recorded = {act.step: act for act in acts}
    course = plan.course(days)
    closed = not is_open(state)
    overtaken = _overtaken(course, set(recorded) | set(days))
    expected = dict(days)
    placing = next((step for step in course.steps if step.kind == "place" and step.name not in recorded), None)
    weather: list[Reason] = []
    following: date | None = None
    if placing is not None and forecast is not None and COURSE_STATES[state].places_wait:
        day = max(today, placing.window.ideal)
        weather = weather_on(plan.option, forecast, day)
        following = next_usable(plan.option, forecast, day) if blocking(weather) is not None else day
        if following is not None and following > placing.window.ideal:
            expected[placing.name] = following
    try:
        moved_course = plan.course(expected)
    except InvalidInput:
        moved_course = course
    views = []
    for planned in course.steps:
        step = moved_course.step(planned.name)
        act = recorded.get(step.name)
        own_weather = weather if placing is not None and step.name == placing.name else []
        gone = closed or step.name in overtaken
        step_state = _step_state(today, planned, act, set(recorded) | set(days), gone, own_weather)
        ideal = expected.get(step.name, step.window.ideal)
        first = first_ideals.get(step.name, planned.window.ideal)
        moved = (ideal - first).days
        views.append(
            StepProgress(
                name=step.name,
                kind=step.kind,
                state=step_state,
                earliest=step.window.earliest,
                ideal=ideal,
                latest=step.window.latest,
                first_ideal=first,
                hard_stop=step.hard_stop,
                after=step.after,
                moved_days=moved,
                moved_why=_moved_why(step, moved_course, days, expected, own_weather) if moved else None,
                weather=own_weather,
                next_usable=following if own_weather else None,
                is_ready=act is None and step_state in DOABLE,
                is_before_placing=step.kind in BEFORE_PLACING,
                may_be_skipped=step.kind in MAY_BE_SKIPPED,
            )
        )
    return views, None if closed else _next_step(views, days, overtaken)


def blocking(weather: Sequence[Reason]) -> Reason | None:
    """What the weather forbids; a day without a forecast forbids nothing, it is looked at again."""
    return next((one for one in weather if one.level == "not_now" and one.rule != NO_FORECAST), None)


def _step_state(
    today: date, step: Step, act: Done | None, done: set[str], gone: bool, weather: Sequence[Reason]
) -> StepState:
    if act is not None:
        if act.outcome == "skipped":
            return "skipped"
        return "done_late" if act.done_on > step.window.latest else "done"
    if step.name in done:
        return "done"
    if gone:
        return "cancelled"
    if step.after is not None and step.after not in done:
        return "pending"
    if today > step.window.latest:
        return "overdue"
    if today < step.window.earliest:
        return "pending"
    return "ready" if blocking(weather) is None else "waiting_for_weather"


def _next_step(views: Sequence[StepProgress], days: Collection[str], overtaken: Collection[str]) -> str | None:
    """The step to do next: never one that a later step has overtaken."""
    for view in views:
        is_behind = view.state in ("done", "done_late", "skipped") or view.name in days or view.name in overtaken
        if is_behind or (view.kind == "baseline_count" and not view.is_ready):
            continue
        return view.name
    return None


def _moved_why(
    step: Step, course: Course, days: Mapping[str, date], expected: Mapping[str, date], weather: Sequence[Reason]
) -> MovedWhy | None:
    blocked = blocking(weather)
    if blocked is not None:
        return MovedWhy(blocked.code, blocked.params)
    if step.name in days:
        return None
    if step.name in expected:
        return MovedWhy("later_than_planned")
    after = step.after
    while after is not None:
        day = days.get(after, expected.get(after))
        if day is not None:
            return _counts_from(course.step(after), day, is_done=after in days)
        after = course.step(after).after
    return None


def _counts_from(step: Step, day: date, *, is_done: bool) -> MovedWhy:
    if step.placing is None:
        return MovedWhy("counts_from_done" if is_done else "counts_from_expected", {"step": step.kind, "day": day})
    dose: Params = {"dose": step.placing, "day": day}
    return MovedWhy("counts_from_dose_done" if is_done else "counts_from_dose_expected", dose)


def said_step(name: str) -> str:
    """A step inside a sentence: "dose 2", "the end of the course"."""
    kind, _, number = name.partition("_")
    if kind == "place":
        return f"dose {number}"
    return {"remove": "the removal", "end": "the end of the course"}.get(name, name.replace("_", " "))


def said_state(state: CourseState) -> str:
    """The state of a course inside a sentence."""
    return state.replace("_", " ")
