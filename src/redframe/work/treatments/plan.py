"""Courses planned for several colonies at once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID, uuid5

from psycopg.types.json import Jsonb

from redframe.core.registers.treated_for import treated_for
from redframe.core.said import Params
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.course import BASELINE_USABLE_DAYS, plan_course
from redframe.core.treatments.course import Course as PlannedCourse
from redframe.core.treatments.eligibility import Suitability
from redframe.core.treatments.overrides import Override
from redframe.core.treatments.plain import suitability_as_plain
from redframe.core.treatments.reasons import DISEASE_HOLD, Reason
from redframe.store import treatments as store
from redframe.store.colonies import ColonyOverview
from redframe.store.treatments import Occupied
from redframe.work.roles import may, require
from redframe.work.to_json import to_json
from redframe.work.treatments.options import ColonyChoice, options_for
from redframe.work.unit_of_work import UnitOfWork


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
    unit: UnitOfWork,
    *,
    plan_id: UUID,
    apiary_id: UUID,
    option_id: str,
    start_on: date,
    interval_override: int | None,
    wanted: Sequence[WantedCourse],
    order: str = "",
) -> list[PlannedRow]:
    """Plan one option on several colonies of an apiary. A colony that a rule holds back is reported with the rule and
    does not stop the others; weather past the forecast is checked again when the dose is placed. `order`: the reference
    of an authority's order, where it is given for one.

    Raises InvalidInput for the plan as a whole: unknown option, colonies of another apiary, a day in the past.
    """
    require(unit.who, "record")
    ids = [one.colony_id for one in wanted]
    choices = await options_for(unit, apiary_id, ids, start_on)
    option = choices.policy.treatment_rules.catalogue.option(option_id, "option_id")
    planned = plan_course(option, start_on, interval_override=interval_override)
    occupied = await store.courses_in_the_way(unit.connection, ids, start_on, planned.ending.window.ideal)
    by_colony = {item.colony.id: item for item in choices.colonies}
    rows, contents = [], {}
    for item in wanted:
        choice = by_colony[item.colony_id]
        suited = choice.choice.options[option_id]
        held = _held_by(suited, item.overrides, may_release=may(unit.who, "release_combs"))
        if option.chemical:
            others = [one for one in occupied if one.colony_id == item.colony_id and one.id != item.id]
            held += [_in_the_way(other) for other in others]
        rows.append(PlannedRow(item.colony_id, choice.colony.label, None if held else item.id, suited, held))
        if not held:
            contents[item.id] = {
                "plan": plan_id, "colony": item.colony_id, "option": option_id, "start": start_on,
                "interval": interval_override, "overrides": to_json(item.overrides), "order": order,
            }  # fmt: skip
    new = await unit.accept_all("course", contents)
    plan = _Plan(plan_id, start_on, interval_override, choices.policy.version, planned)
    await _add(unit, plan, [(item, by_colony[item.colony_id]) for item in wanted if item.id in new], order)
    return rows


NO_DOSE = ("T40", "T41")
"""Too weak, or of a strength that nobody recorded: without a dose there is nothing to set aside."""


def _in_the_way(other: Occupied) -> Reason:
    """Nobody can set this aside: the register would hold two chemicals in one colony on one day."""
    name = default_catalogue().option(other.option_id).name
    said: Params = {"option": name, "from": other.occupies_from, "to": other.occupies_to}
    return Reason("T09", "not_now", "L", {"until": other.occupies_to}, "has_the_colony", said, other.occupies_to)


def _held_by(suited: Suitability, overrides: Sequence[Override], *, may_release: bool) -> list[Reason]:
    """The reasons that nobody set aside: rules of label and law need a name, a disease hold also a role."""
    given = {override.rule: override for override in overrides}
    held = []
    for reason in suited.holding:
        override = given.get(reason.rule)
        named = override is not None and override.authorised_by.strip() if "L" in reason.source else True
        forbidden = reason.rule == DISEASE_HOLD and not may_release
        if override is None or not override.reason.strip() or not named or forbidden:
            held.append(reason)
    if suited.dose is None and not held:
        held = [reason for reason in suited.reasons if reason.rule in NO_DOSE]
    return held


def _counted_before(colony: ColonyOverview, start_on: date) -> date | None:
    """The day of the colony's latest jar, where it can be what a check count is compared with."""
    on = colony.counted_on
    if on is None or colony.recovery is None or not 0 <= (start_on - on).days <= BASELINE_USABLE_DAYS:
        return None
    return on


@dataclass(frozen=True, slots=True)
class _Plan:
    """What all courses of a plan share."""

    id: UUID
    start_on: date
    interval_override: int | None
    policy_version: int
    course: PlannedCourse


async def _add(unit: UnitOfWork, plan: _Plan, wanted: Sequence[tuple[WantedCourse, ColonyChoice]], order: str) -> None:
    """Add the courses of a plan, each with its steps and the count before it, all of a kind in one statement."""
    if not wanted:
        return
    courses, acts, steps = {}, {}, {}
    for item, choice in wanted:
        counted_on = _counted_before(choice.colony, plan.start_on)
        if counted_on is not None:
            counted = store.NewCourseAct(item.id, "baseline_count", "done", counted_on, count_id=choice.colony.count_id)
            acts[uuid5(item.id, "baseline_count")] = counted
        steps[item.id] = (plan.course, {"baseline_count"} if counted_on is not None else set[str]())
        courses[item.id] = _new_course(unit, plan, item, choice, order)
    await store.add_courses(unit.connection, courses)
    await store.add_acts(unit.connection, acts)
    await store.replace_steps(unit.connection, steps)


def _new_course(unit: UnitOfWork, plan: _Plan, item: WantedCourse, choice: ColonyChoice, order: str) -> store.NewCourse:
    suited = choice.choice.options[plan.course.option.id]
    facts, option = choice.situation.colony, suited.option
    assert suited.dose is not None
    why = treated_for(facts.infestation_pct, facts.counted_on, choice.situation.policy.threshold_pct, unit.today, order)
    return store.NewCourse(
        apiary_id=choice.colony.apiary_id,
        colony_id=item.colony_id,
        plan_id=plan.id,
        option_id=option.id,
        catalogue_version=default_catalogue().version,
        policy_version=plan.policy_version,
        chemical=option.chemical,
        start_on=plan.start_on,
        interval_override=plan.interval_override,
        dose_quantity=suited.dose.quantity,
        dose_unit=suited.dose.unit,
        broodless=facts.capped_worker_brood == "no",
        occupies_from=plan.start_on,
        occupies_to=plan.course.ending.window.ideal,
        honey_clear_on=plan.course.honey_clear,
        suitability=Jsonb(to_json(suitability_as_plain(suited))),
        overrides=Jsonb(to_json(item.overrides)),
        treated_for=Jsonb(to_json(why)),
        bars_feed=not option.feeding_during,
    )
