"""Samples of a case: taken, handed on, sent; what the laboratory wrote of them."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID, uuid5

from redframe.core.cases.laboratory import Laboratory, LaboratoryDocument, Parcel
from redframe.core.cases.law import law_packs
from redframe.core.cases.samples import CustodyKind, SampleKind, sample_code, sample_methods
from redframe.core.errors import InvalidInput, Refused
from redframe.store import cases as store
from redframe.store import colonies
from redframe.store.cases import CaseRow, CustodyRow, DocumentRow, NewStep, SampleRow
from redframe.store.errors import Conflict
from redframe.work.cases.read import CaseView, Known, SampleView, case_view, known_of
from redframe.work.cases.record import AHEAD
from redframe.work.roles import require
from redframe.work.to_json import to_json
from redframe.work.unit_of_work import UnitOfWork

CODES = 23**5
TAKES_SAMPLES = ("reported", "sampled", "inconclusive", "recheck_due", "reopened", "suspected")
"""States of a case in which samples are taken: also before the report is out, they are sent after it."""


@dataclass(frozen=True, slots=True)
class NewSample:
    """A sample taken for a case: of which colony, what, from where in it, when, by whom, under which seal."""

    id: UUID
    colony_id: UUID
    kind: SampleKind
    taken_from: str
    at: datetime
    by: str
    seal: str


@dataclass(frozen=True, slots=True)
class NewCustody:
    """A line of custody: what happened when, who had the sample and who has it now, its seal and its temperature."""

    id: UUID
    kind: CustodyKind
    at: datetime
    by: str
    to: str
    seal: str
    temperature_c: float | None


async def take_sample(unit: UnitOfWork, case_id: UUID, new: NewSample) -> CaseView:
    """Record a sample, once, under a blind code, with the first lines of its custody.

    Raises Refused for a role that may not take one here or a case that asks for none, InvalidInput naming the field.
    """
    require(unit.who, "record")
    row = await store.case(unit.connection, case_id)
    _may_handle(unit, row)
    colony = await colonies.colony(unit.connection, new.colony_id)
    if colony.apiary_id != row.apiary_id:
        raise InvalidInput("colony_id", "is not a colony of this apiary", code="unknown")
    if row.disease not in sample_methods()[new.kind].diseases:
        raise InvalidInput("kind", "tells nothing of this disease", code="refused")
    if new.at > unit.now + AHEAD:
        raise InvalidInput("at", "lies in the future", code="out_of_range")
    if not new.by.strip():
        raise InvalidInput("by", "say who took it", code="missing")
    if await unit.accept(new.id, "case_sample", {"case": case_id, **to_json(new)}):
        # A device that sends the same again, after the case has moved on, is answered like the first time.
        if row.state not in TAKES_SAMPLES:
            raise Refused("case_order", "this case asks for no sample now", field="kind")
        await store.add_sample(
            unit.connection, id=new.id, case_id=case_id, colony_id=new.colony_id, code=sample_code(new.id.int % CODES),
            kind=new.kind, taken_from=new.taken_from.strip(),
        )  # fmt: skip
        taken = CustodyRow(uuid5(new.id, "taken"), new.id, "taken", new.at, new.by.strip(), "", "", None, None)
        await store.add_custody(unit.connection, taken)
        if new.seal.strip():
            sealed = CustodyRow(
                uuid5(new.id, "sealed"), new.id, "sealed", new.at, new.by.strip(), "", new.seal.strip(), None, None
            )
            await store.add_custody(unit.connection, sealed)
    return await case_view(unit, case_id)


def _may_handle(unit: UnitOfWork, row: CaseRow) -> None:
    may = unit.who.role == "inspector" or (unit.who.role == "mentor" and law_packs()[row.law].mentor_may_sample)
    if not may:
        raise Refused("case_role", "samples are handled by those whom the law names", field="kind")


async def hand_on(unit: UnitOfWork, sample_id: UUID, new: NewCustody) -> CaseView:
    """Add a line to the chain of custody, once. Receipt is the laboratory's to record.

    Raises InvalidInput naming the field, Conflict for a sample that the laboratory has received.
    """
    require(unit.who, "record")
    sample = await store.sample(unit.connection, sample_id)
    row = await store.case(unit.connection, sample.case_id)
    _may_handle(unit, row)
    if new.kind not in ("sealed", "handed_over"):
        raise InvalidInput("kind", "is not yours to record", code="refused")
    if not new.by.strip():
        raise InvalidInput("by", "say who had it", code="missing")
    if new.kind == "handed_over" and not new.to.strip():
        raise InvalidInput("to", "say who has it now", code="missing")
    if new.kind == "sealed" and not new.seal.strip():
        raise InvalidInput("seal", "give the number of the seal", code="missing")
    if new.at > unit.now + AHEAD:
        raise InvalidInput("at", "lies in the future", code="out_of_range")
    lines = await store.custody_of(unit.connection, [sample_id])
    if lines and new.at < lines[-1].at:
        raise InvalidInput("at", "lies before the line above it", code="out_of_range")
    if await unit.accept(new.id, "custody", {"sample": sample_id, **to_json(new)}):
        if any(line.kind == "received" for line in lines):
            raise Conflict("the laboratory has it already", "kind")
        line = CustodyRow(
            new.id,
            sample_id,
            new.kind,
            new.at,
            new.by.strip(),
            new.to.strip(),
            new.seal.strip(),
            new.temperature_c,
            None,
        )
        await store.add_custody(unit.connection, line)
    return await case_view(unit, row.id)


async def ask_laboratory(unit: UnitOfWork, laboratory: Laboratory, case_id: UUID) -> CaseView:
    """Take in what the laboratory has written of the samples of a case; what was taken in before stays as it was.

    The receipt moves a case that was sampled on; a result waits until the authority accepts it.
    """
    require(unit.who, "record")
    row = await store.case(unit.connection, case_id)
    known = await known_of(unit, row)
    for one in known.samples:
        await _take_in(unit, laboratory, row, one)
    await _received(unit, await known_of(unit, row))
    return await case_view(unit, case_id)


async def _take_in(unit: UnitOfWork, laboratory: Laboratory, row: CaseRow, one: SampleView) -> None:
    handed = next((line for line in reversed(one.custody) if line.kind == "handed_over"), None)
    if handed is None:
        return
    seal = next((line.seal for line in reversed(one.custody) if line.seal), "")
    parcel = Parcel(one.sample.code, one.sample.kind, row.disease, handed.at, seal)
    for document in laboratory.documents(parcel, unit.now):
        if not laboratory.is_signed(document) or document.code != one.sample.code:
            continue
        kept = DocumentRow(
            uuid5(one.sample.id, document.kind), one.sample.id, document.kind, document.at, document.content(),
            document.signature,
        )  # fmt: skip
        if await store.add_document(unit.connection, kept) and document.kind == "receipt":
            await store.add_custody(unit.connection, _receipt(one, document, handed))


def _receipt(one: SampleView, document: LaboratoryDocument, handed: CustodyRow) -> CustodyRow:
    return CustodyRow(
        uuid5(one.sample.id, "received"), one.sample.id, "received", document.at, handed.to_name, document.signed_by,
        document.seal, None, document.seal_whole,
    )  # fmt: skip


async def _received(unit: UnitOfWork, known: Known) -> None:
    """The case is at the laboratory when it has received a sample of the last sending."""
    sent = known.last("sample")
    receipts = [(line, one) for one in known.sending(-1) for line in one.custody if line.kind == "received"]
    if known.row.state != "sampled" or sent is None or not receipts:
        return
    line, one = receipts[-1]
    at = max(line.at, sent.at)
    await store.add_step(
        unit.connection,
        NewStep(
            uuid5(sent.id, "receive"), known.row.id, "receive", "case", "sampled", "lab_pending", "laboratory", at,
            unit.day_of(at),
            {"reference": one.sample.code, "receipt_condition": "sealed" if line.seal_whole else "broken"},
        ),
    )  # fmt: skip


async def for_label(unit: UnitOfWork, sample_id: UUID) -> tuple[SampleRow, datetime]:
    """A sample and when it was taken, for its label. Raises NotFound."""
    sample = await store.sample(unit.connection, sample_id)
    lines = await store.custody_of(unit.connection, [sample_id])
    return sample, min((line.at for line in lines), default=sample.created_at).astimezone(unit.zone)
