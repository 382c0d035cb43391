"""The members of an association and its open invitations."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from redframe.store import members as store
from redframe.store.database import Database
from redframe.store.errors import NotFound
from redframe.store.members import Invitation, Member, OpenedInvitation
from redframe.work.members.session import token_hash
from redframe.work.roles import require
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class MembersView:
    """The people of an association and the invitations that are open."""

    members: Sequence[Member]
    invitations: Sequence[Invitation]


async def members_view(unit: UnitOfWork) -> MembersView:
    """The people of the association, for its administrators."""
    require(unit.who, "keep_members")
    return MembersView(await store.members(unit.connection), await store.open_invitations(unit.connection))


async def opened(database: Database, token: str) -> OpenedInvitation:
    """What a link invites to. Raises NotFound when it was used, withdrawn or has run out."""
    async with database.as_nobody() as connection:
        found = await store.invitation_by_token(connection, token_hash(token))
    if found is None:
        raise NotFound("an open invitation for this link was")
    return found
