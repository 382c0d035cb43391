"""Lots recorded and amended, and what is done with them other than placing."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID, uuid5

from redframe.core.errors import InvalidInput, Refused
from redframe.core.stock.balance import LEAST, LotChangeKind
from redframe.core.stock.lot import LotFacts, check_lot
from redframe.core.treatments.oxalic import OxalicSolution, StrengthBasis, oxalic_solution
from redframe.store import stock as store
from redframe.store.stock import NewLotChange
from redframe.work.policy.read import policy_in_force
from redframe.work.registers.record import enter_courses_of_lot
from redframe.work.roles import require
from redframe.work.stock.read import LotView, lot_view
from redframe.work.to_json import to_json
from redframe.work.unit_of_work import UnitOfWork

SOLUTION_KEEPS_DAYS = 7
"""So long a mixed oxalic solution is used; then it is disposed of (docs/methods/oxalic.md)."""
SOLUTION_FOR = "OX_TRICKLE"


async def add_lot(unit: UnitOfWork, lot_id: UUID, facts: LotFacts) -> LotView:
    """Add a lot to the stock: a keeper's own, the association's for its staff. Raises InvalidInput naming the field."""
    require(unit.who, "record")
    if await unit.accept(lot_id, "lot", to_json(facts)):
        policy = await policy_in_force(unit)
        check_lot(facts, policy.treatment_rules.catalogue, unit.today)
        await store.add_lot(unit.connection, lot_id, unit.who.keeper_id, facts)
    return await lot_view(unit, lot_id)


async def amend_lot(unit: UnitOfWork, lot_id: UUID, version: int, facts: LotFacts) -> LotView:
    """Amend a lot; the transaction carries the reason, and the register is amended with it.

    Raises Conflict when it has changed since `version`, InvalidInput naming the field.
    """
    require(unit.who, "record")
    await store.lock_lot(unit.connection, lot_id)
    policy = await policy_in_force(unit)
    check_lot(facts, policy.treatment_rules.catalogue, unit.today)
    before = await store.lot(unit.connection, lot_id)
    gone = [one for one in before.placings if one not in facts.option_ids]
    if gone:
        raise InvalidInput("option_ids", "some of it was placed for what is taken off here", code="refused")
    await store.amend_lot(unit.connection, lot_id, version, facts)
    await enter_courses_of_lot(unit, lot_id, "")
    return await lot_view(unit, lot_id)


async def change_lot(unit: UnitOfWork, change_id: UUID, change: NewLotChange) -> LotView:
    """Record that part of a lot was disposed of, lost or found again.

    Raises InvalidInput naming `done_on` or `how`. More than is there is recorded all the same, and said.
    """
    require(unit.who, "record")
    if await unit.accept(change_id, "lot_change", to_json(change)):
        await store.lock_lot(unit.connection, change.lot_id)
        if change.done_on > unit.today:
            raise InvalidInput("done_on", "lies in the future", code="out_of_range")
        if not change.how.strip():
            ask: dict[LotChangeKind, str] = {
                "disposed": "say how and where", "lost": "say what became of it", "found": "say where from",
            }  # fmt: skip
            raise InvalidInput("how", ask.get(change.kind, "say how"), code="missing")
        await store.add_lot_change(unit.connection, change_id, change)
    return await lot_view(unit, change.lot_id)


@dataclass(frozen=True, slots=True)
class Mixing:
    """A solution to be made of a lot of crystals: how much, how strong by which basis, with how much sugar."""

    lot_id: UUID
    target_ml: float
    strength: float
    basis: StrengthBasis
    sugar_per_water: float
    mixed_on: date


@dataclass(frozen=True, slots=True)
class Mixed:
    """What was weighed out, and the bottle that it made."""

    solution: OxalicSolution
    bottle: LotView


async def mix_solution(unit: UnitOfWork, bottle_id: UUID, mixing: Mixing) -> Mixed:
    """Take crystals out of a lot and add the bottle that they make; it is used within a week.

    Raises InvalidInput naming `lot_id`, `target_ml`, `strength` or `mixed_on`; Refused("too_little") where the lot does
    not hold so much.
    """
    require(unit.who, "record")
    solution = oxalic_solution(mixing.target_ml, mixing.strength, mixing.basis, mixing.sugar_per_water)
    if await unit.accept(bottle_id, "mixing", to_json(mixing)):
        await store.lock_lot(unit.connection, mixing.lot_id)
        crystals = await lot_view(unit, mixing.lot_id)
        facts = crystals.lot
        if mixing.mixed_on > unit.today:
            raise InvalidInput("mixed_on", "lies in the future", code="out_of_range")
        if facts.unit != "g" or SOLUTION_FOR not in facts.option_ids:
            raise InvalidInput("lot_id", "is not of crystals for a solution", code="refused")
        if facts.expires_on is not None and facts.expires_on < mixing.mixed_on:
            raise InvalidInput("lot_id", f"{facts.product} was to be used by {facts.expires_on}", code="refused")
        if solution.dihydrate_g > crystals.left + LEAST:
            text = f"{solution.dihydrate_g:g} g are needed, {max(0.0, crystals.left):g} g are left"
            raise Refused("too_little", text, field="lot_id")
        last_on = mixing.mixed_on + timedelta(days=SOLUTION_KEEPS_DAYS)
        bottle = LotFacts(
            product=f"Solution of {facts.product}"[:120], option_ids=[SOLUTION_FOR], unit="ml",
            quantity=solution.final_ml,
            strength=f"{solution.strength_dihydrate_wv:g} % w/v dihydrate = {solution.strength_anhydrous_wv:g} % "
            "anhydrous",
            lot=f"{facts.lot} mixed {mixing.mixed_on}".strip()[:80],
            expires_on=last_on if facts.expires_on is None else min(last_on, facts.expires_on),
            bought_on=facts.bought_on, supplier=facts.supplier, receipt=facts.receipt, note="",
        )  # fmt: skip
        await store.add_lot(unit.connection, bottle_id, facts.keeper_id, bottle, facts.id)
        used = NewLotChange(
            facts.id, "mixed", solution.dihydrate_g, mixing.mixed_on, f"{solution.final_ml:g} ml of solution"
        )
        await store.add_lot_change(unit.connection, uuid5(bottle_id, "mixed"), used)
    return Mixed(solution, await lot_view(unit, bottle_id))
