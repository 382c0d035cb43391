"""Recording a count of any kind, and amending it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.core.sampling.board import BoardSample
from redframe.core.sampling.board_marks import Mark
from redframe.core.sampling.count import AnySample, CountResult, read_count
from redframe.core.sampling.method import Method, check_taken_at
from redframe.store import boards, colonies, status
from redframe.store import sampling as store
from redframe.store.database import columns
from redframe.store.errors import NOT_UNDONE, Conflict
from redframe.store.sampling import CountDetails
from redframe.work.policy.read import PolicyInForce, policy_in_force
from redframe.work.roles import require
from redframe.work.sampling.board_pictures import save_marks
from redframe.work.sampling.read import (
    CountMeaning,
    KnownOfColony,
    meaning_among,
    meaning_of,
    policy_of_colony,
    treatment_spans,
)
from redframe.work.sampling.samples import details_of, method_of
from redframe.work.sampling.trends import TREND_BACK_DAYS, breaks_of
from redframe.work.status.outlooks import HISTORY_DAYS, Judging, spans_of
from redframe.work.status.recompute import recompute_colony, recompute_status
from redframe.work.to_json import to_json
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class ReadFrom:
    """The picture that a board was read from, the squares counted, and what was made of each spot."""

    picture_id: UUID
    counted: tuple[int, ...]
    marks: tuple[Mark, ...]


@dataclass(frozen=True, slots=True)
class NewCount:
    """A count as a person or a device reports it; `board_id` is the board that was in and was read by it, `picture` the
    picture that it was read from; `targeted`: the colony was chosen because it was likely to be over or to tell most,
    so that the count is no part of a mean."""

    id: UUID
    colony_id: UUID
    taken_at: datetime
    sample: AnySample
    brood_state: str = "not_seen"
    note: str = ""
    board_id: UUID | None = None
    picture: ReadFrom | None = None
    targeted: bool = False

    def details(self, taken_on: date) -> CountDetails:
        """The count as it is kept; `taken_on` is the day at its place."""
        return details_of(
            self.sample, taken_at=self.taken_at, taken_on=taken_on, brood_state=self.brood_state,
            targeted=self.targeted, note=self.note,
        )  # fmt: skip


async def record_count(unit: UnitOfWork, new: NewCount, *, look_ahead: bool = False) -> CountMeaning:
    """Record a count once, and say what it means; `look_ahead` as in `meaning_of`.

    Raises InvalidInput for what cannot be a count, NotFound for a colony that the person does not see, Conflict for an
    id that was used for another record or a board that was read meanwhile.
    """
    require(unit.who, "record")
    details = new.details(unit.day_of(new.taken_at))
    await status.lock_colonies(unit.connection, [new.colony_id])
    content = {**columns(details), "colony_id": new.colony_id, "picture": new.picture and to_json(new.picture)}
    if await unit.accept(new.id, "count", content):
        colony = await colonies.colony_for_update(unit.connection, new.colony_id)
        if not colony.is_living and unit.day_of(new.taken_at) > colony.state_since:
            raise InvalidInput(
                "taken_at", f"colony {colony.label} is {colony.state} since {colony.state_since.isoformat()}"
            )
        policy = await policy_in_force(unit, colony.apiary_id)
        result = await _read(unit, new, policy)
        await store.add_count(unit.connection, new.id, new.colony_id, details)
        await store.replace_reading(unit.connection, new.id, result.reading)
        if new.board_id is not None:
            await _board_read(unit, new, new.board_id)
        if new.picture is not None:
            await _marks_kept(unit, new, new.picture)
        by = await recompute_colony(unit, new.colony_id, policy)
        return await _meaning(unit, new, policy, by, look_ahead)
    return await meaning_of(unit, new.id, look_ahead=look_ahead)


async def _meaning(
    unit: UnitOfWork, new: NewCount, policy: PolicyInForce, by: Judging, look_ahead: bool
) -> CountMeaning:
    """What a count that was just recorded means; of an old one more has to be known than what judges the colony."""
    count = next((one for one in by.counts if one.id == new.id), None)
    if count is None or (unit.today - count.taken_on).days > HISTORY_DAYS - TREND_BACK_DAYS:
        return await meaning_of(unit, new.id, look_ahead=look_ahead)
    known = KnownOfColony(policy, by.counts, spans_of(by.courses), await breaks_of(unit, new.colony_id))
    return await meaning_among(unit, count, known, look_ahead=look_ahead)


async def _marks_kept(unit: UnitOfWork, new: NewCount, read: ReadFrom) -> None:
    if not isinstance(new.sample, BoardSample):
        raise InvalidInput("picture", "only a board is read from a picture", code="refused")
    await save_marks(
        unit,
        read.picture_id,
        new.colony_id,
        new.id,
        new.sample.squares,
        new.sample.squares_in_all,
        read.counted,
        read.marks,
    )


async def _board_read(unit: UnitOfWork, new: NewCount, board_id: UUID) -> None:
    if not isinstance(new.sample, BoardSample):
        raise InvalidInput("board_id", "only a board is read", code="refused")
    lying = await boards.boards_lying(unit.connection, [new.colony_id])
    if board_id not in {board.id for board in lying}:
        raise InvalidInput("board_id", "no such board lies under this colony", code="unknown")
    await boards.remove_board(unit.connection, board_id, new.taken_at, new.id)


async def amend_count(
    unit: UnitOfWork, count_id: UUID, version: int, amended: NewCount, *, look_ahead: bool = False
) -> CountMeaning:
    """Amend a count; the version before is kept with the reason of the transaction.

    Raises Conflict when it has changed since `version`, InvalidInput for another colony or another kind of count.
    """
    require(unit.who, "record")
    before = await store.count_by_id(unit.connection, count_id)
    if before.colony_id != amended.colony_id:
        raise InvalidInput("colony_id", "a count cannot be moved to another colony: record it there")
    if _kind(before.method) != _kind(method_of(amended.sample)):
        raise InvalidInput("method", "a count stays of its kind: record the other separately", code="refused")
    details = amended.details(unit.day_of(amended.taken_at))
    if before.picture_id is not None and details.squares != before.squares:
        raise InvalidInput("squares", "were read from a picture: record the board again from its marks", code="refused")
    await status.lock_colonies(unit.connection, [before.colony_id])
    policy = await policy_of_colony(unit, before.colony_id)
    result = await _read(unit, amended, policy)
    await store.amend_count(unit.connection, count_id, version, details)
    await store.replace_reading(unit.connection, count_id, result.reading)
    await recompute_status(unit, [before.colony_id])
    return await meaning_of(unit, count_id, look_ahead=look_ahead)


async def undo_count(unit: UnitOfWork, count_id: UUID) -> None:
    """Take back a count that was recorded a short while ago; its history keeps it.

    Raises NotFound, and Conflict where it is another person's, too long ago, amended since, or a course rests on it.
    """
    require(unit.who, "record")
    count = await store.count_by_id(unit.connection, count_id)
    await status.lock_colonies(unit.connection, [count.colony_id])
    # The board that it read lies again, where no other one lies there by now.
    replaced = _kind(count.method) == "board" and await boards.boards_lying(unit.connection, [count.colony_id])
    if replaced or not await store.undo_count(unit.connection, count_id):
        raise Conflict(NOT_UNDONE)
    await recompute_status(unit, [count.colony_id])


def _kind(method: Method) -> str:
    return "board" if method == "board_after_treatment" else method


async def _read(unit: UnitOfWork, new: NewCount, policy: PolicyInForce) -> CountResult:
    check_taken_at(new.taken_at, unit.now)
    day = unit.day_of(new.taken_at)
    spans = await treatment_spans(unit, new.colony_id)
    others = await store.counts_of_colonies(unit.connection, [new.colony_id], day - timedelta(days=2))
    method = method_of(new.sample)
    times = [count.taken_at for count in others if count.id != new.id and count.method == method]
    dormant = policy.calendar.phase(day) == "dormant"
    return read_count(
        new.sample, treatments=spans, other_counts=times, dormant=dormant, basis=policy.basis, scoop=policy.scoop
    )
