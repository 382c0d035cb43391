"""Signing in and out, the person's own settings, and the first administrator."""

from __future__ import annotations

import asyncio
import hashlib
import secrets
from dataclasses import dataclass
from datetime import timedelta
from typing import Protocol
from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.store import session as store
from redframe.store.database import Database, Identity
from redframe.store.session import Asking, Device, Limits, Me, PlaceOfWork, SecurityEvent, Session, Shows
from redframe.work.members import second_factor
from redframe.work.members.passwords import check_new_password
from redframe.work.unit_of_work import Services, UnitOfWork

SESSION_LASTS = timedelta(days=14)
UNUSED_LASTS = timedelta(days=8)
"""A session that nobody uses for so long ends: a telephone that was lost, a browser that was left open. Longer than the
week between two rounds."""
MOST_EVENTS = 20
LIMITS = Limits(timedelta(minutes=15), most_by_both=8, most_by_origin=40)
FREE_FAILURES = 4
"""Failed attempts for one address, from wherever, before the next one has to wait."""
LONGEST_WAIT_S = 8.0


class PasswordHasher(Protocol):
    """Hashes and checks passwords (argon2 in the application, a fast setting of it in tests)."""

    nobody: str
    """A hash that belongs to no password: checking it costs as much as checking a real one."""

    def hash(self, password: str) -> str:
        """Hash a password."""

    def verify(self, password_hash: str, password: str) -> bool:
        """Whether the password belongs to the hash."""


class TooManyAttempts(Exception):
    """Sign-in is throttled; `retry_after_seconds` says for how long at most."""

    def __init__(self) -> None:
        super().__init__("too many attempts; wait a quarter of an hour")
        self.retry_after_seconds = int(LIMITS.span.total_seconds())


class WrongSignIn(Exception):
    """E-mail address and password do not belong together; which of them is wrong is not said."""


class CodeNeeded(Exception):
    """The password is right and a second factor is on; `wrong`: the code given is not the one of this moment."""

    def __init__(self, *, wrong: bool) -> None:
        super().__init__(
            "not the code of this moment, or used already" if wrong else "enter the code of your second factor"
        )
        self.wrong = wrong


@dataclass(frozen=True, slots=True)
class OpenSession:
    """A session just opened; the token is known only here and to the browser."""

    token: str
    csrf_token: str


def token_hash(token: str) -> bytes:
    """What the store keeps of a token."""
    return hashlib.sha256(token.encode()).digest()


async def sign_in(
    database: Database, hasher: PasswordHasher, email: str, password: str, code: str, origin: str, device: str
) -> OpenSession:
    """Check a password, and the code of a second factor where one is on, and open a session. Raises TooManyAttempts,
    WrongSignIn or CodeNeeded.

    Both wrong cases cost one hash, so that the time taken does not tell whether an address is known.
    """
    attempt = await begin_attempt(database, email, origin)
    async with database.as_nobody() as connection:
        found = await store.sign_in_by_email(connection, email)
    known = found.password_hash if found else hasher.nobody
    if not await asyncio.to_thread(hasher.verify, known, password) or found is None:
        await note_failure(database, attempt, device)
        raise WrongSignIn
    await prove(database, attempt, code, device)
    return await open_session(database, found.membership_id, device, attempt=attempt)


async def begin_attempt(database: Database, email: str, origin: str) -> UUID:
    """Write an attempt down before its password is looked at. Raises TooManyAttempts.

    The door shuts for an address from one origin, so that nobody can shut it for somebody elsewhere; from anywhere else
    the address is answered later and later.
    """
    async with database.as_nobody() as connection:
        reserved = await store.reserve_sign_in(connection, email, origin, LIMITS)
    if reserved is None:
        raise TooManyAttempts
    await asyncio.sleep(wait_after(reserved.failed))
    return reserved.attempt


def wait_after(failed: int) -> float:
    """Seconds that the next attempt for an address waits after so many failed: none at first, then ever longer."""
    over = failed - FREE_FAILURES
    return 0.0 if over < 0 else float(min(LONGEST_WAIT_S, 0.25 * 2 ** min(over, 10)))


async def prove(database: Database, attempt: UUID, code: str, device: str) -> None:
    """Say that the password of an attempt was right, and see the code of a second factor where one is on. Raises
    CodeNeeded."""
    async with database.as_nobody() as connection:
        if await store.note_proved(connection, attempt):
            return
        if not code:
            raise CodeNeeded(wrong=False)
        if await second_factor.show(connection, attempt, code, device):
            return
    await note_failure(database, attempt, device)
    raise CodeNeeded(wrong=True)


