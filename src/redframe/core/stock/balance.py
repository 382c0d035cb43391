"""What is left of each lot, and what planned courses will lack on which day.

The lot that expires first is used first. A lot serves the options that it was bought for; crystals for a solution serve
it by the grams in a millilitre. See docs/methods/stock.md.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal
from uuid import UUID

from redframe.core.treatments.catalogue import Option
from redframe.core.treatments.oxalic import DEFAULT_DIHYDRATE_WV

LotChangeKind = Literal["disposed", "lost", "mixed", "found"]
ADDS: frozenset[LotChangeKind] = frozenset({"found"})
"""Changes that add to a lot; all others take from it."""
LotState = Literal["good", "expires_soon", "expired", "used_up", "overdrawn"]
SOON_DAYS = 60
LEAST = 1e-6


@dataclass(frozen=True, slots=True)
class LotChange:
    """What was done with part of a lot other than placing it in a hive."""

    kind: LotChangeKind
    quantity: float


def left_of(bought: float, placed: float, changes: Sequence[LotChange]) -> float:
    """What is left of a lot, in its unit; below nought where more was recorded as used than was bought."""
    added = sum(one.quantity for one in changes if one.kind in ADDS)
    taken = sum(one.quantity for one in changes if one.kind not in ADDS)
    return bought + added - placed - taken


def lot_state(left: float, expires_on: date | None, today: date) -> LotState:
    """How a lot is today: overdrawn and used up come before its date."""
    if left < -LEAST:
        return "overdrawn"
    if left <= LEAST:
        return "used_up"
    if expires_on is None:
        return "good"
    days = (expires_on - today).days
    return "expired" if days < 0 else "expires_soon" if days <= SOON_DAYS else "good"


def lot_unit_per_dose_unit(option: Option, lot_unit: str) -> float | None:
    """How much of a lot goes into one unit of an option's dose; None where the lot cannot serve it."""
    if option.dose_unit == lot_unit:
        return 1.0
    if option.mixing == "oxalic_solution" and lot_unit == "g":
        return DEFAULT_DIHYDRATE_WV / 100
    return None


@dataclass(frozen=True, slots=True)
class Available:
    """A lot with what is left of it; usable up to its last day, a keeper's own (`keeper_id`) only at that keeper's."""

    id: UUID
    option_ids: Sequence[str]
    unit: str
    left: float
    expires_on: date | None
    keeper_id: UUID | None = None

    def serves(self, option: Option, need: Need) -> bool:
        """Whether a dose may be taken from it: bought for the option, good long enough, not another keeper's."""
        is_good = self.expires_on is None or self.expires_on >= need.good_until
        is_theirs = self.keeper_id is None or self.keeper_id == need.keeper_id
        return option.id in self.option_ids and is_good and is_theirs


@dataclass(frozen=True, slots=True)
class Need:
    """A dose that a course is still to be given, in the unit of the option's dose: on a day, and to be good until
    another."""

    option_id: str
    on: date
    good_until: date
    quantity: float
    apiary_id: UUID
    keeper_id: UUID


@dataclass(frozen=True, slots=True)
class OptionStock:
    """What an option still needs and what of it is there, in the unit of its dose. `short_on`: the first day on which a
    dose is lacking, with the apiary that it was for; `expired`: so much is there that will be out of date."""

    option_id: str
    unit: str
    needed: float
    covered: float
    short_by: float
    short_on: date | None
    short_at: UUID | None
    expired: float


class Shelf:
    """Lots that doses are taken from, the one that expires first before others."""

    def __init__(self, lots: Sequence[Available]) -> None:
        self._left = {lot.id: max(0.0, lot.left) for lot in lots}
        self._in_order = sorted(lots, key=lambda lot: (lot.expires_on or date.max, str(lot.id)))

    def take(self, option: Option, need: Need) -> tuple[list[tuple[Available, float]], float]:
        """What a dose is taken from, each with how much in the lot's own unit; and what is lacking, in the dose's."""
        taken, rest = [], need.quantity
        for lot in self._in_order:
            factor = lot_unit_per_dose_unit(option, lot.unit)
            if factor is None or rest <= LEAST or not lot.serves(option, need) or self._left[lot.id] <= LEAST:
                continue
            used = min(rest, self._left[lot.id] / factor)
            self._left[lot.id] -= used * factor
            taken.append((lot, used * factor))
            rest -= used
        return taken, rest if rest > LEAST else 0.0


def stock_by_option(
    options: Mapping[str, Option], lots: Sequence[Available], needs: Sequence[Need]
) -> list[OptionStock]:
    """Give the lots to the needs in the order of their days, the lot that expires first before others.

    One entry for each option that is needed, by the first day on which it is short, then by id.
    """
    shelf = Shelf(lots)
    needed: dict[str, float] = defaultdict(float)
    covered: dict[str, float] = defaultdict(float)
    first_short: dict[str, Need] = {}
    for need in sorted(needs, key=lambda one: (one.on, one.option_id, str(one.apiary_id))):
        _, lacking = shelf.take(options[need.option_id], need)
        needed[need.option_id] += need.quantity
        covered[need.option_id] += need.quantity - lacking
        if lacking:
            first_short.setdefault(need.option_id, need)
    found = []
    for option_id in needed:
        option, short = options[option_id], first_short.get(option_id)
        last = max(one.good_until for one in needs if one.option_id == option_id)
        too_old = [
            max(0.0, lot.left) / factor
            for lot in lots
            if option_id in lot.option_ids
            and lot.expires_on is not None
            and lot.expires_on < last
            and (factor := lot_unit_per_dose_unit(option, lot.unit)) is not None
        ]
        found.append(
            OptionStock(
                option_id, option.dose_unit, needed[option_id], covered[option_id],
                max(0.0, needed[option_id] - covered[option_id]), short.on if short else None,
                short.apiary_id if short else None, sum(too_old),
            )
        )  # fmt: skip
    return sorted(found, key=lambda one: (one.short_on or date.max, one.option_id))
