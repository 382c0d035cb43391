"""What a frame of each format holds: bees on a side, worker cells, honey.

Comb area x 1.25 bees/cm2 at full single-layer cover; x 3.95 worker cells/cm2 at a cell width of 5.4 mm; 0.0031 kg of
capped honey per cm2 of both sides. The area method of Imdorf and others (1987) and Delaplane, van der Steen and
Guzman-Novoa (2013). See docs/methods/visits.md.
"""

from __future__ import annotations

from dataclasses import dataclass

from redframe.core.errors import InvalidInput

BEES_PER_CM2 = 1.25
CELLS_PER_CM2 = 3.95
HONEY_KG_PER_CM2 = 0.0031
NECTAR_OF_HONEY = 0.6
"""Open nectar weighs this share of capped honey on the same area."""


@dataclass(frozen=True, slots=True)
class Capacity:
    """A side of comb in cm2 and what it holds when full; `honey_kg` is of the whole frame, both sides capped."""

    comb_cm2: int
    bees_per_side: int
    cells_per_side: int
    honey_kg: float


CAPACITY = {
    "A_deep": Capacity(880, 1100, 3480, 2.7),
    "A_medium": Capacity(580, 720, 2290, 1.8),
    "A_shallow": Capacity(480, 600, 1900, 1.4),
    "A_jumbo": Capacity(1130, 1410, 4460, 3.6),
    "B_deep": Capacity(690, 860, 2730, 2.3),
    "B_shallow": Capacity(420, 525, 1660, 1.3),
    "B_extra_deep": Capacity(970, 1210, 3830, 3.2),
}


def capacity(frame_format: str) -> Capacity:
    """What a frame of this format holds. Raises InvalidInput for a format that is not known."""
    try:
        return CAPACITY[frame_format]
    except KeyError:
        allowed = ", ".join(CAPACITY)
        raise InvalidInput("frame_format", f"{frame_format} is no frame format", allowed=allowed) from None
