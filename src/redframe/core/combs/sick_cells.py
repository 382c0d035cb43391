"""Cells with a sign of disease, each as the vocabulary describes it."""

from __future__ import annotations

import math
from itertools import pairwise
from random import Random

from redframe.core.combs.pen import HEXAGON, Pen, arc, mix, ragged, scaled
from redframe.core.combs.sound_cells import (
    CAPPING,
    FLOOR,
    LIT,
    RIM,
    biscuit,
    capping,
    empty,
    face,
    grub,
    one_egg,
)


def sunken(pen: Pen, dice: Random) -> None:
    """A capping drawn inward: dark to the upper left, light on the far wall of the dish."""
    _dish(pen, mix(biscuit(dice), "#7d5126", 0.55))


def greasy(pen: Pen, dice: Random) -> None:
    """A capping darker than its neighbours, moist, sunken, sometimes torn."""
    _dish(pen, mix("#54321a", "#3c2210", dice.random()))
    pen.polygon(ragged(dice, 1.05, 9, 0.45, 0.25, 0.35, 0.55), "#8a6a46", alpha=0.4)
    pen.polygon(ragged(dice, 0.55, 8, 0.5, 0.45, 0.62, 0.5), "#d9c19a", alpha=0.42)
    pen.polygon(ragged(dice, 0.35, 7, 0.5, -0.9, 0.1, 0.6), "#d9c19a", alpha=0.35)


def _dish(pen: Pen, colour: str) -> None:
    pen.polygon(scaled(HEXAGON, 1.02), mix(RIM, colour, 0.45))
    pen.polygon(scaled(HEXAGON, 0.97), mix(colour, "#f0cf98", 0.2))
    for step in range(8):
        part = step / 7
        shade = mix(mix(colour, "#120802", 0.5 * (1 - part)), "#f6d9a6", 0.16 * part)
        pen.ellipse(-0.16 + 0.22 * part, -0.2 + 0.3 * part, 2.42 - 1.45 * part, 2.38 - 1.5 * part, shade)
    pen.line(arc(2.05, 15, 75), 0.3, mix(colour, "#f6d9a6", 0.4), alpha=0.55)


def torn(pen: Pen, dice: Random) -> None:
    """An irregular hole off the middle with a chewed edge."""
    capping(pen, mix(biscuit(dice), "#8a5a2a", 0.3), 0.45, dice)
    angle = dice.random() * 6.3
    x, y = 0.85 * math.cos(angle), 0.85 * math.sin(angle)
    hole = ragged(dice, 0.95 + 0.35 * dice.random(), 12, 0.42, x, y)
    pen.polygon(scaled(hole, 1, -0.1, -0.13), mix(CAPPING, "#fff0d0", 0.45))
    pen.polygon(hole, "#1b0e05")
    pen.ellipse(x + 0.2, y + 0.3, 0.34, 0.24, "#57391d", alpha=0.8)


def left_over(pen: Pen, dice: Random) -> None:
    """A worn old cap left among emerged brood."""
    capping(pen, mix(biscuit(dice), "#7a5a38", 0.45), 0.45, dice)
    for _ in range(6):
        angle = dice.random() * 6.3
        crack = [(r * math.cos(angle + turn), r * math.sin(angle + turn)) for r, turn in ((2.2, 0.0), (1.5, 0.4))]
        pen.line(crack, 0.12, "#4a3018", alpha=0.6)


def bald(pen: Pen, dice: Random) -> None:
    """The head of a living pupa from which bees took the cap."""
    empty(pen)
    pen.polygon(scaled(HEXAGON, 0.93), mix(RIM, "#f0d8a0", 0.3))
    pen.ellipse(0.05, 0.08, 2.25, 2.25, "#5d3d1d")
    face(pen, dice, "#f4ede2", dice.choice(["#d6a3a5", "#a9607a", "#6b2f4a"]), antennae=False)


def discoloured(pen: Pen, dice: Random) -> None:
    """A larva that has lost its pearly white: yellow to brown, dull."""
    empty(pen)
    colour = mix("#e8d28a", "#bf9f55", dice.random())
    grub(pen, 1.32, 1.15, dice.random() * 360, colour, mix(colour, "#5a3c14", 0.45), gloss=False, gap=60)


