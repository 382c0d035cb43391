"""The treatments of a day at one apiary, hive by hive, from the records."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from redframe.core.stock.balance import Need
from redframe.core.treatments.round import AtHive, TakeAlong, is_due, steps_of_day, take_along, waits_for_weather
from redframe.store import places, visits
from redframe.store import treatments as store
from redframe.store.places import Apiary
from redframe.store.stock import Lot
from redframe.work.stock.read import available, lots_in_stock
from redframe.work.treatments.read import CourseView, views_of_courses
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class RoundStop:
    """A course at its hive: the names of the steps that today asks for, whether one has reached its best day, whether
    only the weather holds it back, and whether the colony is a suspect (last in the round, tools of its own)."""

    course: CourseView
    steps: Sequence[str]
    is_due: bool
    waits_for_weather: bool
    is_suspect: bool


@dataclass(frozen=True, slots=True)
class TreatmentRound:
    """The day's round: its stops in the order of the hives, what to take along with the lots that it names, and the
    courses of which something was recorded as done today."""

    apiary: Apiary
    stops: Sequence[RoundStop]
    take: TakeAlong
    lots: Sequence[Lot]
    done: Sequence[CourseView]


async def treatment_round(unit: UnitOfWork, apiary_id: UUID) -> TreatmentRound:
    """The treatments of today at an apiary. Raises NotFound."""
    apiary = await places.apiary(unit.connection, apiary_id)
    hives = await visits.round_of_apiary(unit.connection, apiary_id, unit.today)
    order = {one.id: at for at, one in enumerate(hives)}
    suspects = {one.id for one in hives if one.hold is not None or one.suspicious}
    courses = await store.open_courses_of_colonies(unit.connection, list(order), unit.today)
    views = await views_of_courses(unit, sorted(courses, key=lambda one: order[one.colony_id]))
    stops: list[RoundStop] = []
    at_hives: list[AtHive] = []
    for view in views:
        steps = [one.step for one in view.steps]
        today = steps_of_day(view.option, steps, unit.today) if view.is_open else []
        waits = view.is_open and waits_for_weather(steps)
        if not today and not waits:
            continue
        names = [one.name for one in today]
        stops.append(RoundStop(view, names, is_due(today, unit.today), waits, view.course.colony_id in suspects))
        at_hives.append(_at_hive(unit, view, names, apiary.keeper_id))
    # What waits for the weather, and what may wait, comes after what is due; a suspect stays last of all.
    stops.sort(key=lambda one: (one.is_suspect, not one.steps, not one.is_due, order[one.course.course.colony_id]))
    lots = await lots_in_stock(unit) if any(hive.steps for hive in at_hives) else []
    take = take_along(at_hives, available(lots))
    named = {share.lot_id for dose in take.doses for share in dose.lots}
    done = [one for one in views if any(step.act is not None and step.act.done_on == unit.today for step in one.steps)]
    return TreatmentRound(apiary, stops, take, [one.lot for one in lots if one.lot.id in named], done)


def _at_hive(unit: UnitOfWork, view: CourseView, names: Sequence[str], keeper_id: UUID) -> AtHive:
    course = view.course
    steps = [one.step for one in view.steps]
    placed = [one.act.quantity for one in view.steps if one.step.kind == "place" and one.act is not None]
    inside = placed[-1] if placed and course.ended_on is None else None
    last = max((one.ideal for one in steps if one.kind in ("remove", "end")), default=unit.today)
    need = Need(course.option_id, unit.today, last, course.dose_quantity or 0.0, course.apiary_id, keeper_id)
    return AtHive(view.option, [one for one in steps if one.name in names], inside, need)
