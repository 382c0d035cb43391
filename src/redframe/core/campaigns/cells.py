"""Cells of a coarse map: squares of about eleven kilometres, shown only where enough keepers stand in them.

Cells stand still from week to week and nothing is shown with and without one keeper, so that no difference tells an
address (docs/methods/count-week.md, "The map").
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Self
from uuid import UUID

CELL_DEGREES = 0.1
FEWEST_APIARIES = FEWEST_KEEPERS = 3
FEW_COLONIES = 5
NEAR_CELLS = 2


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
    """An apiary on the map: whose it is, and the single and the double cell in which it stands."""

    apiary_id: UUID
    keeper_id: UUID
    single: Cell
    double: Cell

    @classmethod
    def at(cls, apiary_id: UUID, keeper_id: UUID, latitude: float, longitude: float) -> Self:
        """An apiary whose place is known."""
        single, double = (cell_of(latitude, longitude, size) for size in (CELL_DEGREES, 2 * CELL_DEGREES))
        return cls(apiary_id, keeper_id, single, double)


def near(own: Cell, other: Cell) -> bool:
    """Whether a single cell lies within two cells of another, single or double: its middle less than two cells from the
    other's edge. Neither tells an address."""
    (latitude, longitude), ((south, west), (north, east)) = own.centre, other.corners
    up = max(south - latitude, latitude - north, 0.0) / own.degrees
    along = max(west - longitude, longitude - east, 0.0) / own.width_degrees
    return max(up, along) < NEAR_CELLS


def shown_cells(apiaries: Sequence[Placed]) -> Mapping[UUID, Cell | None]:
    """The cell under which each apiary is shown: its own where three apiaries of three keepers stand, else the cell of
    double size with those around it, else None ("elsewhere").

    Decided from the apiaries that there are, never from those that counted, so that the same cells are shown each week.
    A double cell is shown with all that are left in it, never beside a part of them.
    """
    shown: dict[UUID, Cell | None] = {}
    left = list(apiaries)
    for double in (False, True):
        groups: dict[Cell, list[Placed]] = defaultdict(list)
        for one in left:
            groups[one.double if double else one.single].append(one)
        left = []
        for cell, group in groups.items():
            if len(group) >= FEWEST_APIARIES and len({one.keeper_id for one in group}) >= FEWEST_KEEPERS:
                shown.update((one.apiary_id, cell) for one in group)
            else:
                left += group
    shown.update((one.apiary_id, None) for one in left)
    return shown
