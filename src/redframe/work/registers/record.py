"""The register follows the courses: what an act, an amendment or an undo has changed is entered with it."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from uuid import UUID, uuid5

from psycopg.types.json import Jsonb

from redframe.core.registers.register import KeptLine, Line, amended, entries_for, line_as_plain, missing_of
from redframe.core.registers.treated_for import TreatedFor
from redframe.core.treatments.overrides import Override
from redframe.store import registers, stock
from redframe.store import treatments as courses
from redframe.store.registers import NewEntry, RegisterPlace
from redframe.store.stock import Lot
from redframe.store.treatments import Course, CourseAct
from redframe.wording.sentences import sentence, word
from redframe.work.colonies.condition import recorded_of
from redframe.work.policy.read import PolicyInForce, policy_in_force
from redframe.work.to_json import to_json
from redframe.work.unit_of_work import UnitOfWork


async def enter_course(unit: UnitOfWork, course_id: UUID, why: str = "") -> None:
    """Enter what has changed of a course's placings since they were entered last; nothing where nothing has.

    `why` for the amendments, where the transaction carries no reason of its own.
    """
    course = await courses.course(unit.connection, course_id)
    if not course.option.chemical:
        return
    acts = await courses.acts_of_courses(unit.connection, [course_id])
    placings = _placings(course, acts)
    kept = await registers.lines_of_course(unit.connection, course_id)
    if not placings and not kept:
        return
    place = await registers.register_place(unit.connection, course.colony_id)
    policy = await policy_in_force(unit, place.apiary_id)
    lots = {
        one: await stock.lot(unit.connection, one) for one in {act.lot_id for act in acts if act.lot_id is not None}
    }
    hive = (await recorded_of(unit, [course.colony_id]))[course.colony_id]
    now: dict[UUID, Line] = {}
    for step, (on, act) in placings.items():
        supers = hive.on(on).supers
        lot = lots[act.lot_id] if act is not None and act.lot_id is not None else None
        said = "" if supers is None else "on" if supers.value else "off"
        now[uuid5(course_id, step)] = _line(course, acts, on, act, lot, place, policy, supers=said)
    await _enter(unit, course, place, policy, kept, now, why)


async def _enter(
    unit: UnitOfWork, course: Course, place: RegisterPlace, policy: PolicyInForce, kept: Sequence[KeptLine],
    now: dict[UUID, Line], why: str,
) -> None:  # fmt: skip
    rules = policy.treatment_rules
    before = {one.line_id: one for one in kept}
    for entry in entries_for(kept, now):
        line = entry.line or amended(before[entry.line_id].line, entry.changes)
        lacking = missing_of(
            line, removal_required=course.option.removal_required,
            needs_prescription=course.option_id in rules.prescription_needed,
        )  # fmt: skip
        placed_on = date.fromisoformat(line.placed_on)
        days = [date.fromisoformat(day) for day in (line.ended_on, line.honey_clear_on) if day is not None]
        new = NewEntry(
            kind=entry.kind,
            line_id=entry.line_id,
            course_id=course.id,
            keeper_id=place.keeper_id,
            apiary_id=place.apiary_id,
            placed_on=placed_on,
            last_on=max([placed_on, *days]),
            today=unit.today,
            moment=unit.now,
            line=Jsonb(line_as_plain(line)),
            changes=Jsonb(to_json(list(entry.changes))),
            missing=lacking,
            why=why if entry.kind in ("amended", "void", "restored") else "",
        )
        await registers.enter(unit.connection, new)


def _placings(course: Course, acts: Sequence[CourseAct]) -> dict[str, tuple[date, CourseAct | None]]:
    """The doses that were given, by step; of a treatment that is only reported, by the days that were said."""
    given = {act.step: (act.done_on, act) for act in acts if act.step.startswith("place_") and act.outcome == "done"}
    if given or course.earlier is None or course.state == "withdrawn":
        return dict(given) if course.state != "withdrawn" else {}
    return {f"place_{number}": (on, None) for number, on in enumerate(course.earlier.doses_on, 1)}


def _line(
    course: Course, acts: Sequence[CourseAct], on: date, act: CourseAct | None, lot: Lot | None, place: RegisterPlace,
    policy: PolicyInForce, *, supers: str,
) -> Line:  # fmt: skip
    option, earlier = course.option, course.earlier
    ended = course.ended_on
    prescribed = course.option_id in policy.treatment_rules.prescription_needed
    overrides = list(course.overrides) + [
        Override(one.step, one.override_by, one.override_why) for one in acts if one.override_why
    ]
    quantity = act.quantity if act is not None else course.dose_quantity
    if act is None:
        applied_by = earlier.given_by if earlier is not None else ""
    else:
        applied_by = act.facts.applied_by or (earlier.given_by if earlier is not None else "") or act.by_name
    return Line(
        keeper=place.keeper,
        registration=place.registration,
        apiary=place.apiary,
        latitude=place.latitude,
        longitude=place.longitude,
        colony=place.colony,
        treated_for=said_treated_for(course.treated_for),
        option=option.name,
        active=option.active,
        product=lot.product if lot is not None else option.product,
        form=option.form,
        strength=lot.strength if lot is not None else "",
        lot=act.lot if act is not None else "",
        expires_on=lot.expires_on.isoformat() if lot is not None and lot.expires_on is not None else None,
        quantity=quantity,
        unit=course.dose_unit,
        placed_on=on.isoformat(),
        ended_on=ended.isoformat() if ended is not None else None,
        withdrawal_days=option.withdrawal_days,
        honey_clear_on=course.honey_clear_on.isoformat() if ended is not None and course.honey_clear_on else None,
        supers=supers,
        applied_by=applied_by,
        supplier=lot.supplier if lot is not None else "",
        bought_on=lot.bought_on.isoformat() if lot is not None and lot.bought_on is not None else None,
        receipt=lot.receipt if lot is not None else "",
        prescriber=policy.treatment_rules.prescriber if prescribed else "",
        disposal="; ".join(
            f"{one.done_on.isoformat()}: {one.facts.disposed}" for one in acts if one.facts.disposed
        ),
        adverse="; ".join(one.facts.adverse for one in acts if one.facts.adverse),
        result=course.outcome or ("cannot_tell_yet" if course.state == "verified_cannot_tell" else ""),
        exceptions="; ".join(f"{one.rule}: {one.reason} ({one.authorised_by or 'no name'})" for one in overrides),
        source=word("known_from", earlier.known_from) if earlier is not None else "",
    )  # fmt: skip


def said_treated_for(why: TreatedFor | None) -> str:
    """Why a colony was treated, in a sentence; "" where nobody said."""
    return "" if why is None else sentence(why.code, why.params)


async def enter_courses_of_lot(unit: UnitOfWork, lot_id: UUID, why: str) -> None:
    """Enter what an amendment of a lot has changed of the lines in which it stands."""
    for course_id in await stock.courses_of_lot(unit.connection, lot_id):
        await enter_course(unit, course_id, why)
