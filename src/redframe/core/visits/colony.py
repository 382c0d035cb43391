"""The colony as a whole: its stores, its combs, whether it is weak, and signs that hold its combs back."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date

from redframe.core.colonies.hive_state import PlacedBox, Side, frame_number
from redframe.core.disease.findings import SHORT_MM
from redframe.core.disease.signs import signs
from redframe.core.feeding.stores import winter_target
from redframe.core.said import Params
from redframe.core.season.calendar import Phase
from redframe.core.visits.estimates import Estimates, SeenFrame
from redframe.core.visits.examination import Examination
from redframe.core.visits.finding import FindingCode, Level, Said, VisitFinding, WeakCode
from redframe.core.visits.past import PastVisit
from redframe.core.visits.record import StoresKind

RESERVE_KG = 5.0
"""Outside of wintering down: what a colony of any size should never fall under."""
LEAST_OF_TARGET = 0.6
"""Below this share of what it is to winter on, a colony is watched and not only noted."""
STORES_KINDS: Mapping[StoresKind, FindingCode] = {
    "fermenting": "stores_fermenting", "set_hard": "stores_set_hard", "syrup": "stores_syrup",
}  # fmt: skip
STORES_LEVELS: Mapping[StoresKind, Level] = {"fermenting": "act", "set_hard": "watch", "syrup": "note"}


def stores(estimates: Estimates, target_kg: float, *, toward_winter: bool) -> VisitFinding | None:
    """Stores against the target of the season. `toward_winter`: from the harvest until the last flight, when
    `target_kg` is wanted (of a small colony as much as a nucleus winters on).

    Where combs were left out, which may be full, nothing is short that those could make up for.
    """
    if estimates.stores_kg is None:
        return None
    kg, low, high = estimates.stores_kg.value, estimates.stores_kg.low, estimates.stores_kg.high
    seen = Said("stores_seen", {"kg": kg, "low": low, "high": high, "by": estimates.stores_by or "combs"})
    target = winter_target(target_kg, estimates.frames_of_bees)
    wanted = target if toward_winter else RESERVE_KG
    if estimates.stores_by == "extrapolated" and kg < wanted <= high:
        unseen = Said("combs_unseen", {"unseen": estimates.hive.unseen, "hanging": estimates.hive.hanging})
        return VisitFinding("stores_unsure", "watch", because=(seen, unseen))
    if kg < 1:
        return VisitFinding("stores_nil", "act", because=(seen,))
    if toward_winter and kg < target:
        level: Level = "watch" if kg < LEAST_OF_TARGET * target else "note"
        wants = Said("winter_target", {"kg": target})
        return VisitFinding("stores_short", level, {"short": target - kg}, (seen, wants))
    if kg < RESERVE_KG:
        return VisitFinding("stores_low", "watch", because=(seen, Said("reserve", {"kg": RESERVE_KG})))
    return VisitFinding("stores_good", "note", because=(seen,))


def kinds_of_stores(kinds: Sequence[StoresKind]) -> list[VisitFinding]:
    """What follows from what a part of the stores is, the most pressing first."""
    return [VisitFinding(code, STORES_LEVELS[kind]) for kind, code in STORES_KINDS.items() if kind in kinds]


def combs_to_renew(frames: Sequence[SeenFrame], boxes: Sequence[PlacedBox], numbered_from: Side) -> VisitFinding | None:
    """Old, damaged or mouldy combs by their place: a fifth to a third of the brood combs is renewed each year.

    `boxes` are those that take frames, from the floor up; frames are called by the numbers of their hive.
    """
    due = [frame for frame in frames if {"old", "damaged", "mould"} & set(frame.record.comb)]
    if not due:
        return None
    hung = {number: box.frames for number, box in enumerate(boxes, start=1)}
    places = [
        f"{frame.box}/{frame_number(frame.slot, hung[frame.box], numbered_from) if frame.box in hung else frame.slot}"
        for frame in due
    ]
    return VisitFinding("renew_comb", "note", {"combs": len(due), "places": places}, (Said("renewed_a_year"),))


WEAK_FRAMES: Mapping[Phase, float] = {"build_up": 4, "peak": 6, "decline": 6, "pre_winter": 6}
"""Frames of bees (or seams, where only those are known) up to which a colony is weak for the season; in cluster none is
called weak by its frames (docs/methods/visits.md, "Weak")."""


def weakness(
    estimates: Estimates, evidence: VisitFinding, suspicious: Sequence[str], *, phase: Phase
) -> VisitFinding | None:
    """What can be done with a colony that is weak for the season; nothing is united while disease is open."""
    bees = estimates.frames_of_bees if estimates.frames_of_bees is not None else estimates.seams_of_bees
    unit = "frames" if estimates.frames_of_bees is not None else "seams"
    if bees is None or phase not in WEAK_FRAMES or bees > WEAK_FRAMES[phase]:
        return None
    if suspicious:
        named = Said("signs_seen", {"signs": [signs()[sign].name for sign in suspicious]})
        return VisitFinding("weak_suspect", "act", because=(named,))
    queen_good = evidence.code in ("eggs", "queen_and_eggs", "queen_seen")
    code: WeakCode
    if bees < 1:
        code = "weak_dying"
    elif phase in ("decline", "pre_winter"):
        code = "weak_before_winter"
    elif phase == "peak" and queen_good:
        code = "weak_at_peak"
    elif queen_good and bees >= 3:
        code = "weak_keep"
    elif queen_good:
        code = "weak_nucleus"
    else:
        code = "weak_unite"
    why = (Said("bees", {"bees": bees, "unit": unit}), Said(evidence.code, evidence.params))
    return VisitFinding(code, "watch", because=why)


LOST_SHARE, LOST_LEAST, LOST_WITHIN_DAYS = 0.5, 4.0, 42


def bees_lost(
    estimates: Estimates, before: PastVisit | None, on: date, *, left_on: Sequence[date], swarming: bool, phase: Phase
) -> VisitFinding | None:
    """Half of the bees or more gone within six weeks, at least four frames, with nothing on record that explains it:
    no split or merger (`left_on`) and no cells that speak of a swarm (`swarming`). None in cluster."""
    if before is None or phase == "dormant" or swarming or (on - before.visited_on).days > LOST_WITHIN_DAYS:
        return None
    if any(before.visited_on <= day <= on for day in left_on):
        return None
    for unit, now, then in (
        ("frames", estimates.frames_of_bees, before.frames_of_bees),
        ("seams", estimates.seams_of_bees, before.seams_of_bees),
    ):
        if now is not None and then is not None and then - now >= LOST_LEAST and now <= (1 - LOST_SHARE) * then:
            lost: Params = {"then": then, "now": now, "unit": unit, "days": (on - before.visited_on).days}
            return VisitFinding("bees_lost", "act", lost, (Said("nothing_on_record"), Said("causes_of_loss")))
    return None


def suspicious_signs(frames: Sequence[SeenFrame], examined: Examination | None) -> list[str]:
    """Ids of signs that hold combs back until they are explained, in the order of the vocabulary."""
    seen = {one.sign for frame in frames for one in frame.record.signs}
    if examined is not None:
        seen |= {one.sign for one in examined.signs if one.seen == "seen"}
        if (examined.thread_mm or 0) >= SHORT_MM:
            seen.add("ropy_thread")
        seen |= {f"lfd_{one.tests_for}_pos" for one in examined.kits if one.result == "positive"}
    return [sign.id for sign in signs().values() if sign.suspicious and sign.id in seen]
