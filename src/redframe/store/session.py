"""People, memberships, sessions, accepted writes and the history of records."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Literal
from uuid import UUID

from redframe.core.members.roles import Role
from redframe.store.database import Connection, Identity, columns, many, maybe, one, run, scalar
from redframe.store.errors import Conflict, NotFound


@dataclass(frozen=True, slots=True)
class SignIn:
    """What is needed to check a password."""

    person_id: UUID
    password_hash: str
    membership_id: UUID


@dataclass(frozen=True, slots=True)
class Attempt:
    """A password attempt written down before the password is looked at; `failed`: those before it of late for the same
    address, from anywhere."""

    attempt: UUID
    failed: int


@dataclass(frozen=True, slots=True)
class Limits:
    """Failed attempts within a span after which no more is taken: by address and origin together, by origin alone."""

    span: timedelta
    most_by_both: int
    most_by_origin: int


@dataclass(frozen=True, slots=True)
class Session:
    """An open session: who, where, in which role, and the token that guards its writes; `unseen`: that it is used was
    not written down for a while."""

    person_id: UUID
    membership_id: UUID
    association_id: UUID
    role: Role
    keeper_id: UUID | None
    csrf_token: str
    timezone: str
    unseen: bool

    @property
    def identity(self) -> Identity:
        """The person at work."""
        return Identity(
            self.person_id, self.membership_id, self.association_id, self.role, self.keeper_id, self.timezone
        )


Shows = Literal["work", "apiary", "colony", "visit", "course"]
"""What a page is about: the work across all apiaries, or a record of one apiary."""


@dataclass(frozen=True, slots=True)
class Asking:
    """An open session that asks for a page: under what its writes are counted, and how many there were."""

    session: Session
    scope: str
    changes: int


@dataclass(frozen=True, slots=True)
class _AskingRow(Session):
    scope: str
    changes: int


@dataclass(frozen=True, slots=True)
class Device:
    """A session of the person: on which device, since when, last used when, where; `is_this`: the one that asks."""

    id: UUID
    device: str
    opened_at: datetime
    seen_at: datetime
    association: str
    is_this: bool


EventKind = Literal[
    "signed_in", "joined", "wrong_password", "wrong_code", "signed_out", "signed_out_everywhere", "session_ended",
    "password_changed", "second_factor_on", "second_factor_off", "recovery_code_used", "recovery_codes_made",
]  # fmt: skip


@dataclass(frozen=True, slots=True)
class SecurityEvent:
    """What happened to the person's account, from where and on which device, as far as is known."""

    at: datetime
    kind: EventKind
    origin: str
    device: str


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


async def reserve_sign_in(connection: Connection, email: str, origin: str, limits: Limits) -> Attempt | None:
    """Write an attempt down as failed, until it is known better; None where too many failed of late."""
    return await maybe(connection, Attempt, "reserve_sign_in", email=email, origin=origin, **columns(limits))


async def note_proved(connection: Connection, attempt: UUID) -> bool:
    """Say that the password of an attempt was right; True where that is enough, False where a second factor is on."""
    return bool(await scalar(connection, "note_proved", attempt=attempt))


async def note_my_proof(connection: Connection, attempt: UUID) -> None:
    """Say that the password was right that the person at work was asked for again."""
    await run(connection, "note_my_proof", attempt=attempt)


async def open_session(
    connection: Connection, token_hash: bytes, csrf_token: str, membership_id: UUID, lasts: timedelta,
    unused: timedelta, *, device: str, attempt: UUID | None = None, link: bytes | None = None,
) -> bool:  # fmt: skip
    """Open a session under the hash of its token: for the person whose attempt came out well just now, or who has just
    taken up an invitation with the hash of its `link`. False where neither is so. It ends after a while, or `unused`
    for a while."""
    opened = await scalar(
        connection, "open_session", token_hash=token_hash, csrf_token=csrf_token, membership_id=membership_id,
        lasts=lasts, unused=unused, attempt=attempt, link=link, device=device,
    )  # fmt: skip
    return bool(opened)


async def session_by_token(connection: Connection, token_hash: bytes) -> Session | None:
    """The open session with this token, or None."""
    return await maybe(connection, Session, "session_by_token", token_hash=token_hash)


async def session_asking(connection: Connection, token_hash: bytes, shows: Shows, record: UUID | None) -> Asking | None:
    """The open session with this token, with how often was written what it asks for; None where there is none."""
    row = await maybe(connection, _AskingRow, "session_asking", token_hash=token_hash, shows=shows, record=record)
    return None if row is None else Asking(row, row.scope, row.changes)


async def changes(connection: Connection, scope: str) -> int:
    """How often was written what a page of the scope shows, as far as the person at work sees it."""
    return int(await scalar(connection, "changes", scope=scope))


async def session_seen(connection: Connection, token_hash: bytes) -> None:
    """Write down that a session is used."""
    await run(connection, "session_seen", token_hash=token_hash)


async def note_failure(connection: Connection, attempt: UUID, device: str) -> None:
    """Say that the password of an attempt was wrong, or else its code, to whom the address belongs."""
    await run(connection, "note_failure", attempt=attempt, device=device)


async def my_sessions(connection: Connection, token_hash: bytes) -> list[Device]:
    """Where the person at work is signed in, the latest used first."""
    return await many(connection, Device, "my_sessions", token_hash=token_hash)


async def end_session(connection: Connection, session_id: UUID) -> None:
    """End a session of the person at work. Raises NotFound for one that is not the person's."""
    if not await scalar(connection, "end_session", id=session_id):
        raise NotFound("session")


async def my_security_events(connection: Connection, most: int) -> list[SecurityEvent]:
    """What happened to the account of the person at work, the latest first."""
    return await many(connection, SecurityEvent, "my_security_events", most=most)


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


async def set_my_password(connection: Connection, checked_hash: str, new_hash: str) -> None:
    """Replace the person's password. Raises Conflict where it is not any more the one that was checked."""
    if not await scalar(connection, "set_my_password", checked_hash=checked_hash, new_hash=new_hash):
        raise Conflict("the password was changed meanwhile")
