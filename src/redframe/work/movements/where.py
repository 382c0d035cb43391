"""Where colonies, combs and queens have been."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from uuid import UUID

from redframe.core.disease.signs import signs
from redframe.core.inputs import read
from redframe.core.visits.record import FrameRecord, SignSeen
from redframe.store import colonies
from redframe.store import movements as store
from redframe.store.database import together
from redframe.store.movements import CombMove, CombRow, ContactLine, QueenRow, StayLine
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class ColonyWhere:
    """Where a colony stood and what came to it and went from it, latest first."""

    today: date
    colony_id: UUID
    label: str
    is_living: bool
    stays: list[StayLine]
    contacts: list[ContactLine]


@dataclass(frozen=True, slots=True)
class CombSign:
    """A sign on a comb, in words."""

    sign: str
    name: str
    seen: SignSeen


@dataclass(frozen=True, slots=True)
class CombLook:
    """What a visit recorded of a comb: tenths of brood of both sides (of 20), its signs."""

    visit_id: UUID
    visited_on: date
    colony_id: UUID
    label: str
    brood_tenths: int
    signs: list[CombSign]


@dataclass(frozen=True, slots=True)
class CombWhere:
    """Where a comb has been and what was seen of it, latest first."""

    today: date
    comb: CombRow
    moves: list[CombMove]
    looks: list[CombLook]


@dataclass(frozen=True, slots=True)
class QueenWhere:
    """The colony of a queen, where it stood in her time, and what came and went in it."""

    today: date
    queen: QueenRow
    stays: list[StayLine]
    contacts: list[ContactLine]


async def colony_where(unit: UnitOfWork, colony_id: UUID) -> ColonyWhere:
    """Where a colony has been. Raises NotFound."""
    colony = await colonies.colony(unit.connection, colony_id)
    async with together(unit.connection) as begin:
        of_stays = begin(store.stays_of_colony(unit.connection, colony_id, unit.today))
        of_contacts = begin(store.contacts_of_colony(unit.connection, colony_id))
    return ColonyWhere(
        unit.today, colony_id, colony.label, colony.is_living, of_stays.result(), of_contacts.result()
    )  # fmt: skip


async def comb_where(unit: UnitOfWork, frame_id: UUID) -> CombWhere:
    """Where a comb has been and what was seen of it. Raises NotFound."""
    comb = await store.comb(unit.connection, frame_id)
    async with together(unit.connection) as begin:
        of_moves = begin(store.moves_of_comb(unit.connection, frame_id))
        of_looks = begin(store.seen_on_comb(unit.connection, frame_id))
    looks = []
    for row in of_looks.result():
        record = read(FrameRecord, row.record)
        seen = [CombSign(one.sign, signs()[one.sign].name, one) for one in record.signs]
        looks.append(CombLook(row.visit_id, row.visited_on, row.colony_id, row.label, record.tenths_of_brood, seen))
    return CombWhere(unit.today, comb, of_moves.result(), looks)


async def queen_where(unit: UnitOfWork, queen_id: UUID) -> QueenWhere:
    """Where a queen has been. Raises NotFound."""
    queen = await store.queen(unit.connection, queen_id)
    async with together(unit.connection) as begin:
        of_stays = begin(store.stays_of_colony(unit.connection, queen.colony_id, unit.today))
        of_contacts = begin(store.contacts_of_colony(unit.connection, queen.colony_id))
    end = queen.until or unit.today
    return QueenWhere(
        unit.today, queen,
        [one for one in of_stays.result() if one.since <= end and (one.until is None or one.until >= queen.since)],
        [one for one in of_contacts.result() if one.latest >= queen.since and one.earliest <= end],
    )  # fmt: skip
