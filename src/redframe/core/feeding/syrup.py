"""Sugar syrup: what to weigh out, how much it makes, and what the bees make of it.

By mass, sugar to water; a litre of water is taken as a kilogram, and a kilogram of dissolved sugar takes up 0.62
litres. Ripe stores hold 82 % of sugar; what the bees spend on drying and inverting is more in a thin syrup
(docs/methods/feeding.md).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from redframe.core.errors import InvalidInput

Ratio = Literal["1:1", "2:1"]
SUGAR_PER_WATER: dict[Ratio, float] = {"1:1": 1.0, "2:1": 2.0}
LOSS: dict[Ratio, float] = {"1:1": 0.20, "2:1": 0.10}
LITRES_PER_KG_SUGAR = 0.62
SUGAR_IN_STORES = 0.82
MOST_KG = 100_000.0
KG_PER_LB = 0.45359237
IMPERIAL_PINT_ML = 568.261


@dataclass(frozen=True, slots=True)
class Syrup:
    """Kilograms and litres to mix, rounded to 0.01, the sugar in per cent by mass, and the kilograms of ripe stores
    that come of it."""

    sugar_kg: float
    water_l: float
    litres: float
    sugar_pct_ww: float
    stored_kg: float


@dataclass(frozen=True, slots=True)
class ImperialSyrup:
    """The same of pounds of sugar to imperial pints of water: kilograms and litres to 0.001, millilitres to 0.1."""

    sugar_kg: float
    water_ml: float
    litres: float
    imp_pints: float
    sugar_pct_ww: float
    stored_kg: float


def syrup(ratio: Ratio, *, sugar_kg: float | None = None, litres: float | None = None) -> Syrup:
    """The syrup of so much sugar, or so many litres of it.

    Raises InvalidInput for neither or both, and for amounts that nobody mixes.
    """
    if (sugar_kg is None) == (litres is None):
        raise InvalidInput("sugar_kg", "give the sugar or the litres wanted, one of the two", code="missing")
    per_water = SUGAR_PER_WATER[ratio]
    if sugar_kg is None:
        assert litres is not None
        _check("litres", litres)
        sugar_kg = litres / litres_of(1.0, ratio)
    _check("sugar_kg", sugar_kg)
    return Syrup(
        sugar_kg=round(sugar_kg, 2),
        water_l=round(sugar_kg / per_water, 2),
        litres=round(litres_of(sugar_kg, ratio), 2),
        sugar_pct_ww=round(100 * per_water / (1 + per_water), 1),
        stored_kg=round(stored(sugar_kg, LOSS[ratio]), 2),
    )


def syrup_imperial(pints: float, lb_per_pint: float) -> ImperialSyrup:
    """The syrup of so many imperial pints of water with so many pounds of sugar to each.

    A syrup of at least one and a half parts of sugar to one of water loses what a thick one does. Raises InvalidInput.
    """
    if not 0 < pints <= 10_000:
        raise InvalidInput("pints", "must be more than 0 and at most 10000", code="out_of_range")
    if not 0 < lb_per_pint <= 4:
        raise InvalidInput("lb_per_pint", "must be more than 0 and at most 4", code="out_of_range")
    sugar_kg = pints * lb_per_pint * KG_PER_LB
    water_l = pints * IMPERIAL_PINT_ML / 1000
    litres = water_l + LITRES_PER_KG_SUGAR * sugar_kg
    return ImperialSyrup(
        sugar_kg=round(sugar_kg, 3),
        water_ml=round(1000 * water_l, 1),
        litres=round(litres, 3),
        imp_pints=round(1000 * litres / IMPERIAL_PINT_ML, 1),
        sugar_pct_ww=round(100 * sugar_kg / (sugar_kg + water_l), 1),
        stored_kg=round(stored(sugar_kg, LOSS["2:1" if sugar_kg >= 1.5 * water_l else "1:1"]), 2),
    )


def litres_of(sugar_kg: float, ratio: Ratio) -> float:
    """Litres of syrup that so much sugar makes."""
    return sugar_kg * (1 / SUGAR_PER_WATER[ratio] + LITRES_PER_KG_SUGAR)


def stored(sugar_kg: float, loss: float) -> float:
    """Kilograms of ripe stores that bees make of so much sugar."""
    return sugar_kg * (1 - loss) / SUGAR_IN_STORES


def sugar_for(stores_kg: float, ratio: Ratio) -> float:
    """Kilograms of sugar that make so many kilograms of ripe stores."""
    return stores_kg * SUGAR_IN_STORES / (1 - LOSS[ratio])


def _check(field: str, value: float) -> None:
    if not 0 < value <= MOST_KG:
        raise InvalidInput(field, f"must be more than 0 and at most {MOST_KG:.0f}", code="out_of_range")
