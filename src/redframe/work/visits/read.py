"""The visit: opened as a draft, kept piece by piece from any device, closed, and amended with a reason from then on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta
from statistics import median
from typing import Literal
from uuid import UUID

from redframe.core.disease.signs import signs
from redframe.core.errors import InvalidInput
from redframe.core.inputs import read
from redframe.core.season.calendar import Phase
from redframe.core.visits.cells import cells
from redframe.core.visits.colony import combs_to_renew, stores, suspicious_signs, weakness
from redframe.core.visits.comparison import FrameChange, QueenTrace, compare, queen_trace
from redframe.core.visits.estimates import Estimates, SeenFrame, estimate, looked_through
from redframe.core.visits.finding import Finding
from redframe.core.visits.next_visit import NextVisit, next_visit
from redframe.core.visits.opening import FULL, opening
from redframe.core.visits.queen import (
    Criterion,
    QueenRecord,
    laying_state,
    queen_evidence,
    queen_worth,
    solidity,
)
from redframe.core.visits.record import After, Before, FrameRecord
from redframe.store import colonies, frames, holds, photos, places
from redframe.store import visits as store
from redframe.store.colonies import ColonyOverview
from redframe.store.frames import Frame
from redframe.store.holds import Hold
from redframe.store.photos import Photo
from redframe.store.places import Apiary
from redframe.store.visits import Neighbour, OpenVisit, PastVisit, RoundStop, VisitFrame
from redframe.work.colonies.hives import Standing, standing_hive
from redframe.work.policy.read import policy_in_force
from redframe.work.unit_of_work import Work

NEIGHBOURS_BACK_DAYS = 30
ENOUGH_NEIGHBOURS = 3
CROWDED_FROM = 0.9
"""Share of the sides under bees from which a nest is crowded."""


TrendName = Literal["frames_of_bees", "frames_of_brood", "stores_kg"]
TRENDS: tuple[TrendName, ...] = ("frames_of_bees", "frames_of_brood", "stores_kg")


@dataclass(frozen=True, slots=True)
class Trend:
    """A figure of the colony now, at the visit compared with, and the median of the apiary's other colonies."""

    name: TrendName
    now: float | None
    then: float | None
    apiary_median: float | None
    colonies: int


@dataclass(frozen=True, slots=True)
class VisitReading:
    """What the core says of a visit as far as it is recorded."""

    told: Estimates
    opening: Sequence[Finding]
    findings: Sequence[Finding]
    changes: Sequence[FrameChange]
    trace: Sequence[QueenTrace]
    trends: Sequence[Trend]
    worth: Sequence[Criterion]
    suspicious: Sequence[str]
    suggested: NextVisit


@dataclass(frozen=True, slots=True)
class VisitView:
    """A visit with the hive as it stands, everything recorded, the visit beside it, and what follows."""

    visit: OpenVisit
    colony: ColonyOverview
    apiary: Apiary
    standing: Standing
    frames: Sequence[Frame]
    records: Sequence[VisitFrame]
    photos: Sequence[Photo]
    past: Sequence[PastVisit]
    against: PastVisit | None
    former: Sequence[VisitFrame]
    hold: Hold | None
    phase: Phase
    reading: VisitReading


async def visit_view(work: Work, visit_id: UUID, against_id: UUID | None = None) -> VisitView:
    """A visit beside an earlier one: `against_id`, or else the last that looked at frames. Raises NotFound."""
    visit = await store.visit(work.connection, visit_id)
    colony = await colonies.colony_overview(work.connection, visit.colony_id, work.today)
    standing = await _standing(work, colony)
    past = await store.visits_to_compare(work.connection, visit.id, visit.colony_id, visit.visited_on)
    against = _against(past, against_id)
    kept = await store.frames_of_visits(work.connection, [visit.id, *([against.id] if against else [])])
    records = [frame for frame in kept if frame.visit_id == visit.id]
    former = [frame for frame in kept if frame.visit_id != visit.id]
    policy = await policy_in_force(work, colony.apiary_id)
    phase = policy.calendar.phase(visit.visited_on)
    open_from_c = float(policy.treatment_rules.get("open_from_c", FULL))
    return VisitView(
        visit=visit,
        colony=colony,
        apiary=await places.apiary(work.connection, colony.apiary_id),
        standing=standing,
        frames=await frames.frames_of_boxes(work.connection, [box.id for box in standing.boxes]),
        records=records,
        photos=await photos.photos_of_visit(work.connection, visit.id),
        past=past,
        against=against,
        former=former,
        hold=await holds.hold_of_colony(work.connection, visit.colony_id),
        phase=phase,
        reading=await _reading(work, visit, colony, standing, records, former, past, against, phase, open_from_c),
    )


def _against(past: Sequence[PastVisit], wanted: UUID | None) -> PastVisit | None:
    if wanted is not None:
        return next((one for one in past if one.id == wanted), None)
    return next((one for one in past if one.frames), past[0] if past else None)


async def _standing(work: Work, colony: ColonyOverview) -> Standing:
    if colony.hive_id is None:
        raise InvalidInput("colony_id", "say first in which boxes it lives", code="missing")
    return await standing_hive(work, colony.hive_id)


def seen_frames(standing: Standing, records: Sequence[VisitFrame]) -> list[SeenFrame]:
    """Records as the core reads them: boxes with frames count from the floor; boxes that are gone have no place."""
    framed = {box.id: (number, box) for number, box in enumerate((b for b in standing.boxes if b.frames), start=1)}
    return [
        SeenFrame(
            framed[one.box_id][0], one.slot, framed[one.box_id][1].frame_format or "", read(FrameRecord, one.record)
        )
        for one in records
        if one.box_id in framed
    ]


