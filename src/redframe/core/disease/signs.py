"""The controlled vocabulary of signs: what may be seen, how it is examined, and on which scale it is recorded.

Data in `signs.csv`, read and checked once. A sign is never free text; a note may stand beside it.
"""

from __future__ import annotations

import csv
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Literal, cast, get_args

from redframe.core.errors import InvalidInput

Scale = Literal[
    "cells", "bees", "extent", "percent", "mm", "grade_2", "grade_3", "tenths", "dm2", "per_5_min", "per_100_cells",
    "result", "number", "yes",
]  # fmt: skip
Extent = Literal["few", "some", "many"]


@dataclass(frozen=True, slots=True)
class Sign:
    """A sign. `on_frame`: seen on a comb; `suspicious`: while it stands unexplained no comb leaves the colony."""

    id: str
    group: str
    name: str
    definition: str
    examined: tuple[str, ...]
    scale: Scale
    on_frame: bool
    suspicious: bool


@cache
def signs() -> Mapping[str, Sign]:
    """All signs by id, in the order of the vocabulary. Raises InvalidInput naming entry and column of a bad file."""
    text = files("redframe.core.disease").joinpath("signs.csv").read_text(encoding="utf-8")
    found: dict[str, Sign] = {}
    for row in csv.DictReader(text.splitlines()):
        name = row["id"]
        if row["scale"] not in get_args(Scale):
            raise InvalidInput(f"signs.csv.{name}.scale", f"{row['scale']} is no scale")
        if name in found:
            raise InvalidInput(f"signs.csv.{name}.id", "stands twice")
        found[name] = Sign(
            name,
            row["group"],
            row["name"],
            row["definition"],
            tuple(row["examined"].split()),
            cast(Scale, row["scale"]),
            row["on_frame"] == "yes",
            row["suspicious"] == "yes",
        )
    return found
