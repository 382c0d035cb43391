"""Bodies of requests: limited by their kind, cut off where they come too slowly; files are read as they come."""

from __future__ import annotations

import asyncio
import re
import time
from typing import Any

from fastapi import HTTPException, Request
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from redframe.outlets.pictures import MOST_BYTES as MOST_PICTURE_BYTES
from redframe.outlets.tables import MOST_BYTES as MOST_TABLE_BYTES

MOST_RECORD_BYTES = 1_000_000
"""The longest record that there is, a visit of many boxes, has a twentieth of it."""
A_LITTLE_MORE = 1_000_000
"""What a file may be too long by: it is read so far, to be refused in words at its field."""
LONGEST_S = 60.0
PICTURES = re.compile(r"/(photos|board-pictures)/")
TABLES = re.compile(r"/import$")

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


class BodyLimits:
    """Refuses a body that is longer than its kind may be, or that takes longer than a minute to come."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Count what comes in, and look at the clock."""
        if scope["type"] != "http" or scope["method"] in ("GET", "HEAD", "OPTIONS"):
            await self.app(scope, receive, send)
            return
        most, began, taken, ended = most_bytes(scope["path"]), time.monotonic(), 0, False

        async def limited() -> Message:
            nonlocal taken, ended
            if ended:
                return await receive()
            try:
                message = await asyncio.wait_for(receive(), began + LONGEST_S - time.monotonic())
            except TimeoutError:
                raise HTTPException(408, "The request came too slowly: send it again") from None
            taken += len(message.get("body", b""))
            ended = not message.get("more_body", False)
            if taken > most:
                raise HTTPException(413, "The request is longer than is taken here")
            return message

        await self.app(scope, limited, send)


def most_bytes(path: str) -> int:
    """The longest body that a request to an address may have."""
    if PICTURES.search(path):
        return MOST_PICTURE_BYTES + A_LITTLE_MORE
    return MOST_TABLE_BYTES + A_LITTLE_MORE if TABLES.search(path) else MOST_RECORD_BYTES
