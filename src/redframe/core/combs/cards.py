"""Cards: a piece of comb with a sign on it, or sound brood, to compare with what is in hand; and what tells those apart
that look alike."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from random import Random
from typing import Literal

import yaml
from pydantic import TypeAdapter

from redframe.core.combs import sick_cells as sick
from redframe.core.combs import sound_cells as sound
from redframe.core.combs.pen import CELL_MM, ROW_MM, Pen, Shape
from redframe.core.disease.signs import signs

Draw = Callable[[Pen, Random], None]
Spread = Literal["scattered", "line", "patch", "all", "rim", "alone"]
CELLS: Mapping[str, Draw] = {
    "empty": sound.empty, "egg": sound.egg, "young_larva": sound.young_larva, "larva": sound.larva,
    "sealed": sound.sealed, "emerging": sound.emerging, "pupa_white": sound.pupa_white, "sealing": sound.sealing,
    "pollen": sound.pollen, "drone_cap": sound.drone_cap, "sunken": sick.sunken, "greasy": sick.greasy,
    "torn": sick.torn, "left_over": sick.left_over, "bald": sick.bald, "discoloured": sick.discoloured,
    "twisted": sick.twisted, "melted": sick.melted, "air_tubes": sick.air_tubes, "brown_remains": sick.brown_remains,
    "thread": sick.thread, "fluid_sac": sick.fluid_sac, "slipper": sick.slipper, "dead_grey": sick.dead_grey,
    "dry": sick.dry, "gnawed": sick.gnawed, "tongue": sick.tongue, "scale_stuck": sick.scale_stuck,
    "scale_loose": sick.scale_loose, "mummy_white": sick.mummy_white, "mummy_black": sick.mummy_black,
    "mummy_stone": sick.mummy_stone, "dead_emerging": sick.dead_emerging, "many_eggs": sick.many_eggs,
}  # fmt: skip
COLUMNS, ROWS = 7, 5
VARIANTS = 3
OVER_NEIGHBOURS = frozenset({"drone_cap", "thread"})
WIDTH_MM, HEIGHT_MM = COLUMNS * CELL_MM, ROWS * ROW_MM


@dataclass(frozen=True, slots=True)
class Card:
    """A piece of comb: cells `ground` all over, `marks` among them as they are spread; in words what is to be seen;
    `close`: the middle alone, drawn larger."""

    name: str
    shows: str
    ground: tuple[str, ...]
    marks: tuple[str, ...]
    spread: Spread
    close: bool = False


@dataclass(frozen=True, slots=True)
class LookAlike:
    """A card that a sign is taken for, and what tells the two apart."""

    card: str
    tells: str


@dataclass(frozen=True, slots=True)
class Cards:
    """All cards, and for each sign its own card and its look-alikes."""

    cards: Mapping[str, Card]
    look_alikes: Mapping[str, tuple[LookAlike, ...]]


@cache
def cards() -> Cards:
    """The cards by id; that of a sign has its id. Raises pydantic's ValidationError for a bad file, ValueError for a
    cell, a sign or a card that is not there."""
    text = files("redframe.core.combs").joinpath("cards.yaml").read_text(encoding="utf-8")
    found = TypeAdapter(Cards).validate_python(yaml.safe_load(text))
    for name, card in found.cards.items():
        unknown = {*card.ground, *card.marks} - CELLS.keys()
        if unknown:
            raise ValueError(f"{name}: no such cells: {sorted(unknown)}")
    for sign, alike in found.look_alikes.items():
        if sign not in signs() or sign not in found.cards:
            raise ValueError(f"{sign} has no card, or is no sign")
        for one in alike:
            if one.card not in found.cards:
                raise ValueError(f"{sign}: no such card: {one.card}")
    return found


@dataclass(frozen=True, slots=True)
class PlacedCell:
    """A cell of a picture: what it shows, in which variant, and where its middle is, in mm."""

    cell: str
    variant: int
    x: float
    y: float


def laid_out(card_id: str) -> list[PlacedCell]:
    """The cells of a card, row by row; what stands over its neighbours comes last."""
    card = cards().cards[card_id]
    dice = Random(card_id)  # noqa: S311
    marked = _marked(card.spread, dice)
    found = []
    for row in range(-1, ROWS + 1):
        for column in range(-1, COLUMNS + 1):
            x = (column + 0.5 + 0.5 * (row % 2)) * CELL_MM
            cells = card.marks if (row, column) in marked else card.ground
            cell = cells[dice.randrange(len(cells))]
            found.append(PlacedCell(cell, dice.randrange(VARIANTS), x, (row + 0.5) * ROW_MM))
    return sorted(found, key=lambda one: one.cell in OVER_NEIGHBOURS)


def _marked(spread: Spread, dice: Random) -> set[tuple[int, int]]:
    """Which cells carry the marks."""
    every = [(row, column) for row in range(-1, ROWS + 1) for column in range(-1, COLUMNS + 1)]
    if spread == "all":
        return set(every)
    if spread == "alone":
        return {(2, 3)}
    if spread == "line":
        return {(1, 0), (1, 1), (2, 2), (2, 3), (2, 4), (3, 5), (3, 6), (3, 7)}
    if spread == "patch":
        return {one for one in every if math.hypot((one[0] - 2) * 0.87, one[1] + 0.5 * (one[0] % 2) - 3.2) < 1.9}
    if spread == "rim":
        return {one for one in every if one[0] >= 2 + (one[1] % 2)}
    inside = [(row, column) for row in range(ROWS) for column in range(COLUMNS)]
    return set(dice.sample(inside, 9)) | {(2, 3)}


def look(cell: str, variant: int) -> Sequence[Shape]:
    """The shapes of a cell around its middle, one of a few so that no two neighbours need be the same."""
    pen = Pen()
    CELLS[cell](pen, Random(f"{cell} {variant}"))  # noqa: S311
    return pen.shapes