async def _reading(
    work: Work,
    visit: OpenVisit,
    colony: ColonyOverview,
    standing: Standing,
    records: Sequence[VisitFrame],
    former: Sequence[VisitFrame],
    past: Sequence[PastVisit],
    against: PastVisit | None,
    phase: Phase,
    open_from_c: float,
) -> VisitReading:
    before, after = read(Before, visit.before), read(After, visit.after)
    now, then = seen_frames(standing, records), seen_frames(standing, former)
    wintering, on = phase == "dormant", visit.visited_on
    brood_format = next((box.frame_format for box in standing.boxes if box.purpose == "brood"), None)
    told = estimate(now, after, air_temp_c=before.air_temp_c, wintering=wintering, frame_format=brood_format)
    suspicious = suspicious_signs(now)
    framed = [box for box in standing.boxes if box.frames]
    brood_boxes = {number for number, box in enumerate(framed, start=1) if box.purpose == "brood"}
    nest_seen = sum(bool(frame.record.sides) for frame in now if frame.box in brood_boxes)
    nest = looked_through(nest_seen, sum(box.frames for box in framed if box.purpose == "brood"))
    hive = looked_through(told.frames_seen, sum(box.frames for box in framed))
    evidence = queen_evidence(now, after, on, wintering=wintering, complete=nest)
    laying = laying_state(now)
    found = [evidence, *([laying] if laying else []), *cells(now, after, on, crowded=_crowded(now))]
    if suspicious:
        named = ", ".join(signs()[sign].name for sign in suspicious)
        found.insert(0, _suspicion(named))
    if told.balance is not None and told.balance.reading not in ("steady", "one_age"):
        found.append(_balance(told))
    others = [
        solidity(after.pattern_empty_pct),
        stores(told, toward_winter=phase in ("decline", "pre_winter"), complete=hive),
        combs_to_renew(now),
    ]
    others.append(weakness(told, evidence, suspicious, spring=phase == "build_up"))
    found += [one for one in others if one is not None]
    near = await store.neighbours(
        work.connection, colony.apiary_id, colony.id, on - timedelta(days=NEIGHBOURS_BACK_DAYS), on
    )
    capped = [one.capped_cells for one in near if one.capped_cells is not None]
    middle = median(capped) if len(capped) >= ENOUGH_NEIGHBOURS else None
    share = told.capped.value / middle if told.capped is not None and middle else None
    tempers = [one.temper for one in past if one.temper is not None]
    patterns = [one.pattern_empty_pct for one in past if one.pattern_empty_pct is not None]
    record = QueenRecord(
        seasons=on.year - colony.queen_year + 1 if colony.queen_year is not None else None,
        tempers=[*([after.temper] if after.temper else []), *tempers],
        patterns_pct=[*([after.pattern_empty_pct] if after.pattern_empty_pct is not None else []), *patterns],
        lay_share=share,
        lay_share_before=past[0].capped_cells / middle
        if past and past[0].capped_cells is not None and middle
        else None,
    )
    return VisitReading(
        told=told,
        opening=opening(before, open_from_c),
        findings=found,
        changes=compare(then, now),
        trace=queen_trace(then, now),
        trends=_trends(told, against, near),
        worth=queen_worth(record, suspicious=bool(suspicious), laying=laying),
        suspicious=suspicious,
        suggested=next_visit(on, phase, found),
    )  # fmt: skip


def _trends(told: Estimates, against: PastVisit | None, near: Sequence[Neighbour]) -> list[Trend]:
    """Strength, brood and stores: now, then, and at the apiary's other colonies."""
    now = {
        "frames_of_bees": told.frames_of_bees,
        "frames_of_brood": told.frames_of_brood,
        "stores_kg": told.stores_kg.value if told.stores_kg else None,
    }
    found = []
    for name in TRENDS:
        known = [value for value in (getattr(one, name) for one in near) if value is not None]
        middle = median(known) if known else None
        then = getattr(against, name) if against is not None else None
        found.append(Trend(name, now[name], then, middle, len(known)))
    return found


def _crowded(frames: Sequence[SeenFrame]) -> bool:
    covers = [side.bees for frame in frames for side in frame.record.sides if side.bees is not None]
    return len(covers) >= 8 and sum(covers) / (10 * len(covers)) >= CROWDED_FROM


def _suspicion(named: str) -> Finding:
    text = (
        f"{named[:1].upper()}{named[1:]}: open cells and draw a match through them. "
        "If a thread draws, close up and ask your authority. No comb leaves this hive until it is explained."
    )
    why = ("signs that foulbrood or a notifiable pest can show", "not seen at this examination is never ruled out")
    return Finding("suspicious", "act", text, why)


def _balance(told: Estimates) -> Finding:
    balance = told.balance
    assert balance is not None
    now, before, long_before = balance.now, balance.days_3_to_9, balance.days_9_to_21
    said = (
        f"laid a day: {now:.0f} now, {before:.0f} 3 to 9 days ago, {long_before:.0f} 9 to 21 days ago",
        "eggs are under-counted by 20 to 50 %: not a finding by itself",
    )
    return Finding(f"balance_{balance.reading}", "note", f"{balance.text[:1].upper()}{balance.text[1:]}.", said)


async def round_of(work: Work, apiary_id: UUID) -> list[RoundStop]:
    """The colonies of an apiary in the order in which they are opened, suspects last. Raises NotFound."""
    await places.apiary(work.connection, apiary_id)
    return await store.round_of_apiary(work.connection, apiary_id, work.today)
