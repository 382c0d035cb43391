"""An examination of a dead colony as its screen shows it, and the list of those that died."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any
from uuid import UUID

from pydantic import TypeAdapter

from redframe.core.colonies.states import ColonyState
from redframe.core.deadouts.causes import names_of_causes
from redframe.core.deadouts.findings import CombsRead, bounds_of, brood_left, combs_read, findings_of
from redframe.core.deadouts.read_back import DeadRecord, ReadBack, read_back
from redframe.core.deadouts.reading import DeadReading, read_dead_colony
from redframe.core.deadouts.record import DeadStepRecord
from redframe.core.deadouts.signs import DeadStep
from redframe.core.deadouts.timeline import Timeline, timeline
from redframe.core.disease.findings import Findings
from redframe.store import colonies
from redframe.store import deadouts as store
from redframe.store.deadouts import DeadOut, DeadOutLine, DeadOutPhoto, DeadOutState
from redframe.store.errors import NotFound
from redframe.work.deadouts.facts import DeadPlace, place_of, record_of
from redframe.work.unit_of_work import UnitOfWork

LISTED = timedelta(days=400)


@dataclass(frozen=True, slots=True)
class Kept:
    """What an examination came to when it was closed: it reads the same for ever."""

    place: DeadPlace
    record: DeadRecord
    read_back: ReadBack
    reading: DeadReading
    timeline: Timeline


KEPT = TypeAdapter(Kept)


@dataclass(frozen=True, slots=True)
class StepSaved:
    """A step as it was recorded, by whom and when."""

    step: DeadStep
    record: DeadStepRecord
    version: int
    by_name: str
    saved_at: datetime


@dataclass(frozen=True, slots=True)
class DeadOutView:
    """An examination with the place of its day, its steps and photos, and what they come to: of a closed one as it was
    kept. `combs`: how many were read in side light; `is_complete`: what an exclusion by examination asks for."""

    today: date
    id: UUID
    colony_id: UUID
    colony_state: ColonyState
    state: DeadOutState
    found_on: date
    examined_on: date
    opened_at: datetime
    closed_at: datetime | None
    by_name: str
    version: int
    place: DeadPlace
    steps: Sequence[StepSaved]
    photos: Sequence[DeadOutPhoto]
    combs: CombsRead
    is_complete: bool
    reading: DeadReading
    timeline: Timeline
    read_back: ReadBack


async def deadout_view(unit: UnitOfWork, deadout_id: UUID) -> DeadOutView:
    """An examination. Raises NotFound."""
    return await view_of(unit, await store.deadout(unit.connection, deadout_id))


async def view_of(unit: UnitOfWork, deadout: DeadOut, *, recomputed: bool = False) -> DeadOutView:
    """An examination; `recomputed`: what it comes to is made from what is recorded now, at the place that was kept."""
    colony = await colonies.colony_overview(unit.connection, deadout.colony_id, unit.today)
    rows = await store.steps(unit.connection, deadout.id)
    saved = [
        StepSaved(one.step, DeadStepRecord.model_validate(one.record), one.version, one.by_name, one.saved_at)
        for one in rows
    ]
    steps = {one.step: one.record for one in saved}
    kept = KEPT.validate_python(deadout.kept) if deadout.kept is not None else None
    if kept is None or recomputed:
        place = kept.place if kept is not None else await place_of(unit, colony, deadout.found_on)
        record = kept.record if kept is not None else await record_of(unit, colony, deadout.found_on)
        kept = made_of(steps, place, record, deadout)
    read = combs_read(steps, hanging(kept.place))
    return DeadOutView(
        today=unit.today, id=deadout.id, colony_id=deadout.colony_id, colony_state=colony.state, state=deadout.state,
        found_on=deadout.found_on, examined_on=deadout.examined_on, opened_at=deadout.opened_at,
        closed_at=deadout.closed_at, by_name=deadout.by_name, version=deadout.version, place=kept.place, steps=saved,
        photos=await store.photos(unit.connection, deadout.id), combs=read,
        is_complete=all(rule.id != "D6" for rule in kept.reading.rules), reading=kept.reading,
        timeline=kept.timeline, read_back=kept.read_back,
    )  # fmt: skip


def hanging(place: DeadPlace) -> list[tuple[UUID, int]]:
    """The combs that hung when the hive was opened."""
    return [(one.box_id, one.slot) for one in place.combs]


def made_of(
    steps: Mapping[DeadStep, DeadStepRecord], place: DeadPlace, record: DeadRecord, deadout: DeadOut
) -> Kept:  # fmt: skip
    """What an examination comes to."""
    back = read_back(record)
    bounds = [*place.alive, *bounds_of(steps, deadout.examined_on)]
    return Kept(
        place, record, back, read_dead_colony(_findings(steps, place, back), place.context),
        timeline(bounds, deadout.found_on, brood_left(steps)),
    )  # fmt: skip


def _findings(steps: Mapping[DeadStep, DeadStepRecord], place: DeadPlace, back: ReadBack) -> Findings:
    return findings_of(steps, hanging(place), back.signs)


async def reading_without(unit: UnitOfWork, deadout_id: UUID, without: Sequence[str]) -> DeadReading:
    """What an examination fits as if some of its findings had not been made. Raises NotFound."""
    view = await deadout_view(unit, deadout_id)
    steps = {one.step: one.record for one in view.steps}
    return read_dead_colony(_findings(steps, view.place, view.read_back), view.place.context, without)


async def deadout_of(unit: UnitOfWork, colony_id: UUID) -> UUID:
    """The examination of a colony. Raises NotFound where there is none."""
    found = await store.deadout_of_colony(unit.connection, colony_id)
    if found is None:
        raise NotFound("examination")
    return found


@dataclass(frozen=True, slots=True)
class DeadOutList:
    """Colonies that died within thirteen months, those not examined yet first; the names of causes by their ids."""

    today: date
    lines: Sequence[DeadOutLine]
    names: Mapping[str, str]


async def deadout_list(unit: UnitOfWork, apiary_id: UUID | None) -> DeadOutList:
    """Those that died, of one apiary where one is named."""
    lines = await store.deadout_lines(unit.connection, unit.today - LISTED, apiary_id)
    return DeadOutList(unit.today, lines, names_of_causes())


def as_kept(view: DeadOutView, record: DeadRecord) -> dict[str, Any]:
    """What is kept of an examination when it is closed, as JSON."""
    kept = Kept(view.place, record, view.read_back, view.reading, view.timeline)
    dumped: dict[str, Any] = KEPT.dump_python(kept, mode="json")
    return dumped
