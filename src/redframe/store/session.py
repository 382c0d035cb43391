"""People, memberships, sessions, accepted writes and the history of records."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from uuid import UUID

from redframe.core.members.roles import Role
from redframe.store.database import Connection, Identity, many, maybe, one, run, scalar
from redframe.store.errors import NotFound


@dataclass(frozen=True, slots=True)
class SignIn:
    """What is needed to check a password."""

    person_id: UUID
    password_hash: str
    membership_id: UUID


@dataclass(frozen=True, slots=True)
class Failures:
    """Failed sign-ins of late, for one e-mail address and from one origin."""

    by_email: int
    by_origin: int


@dataclass(frozen=True, slots=True)
class Session:
    """An open session: who, where, in which role, and the token that guards its writes."""

    person_id: UUID
    membership_id: UUID
    association_id: UUID
    role: Role
    keeper_id: UUID | None
    csrf_token: str
    timezone: str

    @property
    def identity(self) -> Identity:
        """The person at work."""
        return Identity(
            self.person_id, self.membership_id, self.association_id, self.role, self.keeper_id, self.timezone
        )


@dataclass(frozen=True, slots=True)
class Me:
    """The signed-in person and the association at work in."""

    id: UUID
    email: str
    name: str
    temperature: str
    mass: str
    volume: str
    theme: str
    association_id: UUID
    association: str
    timezone: str


@dataclass(frozen=True, slots=True)
class PlaceOfWork:
    """A membership that the person can switch to."""

    membership_id: UUID
    association_name: str
    role: Role


async def sign_in_by_email(connection: Connection, email: str) -> SignIn | None:
    """The person with this e-mail address, or None."""
    return await maybe(connection, SignIn, "sign_in_by_email", email=email)


async def failures_since(connection: Connection, email: str, origin: str, since: timedelta) -> Failures:
    """Failed sign-ins within the span."""
    return await one(connection, Failures, "sign_in_failures_since", email=email, origin=origin, since=since)


async def note_sign_in(connection: Connection, email: str, origin: str, ok: bool) -> None:
    """Remember an attempt."""
    await run(connection, "note_sign_in", email=email, origin=origin, ok=ok)


async def open_session(
    connection: Connection, token_hash: bytes, csrf_token: str, membership_id: UUID, lasts: timedelta
) -> None:
    """Open a session under the hash of its token."""
    await run(
        connection,
        "open_session",
        token_hash=token_hash,
        csrf_token=csrf_token,
        membership_id=membership_id,
        lasts=lasts,
    )


async def session_by_token(connection: Connection, token_hash: bytes) -> Session | None:
    """The open session with this token, or None."""
    return await maybe(connection, Session, "session_by_token", token_hash=token_hash)


async def close_session(connection: Connection, token_hash: bytes) -> None:
    """Close one session."""
    await run(connection, "close_session", token_hash=token_hash)


async def close_all_sessions(connection: Connection) -> None:
    """Close every session of the person at work."""
    await run(connection, "close_all_sessions")


async def switch_session(connection: Connection, token_hash: bytes, membership_id: UUID) -> None:
    """Go on in another association. Raises NotFound for a membership that is not the person's."""
    if not await scalar(connection, "switch_session", token_hash=token_hash, membership_id=membership_id):
        raise NotFound("membership")


async def me(connection: Connection) -> Me:
    """The person at work."""
    return await one(connection, Me, "me", what="person")


async def my_places_of_work(connection: Connection) -> list[PlaceOfWork]:
    """The person's memberships."""
    return await many(connection, PlaceOfWork, "my_places_of_work")


async def amend_me(connection: Connection, **fields: str) -> None:
    """Change the person's name, units or theme."""
    await run(connection, "amend_me", **fields)


async def my_password(connection: Connection) -> str:
    """The password hash of the person at work."""
    return str(await scalar(connection, "my_password"))


async def set_my_password(connection: Connection, password_hash: str) -> None:
    """Replace the person's password."""
    await run(connection, "set_my_password", password_hash=password_hash)
