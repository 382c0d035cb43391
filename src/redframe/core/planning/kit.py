"""What the work at an apiary needs: samples to wash, doses to place, protection for whoever places them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from redframe.core.treatments.catalogue import Option


@dataclass(frozen=True, slots=True)
class Placing:
    """A dose to place in some colonies: of all of them together, in `unit`."""

    option: Option
    quantity: float
    unit: str


@dataclass(frozen=True, slots=True)
class TakenDose:
    """So much of a treatment, in its unit."""

    name: str
    quantity: float
    unit: str


@dataclass(frozen=True, slots=True)
class Kit:
    """`washes`: jars with liquid, one a colony to count; `protection` as the labels usually ask for it."""

    washes: int
    doses: Sequence[TakenDose]
    protection: Sequence[str]


def kit(washes: int, placings: Sequence[Placing]) -> Kit:
    """What to take along: doses of one treatment are added up, protection is named once."""
    doses: dict[tuple[str, str], float] = {}
    protection: dict[str, None] = {}
    for one in placings:
        of = (one.option.name, one.unit)
        doses[of] = doses.get(of, 0.0) + one.quantity
        protection.update(dict.fromkeys(one.option.ppe))
    taken = [TakenDose(name, quantity, unit) for (name, unit), quantity in doses.items()]
    return Kit(washes, taken, list(protection))
