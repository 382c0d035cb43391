"""The second factor of people: its secret while a sign-in is under way, recovery codes, and turning it on and off."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from redframe.store.database import Connection, maybe, run, scalar


@dataclass(frozen=True, slots=True)
class Known:
    """By what the second factor of an attempt is known; `last_step`: the half minute whose code was taken last."""

    person_id: UUID
    secret: str
    last_step: int


@dataclass(frozen=True, slots=True)
class SecondFactor:
    """A second factor that is on: since when, and how many recovery codes were not used yet."""

    since: datetime
    codes_left: int


async def known_of(connection: Connection, attempt: UUID) -> Known | None:
    """The second factor that an attempt needs, once its password was right."""
    return await maybe(connection, Known, "second_factor_of", attempt=attempt)


async def note_shown(connection: Connection, attempt: UUID, step: int) -> bool:
    """Say that an attempt showed the code of a half minute; False where that one was taken before."""
    return bool(await scalar(connection, "second_factor_shown", attempt=attempt, step=step))


async def use_recovery_code(connection: Connection, attempt: UUID, code_hash: bytes, device: str) -> bool:
    """Take a recovery code for an attempt; False where there is none like it, or it was used."""
    found = await scalar(connection, "recovery_code_shown", attempt=attempt, code_hash=code_hash, device=device)
    return bool(found)


async def mine(connection: Connection) -> SecondFactor | None:
    """The second factor of the person at work; None where it is off."""
    return await maybe(connection, SecondFactor, "my_second_factor")


async def begin(connection: Connection, secret: str) -> bool:
    """Keep a secret until it is confirmed; False where a second factor is on."""
    return bool(await scalar(connection, "begin_second_factor", secret=secret))


async def begun(connection: Connection) -> str | None:
    """The secret that the person at work is to confirm."""
    found = await scalar(connection, "begun_second_factor")
    return None if found is None else str(found)


async def confirm(connection: Connection, secret: str, step: int, code_hashes: Sequence[bytes]) -> bool:
    """Turn a second factor on; False where its secret is not any more the one that was checked."""
    found = await scalar(connection, "confirm_second_factor", secret=secret, step=step, code_hashes=list(code_hashes))
    return bool(found)


async def replace_codes(connection: Connection, code_hashes: Sequence[bytes]) -> None:
    """Replace the recovery codes of the person at work."""
    await run(connection, "replace_recovery_codes", code_hashes=list(code_hashes))


async def end(connection: Connection) -> bool:
    """Turn the second factor of the person at work off; False where it was off."""
    return bool(await scalar(connection, "end_second_factor"))
