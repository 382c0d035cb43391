"""The policy of an association, version by version, and what single apiaries do otherwise."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from psycopg.types.json import Jsonb

from redframe.store.database import Connection, columns, many, maybe, one, scalar


@dataclass(frozen=True, slots=True)
class Policy:
    """What an association judges and treats by; `levels` are its own figures by scheme and phase, `scoops`
    those whose bees it counted by hand ({ml, bees})."""

    association_id: UUID
    version: int
    created_at: datetime
    scheme: str
    threshold_basis: str
    scope: str
    calendar: dict[str, Any]
    levels: dict[str, Any]
    stale_after_days: int
    stale_after_days_dormant: int
    treatment_rules: dict[str, Any]
    scoops: list[dict[str, Any]]
    disease_region: dict[str, Any]


@dataclass(frozen=True, slots=True)
class ApiaryPolicy:
    """What an apiary does otherwise than its association; None: as the association. `levels` are those of the scheme
    that judges here, by phase."""

    apiary_id: UUID
    version: int
    created_at: datetime
    by_name: str
    reason: str
    scheme: str | None
    scope: str | None
    calendar: dict[str, Any] | None
    levels: dict[str, Any] | None


async def policy_in_force(connection: Connection) -> Policy:
    """The latest version. Raises NotFound when the association has none."""
    return await one(connection, Policy, "policy_in_force", what="policy")


@dataclass(frozen=True, slots=True)
class PolicyDetails:
    """A policy as it is put in force; what is nested stands as JSON."""

    scheme: str
    threshold_basis: str
    scope: str
    calendar: dict[str, Any]
    levels: dict[str, Any]
    stale_after_days: int
    stale_after_days_dormant: int
    treatment_rules: dict[str, Any]
    scoops: list[dict[str, Any]]
    disease_region: dict[str, Any]


async def add_policy(connection: Connection, policy: PolicyDetails) -> int:
    """Put a new version in force; return its number."""
    parts = ("calendar", "levels", "treatment_rules", "scoops", "disease_region")
    nested = {name: Jsonb(getattr(policy, name)) for name in parts}
    return int(await scalar(connection, "add_policy", **{**columns(policy), **nested}))


async def apiary_policies(connection: Connection) -> list[ApiaryPolicy]:
    """The latest of every apiary that ever did otherwise, of those that the person may see."""
    return await many(connection, ApiaryPolicy, "apiary_policies")


async def apiary_policy(connection: Connection, apiary_id: UUID) -> ApiaryPolicy | None:
    """The latest of one apiary; None where it has always followed its association."""
    return await maybe(connection, ApiaryPolicy, "apiary_policy", apiary_id=apiary_id)


@dataclass(frozen=True, slots=True)
class ApiaryDeparture:
    """What an apiary is to do otherwise; None: as its association."""

    scheme: str | None
    scope: str | None
    calendar: dict[str, Any] | None
    levels: dict[str, Any] | None


async def add_apiary_policy(connection: Connection, apiary_id: UUID, own: ApiaryDeparture, reason: str) -> None:
    """Put a new version in force for an apiary."""
    await scalar(
        connection,
        "add_apiary_policy",
        apiary_id=apiary_id,
        reason=reason,
        scheme=own.scheme,
        scope=own.scope,
        calendar=None if own.calendar is None else Jsonb(own.calendar),
        levels=None if own.levels is None else Jsonb(own.levels),
    )
