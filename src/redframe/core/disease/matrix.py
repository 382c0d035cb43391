"""The evidence matrix: how often each sign is seen where a condition is there, and where none is.

Data in `brood_matrix.csv`, read and checked once. Expert estimates in steps, not measured frequencies
(docs/methods/brood-diagnosis.md).
"""

from __future__ import annotations

import csv
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache, cached_property
from importlib.resources import files
from typing import Literal, cast, get_args

import numpy as np
import numpy.typing as npt

from redframe.core.errors import InvalidInput

Gate = Literal["caps", "brood", "bees", "none", "test"]
"""What must be there for the absence of a sign to say anything."""
Values = npt.NDArray[np.float64]
COLUMNS = ("sign", "group", "gate", "extent_sensitive", "baseline")


@dataclass(frozen=True, slots=True)
class MatrixSign:
    """A sign of the matrix: signs of one `group` have one cause and count less together; `by_extent`: many tells more
    than few; `baseline`: its chance where none of the conditions is there."""

    id: str
    group: str
    gate: Gate
    by_extent: bool
    baseline: float


@dataclass(frozen=True)
class Matrix:
    """Signs by conditions; `chances[s, c]` is the chance of sign s where condition c is there."""

    signs: Sequence[MatrixSign]
    conditions: Sequence[str]
    chances: Values

    @cached_property
    def _rows(self) -> dict[str, int]:
        return {one.id: number for number, one in enumerate(self.signs)}

    def row(self, sign: str) -> int:
        """The row of a sign. Raises KeyError."""
        return self._rows[sign]

    @cached_property
    def baselines(self) -> Values:
        """The baseline of each sign."""
        return np.array([one.baseline for one in self.signs])


@cache
def brood_matrix() -> Matrix:
    """The matrix of the living colony. Raises InvalidInput naming row and column of a bad file."""
    return read_matrix(files("redframe.core.disease").joinpath("brood_matrix.csv").read_text(encoding="utf-8"))


def read_matrix(text: str) -> Matrix:
    """Read a matrix. Raises InvalidInput naming row and column of what cannot be."""
    rows = csv.DictReader(text.splitlines())
    conditions = [name for name in rows.fieldnames or () if name not in COLUMNS]
    signs: list[MatrixSign] = []
    chances = []
    for row in rows:
        name = row["sign"]
        if row["gate"] not in get_args(Gate):
            raise InvalidInput(f"{name}.gate", f"{row['gate']} is no gate")
        if any(one.id == name for one in signs):
            raise InvalidInput(f"{name}.sign", "stands twice")
        sign = MatrixSign(
            name, row["group"], cast(Gate, row["gate"]), row["extent_sensitive"] == "1", _chance(row, name, "baseline")
        )
        signs.append(sign)
        chances.append([_chance(row, name, condition) for condition in conditions])
    return Matrix(tuple(signs), tuple(conditions), np.array(chances))


def _chance(row: dict[str, str], sign: str, column: str) -> float:
    value = float(row[column])
    if not 0 < value < 1:
        raise InvalidInput(f"{sign}.{column}", "must lie between 0 and 1")
    return value
