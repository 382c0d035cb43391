"""Where a page of a long list begins: behind the last row of the one before, whatever was added or left since."""

from __future__ import annotations

import base64
import binascii
from uuid import UUID

from redframe.core.errors import InvalidInput

FIRST = ("", UUID(int=0))


def place(key: str, row: UUID) -> str:
    """A place in a list that is ordered by a key and an id, as text for an address."""
    return base64.urlsafe_b64encode(f"{row}{key}".encode()).decode().rstrip("=")


def place_after(text: str | None) -> tuple[str, UUID]:
    """The key and id that a place names; those before the first row for None. Raises InvalidInput for other text."""
    if text is None:
        return FIRST
    try:
        read = base64.b64decode(text + "=" * (-len(text) % 4), altchars=b"-_", validate=True).decode()
        if "\0" in read:
            raise ValueError
        return read[36:], UUID(read[:36])
    except (ValueError, binascii.Error) as error:
        raise InvalidInput("after", "no page begins there") from error
