"""What the store reports, by meaning.

StoreError
 ├─ NotFound          no such record, or none that this person may see (the two answer alike)
 ├─ AlreadyDone       somebody recorded the same thing before: carries who and when
 ├─ Conflict          the record has changed since it was read, or the same id came with other content
 └─ NotAllowed        the role may not write here
"""

from __future__ import annotations

NOT_UNDONE = "it can no longer be undone: amend it, and say why"


class StoreError(Exception):
    """Base of what the store reports."""


class NotFound(StoreError):
    """No such record, or none that this person may see."""

    def __init__(self, what: str) -> None:
        super().__init__(f"{what} not found")
        self.what = what


class AlreadyDone(StoreError):
    """Somebody recorded the same thing before."""


class Conflict(StoreError):
    """The record has changed meanwhile, or an id came again with other content."""

    def __init__(self, message: str, field: str = "") -> None:
        super().__init__(message)
        self.field = field


class NotAllowed(StoreError):
    """The role of this person may not do this."""
