"""Checks of pests, traps set, emptied and taken out, and how the entrance stands: recorded once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass
from datetime import date, timedelta
from uuid import UUID, uuid5

from redframe.core.errors import InvalidInput
from redframe.core.pests.answer import answer
from redframe.core.pests.entrance import Device, width_class
from redframe.core.pests.pests import PestId
from redframe.core.pests.scoring import Counted, check_score, per_trap_day, score_of
from redframe.core.tracing.elsewhere import OutsideMovement
from redframe.store import colonies, places
from redframe.store import pests as store
from redframe.store.errors import Conflict
from redframe.store.pests import NewCheck, TrapKind
from redframe.work.colonies.changes import not_in_future
from redframe.work.movements.record import record_movement
from redframe.work.pests.read import place_of
from redframe.work.roles import require
from redframe.work.to_json import to_json
from redframe.work.unit_of_work import UnitOfWork

STORED_DAYS = 28
"""Combs in store are looked at again after so many days, whatever was found."""


@dataclass(frozen=True, slots=True)
class WantedCheck:
    """A pest that was scored at a colony, or at combs in store of an apiary; `done`: what was done about it; `robbers`:
    colonies that received white robbers, seen (`robbers_seen`) or guessed."""

    id: UUID
    apiary_id: UUID | None
    colony_id: UUID | None
    pest: PestId
    seen_on: date
    score: int | None
    counted: Counted
    done: str
    note: str
    robbers: Sequence[UUID]
    robbers_seen: bool


async def record_check(unit: UnitOfWork, wanted: WantedCheck) -> None:
    """Record a check once: its score follows from what was counted, where that says one; who robbed goes into the
    movements.

    Raises InvalidInput naming the field, NotFound.
    """
    require(unit.who, "record")
    not_in_future(unit, "seen_on", wanted.seen_on)
    score = _score(wanted)
    apiary_id = await _apiary(unit, wanted)
    if wanted.robbers and (wanted.pest != "robbing" or wanted.colony_id is None):
        raise InvalidInput("robbers", "only of a colony that is robbed", code="inconsistent")
    if not await unit.accept(wanted.id, "pest_check", to_json(wanted)):
        return
    before = None
    if wanted.colony_id is not None:
        known = await store.checks_of_colony(unit.connection, wanted.colony_id)
        before = next((one.score for one in known if one.pest == wanted.pest and one.seen_on <= wanted.seen_on), None)
    found = answer(
        wanted.pest, score, wanted.seen_on, await place_of(unit, wanted.colony_id, apiary_id, wanted.seen_on, before)
    )  # fmt: skip
    look_from, look_by = found.look_from, found.look_by
    if wanted.colony_id is None:
        look_from = look_by = wanted.seen_on + timedelta(days=STORED_DAYS if score == 0 else 14)
    counted = {name: value for name, value in asdict(wanted.counted).items() if value not in (None, False)}
    new = NewCheck(
        apiary_id, wanted.colony_id, wanted.pest, wanted.seen_on, score, counted, to_json(found), wanted.done.strip(),
        look_from, look_by, found.disease_check_by, wanted.note.strip(),
    )  # fmt: skip
    await store.add_check(unit.connection, wanted.id, new)
    for robber in wanted.robbers:
        assert wanted.colony_id is not None
        moved = OutsideMovement(
            wanted.colony_id, "went", "robbing", wanted.seen_on, wanted.seen_on, robber, "", wanted.robbers_seen, False,
            "white with flour" if wanted.robbers_seen else "guessed",
        )  # fmt: skip
        await record_movement(unit, uuid5(wanted.id, str(robber)), moved)


def _score(wanted: WantedCheck) -> int:
    """The score that was counted; by eye where the pest is not counted."""
    counted = score_of(wanted.pest, wanted.counted)
    if counted is not None and wanted.score is not None and wanted.score != counted:
        raise InvalidInput("score", f"what was counted is a score of {counted}", code="inconsistent")
    score = counted if counted is not None else wanted.score
    if score is None:
        raise InvalidInput("score", "say what was seen", code="missing")
    check_score(wanted.pest, score)
    return score


async def _apiary(unit: UnitOfWork, wanted: WantedCheck) -> UUID:
    if wanted.colony_id is not None:
        colony = await colonies.colony(unit.connection, wanted.colony_id)
        if not colony.is_living and wanted.seen_on > colony.state_since:
            raise InvalidInput("seen_on", f"this colony is {colony.state} since {colony.state_since}")
        return colony.apiary_id
    if wanted.pest != "moth":
        raise InvalidInput("pest", "of combs in store only moth is scored", code="inconsistent")
    if wanted.apiary_id is None:
        raise InvalidInput("apiary_id", "say where the combs are", code="missing")
    return (await places.apiary(unit.connection, wanted.apiary_id)).id


async def withdraw_check(unit: UnitOfWork, check_id: UUID, why: str) -> None:
    """Say that a check was not so. Raises NotFound, Conflict."""
    require(unit.who, "record")
    await store.check(unit.connection, check_id)
    await store.withdraw_check(unit.connection, check_id, why.strip())


@dataclass(frozen=True, slots=True)
class WantedTrap:
    """Traps that were set in a hive."""

    id: UUID
    colony_id: UUID
    kind: TrapKind
    place: str
    number: int
    placed_on: date


async def set_trap(unit: UnitOfWork, wanted: WantedTrap) -> None:
    """Record traps once."""
    require(unit.who, "record")
    not_in_future(unit, "placed_on", wanted.placed_on)
    colony = await colonies.colony(unit.connection, wanted.colony_id)
    if not colony.is_living:
        raise Conflict(f"this colony is {colony.state}")
    if await unit.accept(wanted.id, "pest_trap", to_json(wanted)):
        await store.add_trap(
            unit.connection, wanted.id, wanted.colony_id, wanted.kind, wanted.place.strip(), wanted.number,
            wanted.placed_on,
        )  # fmt: skip


async def empty_trap(unit: UnitOfWork, trap_id: UUID, reading_id: UUID, on: date, caught: int) -> None:
    """Record once what was in traps; the days run from the last emptying, or from when they were set.

    Raises InvalidInput("emptied_on") for a day before that, Conflict for traps that were taken out.
    """
    require(unit.who, "record")
    not_in_future(unit, "emptied_on", on)
    trap = await store.trap(unit.connection, trap_id)
    if not await unit.accept(reading_id, "trap_reading", {"trap": str(trap_id), "on": on, "caught": caught}):
        return
    if trap.removed_on is not None and on > trap.removed_on:
        raise Conflict("it was taken out before that day", "emptied_on")
    known = await store.readings(unit.connection, [trap_id])
    since = max([trap.placed_on, *(one.emptied_on for one in known)])
    if on <= since:
        raise InvalidInput("emptied_on", f"it was set or emptied on {since}: a day at least", code="out_of_range")
    days = float((on - since).days)
    per_trap_day(caught, trap.number, days)
    await store.add_reading(unit.connection, reading_id, trap, on, caught, days)


async def remove_trap(unit: UnitOfWork, trap_id: UUID, on: date) -> None:
    """Say that traps were taken out. Raises NotFound, Conflict."""
    require(unit.who, "record")
    not_in_future(unit, "on", on)
    await store.trap(unit.connection, trap_id)
    await store.remove_trap(unit.connection, trap_id, on)


@dataclass(frozen=True, slots=True)
class WantedEntrance:
    """How an entrance stands from a day on: its width in mm (None: full), what stands before it, and why."""

    id: UUID
    colony_id: UUID
    since: date
    width_mm: int | None
    device: Device
    mesh_shut: bool
    why: str


async def set_entrance(unit: UnitOfWork, wanted: WantedEntrance) -> None:
    """Record an entrance once. Raises InvalidInput naming the field."""
    require(unit.who, "record")
    not_in_future(unit, "since", wanted.since)
    colony = await colonies.colony(unit.connection, wanted.colony_id)
    if wanted.device == "shut" and wanted.width_mm is not None:
        raise InvalidInput("width_mm", "a shut entrance has no width", code="inconsistent")
    if wanted.width_mm is not None:
        width_class(wanted.width_mm)
    if wanted.device == "shut" and colony.is_living and not wanted.why.strip():
        raise InvalidInput("why", "bees live in it: say why it is shut", code="missing")
    if await unit.accept(wanted.id, "entrance", to_json(wanted)):
        await store.add_entrance(
            unit.connection, wanted.id, wanted.colony_id, wanted.since, wanted.width_mm, wanted.device,
            wanted.mesh_shut, wanted.why.strip(),
        )  # fmt: skip
