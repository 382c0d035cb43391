"""Passwords with argon2."""

from __future__ import annotations

import secrets

from argon2 import PasswordHasher as Argon2
from argon2.exceptions import InvalidHashError, VerificationError


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
