"""The first administrator of a real installation, and the association that he or she looks after."""

from __future__ import annotations

import getpass
import sys
from typing import Any
from uuid import uuid4
from zoneinfo import ZoneInfo

import psycopg

from redframe.core.errors import InvalidInput
from redframe.core.season.calendar import Calendar
from redframe.launch.system import fail, say
from redframe.store import installation
from redframe.work.members.passwords import Argon2Hasher, check_new_password

NORTH: dict[str, Any] = {
    "dormant": "11-01",
    "build_up": "03-01",
    "peak": "05-15",
    "decline": "07-25",
    "winter_bees": "08-25",
    "lead_days": 42,
}
SOUTH: dict[str, Any] = {
    "dormant": "05-01",
    "build_up": "08-30",
    "peak": "11-15",
    "decline": "01-25",
    "winter_bees": "02-24",
    "lead_days": 42,
}


def add_administrator(owner_url: str, *, association: str, email: str, name: str, timezone: str, south: bool) -> None:
    """Add an administrator, and the association when it is new, with a calendar to be corrected under Policy."""
    try:
        ZoneInfo(timezone)
    except (KeyError, ValueError):
        fail(f"{timezone} is not a time zone (write it as Area/Place)")
    address = email.strip().lower()
    with psycopg.connect(owner_url) as owner:
        if installation.person_is_known(owner, address):
            fail(f"{address} signs in here already: an administrator of the association can invite that address")
    password = _ask_password(address, name)
    calendar = SOUTH if south else NORTH
    Calendar.parse(calendar)
    with psycopg.connect(owner_url) as owner:
        association_id = installation.association_by_name(owner, association)
        if association_id is None:
            association_id = uuid4()
            installation.insert_association(owner, association_id, association, timezone)
            installation.insert_first_policy(
                owner, association_id, scheme="season_phase", scope="whole_apiary", calendar=calendar, rules={}
            )
        person_id = uuid4()
        installation.insert_person(owner, person_id, address, name, Argon2Hasher().hash(password))
        installation.insert_membership(owner, uuid4(), person_id, association_id, "administrator")
    say(f"{address} is administrator of {association}")


def set_password(owner_url: str, email: str, *, forget_second_factor: bool) -> None:
    """Give somebody who has forgotten the password a new one; every device of that person is signed out. A second
    factor stays on unless it is to be forgotten."""
    password_hash = Argon2Hasher().hash(_ask_password(email))
    with psycopg.connect(owner_url) as owner:
        if not installation.replace_password(owner, email.lower(), password_hash):
            fail(f"nobody signs in as {email}")
        if forget_second_factor:
            installation.forget_second_factor(owner, email.lower())
    say(f"{email} has a new password" + (" and no second factor" if forget_second_factor else ""))


def _ask_password(*about: str) -> str:
    password = getpass.getpass("Password: ") if sys.stdin.isatty() else sys.stdin.readline().rstrip("\n")
    try:
        check_new_password(password, "password", about)
    except InvalidInput as error:
        fail(f"password: {error.message}")
    return password
