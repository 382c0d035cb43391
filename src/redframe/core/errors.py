"""What the core refuses.

CoreError
 ├─ InvalidInput     a value that the rule cannot take: names the field, as the person wrote it
 └─ Refused          the values are sound, but the rule says no: carries the rule's id
"""

from __future__ import annotations


class CoreError(Exception):
    """Base of everything that the core refuses."""


class InvalidInput(CoreError, ValueError):
    """A value that a rule cannot take.

    `field` is the path as the domain writes it (`frames[1].pct`, `calendar.winter_bees`), `code` a short
    stable word, `allowed` what would have been taken. A ValueError, so that Pydantic carries it through.
    """

    def __init__(self, field: str, message: str, *, code: str = "invalid", allowed: str | None = None) -> None:
        super().__init__(f"{field}: {message}")
        self.field = field
        self.message = message
        self.code = code
        self.allowed = allowed


class Refused(CoreError):
    """Sound values, but a rule of the work forbids the act (too early, another course under way)."""

    def __init__(self, rule: str, message: str, *, field: str = "", can_override: bool = False) -> None:
        super().__init__(message)
        self.rule = rule
        self.message = message
        self.field = field
        self.can_override = can_override
