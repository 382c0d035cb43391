"""Suspect cases raised by a rule or a person, and their steps: each on record once, only added to."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from uuid import UUID, uuid4, uuid5

from redframe.core.cases.evidence import StepEvidence
from redframe.core.cases.guards import check_step
from redframe.core.cases.states import ENTRIES, TABLE, CaseAct, CaseDisease, Track
from redframe.core.disease.safety_words import safety_words
from redframe.core.errors import InvalidInput, Refused
from redframe.store import cases as store
from redframe.store import colonies
from redframe.store.cases import CaseRow, NewStep
from redframe.store.errors import Conflict
from redframe.work.cases.read import CaseView, Known, case_view, known_of
from redframe.work.cases.traces import keep_traces
from redframe.work.policy.read import policy_in_force
from redframe.work.roles import require
from redframe.work.to_json import to_json
from redframe.work.unit_of_work import UnitOfWork

KEEPS_TRACES: frozenset[CaseAct] = frozenset({"accept_confirmed", "open_tracing"})
"""With these the traces are kept as they stand."""
AHEAD = timedelta(minutes=5)
"""A device's clock may be so far ahead."""


@dataclass(frozen=True, slots=True)
class NewCase:
    """A suspicion that a person raises."""

    id: UUID
    colony_id: UUID
    disease: CaseDisease
    found_on: date
    text: str


@dataclass(frozen=True, slots=True)
class WantedStep:
    """A step of a case: its act, when it was, what it shows; `version` is that of the case it was made from, `corrects`
    the entry that it corrects."""

    id: UUID
    act: CaseAct
    version: int
    at: datetime
    evidence: StepEvidence
    corrects: UUID | None = None


async def raise_case(unit: UnitOfWork, new: NewCase) -> CaseView:
    """Raise a suspicion, once; the apiary stands still from then on, of the keeper's own will until it is official.

    Raises InvalidInput for a day in the future or without a reason, Conflict where the colony has an open case of it.
    """
    require(unit.who, "record")
    colony = await colonies.colony_for_update(unit.connection, new.colony_id)
    if new.found_on > unit.today:
        raise InvalidInput("found_on", "lies in the future", code="out_of_range")
    if not new.text.strip():
        raise InvalidInput("text", "say what was seen", code="missing")
    if await unit.accept(new.id, "case", to_json(new)):
        if await store.open_case_of(unit.connection, new.colony_id, new.disease) is not None:
            raise Conflict("this colony has an open case of it already", "disease")
        await _open(
            unit, new.id, colony.id, colony.apiary_id, new.disease, new.found_on, text=new.text, by_system=False
        )
    return await case_view(unit, new.id)


async def raise_suspicion(
    unit: UnitOfWork,
    colony_id: UUID,
    found_on: date,
    suspected: Mapping[CaseDisease, Sequence[str]],
    *,
    visit_id: UUID | None = None,
    deadout_id: UUID | None = None,
) -> None:
    """Raise what the rules of a closed visit, or of an examination of a dead colony, suspect: each disease with its
    rules. Where the colony has an open case of it, that notes what was seen now."""
    source = visit_id or deadout_id
    assert source is not None
    colony = None
    for disease, by in suspected.items():
        # What an amendment adds after a case was closed raises another; the same findings do not.
        case_id = uuid5(source, f"case {disease} {' '.join(sorted(by))}")
        found = await store.open_case_of(unit.connection, colony_id, disease)
        if found is not None:
            await _see_again(unit, found, source, by)
            continue
        colony = colony or await colonies.colony_for_update(unit.connection, colony_id)
        if await unit.accept(case_id, "case", {"visit": source, "disease": disease}):
            await _open(
                unit, case_id, colony_id, colony.apiary_id, disease, found_on, visit_id=visit_id,
                deadout_id=deadout_id, rules=by, text=_in_words(by),
            )  # fmt: skip


def _in_words(rules: Sequence[str]) -> str:
    return " ".join(f"{safety_words().rules[one]} ({one})" for one in rules)


async def _see_again(unit: UnitOfWork, case_id: UUID, source: UUID, rules: Sequence[str]) -> None:
    """Note rules in an open case that it did not know."""
    known = await known_of(unit, await store.case(unit.connection, case_id))
    new = [one for one in rules if one not in known.rules]
    if not new:
        return
    said = {"text": _in_words(new), "rules": new, "visit": str(source)}
    step = NewStep(uuid4(), case_id, "seen_again", None, "", "", "system", unit.now, unit.today, said)
    await store.add_step(unit.connection, step)


