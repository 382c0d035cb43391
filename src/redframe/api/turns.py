"""Heavy sums by turns: a few at work at once, a few more waiting, and the others sent away for a moment."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager

from fastapi import HTTPException, Request

AT_WORK, WAITING = 3, 24
BACK_AFTER_S = 2


class Turns:
    """So many at work and so many waiting for their turn."""

    def __init__(self, at_work: int = AT_WORK, waiting: int = WAITING) -> None:
        self._gate = asyncio.Semaphore(at_work)
        self._most = at_work + waiting
        self._there = 0

    @asynccontextmanager
    async def take(self) -> AsyncIterator[None]:
        """Hold a turn meanwhile. Raises HTTPException 429 where too many are there already."""
        if self._there >= self._most:
            detail = "Many are calculating just now: try again in a moment"
            raise HTTPException(429, detail, headers={"Retry-After": str(BACK_AFTER_S)})
        self._there += 1
        try:
            async with self._gate:
                yield
        finally:
            self._there -= 1


async def by_turns(request: Request) -> AsyncIterator[None]:
    """A dependency of what takes long to compute."""
    turns: Turns = request.app.state.turns
    async with turns.take():
        yield
