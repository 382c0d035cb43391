"""The dated course of an option: steps with `[earliest, ideal, latest]`, moving with what was really done.

A step counts from its predecessor's ideal date while that is not done and from its actual date once it is, so
that a placing three days late moves everything behind it by three days.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal

from redframe.core.errors import InvalidInput
from redframe.core.treatments.catalogue import Option, Triple

StepKind = Literal[
    "prepare", "baseline_count", "close_supers_feeder", "place", "interim_check", "remove", "end",
    "dispose", "honey_clear", "verify", "close",
]  # fmt: skip

PREPARE: Triple = (-14, -3, 0)
BASELINE: Triple = (-21, -3, 0)
CLOSE_SUPERS_FEEDER: Triple = (-7, -1, 0)
FIRST_PLACING: Triple = (0, 0, 7)
DISPOSE: Triple = (0, 0, 7)
CLOSE: Triple = (0, 0, 7)
BASELINE_FRESH_DAYS = 7
BASELINE_USABLE_DAYS = 14


@dataclass(frozen=True, slots=True)
class Window:
    """When a step may, should and must be done."""

    earliest: date
    ideal: date
    latest: date

    @classmethod
    def after(cls, day: date, triple: Triple) -> Window:
        """The window that a triple of days opens after (or before) a day."""
        return cls(*(day + timedelta(days=days) for days in triple))

    def as_list(self) -> list[date]:
        """[earliest, ideal, latest]"""
        return [self.earliest, self.ideal, self.latest]


@dataclass(frozen=True, slots=True)
class Step:
    """One dated task of a course. `placing` numbers the placings from 1; `hard_stop` marks a latest date that does
    harm when it is passed; `after` is the step that must be done first."""

    name: str
    kind: StepKind
    window: Window
    placing: int | None
    hard_stop: bool
    after: str | None


@dataclass(frozen=True, slots=True)
class Course:
    """The steps of a course in order, and the day from which its honey is clear (None: nothing to clear)."""

    option: Option
    steps: tuple[Step, ...]
    honey_clear: date | None

    def step(self, name: str, field: str = "step") -> Step:
        """Look a step up by its name; raises InvalidInput."""
        for step in self.steps:
            if step.name == name:
                return step
        raise InvalidInput(field, "is not a step of this course", allowed=", ".join(s.name for s in self.steps))

    @property
    def ending(self) -> Step:
        """The step that ends the course: removal, or the end of the stay."""
        return next(step for step in self.steps if step.kind in ("remove", "end"))


def clearance(removed: date, withdrawal_days: int) -> date:
    """Day from which supers may go on or honey may be taken: removal (day 0) plus whole withdrawal days."""
    return removed + timedelta(days=withdrawal_days)


def plan_course(
    option: Option,
    start: date,
    actuals: Mapping[str, date] | None = None,
    interval_override: int | None = None,
) -> Course:
    """The course of `option` started on `start`, with `actuals` (step name to the day it was done) put in.

    Raises InvalidInput naming the step whose actual day is impossible (a placing on or before the one before it, a
    removal before the last placing) or that the course does not have, and `interval_override` out of 1 to 60.
    """
    done = dict(actuals or {})
    if interval_override is not None and not 1 <= interval_override <= 60:
        raise InvalidInput("interval_override", "must be 1 to 60 days", code="out_of_range", allowed="1 to 60")
    interval = (interval_override,) * 3 if interval_override is not None else option.interval_days
    steps: list[Step] = []

    def add(name: str, kind: StepKind, window: Window, *, after: str | None, placing: int | None = None,
            hard_stop: bool = False) -> date:  # fmt: skip
        steps.append(Step(name, kind, window, placing, hard_stop, after))
        return done.get(name, window.ideal)

    add("prepare", "prepare", Window.after(start, PREPARE), after=None)
    add("baseline_count", "baseline_count", Window.after(start, BASELINE), after=None)
    before_placing: str | None = "prepare" if option.chemical else None
    if not (option.supers == "yes" and option.feeding_during):
        window = Window.after(start, CLOSE_SUPERS_FEEDER)
        add("close_supers_feeder", "close_supers_feeder", window, after=before_placing)
        before_placing = "close_supers_feeder"
    placed = add("place_1", "place", Window.after(start, FIRST_PLACING), after=before_placing, placing=1)
    if option.interim_check is not None:
        add("interim_check", "interim_check", Window.after(placed, option.interim_check), after="place_1")
    last = placed
    for number in range(2, option.applications + 1):
        if interval is None:
            raise ValueError(f"catalogue: {option.id} has {option.applications} placings and no interval")
        name, previous = f"place_{number}", f"place_{number - 1}"
        if name in done and done[name] <= last:
            raise InvalidInput(name, "must be later than the placing before it", code="out_of_range")
        last = add(name, "place", Window.after(last, interval), after=previous, placing=number,
                   hard_stop=option.exact_interval)  # fmt: skip
    last_placing = f"place_{option.applications}"
    ending: Literal["remove", "end"] = "remove" if option.removal_required else "end"
    if ending in done and done[ending] < last:
        raise InvalidInput(ending, "must not be before the last placing", code="out_of_range")
    ended = add(ending, ending, Window.after(last, option.stay_days), after=last_placing,
                hard_stop=option.removal_required)  # fmt: skip
    honey_clear: date | None = None
    if option.chemical:
        add("dispose", "dispose", Window.after(ended, DISPOSE), after=ending)
        honey_clear = clearance(ended, option.withdrawal_days)
    verified = add("verify", "verify", Window.after(ended, option.verify.days), after=ending)
    add("close", "close", Window.after(verified, CLOSE), after="verify")
    unknown = [name for name in done if name not in {step.name for step in steps}]
    if unknown:
        raise InvalidInput(unknown[0], "is not a step of this course", allowed=", ".join(s.name for s in steps))
    return Course(option, tuple(steps), honey_clear)


def undisturbed(option: Option, start: date) -> tuple[date, date | None]:
    """When a course that nothing moves would best end, and from which day its honey is clear (None: nothing to clear):
    what `plan_course` says of its ending, without the steps."""
    between = 0 if option.interval_days is None else option.interval_days[1]
    ends = start + timedelta(days=(option.applications - 1) * between + option.stay_days[1])
    return ends, clearance(ends, option.withdrawal_days) if option.chemical else None
