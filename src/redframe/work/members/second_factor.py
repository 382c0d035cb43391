"""A second factor: six figures that change twice a minute (RFC 6238), and recovery codes for the day on which the
device is lost."""

from __future__ import annotations

import hashlib
import hmac
import secrets
import time
from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

import pyotp

from redframe.core.errors import InvalidInput
from redframe.store import second_factor as store
from redframe.store import session as session_store
from redframe.store.database import Connection
from redframe.store.errors import Conflict
from redframe.store.second_factor import SecondFactor
from redframe.work.unit_of_work import UnitOfWork

STEP_S = 30
RECOVERY_CODES = 10
CODE_LETTERS = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789"
"""Without those that are taken for one another in handwriting."""
CODE_LENGTH = 12
"""60 bits: nobody tries them out, not even over what the database keeps."""


@dataclass(frozen=True, slots=True)
class Begun:
    """A second factor that is not on yet: its secret, and the address under which a device takes it up."""

    secret: str
    address: str


def step_of(secret: str, code: str, moment: float, after: int) -> int | None:
    """The half minute since 1970 whose code this is: that of a moment (seconds), the one before or the one after, since
    clocks differ; None for any other, and for one not later than `after`, which was taken before."""
    device, now = pyotp.TOTP(secret, interval=STEP_S), int(moment) // STEP_S
    for step in (now, now - 1, now + 1):
        if step > after and hmac.compare_digest(device.generate_otp(step), code):
            return step
    return None


def plain(code: str) -> str:
    """A code as it is compared: without the gaps with which people write it."""
    return "".join(letter for letter in code.upper() if letter.isascii() and letter.isalnum())


def code_hash(person_id: UUID, code: str) -> bytes:
    """What the store keeps of a recovery code."""
    return hashlib.sha256(f"{person_id} {plain(code)}".encode()).digest()


async def show(connection: Connection, attempt: UUID, code: str, device: str) -> bool:
    """Whether a code belongs to the second factor of an attempt: that of the moment, or a recovery code. Each is taken
    once."""
    known = await store.known_of(connection, attempt)
    if known is None:
        return False
    given = plain(code)
    if len(given) == CODE_LENGTH:
        return await store.use_recovery_code(connection, attempt, code_hash(known.person_id, given), device)
    # The clock of the world: a device knows nothing of the day on which a demo stands.
    step = step_of(known.secret, given, time.time(), known.last_step)
    return step is not None and await store.note_shown(connection, attempt, step)


async def mine(unit: UnitOfWork) -> SecondFactor | None:
    """The person's second factor; None where it is off."""
    return await store.mine(unit.connection)


async def begin(unit: UnitOfWork) -> Begun:
    """Make a secret for a device to take up; nothing is on until a code of it is shown. Raises Conflict where one is
    on."""
    secret, person = pyotp.random_base32(), await session_store.me(unit.connection)
    if not await store.begin(unit.connection, secret):
        raise Conflict("your second factor is on already: turn it off first")
    device = pyotp.TOTP(secret, interval=STEP_S)
    return Begun(secret, device.provisioning_uri(name=person.email, issuer_name="Red Frame"))


async def confirm(unit: UnitOfWork, code: str) -> Sequence[str]:
    """Turn the second factor on by a code of its device; return recovery codes, which are known only here and to
    whoever writes them down. Raises InvalidInput("code"), Conflict."""
    secret = await store.begun(unit.connection)
    if secret is None:
        raise Conflict("begin again: there is no second factor to turn on")
    step = step_of(secret, plain(code), time.time(), after=0)
    if step is None:
        raise InvalidInput("code", "is not the code of this moment: look at the clock of the device", code="wrong")
    codes = _new_codes()
    if not await store.confirm(unit.connection, secret, step, _hashes(unit, codes)):
        raise Conflict("begin again: another device was begun with meanwhile")
    return codes


async def new_codes(unit: UnitOfWork) -> Sequence[str]:
    """New recovery codes in the place of those before. Raises Conflict where no second factor is on."""
    if await store.mine(unit.connection) is None:
        raise Conflict("your second factor is off")
    codes = _new_codes()
    await store.replace_codes(unit.connection, _hashes(unit, codes))
    return codes


async def end(unit: UnitOfWork) -> None:
    """Turn the second factor off."""
    await store.end(unit.connection)


def _hashes(unit: UnitOfWork, codes: Sequence[str]) -> list[bytes]:
    return [code_hash(unit.who.person_id, code) for code in codes]


def _new_codes() -> list[str]:
    def four() -> str:
        return "".join(secrets.choice(CODE_LETTERS) for _ in range(4))

    return ["-".join((four(), four(), four())) for _ in range(RECOVERY_CODES)]
