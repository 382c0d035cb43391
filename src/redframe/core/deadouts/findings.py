"""The findings of a dead colony from the steps that were recorded: each sign once, over all combs."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.deadouts.record import (
    COMB_SIGNS,
    READ_WITH_COMB,
    CombLooked,
    DeadSeen,
    DeadStepRecord,
    Grade,
    StoresPlace,
)
from redframe.core.deadouts.signs import DeadStep, dead_signs, read_dead
from redframe.core.deadouts.timeline import Bound, BroodLeft, cocoons, softness
from redframe.core.disease.findings import Findings, SignSeen, Value

Steps = Mapping[DeadStep, DeadStepRecord]
Comb = tuple[UUID, int]
FEW_BEES_WASHED = 100
FEW_BEES_LEFT = 500
"""With fewer left nobody can say that the queen is not among them."""
PLACES: Mapping[StoresPlace, str] = {"none": "d_stores_none", "far": "d_stores_far", "touching": "d_stores_contact"}
NUMBER_OF: Mapping[Grade, float] = {"absent": 0.0, "few": 1.0, "some": 30.0, "many": 150.0}
GRADES: tuple[Grade, ...] = ("absent", "few", "some", "many")


@dataclass(frozen=True, slots=True)
class CombsRead:
    """How many of the combs that hung were read in side light, and whether that was all."""

    read: int
    of: int

    @property
    def is_all(self) -> bool:
        """Whether no comb was left out."""
        return self.of > 0 and self.read >= self.of


def combs_read(steps: Steps, hanging: Collection[Comb]) -> CombsRead:
    """The combs that were read, of those that hung when it was opened."""
    read = {(one.box_id, one.slot) for one in _combs(steps)}
    return CombsRead(len(read & set(hanging)), len(hanging))


def _combs(steps: Steps) -> list[CombLooked]:
    return steps["combs"].combs if "combs" in steps else []


def findings_of(steps: Steps, hanging: Collection[Comb], record: Mapping[str, bool]) -> Findings:
    """What was examined, by the rows of the matrix. `record`: what the colony's record fills of the record items, where
    nobody said otherwise at its step."""
    seen: dict[str, SignSeen] = {
        sign: SignSeen(sign, True, "some" if there else "absent") for sign, there in record.items()
    }
    for step in steps.values():
        for one in step.signs:
            seen[one.sign] = SignSeen(one.sign, True, one.value, one.effort)
    for found in (*_of_combs(steps, hanging), *_of_stores(steps), *_of_wash(steps)):
        seen[found.sign] = found
    left = steps["queen"].bees_left if "queen" in steps else None
    if left is not None and left < FEW_BEES_LEFT:
        seen.pop("d_queen_absent", None)
    return read_dead(list(seen.values()))


def _of_combs(steps: Steps, hanging: Collection[Comb]) -> list[SignSeen]:
    """Signs of combs: present where one comb shows it, its cells added up; absent where every comb was read."""
    combs = _combs(steps)
    if not combs:
        return []
    everywhere = combs_read(steps, hanging).is_all
    found = []
    for sign in sorted(COMB_SIGNS):
        shown = [one for comb in combs for one in comb.signs if one.sign == sign and one.is_there]
        if shown:
            found.append(SignSeen(sign, True, _together(sign, shown)))
        elif sign in READ_WITH_COMB:
            found.append(SignSeen(sign, True, "absent", "standard" if everywhere else "glance"))
    return found


def _together(sign: str, shown: list[DeadSeen]) -> Value:
    """Cells are added up; of grades the greatest stands."""
    if dead_signs()[sign].scale == "cells":
        return sum(one.value if isinstance(one.value, float) else NUMBER_OF[one.value] for one in shown)
    words = [one.value for one in shown if isinstance(one.value, str)]
    if words:
        return max(words, key=GRADES.index)
    return max(one.value for one in shown if isinstance(one.value, float))


def _of_stores(steps: Steps) -> list[SignSeen]:
    place = steps["stores"].stores_place if "stores" in steps else None
    if place is None:
        return []
    return [SignSeen(sign, True, "some" if one == place else "absent") for one, sign in PLACES.items()]


def _of_wash(steps: Steps) -> list[SignSeen]:
    wash = steps.get("wash")
    if wash is None or not wash.wash_bees or wash.wash_mites is None:
        return []
    rate = 100 * wash.wash_mites / wash.wash_bees
    return [SignSeen("d_wash_high", True, rate, "glance" if wash.wash_bees < FEW_BEES_WASHED else "standard")]


def bounds_of(steps: Steps, examined_on: date) -> list[Bound]:
    """The days that the walk itself tells of the end."""
    found = []
    for one in steps.values():
        if one.no_flight_since is not None:
            found.append(Bound("no_flight", one.no_flight_since))
        if one.robbing_seen_on is not None:
            found.append(Bound("robbing_seen", one.robbing_seen_on))
        if one.bees_look is not None:
            found.append(softness(one.bees_look, examined_on))
        if one.cocoons:
            found.append(cocoons(examined_on))
        if one.alive_on is not None:
            found.append(Bound("noted_alive", one.alive_on))
        if one.sensor_warm_on is not None:
            found.append(Bound("sensor_warm", one.sensor_warm_on))
        if one.sensor_cold_on is not None:
            found.append(Bound("sensor_cold", one.sensor_cold_on))
    return found


def brood_left(steps: Steps) -> BroodLeft:
    """What brood was found."""
    brood = steps.get("brood", DeadStepRecord())
    laid = any(one.sign == "d_eggs_multiple" and one.is_there for one in brood.signs)
    return BroodLeft(brood.youngest, brood.drone_brood, laid, brood.queen_cells)
