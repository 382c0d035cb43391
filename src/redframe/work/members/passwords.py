"""Passwords: hashed with argon2, and which ones are taken."""

from __future__ import annotations

import re
import secrets
from collections.abc import Sequence

from argon2 import PasswordHasher as Argon2
from argon2.exceptions import InvalidHashError, VerificationError

from redframe.core.errors import InvalidInput

SHORTEST_PASSWORD, LONGEST_PASSWORD = 12, 128
FEWEST_GUESSES = 1e6
"""Tries, in the order of an estimator, before which a password must not be found: far beyond what sign-in lets anybody
try."""
LOOKED_AT = 40
"""Characters that are looked at: the estimate takes long for long ones, and those are not found early."""


class Argon2Hasher:
    """argon2id with the library's default cost; `fast` is for tests, where thousands sign in."""

    def __init__(self, *, fast: bool = False) -> None:
        self._argon2 = Argon2(time_cost=1, memory_cost=8, parallelism=1) if fast else Argon2()
        self.nobody = self.hash(secrets.token_hex(16))

    def hash(self, password: str) -> str:
        """Hash a password."""
        return self._argon2.hash(password)

    def verify(self, password_hash: str, password: str) -> bool:
        """Whether the password belongs to the hash."""
        try:
            return self._argon2.verify(password_hash, password)
        except (VerificationError, InvalidHashError):
            return False


def check_new_password(password: str, field: str = "new", about: Sequence[str] = ()) -> None:
    """Raise InvalidInput naming `field` for a password that is too short or too long, or among the first that anybody
    would try: a common one, a row of keys, a repetition, a date, or what everybody knows `about` the person."""
    if len(password) < SHORTEST_PASSWORD:
        raise InvalidInput(field, f"use at least {SHORTEST_PASSWORD} characters", code="too_short")
    if len(password) > LONGEST_PASSWORD:
        raise InvalidInput(field, f"use at most {LONGEST_PASSWORD} characters", code="too_long")
    # Its lists are long, and needed a few times a year.
    from zxcvbn import zxcvbn

    known = [
        part
        for text in about
        for piece in (text, *text.split("@"))
        for part in (piece, re.sub(r"\W+", "", piece), *re.split(r"\W+", piece))
        if len(part) > 2
    ]
    found = zxcvbn(password[:LOOKED_AT], user_inputs=[*known, "red frame", "redframe"])
    if found["guesses"] < FEWEST_GUESSES:
        message = "is among the first that anybody would try; take several words that only you put together"
        raise InvalidInput(field, message, code="too_common")
