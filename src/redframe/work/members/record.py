"""Inviting people to an association, taking an invitation up, changing a role, and ending a membership."""

from __future__ import annotations

import asyncio
import secrets
from dataclasses import dataclass
from datetime import timedelta
from uuid import UUID, uuid4

from redframe.core.errors import InvalidInput
from redframe.core.members.roles import Role
from redframe.store import members as store
from redframe.store import places
from redframe.store.database import Database
from redframe.store.errors import NotFound
from redframe.store.members import Invitation, Member
from redframe.work.members import session as members_session
from redframe.work.members.passwords import check_new_password
from redframe.work.members.read import opened
from redframe.work.members.session import OpenSession, PasswordHasher, token_hash
from redframe.work.roles import require
from redframe.work.unit_of_work import UnitOfWork

INVITATION_LASTS = timedelta(days=14)


@dataclass(frozen=True, slots=True)
class Invited:
    """An invitation with the token of its link, which is known only here and to whoever gets the link."""

    invitation: Invitation
    token: str


async def invite(unit: UnitOfWork, invitation_id: UUID, *, email: str, role: Role, keeper_id: UUID | None) -> Invited:
    """Invite an address once; the same write again gives a new link, since nobody has seen the first.

    Raises InvalidInput for an address that belongs to a member or is invited already, and for a keeper's role
    without its keeper.
    """
    require(unit.who, "keep_members")
    address = email.strip().lower()
    await _check_role(unit, role, keeper_id)
    token = secrets.token_urlsafe(32)
    if await unit.accept(invitation_id, "invitation", {"email": address, "role": role, "keeper": keeper_id}):
        if await store.is_member(unit.connection, address):
            raise InvalidInput("email", "belongs to a member already", code="taken")
        if any(one.email == address for one in await store.open_invitations(unit.connection)):
            raise InvalidInput("email", "is invited already: withdraw that invitation first", code="taken")
        await store.add_invitation(
            unit.connection,
            id=invitation_id,
            email=address,
            role=role,
            keeper_id=keeper_id,
            token_hash=token_hash(token),
            lasts=INVITATION_LASTS,
        )
    else:
        await store.renew_invitation(unit.connection, invitation_id, token_hash(token), INVITATION_LASTS)
    return await _invited(unit, invitation_id, token)


async def renew(unit: UnitOfWork, invitation_id: UUID) -> Invited:
    """A new link for an open invitation; the one before opens nothing any more. Raises NotFound."""
    require(unit.who, "keep_members")
    token = secrets.token_urlsafe(32)
    await store.renew_invitation(unit.connection, invitation_id, token_hash(token), INVITATION_LASTS)
    return await _invited(unit, invitation_id, token)


async def _invited(unit: UnitOfWork, invitation_id: UUID, token: str) -> Invited:
    found = await store.open_invitations(unit.connection)
    return Invited(next(one for one in found if one.id == invitation_id), token)


async def withdraw(unit: UnitOfWork, invitation_id: UUID) -> None:
    """Withdraw an open invitation. Raises NotFound."""
    require(unit.who, "keep_members")
    await store.withdraw_invitation(unit.connection, invitation_id)


async def amend_member(
    unit: UnitOfWork, membership_id: UUID, version: int, *, role: Role, keeper_id: UUID | None, ended: bool
) -> Member:
    """Change a member's role or end the membership; it opens nothing from then on, and what was recorded stays.

    Raises Conflict when the record has changed, or when nobody would be left to administer the association, NotFound.
    """
    require(unit.who, "keep_members")
    await store.member(unit.connection, membership_id)
    await _check_role(unit, role, keeper_id)
    await store.amend_member(
        unit.connection, id=membership_id, version=version, role=role, keeper_id=keeper_id, ended=ended
    )
    return await store.member(unit.connection, membership_id)


async def _check_role(unit: UnitOfWork, role: Role, keeper_id: UUID | None) -> None:
    if role != "keeper":
        if keeper_id is not None:
            raise InvalidInput("keeper_id", "only the role keeper goes with a keeper")
        return
    if keeper_id not in {keeper.id for keeper in await places.keepers(unit.connection)}:
        raise InvalidInput("keeper_id", "choose whose apiaries this person keeps", code="missing")


async def join(
    database: Database, hasher: PasswordHasher, token: str, *, name: str, password: str, code: str, origin: str,
    device: str,
) -> OpenSession:  # fmt: skip
    """Take an invitation up and open a session. Who has an account proves it as at a sign-in; who is new sets a
    password.

    Raises NotFound, TooManyAttempts, CodeNeeded, and InvalidInput for `name` or `password`.
    """
    found = await opened(database, token)
    new_hash: str | None = None
    attempt: UUID | None = None
    if found.password_hash is None:
        if not name:
            raise InvalidInput("name", "enter your name", code="missing")
        await asyncio.to_thread(check_new_password, password, "password", (found.email, name))
        new_hash = await asyncio.to_thread(hasher.hash, password)
    else:
        attempt = await members_session.begin_attempt(database, found.email, origin)
        if not await asyncio.to_thread(hasher.verify, found.password_hash, password):
            await members_session.note_failure(database, attempt, device)
            raise InvalidInput("password", "is not the password of your account", code="wrong")
        await members_session.prove(database, attempt, code, device)
    async with database.as_nobody() as connection:
        membership = await store.accept_invitation(
            connection,
            token_hash(token),
            person_id=uuid4(),
            membership_id=uuid4(),
            name=name,
            password_hash=new_hash,
        )
    if membership is None:
        raise NotFound("an open invitation for this link was")
    return await members_session.open_session(database, membership, device, attempt=attempt, link=token_hash(token))
