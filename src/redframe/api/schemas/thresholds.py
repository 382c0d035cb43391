"""The policy and its schools."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import AfterValidator, Field

from redframe.api.schemas.base import Output, Word, _printable
from redframe.core.inputs import Input
from redframe.core.thresholds.calendar import Phase
from redframe.core.thresholds.schools import SchoolId


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
    school: Annotated[str, Field(max_length=40), AfterValidator(_printable)]
    threshold_basis: Literal["corrected", "as_counted"] = "corrected"
    scope: Literal["whole_apiary", "single_colony"] = "whole_apiary"
    calendar: dict[str, str | int | None]
    authorised: list[Word] | None = None
    honey_off: Word | None = None
    cold: Word | None = None
    respirator_ok: bool = False


class PolicyView(Output):
    version: int
    school: SchoolId
    threshold_basis: str
    scope: str
    calendar: dict[str, Any]
    treatment_rules: dict[str, Any]
    schools: list[School]
