"""The traces of a case: from whom it may have come, to whom it may have gone, by what is on record; kept as they stood
when the case was confirmed and when tracing was opened."""

from __future__ import annotations

import asyncio
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from uuid import UUID, uuid4

from pydantic import TypeAdapter

from redframe.core.cases.states import CaseDisease
from redframe.core.tracing.contacts import (
    ContactStatus,
    Examined,
    Stop,
    StopClass,
    changes_since,
    status_of,
    stop_class,
    visit_round,
)
from redframe.core.tracing.movements import Band, Certainty, Movement, MovementKind, Stay, band_of
from redframe.core.tracing.traces import Direction, Path, Reached, trace
from redframe.core.tracing.windows import SEEN_WITHIN_DAYS, Window, window
from redframe.store import cases as store
from redframe.store import tracing
from redframe.store.cases import CaseRow
from redframe.store.database import together
from redframe.store.errors import NotAllowed, NotFound
from redframe.store.tracing import KeptList, StayRow
from redframe.work.cases.trace_names import Names, stays_of
from redframe.work.to_json import to_json
from redframe.work.unit_of_work import UnitOfWork

MOST_CONTACTS = 2000
"""So many of the riskiest contacts are listed, and kept, in each direction."""


@dataclass(frozen=True, slots=True)
class Leg:
    """A movement of a path, with the names of its day; an apiary is "" for what is no colony."""

    id: str
    kind: MovementKind
    certainty: Certainty
    is_disinfected: bool
    earliest: date
    latest: date
    origin_id: str
    origin: str
    origin_apiary: str
    target_id: str
    target: str
    target_apiary: str


@dataclass(frozen=True, slots=True)
class Contact:
    """A colony that a trace reaches: how dangerous the contact is, from which day it may have been there (or up to
    which it may have left), the riskiest path in the order of time, its last examination, whether it was examined since
    the case was found, by when it is seen."""

    colony_id: UUID
    label: str
    apiary_id: UUID
    apiary: str
    keeper: str
    is_living: bool
    band: Band
    risk: float
    is_certain: bool
    on: date
    path: list[Leg]
    examined: Examined | None
    status: ContactStatus
    is_reached: bool
    see_by: date


@dataclass(frozen=True, slots=True)
class OutsideContact:
    """A place elsewhere that a trace reaches: where it may have come from, or gone to."""

    place: str
    direction: Direction
    band: Band
    risk: float
    is_certain: bool
    on: date
    path: list[Leg]


@dataclass(frozen=True, slots=True)
class TraceStop:
    """An apiary of the round: its worst contact, how many colonies are to be seen, by when, metres from the stop
    before it."""

    apiary: str
    keeper: str
    kind: StopClass
    colonies: int
    see_by: date
    metres: float


@dataclass(frozen=True, slots=True)
class ListChanged:
    """A colony whose place in a list differs from the list that was kept."""

    direction: Direction
    label: str
    apiary: str
    before: Band | None
    now: Band | None


@dataclass(frozen=True, slots=True)
class Traces:
    """Both lists of a case with their days, drafted from what is on record on `made_on`; nobody is contacted by them
    before the authority says so. `kept`: the lists that were kept, `changed`: what differs from the last of them."""

    today: date
    made_on: date
    colony_id: UUID
    label: str
    apiary: str
    window: Window
    sources: list[Contact]
    spread: list[Contact]
    outside: list[OutsideContact]
    round: list[TraceStop]
    kept: list[KeptList]
    changed: list[ListChanged]


def for_inspectors(unit: UnitOfWork) -> None:
    """Raise NotAllowed for who is no inspector or administrator."""
    if unit.who.role not in ("inspector", "administrator"):
        raise NotAllowed("tracing is the inspector's")


async def traces_of(unit: UnitOfWork, case_id: UUID) -> Traces:
    """The traces of a case as of today. Raises NotFound, NotAllowed for who is no inspector or administrator."""
    for_inspectors(unit)
    row = await store.case(unit.connection, case_id)
    kept = await tracing.kept_lists(unit.connection, case_id)
    last = await _kept(unit, case_id, kept[-1].number) if kept else None
    now = await _draft(unit, row, since=unit.today if last is None else last.made_on)
    return replace(now, kept=kept, changed=[] if last is None else _changed(last, now))


async def traces_kept(unit: UnitOfWork, case_id: UUID, number: int) -> Traces:
    """The traces of a case as they were kept. Raises NotFound, NotAllowed."""
    for_inspectors(unit)
    await store.case(unit.connection, case_id)
    kept = await tracing.kept_lists(unit.connection, case_id)
    return replace(await _kept(unit, case_id, number), today=unit.today, kept=kept)


async def keep_traces(unit: UnitOfWork, case_id: UUID) -> None:
    """Keep the traces of a case as they stand."""
    row = await store.case(unit.connection, case_id)
    draft = await _draft(unit, row, since=unit.today)
    await tracing.keep_list(unit.connection, uuid4(), case_id, unit.today, to_json(draft))


async def _kept(unit: UnitOfWork, case_id: UUID, number: int) -> Traces:
    content = await tracing.kept_list(unit.connection, case_id, number)
    if content is None:
        raise NotFound("list")
    return TypeAdapter(Traces).validate_python(content)