async def _open(
    unit: UnitOfWork,
    case_id: UUID,
    colony_id: UUID,
    apiary_id: UUID,
    disease: CaseDisease,
    found_on: date,
    *,
    text: str,
    visit_id: UUID | None = None,
    deadout_id: UUID | None = None,
    rules: Sequence[str] = (),
    by_system: bool = True,
) -> None:
    policy = await policy_in_force(unit, apiary_id)
    number = await store.next_number(unit.connection, unit.today.year)
    await store.add_case(
        unit.connection, id=case_id, number=number, disease=disease, colony_id=colony_id, apiary_id=apiary_id,
        visit_id=visit_id, deadout_id=deadout_id, rules=rules, found_on=found_on, law=policy.region.law,
    )  # fmt: skip
    raised = NewStep(
        uuid5(case_id, "raise"), case_id, "raise", None, "", "suspected", "system" if by_system else unit.who.role,
        unit.now, unit.today, {"text": text.strip()},
    )  # fmt: skip
    await store.add_step(unit.connection, raised)
    hold = NewStep(
        uuid5(case_id, "hold"), case_id, "hold_voluntary", "hold", "none", "voluntary", "system", unit.now, unit.today,
        {"covers": "apiary", "text": "with the suspicion"},
    )  # fmt: skip
    await store.add_step(unit.connection, hold)


async def record_step(unit: UnitOfWork, case_id: UUID, wanted: WantedStep) -> CaseView:
    """Record a step of a case, once.

    Raises Refused where the table, the role or a guard says no, InvalidInput naming the field that is missing, Conflict
    where the case has moved on since `version`.
    """
    require(unit.who, "record")
    row = await store.case(unit.connection, case_id)
    if wanted.at > unit.now + AHEAD:
        raise InvalidInput("at", "lies in the future", code="out_of_range")
    content = {"case": case_id, **to_json(replace(wanted, version=0))}
    if not await unit.accept(wanted.id, "case_step", content):
        return await case_view(unit, case_id)
    if wanted.act in ("raise", "anyway", "seen_again"):
        raise Refused("case_order", "this is not recorded by hand", field="act")
    known = await known_of(unit, row)
    if wanted.act not in ENTRIES and wanted.version != row.version:
        raise Conflict("somebody has recorded a step meanwhile: look at it again", "act")
    _check_moment(unit, known, wanted)
    _check_corrects(known, wanted)
    on = unit.day_of(wanted.at)
    check_step(known.facts_on(unit.today), wanted.act, wanted.evidence, frozenset({unit.who.role}), known.law, on)
    await _fall_due(unit, row, known, wanted)
    evidence = to_json(wanted.evidence.model_dump(mode="json", exclude_defaults=True))
    track, source, target = _movement(known, wanted.act, unit.today)
    step = NewStep(
        wanted.id, case_id, wanted.act, track, source, target, unit.who.role, wanted.at, on, evidence, wanted.corrects
    )
    await store.add_step(unit.connection, step)
    if wanted.act in KEEPS_TRACES:
        await keep_traces(unit, case_id)
    return await case_view(unit, case_id)


def _check_moment(unit: UnitOfWork, known: Known, wanted: WantedStep) -> None:
    """A step is no earlier than the one before it on its track; corrections are dated as they come."""
    if wanted.act in ENTRIES:
        return
    track = _track_of(wanted.act)
    before = [one.at for one in known.steps if one.act not in ENTRIES and _track_of(one.act) == track]
    raised = [one.at for one in known.steps if one.act == "raise"]
    last = max([*before, *raised])
    if wanted.at < last:
        zoned = last.astimezone(unit.zone)
        raise InvalidInput("at", f"lies before the step before it ({zoned.day} {zoned:%B %H:%M})", code="out_of_range")


def _track_of(act: CaseAct) -> str:
    return next(one.track for one in TABLE if one.act == act)


def _check_corrects(known: Known, wanted: WantedStep) -> None:
    if wanted.act != "correct":
        return
    if wanted.corrects is None or all(one.id != wanted.corrects for one in known.steps):
        raise InvalidInput("corrects", "say which entry it corrects", code="unknown")


def _movement(known: Known, act: CaseAct, today: date) -> tuple[Track | None, str, str]:
    if act in ENTRIES:
        return None, "", ""
    tracks = known.facts_on(today).tracks
    row = next(one for one in TABLE if one.act == act and tracks.of(one.track) == one.source)
    return row.track, row.source, row.target


async def _fall_due(unit: UnitOfWork, row: CaseRow, known: Known, wanted: WantedStep) -> None:
    """A re-inspection that fell due with the days is entered as such before what was found at it."""
    if row.state != "order_done" or known.facts_on(unit.today).tracks.case != "reinspect_due":
        return
    if _track_of(wanted.act) != "case":
        return
    await store.add_step(
        unit.connection,
        NewStep(
            uuid5(wanted.id, "due"), row.id, "reinspect_falls_due", "case", "order_done", "reinspect_due", "system",
            wanted.at, unit.day_of(wanted.at), {},
        ),
    )  # fmt: skip
