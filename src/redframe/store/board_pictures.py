"""Pictures of boards, what was found on them, and what a person made of that."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from psycopg.types.json import Jsonb

from redframe.core.sampling.board_marks import FINDER, Candidate, Mark
from redframe.store.database import Connection, one, run, scalar
from redframe.store.errors import Conflict, NotFound


@dataclass(frozen=True, slots=True)
class BoardPicture:
    """A picture with its grid and its candidates; marks, counted squares and count once it was counted."""

    id: UUID
    colony_id: UUID
    width: int
    height: int
    width_mm: float
    grid_columns: int
    grid_rows: int
    candidates: list[dict[str, Any]]
    finder: int
    marks: list[dict[str, Any]] | None
    counted: list[int] | None
    count_id: UUID | None
    by_name: str
    created_at: datetime


async def add_board_picture(
    connection: Connection, picture_id: UUID, colony_id: UUID, *, picture: bytes, width: int, height: int,
    width_mm: float, columns: int, rows: int, candidates: Sequence[Candidate],
) -> None:  # fmt: skip
    """Keep a picture with what was found on it."""
    await run(
        connection, "add_board_picture", id=picture_id, colony_id=colony_id, picture=picture, width=width,
        height=height, width_mm=width_mm, grid_columns=columns, grid_rows=rows,
        candidates=Jsonb([asdict(candidate) for candidate in candidates]), finder=FINDER,
    )  # fmt: skip


async def board_picture(connection: Connection, picture_id: UUID) -> BoardPicture:
    """One picture. Raises NotFound."""
    return await one(connection, BoardPicture, "board_picture", what="picture", id=picture_id)


async def board_image(connection: Connection, picture_id: UUID) -> bytes:
    """The picture as JPEG. Raises NotFound."""
    found = await scalar(connection, "board_image", id=picture_id)
    if found is None:
        raise NotFound("picture")
    return bytes(found)


async def save_marks(
    connection: Connection,
    picture_id: UUID,
    colony_id: UUID,
    count_id: UUID,
    marks: Sequence[Mark],
    counted: Sequence[int],
) -> None:
    """Keep what a person made of a picture, with the count. Raises Conflict for one that was counted before."""
    written = await run(
        connection, "save_marks", id=picture_id, colony_id=colony_id, count_id=count_id,
        marks=Jsonb([asdict(mark) for mark in marks]), counted=list(counted),
    )  # fmt: skip
    if written == 0:
        raise Conflict("this picture was counted before, or is of another colony")
