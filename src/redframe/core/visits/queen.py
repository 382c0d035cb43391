"""The queen, from the ages of the brood and from how she lays; and what she is worth."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal

from redframe.core.disease.signs import signs as vocabulary
from redframe.core.said import Params
from redframe.core.visits.estimates import SeenFrame
from redframe.core.visits.finding import Said, VisitFinding
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

    def ago(days: int) -> Params:
        return {"since": on - timedelta(days=days)}

    if ages.eggs:
        why = (Said("eggs_stand_3_days"),)
        if seen:
            return VisitFinding("queen_and_eggs", "note", because=why)
        return VisitFinding("eggs", "note", ago(3), why)
    if not complete and not seen and ages.capped is not None and after.eggs_seen is None:
        return VisitFinding("no_eggs_yet", "note", {"frames": len(frames)})
    if complete and seen and not ages.open and ages.capped is not None:
        return VisitFinding("queen_no_eggs", "watch", because=(Said("not_laying"),))
    if ages.eggs is None and not seen:
        return VisitFinding("not_looked", "note")
    if seen:
        return VisitFinding("queen_seen", "note", because=(Said("seen_today"),))
    if ages.open:
        return VisitFinding("open_no_eggs", "watch", ago(3), (Said("open_brood_age"), Said("no_eggs_seen")))
    if ages.capped:
        return VisitFinding("capped_only", "act", ago(9), (Said("sealed_brood_age"), Said("no_younger_brood")))
    if ages.capped is None:
        return VisitFinding("no_eggs", "watch")
    if wintering:
        return VisitFinding("winter_pause", "note", because=(Said("season_of_place"),))
    return VisitFinding("no_brood", "act", ago(21), (Said("no_brood_of_any_age"),))


def laying_state(frames: Sequence[SeenFrame]) -> VisitFinding | None:
    """Laying workers or a queen that lays drones, from eggs and cappings in worker cells."""
    signs = {one.sign for frame in frames for one in frame.record.signs}
    many = signs & {"eggs_multiple", "eggs_walls"}
    drones = signs & {"cap_bullet", "drone_compact", "drone_scattered"}
    if not drones and not many:
        return None
    if not drones:
        return VisitFinding("eggs_multiple", "watch", because=(Said("drone_brood_would_settle"),))
    seen = Said("signs_seen", {"signs": [vocabulary()[sign].name for sign in sorted(many | drones)]})
    if many or "drone_scattered" in signs:
        return VisitFinding("laying_workers", "act", because=(seen,))
    return VisitFinding("drone_layer", "act", because=(seen,))


SOLIDITY = ((5, "very_solid"), (10, "good"), (20, "fair"), (40, "poor"), (100, "shotgun"))
"""Percent of empty or odd-stage cells inside the capped area, up to which a pattern has each name."""


def solidity(empty_pct: float | None) -> VisitFinding | None:
    """The name of a brood pattern; a well-marked emerging comb laid again looks spotty and is not."""
    if empty_pct is None:
        return None
    name = next(word for most, word in SOLIDITY if empty_pct <= most)
    why = [Said("cells_empty", {"pct": empty_pct})]
    if empty_pct > 10:
        why.append(Said("gaps_may_be_laid"))
    level: Literal["note", "watch"] = "watch" if empty_pct > 20 else "note"
    return VisitFinding("pattern", level, {"pattern": name}, why)


@dataclass(frozen=True, slots=True)
class QueenRecord:
    """What judges a queen: seasons in office, temper and pattern of the last visits (newest first), her laying against
    the apiary's median today and at the visit before."""

    seasons: int | None
    tempers: Sequence[int]
    patterns_pct: Sequence[float]
    lay_share: float | None
    lay_share_before: float | None


CriterionName = Literal["pattern", "laying", "age", "temper", "drone_brood"]


@dataclass(frozen=True, slots=True)
class Criterion:
    """One criterion of a queen: what was found, and where it puts her."""

    name: CriterionName
    found: Said
    verdict: Literal["keep", "watch", "replace"]


def queen_worth(record: QueenRecord, *, suspicious: bool, laying: VisitFinding | None) -> list[Criterion]:
    """Keep, watch or replace by each criterion of which something is known. One bad visit is "watch"."""
    said: list[Criterion] = []
    if record.patterns_pct:
        worst = record.patterns_pct[0]
        twice = len(record.patterns_pct) > 1 and min(record.patterns_pct[:2]) > 20 and not suspicious
        verdict: Literal["keep", "watch", "replace"] = "replace" if twice else "watch" if worst > 10 else "keep"
        said.append(Criterion("pattern", Said("empty_cells", {"pct": worst}), verdict))
    if record.lay_share is not None:
        low_twice = record.lay_share < 0.6 and record.lay_share_before is not None and record.lay_share_before < 0.6
        verdict = "replace" if low_twice else "watch" if record.lay_share < 0.8 else "keep"
        said.append(Criterion("laying", Said("share_of_median", {"share": record.lay_share}), verdict))
    if record.seasons is not None:
        verdict = "keep" if record.seasons <= 2 else "watch" if record.seasons == 3 else "replace"
        said.append(Criterion("age", Said("season_in_office", {"season": record.seasons}), verdict))
    if record.tempers:
        last = record.tempers[:3]
        mean = sum(last) / len(last)
        twice = len(last) > 1 and max(last[:2]) <= 4
        verdict = "replace" if twice else "watch" if mean < 7 else "keep"
        said.append(Criterion("temper", Said("mean_temper", {"mean": mean, "visits": len(last)}), verdict))
    if laying is not None and laying.code in ("drone_layer", "laying_workers"):
        said.append(Criterion("drone_brood", Said(laying.code), "replace"))
    return said
