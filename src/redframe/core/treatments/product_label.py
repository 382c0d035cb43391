"""What the label of a product says where it differs from the catalogue: it replaces the default, and both are shown.

An association enters the figures of the product that it uses; they are part of its policy, so that each change is a
version of it, and a course goes on by the label under which it was planned.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from typing import Annotated, Any

from pydantic import AfterValidator, Field, TypeAdapter

from redframe.core.errors import InvalidInput
from redframe.core.inputs import Input, Text, printable
from redframe.core.treatments.catalogue import (
    ByLabel,
    Catalogue,
    Figure,
    FigureValue,
    Option,
    SupersRule,
    Triple,
    default_catalogue,
)

Days = Annotated[int, Field(strict=True, ge=0, le=400)]
Celsius = Annotated[float, Field(allow_inf_nan=False, ge=-20, le=60)]
Amount = Annotated[float, Field(allow_inf_nan=False, gt=0, le=1000)]
DaysTriple = Annotated[list[Days], Field(min_length=3, max_length=3)]
"""Earliest, ideal, latest."""


class ProductLabel(Input):
    """The figures of one product for an option; None leaves the default. `product`: as it is written on the pack."""

    option: Annotated[str, Field(max_length=40), AfterValidator(printable)]
    product: Annotated[str, Field(max_length=120), AfterValidator(printable)] = ""
    min_daily_max_c: Celsius | None = None
    max_daily_max_c: Celsius | None = None
    dose_amount: Amount | None = None
    dose_max_per_colony: Amount | None = None
    applications: Annotated[int, Field(strict=True, ge=1, le=12)] | None = None
    interval_days: DaysTriple | None = None
    stay_days: DaysTriple | None = None
    max_uses_per_year: Annotated[int, Field(strict=True, ge=1, le=12)] | None = None
    retreat_days: Days | None = None
    withdrawal_days: Days | None = None
    min_frames: Annotated[float, Field(allow_inf_nan=False, ge=0, le=60)] | None = None
    supers: SupersRule | None = None
    feeding_during: bool | None = None
    note: Text = ""

    def check(self, catalogue: Catalogue, field: str) -> None:
        """Raise InvalidInput naming the figure that cannot be: days out of order, limits that leave no day, a dose that
        is no single figure, doses without days between them."""
        option = catalogue.option(self.option, f"{field}.option")
        for name in ("interval_days", "stay_days"):
            days = getattr(self, name)
            if days is not None and sorted(days) != days:
                raise InvalidInput(f"{field}.{name}", "earliest, ideal, latest: each no sooner than the one before")
        if self.dose_amount is not None and not isinstance(option.dose.amount, (int, float)):
            raise InvalidInput(f"{field}.dose_amount", "the dose of this option is a table by boxes", code="refused")
        meant = labelled(option, self)
        low, high = meant.temperature.min_daily_max_c, meant.temperature.max_daily_max_c
        if low is not None and high is not None and low >= high:
            name = "min_daily_max_c" if self.min_daily_max_c is not None else "max_daily_max_c"
            raise InvalidInput(f"{field}.{name}", f"leaves no day between {low:g} and {high:g} °C", code="out_of_range")
        if meant.applications > 1 and (meant.interval_days is None or meant.interval_days[0] < 1):
            raise InvalidInput(f"{field}.interval_days", "say how many days lie between the doses", code="missing")


def labelled(option: Option, label: ProductLabel) -> Option:
    """The option as its label has it."""
    given = {name: value for name, value in label.model_dump().items() if value is not None}
    dose, temperature, strength = option.dose, option.temperature, option.strength
    changes: dict[str, Any] = {"product": label.product}
    amounts = {"dose_amount": "amount", "dose_max_per_colony": "max_per_colony"}
    limits = ("min_daily_max_c", "max_daily_max_c")
    changes["dose"] = dose.model_copy(update={to: given[name] for name, to in amounts.items() if name in given})
    changes["temperature"] = temperature.model_copy(update={name: given[name] for name in limits if name in given})
    if "min_frames" in given:
        changes["strength"] = strength.model_copy(update={"min_frames": given["min_frames"]})
    for name in ("applications", "max_uses_per_year", "retreat_days", "withdrawal_days", "supers", "feeding_during"):
        if name in given:
            changes[name] = given[name]
    for name in ("interval_days", "stay_days"):
        if name in given:
            changes[name] = _triple(given[name])
    meant = option.model_copy(update=changes)
    between = meant.interval_days[1] if meant.interval_days is not None else 0
    default = figures(option)
    said = [ByLabel(figure=name, label=value, default=default[name]) for name, value in figures(meant).items()]
    total = between * (meant.applications - 1) + meant.stay_days[1]
    by_label = tuple(one for one in said if one.label != one.default)
    return meant.model_copy(update={"total_days_ideal": total, "by_label": by_label})


def _triple(days: Sequence[int]) -> Triple:
    earliest, ideal, latest = days
    return earliest, ideal, latest


_LABELS: TypeAdapter[list[ProductLabel]] = TypeAdapter(list[ProductLabel])


def catalogue_with(labels: Sequence[ProductLabel]) -> Catalogue:
    """The catalogue that ships, with the labels of an association in place of its defaults."""
    if not labels:
        return default_catalogue()
    return _catalogue_with(_LABELS.dump_json(list(labels)))


@lru_cache(maxsize=64)
def _catalogue_with(labels: bytes) -> Catalogue:
    by_option = {one.option: one for one in _LABELS.validate_json(labels)}
    catalogue = default_catalogue()
    options = [
        labelled(option, by_option[option.id]) if option.id in by_option else option for option in catalogue.options
    ]
    return catalogue.model_copy(update={"options": options})


def option_with(option_id: str, label: ProductLabel | None) -> Option:
    """An option of the catalogue as the label of its product has it. Raises InvalidInput."""
    return catalogue_with([label] if label is not None else []).option(option_id)


PRODUCT_LABEL: TypeAdapter[ProductLabel | None] = TypeAdapter(ProductLabel | None)
"""Reads a label that was kept as JSON."""


def figures(option: Option) -> dict[Figure, FigureValue]:
    """What a label can say of an option, as it is."""
    amount = option.dose.amount
    return {
        "min_daily_max_c": option.temperature.min_daily_max_c,
        "max_daily_max_c": option.temperature.max_daily_max_c,
        "dose_amount": amount if isinstance(amount, (int, float)) else None,
        "dose_max_per_colony": option.dose.max_per_colony,
        "applications": option.applications,
        "interval_days": list(option.interval_days) if option.interval_days is not None else None,
        "stay_days": list(option.stay_days),
        "max_uses_per_year": option.max_uses_per_year,
        "retreat_days": option.retreat_days,
        "withdrawal_days": option.withdrawal_days,
        "min_frames": option.strength.min_frames,
        "supers": option.supers,
        "feeding_during": option.feeding_during,
    }
