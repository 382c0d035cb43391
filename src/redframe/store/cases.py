"""Suspect cases: what is on record of each, its samples, who had them, what the laboratory wrote."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any
from uuid import UUID

from psycopg.types.json import Jsonb

from redframe.core.cases.around import AroundOutcome
from redframe.core.cases.evidence import Covers
from redframe.core.cases.law import LawId
from redframe.core.cases.samples import CustodyKind, SampleKind
from redframe.core.cases.states import Actor, CaseAct, CaseDisease, CaseState, HoldState, TaskState, Track
from redframe.store.database import Connection, many, maybe, one, run

MOST_CASES = 500
LONGEST_KM_A_DEGREE = 111.3
"""A degree of latitude is nowhere shorter than 110.5 km, so that no apiary within reach is missed."""


@dataclass(frozen=True, slots=True)
class CaseRow:
    """A case, where its tracks stand, and the standstill that is in force for it."""

    id: UUID
    number: str
    disease: CaseDisease
    colony_id: UUID
    label: str
    apiary_id: UUID
    apiary: str
    keeper: str
    rules: list[str]
    visit_id: UUID | None
    deadout_id: UUID | None
    found_on: date
    law: LawId
    state: CaseState
    hold: HoldState
    tracing: TaskState
    radius: TaskState
    version: int
    created_at: datetime
    by_name: str
    hold_covers: Covers | None
    hold_reference: str | None
    hold_since: date | None


@dataclass(frozen=True, slots=True)
class StepRow:
    """A step of a case as it was recorded."""

    id: UUID
    case_id: UUID
    seq: int
    act: CaseAct
    source: str
    target: str
    actor: Actor
    at: datetime
    happened_on: date
    evidence: Mapping[str, Any]
    corrects: UUID | None
    created_at: datetime
    by_name: str


@dataclass(frozen=True, slots=True)
class NewStep:
    """A step to be recorded; `track` None for an entry that changes no state."""

    id: UUID
    case_id: UUID
    act: CaseAct
    track: Track | None
    source: str
    target: str
    actor: Actor
    at: datetime
    happened_on: date
    evidence: Mapping[str, Any]
    corrects: UUID | None = None


@dataclass(frozen=True, slots=True)
class SampleRow:
    """A sample of a case under its blind code."""

    id: UUID
    case_id: UUID
    code: str
    kind: SampleKind
    taken_from: str
    colony_id: UUID
    label: str
    created_at: datetime


@dataclass(frozen=True, slots=True)
class CustodyRow:
    """A line of the chain of custody of a sample; `recorded_at` is the database's to say."""

    id: UUID
    sample_id: UUID
    kind: CustodyKind
    at: datetime
    by_name: str
    to_name: str
    seal: str
    temperature_c: float | None
    seal_whole: bool | None
    recorded_at: datetime | None = None


@dataclass(frozen=True, slots=True)
class DocumentRow:
    """A receipt or a result as the laboratory signed it."""

    id: UUID
    sample_id: UUID
    kind: str
    at: datetime
    content: Mapping[str, Any]
    signature: str


@dataclass(frozen=True, slots=True)
class ApiaryAround:
    """An apiary within reach of another: metres by straight line, living colonies, the last examination."""

    id: UUID
    name: str
    keeper: str
    latitude: float
    longitude: float
    distance_m: float
    colonies: int
    last_examined: date | None


@dataclass(frozen=True, slots=True)
class AroundVisitRow:
    """A visit to an apiary around a case, or to a place in words."""

    id: UUID
    apiary_id: UUID | None
    place: str
    visited_on: date
    outcome: AroundOutcome
    letter_sent: bool
    note: str
    by_name: str


@dataclass(frozen=True, slots=True)
class _Id:
    id: UUID


@dataclass(frozen=True, slots=True)
class _Number:
    number: str


async def cases(connection: Connection, *, apiary_id: UUID | None = None, closed: bool = False) -> list[CaseRow]:
    """The open cases, or the closed ones, newest first."""
    return await many(
        connection, CaseRow, "cases", case_id=None, apiary_id=apiary_id, wanted_open=not closed, most=MOST_CASES
    )


async def case(connection: Connection, case_id: UUID) -> CaseRow:
    """One case, open or closed. Raises NotFound."""
    return await one(
        connection, CaseRow, "cases", what="case", case_id=case_id, apiary_id=None, wanted_open=False, most=1
    )


async def open_case_of(connection: Connection, colony_id: UUID, disease: CaseDisease) -> UUID | None:
    """The open case of a colony and disease, if any."""
    found = await maybe(connection, _Id, "open_case_of", colony_id=colony_id, disease=disease)
    return found.id if found else None


