"""Insert boards that wait to be read."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from redframe.core.sampling.method import Answer
from redframe.store.database import Connection, many, run
from redframe.store.errors import Conflict


@dataclass(frozen=True, slots=True)
class InsertBoard:
    """A board under a colony that waits to be read."""

    id: UUID
    colony_id: UUID
    placed_at: datetime
    cleaned: str
    greased: str
    by_name: str
    version: int


async def boards_lying(connection: Connection, colony_ids: Sequence[UUID]) -> list[InsertBoard]:
    """Boards that lie under these colonies, the longest first."""
    return await many(connection, InsertBoard, "boards_lying", colony_ids=list(colony_ids))


async def place_board(
    connection: Connection, board_id: UUID, colony_id: UUID, *, placed_at: datetime, cleaned: Answer, greased: Answer
) -> None:
    """Put a board in. Raises Conflict where one is in already."""
    placed = {"colony_id": colony_id, "placed_at": placed_at, "cleaned": cleaned, "greased": greased}
    if await run(connection, "place_board", id=board_id, **placed) == 0:
        raise Conflict("a board lies under this colony already: read it, or take it away first")


async def remove_board(
    connection: Connection, board_id: UUID, removed_at: datetime, count_id: UUID | None = None
) -> None:
    """Take a board away, read by a count or unread. Raises Conflict for one that lies no longer."""
    if await run(connection, "remove_board", id=board_id, removed_at=removed_at, count_id=count_id) == 0:
        raise Conflict("this board was read or taken away meanwhile")
