"""A policy drafted, previewed and put in force."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from typing import get_args
from uuid import UUID

from redframe.core.disease.region import DiseaseRegion
from redframe.core.errors import InvalidInput
from redframe.core.policy.draft import CalendarDates, CountedScoop, DraftLevels
from redframe.core.policy.policy import Scope
from redframe.core.policy.schemes import SCHEMES, scheme_of
from redframe.core.policy.treatment_rules import TreatmentRules
from redframe.core.sampling.reading import ThresholdBasis
from redframe.core.status.apiary import WORST_FIRST
from redframe.core.status.status import Level
from redframe.core.treatments.catalogue import default_catalogue
from redframe.store import colonies, places, status
from redframe.store import policy as store
from redframe.store.database import columns
from redframe.store.errors import Conflict
from redframe.store.policy import ApiaryPolicy
from redframe.work.policy.read import (
    PolicyInForce,
    _in_force,
    policies_of,
    policy_in_force,
)
from redframe.work.roles import require
from redframe.work.status.many import levels_of_many, read_jars_again, reads_otherwise
from redframe.work.status.recompute import recompute_association, recompute_status
from redframe.work.to_json import to_json
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class PolicyDraft:
    """A policy as somebody writes it, before it has a version."""

    scheme: str
    threshold_basis: ThresholdBasis
    scope: Scope
    calendar: CalendarDates
    levels: DraftLevels
    stale_after_days: int
    stale_after_days_dormant: int
    treatment_rules: TreatmentRules
    scoops: Sequence[CountedScoop] = ()
    disease_region: DiseaseRegion = field(default_factory=DiseaseRegion)

    def as_policy(self, version: int) -> PolicyInForce:
        """The policy as the core takes it.

        Raises InvalidInput for a calendar that does not exist, a scheme or an option unknown, levels out of order.
        """
        self.calendar.read()
        scheme_of(self.scheme)
        for scheme in self.levels:
            if scheme not in SCHEMES:
                raise InvalidInput(f"levels.{scheme}", "is not a school of thresholds", allowed=", ".join(SCHEMES))
        self.treatment_rules.check(default_catalogue())
        return _in_force(self.as_row(version), None)

    def as_row(self, version: int) -> store.Policy:
        """The draft as if it were on record."""
        nobody = UUID(int=0)
        return store.Policy(association_id=nobody, version=version, created_at=datetime.min, **columns(self.details()))  # type: ignore[arg-type]

    def details(self) -> store.PolicyDetails:
        """The draft as it is kept."""
        return store.PolicyDetails(
            scheme=self.scheme,
            threshold_basis=self.threshold_basis,
            scope=self.scope,
            calendar=self.calendar.model_dump(),
            levels=to_json(self.levels),
            stale_after_days=self.stale_after_days,
            stale_after_days_dormant=self.stale_after_days_dormant,
            treatment_rules=self.treatment_rules.model_dump(mode="json"),
            scoops=[one.model_dump() for one in self.scoops],
            disease_region=self.disease_region.model_dump(),
        )


MOST_MOVES = 200
"""How many colonies are named whose level would change: those that would need attention first."""


@dataclass(frozen=True, slots=True)
class LevelMove:
    """A colony whose level a draft would change."""

    colony_id: UUID
    label: str
    apiary: str
    before: Level
    after: Level


@dataclass(frozen=True, slots=True)
class PolicyPreview:
    """What a draft would do: who stands where today, before and after, and the names of those that would change."""

    policy: PolicyInForce
    before: dict[Level, int]
    after: dict[Level, int]
    changed: int
    moves: Sequence[LevelMove]


async def preview_policy(unit: UnitOfWork, draft: PolicyDraft) -> PolicyPreview:
    """Judge every living colony that was counted by a draft and compare with today; nothing is written."""
    require(unit.who, "set_policy")
    current = await policy_in_force(unit)
    policy = draft.as_policy(current.version + 1)
    ids = [colony.id for colony in await status.counted_colonies(unit.connection) if colony.is_living]
    on_record = await status.levels_on(unit.connection, unit.today)
    drafted = await policies_of(unit, ids, draft.as_row(policy.version))
    readings = await read_jars_again(unit, drafted) if ids and reads_otherwise(policy, current) else {}
    then = await levels_of_many(unit, drafted, readings)
    now: dict[UUID, Level] = {one: on_record.get(one, "unknown") for one in ids}
    moved = {one: (now[one], then[one]) for one in ids if now[one] != then[one]}
    return PolicyPreview(policy, _tally(now.values()), _tally(then.values()), len(moved), await _named(unit, moved))


async def _named(unit: UnitOfWork, moved: Mapping[UUID, tuple[Level, Level]]) -> list[LevelMove]:
    """The first of the colonies whose level changes, by the level that they would come to."""
    order = WORST_FIRST.index
    first = sorted(moved, key=lambda one: (order(moved[one][1]), order(moved[one][0]), one))[:MOST_MOVES]
    names = await colonies.colony_names(unit.connection, first)
    named = [LevelMove(one.id, one.label, one.apiary, *moved[one.id]) for one in names]
    return sorted(named, key=lambda one: (order(one.after), order(one.before)))


def _tally(levels: Iterable[Level]) -> dict[Level, int]:
    found = Counter(levels)
    return {level: found[level] for level in get_args(Level)}


async def set_policy(unit: UnitOfWork, draft: PolicyDraft, seen_version: int) -> PolicyInForce:
    """Put a new version of the policy in force and judge every counted colony by it.

    Raises InvalidInput as `PolicyDraft.as_policy`, Conflict when another version came into force meanwhile.
    """
    require(unit.who, "set_policy")
    current = await policy_in_force(unit)
    if current.version != seen_version:
        raise Conflict("the policy was changed by somebody else meanwhile")
    draft.as_policy(current.version + 1)
    await store.add_policy(unit.connection, draft.details())
    policy = await policy_in_force(unit)
    await recompute_association(unit, read_again=reads_otherwise(policy, current))
    return policy


@dataclass(frozen=True, slots=True)
class ApiaryPolicyDraft:
    """What an apiary is to do otherwise than its association; None: as the association."""

    scheme: str | None = None
    scope: Scope | None = None
    calendar: CalendarDates | None = None
    levels: Mapping[str, Mapping[str, float]] | None = None

    def departure(self) -> store.ApiaryDeparture:
        """The draft as it is kept."""
        calendar = self.calendar.model_dump() if self.calendar is not None else None
        return store.ApiaryDeparture(self.scheme, self.scope, calendar, to_json(self.levels))


@dataclass(frozen=True, slots=True)
class ApiaryPolicyView:
    """What judges at an apiary, what it does otherwise (None: nothing, ever), and what its association does."""

    apiary: places.Apiary
    policy: PolicyInForce
    association: PolicyInForce
    own: ApiaryPolicy | None


async def apiary_policy(unit: UnitOfWork, apiary_id: UUID) -> ApiaryPolicyView:
    """The policy of an apiary and that of its association. Raises NotFound."""
    apiary = await places.apiary(unit.connection, apiary_id)
    own = await store.apiary_policy(unit.connection, apiary_id)
    return ApiaryPolicyView(apiary, await policy_in_force(unit, apiary_id), await policy_in_force(unit), own)


async def set_apiary_policy(
    unit: UnitOfWork, apiary_id: UUID, draft: ApiaryPolicyDraft, seen_version: int, reason: str
) -> ApiaryPolicyView:
    """Let an apiary do otherwise than its association, or as it again, and judge its colonies again.

    Raises NotFound, InvalidInput as `PolicyDraft.as_policy`, Conflict when it was changed meanwhile.
    """
    require(unit.who, "set_apiary_policy")
    await places.apiary(unit.connection, apiary_id)
    row, last = await store.policy_in_force(unit.connection), await store.apiary_policy(unit.connection, apiary_id)
    if (last.version if last else 0) != seen_version:
        raise Conflict("the policy of this apiary was changed by somebody else meanwhile")
    own = draft.departure()
    _in_force(row, ApiaryPolicy(apiary_id, seen_version + 1, datetime.min, "", reason, **columns(own)))  # type: ignore[arg-type]
    await store.add_apiary_policy(unit.connection, apiary_id, own, reason)
    ids = [colony.id for colony in await status.counted_colonies(unit.connection, apiary_id)]
    await recompute_status(unit, ids)
    return await apiary_policy(unit, apiary_id)