async def next_number(connection: Connection, year: int) -> str:
    """The next number of a year, kept for this transaction."""
    return (await one(connection, _Number, "next_case_number", what="number", year=year)).number


async def add_case(
    connection: Connection, *, id: UUID, number: str, disease: CaseDisease, colony_id: UUID, apiary_id: UUID,
    visit_id: UUID | None, deadout_id: UUID | None, rules: Sequence[str], found_on: date, law: LawId,
) -> None:  # fmt: skip
    """Add a case, as suspected."""
    await run(
        connection, "add_case", id=id, number=number, disease=disease, colony_id=colony_id, apiary_id=apiary_id,
        visit_id=visit_id, deadout_id=deadout_id, rules=list(rules), found_on=found_on, law=law,
    )  # fmt: skip


async def add_step(connection: Connection, step: NewStep) -> None:
    """Add a step; the database checks that it may follow, and moves the case."""
    await run(
        connection, "add_case_step", id=step.id, case_id=step.case_id, act=step.act, track=step.track,
        source=step.source, target=step.target, actor=step.actor, at=step.at, happened_on=step.happened_on,
        evidence=Jsonb(dict(step.evidence)), corrects=step.corrects,
    )  # fmt: skip


async def add_anyway(connection: Connection, number: str, evidence: Mapping[str, Any], at: datetime, on: date) -> None:
    """Note in a case what was done under its standstill."""
    await run(connection, "add_anyway", number=number, evidence=Jsonb(dict(evidence)), at=at, on=on)


async def steps_of(connection: Connection, case_ids: Sequence[UUID]) -> list[StepRow]:
    """The steps of these cases, in their order."""
    return await many(connection, StepRow, "case_steps", case_ids=list(case_ids))


async def samples_of(connection: Connection, case_ids: Sequence[UUID]) -> list[SampleRow]:
    """The samples of these cases."""
    return await many(connection, SampleRow, "case_samples", case_ids=list(case_ids))


async def sample(connection: Connection, sample_id: UUID) -> SampleRow:
    """One sample. Raises NotFound."""
    return await one(connection, SampleRow, "case_sample", what="sample", sample_id=sample_id)


async def add_sample(
    connection: Connection, *, id: UUID, case_id: UUID, colony_id: UUID, code: str, kind: SampleKind, taken_from: str
) -> None:
    """Add a sample under its code."""
    await run(
        connection, "add_case_sample", id=id, case_id=case_id, colony_id=colony_id, code=code, kind=kind,
        taken_from=taken_from,
    )  # fmt: skip


async def custody_of(connection: Connection, sample_ids: Sequence[UUID]) -> list[CustodyRow]:
    """The chains of custody of these samples, each in its order."""
    return await many(connection, CustodyRow, "custody_lines", sample_ids=list(sample_ids))


async def add_custody(connection: Connection, line: CustodyRow) -> None:
    """Add a line to the chain of a sample."""
    await run(
        connection, "add_custody_line", id=line.id, sample_id=line.sample_id, kind=line.kind, at=line.at,
        by_name=line.by_name, to_name=line.to_name, seal=line.seal, temperature_c=line.temperature_c,
        seal_whole=line.seal_whole,
    )  # fmt: skip


async def documents_of(connection: Connection, sample_ids: Sequence[UUID]) -> list[DocumentRow]:
    """What the laboratory wrote of these samples."""
    return await many(connection, DocumentRow, "laboratory_documents", sample_ids=list(sample_ids))


async def add_document(connection: Connection, document: DocumentRow) -> bool:
    """Keep a document, once; whether it is new."""
    return (
        await run(
            connection, "add_laboratory_document", id=document.id, sample_id=document.sample_id, kind=document.kind,
            at=document.at, content=Jsonb(dict(document.content)), signature=document.signature,
        )
        > 0
    )  # fmt: skip


async def apiaries_around(connection: Connection, apiary_id: UUID, within_km: float) -> list[ApiaryAround]:
    """Apiaries within a distance of another by straight line, the nearest first."""
    degrees = within_km / (LONGEST_KM_A_DEGREE - 1)
    found = await many(connection, ApiaryAround, "apiaries_around", apiary_id=apiary_id, degrees=degrees)
    return [one for one in found if one.distance_m <= 1000 * within_km]


async def around_visits(connection: Connection, case_id: UUID) -> list[AroundVisitRow]:
    """The visits around a case, oldest first."""
    return await many(connection, AroundVisitRow, "around_visits", case_id=case_id)


async def add_around_visit(connection: Connection, **visit: object) -> None:
    """Record a visit around a case."""
    await run(connection, "add_around_visit", **visit)
