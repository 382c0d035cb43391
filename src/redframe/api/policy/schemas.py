"""The policy and its schemes."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import AfterValidator, Field

from redframe.api.base import Output, Why
from redframe.core.inputs import Input, printable
from redframe.core.policy.policy import STALE_AFTER_DAYS, STALE_AFTER_DAYS_DORMANT
from redframe.core.policy.schemes import SchemeId
from redframe.core.policy.treatment_rules import TreatmentRules
from redframe.core.season.calendar import Phase
from redframe.core.status.status import Level
from redframe.core.treatments.catalogue import Group
from redframe.work.places.read import PhaseBand


class LevelsView(Output):
    watch: float
    act: float
    urgent: float


class ThresholdScheme(Output):
    id: SchemeId
    name: str
    says: str
    unit: str
    source: str
    treats: bool
    levels: dict[Phase, LevelsView]
    defaults: dict[Phase, LevelsView]


OwnLevels = dict[Annotated[str, Field(max_length=40)], dict[str, float]]
"""Levels by phase: `{"peak": {"watch": 1, "act": 2, "urgent": 4}}` for the phases that differ."""


class CountedScoop(Input):
    """A scoop whose bees were counted by hand."""

    ml: Annotated[float, Field(ge=5, le=1000, allow_inf_nan=False)]
    bees: Annotated[int, Field(strict=True, ge=1, le=5000)]


class PolicyInput(Input):
    scheme: Annotated[str, Field(max_length=40), AfterValidator(printable)]
    threshold_basis: Literal["corrected", "as_counted"] = "corrected"
    scope: Literal["whole_apiary", "single_colony"] = "whole_apiary"
    calendar: dict[str, str | int | None]
    levels: dict[Annotated[str, Field(max_length=40)], OwnLevels] = {}
    stale_after_days: Annotated[int, Field(strict=True, ge=7, le=120)] = STALE_AFTER_DAYS
    stale_after_days_dormant: Annotated[int, Field(strict=True, ge=7, le=200)] = STALE_AFTER_DAYS_DORMANT
    scoops: Annotated[list[CountedScoop], Field(max_length=60)] = []
    treatment_rules: TreatmentRules = TreatmentRules()


class CatalogueEntry(Output):
    id: str
    name: str
    active: str
    moa_group: Group
    default_enabled: bool


class ScoopView(Output):
    """What the association's scoop holds, and how far a level one strays."""

    bees_per_ml: float
    cv: float


class PolicyView(Output):
    """The policy in force, what there is to choose from, and its levels through the coming year."""

    version: int
    scheme: SchemeId
    threshold_basis: str
    scope: str
    calendar: dict[str, Any]
    own_levels: dict[str, Any]
    stale_after_days: int
    stale_after_days_dormant: int
    treatment_rules: TreatmentRules
    scoops: list[dict[str, Any]]
    scoop: ScoopView
    schemes: list[ThresholdScheme]
    catalogue: list[CatalogueEntry]
    first: date
    last: date
    phases: list[PhaseBand]


class PolicyPreview(Output):
    """What a draft would do: colonies by their level today, before and after, and the levels of the coming year."""

    before: dict[Level, int]
    after: dict[Level, int]
    changed: int
    scoop: ScoopView
    first: date
    last: date
    phases: list[PhaseBand]


class ApiaryPolicyInput(Input):
    """What an apiary is to do otherwise than its association, and why; null: as the association."""

    scheme: Annotated[str, Field(max_length=40), AfterValidator(printable)] | None = None
    scope: Literal["whole_apiary", "single_colony"] | None = None
    calendar: dict[str, str | int | None] | None = None
    levels: OwnLevels | None = None
    reason: Why


class ApiaryPolicyView(Output):
    """What judges at an apiary, and what it does otherwise than its association. `version` 0: nothing, ever."""

    apiary_id: UUID
    apiary: str
    version: int
    created_at: datetime | None
    by_name: str
    reason: str
    own: ApiaryDeparture
    scheme: SchemeId
    scope: str
    calendar: dict[str, Any]
    association_scheme: SchemeId
    association_scope: str
    association_calendar: dict[str, Any]
    schemes: list[ThresholdScheme]
    first: date
    last: date
    phases: list[PhaseBand]


class ApiaryDeparture(Output):
    scheme: SchemeId | None
    scope: str | None
    calendar: dict[str, Any] | None
    levels: dict[str, Any] | None
