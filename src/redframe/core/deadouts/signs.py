"""The vocabulary of a dead colony: what is looked for at each step of the walk, and what it was read as.

Data in `dead_signs.csv`, read and checked once. A sign that nobody looked for says nothing.
"""

from __future__ import annotations

import csv
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Literal, cast, get_args

from redframe.core.disease.findings import ANY, STEPS, Finding, SignSeen, Steps, by_steps, read_seen
from redframe.core.errors import InvalidInput

DeadStep = Literal[
    "shut", "outside", "floor", "lid", "cluster", "queen", "heads", "stores", "brood", "combs", "cells", "wash",
    "record",
]  # fmt: skip
STEPS_IN_ORDER: tuple[DeadStep, ...] = get_args(DeadStep)
"""The walk from the outside in: nothing is thrown away before its end."""
DeadScale = Literal[
    "yes", "cells", "bees", "grade_2", "grade_3", "percent", "mm", "kg", "dead_bees", "mites_floor"
]  # fmt: skip
ROPE_MM = 10.0
PLENTY_KG = 5.0
SCALES: Mapping[DeadScale, Steps] = {
    "cells": STEPS["cells"],
    "bees": STEPS["bees"],
    "grade_2": STEPS["grade_2"],
    "grade_3": STEPS["grade_3"],
    "dead_bees": ((3000.0001, "many"), (300.0, "some"), (1.0, "few")),
    "mites_floor": ((200.0001, "many"), (20.0, "some"), (1.0, "few")),
    "percent": ((8.0, "many"), (3.0, "some")),
    "mm": ((ROPE_MM, "some"),),
    "kg": ((PLENTY_KG, "some"),),
    "yes": ANY,
}
"""How the numbers of each scale are read."""


@dataclass(frozen=True, slots=True)
class DeadSign:
    """A sign, at which step it is looked for, and on which scale it is recorded."""

    id: str
    step: DeadStep
    name: str
    definition: str
    scale: DeadScale


@cache
def dead_signs() -> Mapping[str, DeadSign]:
    """All signs by id, in the order of the walk. Raises InvalidInput naming entry and column of a bad file."""
    text = files("redframe.core.deadouts").joinpath("dead_signs.csv").read_text(encoding="utf-8")
    found: dict[str, DeadSign] = {}
    for row in csv.DictReader(text.splitlines()):
        name = row["id"]
        if row["scale"] not in get_args(DeadScale) or row["step"] not in STEPS_IN_ORDER:
            raise InvalidInput(f"dead_signs.csv.{name}", "has no such scale or step")
        if name in found:
            raise InvalidInput(f"dead_signs.csv.{name}.id", "stands twice")
        found[name] = DeadSign(
            name, cast(DeadStep, row["step"]), row["name"], row["definition"], cast(DeadScale, row["scale"])
        )
    return found


def read_dead(seen: Sequence[SignSeen]) -> dict[str, Finding]:
    """What was examined, by the rows of the matrix, whatever the order of entry.

    Raises InvalidInput naming the entry for a sign that is none or stands twice, and for a value that cannot be.
    """
    return read_seen(seen, dead_signs().keys(), _by_number)


def _by_number(one: SignSeen, value: float) -> Finding:
    return by_steps(one, value, SCALES[dead_signs()[one.sign].scale])
