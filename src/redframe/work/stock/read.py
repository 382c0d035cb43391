"""What is in stock, what of it is left, what planned courses will lack, and where a lot went."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from redframe.core.stock.balance import (
    Available,
    LotChange,
    LotState,
    Need,
    OptionStock,
    left_of,
    lot_state,
    lot_unit_per_dose_unit,
    stock_by_option,
)
from redframe.core.treatments.catalogue import Catalogue
from redframe.store import stock as store
from redframe.store.stock import Lot, PlacedOfLot
from redframe.work.policy.read import policy_in_force
from redframe.work.unit_of_work import UnitOfWork


@dataclass(frozen=True, slots=True)
class LotView:
    """A lot with what was placed of it and what is left, in its unit."""

    lot: Lot
    placed: float
    left: float
    state: LotState


@dataclass(frozen=True, slots=True)
class StockView:
    """All lots, and what planned courses still need of each option."""

    lots: Sequence[LotView]
    needs: Sequence[OptionStock]
    short_at: dict[UUID, str]


async def lot_view(unit: UnitOfWork, lot_id: UUID) -> LotView:
    """One lot. Raises NotFound."""
    policy = await policy_in_force(unit)
    return _view(unit, await store.lot(unit.connection, lot_id), policy.treatment_rules.catalogue)


async def lots_in_stock(unit: UnitOfWork, catalogue: Catalogue | None = None) -> list[LotView]:
    """All lots that the person sees, with what is left of them; by the catalogue in force where none is given."""
    if catalogue is None:
        catalogue = (await policy_in_force(unit)).treatment_rules.catalogue
    return [_view(unit, lot, catalogue) for lot in await store.lots(unit.connection)]


def available(lots: Sequence[LotView]) -> list[Available]:
    """Lots as doses are taken from them."""
    return [
        Available(one.lot.id, one.lot.option_ids, one.lot.unit, one.left, one.lot.expires_on, one.lot.keeper_id)
        for one in lots
    ]


async def stock_view(unit: UnitOfWork) -> StockView:
    """All lots that the person sees, and what the courses that the person sees still need."""
    catalogue = (await policy_in_force(unit)).treatment_rules.catalogue
    views = await lots_in_stock(unit, catalogue)
    doses = await store.doses_to_come(unit.connection)
    needs = stock_by_option(
        {option.id: option for option in catalogue.options},
        available(views),
        [Need(one.option_id, max(one.on, unit.today), max(one.good_until, one.on), one.quantity, one.apiary_id,
              one.keeper_id)
         for one in doses],
    )  # fmt: skip
    return StockView(views, needs, {one.apiary_id: one.apiary for one in doses})


async def where_placed(unit: UnitOfWork, lot_id: UUID) -> Sequence[PlacedOfLot]:
    """Where a lot, and what was mixed from it, went: colonies with the day from which their honey is clear.

    Raises NotFound.
    """
    await store.lot(unit.connection, lot_id)
    return await store.placed_of_lot(unit.connection, lot_id)


def _view(unit: UnitOfWork, lot: Lot, catalogue: Catalogue) -> LotView:
    placed = sum(
        amount * (lot_unit_per_dose_unit(catalogue.option(option_id), lot.unit) or 1.0)
        for option_id, amount in lot.placings.items()
    )
    left = left_of(lot.quantity, placed, [LotChange(one.kind, one.quantity) for one in lot.changes])
    return LotView(lot, placed, left, lot_state(left, lot.expires_on, unit.today))
