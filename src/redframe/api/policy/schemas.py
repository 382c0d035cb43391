"""The policy and its schemes."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated
from uuid import UUID

from pydantic import AfterValidator, Field

from redframe.api.base import Output, Why
from redframe.core.disease.region import DiseaseRegion
from redframe.core.inputs import Input, printable
from redframe.core.policy.draft import CalendarDates, CountedScoop, OwnLevels
from redframe.core.policy.policy import STALE_AFTER_DAYS, STALE_AFTER_DAYS_DORMANT, Scope
from redframe.core.policy.schemes import Levels, SchemeId
from redframe.core.policy.treatment_rules import TreatmentRules
from redframe.core.sampling.bees import Scoop
from redframe.core.sampling.reading import ThresholdBasis
from redframe.core.season.calendar import Phase
from redframe.core.status.status import Level
from redframe.core.treatments.catalogue import Figure, FigureValue, Group
from redframe.work.places.read import PhaseBand
from redframe.work.policy.read import SchemeChoice
from redframe.work.policy.record import LevelMove

PhaseOrScheme = Annotated[str, Field(max_length=40)]


class PolicyInput(Input):
    scheme: Annotated[str, Field(max_length=40), AfterValidator(printable)]
    threshold_basis: ThresholdBasis = "corrected"
    scope: Scope = "whole_apiary"
    calendar: CalendarDates
    levels: dict[PhaseOrScheme, dict[PhaseOrScheme, dict[str, float]]] = {}
    stale_after_days: Annotated[int, Field(strict=True, ge=7, le=120)] = STALE_AFTER_DAYS
    stale_after_days_dormant: Annotated[int, Field(strict=True, ge=7, le=200)] = STALE_AFTER_DAYS_DORMANT
    scoops: Annotated[list[CountedScoop], Field(max_length=60)] = []
    treatment_rules: TreatmentRules = TreatmentRules()
    disease_region: DiseaseRegion = DiseaseRegion()


class CatalogueEntry(Output):
    id: str
    name: str
    active: str
    moa_group: Group
    default_enabled: bool
    dose_unit: str
    figures: dict[Figure, FigureValue]


class PolicyView(Output):
    """The policy in force, what there is to choose from, and its levels through the coming year."""

    version: int
    scheme: SchemeId
    threshold_basis: ThresholdBasis
    scope: Scope
    calendar: CalendarDates
    own_levels: OwnLevels
    stale_after_days: int
    stale_after_days_dormant: int
    treatment_rules: TreatmentRules
    disease_region: DiseaseRegion
    scoops: list[CountedScoop]
    scoop: Scoop
    schemes: list[SchemeChoice]
    catalogue: list[CatalogueEntry]
    first: date
    last: date
    phases: list[PhaseBand]


class PolicyPreview(Output):
    """What a draft would do: colonies by their level today, before and after, the first of those that would change, and
    the levels of the coming year."""

    before: dict[Level, int]
    after: dict[Level, int]
    changed: int
    moves: list[LevelMove]
    scoop: Scoop
    first: date
    last: date
    phases: list[PhaseBand]


class ApiaryPolicyInput(Input):
    """What an apiary is to do otherwise than its association, and why; null: as the association."""

    scheme: Annotated[str, Field(max_length=40), AfterValidator(printable)] | None = None
    scope: Scope | None = None
    calendar: CalendarDates | None = None
    levels: dict[PhaseOrScheme, dict[str, float]] | None = None
    reason: Why


class ApiaryPolicyView(Output):
    """What judges at an apiary, and what it does otherwise than its association. `version` 0: nothing, ever."""

    apiary_id: UUID
    apiary: str
    version: int
    created_at: datetime | None
    by_name: str
    reason: str
    own: OwnPolicy
    scheme: SchemeId
    scope: Scope
    calendar: CalendarDates
    association_scheme: SchemeId
    association_scope: Scope
    association_calendar: CalendarDates
    schemes: list[SchemeChoice]
    first: date
    last: date
    phases: list[PhaseBand]


class OwnPolicy(Output):
    """What an apiary does otherwise; null: as its association."""

    scheme: SchemeId | None
    scope: Scope | None
    calendar: CalendarDates | None
    levels: dict[Phase, Levels] | None
