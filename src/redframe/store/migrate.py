"""Bring a database to the schema of this release: plain SQL, forward only, one process at a time."""

from __future__ import annotations

from importlib.resources import files
from pathlib import Path

import psycopg
import yoyo
from psycopg import sql

from redframe.store.roles import APP_ROLE, let_application_in

MIGRATIONS = Path(__file__).with_name("migrations")
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
        # What was said of an apiary's work was said by the rules of another release, perhaps.
        guard.execute("INSERT INTO work_turned (association_id, apiary_id) SELECT association_id, id FROM apiary")
        let_application_in(guard, owner_url)
        # A database that was restored does not bring this with it.
        guard.execute(sql.SQL("REVOKE TEMPORARY ON DATABASE {} FROM PUBLIC").format(sql.Identifier(guard.info.dbname)))
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