async def _draft(unit: UnitOfWork, row: CaseRow, since: date) -> Traces:
    clean = await tracing.last_clean_examination(unit.connection, row.colony_id, row.found_on)
    days = window(row.disease, row.found_on, clean)
    async with together(unit.connection) as begin:
        of_log = begin(tracing.movements(unit.connection, days.back_to, unit.today))
        of_stays = begin(tracing.stays(unit.connection))
        of_elsewhere = begin(tracing.places_elsewhere(unit.connection, days.back_to))
    names = Names(of_stays.result(), of_elsewhere.result())
    drafting = _Drafting(row, names, days, unit.today, since)
    # A long log takes a second: other people's requests go on meanwhile.
    return await asyncio.to_thread(drafting.traces, of_log.result(), stays_of(of_stays.result()))


@dataclass(frozen=True, slots=True)
class _Drafting:
    """The lists of one case; contacts are to be seen within the days of their band from `since` on."""

    row: CaseRow
    names: Names
    days: Window
    today: date
    since: date

    def traces(self, log: Sequence[Movement], stood: Sequence[Stay]) -> Traces:
        disease: CaseDisease = self.row.disease
        start, today = str(self.row.colony_id), self.today
        back = trace(log, stood, start, disease, since=self.days.back_to, until=today, direction="backward")
        gone = trace(log, stood, start, disease, since=self.days.infectious_from, until=today, direction="forward")
        sources, spread = self.contacts(back), self.contacts(gone)
        outside = [*self.outside(back, "backward"), *self.outside(gone, "forward")]
        return Traces(
            today, today, self.row.colony_id, self.row.label, self.row.apiary, self.days, sources, spread, outside,
            self.round([*sources, *spread]), [], [],
        )  # fmt: skip

    def contacts(self, reached: Sequence[Reached]) -> list[Contact]:
        """Colonies alone: combs in store and the extractor are places on the way."""
        rows = self.names.rows
        colonies = [one for one in reached if one.colony in rows]
        return [self.contact(one, rows[one.colony]) for one in colonies[:MOST_CONTACTS]]

    def contact(self, reached: Reached, row: StayRow) -> Contact:
        best, band = reached.best, band_of(reached.best.risk)
        examined = (
            None if row.examined_on is None
            else Examined(row.examined_on, row.combs_read, row.brood_combs, row.is_clean)
        )  # fmt: skip
        return Contact(
            row.colony_id, row.label, row.apiary_id, row.apiary, row.keeper, row.is_living, band, best.risk,
            best.is_certain, best.on, legs_of(best, self.names), examined, status_of(examined, best.on, row.is_suspect),
            examined is not None and examined.on >= self.row.found_on,
            self.since + timedelta(days=SEEN_WITHIN_DAYS[band]),
        )  # fmt: skip

    def outside(self, reached: Sequence[Reached], direction: Direction) -> list[OutsideContact]:
        """Places elsewhere that a trace reaches."""
        return [
            OutsideContact(
                self.names.of(one.colony, one.best.on), direction, band_of(one.best.risk), one.best.risk,
                one.best.is_certain, one.best.on, legs_of(one.best, self.names),
            )
            for one in reached
            if self.names.is_outside(one.colony)
        ]  # fmt: skip

    def round(self, contacts: Sequence[Contact]) -> list[TraceStop]:
        """The apiaries of living contacts in the order of their visit."""
        by_apiary: dict[UUID, list[Contact]] = defaultdict(list)
        for one in contacts:
            if one.is_living:
                by_apiary[one.apiary_id].append(one)
        places = {str(row.apiary_id): row for row in self.names.rows.values()}
        stops = [
            Stop(
                str(apiary), stop_class((one.status, one.band) for one in there), places[str(apiary)].latitude,
                places[str(apiary)].longitude,
            )
            for apiary, there in by_apiary.items()
        ]  # fmt: skip
        start = places.get(str(self.row.apiary_id))
        found = visit_round(stops, None if start is None else (start.latitude, start.longitude))
        return [self.stop(one, by_apiary[UUID(one.apiary)]) for one in found]

    def stop(self, stop: Stop, there: Sequence[Contact]) -> TraceStop:
        colonies = {one.colony_id for one in there}
        return TraceStop(
            there[0].apiary, there[0].keeper, stop.kind, len(colonies), min(one.see_by for one in there), stop.metres
        )


def legs_of(path: Path, names: Names) -> list[Leg]:
    """The movements of a path with the names of their days."""
    return [_leg(one, names) for one in path.movements]


def _leg(movement: Movement, names: Names) -> Leg:
    on, origin, target = movement.latest, movement.origin, movement.target
    return Leg(
        movement.id, movement.kind, movement.certainty, movement.is_disinfected, movement.earliest, on, origin,
        names.of(origin, on), names.apiary(origin, on), target, names.of(target, on), names.apiary(target, on),
    )  # fmt: skip


def _changed(before: Traces, now: Traces) -> list[ListChanged]:
    found: list[ListChanged] = []
    lists: Mapping[Direction, tuple[list[Contact], list[Contact]]] = {
        "backward": (before.sources, now.sources),
        "forward": (before.spread, now.spread),
    }
    for direction, (then, today) in lists.items():
        known = {str(one.colony_id): one for one in (*then, *today)}
        of_then = {str(one.colony_id): one.band for one in then}
        of_today = {str(one.colony_id): one.band for one in today}
        for change in changes_since(of_then, of_today):
            of = known[change.colony]
            found.append(ListChanged(direction, of.label, of.apiary, change.before, change.now))
    return found
