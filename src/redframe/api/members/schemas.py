"""Members of an association and invitations to it."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from pydantic import AfterValidator, Field, StringConstraints

from redframe.api.base import Output
from redframe.api.session.schemas import Code
from redframe.core.inputs import Input, named, printable
from redframe.core.members.roles import Role

Email = Annotated[
    str,
    StringConstraints(strip_whitespace=True, max_length=254, pattern=r"^[^@\s]+@[^@\s]+$"),
    AfterValidator(printable),
]
Token = Annotated[str, Field(min_length=20, max_length=200, pattern=r"^[A-Za-z0-9_-]+$")]


class InvitationInput(Input):
    """Who is invited to what; `keeper_id` says whose apiaries a keeper will see."""

    id: UUID
    email: Email
    role: Role
    keeper_id: UUID | None = None


class MemberAmendment(Input):
    role: Role
    keeper_id: UUID | None = None
    ended: bool = False


class LinkInput(Input):
    token: Token


class OpenedInvitation(Output):
    """What a link invites to; `has_account` when the address signs in already."""

    association: str
    role: Role
    keeper: str | None
    email: str
    has_account: bool


class JoinInput(LinkInput):
    name: Annotated[str, StringConstraints(strip_whitespace=True, max_length=120), AfterValidator(named)] = ""
    password: Annotated[str, Field(min_length=1, max_length=200)]
    code: Code = ""
