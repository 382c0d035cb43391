"""The members of an association and its open invitations."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields

from redframe.store import members as store
from redframe.store.database import Database
from redframe.store.errors import NotFound
from redframe.store.members import Invitation, Member, OpenedInvitation
from redframe.work.members.session import token_hash
from redframe.work.pages import place, place_after
from redframe.work.roles import require
from redframe.work.unit_of_work import UnitOfWork

PAGE = 60


@dataclass(frozen=True, slots=True)
class MembersView:
    """A page of the people of an association; `next`: where the one after it begins. `invitations` that are open come
    with the first page."""

    members: Sequence[Member]
    next: str | None
    invitations: Sequence[Invitation]


async def members_view(unit: UnitOfWork, find: str = "", after: str | None = None, most: int = PAGE) -> MembersView:
    """The people of the association, for its administrators. Raises InvalidInput("after")."""
    require(unit.who, "keep_members")
    found = await store.members_page(unit.connection, find.strip().lower(), place_after(after), most + 1)
    last = found[most - 1] if len(found) > most else None
    invitations = await store.open_invitations(unit.connection) if after is None else []
    members = [Member(**{field.name: getattr(one, field.name) for field in fields(Member)}) for one in found[:most]]
    return MembersView(members, place(last.key, last.id) if last else None, invitations)


async def opened(database: Database, token: str) -> OpenedInvitation:
    """What a link invites to. Raises NotFound when it was used, withdrawn or has run out."""
    async with database.as_nobody() as connection:
        found = await store.invitation_by_token(connection, token_hash(token))
    if found is None:
        raise NotFound("an open invitation for this link was")
    return found
