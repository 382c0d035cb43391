"""Oxalic acid solution for trickling, in the basis that is always printed with it.

Strength is grams per 100 ml of *finished* solution (w/v), of the dihydrate or of the anhydrous acid. Volumes:
water + 0.62 ml per gram of sugar + 0.60 ml per gram of dihydrate. See docs/methods/oxalic.md.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil
from typing import Literal

from redframe.core.errors import InvalidInput

StrengthBasis = Literal["dihydrate_wv", "anhydrous_wv"]

DIHYDRATE_G_MOL = 126.07
ANHYDROUS_G_MOL = 90.03
ANHYDROUS_PER_DIHYDRATE = ANHYDROUS_G_MOL / DIHYDRATE_G_MOL
ML_PER_G_SUGAR = 0.62
ML_PER_G_DIHYDRATE = 0.60
WEAKEST, STRONGEST = 1.0, 6.5
DEFAULT_DIHYDRATE_WV = 4.5
"""Per cent w/v of the dihydrate, where nobody has said another strength."""
MILD_BELOW, HARSH_OVER = 2.5, 5.0
ML_PER_SEAM = 5.0
MOST_ML_PER_COLONY = 50.0
BATCH_STEP_ML = 10


@dataclass(frozen=True, slots=True)
class OxalicSolution:
    """Grams and millilitres to weigh out, rounded to 0.1, and the strength in both bases, rounded to 0.01."""

    dihydrate_g: float
    sugar_g: float
    water_ml: float
    final_ml: float
    strength_dihydrate_wv: float
    strength_anhydrous_wv: float
    caution: str | None


@dataclass(frozen=True, slots=True)
class OxalicBatch:
    """Millilitres for each colony, their sum, and the batch to mix with the waste allowance."""

    per_colony_ml: list[float]
    net_ml: float
    batch_ml: int


def oxalic_solution(
    target_ml: float, strength: float, basis: StrengthBasis, sugar_per_water: float = 1.0
) -> OxalicSolution:
    """What to weigh out for `target_ml` of finished solution. `sugar_per_water` is by mass.

    Raises InvalidInput: `target_ml` outside 10 to 50 000, `strength` outside 1.0 to 6.5 % dihydrate after
    conversion, `sugar_per_water` outside 0 to 2.
    """
    if not 10 <= target_ml <= 50_000:
        raise InvalidInput("target_ml", "must be 10 to 50 000 ml", code="out_of_range", allowed="10 to 50000")
    dihydrate_strength = strength if basis == "dihydrate_wv" else strength / ANHYDROUS_PER_DIHYDRATE
    if not WEAKEST <= dihydrate_strength <= STRONGEST:
        raise InvalidInput(
            "strength",
            f"is {dihydrate_strength:.2f} % w/v dihydrate; {WEAKEST} to {STRONGEST} can be mixed",
            code="out_of_range",
            allowed=f"{WEAKEST} to {STRONGEST} % w/v dihydrate",
        )
    if not 0 <= sugar_per_water <= 2:
        raise InvalidInput("sugar_per_water", "must be 0 to 2 by mass", code="out_of_range", allowed="0 to 2")
    dihydrate = target_ml * dihydrate_strength / 100
    water = (target_ml - ML_PER_G_DIHYDRATE * dihydrate) / (1 + ML_PER_G_SUGAR * sugar_per_water)
    return OxalicSolution(
        dihydrate_g=round(dihydrate, 1),
        sugar_g=round(sugar_per_water * water, 1),
        water_ml=round(water, 1),
        final_ml=round(target_ml, 1),
        strength_dihydrate_wv=round(dihydrate_strength, 2),
        strength_anhydrous_wv=round(dihydrate_strength * ANHYDROUS_PER_DIHYDRATE, 2),
        caution=_caution(dihydrate_strength, sugar_per_water),
    )


@dataclass(frozen=True, slots=True)
class OxalicRecipe:
    """What a recipe makes: millilitres, rounded to 0.1, and its strength in both bases, rounded to 0.01."""

    final_ml: float
    strength_dihydrate_wv: float
    strength_anhydrous_wv: float
    caution: str | None


def oxalic_from_recipe(dihydrate_g: float, sugar_g: float, water_ml: float) -> OxalicRecipe:
    """How strong a recipe is that somebody was given. Raises InvalidInput for amounts that nobody mixes."""
    for field, value, least in (
        ("dihydrate_g", dihydrate_g, 0.1),
        ("sugar_g", sugar_g, 0.0),
        ("water_ml", water_ml, 1.0),
    ):
        if not least <= value <= 100_000:
            raise InvalidInput(
                field, f"must be {least:g} to 100000", code="out_of_range", allowed=f"{least:g} to 100000"
            )
    final = water_ml + ML_PER_G_SUGAR * sugar_g + ML_PER_G_DIHYDRATE * dihydrate_g
    strength = 100 * dihydrate_g / final
    return OxalicRecipe(
        final_ml=round(final, 1),
        strength_dihydrate_wv=round(strength, 2),
        strength_anhydrous_wv=round(strength * ANHYDROUS_PER_DIHYDRATE, 2),
        caution=_caution(strength, sugar_g / water_ml),
    )


def _caution(dihydrate_strength: float, sugar_per_water: float) -> str | None:
    if dihydrate_strength < MILD_BELOW:
        return "Weaker than most labels: fewer mites are killed."
    if dihydrate_strength > HARSH_OVER:
        return "Stronger than most labels: it costs bees."
    if sugar_per_water == 0:
        return "Without sugar the solution clings less and kills fewer mites."
    return None


def oxalic_batch(seams: Sequence[float], waste_pct: float = 10.0) -> OxalicBatch:
    """Millilitres for colonies of so many seams of bees, 5 ml a seam and at most 50 ml a colony, and the batch with
    `waste_pct` over, rounded up to 10 ml."""
    if not seams:
        raise InvalidInput("seams", "give the seams of at least one colony", code="missing")
    for index, value in enumerate(seams):
        if not 0 < value <= 60:
            raise InvalidInput(f"seams[{index}]", "must be more than 0 and at most 60", code="out_of_range")
    if not 0 <= waste_pct <= 50:
        raise InvalidInput("waste_pct", "must be 0 to 50 %", code="out_of_range", allowed="0 to 50")
    per_colony = [min(ML_PER_SEAM * value, MOST_ML_PER_COLONY) for value in seams]
    net = sum(per_colony)
    batch = ceil(net * (1 + waste_pct / 100) / BATCH_STEP_ML - 1e-9) * BATCH_STEP_ML
    return OxalicBatch([round(ml, 1) for ml in per_colony], round(net, 1), batch)
