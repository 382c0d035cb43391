"""Winter stores: what hangs in the combs, what is lacking, and by when it must have been fed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from math import ceil
from typing import Literal

from redframe.core.errors import InvalidInput
from redframe.core.feeding.syrup import Ratio, litres_of, sugar_for

FrameSize = Literal["A_deep", "A_medium", "A_shallow", "A_jumbo", "B_deep", "B_shallow", "B_extra_deep", "other"]
FULL_KG: dict[FrameSize, float] = {
    "A_deep": 2.7, "A_medium": 1.8, "A_shallow": 1.4, "A_jumbo": 3.6,
    "B_deep": 2.3, "B_shallow": 1.4, "B_extra_deep": 3.2,
}  # fmt: skip
"""Kilograms of stores in a comb that is full on both faces."""
KG_PER_DM2 = 0.31
"""The same for each square decimetre of one face, where the comb is of no size that is known."""
BEFORE_COLD_DAYS = 14
BEFORE_CRYSTALS_DAYS = 7
LITRES_A_DAY = 1.0
SMALL_BELOW_FRAMES, SMALL_TARGET_KG = 5.0, 11.0
"""A small colony winters on less: as a nucleus does."""


@dataclass(frozen=True, slots=True)
class StoredFrames:
    """So many frames of a size with so much of them full, in per cent; `dm2`: one face, for a comb of another size."""

    size: FrameSize
    n: int
    pct: float
    dm2: float | None = None


@dataclass(frozen=True, slots=True)
class Stores:
    """Kilograms in the hive and lacking, and the sugar and syrup that make up for it, rounded to 0.01."""

    stores_kg: float
    deficit_kg: float
    sugar_kg: float
    syrup_l: float


@dataclass(frozen=True, slots=True)
class FeedBy:
    """Days that feeding takes, and the days on which it must begin and have ended."""

    days: int
    start_by: date
    finish_by: date


def is_small(frames: float | None) -> bool:
    """Whether a colony of so many frames of bees (None: not known) winters as a nucleus does."""
    return frames is not None and frames < SMALL_BELOW_FRAMES


def winter_target(target_kg: float, frames: float | None) -> float:
    """The stores that a colony of so many frames of bees is to winter on, where others are to have `target_kg`."""
    return min(target_kg, SMALL_TARGET_KG) if is_small(frames) else target_kg


def stores(frames: Sequence[StoredFrames], target_kg: float, ratio: Ratio = "2:1") -> Stores:
    """What the combs hold against a target, and what to feed. Raises InvalidInput by its field."""
    held = sum(kg_of(one, f"frames[{index}]") for index, one in enumerate(frames))
    if not 0 < target_kg <= 100:
        raise InvalidInput("target_kg", "must be more than 0 and at most 100 kg", code="out_of_range")
    deficit = max(0.0, target_kg - held)
    sugar = sugar_for(deficit, ratio)
    return Stores(round(held, 2), round(deficit, 2), round(sugar, 2), round(litres_of(sugar, ratio), 2))


def kg_of(frames: StoredFrames, field: str) -> float:
    """Kilograms of stores in some frames. Raises InvalidInput under `field`."""
    if not 0 <= frames.n <= 200:
        raise InvalidInput(f"{field}.n", "must be 0 to 200", code="out_of_range", allowed="0 to 200")
    if not 0 <= frames.pct <= 100:
        raise InvalidInput(f"{field}.pct", "must be 0 to 100 %", code="out_of_range", allowed="0 to 100")
    if frames.size == "other":
        if frames.dm2 is None or not 0 < frames.dm2 <= 50:
            raise InvalidInput(f"{field}.dm2", "give one face of the comb, at most 50 dm²", code="missing")
        full = KG_PER_DM2 * frames.dm2
    else:
        full = FULL_KG[frames.size]
    return frames.n * full * frames.pct / 100


def feed_by(
    syrup_l: float, cold_date: date, crystal_date: date | None = None, rate_l_day: float = LITRES_A_DAY
) -> FeedBy:
    """When syrup must be given: all of it a fortnight before the cold, and a week before forage that sets hard in the
    comb. Raises InvalidInput."""
    if not 0 <= syrup_l <= 1000:
        raise InvalidInput("syrup_l", "must be 0 to 1000 litres", code="out_of_range", allowed="0 to 1000")
    if not 0 < rate_l_day <= 20:
        raise InvalidInput("rate_l_day", "must be more than 0 and at most 20 litres a day", code="out_of_range")
    finish = cold_date - timedelta(days=BEFORE_COLD_DAYS)
    if crystal_date is not None:
        finish = min(finish, crystal_date - timedelta(days=BEFORE_CRYSTALS_DAYS))
    days = ceil(syrup_l / rate_l_day - 1e-9)
    return FeedBy(days, finish - timedelta(days=days), finish)
