"""The colony as a whole: its stores, its combs, whether it is weak, and signs that hold its combs back."""

from __future__ import annotations

from collections.abc import Sequence

from redframe.core.disease.signs import signs
from redframe.core.visits.estimates import Estimates, SeenFrame
from redframe.core.visits.finding import Finding

WINTER_TARGET_KG = (12.0, 20.0)
RESERVE_KG = 5.0
"""Outside of wintering down: what a colony of any size should never fall under."""


def stores(told: Estimates, *, toward_winter: bool, complete: bool) -> Finding | None:
    """Stores against the target of the season. `toward_winter`: from the harvest until the last flight.

    Stores told from frames count once the hive is looked through (`complete`).
    """
    if told.stores_kg is None or (told.stores_by == "frames" and not complete):
        return None
    kg, low, high = told.stores_kg.value, told.stores_kg.low, told.stores_kg.high
    seen = f"{kg:.1f} kg ({low:.1f} to {high:.1f}) by {told.stores_by}"
    if kg < 1:
        return Finding("stores_nil", "act", "Hardly any food: feed today.", (seen,))
    if toward_winter and kg < WINTER_TARGET_KG[0]:
        short = WINTER_TARGET_KG[0] - kg
        return Finding("stores_short", "watch", f"{short:.0f} kg short of a winter's stores.",
                       (seen, f"target {WINTER_TARGET_KG[0]:g} to {WINTER_TARGET_KG[1]:g} kg by region"))  # fmt: skip
    if kg < RESERVE_KG:
        return Finding("stores_low", "watch", "Little food for a wet week.", (seen, f"reserve {RESERVE_KG:g} kg"))
    return Finding("stores_good", "note", "Stores are enough for now.", (seen,))


def combs_to_renew(frames: Sequence[SeenFrame]) -> Finding | None:
    """Old, damaged or mouldy combs by their place: a fifth to a third of the brood combs is renewed each year."""
    due = [frame for frame in frames if {"old", "damaged", "mould"} & set(frame.record.comb)]
    if not due:
        return None
    places = ", ".join(f"box {frame.box} frame {frame.slot}" for frame in due)
    combs = "1 comb" if len(due) == 1 else f"{len(due)} combs"
    return Finding("renew_comb", "note", f"Renew {combs}: {places}. Move to the edge, take when empty of brood.",
                   ("2 to 4 of 10 brood combs are renewed a year",))  # fmt: skip


def weakness(told: Estimates, evidence: Finding, suspicious: Sequence[str], *, spring: bool) -> Finding | None:
    """What can be done with a colony on four frames of bees or fewer; nothing is united while disease is open."""
    bees = told.frames_of_bees
    if bees is None or bees > 4 or not spring:
        return None
    if suspicious:
        return Finding("weak_suspect", "act", "Weak, with unexplained signs: examine first. Never unite a sick colony.",
                       tuple(suspicious))  # fmt: skip
    queen_good = evidence.code in ("eggs", "queen_seen")
    if bees < 1:
        text = "Under one frame of bees: let it go, or shake out if it is healthy."
    elif queen_good and bees >= 3:
        text = "Keep: reduce the space, insulate, feed; look again in 14 days. Good if it doubles in 28 days."
    elif queen_good:
        text = "Keep as a nucleus in a small box, or unite with a strong healthy colony."
    else:
        text = (
            "Unite with a strong healthy colony through newspaper once both are examined and counted. "
            "Two weak ones do not make a strong one."
        )
    return Finding("weak", "watch", text, (f"{bees:g} frames of bees", evidence.text))


def suspicious_signs(frames: Sequence[SeenFrame]) -> list[str]:
    """Ids of signs that hold combs back until they are explained, in the order of the vocabulary."""
    seen = {one.sign for frame in frames for one in frame.record.signs}
    return [sign.id for sign in signs().values() if sign.suspicious and sign.id in seen]
