"""The pests of a colony, its traps and its entrance as they stand; what is to be looked at again."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from pydantic import TypeAdapter

from redframe.core.pests.answer import PestAnswer, PestPlace
from redframe.core.pests.entrance import WIDTHS, EntranceNow, EntranceWarning, Width, warnings
from redframe.core.pests.pests import PESTS, PestId, pests
from redframe.core.pests.scoring import per_trap_day
from redframe.store import colonies, holds, places, treatments
from redframe.store import pests as store
from redframe.store.pests import Entrance, PestAhead, PestCheck, Trap
from redframe.work.policy.read import policy_in_force
from redframe.work.unit_of_work import UnitOfWork
from redframe.work.weather import forecast_at

ANSWER = TypeAdapter(PestAnswer)
FROST_C = 2.0
"""A night below this, a few degrees above frost in the forecast's shelter, calls for the guard."""
SOON_DAYS = 7


@dataclass(frozen=True, slots=True)
class CheckShown:
    """A check with what its score said and asked for there and then; `name` is that of the pest."""

    check: PestCheck
    name: str
    answer: PestAnswer


@dataclass(frozen=True, slots=True)
class TrapShown:
    """Traps with what was in them: caught a trap and day at each emptying."""

    trap: Trap
    readings: Sequence[TrapDay]


@dataclass(frozen=True, slots=True)
class TrapDay:
    """Beetles or wasps a trap and day, up to the day on which it was emptied."""

    on: date
    caught: int
    per_trap_day: float


@dataclass(frozen=True, slots=True)
class ColonyPests:
    """The pests of a colony: the latest check of each, all checks, its traps, its entrance with what speaks against it
    (`entrance` None: not on record), how widths differ."""

    today: date
    label: str
    apiary_id: UUID
    latest: Sequence[CheckShown]
    checks: Sequence[CheckShown]
    traps: Sequence[TrapShown]
    entrance: Entrance | None
    entrances: Sequence[Entrance]
    warnings: Sequence[EntranceWarning]
    widths: Sequence[Width]


async def pests_of_colony(unit: UnitOfWork, colony_id: UUID) -> ColonyPests:
    """The pests of a colony. Raises NotFound."""
    colony = await colonies.colony_overview(unit.connection, colony_id, unit.today)
    rows = await store.checks_of_colony(unit.connection, colony_id)
    shown = [_shown(one) for one in rows]
    latest = [first for pest in PESTS if (first := next((one for one in shown if one.check.pest == pest), None))]
    traps = await store.traps_of_colony(unit.connection, colony_id)
    readings = await store.readings(unit.connection, [one.id for one in traps])
    entrances = await store.entrances_of_colony(unit.connection, colony_id)
    now = entrances[0] if entrances else None
    return ColonyPests(
        today=unit.today, label=colony.label, apiary_id=colony.apiary_id, latest=latest, checks=shown,
        traps=[
            TrapShown(trap, [
                TrapDay(one.emptied_on, one.caught, per_trap_day(one.caught, trap.number, one.days))
                for one in readings if one.trap_id == trap.id
            ])
            for trap in traps
        ],
        entrance=now, entrances=entrances,
        warnings=await _warnings(unit, colony_id, colony.apiary_id, now, is_living=colony.is_living) if now else [],
        widths=WIDTHS,
    )  # fmt: skip


def _shown(check: PestCheck) -> CheckShown:
    return CheckShown(check, pests()[check.pest].name, ANSWER.validate_python(check.answer))


async def place_of(
    unit: UnitOfWork, colony_id: UUID | None, apiary_id: UUID, on: date, before: int | None
) -> PestPlace:  # fmt: skip
    """What bears on the answer to a pest at a colony, or at combs in store."""
    policy = await policy_in_force(unit, apiary_id)
    if colony_id is None:
        return PestPlace(policy.region.shb_established, False, None, before)
    held = await holds.held_back(unit.connection, [colony_id], on)
    disease = any(
        one.hold_kind == "notifiable" or one.case_number or one.standstill or one.suspicious for one in held
    )  # fmt: skip
    frames = await store.frames_of_bees(unit.connection, colony_id, on)
    return PestPlace(policy.region.shb_established, bool(disease), frames, before)


async def _warnings(
    unit: UnitOfWork, colony_id: UUID, apiary_id: UUID, now: Entrance, *, is_living: bool
) -> list[EntranceWarning]:  # fmt: skip
    apiary = await places.apiary(unit.connection, apiary_id)
    policy = await policy_in_force(unit, apiary_id)
    forecast = forecast_at(unit, apiary.latitude, apiary.longitude)
    days = range(min(SOON_DAYS, len(forecast)))
    courses = await treatments.open_courses_of_colonies(unit.connection, [colony_id], unit.today)
    return warnings(
        EntranceNow(
            width_mm=now.width_mm, device=now.device, mesh_shut=now.mesh_shut, since=now.since,
            frames=await store.frames_of_bees(unit.connection, colony_id, unit.today),
            hottest_c=max((forecast.tmax[day] for day in days), default=None),
            actives=[one.option.active for one in courses if one.placed_on is not None and one.ended_on is None],
            frost_near=min((forecast.tmin[day] for day in days), default=FROST_C) < FROST_C,
            growing=policy.calendar.phase(unit.today) in ("build_up", "peak"), is_living=is_living,
        ),
        unit.today,
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class PestsAhead:
    """What is to be looked at again across the association, the most pressing first; the names of pests by their
    ids."""

    today: date
    lines: Sequence[PestAhead]
    names: dict[PestId, str]


async def pests_ahead(unit: UnitOfWork) -> PestsAhead:
    """Pests that wait for another look."""
    return PestsAhead(unit.today, await store.ahead(unit.connection), {one: pests()[one].name for one in PESTS})


@dataclass(frozen=True, slots=True)
class StoredCombs:
    """The checks of combs in store at an apiary, newest first."""

    today: date
    checks: Sequence[CheckShown]


async def pests_in_store(unit: UnitOfWork, apiary_id: UUID) -> StoredCombs:
    """What was found of combs in store. Raises NotFound."""
    await places.apiary(unit.connection, apiary_id)
    rows = await store.checks_in_store(unit.connection, apiary_id)
    return StoredCombs(unit.today, [_shown(one) for one in rows])
