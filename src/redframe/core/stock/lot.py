"""A lot of a product: what must be known of it, and what cannot be."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from redframe.core.errors import InvalidInput
from redframe.core.stock.balance import lot_unit_per_dose_unit
from redframe.core.treatments.catalogue import Catalogue

OLDEST_YEARS = 20
FURTHEST_YEARS = 12


@dataclass(frozen=True, slots=True)
class LotFacts:
    """A lot as its pack and its receipt say: `product` as it is written on the pack, `option_ids` what it is used for,
    `quantity` in `unit`. Empty where nobody knows."""

    product: str
    option_ids: Sequence[str]
    unit: str
    quantity: float
    strength: str
    lot: str
    expires_on: date | None
    bought_on: date | None
    supplier: str
    receipt: str
    note: str


def check_lot(facts: LotFacts, catalogue: Catalogue, today: date) -> None:
    """Raise InvalidInput naming what cannot be: no product, an option that the unit cannot serve, days out of reach."""
    if not facts.product.strip():
        raise InvalidInput("product", "write it as it stands on the pack", code="missing")
    if not facts.option_ids:
        raise InvalidInput("option_ids", "say what it is used for", code="missing")
    for index, option_id in enumerate(facts.option_ids):
        option = catalogue.option(option_id, f"option_ids[{index}]")
        if not option.chemical:
            raise InvalidInput(f"option_ids[{index}]", "uses no product", code="refused")
        if lot_unit_per_dose_unit(option, facts.unit) is None:
            text = f"{option.name} is dosed in {option.dose_unit}, not in {facts.unit}"
            raise InvalidInput("unit", text, code="refused", allowed=option.dose_unit)
    if facts.bought_on is not None:
        if facts.bought_on > today:
            raise InvalidInput("bought_on", "lies in the future", code="out_of_range")
        if facts.bought_on.year < today.year - OLDEST_YEARS:
            raise InvalidInput("bought_on", f"is more than {OLDEST_YEARS} years ago", code="out_of_range")
    if facts.expires_on is not None:
        if facts.expires_on.year > today.year + FURTHEST_YEARS:
            raise InvalidInput("expires_on", f"is more than {FURTHEST_YEARS} years ahead", code="out_of_range")
        if facts.bought_on is not None and facts.expires_on < facts.bought_on:
            raise InvalidInput("expires_on", "was over before it was bought", code="out_of_range")
