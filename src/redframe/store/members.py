"""Who belongs to an association, and who is invited to."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from uuid import UUID

from redframe.core.members.roles import Role
from redframe.store.database import Connection, many, maybe, one, run, scalar
from redframe.store.errors import Conflict, NotFound


@dataclass(frozen=True, slots=True)
class Member:
    """A person in an association; `me` for the person who asks."""

    id: UUID
    name: str
    email: str
    role: Role
    keeper_id: UUID | None
    keeper: str | None
    ended_at: datetime | None
    version: int
    me: bool


@dataclass(frozen=True, slots=True)
class Invitation:
    """An invitation that nobody has taken up yet."""

    id: UUID
    email: str
    role: Role
    keeper_id: UUID | None
    keeper: str | None
    created_at: datetime
    expires_at: datetime
    by_name: str


@dataclass(frozen=True, slots=True)
class OpenedInvitation:
    """What the holder of a link is invited to; `password_hash` where the address belongs to a person already."""

    association: str
    role: Role
    keeper: str | None
    email: str
    password_hash: str | None


@dataclass(frozen=True, slots=True)
class MemberRow(Member):
    """A member with the key of the place in the list."""

    key: str


async def members_page(connection: Connection, find: str, after: tuple[str, UUID], most: int) -> list[MemberRow]:
    """Members of the association, those who have left last, by name: so many behind a place."""
    return await many(
        connection, MemberRow, "members_page", find=find, after_key=after[0], after_id=after[1], most=most
    )


async def member(connection: Connection, membership_id: UUID) -> Member:
    """One member of the association. Raises NotFound."""
    return await one(connection, Member, "member", what="member", id=membership_id)


async def is_member(connection: Connection, email: str) -> bool:
    """Whether an address belongs to somebody who is a member now."""
    return bool(await scalar(connection, "is_member", email=email))


async def amend_member(
    connection: Connection, *, id: UUID, version: int, role: str, keeper_id: UUID | None, ended: bool
) -> None:
    """Amend a membership. Raises Conflict when it has changed since version `version`."""
    if not await run(connection, "amend_member", id=id, version=version, role=role, keeper_id=keeper_id, ended=ended):
        raise Conflict("this member's record was changed by somebody else meanwhile")


async def open_invitations(connection: Connection) -> list[Invitation]:
    """Invitations neither taken up nor withdrawn, the latest first."""
    return await many(connection, Invitation, "open_invitations")


async def add_invitation(
    connection: Connection,
    *,
    id: UUID,
    email: str,
    role: str,
    keeper_id: UUID | None,
    token_hash: bytes,
    lasts: timedelta,
) -> None:
    """Add an invitation under the hash of its link's token."""
    await run(
        connection,
        "add_invitation",
        id=id,
        email=email,
        role=role,
        keeper_id=keeper_id,
        token_hash=token_hash,
        lasts=lasts,
    )


async def renew_invitation(connection: Connection, id: UUID, token_hash: bytes, lasts: timedelta) -> None:
    """Give an open invitation a new link. Raises NotFound when it is not open."""
    if not await run(connection, "renew_invitation", id=id, token_hash=token_hash, lasts=lasts):
        raise NotFound("open invitation")


async def withdraw_invitation(connection: Connection, id: UUID) -> None:
    """Withdraw an open invitation. Raises NotFound when it is not open."""
    if not await run(connection, "withdraw_invitation", id=id):
        raise NotFound("open invitation")


async def invitation_by_token(connection: Connection, token_hash: bytes) -> OpenedInvitation | None:
    """What a link opens, or None when it does not hold (any more)."""
    return await maybe(connection, OpenedInvitation, "invitation_by_token", token_hash=token_hash)


async def accept_invitation(
    connection: Connection,
    token_hash: bytes,
    *,
    person_id: UUID,
    membership_id: UUID,
    name: str,
    password_hash: str | None,
) -> UUID | None:
    """Take an invitation up; a person is made where `password_hash` is given. None when it does not hold any more."""
    found: UUID | None = await scalar(
        connection,
        "accept_invitation",
        token_hash=token_hash,
        person_id=person_id,
        membership_id=membership_id,
        name=name,
        password_hash=password_hash,
    )
    return found
