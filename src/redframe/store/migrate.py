"""Bring a database to the schema of this release: plain SQL, forward only, one process at a time."""

from __future__ import annotations

import hashlib
import hmac
from pathlib import Path
from urllib.parse import quote, urlsplit, urlunsplit

import psycopg
import yoyo
from psycopg import sql

MIGRATIONS = Path(__file__).with_name("migrations")
APP_ROLE = "redframe_app"
_LOCK_KEY = 7_281_903_115


def migrate(owner_url: str) -> int:
    """Apply what is missing under an advisory lock; return the number of migrations applied.

    A migration lock left by a killed run is broken first: the advisory lock proves that nobody holds it.
    """
    with psycopg.connect(owner_url, autocommit=True) as guard:
        guard.execute("SELECT pg_advisory_lock(%s)", [_LOCK_KEY])
        backend = yoyo.get_backend(owner_url.replace("postgresql://", "postgresql+psycopg://", 1))
        try:
            backend.break_lock()
            with backend.lock():
                missing = backend.to_apply(yoyo.read_migrations(str(MIGRATIONS)))
                backend.apply_migrations(missing)
        finally:
            backend.connection.close()
        _let_application_in(guard, owner_url)
        return len(missing)


def application_url(owner_url: str) -> str:
    """The address under which the application connects: as the role that row-level security binds."""
    parts = urlsplit(owner_url)
    host = parts.netloc.rpartition("@")[2]
    return urlunsplit(parts._replace(netloc=f"{APP_ROLE}:{quote(_application_password(owner_url))}@{host}"))


def _application_password(owner_url: str) -> str:
    """Derived from the owner's, so that every server of an installation knows it and none has to keep it."""
    secret = urlsplit(owner_url).password or ""
    return hmac.new(secret.encode(), b"redframe application role", hashlib.sha256).hexdigest()


def _let_application_in(connection: psycopg.Connection[tuple[object, ...]], owner_url: str) -> None:
    statement = sql.SQL("ALTER ROLE {} LOGIN PASSWORD {}")
    connection.execute(statement.format(sql.Identifier(APP_ROLE), sql.Literal(_application_password(owner_url))))