def twisted(pen: Pen, dice: Random) -> None:
    """A larva that lies stretched along the wall like a corkscrew."""
    empty(pen)
    colour, side = mix("#efe3b0", "#d3b765", dice.random()), dice.choice([-1, 1])
    way = (
        (-1.75, 1.15),
        (-1.45, 0.1),
        (-0.5, -0.35),
        (0.35, 0.15),
        (0.95, 0.85),
        (1.55, 0.35),
        (1.65, -0.75),
        (1.1, -1.5),
    )
    body = [(side * x, y) for x, y in way]
    pen.line([(x + 0.1, y + 0.15) for x, y in body], 1.02, "#150b04", alpha=0.6)
    pen.line(body, 0.98, mix(colour, "#6b4a1c", 0.45))
    pen.line([(x - 0.06, y - 0.08) for x, y in body], 0.76, colour)
    for (x0, y0), (x1, y1) in pairwise(body):
        pen.ellipse(
            (x0 + x1) / 2, (y0 + y1) / 2, 0.1, 0.38, mix(colour, "#6b4a1c", 0.4), turn=dice.random() * 180, alpha=0.7
        )  # fmt: skip


def melted(pen: Pen, dice: Random) -> None:
    """A larva slumped flat on the floor of its open cell, like porridge."""
    empty(pen)
    colour = mix("#cdb068", "#8d6f3c", dice.random())
    slump = ragged(dice, 1.66, 14, 0.2, 0.1, 0.45, 0.85)
    pen.polygon(scaled(slump, 1.03, 0.08, 0.1), "#1a0e05", alpha=0.7)
    pen.polygon(slump, mix(colour, "#3b260d", 0.35))
    pen.polygon(scaled(slump, 0.78, -0.08, -0.05), colour)
    pen.ellipse(-0.4, 0.2, 0.5, 0.18, "#f3e6bf", turn=15, alpha=0.7)


def air_tubes(pen: Pen, dice: Random) -> None:
    """White branching air tubes that show through a deflated skin."""
    empty(pen)
    colour, turn = "#d8c587", dice.random() * 360
    grub(pen, 1.25, 1.25, turn, colour, mix(colour, "#5a3c14", 0.45), gloss=False, gap=45)
    pen.line(arc(1.25, turn + 25, turn + 335), 0.13, "#fffdf0")
    for at in range(1, 11):
        angle = math.radians(turn + 25 + 31 * at)
        branch = [(r * math.cos(angle), r * math.sin(angle)) for r in (0.75, 1.25, 1.75)]
        pen.line(branch, 0.1, "#fffdf0", alpha=0.95)


def brown_remains(pen: Pen, dice: Random) -> None:
    """The lid lifted: a coffee-brown semi-liquid mass along the lower wall."""
    _opened(pen, dice)
    mass = ragged(dice, 1.75, 14, 0.14, 0, 0.45, 0.8)
    pen.polygon(mass, "#2e1808")
    pen.polygon(scaled(mass, 0.86, -0.06, -0.02), "#5b3314")
    pen.ellipse(-0.45, 0.1, 0.7, 0.22, "#a9743c", turn=-12, alpha=0.75)
    pen.ellipse(0.6, 0.75, 0.35, 0.12, "#c99a5e", turn=10, alpha=0.6)


def thread(pen: Pen, dice: Random) -> None:
    """A match drawn out of brown remains, with a thread between."""
    brown_remains(pen, dice)
    pen.line([(0.1, 0.3), (0.25, -0.9), (0.2, -1.9), (0.35, -2.8)], 0.26, "#4a270d")
    pen.line([(0.06, 0.2), (0.2, -0.9), (0.15, -1.9), (0.3, -2.8)], 0.1, "#b37b40", alpha=0.9)
    pen.line([(0.35, -2.8), (2.6, -5.4)], 0.62, "#d9bd86")
    pen.ellipse(0.42, -2.9, 0.42, 0.4, "#5b3314")


def _opened(pen: Pen, dice: Random) -> None:
    """A cell whose lid was lifted: an edge of capping stands around it."""
    empty(pen)
    pen.polygon(ragged(dice, 2.3, 16, 0.06), "#22140a")
    for at in range(4):
        start = 90 * at + dice.uniform(0, 30)
        edge = [*arc(2.6, start, start + 50), *arc(2.15, start + 50, start)]
        pen.polygon(edge, mix(CAPPING, "#5a3a1c", 0.4))


