"""The queen, from the ages of the brood and from how she lays; and what she is worth."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal

from redframe.core.visits.estimates import SeenFrame
from redframe.core.visits.finding import VisitFinding
from redframe.core.visits.record import After


@dataclass(frozen=True, slots=True)
class BroodAges:
    """Which ages of brood were seen, over all frames that were looked at; None where nobody looked."""

    eggs: bool | None
    open: bool | None
    capped: bool | None


def brood_ages(frames: Sequence[SeenFrame], after: After) -> BroodAges:
    """Ages of brood from the sides recorded and from the answers for the colony as a whole: seen anywhere is seen."""
    sides = [side for frame in frames for side in frame.record.sides]

    def seen(on_sides: bool, answered: bool | None) -> bool | None:
        if not sides:
            return answered
        return on_sides or bool(answered)

    return BroodAges(
        eggs=seen(any(side.has_eggs for side in sides), after.eggs_seen),
        open=seen(any(side.open for side in sides), after.open_brood),
        capped=seen(any(side.capped for side in sides), after.capped_brood),
    )


def queen_evidence(
    frames: Sequence[SeenFrame], after: After, on: date, *, wintering: bool, complete: bool
) -> VisitFinding:
    """What the youngest brood says of the queen, and since when.

    `complete` says that the brood nest was looked through: before that, what was not found may hang further on.
    """
    ages = brood_ages(frames, after)
    seen = after.queen == "seen" or any(frame.record.queen for frame in frames)

    def ago(days: int) -> str:
        return (on - timedelta(days=days)).isoformat()

    if ages.eggs:
        also = "The queen was seen, and eggs." if seen else f"A queen was here within 3 days, since {ago(3)}."
        return VisitFinding("eggs", "note", also, ("eggs stand for 3 days",))
    if not complete and not seen and ages.capped is not None and after.eggs_seen is None:
        return VisitFinding("no_eggs_yet", "note", f"No eggs on the {len(frames)} frames looked at so far.", ())
    if complete and seen and not ages.open and ages.capped is not None:
        return VisitFinding(
            "queen_no_eggs",
            "watch",
            "The queen was seen, but no eggs and no open brood.",
            ("she does not lay, or has not begun",),
        )
    if ages.eggs is None and not seen:
        return VisitFinding("not_looked", "note", "Nothing says whether she lays: eggs were not looked for.")
    if seen:
        return VisitFinding("queen_seen", "note", "The queen was seen.", ("seen today",))
    if ages.open:
        return VisitFinding(
            "open_no_eggs",
            "watch",
            f"No laying for at least 3 days, since {ago(3)} or before.",
            ("open brood is 3 to 9 days from the egg", "no eggs seen"),
        )
    if ages.capped:
        return VisitFinding(
            "capped_only",
            "act",
            f"No laying for at least 9 days, since {ago(9)} or before.",
            ("worker brood is sealed 9 to 21 days from the egg", "no eggs, no open brood"),
        )
    if ages.capped is None:
        return VisitFinding("no_eggs", "watch", "No eggs seen; the brood's ages were not recorded.", ())
    if wintering:
        return VisitFinding("winter_pause", "note", "No brood: usual in the winter pause.", ("season of the place",))
    return VisitFinding(
        "no_brood", "act", f"No laying for 21 days or more, since {ago(21)} or before.", ("no worker brood of any age",)
    )


def laying_state(frames: Sequence[SeenFrame]) -> VisitFinding | None:
    """Laying workers or a queen that lays drones, from eggs and cappings in worker cells."""
    signs = {one.sign for frame in frames for one in frame.record.signs}
    many = signs & {"eggs_multiple", "eggs_walls"}
    drones = signs & {"cap_bullet", "drone_compact", "drone_scattered"}
    if not drones and not many:
        return None
    if not drones:
        return VisitFinding(
            "eggs_multiple",
            "watch",
            "Several eggs in cells: a queen in her first week, or laying workers.",
            ("look again in 7 days: drone brood in worker cells would settle it",),
        )
    if many or "drone_scattered" in signs:
        return VisitFinding(
            "laying_workers",
            "act",
            "Laying workers are likely: never simply introduce a queen.",
            tuple(sorted(many | drones)),
        )
    return VisitFinding("drone_layer", "act", "A queen that lays drones only is likely.", tuple(sorted(drones)))


SOLIDITY = ((5, "very solid"), (10, "good"), (20, "fair"), (40, "poor"), (100, "shotgun"))
"""Percent of empty or odd-stage cells inside the capped area, up to which a pattern has each name."""


def solidity(empty_pct: float | None) -> VisitFinding | None:
    """The name of a brood pattern; a well-marked emerging comb laid again looks spotty and is not."""
    if empty_pct is None:
        return None
    name = next(word for most, word in SOLIDITY if empty_pct <= most)
    why = [f"{empty_pct:g} % of the cells in the capped area empty or of another age"]
    if empty_pct > 10:
        why.append("look whether the gaps hold eggs and larvae: an emerging comb laid again is no fault")
    level: Literal["note", "watch"] = "watch" if empty_pct > 20 else "note"
    return VisitFinding("pattern", level, f"The pattern is {name}.", tuple(why))


@dataclass(frozen=True, slots=True)
class QueenRecord:
    """What judges a queen: seasons in office, temper and pattern of the last visits (newest first), her laying against
    the apiary's median today and at the visit before."""

    seasons: int | None
    tempers: Sequence[int]
    patterns_pct: Sequence[float]
    lay_share: float | None
    lay_share_before: float | None


@dataclass(frozen=True, slots=True)
class Criterion:
    """One criterion of a queen: what was found, and where it puts her."""

    name: str
    found: str
    verdict: Literal["keep", "watch", "replace"]


def queen_worth(record: QueenRecord, *, suspicious: bool, laying: VisitFinding | None) -> list[Criterion]:
    """Keep, watch or replace by each criterion of which something is known. One bad visit is "watch"."""
    said: list[Criterion] = []
    if record.patterns_pct:
        worst = record.patterns_pct[0]
        twice = len(record.patterns_pct) > 1 and min(record.patterns_pct[:2]) > 20 and not suspicious
        verdict: Literal["keep", "watch", "replace"] = "replace" if twice else "watch" if worst > 10 else "keep"
        said.append(Criterion("pattern", f"{worst:g} % empty cells", verdict))
    if record.lay_share is not None:
        low_twice = record.lay_share < 0.6 and record.lay_share_before is not None and record.lay_share_before < 0.6
        verdict = "replace" if low_twice else "watch" if record.lay_share < 0.8 else "keep"
        said.append(Criterion("laying", f"{record.lay_share:.0%} of the apiary's median", verdict))
    if record.seasons is not None:
        verdict = "keep" if record.seasons <= 2 else "watch" if record.seasons == 3 else "replace"
        said.append(Criterion("age", f"season {record.seasons}", verdict))
    if record.tempers:
        last = record.tempers[:3]
        mean = sum(last) / len(last)
        twice = len(last) > 1 and max(last[:2]) <= 4
        verdict = "replace" if twice else "watch" if mean < 7 else "keep"
        said.append(Criterion("temper", f"mean {mean:.1f} of {len(last)}", verdict))
    if laying is not None and laying.code in ("drone_layer", "laying_workers"):
        said.append(Criterion("drone brood in worker cells", laying.text, "replace"))
    return said
