"""What a visit says as far as it is recorded: figures, findings, changes, trends, the queen, the next visit.

Pure: everything that bears on it is an argument, taken from the day of the visit.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from statistics import median

from redframe.core.colonies.hive_state import HiveState, PlacedBox, Side
from redframe.core.disease.evidence import Context
from redframe.core.disease.signs import signs
from redframe.core.season.calendar import Phase
from redframe.core.status.status import Level
from redframe.core.visits.cells import cells
from redframe.core.visits.cohorts import Cohorts, brood_combs, brood_lost, cohorts
from redframe.core.visits.colony import bees_lost, combs_to_renew, kinds_of_stores, stores, suspicious_signs, weakness
from redframe.core.visits.comparison import FrameChange, QueenTrace, compare, queen_trace
from redframe.core.visits.count_needed import count_needed
from redframe.core.visits.disease_reading import (
    DiseaseReading,
    NotSeen,
    count_over,
    not_seen,
    read_disease,
    sick_cells,
    with_examination,
)
from redframe.core.visits.estimates import Balance, BalanceReading, Estimates, SeenFrame, estimate
from redframe.core.visits.evidence import findings_of_visit
from redframe.core.visits.finding import BalanceCode, Said, VisitFinding
from redframe.core.visits.next_visit import NextVisit, next_visit
from redframe.core.visits.opening import opening
from redframe.core.visits.past import Neighbour, PastVisit, VisitTrend, trends
from redframe.core.visits.pests_seen import pests_seen
from redframe.core.visits.queen import (
    Criterion,
    QueenRecord,
    laying_state,
    queen_evidence,
    queen_worth,
    solidity,
)
from redframe.core.visits.quick_acts import quick_acts
from redframe.core.visits.record import After, Before
from redframe.core.visits.spare_honey import HoneyHere, spare_honey
from redframe.core.visits.with_course import CoursesThen, with_courses

ENOUGH_NEIGHBOURS = 3
CROWDED_FROM = 0.9
"""Share of the sides under bees from which a nest is crowded."""


@dataclass(frozen=True, slots=True)
class VisitFacts:
    """What a visit is assessed by. `boxes` are those of its day, their frames `numbered_from` a side; `then` are the
    frames of the visit `compared_with`, `past` all earlier visits (newest first), `near` the apiary's other colonies;
    `left_on`: days on which bees left by a split or came by a merger; `courses` are those of the day; `disease`: what
    bears on the chance of disease there; `level` and `counted_on` of the latest count."""

    on: date
    phase: Phase
    before: Before
    after: After
    boxes: Sequence[PlacedBox]
    numbered_from: Side
    now: Sequence[SeenFrame]
    then: Sequence[SeenFrame]
    compared_with: PastVisit | None
    past: Sequence[PastVisit]
    near: Sequence[Neighbour]
    left_on: Sequence[date]
    queen_year: int | None
    open_from_c: float
    courses: CoursesThen
    winter_target_kg: float
    disease: Context
    level: Level
    counted_on: date | None


@dataclass(frozen=True, slots=True)
class Assessment:
    """What the rules say of a visit as far as it is recorded. `disease`: what the signs fit, None where none was seen;
    `not_seen`: what was looked for and not seen; `cohorts`: what became of last time's brood;
    `brood_combs`: combs with brood as far as this visit or the last knows (None: neither does)."""

    estimates: Estimates
    opening: Sequence[VisitFinding]
    findings: Sequence[VisitFinding]
    changes: Sequence[FrameChange]
    trace: Sequence[QueenTrace]
    trends: Sequence[VisitTrend]
    worth: Sequence[Criterion]
    suspicious: Sequence[str]
    suggested: NextVisit
    disease: DiseaseReading | None
    not_seen: Sequence[NotSeen]
    cohorts: Cohorts | None
    brood_combs: int | None


def framed_boxes(hive: HiveState | None) -> list[PlacedBox]:
    """The boxes of a hive that take frames, from the floor up: their place in this list is their number."""
    return [box for box in hive.boxes if box.frames] if hive is not None else []


def assess(facts: VisitFacts, without: Sequence[str] = ()) -> Assessment:
    """Assess a visit; findings `without` left out where the signs of disease are read."""
    wintering, on, after = facts.phase == "dormant", facts.on, facts.after
    framed = [box for box in facts.boxes if box.frames]
    nest = [box for box in framed if box.purpose == "brood"]
    estimates = estimate(
        facts.now,
        after,
        hanging=sum(box.frames for box in framed),
        nest_boxes=frozenset(number for number, box in enumerate(framed, start=1) if box.purpose == "brood"),
        nest_hanging=sum(box.frames for box in nest),
        air_temp_c=facts.before.air_temp_c,
        wintering=wintering,
        frame_format=nest[0].frame_format if nest else None,
    )
    suspicious = suspicious_signs(facts.now, after.examination)
    reading = _disease(facts, estimates, without)
    laying = laying_state(facts.now)
    # What lays drones in worker cells lays: that no worker brood is found says nothing more.
    settled = laying is not None and laying.level == "act"
    evidence = (
        laying
        if settled and laying is not None
        else queen_evidence(facts.now, after, on, wintering=wintering, complete=estimates.nest.through)
    )
    queen_cells = cells(facts.now, after, on, crowded=_crowded(facts.now))
    found = [evidence, *([laying] if laying is not None and not settled else []), *queen_cells]
    if suspicious:
        found.insert(0, _suspicion([signs()[sign].name for sign in suspicious]))
    if estimates.balance is not None and estimates.balance.reading not in ("steady", "one_age") and not settled:
        found.append(_balance(estimates.balance))
    swarming = any(one.code == "swarm" and one.level == "act" for one in queen_cells)
    last = facts.past[0] if facts.past else None
    since = (on - facts.compared_with.visited_on).days if facts.compared_with is not None else 0
    # A finding hangs on the visit before, not on the one that somebody chose to look at.
    usual = next((one for one in facts.past if one.frames), None)
    aged = cohorts(facts.then, facts.now, since)
    others = (
        solidity(after.pattern_empty_pct),
        stores(estimates, facts.winter_target_kg, toward_winter=facts.phase in ("decline", "pre_winter")),
        *kinds_of_stores(after.stores_are),
        combs_to_renew(facts.now, framed, facts.numbered_from),
        spare_honey(
            facts.now,
            framed,
            estimates,
            HoneyHere(bool(after.fed), bool(suspicious), facts.courses.given, facts.winter_target_kg, after.stores_are),
            numbered_from=facts.numbered_from,
            phase=facts.phase,
            on=on,
        ),
        weakness(estimates, evidence, suspicious, phase=facts.phase),
        brood_lost(aged) if facts.compared_with is usual else None,
        bees_lost(estimates, last, on, left_on=facts.left_on, swarming=swarming, phase=facts.phase),
    )
    found += [one for one in others if one is not None]
    found += pests_seen(facts.now, facts.before, after.examination)
    if reading is not None and (asked := count_needed(reading, facts.counted_on, on)) is not None:
        found.append(asked)
    stand = any(box.purpose == "super" for box in framed)
    found += quick_acts(after, evidence)
    found += with_courses(after, facts.courses, supers_stand=stand)
    return Assessment(
        estimates=estimates,
        opening=opening(facts.before, facts.open_from_c),
        findings=found,
        changes=compare(facts.then, facts.now),
        trace=queen_trace(facts.then, facts.now),
        trends=trends(estimates, facts.compared_with, facts.near),
        worth=queen_worth(_queen_record(facts, estimates), suspicious=bool(suspicious), laying=laying),
        suspicious=suspicious,
        suggested=next_visit(on, facts.phase, found, reading.recheck if reading is not None else None),
        disease=reading,
        not_seen=not_seen(after.examination),
        cohorts=aged,
        brood_combs=brood_combs(facts.now, facts.then, through=estimates.nest.through),
    )


def _disease(facts: VisitFacts, estimates: Estimates, without: Sequence[str]) -> DiseaseReading | None:
    examined = facts.after.examination
    findings = findings_of_visit(
        facts.before, facts.after, facts.now, on=facts.on, count_over=count_over(facts.level)
    )  # fmt: skip
    brood = [one.value for one in (estimates.open, estimates.capped) if one is not None]
    return read_disease(
        findings, with_examination(facts.disease, examined), on=facts.on, without=without,
        sick=sick_cells(facts.now, examined, sum(brood)),
    )  # fmt: skip


def _queen_record(facts: VisitFacts, estimates: Estimates) -> QueenRecord:
    after, past = facts.after, facts.past
    sealed = [one.capped_cells for one in facts.near if one.capped_cells is not None]
    middle = median(sealed) if len(sealed) >= ENOUGH_NEIGHBOURS else None
    before = past[0].capped_cells if past else None
    tempers = [one.temper for one in past if one.temper is not None]
    patterns = [one.pattern_empty_pct for one in past if one.pattern_empty_pct is not None]
    return QueenRecord(
        seasons=facts.on.year - facts.queen_year + 1 if facts.queen_year is not None else None,
        tempers=[*([after.temper] if after.temper else []), *tempers],
        patterns_pct=[*([after.pattern_empty_pct] if after.pattern_empty_pct is not None else []), *patterns],
        lay_share=estimates.capped.value / middle if estimates.capped is not None and middle else None,
        lay_share_before=before / middle if before is not None and middle else None,
    )


def _crowded(frames: Sequence[SeenFrame]) -> bool:
    covers = [side.bees for frame in frames for side in frame.record.sides if side.bees is not None]
    return len(covers) >= 8 and sum(covers) / (10 * len(covers)) >= CROWDED_FROM


def _suspicion(named: Sequence[str]) -> VisitFinding:
    why = (Said("can_show_foulbrood"), Said("never_ruled_out"))
    return VisitFinding("suspicious", "act", {"signs": named}, why)


BALANCE: dict[BalanceReading, BalanceCode] = {
    "steady": "balance_steady", "laying_stopped": "balance_laying_stopped", "laying_fell": "balance_laying_fell",
    "gap_earlier": "balance_gap_earlier", "expanding": "balance_expanding", "capped_short": "balance_capped_short",
    "one_age": "balance_one_age",
}  # fmt: skip


def _balance(balance: Balance) -> VisitFinding:
    a_day = {"now": balance.now, "before": balance.days_3_to_9, "long_before": balance.days_9_to_21}
    why = (Said("laid_a_day", a_day), Said("eggs_undercounted"))
    return VisitFinding(BALANCE[balance.reading], "note", because=why)
