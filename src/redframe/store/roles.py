"""The two roles of an installation: the owner of its database, and the application, which row-level security binds.

Neither is a superuser, and neither passes row-level security by. A private cluster's superuser makes them; where the
database is somebody else's (DATABASE_URL), its administrator does.
"""

from __future__ import annotations

import hashlib
import hmac
from urllib.parse import quote, unquote, urlsplit, urlunsplit

import psycopg
from psycopg import sql

APP_ROLE = "redframe_app"
LEAST = sql.SQL("NOSUPERUSER NOBYPASSRLS NOCREATEDB NOCREATEROLE NOREPLICATION LOGIN")
Superuser = psycopg.Connection[tuple[object, ...]]

OBJECTS = """
SELECT format('ALTER %%s %%s OWNER TO %%I', CASE c.relkind WHEN 'S' THEN 'SEQUENCE' WHEN 'v' THEN 'VIEW'
              ELSE 'TABLE' END, c.oid::regclass, %(owner)s::text)
FROM pg_class c WHERE c.relnamespace = 'public'::regnamespace AND c.relkind IN ('r', 'p', 'v', 'S')
AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.objid = c.oid AND d.deptype IN ('a', 'i', 'e') AND c.relkind = 'S')
UNION ALL
SELECT format('ALTER ROUTINE %%s OWNER TO %%I', p.oid::regprocedure, %(owner)s::text)
FROM pg_proc p WHERE p.pronamespace = 'public'::regnamespace
AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.objid = p.oid AND d.deptype = 'e')
UNION ALL
SELECT format('ALTER TYPE %%s OWNER TO %%I', t.oid::regtype, %(owner)s::text)
FROM pg_type t LEFT JOIN pg_class c ON c.oid = t.typrelid WHERE t.typnamespace = 'public'::regnamespace
AND (t.typtype IN ('e', 'd') OR (t.typtype = 'c' AND c.relkind = 'c'))
AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.objid = t.oid AND d.deptype = 'e')
"""


def application_url(owner_url: str) -> str:
    """The address under which the application connects: as the role that row-level security binds."""
    parts = urlsplit(owner_url)
    host = parts.netloc.rpartition("@")[2]
    return urlunsplit(parts._replace(netloc=f"{APP_ROLE}:{quote(application_password(owner_url))}@{host}"))


def application_password(owner_url: str) -> str:
    """Derived from the owner's, so that every server of an installation knows it and none has to keep it."""
    secret = urlsplit(owner_url).password or ""
    return hmac.new(secret.encode(), b"redframe application role", hashlib.sha256).hexdigest()


def make_roles(superuser: Superuser, owner_url: str) -> None:
    """Make both roles as they must be, or put them right."""
    parts = urlsplit(owner_url)
    for role, password in (
        (unquote(parts.username or ""), unquote(parts.password or "")),
        (APP_ROLE, application_password(owner_url)),
    ):
        there = superuser.execute("SELECT FROM pg_roles WHERE rolname = %s", [role]).fetchone()
        verb = sql.SQL("ALTER" if there is not None else "CREATE")
        statement = sql.SQL("{} ROLE {} {} PASSWORD {}")
        superuser.execute(statement.format(verb, sql.Identifier(role), LEAST, sql.Literal(password)))


def hand_over(superuser: Superuser, owner: str) -> None:
    """Give a database of an earlier release, which the superuser owned, to its owner with all that is in it."""
    found = superuser.execute("SELECT current_database()").fetchone()
    assert found is not None
    name = sql.Identifier(str(found[0]))
    superuser.execute(sql.SQL("ALTER DATABASE {} OWNER TO {}").format(name, sql.Identifier(owner)))
    for (statement,) in superuser.execute(OBJECTS, {"owner": owner}).fetchall():
        superuser.execute(str(statement).encode())


def let_application_in(owner: Superuser, owner_url: str) -> None:
    """Let the application's role sign in, where the owner may say so; a private cluster has done it already."""
    row = owner.execute(
        "SELECT rolcreaterole OR rolsuper, EXISTS (SELECT FROM pg_roles WHERE rolname = %s AND rolcanlogin) "
        "FROM pg_roles WHERE rolname = current_user",
        [APP_ROLE],
    ).fetchone()
    assert row is not None
    if row[0]:
        statement = sql.SQL("ALTER ROLE {} LOGIN PASSWORD {}")
        password = application_password(owner_url)
        owner.execute(statement.format(sql.Identifier(APP_ROLE), sql.Literal(password)))
    elif not row[1]:
        raise RuntimeError(f"the role {APP_ROLE} may not sign in: see docs/operations.md, A database of your own")
