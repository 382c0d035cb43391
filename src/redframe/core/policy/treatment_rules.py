"""What an association allows and asks when it treats: typed, so that no rule reads a name that nobody set."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from redframe.core.errors import InvalidInput
from redframe.core.inputs import Input, printable
from redframe.core.registers.register import LEAST_YEARS
from redframe.core.season.calendar import month_day_index
from redframe.core.treatments.catalogue import Catalogue, Group
from redframe.core.treatments.product_label import ProductLabel, catalogue_with

OptionId = Annotated[str, Field(max_length=40), AfterValidator(printable)]
MonthDay = Annotated[str, Field(max_length=5), AfterValidator(printable)]
"""A day of any year, `MM-DD`."""
Person = Annotated[str, Field(max_length=120), AfterValidator(printable)]
Approach = Literal["counting_first", "calendar", "treatment_free"]
DAYS: tuple[Literal["honey_off", "cold", "feed_start_by", "supers_on", "crystals", "treatment_year"], ...] = (
    "honey_off",
    "cold",
    "feed_start_by",
    "supers_on",
    "crystals",
    "treatment_year",
)


class TreatmentRules(Input):
    """The rules of treating.

    `authorised`: the options in use (None: those that the catalogue opens). `prescription_needed`: options that need a
    prescription or a licensed applicator, who is the `prescriber` ("": nobody named). `resistance`: groups that mites
    here are known to withstand. The days are `MM-DD`: when honey comes off, when it gets too cold to work, when autumn
    feeding starts, when supers go on next; `treatment_year`: when the year begins in which uses are counted.
    `open_from_c`: daily maximum (°C) from which hives are opened fully. `product_labels`: what the products in use say
    otherwise than the catalogue. `winter_target_kg`: stores to go into winter with; `feeder_l` what a feeder holds,
    `feed_l_day` what is taken of it a day; `crystals`: when forage begins that sets hard in the comb. `register_years`:
    so long a line of the register is kept, never less than five years.
    """

    authorised: Annotated[list[OptionId], Field(max_length=100)] | None = None
    excluded_groups: Annotated[list[Group], Field(max_length=7)] = []
    prescription_needed: Annotated[list[OptionId], Field(max_length=100)] = []
    prescriber: Person = ""
    resistance: Annotated[list[Group], Field(max_length=7)] = []
    honey_off: MonthDay | None = None
    cold: MonthDay | None = None
    feed_start_by: MonthDay | None = None
    supers_on: MonthDay | None = None
    respirator_ok: bool = False
    strict_rotation: bool = False
    trickle_repeat: bool = False
    vapour_series: bool = False
    allow_oxalic_with_brood: bool = False
    approach: Approach = "counting_first"
    open_from_c: Annotated[float, Field(ge=10, le=25, allow_inf_nan=False)] = 15.0
    treatment_year: MonthDay = "01-01"
    product_labels: Annotated[list[ProductLabel], Field(max_length=60)] = []
    winter_target_kg: Annotated[float, Field(ge=5, le=60, allow_inf_nan=False)] = 20.0
    feeder_l: Annotated[float, Field(ge=0.5, le=20, allow_inf_nan=False)] = 5.0
    feed_l_day: Annotated[float, Field(ge=0.2, le=5, allow_inf_nan=False)] = 1.0
    crystals: MonthDay | None = None
    register_years: Annotated[int, Field(strict=True, ge=LEAST_YEARS, le=50)] = LEAST_YEARS

    @property
    def catalogue(self) -> Catalogue:
        """The catalogue with the labels of the products in use."""
        return catalogue_with(self.product_labels)

    def check(self, catalogue: Catalogue, field: str = "treatment_rules") -> None:
        """Raise InvalidInput naming the option that the catalogue lacks, or the day that no year has."""
        for name, options in (("authorised", self.authorised or []), ("prescription_needed", self.prescription_needed)):
            for index, option in enumerate(options):
                catalogue.option(option, f"{field}.{name}[{index}]")
        for name in DAYS:
            day = getattr(self, name)
            if day is not None:
                month_day_index(day, f"{field}.{name}")
        seen: set[str] = set()
        for index, label in enumerate(self.product_labels):
            label.check(catalogue, f"{field}.product_labels[{index}]")
            if label.option in seen:
                raise InvalidInput(f"{field}.product_labels[{index}].option", "has a label already", code="taken")
            seen.add(label.option)

    def offers(self, option_id: str) -> bool:
        """Whether an option is among those authorised; every one is where no list was made."""
        return self.authorised is None or option_id in self.authorised
