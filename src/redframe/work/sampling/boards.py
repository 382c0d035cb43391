"""Insert boards: put in, read, or taken out unread."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from uuid import UUID

from redframe.core.sampling.method import Answer, check_taken_at
from redframe.store import boards, colonies
from redframe.store.boards import InsertBoard
from redframe.work.roles import require
from redframe.work.unit_of_work import UnitOfWork


async def boards_lying(unit: UnitOfWork, colony_ids: Sequence[UUID]) -> list[InsertBoard]:
    """Boards that lie under these colonies and wait to be read."""
    return await boards.boards_lying(unit.connection, colony_ids)


async def place_board(
    unit: UnitOfWork, board_id: UUID, colony_id: UUID, *, placed_at: datetime, cleaned: Answer, greased: Answer
) -> InsertBoard:
    """Lay a board under a colony once. Raises Conflict where one lies already, NotFound for a colony not seen."""
    require(unit.who, "record")
    check_taken_at(placed_at, unit.now)
    content = {"colony_id": colony_id, "placed_at": placed_at, "cleaned": cleaned, "greased": greased}
    if await unit.accept(board_id, "board", content):
        await colonies.colony_for_update(unit.connection, colony_id)
        await boards.place_board(
            unit.connection, board_id, colony_id, placed_at=placed_at, cleaned=cleaned, greased=greased
        )
    lying = await boards.boards_lying(unit.connection, [colony_id])
    return next(board for board in lying if board.id == board_id)


async def take_board_away(unit: UnitOfWork, board_id: UUID, removed_at: datetime) -> None:
    """Take a board away unread. Raises Conflict for one that lies no longer."""
    require(unit.who, "record")
    await boards.remove_board(unit.connection, board_id, removed_at)