def fluid_sac(pen: Pen, dice: Random) -> None:
    """A whole tough skin with clear fluid, lifted out as a sac."""
    _opened(pen, dice)
    pen.ellipse(0.15, 0.3, 1.42, 2.0, "#150b04", turn=8, alpha=0.6)
    pen.ellipse(0, 0.15, 1.35, 1.95, "#b79d63", turn=8)
    pen.ellipse(-0.05, 0.1, 1.15, 1.75, "#e5d7a6", turn=8, alpha=0.92)
    pen.ellipse(-0.4, -0.35, 0.35, 0.8, "#fffdf0", turn=8, alpha=0.85)
    pen.ellipse(0.1, 1.25, 0.95, 0.5, "#f5edcf", turn=8, alpha=0.6)
    pen.ellipse(0.15, -1.55, 0.55, 0.4, "#6f5428", turn=8)


def slipper(pen: Pen, dice: Random) -> None:
    """A dead larva on its back, its head end raised and dark like the toe of a slipper."""
    empty(pen)
    pen.polygon(ragged(dice, 2.28, 16, 0.07), "#241507")
    turn = dice.uniform(-22, 22)
    pen.ellipse(0.12, 0.35, 1.2, 2.0, "#1a0f06", turn=turn, alpha=0.6)
    pen.ellipse(0, 0.25, 1.12, 1.92, "#b5a06c", turn=turn)
    pen.ellipse(-0.1, 0.25, 0.92, 1.72, "#d9cb9d", turn=turn)
    pen.ellipse(-0.3, 0.7, 0.3, 0.85, "#f6efd8", turn=turn, alpha=0.75)
    angle = math.radians(turn)
    x, y = 1.42 * math.sin(angle), 0.12 - 1.5 * math.cos(angle)
    pen.ellipse(x, y, 0.74, 0.62, "#5d4524", turn=turn)
    pen.ellipse(x - 0.05, y - 0.12, 0.46, 0.36, "#2d1d0c", turn=turn)


def dead_grey(pen: Pen, dice: Random) -> None:
    """Dead brood without gloss, slack and grey, at first without smell."""
    empty(pen)
    colour = mix("#a7a293", "#4c4841", dice.random())
    grub(pen, 1.2, 1.1, dice.random() * 360, colour, mix(colour, "#000000", 0.4), gloss=False, gap=95)


def dry(pen: Pen, dice: Random) -> None:
    """A young larva without any food around it, small for its place."""
    empty(pen)
    grub(pen, 0.95, 0.42, dice.random() * 360, "#dccfae", "#9a875d", gloss=False, gap=110)


def gnawed(pen: Pen, dice: Random) -> None:
    """A pupa bitten down: half a body, torn edge, no head."""
    empty(pen)
    pen.polygon(ragged(dice, 2.2, 14, 0.12), "#1e1207")
    x, y = dice.uniform(-0.5, 0.5), dice.uniform(-0.1, 0.7)
    half = ragged(dice, 1.35, 13, 0.38, x, y, 0.8)
    pen.polygon(scaled(half, 1, 0.1, 0.14), "#0d0603", alpha=0.7)
    pen.polygon(half, "#c9bfae")
    pen.polygon(scaled(half, 0.8, x * 0.2 - 0.05, y * 0.2 - 0.1), "#efe8db")
    for _ in range(3):
        shred = [(x + dice.uniform(-1, 1), y + dice.uniform(-0.8, 0.6)) for _ in range(2)]
        pen.line(shred, 0.16, dice.choice(["#b58f86", "#a5957a"]), alpha=0.9)


def tongue(pen: Pen, dice: Random) -> None:
    """A dead pupa with its tongue raised as a thread to the upper wall."""
    _opened(pen, dice)
    mass = ragged(dice, 1.7, 14, 0.12, 0, 0.6, 0.75)
    pen.polygon(mass, "#24120a")
    pen.polygon(scaled(mass, 0.84, -0.06, 0), "#4a2c15")
    pen.line([(0, 0.4), (0.1, -0.6), (-0.05, -1.5), (0.05, -2.2)], 0.24, "#1d0f06")
    pen.line([(-0.04, 0.3), (0.06, -0.6), (-0.09, -1.5), (0.01, -2.2)], 0.1, "#8f6b44")


