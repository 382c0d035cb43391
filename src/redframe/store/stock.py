"""Lots of products, and what was done with them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from uuid import UUID

from pydantic import TypeAdapter

from redframe.core.stock.balance import LotChangeKind
from redframe.core.stock.lot import LotFacts
from redframe.store.database import Connection, columns, many, run, scalar
from redframe.store.errors import Conflict, NotFound

MOST_LOTS = 500


@dataclass(frozen=True, slots=True)
class LotChangeDone:
    """What was done with part of a lot other than placing it, in its unit."""

    id: UUID
    kind: LotChangeKind
    quantity: float
    done_on: date
    how: str
    by_name: str


_CHANGES = TypeAdapter(Sequence[LotChangeDone])


@dataclass(frozen=True, slots=True)
class Lot:
    """A lot; `keeper` "" for the association's own. `placings`: what was placed of it by option, in the unit of the
    option's dose."""

    id: UUID
    keeper_id: UUID | None
    keeper: str
    product: str
    option_ids: list[str]
    unit: str
    quantity: float
    strength: str
    lot: str
    expires_on: date | None
    bought_on: date | None
    supplier: str
    receipt: str
    note: str
    made_from: UUID | None
    created_at: datetime
    version: int
    by_name: str
    placings: Mapping[str, float]
    changes: Sequence[LotChangeDone]

    def __post_init__(self) -> None:
        """What is kept as JSON becomes what it is."""
        object.__setattr__(self, "changes", _CHANGES.validate_python(self.changes))


async def lots(connection: Connection) -> list[Lot]:
    """All lots that the person sees, the first to expire first."""
    return await many(connection, Lot, "lots", lot_id=None, most=MOST_LOTS)


async def lot(connection: Connection, lot_id: UUID) -> Lot:
    """One lot. Raises NotFound."""
    found = await many(connection, Lot, "lots", lot_id=lot_id, most=1)
    if not found:
        raise NotFound("lot")
    return found[0]


async def lock_lot(connection: Connection, lot_id: UUID) -> None:
    """Hold a lot until the transaction ends. Raises NotFound."""
    if await scalar(connection, "lock_lot", id=lot_id) is None:
        raise NotFound("lot")


async def add_lot(
    connection: Connection, lot_id: UUID, keeper_id: UUID | None, facts: LotFacts, made_from: UUID | None = None
) -> None:
    """Add a lot; `made_from` the one that it was mixed from."""
    await run(connection, "add_lot", id=lot_id, keeper_id=keeper_id, made_from=made_from, **_columns(facts))


async def amend_lot(connection: Connection, lot_id: UUID, version: int, facts: LotFacts) -> None:
    """Amend a lot; the transaction carries the reason. Raises Conflict when it has changed since `version`."""
    if await run(connection, "amend_lot", id=lot_id, version=version, **_columns(facts)) == 0:
        raise Conflict("this lot was amended by somebody else meanwhile")


def _columns(facts: LotFacts) -> dict[str, object]:
    return {**columns(facts), "option_ids": list(facts.option_ids)}


@dataclass(frozen=True, slots=True)
class NewLotChange:
    """What is done with part of a lot, in its unit."""

    lot_id: UUID
    kind: LotChangeKind
    quantity: float
    done_on: date
    how: str


async def add_lot_change(connection: Connection, change_id: UUID, change: NewLotChange) -> None:
    """Record what was done with part of a lot."""
    await run(connection, "add_lot_change", id=change_id, **columns(change))


@dataclass(frozen=True, slots=True)
class CourseOfLot:
    """A course in which a lot was placed."""

    id: UUID


async def courses_of_lot(connection: Connection, lot_id: UUID) -> list[UUID]:
    """Courses in which a lot was placed, or what was mixed from it."""
    return [row.id for row in await many(connection, CourseOfLot, "courses_of_lot", lot_id=lot_id)]


@dataclass(frozen=True, slots=True)
class PlacedOfLot:
    """A placing of a lot: in which colony, from when its honey is clear, and the batches into which its honey went
    since."""

    lot_id: UUID
    done_on: date
    quantity: float | None
    quantity_unit: str | None
    course_id: UUID
    option_id: str
    colony_id: UUID
    label: str
    apiary_id: UUID
    apiary: str
    keeper: str
    honey_clear_on: date | None
    honey_batches: list[str]


async def placed_of_lot(connection: Connection, lot_id: UUID) -> list[PlacedOfLot]:
    """Where a lot went, newest first."""
    return await many(connection, PlacedOfLot, "placed_of_lot", lot_id=lot_id)


@dataclass(frozen=True, slots=True)
class DoseToCome:
    """A dose that an open course is still to be given; what it leaves is due out on `good_until`."""

    option_id: str
    policy_version: int
    on: date
    quantity: float
    apiary_id: UUID
    apiary: str
    keeper_id: UUID
    good_until: date


async def doses_to_come(connection: Connection) -> list[DoseToCome]:
    """Doses of chemical products that are planned and not yet placed, by day."""
    return await many(connection, DoseToCome, "doses_to_come")
