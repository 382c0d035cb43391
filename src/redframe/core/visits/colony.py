"""The colony as a whole: its stores, its combs, whether it is weak, and signs that hold its combs back."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date

from redframe.core.disease.signs import signs
from redframe.core.season.calendar import Phase
from redframe.core.visits.estimates import Estimates, SeenFrame
from redframe.core.visits.finding import VisitFinding
from redframe.core.visits.past import PastVisit

WINTER_TARGET_KG = (12.0, 20.0)
RESERVE_KG = 5.0
"""Outside of wintering down: what a colony of any size should never fall under."""


STORES_SEEN: dict[str, str] = {
    "combs": "on all combs", "extrapolated": "from most of the combs", "hefting": "by hefting",
    "weighing": "by weighing",
}  # fmt: skip


def stores(estimates: Estimates, *, toward_winter: bool) -> VisitFinding | None:
    """Stores against the target of the season. `toward_winter`: from the harvest until the last flight.

    Where combs were left out, which may be full, nothing is short that those could make up for.
    """
    if estimates.stores_kg is None:
        return None
    kg, low, high = estimates.stores_kg.value, estimates.stores_kg.low, estimates.stores_kg.high
    seen = f"{kg:.1f} kg ({low:.1f} to {high:.1f}) {STORES_SEEN[estimates.stores_by or 'combs']}"
    wanted = WINTER_TARGET_KG[0] if toward_winter else RESERVE_KG
    if estimates.stores_by == "extrapolated" and kg < wanted <= high:
        unseen = f"{estimates.hive.unseen} of {estimates.hive.hanging} combs were not looked at"
        return VisitFinding(
            "stores_unsure",
            "watch",
            "Heft it: the combs not looked at decide whether the food is enough.",
            (seen, unseen),
        )
    if kg < 1:
        return VisitFinding("stores_nil", "act", "Hardly any food: feed today.", (seen,))
    if toward_winter and kg < WINTER_TARGET_KG[0]:
        short = WINTER_TARGET_KG[0] - kg
        return VisitFinding(
            "stores_short",
            "watch",
            f"{short:.0f} kg short of a winter's stores.",
            (seen, f"target {WINTER_TARGET_KG[0]:g} to {WINTER_TARGET_KG[1]:g} kg by region"),
        )
    if kg < RESERVE_KG:
        return VisitFinding("stores_low", "watch", "Little food for a wet week.", (seen, f"reserve {RESERVE_KG:g} kg"))
    return VisitFinding("stores_good", "note", "Stores are enough for now.", (seen,))


def combs_to_renew(frames: Sequence[SeenFrame]) -> VisitFinding | None:
    """Old, damaged or mouldy combs by their place: a fifth to a third of the brood combs is renewed each year."""
    due = [frame for frame in frames if {"old", "damaged", "mould"} & set(frame.record.comb)]
    if not due:
        return None
    places = ", ".join(f"box {frame.box} frame {frame.slot}" for frame in due)
    combs = "1 comb" if len(due) == 1 else f"{len(due)} combs"
    return VisitFinding(
        "renew_comb",
        "note",
        f"Renew {combs}: {places}. Move to the edge, take when empty of brood.",
        ("2 to 4 of 10 brood combs are renewed a year",),
    )


WEAK_FRAMES: Mapping[Phase, float] = {"build_up": 4, "peak": 6, "decline": 6, "pre_winter": 6}
"""Frames of bees (or seams, where only those are known) up to which a colony is weak for the season; in cluster none is
called weak by its frames (docs/methods/visits.md, "Weak")."""


def weakness(
    estimates: Estimates, evidence: VisitFinding, suspicious: Sequence[str], *, phase: Phase
) -> VisitFinding | None:
    """What can be done with a colony that is weak for the season; nothing is united while disease is open."""
    bees = estimates.frames_of_bees if estimates.frames_of_bees is not None else estimates.seams_of_bees
    unit = "frames of bees" if estimates.frames_of_bees is not None else "seams of bees"
    if bees is None or phase not in WEAK_FRAMES or bees > WEAK_FRAMES[phase]:
        return None
    if suspicious:
        return VisitFinding(
            "weak_suspect",
            "act",
            "Weak, with unexplained signs: examine first. Never unite a sick colony.",
            tuple(suspicious),
        )
    queen_good = evidence.code in ("eggs", "queen_seen")
    if bees < 1:
        text = "Under one frame of bees: let it go, or shake out if it is healthy."
    elif phase in ("decline", "pre_winter"):
        text = "Too small to winter alone: unite with a strong healthy colony, or winter as a nucleus in a small box."
    elif phase == "peak" and queen_good:
        text = "Weak for the season: reduce the space and find out why; look again in 14 days."
    elif queen_good and bees >= 3:
        text = "Keep: reduce the space, insulate, feed; look again in 14 days. Good if it doubles in 28 days."
    elif queen_good:
        text = "Keep as a nucleus in a small box, or unite with a strong healthy colony."
    else:
        text = (
            "Unite with a strong healthy colony through newspaper once both are examined and counted. "
            "Two weak ones do not make a strong one."
        )
    return VisitFinding("weak", "watch", text, (f"{bees:g} {unit}", evidence.text))


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
            text = (
                f"From {then:g} to {now:g} {unit} of bees in {(on - before.visited_on).days} days: find out where they "
                "went. Look for hatched queen cells, the queen, robbing and dead bees, and count mites."
            )
            return VisitFinding("bees_lost", "act", text, ("no split, merger or swarm is on record",))
    return None


def suspicious_signs(frames: Sequence[SeenFrame]) -> list[str]:
    """Ids of signs that hold combs back until they are explained, in the order of the vocabulary."""
    seen = {one.sign for frame in frames for one in frame.record.signs}
    return [sign.id for sign in signs().values() if sign.suspicious and sign.id in seen]
