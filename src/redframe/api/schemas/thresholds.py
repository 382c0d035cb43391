"""The policy and its schools."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, Field

from redframe.api.schemas.base import Output, Word
from redframe.api.schemas.places import PhaseBand
from redframe.core.inputs import Input, printable
from redframe.core.thresholds.calendar import Phase
from redframe.core.thresholds.schools import SchoolId
from redframe.core.thresholds.standing import Level
from redframe.core.treatments.catalogue import Group


class LevelsView(Output):
    watch: float
    act: float
    urgent: float


class School(Output):
    id: SchoolId
    name: str
    says: str
    unit: str
    levels: dict[Phase, LevelsView]


class PolicyInput(Input):
    school: Annotated[str, Field(max_length=40), AfterValidator(printable)]
    threshold_basis: Literal["corrected", "as_counted"] = "corrected"
    scope: Literal["whole_apiary", "single_colony"] = "whole_apiary"
    calendar: dict[str, str | int | None]
    authorised: list[Word] | None = None
    excluded_groups: Annotated[list[Group], Field(max_length=7)] = []
    honey_off: Word | None = None
    cold: Word | None = None
    respirator_ok: bool = False
    strict_rotation: bool = False
    trickle_repeat: bool = False
    approach: Literal["counting_first", "calendar", "treatment_free"] = "counting_first"
    open_from_c: Annotated[float, Field(ge=10, le=25, allow_inf_nan=False)] = 15.0


class CatalogueEntry(Output):
    id: str
    name: str
    active: str
    default_enabled: bool


class PolicyView(Output):
    """The policy in force, what there is to choose from, and its levels through the coming year."""

    version: int
    school: SchoolId
    threshold_basis: str
    scope: str
    calendar: dict[str, Any]
    treatment_rules: dict[str, Any]
    schools: list[School]
    catalogue: list[CatalogueEntry]
    first: date
    last: date
    phases: list[PhaseBand]


class PolicyPreview(Output):
    """What a draft would do: colonies by their level today, before and after, and the levels of the coming year."""

    before: dict[Level, int]
    after: dict[Level, int]
    changed: int
    first: date
    last: date
    phases: list[PhaseBand]
