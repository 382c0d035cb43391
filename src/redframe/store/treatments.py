"""Courses, their dated steps and what was done."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import date, datetime
from uuid import UUID

from psycopg import errors
from psycopg.types.json import Jsonb
from pydantic import TypeAdapter

from redframe.core.registers.treated_for import TreatedFor
from redframe.core.treatments.check_counts import CourseVerdict
from redframe.core.treatments.course import Course as PlannedCourse
from redframe.core.treatments.overrides import Override
from redframe.core.treatments.progress import ActOutcome
from redframe.core.treatments.reasons import Reason
from redframe.core.treatments.states import CourseOutcome, CourseState, outcome_of
from redframe.core.treatments.step_facts import NOTHING, StepFacts
from redframe.store.database import Connection, columns, json_rows, many, one, run, scalar
from redframe.store.earlier_treatments import Earlier
from redframe.store.errors import AlreadyDone, Conflict, NotFound
from redframe.store.labels import OfOption

_REASONS = TypeAdapter(Sequence[Reason])
_OVERRIDES = TypeAdapter(Sequence[Override])
_VERDICT: TypeAdapter[CourseVerdict | None] = TypeAdapter(CourseVerdict | None)


_FACTS = TypeAdapter(StepFacts)
_TREATED_FOR: TypeAdapter[TreatedFor | None] = TypeAdapter(TreatedFor | None)
_EARLIER: TypeAdapter[Earlier | None] = TypeAdapter(Earlier | None)


@dataclass(frozen=True, slots=True)
class Course(OfOption):
    """One option on one colony; `reasons` are what spoke against it or for care on the day of the decision; `earlier`
    for one that was entered after it was given, whose dose may not be known."""

    id: UUID
    apiary_id: UUID
    apiary: str
    colony_id: UUID
    label: str
    plan_id: UUID
    policy_version: int
    start_on: date
    interval_override: int | None
    state: CourseState
    dose_quantity: float | None
    dose_unit: str
    broodless: bool
    placed_on: date | None
    ended_on: date | None
    honey_clear_on: date | None
    reasons: Sequence[Reason]
    overrides: Sequence[Override]
    verdict: CourseVerdict | None
    abandoned_why: str
    by_name: str
    created_at: datetime
    version: int
    earlier: Earlier | None
    treated_for: TreatedFor | None

    @property
    def outcome(self) -> CourseOutcome | None:
        """What a check count said of it, or somebody's word where it was given earlier; None for neither."""
        return outcome_of(self.state) or (self.earlier.outcome if self.earlier is not None else None)

    def __post_init__(self) -> None:
        """What is kept as JSON becomes what it is."""
        OfOption.__post_init__(self)
        object.__setattr__(self, "reasons", _REASONS.validate_python(self.reasons))
        object.__setattr__(self, "overrides", _OVERRIDES.validate_python(self.overrides))
        object.__setattr__(self, "verdict", _VERDICT.validate_python(self.verdict))
        object.__setattr__(self, "earlier", _EARLIER.validate_python(self.earlier))
        object.__setattr__(self, "treated_for", _TREATED_FOR.validate_python(self.treated_for))


@dataclass(frozen=True, slots=True)
class CourseStep:
    """A dated step; `first_ideal` is the plan of record."""

    course_id: UUID
    name: str
    kind: str
    position: int
    earliest: date
    ideal: date
    latest: date
    first_ideal: date
    hard_stop: bool
    after: str | None
    done: bool


@dataclass(frozen=True, slots=True)
class CourseAct:
    """What was done of a step, or why it was skipped; `supers_on`: honey supers stayed on, of the step that closes the
    hive. `lot_id`: the lot in stock that was used, `lot` as it is on the pack; `facts` what else was asked."""

    id: UUID
    course_id: UUID
    step: str
    outcome: ActOutcome
    done_on: date
    quantity: float | None
    quantity_unit: str | None
    lot: str
    lot_id: UUID | None
    facts: StepFacts
    count_id: UUID | None
    supers_on: bool | None
    note: str
    override_by: str
    override_why: str
    by_name: str
    created_at: datetime
    version: int
    may_undo: bool

    def __post_init__(self) -> None:
        """What is kept as JSON becomes what it is."""
        object.__setattr__(self, "facts", _FACTS.validate_python({**asdict(NOTHING), **self.facts}))  # type: ignore[dict-item]


@dataclass(frozen=True, slots=True)
class StripCourse:
    """A course as a season strip draws it."""

    id: UUID
    colony_id: UUID
    option_id: str
    state: CourseState
    is_open: bool
    start_on: date
    placed_on: date | None
    ended_on: date | None
    honey_clear_on: date | None
    occupies_from: date
    occupies_to: date
    placings: list[date]


