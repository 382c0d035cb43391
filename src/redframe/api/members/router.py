"""Members of an association, invitations to it, and taking one up."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from fastapi import Depends, Query, Request, Response

from redframe.api.access import TheServices, Version, Who, database_of, device_of, hasher_of, maybe_session, origin_of
from redframe.api.again import topic
from redframe.api.base import PageAfter
from redframe.api.members.schemas import InvitationInput, JoinInput, LinkInput, MemberAmendment, OpenedInvitation
from redframe.api.session.router import TheSettings, give_session
from redframe.api.session.schemas import SessionView
from redframe.store.members import Member
from redframe.store.session import Session
from redframe.work.members import read as members_read
from redframe.work.members import record as members_record
from redframe.work.members.read import MembersView
from redframe.work.members.record import Invited

router = topic("members")
Find = Annotated[str, Query(max_length=120, description="letters of a name, an address or a keeper")]
MaybeSession = Annotated[Session | None, Depends(maybe_session)]


@router.get("/members")
async def list_members(who: Who, services: TheServices, find: Find = "", after: PageAfter = None) -> MembersView:
    """The people of the association, a page at a time, and with the first the open invitations."""
    async with services.unit_of_work(who) as unit:
        return await members_read.members_view(unit, find, after)


@router.put("/members/{membership_id}")
async def amend_member(
    membership_id: UUID, given: MemberAmendment, version: Version, who: Who, services: TheServices
) -> Member:
    """Change a member's role, or end the membership."""
    async with services.unit_of_work(who) as unit:
        return await members_record.amend_member(unit, membership_id, version, **given.model_dump())


@router.post("/invitations", status_code=201)
async def invite_member(given: InvitationInput, who: Who, services: TheServices) -> Invited:
    """Invite somebody; the answer carries the link's token, once."""
    async with services.unit_of_work(who) as unit:
        return await members_record.invite(
            unit, given.id, email=given.email, role=given.role, keeper_id=given.keeper_id
        )


@router.post("/invitations/{invitation_id}/link", status_code=201)
async def renew_invitation(invitation_id: UUID, who: Who, services: TheServices) -> Invited:
    """A new link for an open invitation; the one before opens nothing any more."""
    async with services.unit_of_work(who) as unit:
        return await members_record.renew(unit, invitation_id)


@router.delete("/invitations/{invitation_id}", status_code=204)
async def withdraw_invitation(invitation_id: UUID, who: Who, services: TheServices) -> None:
    """Withdraw an open invitation."""
    async with services.unit_of_work(who) as unit:
        await members_record.withdraw(unit, invitation_id)


@router.post("/joining/link")
async def open_invitation(given: LinkInput, request: Request, _: MaybeSession) -> OpenedInvitation:
    """What a link invites to. The token travels in the body, so that no log keeps it."""
    found = await members_read.opened(database_of(request), given.token)
    return OpenedInvitation(
        association=found.association,
        role=found.role,
        keeper=found.keeper,
        email=found.email,
        has_account=found.password_hash is not None,
    )


@router.post("/joining", status_code=201)
async def join_association(
    given: JoinInput,
    request: Request,
    response: Response,
    services: TheServices,
    settings: TheSettings,
    _: MaybeSession,
) -> SessionView:
    """Take an invitation up: set a name and a password, or prove the account that there is. Signs in."""
    origin = origin_of(request)
    opened = await members_record.join(
        database_of(request), hasher_of(request), given.token, name=given.name, password=given.password,
        code=given.code, origin=origin, device=device_of(request),
    )  # fmt: skip
    return await give_session(request, response, services, settings, opened)
