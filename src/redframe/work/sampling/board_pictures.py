"""Counting a board from a picture: the program proposes, a person decides, and both are kept."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.core.sampling.board_marks import Candidate, Mark, PictureReading, check_squares
from redframe.store import board_pictures as store
from redframe.store import colonies
from redframe.store.board_pictures import BoardPicture
from redframe.work.roles import require
from redframe.work.unit_of_work import UnitOfWork


async def may_add(unit: UnitOfWork, colony_id: UUID) -> None:
    """Say before a picture is read whether it would be kept. Raises NotFound for a colony not seen."""
    require(unit.who, "record")
    await colonies.colony(unit.connection, colony_id)


async def add_picture(
    unit: UnitOfWork,
    picture_id: UUID,
    colony_id: UUID,
    *,
    jpeg: bytes,
    width: int,
    height: int,
    found: Sequence[Candidate],
    width_mm: float,
    columns: int,
    rows: int,
) -> BoardPicture:
    """Keep the picture of a board once, with the candidates found on it. Raises NotFound for a colony not seen."""
    await may_add(unit, colony_id)
    content = {
        "colony_id": colony_id, "picture": hashlib.sha256(jpeg).hexdigest(), "width_mm": width_mm, "columns": columns,
        "rows": rows,
    }  # fmt: skip
    if await unit.accept(picture_id, "board_picture", content):
        await store.add_board_picture(
            unit.connection, picture_id, colony_id, picture=jpeg, width=width, height=height,
            width_mm=width_mm, columns=columns, rows=rows, candidates=found,
        )  # fmt: skip
    return await store.board_picture(unit.connection, picture_id)


async def picture(unit: UnitOfWork, picture_id: UUID) -> BoardPicture:
    """A picture with its candidates and, once counted, its marks. Raises NotFound."""
    return await store.board_picture(unit.connection, picture_id)


async def image(unit: UnitOfWork, picture_id: UUID) -> bytes:
    """The picture as JPEG. Raises NotFound."""
    return await store.board_image(unit.connection, picture_id)


async def save_marks(
    unit: UnitOfWork, picture_id: UUID, colony_id: UUID, count_id: UUID, squares: tuple[int, ...], in_all: int,
    counted: tuple[int, ...], marks: tuple[Mark, ...],
) -> None:  # fmt: skip
    """Keep the marks of a count read from a picture. The squares recorded must be what the marks add up to.

    Raises NotFound, Conflict, InvalidInput naming `squares`, `squares_in_all` or a part of `picture`.
    """
    found = await store.board_picture(unit.connection, picture_id)
    if in_all != found.grid_columns * found.grid_rows:
        raise InvalidInput("squares_in_all", "is not the grid of the picture", code="refused")
    check_squares(squares, PictureReading(found.grid_columns, found.grid_rows, counted, marks))
    await store.save_marks(unit.connection, picture_id, colony_id, count_id, marks, counted)
