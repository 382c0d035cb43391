"""Suspect cases."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from pydantic import AfterValidator, Field, StringConstraints

from redframe.api.base import Note, Word
from redframe.core.cases.around import AroundOutcome
from redframe.core.cases.evidence import StepEvidence
from redframe.core.cases.samples import CustodyKind, SampleKind
from redframe.core.cases.states import CaseAct, CaseDisease
from redframe.core.inputs import Input, IsoDate, Moment, printable
from redframe.work.cases.around import NewAroundVisit
from redframe.work.cases.record import NewCase, WantedStep
from redframe.work.cases.samples import NewCustody, NewSample

Celsius = Annotated[float, Field(allow_inf_nan=False, ge=-90, le=60)]
CaseCaption = Annotated[str, Field(max_length=400), AfterValidator(printable)]
Seal = Annotated[str, Field(max_length=40)]


class CaseInput(Input):
    """A suspicion of a colony that a person raises, and what was seen."""

    id: UUID
    colony_id: UUID
    disease: CaseDisease
    found_on: IsoDate
    text: Note

    def as_new(self) -> NewCase:
        """What is raised."""
        return NewCase(self.id, self.colony_id, self.disease, self.found_on, self.text)


class StepInput(Input):
    """A step of a case; `corrects` names the entry that a correction is about."""

    id: UUID
    act: CaseAct
    at: Moment
    evidence: StepEvidence = StepEvidence()
    corrects: UUID | None = None

    def as_wanted(self, version: int) -> WantedStep:
        """What is recorded on the case as it was at a version."""
        return WantedStep(self.id, self.act, version, self.at, self.evidence, self.corrects)


class SampleInput(Input):
    """A sample taken of a colony; `taken_from` says which comb or where."""

    id: UUID
    colony_id: UUID
    kind: SampleKind
    taken_from: Note = ""
    at: Moment
    by: Word
    seal: Seal = ""

    def as_new(self) -> NewSample:
        """What was taken."""
        return NewSample(self.id, self.colony_id, self.kind, self.taken_from[:200], self.at, self.by, self.seal)


class AroundVisitInput(Input):
    """A visit to an apiary around a case, or to a place in words that nobody registered."""

    id: UUID
    apiary_id: UUID | None = None
    place: Annotated[str, StringConstraints(strip_whitespace=True, max_length=120), AfterValidator(printable)] = ""
    visited_on: IsoDate
    outcome: AroundOutcome
    letter_sent: bool = False
    note: Note = ""

    def as_new(self) -> NewAroundVisit:
        """What is recorded."""
        return NewAroundVisit(
            self.id, self.apiary_id, self.place, self.visited_on, self.outcome, self.letter_sent, self.note
        )


class CustodyInput(Input):
    """A sample sealed, or handed over; its temperature in degrees Celsius."""

    id: UUID
    kind: CustodyKind
    at: Moment
    by: Word
    to: Word = ""
    seal: Seal = ""
    temperature_c: Celsius | None = None

    def as_new(self) -> NewCustody:
        """What is added to the chain."""
        return NewCustody(self.id, self.kind, self.at, self.by, self.to, self.seal, self.temperature_c)
