"""Ripe honey above the reserve, comb by comb: which combs may be taken, and what bars it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from redframe.core.colonies.hive_state import PlacedBox, Side, frame_number
from redframe.core.season.calendar import Phase
from redframe.core.visits.capacity import capacity
from redframe.core.visits.colony import RESERVE_KG
from redframe.core.visits.estimates import Estimates, SeenFrame
from redframe.core.visits.finding import Said, VisitFinding
from redframe.core.visits.place import CourseThen
from redframe.core.visits.record import StoresKind

RIPE_FROM = 16
"""Tenths of both sides, of 20, under capped honey: four fifths, from which honey is taken as ripe."""
TAKEN_IN: frozenset[Phase] = frozenset({"build_up", "peak", "decline"})
"""Later what is in the combs may be what was fed."""


@dataclass(frozen=True, slots=True)
class HoneyHere:
    """What bears on taking honey: whether feed is in the hive or a suspicion stands, the courses of the day, the stores
    that a colony is to winter on, and what part of the stores is."""

    fed: bool
    suspicious: bool
    courses: Sequence[CourseThen]
    winter_target_kg: float
    stores_are: Sequence[StoresKind] = ()


def spare_honey(
    frames: Sequence[SeenFrame], boxes: Sequence[PlacedBox], estimates: Estimates, here: HoneyHere, *,
    numbered_from: Side, phase: Phase, on: date,
) -> VisitFinding | None:  # fmt: skip
    """The ripe combs without brood that may be taken so that the reserve stays even if the stores are at the low end of
    what was seen: supers from the top down, then the fullest. `boxes` are those that take frames, from the floor up.

    From the harvest on the reserve is what a colony is to winter on; before, what none should fall under.
    """
    stores = estimates.stores_kg
    if stores is None or phase not in TAKEN_IN or here.fed or here.suspicious or "fermenting" in here.stores_are:
        return None
    toward_winter = phase == "decline"
    reserve = here.winter_target_kg if toward_winter else RESERVE_KG
    is_super = {number: box.purpose == "super" for number, box in enumerate(boxes, start=1)}

    def foremost(one: SeenFrame) -> tuple[bool, int, float, int]:
        return not is_super.get(one.box, False), -one.box, -_kg(one), one.slot

    ripe = sorted(filter(_is_ripe, frames), key=foremost)
    taken: list[SeenFrame] = []
    left = stores.low
    for one in ripe:
        if left - _kg(one) >= reserve:
            taken.append(one)
            left -= _kg(one)
    if not taken:
        return None
    hung = {number: box.frames for number, box in enumerate(boxes, start=1)}
    places = [
        f"{one.box}/{frame_number(one.slot, hung[one.box], numbered_from) if one.box in hung else one.slot}"
        for one in sorted(taken, key=lambda one: (one.box, one.slot))
    ]
    why = Said("kept_for_winter" if toward_winter else "reserve", {"kg": reserve})
    said = {"kg": sum(map(_kg, taken)), "combs": len(taken), "places": places}
    barred = Said("syrup_in_combs") if "syrup" in here.stores_are else _barred(here.courses, on)
    if barred is not None:
        return VisitFinding("spare_honey_not_clear", "watch", said, (why, barred))
    return VisitFinding("spare_honey", "note", said, (why,))


def _is_ripe(frame: SeenFrame) -> bool:
    record = frame.record
    both = record.a is not None and record.b is not None
    return both and record.tenths_of_brood == 0 and sum(side.honey for side in record.sides) >= RIPE_FROM


def _kg(frame: SeenFrame) -> float:
    return sum(side.honey for side in frame.record.sides) / 20 * capacity(frame.frame_format).honey_kg


def _barred(courses: Sequence[CourseThen], on: date) -> Said | None:
    # What bears supers from first to last has nothing in the hive that honey must be clear of.
    barring = [one for one in courses if one.supers != "yes"]
    for one in barring:
        if one.ended_on is None:
            return Said("not_clear_before_out", {"option": one.name})
    later = [one for one in barring if one.honey_clear_on is not None and one.honey_clear_on > on]
    if not later:
        return None
    last = max(later, key=lambda one: one.honey_clear_on or on)
    assert last.honey_clear_on is not None
    return Said("not_clear_until", {"option": last.name, "until": last.honey_clear_on})
