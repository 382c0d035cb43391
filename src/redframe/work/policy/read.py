"""The policy in force, and recomputing the status of colonies after anything that bears on it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from json import dumps, loads
from typing import cast
from uuid import UUID

from redframe.core.disease.region import DiseaseRegion
from redframe.core.policy.draft import CalendarDates, CountedScoop, OwnLevels
from redframe.core.policy.policy import Policy, Scope
from redframe.core.policy.schemes import SCHEMES, Levels, SchemeId, Unit, own_levels, scheme_of
from redframe.core.policy.treatment_rules import TreatmentRules
from redframe.core.sampling.bees import Scoop, calibrated_scoop
from redframe.core.sampling.method import Scale
from redframe.core.sampling.reading import ThresholdBasis
from redframe.core.season.calendar import Calendar, Phase, month_day_index
from redframe.store import places
from redframe.store import policy as store
from redframe.store.policy import ApiaryPolicy
from redframe.work.unit_of_work import UnitOfWork

SCHEME_OF_SCALE: dict[Scale, SchemeId] = {"mites_per_100": "season_phase", "mites_per_day": "fall_phase"}
"""The scheme whose levels are shown with a count of a scale that the scheme in force does not judge."""


@dataclass(frozen=True, slots=True)
class PolicyInForce:
    """The policy as the core takes it, with what it was read from: `dates` of the year, `own_levels` for the phases in
    which the association has its own, `scoops` counted by hand. `has_own`: this apiary does otherwise than its
    association."""

    version: int
    scheme: SchemeId
    basis: ThresholdBasis
    scope: Scope
    policy: Policy
    calendar: Calendar
    dates: CalendarDates
    own_levels: OwnLevels
    treatment_rules: TreatmentRules
    scoops: Sequence[CountedScoop]
    scoop: Scoop
    region: DiseaseRegion
    has_own: bool = False

    @property
    def honey_off(self) -> int | None:
        """Day (leap-year index) on which honey comes off, where the association gives one."""
        day = self.treatment_rules.honey_off
        return month_day_index(day) if day is not None else None

    def levels_on(self, scheme: SchemeId) -> Mapping[Phase, Levels]:
        """The levels of a scheme as the association has them."""
        return self.policy.levels if scheme == self.scheme else self.levels_of[scheme]

    @property
    def levels_of(self) -> Mapping[SchemeId, Mapping[Phase, Levels]]:
        """The levels of every scheme with the association's own in their place, whatever this apiary does."""
        return {one: {**SCHEMES[one].levels, **self.own_levels.get(one, {})} for one in SCHEMES}

    def for_scale(self, scale: Scale) -> Policy:
        """The policy for a scale: the one in force where it judges that scale, else with the levels of the scheme shown
        with it. Forecasts and verifications, which speak of rates, are always compared with one."""
        if self.policy.scale == scale or scale not in SCHEME_OF_SCALE:
            return self.policy
        return replace(self.policy, scheme=SCHEME_OF_SCALE[scale], levels=self.levels_on(SCHEME_OF_SCALE[scale]))


@lru_cache(maxsize=256)
def _read(
    version: int, scheme: str, basis: str, scope: str, calendar: str, levels: str, stale: tuple[int, int], rules: str,
    scoops: str, region: str, here: str, has_own: bool,
) -> PolicyInForce:  # fmt: skip
    found = scheme_of(scheme)
    dates = CalendarDates.model_validate_json(calendar)
    read = dates.read()
    own: dict[SchemeId, Mapping[Phase, Levels]] = {}
    in_force = found.levels
    for name, given in loads(levels).items():
        scheme_read = scheme_of(name)
        all_levels = own_levels(scheme_read, given, f"levels.{name}")
        own[scheme_read.id] = {phase: level for phase, level in all_levels.items() if phase in given}
        in_force = all_levels if scheme_read.id == found.id else in_force
    in_force = own_levels(replace(found, levels=in_force), loads(here), "levels")
    counted = [CountedScoop.model_validate(one) for one in loads(scoops)]
    return PolicyInForce(
        version=version,
        scheme=found.id,
        basis=cast(ThresholdBasis, basis),
        scope=cast(Scope, scope),
        policy=Policy(read, in_force, found.id, *stale),
        calendar=read,
        dates=dates,
        own_levels=own,
        treatment_rules=TreatmentRules.model_validate_json(rules),
        scoops=counted,
        scoop=calibrated_scoop([(one.ml, one.bees) for one in counted]),
        region=DiseaseRegion.model_validate_json(region),
        has_own=has_own,
    )


def _text(value: object) -> str:
    return dumps(value, sort_keys=True)


def _in_force(row: store.Policy, here: ApiaryPolicy | None) -> PolicyInForce:
    has_own = here is not None and any(
        part is not None for part in (here.scheme, here.scope, here.calendar, here.levels)
    )
    return _read(
        row.version,
        (here and here.scheme) or row.scheme,
        row.threshold_basis,
        (here and here.scope) or row.scope,
        _text((here and here.calendar) or row.calendar),
        _text(row.levels),
        (row.stale_after_days, row.stale_after_days_dormant),
        _text(row.treatment_rules),
        _text(row.scoops),
        _text(row.disease_region),
        _text(here.levels if here else None),
        has_own,
    )


async def policy_in_force(unit: UnitOfWork, apiary_id: UUID | None = None) -> PolicyInForce:
    """The policy that the association judges and treats by now; that of one apiary where one is named."""
    row = await store.policy_in_force(unit.connection)
    return _in_force(row, await store.apiary_policy(unit.connection, apiary_id) if apiary_id else None)


async def policies_of(
    unit: UnitOfWork, colony_ids: Sequence[UUID], row: store.Policy | None = None
) -> dict[UUID, PolicyInForce]:
    """The policy that judges each of these colonies: that of its apiary, else that of the association (`row`, the one
    in force when None)."""
    row = row or await store.policy_in_force(unit.connection)
    own = {one.apiary_id: one for one in await store.apiary_policies(unit.connection)}
    places_of = await places.apiaries_of(unit.connection, colony_ids) if own else {}
    association = _in_force(row, None)
    by_apiary = {apiary: _in_force(row, one) for apiary, one in own.items()}
    return {colony: by_apiary.get(places_of.get(colony, colony), association) for colony in colony_ids}


@dataclass(frozen=True, slots=True)
class SchemeChoice:
    """A scheme that an association can follow: its levels by phase as the association has them, and its defaults.
    `is_flat`: those are the same all year; `has_levels`: there are figures to set."""

    id: SchemeId
    name: str
    says: str
    unit: Unit
    source: str
    treats: bool
    is_flat: bool
    has_levels: bool
    levels: Mapping[Phase, Levels]
    defaults: Mapping[Phase, Levels]


def scheme_choices(policy: PolicyInForce) -> list[SchemeChoice]:
    """The schemes that an association can follow."""
    return [
        SchemeChoice(
            one.id,
            one.name,
            one.says,
            one.unit,
            one.source,
            one.treats,
            one.is_flat,
            one.has_levels,
            policy.levels_on(one.id),
            one.levels,
        )
        for one in SCHEMES.values()
    ]
