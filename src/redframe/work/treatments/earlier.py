"""Treatments given before anybody planned them here: entered for several colonies at once, amended, withdrawn.

Each is a course of its colony, so that whatever looks back sees it (core/treatments/earlier.py).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID, uuid5

from psycopg.types.json import Jsonb

from redframe.core.errors import InvalidInput, Refused
from redframe.core.treatments.catalogue import Catalogue, default_catalogue
from redframe.core.treatments.course import clearance
from redframe.core.treatments.earlier import EndKnown, Given, KnownFrom, check_given, warnings
from redframe.core.treatments.facts import policy_facts
from redframe.core.treatments.reasons import Reason
from redframe.core.treatments.situation import PastTreatment
from redframe.core.treatments.states import CourseOutcome
from redframe.store import colonies
from redframe.store import earlier_treatments as earlier_store
from redframe.store import treatments as store
from redframe.store.earlier_treatments import EarlierDetails, TreatmentsKnown
from redframe.store.errors import NotFound
from redframe.store.treatments import Course
from redframe.work.policy.read import PolicyInForce, policy_in_force
from redframe.work.registers.record import enter_course
from redframe.work.roles import require
from redframe.work.status.recompute import recompute_status
from redframe.work.to_json import to_json
from redframe.work.treatments.read import CourseView, course_view
from redframe.work.treatments.record import move_on
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class WasGiven:
    """What somebody says of a treatment that was given: the days of its doses and its end, the dose each time where it
    is known, who gave it, and how that is known."""

    option_id: str
    doses_on: Sequence[date]
    end: EndKnown
    ended_on: date | None
    dose_quantity: float | None
    outcome: CourseOutcome | None
    given_by: str
    known_from: KnownFrom
    note: str

    def given(self, catalogue: Catalogue) -> Given:
        """What the rules ask of it. Raises InvalidInput("option_id")."""
        return Given(catalogue.option(self.option_id, "option_id"), self.doses_on, self.end, self.ended_on)

    @property
    def details(self) -> EarlierDetails:
        """What is kept of it with its course."""
        return EarlierDetails(
            list(self.doses_on), self.end, self.outcome, self.given_by, self.known_from, self.note
        )  # fmt: skip


@dataclass(frozen=True, slots=True)
class OfColony:
    """A colony that had it, under the id of its course there."""

    id: UUID
    colony_id: UUID


@dataclass(frozen=True, slots=True)
class EarlierRow:
    """What became of it in one colony: its course (None: only looked at), and what speaks against it."""

    colony_id: UUID
    label: str
    course_id: UUID | None
    warnings: Sequence[Reason]


async def check_earlier(
    unit: UnitOfWork, apiary_id: UUID, was_given: WasGiven, colony_ids: Sequence[UUID]
) -> list[EarlierRow]:
    """What would speak against it in each colony, by the policy in force. Raises as `record_earlier`."""
    require(unit.who, "record")
    found = await _look(unit, apiary_id, was_given, colony_ids)
    return [EarlierRow(one.known.colony_id, one.known.label, None, one.warnings) for one in found]


async def record_earlier(
    unit: UnitOfWork, entry_id: UUID, apiary_id: UUID, was_given: WasGiven, of: Sequence[OfColony]
) -> list[EarlierRow]:
    """Record, once, what colonies of an apiary were given.

    What is still in the hive goes on as a course: its removal and check count come due. Raises InvalidInput naming the
    field for what cannot have been, Conflict where it is still in and another chemical course has the colony.
    """
    require(unit.who, "record")
    found = await _look(unit, apiary_id, was_given, [one.colony_id for one in of], frozenset(one.id for one in of))
    policy = await policy_in_force(unit, apiary_id)
    ids = {one.colony_id: one.id for one in of}
    written = []
    for one in found:
        course_id = ids[one.known.colony_id]
        content = {"entry": entry_id, "colony": one.known.colony_id, **to_json(was_given)}
        if await unit.accept(course_id, "earlier", content):
            await _add(unit, course_id, entry_id, apiary_id, was_given, one, policy)
            written.append(one.known.colony_id)
    if written:
        await recompute_status(unit, written)
    return [
        EarlierRow(one.known.colony_id, one.known.label, ids[one.known.colony_id], one.warnings) for one in found
    ]  # fmt: skip


async def say_known(
    unit: UnitOfWork, write_id: UUID, apiary_id: UUID, colony_ids: Sequence[UUID], since: date, known_from: KnownFrom
) -> None:
    """Record, once, that all treatments of these colonies since a day are on record.

    Raises InvalidInput naming `known_since` or `colony_ids[i]`.
    """
    require(unit.who, "record")
    if since > unit.today:
        raise InvalidInput("known_since", "lies in the future", code="out_of_range")
    found = await _of_apiary(unit, apiary_id, colony_ids)
    content = {"colonies": sorted(map(str, colony_ids)), "since": since, "from": known_from}
    if await unit.accept(write_id, "treatments_known", content):
        for one in found:
            await earlier_store.say_treatments_known(unit.connection, one.colony_id, since, known_from)


@dataclass(frozen=True, slots=True)
class _Looked:
    """A colony with what it had otherwise, and what speaks against what is entered."""

    known: TreatmentsKnown
    warnings: Sequence[Reason]


async def _of_apiary(unit: UnitOfWork, apiary_id: UUID, colony_ids: Sequence[UUID]) -> list[TreatmentsKnown]:
    here = {one.id for one in await colonies.colonies_of_apiary(unit.connection, apiary_id, unit.today)}
    for index, one in enumerate(colony_ids):
        if one not in here:
            raise InvalidInput(f"colony_ids[{index}]", "is not a colony of this apiary", code="unknown")
    return await earlier_store.treatments_known(unit.connection, colony_ids)


async def _look(
    unit: UnitOfWork,
    apiary_id: UUID,
    was_given: WasGiven,
    colony_ids: Sequence[UUID],
    but: frozenset[UUID] = frozenset(),
) -> list[_Looked]:
    """Each colony, where it can have had it; `but`: the courses that it is itself."""
    policy = await policy_in_force(unit, apiary_id)
    given = was_given.given(policy.treatment_rules.catalogue)
    if was_given.end == "still_in" and was_given.dose_quantity is None:
        left = given.option.applications - len(was_given.doses_on)
        if left > 0:
            text = f"enter the dose in {given.option.dose.unit}: {left} more {'is' if left == 1 else 'are'} to come"
            raise InvalidInput("dose_quantity", text, code="missing")
    known = await _of_apiary(unit, apiary_id, colony_ids)
    for one in known:
        try:
            first_on = one.came_on if one.is_first_day else None
            check_given(given, today=unit.today, first_on=first_on, last_on=one.last_on)
        except InvalidInput as error:
            label = f"{one.label}: " if len(known) > 1 else ""
            raise InvalidInput(error.field, f"{label}{error.message}", code=error.code) from error
    past: dict[UUID, list[PastTreatment]] = {one: [] for one in colony_ids}
    for course in await store.courses_of_colonies(unit.connection, colony_ids):
        if course.placed_on is None or course.id in but:
            continue
        if course.option_id == was_given.option_id and course.placed_on == was_given.doses_on[0]:
            text = f"{course.label} has it on record already, by {course.by_name or 'somebody'}"
            raise InvalidInput("doses_on[0]", text, code="taken")
        past[course.colony_id].append(_past(course))
    day = was_given.doses_on[0]
    here = policy_facts(
        day, rules=policy.treatment_rules, calendar=policy.calendar, scope=policy.scope,
        act_per_100=policy.for_scale("mites_per_100").levels[policy.calendar.phase(day)].act, apiary_over=False,
    )  # fmt: skip
    season = policy.calendar.treatment_season(day, policy.honey_off)
    catalogue = policy.treatment_rules.catalogue
    return [_Looked(one, warnings(given, past[one.colony_id], catalogue, here, season)) for one in known]


def _past(course: Course) -> PastTreatment:
    assert course.placed_on is not None
    return PastTreatment(
        option=course.option_id, start=course.placed_on, end=course.ended_on, outcome=course.outcome
    )  # fmt: skip


async def _add(
    unit: UnitOfWork, course_id: UUID, entry_id: UUID, apiary_id: UUID, was_given: WasGiven, looked: _Looked,
    policy: PolicyInForce,
) -> None:  # fmt: skip
    given = was_given.given(policy.treatment_rules.catalogue)
    over_on = given.over_on(unit.today)
    course = store.NewCourse(
        apiary_id=apiary_id,
        colony_id=looked.known.colony_id,
        plan_id=entry_id,
        option_id=was_given.option_id,
        catalogue_version=default_catalogue().version,
        policy_version=policy.version,
        chemical=given.option.chemical,
        start_on=was_given.doses_on[0],
        interval_override=None,
        dose_quantity=was_given.dose_quantity,
        dose_unit=given.option.dose.unit,
        broodless=False,
        state="planned" if over_on is None else "given_earlier",
        occupies_from=was_given.doses_on[0],
        occupies_to=over_on or given.course.ending.window.ideal,
        honey_clear_on=_clear(given, over_on),
        suitability=Jsonb({"reasons": to_json(list(looked.warnings))}),
        overrides=Jsonb([]),
        is_earlier=True,
    )
    await store.add_courses(unit.connection, {course_id: course})
    await earlier_store.add_earlier(unit.connection, course_id, was_given.details)
    await _settle(unit, course_id, was_given, given)


def _clear(given: Given, over_on: date | None) -> date | None:
    if not given.option.chemical:
        return None
    return given.course.honey_clear if over_on is None else clearance(over_on, given.option.withdrawal_days)


async def _settle(unit: UnitOfWork, course_id: UUID, was_given: WasGiven, given: Given) -> None:
    """Bring the course to where what is said of it puts it."""
    over_on = given.over_on(unit.today)
    if over_on is None:
        unit_of_dose = given.option.dose.unit if was_given.dose_quantity is not None else None
        acts = [
            store.NewCourseAct(course_id, f"place_{number}", "done", on, was_given.dose_quantity, unit_of_dose)
            for number, on in enumerate(was_given.doses_on, 1)
        ]
        await store.add_acts(unit.connection, {uuid5(course_id, one.step): one for one in acts})
        await move_on(unit, await store.course(unit.connection, course_id))
        return
    closed = store.CourseNow(
        state="given_earlier",
        occupies_from=was_given.doses_on[0],
        occupies_to=over_on,
        placed_on=was_given.doses_on[0],
        ended_on=over_on,
        honey_clear_on=_clear(given, over_on),
        verdict=None,
        abandoned_why="",
    )
    await store.move_course(unit.connection, course_id, closed)
    await enter_course(unit, course_id)


async def amend_earlier(unit: UnitOfWork, course_id: UUID, version: int, was_given: WasGiven) -> CourseView:
    """Amend what was said of a treatment that is over; the transaction carries the reason.

    What is still in the hive is amended step by step, as any course. Raises Refused for such a one or where another
    option is named, InvalidInput as `record_earlier`, Conflict when it has changed since `version`.
    """
    course = await _locked(unit, course_id)
    if course.state != "given_earlier":
        raise Refused("earlier", "amend its steps: it goes on as a course" if course.ended_on is None else "it is over")
    if was_given.option_id != course.option_id:
        raise Refused("earlier", "withdraw this one and enter the other option", field="option_id")
    if was_given.end == "still_in":
        raise Refused("earlier", "it was out already: withdraw this one and enter it as still in", field="end")
    await _look(unit, course.apiary_id, was_given, [course.colony_id], frozenset([course_id]))
    await earlier_store.amend_earlier(unit.connection, course_id, version, was_given.details, "")
    await earlier_store.amend_earlier_dose(unit.connection, course_id, was_given.dose_quantity)
    given = Given(course.option, was_given.doses_on, was_given.end, was_given.ended_on)
    await _settle(unit, course_id, was_given, given)
    await recompute_status(unit, [course.colony_id])
    return await course_view(unit, course_id)


async def withdraw_earlier(unit: UnitOfWork, course_id: UUID, version: int, why: str) -> CourseView:
    """Say that it was never given; the record keeps what was said, and no rule counts it.

    Raises Refused once a step was recorded after it was entered, Conflict when it has changed since `version`.
    """
    course = await _locked(unit, course_id)
    assert course.earlier is not None
    acts = await store.acts_of_courses(unit.connection, [course_id])
    if course.state == "withdrawn" or any(one.created_at != course.created_at for one in acts):
        raise Refused("earlier", "steps were recorded since: abandon the course instead")
    if not why.strip():
        raise InvalidInput("why", "say why it is withdrawn", code="missing")
    earlier = course.earlier
    details = EarlierDetails(
        list(earlier.doses_on), earlier.end_known, earlier.outcome, earlier.given_by, earlier.known_from, earlier.note
    )  # fmt: skip
    await earlier_store.amend_earlier(unit.connection, course_id, version, details, why.strip())
    gone = store.CourseNow(
        state="withdrawn", occupies_from=course.start_on, occupies_to=course.start_on, placed_on=None, ended_on=None,
        honey_clear_on=None, verdict=None, abandoned_why="",
    )  # fmt: skip
    await store.move_course(unit.connection, course_id, gone)
    await enter_course(unit, course_id, why.strip())
    await recompute_status(unit, [course.colony_id])
    return await course_view(unit, course_id)


async def _locked(unit: UnitOfWork, course_id: UUID) -> Course:
    require(unit.who, "record")
    await store.lock_course(unit.connection, course_id)
    course = await store.course(unit.connection, course_id)
    if course.earlier is None:
        raise NotFound("earlier treatment")
    return course
