"""What a person made of the candidates on a board's picture: the mites of each square that was counted."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from redframe.core.errors import InvalidInput

MOST_MARKS = 5000
FINDER = 1
"""Version of the finding: kept with what it found."""


@dataclass(frozen=True, slots=True)
class Candidate:
    """A spot that may be a mite: its middle as shares of the picture's width and height, its length in mm, and how much
    it looks like a mite (0 to 1)."""

    x: float
    y: float
    length_mm: float
    score: float


@dataclass(frozen=True, slots=True)
class Mark:
    """A spot as shares of the picture: `found` by the program or added by the person, `kept` as a mite or struck."""

    x: float
    y: float
    found: bool
    kept: bool


@dataclass(frozen=True, slots=True)
class PictureReading:
    """A picture read: its grid, the squares that were counted (row by row from 0), and every mark."""

    columns: int
    rows: int
    counted: tuple[int, ...]
    marks: tuple[Mark, ...]


def square_of(x: float, y: float, columns: int, rows: int) -> int:
    """The square of a grid in which a spot lies, row by row from 0; the far edges belong to the last."""
    return min(int(y * rows), rows - 1) * columns + min(int(x * columns), columns - 1)


def mites_by_square(reading: PictureReading) -> tuple[int, ...]:
    """Mites kept in each counted square, in the order of `counted`.

    Raises InvalidInput naming `picture.counted` for a square that there is not or stands twice, or none;
    `picture.marks[i]` for a mark beyond the picture.
    """
    whole = reading.columns * reading.rows
    counted = reading.counted
    if not counted or len(set(counted)) != len(counted) or not all(0 <= one < whole for one in counted):
        raise InvalidInput("picture.counted", "name the squares counted, each once", allowed=f"0 to {whole - 1}")
    if len(reading.marks) > MOST_MARKS:
        raise InvalidInput("picture.marks", f"at most {MOST_MARKS} marks", code="out_of_range")
    mites = dict.fromkeys(counted, 0)
    for index, mark in enumerate(reading.marks):
        if not (0 <= mark.x <= 1 and 0 <= mark.y <= 1):
            raise InvalidInput(f"picture.marks[{index}]", "lies beyond the picture", code="out_of_range")
        square = square_of(mark.x, mark.y, reading.columns, reading.rows)
        if mark.kept and square in mites:
            mites[square] += 1
    return tuple(mites.values())


def check_squares(squares: Sequence[int], reading: PictureReading) -> None:
    """Refuse squares that are not what the marks add up to: InvalidInput("squares")."""
    if tuple(squares) != mites_by_square(reading):
        raise InvalidInput("squares", "are not what the marks on the picture add up to", code="refused")