def scale_stuck(pen: Pen, dice: Random) -> None:
    """A dark flat scale along the lower wall that breaks rather than lifts."""
    empty(pen)
    pen.ellipse(-0.1, -0.2, 1.75, 1.65, mix(FLOOR, LIT, 0.6))
    pen.polygon(
        [
            (-2.05, 0.35), (-1.2, 0.05), (0, 0.22), (1.2, 0.02), (2.05, 0.38), (1.75, 1.45), (0.8, 2.05), (-0.8, 2.05),
            (-1.75, 1.45),
        ],
        "#0c0603",
    )  # fmt: skip
    pen.polygon([(-1.7, 0.55), (-0.9, 0.35), (0.2, 0.5), (1.5, 0.42), (1.3, 1.2), (0.2, 1.5), (-1.2, 1.3)], "#2b180b")
    pen.line([(-1.2, 0.62), (-0.2, 0.72), (1.1, 0.6)], 0.17, "#7a5a38", alpha=0.85)
    pen.line([(-0.9, 1.2), (0.4, 1.35)], 0.12, "#5a4026", alpha=0.7)


def scale_loose(pen: Pen, dice: Random) -> None:
    """A rubbery, boat-shaped remain that lifts out whole."""
    empty(pen)
    turn = dice.uniform(-20, 20)
    pen.ellipse(0.2, 0.4, 1.0, 1.75, "#120904", turn=turn, alpha=0.6)
    pen.ellipse(0, 0.15, 0.92, 1.68, "#7d6236", turn=turn)
    pen.ellipse(0, 0.2, 0.55, 1.25, "#4e3a1c", turn=turn)
    pen.ellipse(-0.35, 0.1, 0.16, 1.1, "#c3a66c", turn=turn, alpha=0.8)


def _mummy(pen: Pen, dice: Random, base: str, low: str) -> None:
    empty(pen)
    shape = ragged(dice, 1.86, 10, 0.1, 0.02, 0.04)
    pen.polygon(scaled(shape, 1.05, 0.14, 0.2), "#140b05", alpha=0.6)
    pen.polygon(shape, low)
    pen.polygon(scaled(shape, 0.88, -0.12, -0.15), base)
    for _ in range(3):
        angle = dice.random() * 6.3
        crack = [(r * math.cos(angle + t), r * math.sin(angle + t)) for r, t in ((1.5, 0.0), (0.5, 0.6), (0.9, 2.0))]
        pen.line(crack, 0.1, low, alpha=0.8)


def mummy_white(pen: Pen, dice: Random) -> None:
    """A hard chalky mummy."""
    _mummy(pen, dice, "#f3f1e8", "#bdb8a6")


def mummy_black(pen: Pen, dice: Random) -> None:
    """A mummy mottled grey and black by fruiting bodies."""
    _mummy(pen, dice, "#7b786f", "#35332e")
    for _ in range(16):
        pen.ellipse(dice.uniform(-1.3, 1.3), dice.uniform(-1.3, 1.3), 0.14, 0.14, "#1d1b18", alpha=0.9)
    pen.polygon(ragged(dice, 0.55, 8, 0.3, dice.uniform(-0.8, 0.8), dice.uniform(-0.8, 0.8)), "#c9c5b8", alpha=0.8)


def mummy_stone(pen: Pen, dice: Random) -> None:
    """A very hard mummy with a powdery yellow-green collar at its head."""
    _mummy(pen, dice, "#8b8a72", "#3f3d2d")
    pen.ellipse(0, -0.85, 1.35, 0.62, "#7d8a2e")
    pen.ellipse(-0.1, -0.95, 1.1, 0.42, "#aeb84a")
    for _ in range(14):
        pen.ellipse(dice.uniform(-1.2, 1.2), dice.uniform(-1.3, -0.4), 0.1, 0.1, "#d3d978", alpha=0.9)


def dead_emerging(pen: Pen, dice: Random) -> None:
    """A bee dead half out of its cell, its tongue out, the cap around its neck."""
    capping(pen, biscuit(dice), 0.8, dice)
    pen.polygon(ragged(dice, 1.95, 16, 0.1), "#150b04")
    face(pen, dice, "#4c3721", "#0f0a08", antennae=False)
    pen.line([(0, 0.95), (0.15, 1.7), (0.05, 2.6)], 0.28, "#8a5c2e")
    pen.line([(0, 0.95), (0.15, 1.7), (0.05, 2.6)], 0.1, "#d7a869")


def many_eggs(pen: Pen, dice: Random) -> None:
    """Several eggs in one cell, on its floor and its walls."""
    empty(pen)
    for _ in range(2 + int(dice.random() * 4)):
        one_egg(pen, dice.uniform(-1.1, 1.1), dice.uniform(-0.9, 1.2), dice.random() * 360, 1.3)
