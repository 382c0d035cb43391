"""People and sessions."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import AfterValidator, Field

from redframe.api.base import Name, Output
from redframe.core.inputs import Input, printable
from redframe.core.members.roles import Role
from redframe.store.session import PlaceOfWork

Code = Annotated[str, Field(max_length=24), AfterValidator(printable)]
"""The code of a second factor, or a recovery code, as people write it."""


class SignInInput(Input):
    email: Annotated[str, Field(min_length=3, max_length=254), AfterValidator(printable)]
    password: Annotated[str, Field(min_length=1, max_length=200)]
    code: Code = ""


class PresentInput(Input):
    """The password again, before what guards the account is changed."""

    present: Annotated[str, Field(min_length=1, max_length=200)]


class CodeInput(Input):
    code: Code


class SecondFactorView(Output):
    """Since when a second factor is on (null: it is off), and how many recovery codes are left."""

    since: datetime | None
    codes_left: int


class BegunSecondFactor(Output):
    """What a device takes up: a secret to type, its address, and the address as a picture to look at (data URI)."""

    secret: str
    address: str
    picture: str


class RecoveryCodes(Output):
    """Codes to write down: they are not shown again."""

    recovery_codes: list[str]


class PersonInput(Input):
    name: Name
    temperature: Literal["celsius", "fahrenheit"]
    mass: Literal["kg", "lb"]
    volume: Literal["ml", "cup", "fl_oz"]
    theme: Literal["system", "light", "dark"]


class PasswordInput(Input):
    present: Annotated[str, Field(min_length=1, max_length=200)]
    new: Annotated[str, Field(min_length=1, max_length=200)]


class SwitchInput(Input):
    membership_id: UUID


class Person(Output):
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


class SessionView(Output):
    """Who is signed in; `person` is null when nobody is. `today` is the day at the association's place, `now` the
    moment by the server's clock: devices whose clock is wrong set theirs by it."""

    person: Person | None
    role: Role | None
    may: list[str]
    places_of_work: list[PlaceOfWork]
    csrf_token: str | None
    today: date
    now: datetime
    demo: bool