async def note_failure(database: Database, attempt: UUID, device: str) -> None:
    """Say that the password of an attempt was wrong, or else its code: its owner finds it among what happened to the
    account."""
    async with database.as_nobody() as connection:
        await store.note_failure(connection, attempt, device)


async def open_session(
    database: Database, membership_id: UUID, device: str, *, attempt: UUID | None = None, link: bytes | None = None
) -> OpenSession:
    """Open a session of a membership, for an attempt that came out well or a `link` just taken up. Raises WrongSignIn
    where the membership has ended meanwhile."""
    token, csrf = secrets.token_urlsafe(32), secrets.token_urlsafe(24)
    async with database.as_nobody() as connection:
        is_open = await store.open_session(
            connection, token_hash(token), csrf, membership_id, SESSION_LASTS, UNUSED_LASTS, device=device,
            attempt=attempt, link=link,
        )  # fmt: skip
    if not is_open:
        raise WrongSignIn
    return OpenSession(token, csrf)


async def session_of(database: Database, token: str) -> Session | None:
    """The open session that a token belongs to."""
    async with database.as_nobody() as connection:
        found = await store.session_by_token(connection, token_hash(token))
        if found is not None and found.unseen:
            await store.session_seen(connection, token_hash(token))
        return found


async def session_asking(database: Database, token: str, shows: Shows, record: UUID | None) -> Asking | None:
    """The open session that a token belongs to, with how often was written what a page shows: all apiaries, or the
    apiary of a record."""
    async with database.as_nobody() as connection:
        found = await store.session_asking(connection, token_hash(token), shows, record)
        if found is not None and found.session.unseen:
            await store.session_seen(connection, token_hash(token))
        return found


async def sign_out(database: Database, token: str) -> None:
    """Close one session."""
    async with database.as_nobody() as connection:
        await store.close_session(connection, token_hash(token))


async def sign_out_everywhere(unit: UnitOfWork) -> None:
    """Close every session of the person."""
    await store.close_all_sessions(unit.connection)


async def devices(unit: UnitOfWork, token: str) -> list[Device]:
    """Where the person is signed in, the latest used first."""
    return await store.my_sessions(unit.connection, token_hash(token))


async def sign_out_device(unit: UnitOfWork, session_id: UUID) -> None:
    """End one session of the person. Raises NotFound."""
    await store.end_session(unit.connection, session_id)


async def security_events(unit: UnitOfWork) -> list[SecurityEvent]:
    """What happened to the person's account of late, the latest first."""
    return await store.my_security_events(unit.connection, MOST_EVENTS)


async def me(unit: UnitOfWork) -> tuple[Me, list[PlaceOfWork]]:
    """The person at work and the associations that the person can work in."""
    return await store.me(unit.connection), await store.my_places_of_work(unit.connection)


async def switch(unit: UnitOfWork, token: str, membership_id: UUID) -> None:
    """Go on in another association. Raises NotFound for a membership that is not the person's."""
    await store.switch_session(unit.connection, token_hash(token), membership_id)


async def amend_me(unit: UnitOfWork, *, name: str, temperature: str, mass: str, volume: str, theme: str) -> Me:
    """Change the person's own settings."""
    await store.amend_me(unit.connection, name=name, temperature=temperature, mass=mass, volume=volume, theme=theme)
    return await store.me(unit.connection)


async def change_password(
    services: Services, who: Identity, hasher: PasswordHasher, present: str, new: str, origin: str
) -> None:
    """Change the password; every session is closed. Raises InvalidInput for `present` or `new`, TooManyAttempts.

    Passwords are hashed between two transactions: no connection waits for it.
    """
    async with services.unit_of_work(who) as unit:
        person = await store.me(unit.connection)
    await asyncio.to_thread(check_new_password, new, "new", (person.email, person.name))
    known = await check_present(services, who, hasher, present, origin)
    hashed = await asyncio.to_thread(hasher.hash, new)
    async with services.unit_of_work(who) as unit:
        await store.set_my_password(unit.connection, known, hashed)
        await store.close_all_sessions(unit.connection)


async def check_present(services: Services, who: Identity, hasher: PasswordHasher, present: str, origin: str) -> str:
    """See that somebody who is at work knows the password; return the hash that it was checked against. Raises
    InvalidInput("present"), TooManyAttempts."""
    async with services.unit_of_work(who) as unit:
        email, known = (await store.me(unit.connection)).email, await store.my_password(unit.connection)
    attempt = await begin_attempt(services.database, email, origin)
    if not await asyncio.to_thread(hasher.verify, known, present):
        await note_failure(services.database, attempt, "")
        raise InvalidInput("present", "is not your current password", code="wrong")
    async with services.unit_of_work(who) as unit:
        await store.note_my_proof(unit.connection, attempt)
    return known
