"""The examination of a dead colony: opened as a draft, saved step by step from any device, closed, and amended with a
reason from then on."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Literal
from uuid import UUID

from redframe.core.cases.states import CaseDisease
from redframe.core.colonies.states import is_lost
from redframe.core.deadouts.causes import UNDETERMINED
from redframe.core.deadouts.record import DeadStepRecord, check_step
from redframe.core.deadouts.safety import RAISES
from redframe.core.deadouts.signs import DeadStep
from redframe.core.errors import InvalidInput
from redframe.store import colonies, frames
from redframe.store import deadouts as store
from redframe.store.deadouts import DeadOut, Settled
from redframe.store.errors import Conflict
from redframe.work.cases.record import raise_suspicion
from redframe.work.colonies.changes import not_in_future
from redframe.work.colonies.record import amend_colony
from redframe.work.deadouts.facts import record_of
from redframe.work.deadouts.read import KEPT, DeadOutView, as_kept, view_of
from redframe.work.roles import require
from redframe.work.to_json import to_json
from redframe.work.unit_of_work import UnitOfWork

AHEAD = timedelta(minutes=5)


@dataclass(frozen=True, slots=True)
class NewDeadOut:
    """A colony that was found dead, or gone, and is examined; `found_on`: the day on which it was found so."""

    id: UUID
    colony_id: UUID
    found_on: date
    found: Literal["dead", "gone"]
    opened_at: datetime


async def open_deadout(unit: UnitOfWork, new: NewDeadOut) -> DeadOutView:
    """Open the examination of a dead colony, or the one that it has already. A living colony is recorded as lost.

    Raises InvalidInput for a day in the future or before its last visit, Conflict for one that was merged.
    """
    require(unit.who, "record")
    colony = await colonies.colony_for_update(unit.connection, new.colony_id)
    known = await store.deadout_of_colony(unit.connection, new.colony_id)
    if known is not None:
        return await view_of(unit, await store.deadout(unit.connection, known))
    if not await unit.accept(new.id, "deadout", to_json(new)):
        return await view_of(unit, await store.deadout(unit.connection, new.id))
    if new.opened_at > unit.now + AHEAD:
        raise InvalidInput("opened_at", "lies in the future", code="out_of_range")
    if not colony.is_living and not is_lost(colony.state):
        raise Conflict(f"this colony was {colony.state}: nothing of it is left to read")
    not_in_future(unit, "found_on", new.found_on)
    found_on = new.found_on if colony.is_living else colony.state_since
    if colony.is_living:
        last = (await store.record_of(unit.connection, colony.id, unit.today, None, [])).last_visit_on
        if last is not None and new.found_on < last:
            raise InvalidInput("found_on", f"it was visited on {last}: it lived then", code="out_of_range")
        await amend_colony(
            unit, colony.id, colony.version, label=colony.label, state=new.found, state_since=new.found_on,
            note=colony.note,
        )  # fmt: skip
    examined_on = max(unit.day_of(new.opened_at), found_on)
    await store.add_deadout(unit.connection, new.id, colony.id, found_on, examined_on, new.opened_at)
    if colony.hive_id is not None:
        await frames.fill_boxes(unit.connection, colony.hive_id)
    return await view_of(unit, await store.deadout(unit.connection, new.id))


async def save_step(
    unit: UnitOfWork, deadout_id: UUID, step: DeadStep, version: int, record: DeadStepRecord
) -> DeadOutView:
    """Save a step of the walk; the same content again is accepted.

    A closed examination needs a reason on the transaction. Raises InvalidInput naming the field, Conflict with the name
    of the step when somebody else has saved it since `version`.
    """
    require(unit.who, "record")
    deadout = await store.deadout(unit.connection, deadout_id, hold=True)
    _check_stands(deadout)
    check_step(step, record)
    _check_days(unit, deadout, record)
    view = await view_of(unit, deadout)
    known = {(one.box_id, one.slot) for one in view.place.combs}
    for number, comb in enumerate(record.combs):
        if (comb.box_id, comb.slot) not in known:
            raise InvalidInput(f"combs[{number}].slot", "there is no such comb in this hive", code="unknown")
    saved = next((one for one in view.steps if one.step == step), None)
    if saved is None or saved.record != record:
        content = record.model_dump(mode="json", exclude_defaults=True)
        await store.save_step(unit.connection, deadout_id, deadout.colony_id, step, version, content)
    return await _settled(unit, deadout_id)


def _check_stands(deadout: DeadOut) -> None:
    if deadout.state == "dropped":
        raise Conflict("this draft was dropped")
    if deadout.is_past:
        raise Conflict("this colony lives after all")


def _check_days(unit: UnitOfWork, deadout: DeadOut, record: DeadStepRecord) -> None:
    for field in ("no_flight_since", "robbing_seen_on", "alive_on", "sensor_warm_on", "sensor_cold_on"):
        day: date | None = getattr(record, field)
        if day is not None and day > unit.today:
            raise InvalidInput(field, "lies in the future", code="out_of_range")
    if record.alive_on is not None and record.alive_on > deadout.found_on:
        raise InvalidInput("alive_on", f"it was found dead on {deadout.found_on}", code="out_of_range")


async def _settled(unit: UnitOfWork, deadout_id: UUID) -> DeadOutView:
    """The examination after something was saved; what a closed one came to follows."""
    deadout = await store.deadout(unit.connection, deadout_id)
    if deadout.state != "closed":
        return await view_of(unit, deadout)
    return await _settle(unit, deadout)


async def close_deadout(unit: UnitOfWork, deadout_id: UUID) -> DeadOutView:
    """Close an examination: what it came to is kept, and what it suspects becomes a case.

    Raises InvalidInput for one that says nothing or whose hive is still open to robbers, Conflict when it is closed.
    """
    require(unit.who, "record")
    deadout = await store.deadout(unit.connection, deadout_id, hold=True)
    _check_stands(deadout)
    if deadout.state == "closed":
        raise Conflict("this examination is closed: amend it, and say why")
    view = await view_of(unit, deadout)
    if all(one.record.is_empty for one in view.steps):
        raise InvalidInput("steps", "nothing is recorded yet", code="missing")
    shut = next((one.record.is_shut for one in view.steps if one.step == "shut"), None)
    if shut is not True:
        raise InvalidInput("is_shut", "shut the hive against bees first, and say so", code="missing")
    return await _settle(unit, deadout)


async def _settle(unit: UnitOfWork, deadout: DeadOut) -> DeadOutView:
    view = await view_of(unit, deadout, recomputed=True)
    if deadout.kept is not None:
        record = KEPT.validate_python(deadout.kept).record
    else:
        colony = await colonies.colony_overview(unit.connection, deadout.colony_id, unit.today)
        record = await record_of(unit, colony, deadout.found_on)
    reading = view.reading
    settled = Settled(
        cause=reading.leader if reading.leader != UNDETERMINED else None, chain=list(reading.chain_ids),
        was_avoidable=view.read_back.was_avoidable, is_complete=view.is_complete,
        is_suspect=reading.suspects_foulbrood,
    )  # fmt: skip
    await store.close_deadout(unit.connection, deadout.id, settled, as_kept(view, record), unit.now)
    await _raise_suspicion(unit, view)
    return await view_of(unit, await store.deadout(unit.connection, deadout.id))


async def _raise_suspicion(unit: UnitOfWork, view: DeadOutView) -> None:
    met = [one.id for one in view.reading.rules if one.id in RAISES]
    suspected: dict[CaseDisease, list[str]] = {}
    for rule in met:
        suspected.setdefault("small_hive_beetle" if rule == "D9" else "afb", []).append(rule)
    await raise_suspicion(unit, view.colony_id, view.found_on, suspected, deadout_id=view.id)


async def drop_deadout(unit: UnitOfWork, deadout_id: UUID) -> None:
    """Drop a draft that was opened by mistake; the colony stays as it is. Raises Conflict for a closed examination."""
    require(unit.who, "record")
    await store.deadout(unit.connection, deadout_id, hold=True)
    await store.drop_deadout(unit.connection, deadout_id)
