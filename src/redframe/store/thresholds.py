"""The policy of an association, version by version."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from psycopg.types.json import Jsonb

from redframe.store.database import Connection, one, scalar


@dataclass(frozen=True, slots=True)
class Policy:
    """What an association judges and treats by."""

    association_id: UUID
    version: int
    made_at: datetime
    school: str
    threshold_basis: str
    scope: str
    calendar: dict[str, Any]
    treatment_rules: dict[str, Any]


async def policy_in_force(connection: Connection) -> Policy:
    """The latest version. Raises NotFound when the association has none."""
    return await one(connection, Policy, "policy_in_force", what="policy")


async def add_policy(
    connection: Connection,
    *,
    school: str,
    threshold_basis: str,
    scope: str,
    calendar: dict[str, Any],
    treatment_rules: dict[str, Any],
) -> int:
    """Put a new version in force; return its number."""
    return int(
        await scalar(
            connection,
            "add_policy",
            school=school,
            threshold_basis=threshold_basis,
            scope=scope,
            calendar=Jsonb(calendar),
            treatment_rules=Jsonb(treatment_rules),
        )
    )
