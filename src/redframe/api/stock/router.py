"""Lots in stock: added, amended, used, mixed, and traced to the colonies that they went to."""

from __future__ import annotations

import asyncio
from uuid import UUID

from fastapi import Response

from redframe.api.access import TheServices, Version, Who
from redframe.api.again import topic
from redframe.api.stock.schemas import (
    LotAmendment,
    LotChangeInput,
    LotFields,
    LotInput,
    LotView,
    MixingInput,
    PlaceName,
    StockView,
)
from redframe.core.stock.lot import LotFacts
from redframe.store.stock import NewLotChange, PlacedOfLot
from redframe.work.stock import read as stock_read
from redframe.work.stock import record as stock_record

router = topic("stock")


@router.get("/lots")
async def list_lots(who: Who, services: TheServices) -> StockView:
    """All lots with what is left of them, and what planned courses will lack on which day."""
    async with services.unit_of_work(who) as unit:
        found = await stock_read.stock_view(unit)
        return StockView(
            today=unit.today,
            lots=[LotView.model_validate(one) for one in found.lots],
            needs=list(found.needs),
            apiaries=[PlaceName(id=one, name=name) for one, name in found.short_at.items()],
        )


@router.post("/lots", status_code=201)
async def add_lot(given: LotInput, who: Who, services: TheServices) -> LotView:
    """Add a lot to the stock."""
    async with services.unit_of_work(who) as unit:
        return LotView.model_validate(await stock_record.add_lot(unit, given.id, _facts(given)))


@router.put("/lots/{lot_id}")
async def amend_lot(lot_id: UUID, given: LotAmendment, version: Version, who: Who, services: TheServices) -> LotView:
    """Amend a lot; the lines of the register in which it stands are amended with it."""
    async with services.unit_of_work(who, given.reason) as unit:
        return LotView.model_validate(await stock_record.amend_lot(unit, lot_id, version, _facts(given)))


@router.post("/lots/{lot_id}/changes", status_code=201)
async def change_lot(lot_id: UUID, given: LotChangeInput, who: Who, services: TheServices) -> LotView:
    """Record that part of a lot was disposed of, lost or found again."""
    change = NewLotChange(lot_id, given.kind, given.quantity, given.done_on, given.how)
    async with services.unit_of_work(who) as unit:
        return LotView.model_validate(await stock_record.change_lot(unit, given.id, change))


@router.post("/lots/{lot_id}/mixings", status_code=201)
async def mix_solution(lot_id: UUID, given: MixingInput, who: Who, services: TheServices) -> LotView:
    """Take crystals out of a lot for a solution; the bottle that it makes is a lot of its own."""
    mixing = stock_record.Mixing(
        lot_id, given.target_ml, given.strength, given.basis, given.sugar_per_water, given.mixed_on
    )
    async with services.unit_of_work(who) as unit:
        return LotView.model_validate((await stock_record.mix_solution(unit, given.id, mixing)).bottle)


@router.get("/lots/{lot_id}/colonies")
async def list_colonies_of_lot(lot_id: UUID, who: Who, services: TheServices) -> list[PlacedOfLot]:
    """Every colony that a lot, or what was mixed from it, was placed in: whose honey a recall asks about."""
    async with services.unit_of_work(who) as unit:
        return list(await stock_read.where_placed(unit, lot_id))


@router.get("/lots/{lot_id}/label.pdf", response_class=Response, responses={200: {"content": {"application/pdf": {}}}})
async def print_label(lot_id: UUID, who: Who, services: TheServices) -> Response:
    """A label for a bottle or a box: what it is, how strong, use by when, what it does to people."""
    from redframe.outlets.lot_label import lot_label

    async with services.unit_of_work(who) as unit:
        view = await stock_read.lot_view(unit, lot_id)
    made = await asyncio.to_thread(lot_label, view.lot)
    return Response(made, media_type="application/pdf", headers={"Content-Disposition": 'inline; filename="label.pdf"'})


def _facts(given: LotFields) -> LotFacts:
    return LotFacts(**{name: getattr(given, name) for name in LotFields.model_fields})
