"""What would have been seen coming: the colony's own record read back, never blame.

What stands in the record and what is missing, each item with how strongly it speaks; and the record items of the matrix
that follow. See docs/methods/dead-outs.md.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Literal

from redframe.core.said import Params, nothing
from redframe.core.sampling.method import Scale
from redframe.core.status.status import Level
from redframe.core.treatments.states import CourseOutcome

Strength = Literal["clear", "likely", "possible"]
ReadBackCode = Literal[
    "mites_over", "treated_late", "not_treated", "not_verified", "failed_treatment", "food_short", "small_in_autumn",
    "crashed_in_autumn", "queen_trouble", "queen_old", "long_unvisited", "neighbours_too", "spray_reported",
    "foulbrood_contact",
]  # fmt: skip
MissingCode = Literal["no_count", "no_treatment", "no_stores", "no_size", "no_eggs_looked", "no_visit"]

MOST_SHOWN = 3
STRENGTHS: tuple[Strength, ...] = ("clear", "likely", "possible")
SMALL_FRAMES = 5.0
"""Fewer frames of bees going into winter are few."""
HALF = 0.5
LONG_DAYS = 90
QUEEN_YEARS = 3
OVER: frozenset[Level] = frozenset({"act", "urgent"})


@dataclass(frozen=True, slots=True)
class CountOnRecord:
    """The last count before the end: mites per 100 bees or a day (`rate`), the level that held then, and what it was
    at."""

    on: date
    rate: float
    scale: Scale
    act_at: float | None
    level: Level


@dataclass(frozen=True, slots=True)
class TreatmentOnRecord:
    """The course meant for the winter bees: its option by name, when the last dose was in (None: it was
    not carried out), and what its verification said."""

    option: str
    ended_on: date | None
    verified: CourseOutcome | None


@dataclass(frozen=True, slots=True)
class DeadRecord:
    """What the record of a colony holds of its last year. `winter_bees`: the day on which they are begun at its place;
    `neighbours_lost` of `neighbours` at its apiary in the same winter. None: nothing is on record."""

    died_by: date
    winter_bees: date | None
    count: CountOnRecord | None
    treatment: TreatmentOnRecord | None
    stores_kg: float | None
    stores_on: date | None
    stores_target_kg: float
    frames_summer: float | None
    frames_autumn: float | None
    frames_on: date | None
    queen_year: int | None
    queen_signs: Sequence[str]
    eggs_looked_on: date | None
    last_visit_on: date | None
    neighbours: int
    neighbours_lost: int
    spray_on: date | None
    foul_contact: bool


@dataclass(frozen=True, slots=True)
class ReadBackItem:
    """An item of the record that speaks, how strongly."""

    code: ReadBackCode
    strength: Strength
    params: Params = field(default_factory=nothing)


@dataclass(frozen=True, slots=True)
class ReadBack:
    """The items that speak most (`items`, three at the most), what is missing from the record, and the record items of
    the matrix that the record fills: seen (True) or not (False); what it says nothing of is left out."""

    items: Sequence[ReadBackItem]
    missing: Sequence[MissingCode]
    signs: dict[str, bool]

    @property
    def was_avoidable(self) -> bool:
        """Whether the record shows clearly or likely what a timely act would have met."""
        return any(one.strength != "possible" and one.code not in NOT_AN_ACT for one in self.items)


NOT_AN_ACT: frozenset[ReadBackCode] = frozenset({"neighbours_too", "spray_reported", "foulbrood_contact", "queen_old"})
"""Items that no act of the keeper at this colony would have met."""


def read_back(record: DeadRecord) -> ReadBack:
    """Read a colony's record back."""
    found = [*_mites(record), *_food_and_size(record), *_queen_and_visits(record), *_around(record)]
    ordered = sorted(found, key=lambda one: STRENGTHS.index(one.strength))
    return ReadBack(ordered[:MOST_SHOWN], list(_missing(record)), _signs(record))


def _treated_late(record: DeadRecord) -> bool:
    course, begun = record.treatment, record.winter_bees
    return course is not None and course.ended_on is not None and begun is not None and course.ended_on > begun


