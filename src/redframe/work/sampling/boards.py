"""Insert boards: put in, read, or taken out unread."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from uuid import UUID

from redframe.core.sampling.method import Told, check_taken_at
from redframe.store import boards, colonies
from redframe.store.boards import InsertBoard
from redframe.work.roles import require
from redframe.work.unit_of_work import Work


async def boards_lying(work: Work, colony_ids: Sequence[UUID]) -> list[InsertBoard]:
    """Boards that lie under these colonies and wait to be read."""
    return await boards.boards_lying(work.connection, colony_ids)


async def place_board(
    work: Work, board_id: UUID, colony_id: UUID, *, placed_at: datetime, cleaned: Told, greased: Told
) -> InsertBoard:
    """Lay a board under a colony once. Raises Conflict where one lies already, NotFound for a colony not seen."""
    require(work.who, "record")
    check_taken_at(placed_at, work.now)
    content = {"colony_id": colony_id, "placed_at": placed_at, "cleaned": cleaned, "greased": greased}
    if await work.accept(board_id, "board", content):
        await colonies.colony_for_update(work.connection, colony_id)
        await boards.place_board(work.connection, id=board_id, **content)
    lying = await boards.boards_lying(work.connection, [colony_id])
    return next(board for board in lying if board.id == board_id)


async def take_board_away(work: Work, board_id: UUID, lifted_at: datetime) -> None:
    """Take a board away unread. Raises Conflict for one that lies no longer."""
    require(work.who, "record")
    await boards.lift_board(work.connection, board_id, lifted_at)
