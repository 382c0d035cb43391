"""A pen that collects ellipses, polygons and lines in millimetres, and what helps to draw with it.

Drawn once and the same for ever: what looks random comes from a generator that is passed along.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from random import Random

Point = tuple[float, float]
Points = Sequence[Point]
CELL_MM = 5.4
"""Width of a worker cell between its flats."""
ROW_MM = CELL_MM * math.sqrt(3) / 2
_CORNER = CELL_MM / math.sqrt(3)
HEXAGON: Points = tuple(
    (_CORNER * math.sin(math.radians(60 * k)), -_CORNER * math.cos(math.radians(60 * k))) for k in range(6)
)
"""A worker cell around its middle, points up."""


@dataclass(frozen=True, slots=True)
class Ellipse:
    """An ellipse around a middle, turned by degrees."""

    x: float
    y: float
    rx: float
    ry: float
    turn: float
    fill: str
    alpha: float


@dataclass(frozen=True, slots=True)
class Polygon:
    """A filled shape."""

    points: Points
    fill: str
    alpha: float


@dataclass(frozen=True, slots=True)
class Line:
    """A line with round ends."""

    points: Points
    width: float
    colour: str
    alpha: float


Shape = Ellipse | Polygon | Line


@dataclass(slots=True)
class Pen:
    """Collects shapes, each on top of those before it."""

    shapes: list[Shape] = field(default_factory=list)

    def ellipse(
        self, x: float, y: float, rx: float, ry: float, fill: str, *, turn: float = 0, alpha: float = 1
    ) -> None:
        """Draw an ellipse."""
        self.shapes.append(Ellipse(x, y, rx, ry, turn, fill, alpha))

    def polygon(self, points: Points, fill: str, *, alpha: float = 1) -> None:
        """Draw a filled shape."""
        self.shapes.append(Polygon(tuple(points), fill, alpha))

    def line(self, points: Points, width: float, colour: str, *, alpha: float = 1) -> None:
        """Draw a line."""
        self.shapes.append(Line(tuple(points), width, colour, alpha))


def mix(one: str, other: str, share: float) -> str:
    """A colour between two, `#rrggbb` each; 0 is the first."""
    pairs = [(int(one[at : at + 2], 16), int(other[at : at + 2], 16)) for at in (1, 3, 5)]
    return "#" + "".join(f"{round(a + (b - a) * share):02x}" for a, b in pairs)


def scaled(points: Points, by: float, dx: float = 0, dy: float = 0) -> list[Point]:
    """Points drawn larger around the middle and moved."""
    return [(x * by + dx, y * by + dy) for x, y in points]


def arc(radius: float, start: float, end: float, x: float = 0, y: float = 0, steps: int = 14) -> list[Point]:
    """Points on a circle between two angles in degrees."""
    angles = (math.radians(start + (end - start) * at / steps) for at in range(steps + 1))
    return [(x + radius * math.cos(angle), y + radius * math.sin(angle)) for angle in angles]


def ragged(
    dice: Random, radius: float, corners: int = 11, rough: float = 0.3, x: float = 0, y: float = 0, tall: float = 1
) -> list[Point]:
    """A round shape with an uneven edge."""
    turn = dice.random() * 6

    def reach() -> float:
        return radius * (1 + rough * (dice.random() - 0.5) * 2)

    return [
        (
            x + reach() * math.cos(turn + 2 * math.pi * at / corners),
            y + tall * reach() * math.sin(turn + 2 * math.pi * at / corners),
        )
        for at in range(corners)
    ]