def _mites(record: DeadRecord) -> Iterator[ReadBackItem]:
    count, course = record.count, record.treatment
    over = count is not None and count.level in OVER
    if count is not None and over:
        answered = course is not None and course.ended_on is not None and course.ended_on >= count.on
        strength: Strength = "likely" if answered else "clear"
        yield ReadBackItem(
            "mites_over",
            strength,
            {"rate": count.rate, "scale": count.scale, "on": count.on, "level": count.act_at or 0.0},
        )
    if course is None or course.ended_on is None:
        if over:
            yield ReadBackItem("not_treated", "clear")
        return
    if _treated_late(record) and record.winter_bees is not None:
        yield ReadBackItem("treated_late", "likely", {"on": course.ended_on, "winter_bees": record.winter_bees})
    if course.verified in ("failed", "partly"):
        strength = "clear" if course.verified == "failed" else "likely"
        yield ReadBackItem("failed_treatment", strength, {"option": course.option})
    elif course.verified is None:
        yield ReadBackItem("not_verified", "possible", {"option": course.option})


def _food_and_size(record: DeadRecord) -> Iterator[ReadBackItem]:
    if record.stores_kg is not None and record.stores_on is not None and record.stores_kg < record.stores_target_kg:
        short = record.stores_kg < HALF * record.stores_target_kg
        params: Params = {"kg": record.stores_kg, "target": record.stores_target_kg, "on": record.stores_on}
        yield ReadBackItem("food_short", "clear" if short else "likely", params)
    if record.frames_autumn is None or record.frames_on is None:
        return
    if _crashed(record) and record.frames_summer is not None:
        yield ReadBackItem(
            "crashed_in_autumn", "clear", {"before": record.frames_summer, "after": record.frames_autumn}
        )
    if record.frames_autumn < SMALL_FRAMES:
        yield ReadBackItem("small_in_autumn", "likely", {"frames": record.frames_autumn, "on": record.frames_on})


def _crashed(record: DeadRecord) -> bool:
    before, after = record.frames_summer, record.frames_autumn
    return before is not None and after is not None and before >= SMALL_FRAMES and after <= HALF * before


def _queen_and_visits(record: DeadRecord) -> Iterator[ReadBackItem]:
    if record.queen_signs:
        yield ReadBackItem("queen_trouble", "likely", {"signs": list(record.queen_signs)})
    if record.queen_year is not None and record.died_by.year - record.queen_year >= QUEEN_YEARS:
        yield ReadBackItem("queen_old", "possible", {"year": str(record.queen_year)})
    if record.last_visit_on is not None and (record.died_by - record.last_visit_on).days > LONG_DAYS:
        days = float((record.died_by - record.last_visit_on).days)
        yield ReadBackItem("long_unvisited", "possible", {"days": days, "on": record.last_visit_on})


def _around(record: DeadRecord) -> Iterator[ReadBackItem]:
    if record.foul_contact:
        yield ReadBackItem("foulbrood_contact", "clear")
    if record.spray_on is not None:
        yield ReadBackItem("spray_reported", "likely", {"on": record.spray_on})
    if record.neighbours_lost:
        share = record.neighbours_lost / max(1, record.neighbours)
        params: Params = {"lost": float(record.neighbours_lost), "of": float(record.neighbours)}
        yield ReadBackItem("neighbours_too", "likely" if share >= HALF else "possible", params)


def _missing(record: DeadRecord) -> Iterator[MissingCode]:
    if record.last_visit_on is None:
        yield "no_visit"
    if record.count is None:
        yield "no_count"
    if record.treatment is None:
        yield "no_treatment"
    if record.stores_kg is None:
        yield "no_stores"
    if record.frames_autumn is None:
        yield "no_size"
    if record.eggs_looked_on is None:
        yield "no_eggs_looked"


def _signs(record: DeadRecord) -> dict[str, bool]:
    found = {}
    if record.count is not None or _treated_late(record):
        found["r_mites_high_or_late"] = _treated_late(record) or (
            record.count is not None and record.count.level in OVER
        )
    if record.frames_autumn is not None:
        found["r_small_going_in"] = record.frames_autumn < SMALL_FRAMES
        if record.frames_summer is not None:
            found["r_autumn_crash"] = _crashed(record)
    if record.queen_signs or record.eggs_looked_on is not None:
        found["r_queen_problem"] = bool(record.queen_signs)
    if record.stores_kg is not None:
        found["r_stores_low"] = record.stores_kg < record.stores_target_kg
    if record.spray_on is not None:
        found["r_spray"] = True
    if record.foul_contact:
        found["r_foul_contact"] = True
    return found
