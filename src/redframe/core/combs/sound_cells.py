"""Sound cells: empty, with an egg, a larva, sealed, a bee emerging, stores. Light falls from the upper left."""

from __future__ import annotations

import math
from random import Random

from redframe.core.combs.pen import HEXAGON, Pen, Point, Points, arc, mix, ragged, scaled

RIM, WALL, FLOOR, LIT = "#bd8a48", "#8a5a28", "#57361a", "#7d5227"
"""Comb of a few years."""
CAPPING = "#b98248"
DARK, PALE = "#2a1608", "#fff1d2"


def empty(pen: Pen, _dice: Random | None = None) -> None:
    """An empty cell: its floor in shade, lit to the lower right."""
    pen.polygon(scaled(HEXAGON, 1.02), RIM)
    pen.polygon(scaled(HEXAGON, 0.9), mix(WALL, FLOOR, 0.25))
    pen.polygon(scaled(HEXAGON, 0.84, 0.06, 0.1), WALL)
    pen.ellipse(-0.12, -0.16, 1.98, 1.98, mix(FLOOR, "#000000", 0.25))
    pen.ellipse(0.14, 0.2, 1.72, 1.72, FLOOR)
    pen.ellipse(0.3, 0.48, 1.18, 1.05, LIT, alpha=0.75)


def one_egg(pen: Pen, x: float, y: float, turn: float, length: float) -> None:
    """An egg like a grain of rice."""
    pen.ellipse(x + 0.1, y + 0.12, length / 2, 0.2, "#150b04", turn=turn, alpha=0.6)
    pen.ellipse(x, y, length / 2, 0.19, "#f7f4ea", turn=turn)
    pen.ellipse(x - 0.05, y - 0.05, length / 3, 0.09, "#ffffff", turn=turn)


def egg(pen: Pen, dice: Random) -> None:
    """One egg on the floor of its cell."""
    empty(pen)
    one_egg(pen, 0.05, 0.2, dice.uniform(-35, 35), 1.5)


def grub(
    pen: Pen, radius: float, width: float, turn: float, body: str, shade: str, *, gap: float = 70, gloss: bool = True
) -> None:
    """A larva curled like a C, shaded below, with the lines of its segments."""
    curl = arc(radius, turn + gap / 2, turn + 360 - gap / 2)
    pen.line([(x + 0.1, y + 0.14) for x, y in curl], width * 1.06, mix(shade, "#000000", 0.45), alpha=0.55)
    pen.line(curl, width, shade)
    pen.line([(x - 0.05 * width, y - 0.07 * width) for x, y in curl], width * 0.84, mix(body, shade, 0.45))
    pen.line([(x - 0.09 * width, y - 0.12 * width) for x, y in curl], width * 0.58, body)
    if width > 0.6:
        for at in range(1, 9):
            angle = math.radians(turn + gap / 2 + (360 - gap) * at / 9)
            inner, outer = radius - width * 0.42, radius + width * 0.42
            pen.line(
                [(r * math.cos(angle), r * math.sin(angle)) for r in (inner, outer)], 0.07, shade, alpha=0.55
            )  # fmt: skip
    if gloss:
        pen.line(arc(radius, 200, 250, -0.08 * width, -0.1 * width), width * 0.2, "#ffffff", alpha=0.75)


def larva(pen: Pen, dice: Random) -> None:
    """A pearly white larva that lies curled in its food."""
    empty(pen)
    pen.ellipse(0.05, 0.15, 1.8, 1.7, "#b9b29a", alpha=0.9)
    pen.ellipse(-0.05, 0.02, 1.55, 1.45, "#d5cfba", alpha=0.85)
    grub(pen, 1.25, 1.1, dice.random() * 360, "#fbf9f2", "#c9c4b3")


def young_larva(pen: Pen, dice: Random) -> None:
    """A small larva in a pool of food."""
    empty(pen)
    pen.ellipse(0.05, 0.15, 1.3, 1.2, "#b9b29a", alpha=0.9)
    pen.ellipse(-0.05, 0.02, 1.12, 1.04, "#d5cfba", alpha=0.85)
    grub(pen, 0.72, 0.42, dice.random() * 360, "#fbf9f2", "#c9c4b3", gap=120)


def capping(pen: Pen, colour: str, dome: float, dice: Random) -> None:
    """A capping like a biscuit, filling its cell, slightly domed, matt and fibrous."""
    pen.polygon(scaled(HEXAGON, 1.04), mix(colour, DARK, 0.34))
    rounded = [_towards_round(point) for point in _finer(scaled(HEXAGON, 0.985))]
    for step in range(7):
        part = step / 6
        shade = mix(mix(colour, DARK, 0.2 * (1 - part)), PALE, 0.2 * part * part * (0.5 + 0.5 * dome))
        pen.polygon(scaled(rounded, 1 - 0.8 * part, -0.5 * part * dome, -0.58 * part * dome), shade)
    for _ in range(12):
        angle, reach, turn = dice.random() * 6.3, 2.2 * math.sqrt(dice.random()), dice.random() * 3
        x, y = reach * math.cos(angle), reach * math.sin(angle)
        fibre = [(x, y), (x + 0.35 * math.cos(turn), y + 0.35 * math.sin(turn))]
        pen.line(fibre, 0.1, mix(colour, dice.choice([DARK, PALE]), 0.3), alpha=0.55)


