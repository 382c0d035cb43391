"""The first administrator of a real installation, and the association that he or she looks after."""

from __future__ import annotations

import getpass
import sys
from uuid import uuid4
from zoneinfo import ZoneInfo

import psycopg
from psycopg.types.json import Jsonb

from redframe.core.errors import InvalidInput
from redframe.core.season.calendar import Calendar
from redframe.launch.system import fail, say
from redframe.work.members.passwords import Argon2Hasher
from redframe.work.members.session import check_new_password

NORTH = {
    "dormant": "11-01",
    "build_up": "03-01",
    "peak": "05-15",
    "decline": "07-25",
    "winter_bees": "08-25",
    "lead_days": 42,
}
SOUTH = {
    "dormant": "05-01",
    "build_up": "08-30",
    "peak": "11-15",
    "decline": "01-25",
    "winter_bees": "02-24",
    "lead_days": 42,
}


def add_administrator(owner_url: str, *, association: str, email: str, name: str, timezone: str, south: bool) -> None:
    """Add an administrator, and the association when it is new, with a calendar to be dated anew under Policy."""
    try:
        ZoneInfo(timezone)
    except (KeyError, ValueError):
        fail(f"{timezone} is not a time zone (write it as Area/Place)")
    password = _ask_password()
    calendar = SOUTH if south else NORTH
    Calendar.parse(calendar)
    with psycopg.connect(owner_url) as connection:
        row = connection.execute("SELECT id FROM association WHERE name = %s", [association]).fetchone()
        association_id = row[0] if row else uuid4()
        if row is None:
            connection.execute(
                "INSERT INTO association (id, name, timezone) VALUES (%s, %s, %s)",
                [association_id, association, timezone],
            )
            connection.execute(
                "INSERT INTO policy (association_id, version, school, calendar) VALUES (%s, 1, 'season_phase', %s)",
                [association_id, Jsonb(calendar)],
            )
        person_id = uuid4()
        connection.execute(
            "INSERT INTO person (id, email, name, password_hash) VALUES (%s, %s, %s, %s)",
            [person_id, email.lower(), name, Argon2Hasher().hash(password)],
        )
        connection.execute(
            "INSERT INTO membership (id, person_id, association_id, role) VALUES (%s, %s, %s, 'administrator')",
            [uuid4(), person_id, association_id],
        )
    say(f"{email} is administrator of {association}")


def set_password(owner_url: str, email: str) -> None:
    """Give somebody who has forgotten the password a new one; every device of that person is signed out."""
    password_hash = Argon2Hasher().hash(_ask_password())
    with psycopg.connect(owner_url) as connection:
        row = connection.execute(
            "UPDATE person SET password_hash = %s WHERE email = %s RETURNING id", [password_hash, email.lower()]
        ).fetchone()
        if row is None:
            fail(f"nobody signs in as {email}")
        connection.execute(
            "DELETE FROM session WHERE membership_id IN (SELECT id FROM membership WHERE person_id = %s)", [row[0]]
        )
    say(f"{email} has a new password")


def _ask_password() -> str:
    password = getpass.getpass("Password: ") if sys.stdin.isatty() else sys.stdin.readline().rstrip("\n")
    try:
        check_new_password(password)
    except InvalidInput as error:
        fail(f"password: {error.message}")
    return password
