"""An endpoint that is asked again where two writes have waited for one another, or where one overtook the other.

The database gives one of two such transactions up, and nothing of it is kept: asked again it goes through, and nobody
needs to know. What streams its body (a file) cannot be read a second time, and is refused with a word.
"""

from __future__ import annotations

import asyncio
import random
from collections.abc import Callable, Coroutine
from typing import Any

from fastapi import APIRouter, Request, Response
from fastapi.routing import APIRoute
from psycopg.errors import DeadlockDetected, SerializationFailure

TIMES = 3
LONGEST_PAUSE_S = 0.15


class Again(APIRoute):
    """A route whose answer is tried a few times."""

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        """The handler, tried again after a pause of its own length each time."""
        answer = super().get_route_handler()

        async def answer_again(request: Request) -> Response:
            for _ in range(TIMES - 1):
                try:
                    return await answer(request)
                except (DeadlockDetected, SerializationFailure):
                    if _is_streamed(request):
                        raise
                    await asyncio.sleep(random.uniform(0, LONGEST_PAUSE_S))  # noqa: S311
            return await answer(request)

        return answer_again


def _is_streamed(request: Request) -> bool:
    """Whether the body was read piece by piece, so that it is gone."""
    return getattr(request, "_stream_consumed", False) and not hasattr(request, "_body")


def topic(tag: str, **given: Any) -> APIRouter:
    """The router of a topic: each of its endpoints is tried again where a transaction was given up."""
    return APIRouter(tags=[tag], route_class=Again, **given)
