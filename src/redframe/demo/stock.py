"""What the associations of the demo have in store, bought before each season; some of it runs short."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from redframe.core.stock.lot import LotFacts
from redframe.demo.scenario import FIRST_DAY, made_id
from redframe.store.stock import NewLotChange
from redframe.work.stock.record import add_lot, change_lot
from redframe.work.unit_of_work import UnitOfWork

SUPPLIER = "Corrane Growers' Store"


@dataclass(frozen=True)
class DemoLot:
    """A lot: what it is for, how much of it, when it was bought and until when it is good."""

    lot: str
    product: str
    option_ids: tuple[str, ...]
    unit: str
    quantity: float
    bought_on: date
    expires_on: date
    strength: str = ""
    receipt: str = ""


FORMIC_STRIPS = "Formic acid strips, ten to a pack"
OXALIC_CRYSTALS = "Oxalic acid dihydrate, crystals"
_FORMIC = ("FA_STRIP2", "FA_STRIP11")
_OXALIC = ("OX_TRICKLE",)
LOTS: dict[str, tuple[DemoLot, ...]] = {
    "corrane": (
        DemoLot("F-2207", FORMIC_STRIPS, _FORMIC, "strip", 200, date(2029, 7, 2), date(2031, 6, 30),
                "68.2 g formic acid a strip", "C 29/114"),
        DemoLot("X-118", "Oxalic acid solution, ready to use", _OXALIC, "ml", 8000, date(2029, 11, 5),
                date(2031, 3, 31), "4.5 % w/v dihydrate", "C 29/187"),
        # The strips of this summer: not enough for what is planned.
        DemoLot("F-3105", FORMIC_STRIPS, _FORMIC, "strip", 36, date(2031, 6, 12), date(2032, 12, 31),
                "68.2 g formic acid a strip", "C 31/071"),
        DemoLot("XC-40", OXALIC_CRYSTALS, _OXALIC, "g", 1000, date(2031, 6, 12), date(2033, 6, 30),
                "99.6 %", "C 31/071"),
    ),
    "ellery": (
        DemoLot("T-09", "Thymol gel in trays", ("THY_GEL",), "g gel", 1000, date(2030, 1, 4), date(2032, 1, 31),
                "25 %", "PE 30-02"),
        DemoLot("A-77", "Amitraz strips, ten to a pack", ("AMZ_STRIP",), "strip", 30, date(2030, 1, 4),
                date(2032, 1, 31), "500 mg a strip", "PE 30-02"),
        DemoLot("O-15", OXALIC_CRYSTALS, ("OX_TRICKLE", "OX_VAP1"), "g", 350, date(2030, 4, 18),
                date(2032, 4, 30), "99.6 %", "PE 30-11"),
        DemoLot("E-02", "Oxalic acid strips in glycerol", ("OX_EXT",), "strip", 60, date(2030, 1, 4),
                date(2032, 1, 31), "", "PE 30-02"),
        DemoLot("H-31", "Hop acid strips", ("HOP_STRIP",), "strip", 40, date(2030, 9, 2), date(2032, 8, 31),
                "", "PE 30-19"),
        DemoLot("F-410", FORMIC_STRIPS, _FORMIC, "strip", 40, date(2030, 1, 4), date(2032, 1, 31),
                "68.2 g formic acid a strip", "PE 30-02"),
        DemoLot("L-66", "Flumethrin strips", ("FLUM_STRIP",), "strip", 40, date(2031, 1, 9), date(2033, 1, 31), "",
                "PE 31-01"),
    ),
}  # fmt: skip


def lot_id(association: str, lot: str) -> UUID:
    """The id of a lot of the demo."""
    return made_id(association, "lot", lot)


def lot_for(association: str, option: str, day: date) -> UUID | None:
    """The lot from which a dose is taken on a day: in store by then, good, the last bought."""
    fitting = [
        one
        for one in LOTS[association]
        if option in one.option_ids and one.bought_on <= day <= one.expires_on
    ]  # fmt: skip
    fitting = [one for one in fitting if one.unit != "g" or option != "OX_TRICKLE"]
    return lot_id(association, fitting[-1].lot) if fitting else None


def days_of_stock(association: str) -> Sequence[date]:
    """The days on which something of the stock is recorded."""
    bought = {max(FIRST_DAY, one.bought_on) for one in LOTS[association]}
    gone = {one.expires_on + timedelta(days=5) for one in LOTS[association]}
    return sorted(bought | gone)


async def record_stock(unit: UnitOfWork, association: str) -> None:
    """Record what was bought on the day of `unit`, and dispose of part of what is out of date."""
    for one in LOTS[association]:
        number = lot_id(association, one.lot)
        if max(FIRST_DAY, one.bought_on) == unit.today:
            facts = LotFacts(
                one.product, one.option_ids, one.unit, one.quantity, one.strength, one.lot, one.expires_on,
                one.bought_on, SUPPLIER if association == "corrane" else "Ellery Wharf Supplies", one.receipt, "",
            )  # fmt: skip
            await add_lot(unit, number, facts)
        if one.expires_on + timedelta(days=5) == unit.today and one.lot == "X-118":
            gone = NewLotChange(number, "disposed", 1000, unit.today, "Brought to the collection point of the island.")
            await change_lot(unit, made_id("disposed", number), gone)
