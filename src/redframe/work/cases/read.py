"""A suspect case read: where it stands, what may follow and by whom, its clocks, its record, its samples."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from uuid import UUID

from redframe.core.cases.guards import CaseFacts, laboratory_decides, may_follow
from redframe.core.cases.law import LawPack, law_packs
from redframe.core.cases.samples import CustodyLine, gaps
from redframe.core.cases.schedule import Clock, DueDays, StepTime, clocks, recheck_due, reinspection_due
from redframe.core.cases.states import (
    STATES,
    Actor,
    CaseAct,
    CaseState,
    EvidenceField,
    Tracks,
    Transition,
)
from redframe.core.disease.safety_words import safety_words
from redframe.store import cases as store
from redframe.store import colonies
from redframe.store.case_photos import CasePhoto, photos_of_case
from redframe.store.cases import CaseRow, CustodyRow, DocumentRow, SampleRow, StepRow
from redframe.store.database import together
from redframe.work.unit_of_work import UnitOfWork

EVERYBODY: frozenset[Actor] = frozenset({"keeper", "mentor", "inspector", "administrator", "laboratory", "system"})
BACKWARDS: frozenset[CaseAct] = frozenset({"reopen", "hold_official", "hold_voluntary"})
"""What is always possible and so waits for nobody."""
RESULTS: frozenset[CaseAct] = frozenset({"accept_negative", "accept_inconclusive", "accept_confirmed"})


@dataclass(frozen=True, slots=True)
class NextAct:
    """What may follow: its act, who may record it, whether this person may, and what it must and may show."""

    act: CaseAct
    actors: list[Actor]
    mine: bool
    needs: Sequence[EvidenceField]
    asks: Sequence[EvidenceField]


@dataclass(frozen=True, slots=True)
class SampleView:
    """A sample with its chain of custody, what is wrong with it, and what the laboratory wrote."""

    sample: SampleRow
    custody: list[CustodyRow]
    gaps: list[str]
    documents: list[DocumentRow]


@dataclass(frozen=True, slots=True)
class CaseLine:
    """A case in the list: where it stands today, for whom it waits, the clock that runs, when something falls due."""

    case: CaseRow
    state: CaseState
    waits_for: list[Actor]
    clock: Clock | None
    due: DueDays | None


@dataclass(frozen=True, slots=True)
class RuleOfCase:
    """A rule that a case rests on, and what it says."""

    id: str
    says: str


@dataclass(frozen=True, slots=True)
class LawHere:
    """The law that a case follows: its place, whom to tell, and whether a mentor may take samples."""

    name: str
    authority: str
    telephone: str
    mentor_may_sample: bool


@dataclass(frozen=True, slots=True)
class CaseView:
    """A case: as in the list, with the rules that it rests on, its law, all that may follow, its clocks, its record,
    its samples and photos. `living`: the colonies that live at the apiary; `laboratory_decides`: no second look settles
    it."""

    line: CaseLine
    rules: list[RuleOfCase]
    law: LawHere
    now: datetime
    laboratory_decides: bool
    living: int
    next: list[NextAct]
    clocks: list[Clock]
    steps: list[StepRow]
    samples: list[SampleView]
    photos: list[CasePhoto]


@dataclass(frozen=True, slots=True)
class Known:
    """All that is on record of a case, and the law that it follows."""

    row: CaseRow
    law: LawPack
    steps: list[StepRow]
    samples: list[SampleView]
    living: int

    def last(self, *acts: CaseAct) -> StepRow | None:
        """The last step of one of these acts."""
        return next((one for one in reversed(self.steps) if one.act in acts), None)

    @property
    def rules(self) -> list[str]:
        """The rules that it rests on: those that raised it, and those met at later visits."""
        later = [rule for one in self.steps for rule in one.evidence.get("rules", [])]
        return list(dict.fromkeys([*self.row.rules, *later]))

    def sending(self, number: int) -> list[SampleView]:
        """The samples that went with a sending (-1: the last one), or that wait for the next one (0): what was handed
        over, in the order in which it was recorded."""
        sent = [one.created_at for one in self.steps if one.act == "sample"]
        if number == 0:
            begin, end = (sent[-1] if sent else None), None
        elif sent:
            begin, end = (sent[-2] if len(sent) > 1 else None), sent[-1]
        else:
            return []
        return [
            one
            for one in self.samples
            for handed in [_handed_over(one)]
            if handed is not None and (begin is None or handed > begin) and (end is None or handed <= end)
        ]

    def due(self) -> DueDays | None:
        """When it is looked at again, where a day is set by the law."""
        ordered, result = self.last("order"), self.last(*RESULTS)
        if self.row.state in ("order_done", "reinspect_due") and ordered is not None:
            return reinspection_due(ordered.happened_on, self.law)
        if self.row.state == "recheck_due" and result is not None:
            return recheck_due(result.happened_on, self.law)
        return None

    def facts_on(self, today: date) -> CaseFacts:
        """What the guards ask; a re-inspection falls due with the days."""
        row, due = self.row, self.due()
        ordered, result, sent = self.last("order"), self.last(*RESULTS), self.sending(-1)
        fell_due = row.state == "order_done" and due is not None and today >= due.first
        since = max([one.seq for one in self.steps if one.act in ("order", "reopen")], default=0)
        results = [paper.content["result"] for one in sent for paper in one.documents if paper.kind == "result"]
        return CaseFacts(
            disease=row.disease,
            tracks=Tracks("reinspect_due" if fell_due else row.state, row.hold, row.tracing, row.radius),
            rules=self.rules,
            is_confirmed=self.last("accept_confirmed") is not None,
            ordered_on=ordered.happened_on if ordered else None,
            result_on=result.happened_on if result else None,
            clear_examinations=sum(one.act == "reinspect_clear" and one.seq > since for one in self.steps),
            sealed_samples=len(self.sending(0)),
            living_colonies=self.living,
            results=frozenset(results),
            all_answered=len(results) == len(sent),
            is_custody_whole=not any(one.gaps for one in sent),
        )


def _handed_over(one: SampleView) -> datetime | None:
    """When it was recorded that a sample left the hands of who took it."""
    handed = [line.recorded_at for line in one.custody if line.kind == "handed_over"]
    return min((at for at in handed if at is not None), default=None)


async def known_of(unit: UnitOfWork, row: CaseRow) -> Known:
    """What is on record of a case."""
    async with together(unit.connection) as begin:
        of_steps = begin(store.steps_of(unit.connection, [row.id]))
        of_samples = begin(store.samples_of(unit.connection, [row.id]))
        of_colonies = begin(colonies.labels_of_apiary(unit.connection, row.apiary_id))
    samples = await samples_with_custody(unit, of_samples.result())
    return Known(row, law_packs()[row.law], of_steps.result(), samples, len(of_colonies.result()))


async def samples_with_custody(unit: UnitOfWork, samples: Sequence[SampleRow]) -> list[SampleView]:
    """Samples with who had them and what the laboratory wrote."""
    ids = [one.id for one in samples]
    async with together(unit.connection) as begin:
        of_custody = begin(store.custody_of(unit.connection, ids))
        of_documents = begin(store.documents_of(unit.connection, ids))
    lines: dict[UUID, list[CustodyRow]] = defaultdict(list)
    for line in of_custody.result():
        lines[line.sample_id].append(line)
    documents: dict[UUID, list[DocumentRow]] = defaultdict(list)
    for document in of_documents.result():
        documents[document.sample_id].append(document)
    return [SampleView(one, lines[one.id], gaps_of(lines[one.id]), documents[one.id]) for one in samples]


def gaps_of(lines: Sequence[CustodyRow]) -> list[str]:
    """What is wrong with a chain, in words."""
    return gaps(
        [
            CustodyLine(one.kind, one.at, one.by_name, one.to_name, one.seal, one.temperature_c, one.seal_whole)
            for one in lines
        ]
    )


async def case_list(unit: UnitOfWork, *, closed: bool = False, apiary_id: UUID | None = None) -> list[CaseLine]:
    """The open cases, or the closed ones, that the person sees."""
    rows = await store.cases(unit.connection, apiary_id=apiary_id, closed=closed)
    ids = [one.id for one in rows]
    async with together(unit.connection) as begin:
        of_steps = begin(store.steps_of(unit.connection, ids))
        of_samples = begin(store.samples_of(unit.connection, ids))
    steps: dict[UUID, list[StepRow]] = defaultdict(list)
    for step in of_steps.result():
        steps[step.case_id].append(step)
    samples: dict[UUID, list[SampleView]] = defaultdict(list)
    for one in await samples_with_custody(unit, of_samples.result()):
        samples[one.sample.case_id].append(one)
    return [_line(unit, Known(row, law_packs()[row.law], steps[row.id], samples[row.id], 0)) for row in rows]


async def case_view(unit: UnitOfWork, case_id: UUID) -> CaseView:
    """A case. Raises NotFound."""
    known = await known_of(unit, await store.case(unit.connection, case_id))
    facts = known.facts_on(unit.today)
    own, law = frozenset({unit.who.role}), known.law
    mine = {(one.track, one.source, one.act) for one in may_follow(facts, own, known.law)}
    return CaseView(
        line=_line(unit, known),
        rules=[RuleOfCase(one, safety_words().rules[one]) for one in known.rules],
        law=LawHere(law.name, law.authority, law.telephone, law.mentor_may_sample),
        now=unit.now,
        laboratory_decides=laboratory_decides(facts),
        living=known.living,
        next=[
            NextAct(one.act, sorted(one.actors), (one.track, one.source, one.act) in mine, one.needs, one.asks)
            for one in may_follow(facts, EVERYBODY, known.law)
        ],
        clocks=_clocks(unit, known),
        steps=known.steps,
        samples=known.samples,
        photos=await photos_of_case(unit.connection, case_id),
    )


def _line(unit: UnitOfWork, known: Known) -> CaseLine:
    facts = known.facts_on(unit.today)
    follows = may_follow(facts, EVERYBODY, known.law)
    waiting = [one for one in follows if one.track == "case" and one.act not in BACKWARDS]
    running = [one for one in _clocks(unit, known) if one.ended is None]
    return CaseLine(
        known.row, facts.tracks.case, _first_asked(facts.tracks, waiting), running[-1] if running else None, known.due()
    )


def _first_asked(tracks: Tracks, waiting: Sequence[Transition]) -> list[Actor]:
    """Who is waited for: those of the first act that leads on in the order of the states."""
    if not waiting:
        return ["laboratory"] if tracks.case == "lab_pending" else []
    first = min(waiting, key=lambda one: (one.act == "not_supported", STATES.index(one.target)))
    return sorted(first.actors)


def _clocks(unit: UnitOfWork, known: Known) -> list[Clock]:
    order = known.last("order")
    deadline = date.fromisoformat(order.evidence["deadline"]) if order and "deadline" in order.evidence else None
    times = [StepTime(one.act, one.at) for one in known.steps]
    return clocks(times, known.row.disease, known.law, unit.now, deadline)
