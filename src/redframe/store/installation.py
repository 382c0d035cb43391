"""What an installation's owner writes before anybody can sign in: associations, their first people, the demo's marker.

The connection is the owner's, which row-level security does not bind.
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

import psycopg
import psycopg.sql
from psycopg.types.json import Jsonb

from redframe.store.database import sql

Owner = psycopg.Connection[tuple[Any, ...]]


def association_by_name(owner: Owner, name: str) -> UUID | None:
    """The id of an association; None where there is none of this name."""
    row = owner.execute(sql("association_by_name"), {"name": name}).fetchone()
    return row[0] if row is not None else None


def insert_association(
    owner: Owner, association_id: UUID, name: str, timezone: str, created_at: datetime | None = None
) -> None:
    """Add an association."""
    fields = {"id": association_id, "name": name, "timezone": timezone, "created_at": created_at}
    owner.execute(sql("insert_association"), fields)


def insert_first_policy(
    owner: Owner, association_id: UUID, *, scheme: str, scope: str, calendar: dict[str, Any], rules: dict[str, Any],
    region: dict[str, Any] | None = None,
) -> None:  # fmt: skip
    """Put the first policy of an association in force."""
    owner.execute(
        sql("insert_first_policy"),
        {"association_id": association_id, "scheme": scheme, "scope": scope, "calendar": Jsonb(calendar),
         "treatment_rules": Jsonb(rules), "disease_region": Jsonb(region or {})},
    )  # fmt: skip


def mark_begun(owner: Owner, association_id: UUID) -> None:
    """An association that is under way is not led through its beginning."""
    owner.execute(sql("mark_begun"), {"association_id": association_id})


def insert_keeper(owner: Owner, keeper_id: UUID, association_id: UUID, name: str, registration: str) -> None:
    """Add a keeper."""
    fields = {"id": keeper_id, "association_id": association_id, "name": name, "registration": registration}
    owner.execute(sql("insert_first_keeper"), fields)


def insert_person(owner: Owner, person_id: UUID, email: str, name: str, password_hash: str) -> None:
    """Add a person who can sign in."""
    fields = {"id": person_id, "email": email, "name": name, "password_hash": password_hash}
    owner.execute(sql("insert_person"), fields)


def insert_membership(
    owner: Owner, membership_id: UUID, person_id: UUID, association_id: UUID, role: str, keeper_id: UUID | None = None
) -> None:
    """Let a person work in an association."""
    owner.execute(
        sql("insert_membership"),
        {"id": membership_id, "person_id": person_id, "association_id": association_id, "role": role,
         "keeper_id": keeper_id},
    )  # fmt: skip


def replace_password(owner: Owner, email: str, password_hash: str) -> bool:
    """Give somebody a new password and sign every device out; False where nobody signs in with this address."""
    fields = {"email": email, "password_hash": password_hash}
    return owner.execute(sql("replace_password"), fields).fetchone() is not None


def forget_second_factor(owner: Owner, email: str) -> None:
    """Turn somebody's second factor off."""
    owner.execute(sql("forget_second_factor"), {"email": email})


def person_is_known(owner: Owner, email: str) -> bool:
    """Whether somebody signs in with an address."""
    row = owner.execute(sql("person_is_known"), {"email": email}).fetchone()
    return bool(row and row[0])


def demo_is_loaded(owner: Owner) -> bool:
    """Whether the demo was loaded to its end."""
    row = owner.execute(sql("demo_is_loaded")).fetchone()
    return bool(row and row[0])


def holds_other_association(owner: Owner, ours: Sequence[UUID]) -> bool:
    """Whether the database holds an association that is none of these."""
    return owner.execute(sql("foreign_association"), {"ids": list(ours)}).fetchone() is not None


def clear_demo(owner: Owner) -> None:
    """Take away what a load of the demo that was killed left behind."""
    owner.execute(sql("clear_demo"))


def mark_demo_loaded(owner: Owner) -> None:
    """Write down that the demo was loaded to its end."""
    owner.execute(sql("mark_demo_loaded"))


def analyse(owner: Owner, *, vacuum: bool = False) -> None:
    """Tell the planner about tables that have grown."""
    owner.execute(sql("vacuum" if vacuum else "analyse"))


def filled_tables(owner: Owner) -> list[str]:
    """The tables that hold any row."""
    tables = [str(row[0]) for row in owner.execute(sql("own_tables")).fetchall()]
    statement = "SELECT EXISTS (SELECT FROM {})"
    return [
        table
        for table in tables
        if owner.execute(psycopg.sql.SQL(statement).format(psycopg.sql.Identifier(table))).fetchone() == (True,)
    ]