def _towards_round(point: Point) -> Point:
    x, y = point
    far = math.hypot(x, y)
    return (x + 2.42 * x / far) / 2, (y + 2.42 * y / far) / 2


def _finer(points: Points, parts: int = 4) -> list[Point]:
    ends = [*points[1:], points[0]]
    return [
        (x0 + (x1 - x0) * at / parts, y0 + (y1 - y0) * at / parts)
        for (x0, y0), (x1, y1) in zip(points, ends, strict=True)
        for at in range(parts)
    ]


def biscuit(dice: Random) -> str:
    """The colour of a sound capping, none quite like the next."""
    return mix(CAPPING, dice.choice(["#e0b274", "#9a6430"]), dice.random() * 0.16)


def sealed(pen: Pen, dice: Random) -> None:
    """Sound sealed worker brood."""
    capping(pen, biscuit(dice), 1, dice)


def face(pen: Pen, dice: Random, skin: str, eyes: str, *, antennae: bool) -> None:
    """The head of a pupa or of a bee, seen from above."""
    turn = dice.uniform(-14, 14)
    pen.ellipse(0.12, 0.2, 1.82, 1.62, "#120904", turn=turn, alpha=0.6)
    pen.ellipse(0, 0, 1.78, 1.55, mix(skin, DARK, 0.18), turn=turn)
    pen.ellipse(-0.08, -0.1, 1.62, 1.38, skin, turn=turn)
    for side in (-1, 1):
        pen.ellipse(side * 1.28, 0.05, 0.36, 0.8, mix(eyes, DARK, 0.35), turn=turn - side * 14)
        pen.ellipse(side * 1.3 - 0.06, -0.02, 0.27, 0.68, eyes, turn=turn - side * 14)
    pen.ellipse(-0.35, -0.55, 0.6, 0.32, mix(skin, "#ffffff", 0.55), turn=turn, alpha=0.75)
    for side in (-1, 1):
        pen.line([(side * 0.2, 0.25), (side * 0.5, 0.75), (side * 0.42, 1.25)], 0.13, mix(skin, DARK, 0.4))
    pen.polygon([(-0.3, 0.75), (0.3, 0.75), (0.2, 1.3), (-0.2, 1.3)], mix(skin, DARK, 0.28))
    if antennae:
        for side in (-1, 1):
            pen.line([(side * 0.22, 0.2), (side * 0.62, -0.62), (side * 1.15, -1.05)], 0.15, "#1a1210", alpha=0.9)


def emerging(pen: Pen, dice: Random) -> None:
    """A bee that cuts its lid neatly and looks out."""
    capping(pen, biscuit(dice), 0.8, dice)
    pen.polygon(ragged(dice, 1.95, 18, 0.06), "#1f1208")
    face(pen, dice, "#6d4a25", "#1a1210", antennae=True)


def pupa_white(pen: Pen, dice: Random) -> None:
    """A living pupa under a lid that was lifted: white, whole, its eyes coloured by its age."""
    empty(pen)
    pen.polygon(scaled(HEXAGON, 0.93), mix(RIM, "#f0d8a0", 0.3))
    pen.ellipse(0.05, 0.08, 2.25, 2.25, mix(WALL, DARK, 0.35))
    face(pen, dice, "#f4ede2", dice.choice(["#e9d9d2", "#d6a3a5", "#a9607a", "#6b2f4a"]), antennae=False)


def sealing(pen: Pen, dice: Random) -> None:
    """A cell in the course of sealing: a smooth rolled rim around a round hole in the middle."""
    capping(pen, mix(biscuit(dice), "#e6c48d", 0.45), 0.7, dice)
    pen.ellipse(0, 0.02, 1.22, 1.2, mix(CAPPING, "#fff0d0", 0.55))
    pen.ellipse(0, 0.04, 1.04, 1.02, "#5b3c1f")
    pen.ellipse(0.02, 0.12, 0.9, 0.86, "#f3efe4")
    pen.ellipse(-0.15, -0.08, 0.4, 0.3, "#ffffff", alpha=0.8)


def pollen(pen: Pen, dice: Random) -> None:
    """Packed pollen."""
    empty(pen)
    colour = dice.choice(["#d8a129", "#c8782a", "#b8ab4c"])
    pen.ellipse(0, 0.05, 2.05, 2.0, mix(colour, DARK, 0.25))
    pen.ellipse(-0.1, -0.08, 1.8, 1.75, colour)
    for _ in range(10):
        pen.ellipse(
            dice.uniform(-1.3, 1.3), dice.uniform(-1.3, 1.3), 0.22, 0.18, mix(colour, "#ffffff", 0.3), alpha=0.7
        )  # fmt: skip


def drone_cap(pen: Pen, dice: Random) -> None:
    """A bullet: the tall dome of a drone over a worker's cell."""
    pen.ellipse(0.62, 0.78, 2.95, 2.85, "#1c0f06", alpha=0.45)
    colour = mix(biscuit(dice), "#dcb16c", 0.35)
    pen.ellipse(0.06, 0.08, 2.92, 2.88, mix(colour, DARK, 0.45))
    pen.ellipse(-0.06, -0.08, 2.7, 2.66, colour)
    pen.ellipse(-0.42, -0.5, 1.85, 1.78, mix(colour, "#fff0cf", 0.3))
    pen.ellipse(-0.72, -0.86, 0.95, 0.85, mix(colour, "#fff7e4", 0.62))