@dataclass(frozen=True, slots=True)
class NewCourse:
    """A course as it is planned, under the versions of catalogue and policy of that day; `suitability` is how the
    option was judged, for the record. It occupies its colony from a day to another, both of them included; `bars_feed`:
    the database refuses its doses on a hive that is being fed."""

    apiary_id: UUID
    colony_id: UUID
    plan_id: UUID
    option_id: str
    catalogue_version: int
    policy_version: int
    chemical: bool
    start_on: date
    interval_override: int | None
    dose_quantity: float | None
    dose_unit: str
    broodless: bool
    occupies_from: date
    occupies_to: date
    honey_clear_on: date | None
    suitability: Jsonb
    overrides: Jsonb
    state: CourseState = "planned"
    is_earlier: bool = False
    treated_for: Jsonb | None = None
    bars_feed: bool = False


@dataclass(frozen=True, slots=True)
class NewCourseAct:
    """What was done of a step; a dose only with a placing, a count only with a step that counts, supers only with the
    step that closes the hive."""

    course_id: UUID
    step: str
    outcome: ActOutcome
    done_on: date
    quantity: float | None = None
    quantity_unit: str | None = None
    lot: str = ""
    lot_id: UUID | None = None
    facts: StepFacts = NOTHING
    count_id: UUID | None = None
    supers_on: bool | None = None
    note: str = ""
    override_by: str = ""
    override_why: str = ""


@dataclass(frozen=True, slots=True)
class CourseActDetails:
    """What can be amended of what was done of a step."""

    done_on: date
    quantity: float | None
    lot: str
    count_id: UUID | None
    note: str
    supers_on: bool | None = None
    lot_id: UUID | None = None
    facts: StepFacts = NOTHING


@dataclass(frozen=True, slots=True)
class CourseNow:
    """The state and the dates of a course, as its acts make them."""

    state: CourseState
    occupies_from: date
    occupies_to: date
    placed_on: date | None
    ended_on: date | None
    honey_clear_on: date | None
    verdict: Jsonb | None
    abandoned_why: str


async def add_courses(connection: Connection, courses: Mapping[UUID, NewCourse]) -> None:
    """Add courses under their ids. Raises Conflict when a chemical course overlaps one of them in its colony."""
    try:
        await run(
            connection, "add_courses", courses=json_rows({**columns(one), "id": id} for id, one in courses.items())
        )
    except errors.ExclusionViolation as error:
        raise Conflict("another chemical course is in this colony at that time", "start_on") from error


async def courses_of_plan(connection: Connection, plan_id: UUID) -> list[Course]:
    """Courses planned together, by the label of their colony."""
    return await many(connection, Course, "courses_of_plan", plan_id=plan_id)


async def courses_of_colonies(connection: Connection, colony_ids: Sequence[UUID]) -> list[Course]:
    """Courses of these colonies, newest first."""
    return await many(connection, Course, "courses_of_colonies", colony_ids=list(colony_ids))


async def open_courses_of_colonies(connection: Connection, colony_ids: Sequence[UUID], on: date) -> list[Course]:
    """Courses of these colonies that are open, or of which something was recorded as done on a day."""
    return await many(connection, Course, "open_courses_of_colonies", colony_ids=list(colony_ids), on=on)


@dataclass(frozen=True, slots=True)
class BriefCourse:
    """When a treatment was in a colony, and how far it got."""

    colony_id: UUID
    state: CourseState
    placed_on: date | None
    ended_on: date | None


async def brief_courses(connection: Connection, colony_ids: Sequence[UUID]) -> list[BriefCourse]:
    """The courses of these colonies that were ever placed."""
    return await many(connection, BriefCourse, "brief_courses", colony_ids=list(colony_ids))


async def course(connection: Connection, course_id: UUID) -> Course:
    """One course. Raises NotFound."""
    return await one(connection, Course, "course", what="course", id=course_id)


async def lock_course(connection: Connection, course_id: UUID) -> None:
    """Hold a course until the transaction ends. Raises NotFound."""
    if await scalar(connection, "lock_course", id=course_id) is None:
        raise NotFound("course")


async def steps_of_courses(connection: Connection, course_ids: Sequence[UUID]) -> list[CourseStep]:
    """Steps of courses, in order."""
    return await many(connection, CourseStep, "steps_of_courses", course_ids=list(course_ids))


async def acts_of_courses(connection: Connection, course_ids: Sequence[UUID]) -> list[CourseAct]:
    """What was done of courses, oldest first."""
    return await many(connection, CourseAct, "acts_of_courses", course_ids=list(course_ids))


@dataclass(frozen=True, slots=True)
class ClosingAct(OfOption):
    """An act that took supers and feeder off for a course; `supers_on`: the supers stayed."""

    colony_id: UUID
    done_on: date
    supers_on: bool | None


async def closings(connection: Connection, colony_ids: Sequence[UUID], since: date) -> list[ClosingAct]:
    """The acts since a day that took supers and feeder off these colonies."""
    return await many(connection, ClosingAct, "closings", colony_ids=list(colony_ids), since=since)


