"""Bring a database to the schema of this release: plain SQL, forward only, one process at a time."""

from __future__ import annotations

import hashlib
import hmac
from importlib.resources import files
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
        _set_up_queue(guard)
        _let_application_in(guard, owner_url)
        return len(missing)


def _set_up_queue(connection: psycopg.Connection[tuple[object, ...]]) -> None:
    """The tables of the job queue, as its library ships them for its pinned version; the application may use them."""
    found = connection.execute("SELECT to_regclass('procrastinate_jobs') IS NULL").fetchone()
    if found is not None and found[0]:
        schema = (files("procrastinate") / "sql" / "schema.sql").read_text(encoding="utf-8")
        connection.execute(schema.encode())
    for kind, right in (("TABLES", "SELECT, INSERT, UPDATE, DELETE"), ("SEQUENCES", "USAGE, SELECT")):
        names = connection.execute(QUEUE_PARTS, [kind]).fetchall()
        for (name,) in names:
            table, role = sql.Identifier(str(name)), sql.Identifier(APP_ROLE)
            connection.execute(sql.SQL("GRANT {} ON {} TO {}").format(sql.SQL(right), table, role))


QUEUE_PARTS = """
    SELECT relname FROM pg_class
    WHERE relnamespace = 'public'::regnamespace AND relname LIKE 'procrastinate%%'
    AND relkind = CASE %s WHEN 'TABLES' THEN 'r' ELSE 'S' END
"""


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
