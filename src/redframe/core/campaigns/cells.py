"""Cells of a coarse map: squares of about eleven kilometres, shown only where enough keepers stand in them.

Cells stand still from week to week and nothing is shown with and without one keeper, so that no difference tells an
address (docs/methods/count-week.md, "The map").
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from uuid import UUID

CELL_DEGREES = 0.1
FEWEST_APIARIES = FEWEST_KEEPERS = 3
FEW_COLONIES = 5


@dataclass(frozen=True, slots=True)
class Cell:
    """A cell: its degrees of latitude, row and column."""

    degrees: float
    row: int
    column: int

    @property
    def width_degrees(self) -> float:
        """Degrees of longitude that make the cell as wide as it is high."""
        return self.degrees / math.cos(math.radians((self.row + 0.5) * self.degrees))

    @property
    def centre(self) -> tuple[float, float]:
        """Latitude and longitude of its middle."""
        return (self.row + 0.5) * self.degrees, (self.column + 0.5) * self.width_degrees

    @property
    def corners(self) -> tuple[tuple[float, float], tuple[float, float]]:
        """South-west and north-east, each as latitude and longitude."""
        south, west = self.row * self.degrees, self.column * self.width_degrees
        return (south, west), (south + self.degrees, west + self.width_degrees)

    @property
    def id(self) -> str:
        """The name under which a cell is published."""
        return f"{self.degrees:g}:{self.row}:{self.column}"


def cell_of(latitude: float, longitude: float, degrees: float = CELL_DEGREES) -> Cell:
    """The cell in which a place lies."""
    row = math.floor(latitude / degrees)
    width = degrees / math.cos(math.radians((row + 0.5) * degrees))
    return Cell(degrees, row, math.floor(longitude / width))


@dataclass(frozen=True, slots=True)
class Placed:
    """An apiary on the map: whose it is and where it stands."""

    apiary_id: UUID
    keeper_id: UUID
    latitude: float
    longitude: float


def shown_cells(apiaries: Sequence[Placed], degrees: float = CELL_DEGREES) -> Mapping[UUID, Cell | None]:
    """The cell under which each apiary is shown: its own where three apiaries of three keepers stand, else the cell of
    double size with those around it, else None ("elsewhere").

    Decided from the apiaries that there are, never from those that counted, so that the same cells are shown each week.
    A double cell is shown with all that are left in it, never beside a part of them.
    """
    shown: dict[UUID, Cell | None] = {}
    left = list(apiaries)
    for size in (degrees, 2 * degrees):
        groups: dict[Cell, list[Placed]] = defaultdict(list)
        for one in left:
            groups[cell_of(one.latitude, one.longitude, size)].append(one)
        left = []
        for cell, group in groups.items():
            if len(group) >= FEWEST_APIARIES and len({one.keeper_id for one in group}) >= FEWEST_KEEPERS:
                shown.update((one.apiary_id, cell) for one in group)
            else:
                left += group
    shown.update((one.apiary_id, None) for one in left)
    return shown
