"""Backup and restore with PostgreSQL's own tools."""

from __future__ import annotations

import os
import subprocess
from pathlib import Path
from urllib.parse import urlsplit, urlunsplit

from redframe.launch.system import fail, postgres_bin, say
from redframe.store.roles import APP_ROLE


def connection_of(owner_url: str) -> tuple[str, dict[str, str]]:
    """The address without its password, and the password where the tools look for it (not on the command line)."""
    parts = urlsplit(owner_url)
    user, host = parts.username or "", parts.netloc.rpartition("@")[2]
    bare = urlunsplit(parts._replace(netloc=f"{user}@{host}" if user else host))
    return bare, {**os.environ, "PGPASSWORD": parts.password or ""}


def backup(owner_url: str, file: Path) -> None:
    """Write a backup of the database to a file (PostgreSQL's custom format)."""
    url, env = connection_of(owner_url)
    if file.exists():
        fail(f"{file} is there already")
    command = [str(postgres_bin() / "pg_dump"), "--format=custom", "--no-owner", f"--file={file}", url]
    # It holds every record there is: for the eyes of whoever made it.
    done = subprocess.run(command, env=env, check=False, umask=0o077)
    if done.returncode != 0:
        file.unlink(missing_ok=True)
        fail("the backup did not work (see above)")
    say(f"backup written to {file} ({file.stat().st_size / 1e6:.1f} MB)")


def restore(owner_url: str, file: Path) -> None:
    """Put a backup back, all of it or nothing. The database must be empty: nothing is ever written over."""
    import psycopg

    if not file.exists():
        fail(f"{file} is not there")
    url, env = connection_of(owner_url)
    with psycopg.connect(owner_url) as connection:
        there = connection.execute("SELECT to_regclass('public.association')").fetchone()
        if there is not None and there[0] is not None:
            fail("this database holds records; restore into a new data folder (--data)")
        if connection.execute("SELECT FROM pg_roles WHERE rolname = %s", [APP_ROLE]).fetchone() is None:
            connection.execute(f"CREATE ROLE {APP_ROLE} NOLOGIN")
    command = [str(postgres_bin() / "pg_restore"), "--no-owner", "--single-transaction", "--exit-on-error",
               f"--dbname={url}", str(file)]  # fmt: skip
    if subprocess.run(command, env=env, check=False).returncode != 0:
        fail("the restore did not work (see above)")
    say(f"restored from {file}")
