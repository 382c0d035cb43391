"""Bodies that are files: read as they come, and no further than what is taken."""

from __future__ import annotations

from typing import Any

from fastapi import Request

CSV: dict[str, Any] = {
    "requestBody": {"required": True, "content": {"text/csv": {"schema": {"type": "string", "format": "binary"}}}}
}
"""How the description names a table as a body."""


async def body_of(request: Request, most: int) -> bytes:
    """The body of a request; of one that is longer than `most` bytes a little more than that, to be refused."""
    content = b""
    async for part in request.stream():
        content += part
        if len(content) > most:
            break
    return content