async def replace_steps(connection: Connection, steps: Mapping[UUID, tuple[PlannedCourse, Collection[str]]]) -> None:
    """Replace the dates of the steps of courses by their ids, with the names of those that are done. The plan of record
    stays."""
    rows = (
        {
            "course_id": course_id,
            "name": step.name,
            "kind": step.kind,
            "position": position,
            "earliest": step.window.earliest,
            "ideal": step.window.ideal,
            "latest": step.window.latest,
            "hard_stop": step.hard_stop,
            "after": step.after,
            "done": step.name in done,
        }
        for course_id, (planned, done) in steps.items()
        for position, step in enumerate(planned.steps)
    )
    await run(connection, "replace_steps", steps=json_rows(rows))


async def add_acts(connection: Connection, acts: Mapping[UUID, NewCourseAct]) -> None:
    """Record steps under their ids. Raises AlreadyDone when somebody recorded one of them before."""
    if not acts:
        return
    try:
        await run(connection, "add_acts", acts=json_rows({**_act_columns(one), "id": id} for id, one in acts.items()))
    except errors.UniqueViolation as error:
        raise AlreadyDone("this step was recorded before") from error


def _act_columns(act: NewCourseAct | CourseActDetails) -> dict[str, object]:
    said = {name: value for name, value in asdict(act.facts).items() if value not in (None, "")}
    return {**columns(act), "facts": Jsonb(said)}


async def amend_act(
    connection: Connection, act_id: UUID, course_id: UUID, version: int, details: CourseActDetails
) -> None:
    """Amend what was recorded of a step. Raises Conflict when it has changed since `version`."""
    amended = {"id": act_id, "course_id": course_id, "version": version, **_act_columns(details)}
    if await run(connection, "amend_act", **amended) == 0:
        raise Conflict("this step was amended by somebody else meanwhile")


async def move_course(connection: Connection, course_id: UUID, now: CourseNow) -> None:
    """Record the state and the dates of a course. Raises Conflict when another chemical course is in the way."""
    try:
        await run(connection, "move_course", id=course_id, **columns(now))
    except errors.ExclusionViolation as error:
        raise Conflict("another chemical course is in this colony at that time", "done_on") from error


async def strip_courses(connection: Connection, apiary_id: UUID, since: date) -> list[StripCourse]:
    """Courses of an apiary's colonies for their strips."""
    return await many(connection, StripCourse, "strip_courses", apiary_id=apiary_id, since=since)


@dataclass(frozen=True, slots=True)
class Occupied:
    """A chemical course and the days that it occupies its colony."""

    id: UUID
    colony_id: UUID
    option_id: str
    occupies_from: date
    occupies_to: date


async def courses_in_the_way(
    connection: Connection, colony_ids: Sequence[UUID], since: date, until: date
) -> list[Occupied]:
    """Chemical courses that occupy these colonies on any day between two days."""
    return await many(connection, Occupied, "courses_in_the_way", colony_ids=list(colony_ids), since=since, until=until)


async def untreated_colonies(connection: Connection, apiary_id: UUID, since: date, until: date) -> list[UUID]:
    """Living colonies of an apiary with no chemical in them between two days."""
    rows = await many(connection, _Id, "untreated_colonies", apiary_id=apiary_id, since=since, until=until)
    return [row.id for row in rows]


@dataclass(frozen=True, slots=True)
class _Id:
    id: UUID


@dataclass(frozen=True, slots=True)
class VerifiedCourse:
    """A course that a check count spoke of."""

    id: UUID
    apiary_id: UUID
    colony_id: UUID
    option_id: str
    placed_on: date
    state: CourseState

    @property
    def outcome(self) -> CourseOutcome | None:
        """What the check count said."""
        return outcome_of(self.state)


async def outcomes_of_options(connection: Connection, option_ids: Sequence[str], since: date) -> list[VerifiedCourse]:
    """Verified courses of these options since a day, of the colonies that the person sees."""
    return await many(
        connection, VerifiedCourse, "outcomes_of_options", option_ids=list(option_ids), since=since
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class CheckedCourse:
    """A course that was checked: the counts before and after (mites, bees), the rates of untreated neighbours, and why
    it said nothing, where it did not."""

    id: UUID
    apiary_id: UUID
    option_id: str
    placed_on: date
    state: CourseState
    why_not: str | None
    mites_before: int | None
    bees_before: float | None
    mites_after: int | None
    bees_after: float | None
    neighbours_before: float | None
    neighbours_after: float | None


async def verified_courses(connection: Connection, since: date) -> list[CheckedCourse]:
    """Courses that were checked, placed since a day, of the colonies that the person sees."""
    return await many(connection, CheckedCourse, "verified_courses", since=since)


async def undo_act(connection: Connection, id: UUID) -> bool:
    """Take back what was recorded of a step; False where it is not to be undone."""
    return bool(await scalar(connection, "undo_act", id=id))
