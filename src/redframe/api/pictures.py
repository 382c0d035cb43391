"""Pictures that come in are read one at a time, in a thread of their own: a large one takes much memory, and no
connection of the pool waits for it."""

from __future__ import annotations

import asyncio
from concurrent.futures import ThreadPoolExecutor

import numpy as np

from redframe.core.sampling.board_marks import Candidate
from redframe.outlets.pictures import Picture, read_picture

PHOTO_BODY: dict[str, object] = {
    "requestBody": {
        "required": True,
        "content": {kind: {"schema": {"type": "string", "format": "binary"}} for kind in ("image/jpeg", "image/png")},
    }
}
"""What an operation that takes a photo says of its body."""
_ONE_AT_A_TIME = ThreadPoolExecutor(1, "pictures")


def _read_board(content: bytes, longest: int, width_mm: float) -> tuple[Picture, list[Candidate]]:
    # What finds mites takes long to import, and only boards need it.
    from redframe.core.sampling.board_picture import find_candidates

    picture = read_picture(content, longest)
    return picture, find_candidates(np.asarray(picture.image), width_mm)


async def read_photo(content: bytes) -> Picture:
    """A photo as it is kept. Raises InvalidInput("photo")."""
    return await asyncio.get_running_loop().run_in_executor(_ONE_AT_A_TIME, read_picture, content)


async def read_board(content: bytes, longest: int, width_mm: float) -> tuple[Picture, list[Candidate]]:
    """The picture of a board, and what may be mites on it. Raises InvalidInput("photo"), ("width_mm")."""
    return await asyncio.get_running_loop().run_in_executor(_ONE_AT_A_TIME, _read_board, content, longest, width_mm)
