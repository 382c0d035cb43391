"""Work at the hive in the demo: drone combs in and out again, and a brood removal that a thunderstorm broke off."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import UTC, date, datetime, time, timedelta
from typing import Any
from uuid import UUID

from redframe.core.sampling.jar import JarSample
from redframe.core.treatments.overrides import Override
from redframe.core.treatments.step_facts import NOTHING
from redframe.demo.scenario import made_id
from redframe.work.colonies import queens as colonies_queens
from redframe.work.sampling import record as sampling_record
from redframe.work.treatments import abandon as treatments_abandon
from redframe.work.treatments import hive_work as treatments_hive_work
from redframe.work.treatments import plan as treatments_plan
from redframe.work.treatments import record as treatments_record
from redframe.work.treatments.hive_writes import HiveActDetails
from redframe.work.unit_of_work import UnitOfWork

TEACHING = "Dunnock Mill"
TAKEN_ON = "Shown to the spring class."
BROKEN_OFF = ("D4", date(2031, 6, 17))


@dataclass(frozen=True)
class DroneComb:
    """A drone comb: in, and out and followed by a count where it has come so far."""

    apiary: str
    label: str
    put_in: date
    out: date | None = None
    counted: date | None = None


DRONE_COMBS = (
    DroneComb(TEACHING, "D2", date(2031, 5, 5), date(2031, 5, 26), date(2031, 5, 31)),
    # They come out today, and in two days at the latest.
    DroneComb("Quarrel Lane", "A1", date(2031, 7, 12)),
    DroneComb("Quarrel Lane", "A2", date(2031, 7, 12)),
)

OnDay = Callable[[date], UnitOfWork]


async def work_at_hives(on: OnDay, apiary: str, day: date) -> None:
    """What is done at the hives of an apiary on a day."""
    for comb in DRONE_COMBS:
        if comb.apiary == apiary:
            await _drone_comb(on(day), comb, day)
    if (apiary, day) == (TEACHING, BROKEN_OFF[1]):
        await _broken_off(on, made_id("corrane", TEACHING, BROKEN_OFF[0]), day)


async def _drone_comb(unit: UnitOfWork, comb: DroneComb, day: date) -> None:
    colony = made_id("corrane", comb.apiary, comb.label)
    course = made_id("hive work", colony, comb.put_in)
    if day == comb.put_in:
        await _plan(unit, "DRONE_TRAP", comb.apiary, colony, course, day)
        work = await treatments_hive_work.hive_work_of(unit, course)
        assert work is not None
        box_id, slot = next(iter(work.edge.items()))
        await _do(unit, course, "drone_comb_in", day, box_id=box_id, slot=slot)
    if day == comb.put_in + timedelta(days=10):
        found = replace(NOTHING, queen_seen="eggs")
        looked = treatments_record.NewAct(
            made_id("act", course, "looked"), "interim_check", "done", day, None, "", None,
            "Three quarters capped, the first two days ago.", None, facts=found,
        )  # fmt: skip
        await treatments_record.record_act(unit, course, looked)
    if day == comb.out:
        await _do(unit, course, "drone_comb_out", day, fate="freezer", fill="comb")
    if day == comb.counted:
        await _verify(unit, colony, course, day)


async def _plan(unit: UnitOfWork, option: str, apiary: str, colony: UUID, course: UUID, day: date) -> None:
    taken_on = [
        Override(rule, "Bettrys Lund", "A lesson of the course.") for rule in ("T41", "T61", "T62", "T73", "T77")
    ]
    (row,) = await treatments_plan.plan_courses(
        unit, plan_id=made_id("hive work plan", colony, day), apiary_id=made_id("corrane", "apiary", apiary),
        option_id=option, start_on=day, interval_override=None,
        wanted=[treatments_plan.WantedCourse(course, colony, taken_on)],
    )  # fmt: skip
    assert row.course_id is not None, row.held_by


async def _do(unit: UnitOfWork, course: UUID, act: str, day: date, **details: Any) -> None:
    why = Override("act", "Bettrys Lund", TAKEN_ON)
    new = treatments_hive_work.NewHiveAct(
        made_id("hive act", course, act), act, day, HiveActDetails(**details), "", why
    )
    await treatments_hive_work.record_hive_act(unit, course, new)


async def _verify(unit: UnitOfWork, colony: UUID, course: UUID, day: date) -> None:
    taken_at = datetime.combine(day, time(12, 30), tzinfo=UTC)
    sample = JarSample(taken_at=taken_at, shakes=(2, 0), known_by="volume_level", volume_ml=120.0,
                       brood_state="open_and_capped", queen_safe="yes")  # fmt: skip
    count_id = made_id("count", "hive work", colony, day)
    await sampling_record.record_count(
        unit, sampling_record.NewCount(count_id, colony, taken_at, sample, "open_and_capped")
    )
    for step, count in (("verify", count_id), ("close", None)):
        act = treatments_record.NewAct(made_id("act", course, step), step, "done", day, None, "", count, "", None)
        await treatments_record.record_act(unit, course, act)


async def _broken_off(on: OnDay, colony: UUID, day: date) -> None:
    course = made_id("hive work", colony, day)
    await _plan(on(day), "BROOD_OUT", TEACHING, colony, course, day)
    await _do(on(day), course, "queen_held", day)
    work = await treatments_hive_work.hive_work_of(on(day), course)
    assert work is not None
    brood = [comb.frame_id for comb in work.combs if comb.brood] or [work.combs[len(work.combs) // 2].frame_id]
    await _do(on(day), course, "brood_out", day, frame_ids=brood[:3], fate="melted", fill="foundation")
    await treatments_abandon.abandon(on(day), course, "A thunderstorm: three combs are out, the queen goes back.", None)
    queen = await colonies_queens.present_queen(on(day), colony)
    if queen is not None:
        free = colonies_queens.QueenRecord(queen.year, queen.mark_seen, "mated", day, queen.laying_since, None)
        await colonies_queens.amend_queen(on(day), colony, queen.version, free)
