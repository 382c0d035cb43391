"""The pests: how each is scored, what a score asks for, when it is looked at again.

Data in `pests.yaml`, read and checked once. The law of a place and its authority come before all of it.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Literal, get_args

import yaml
from pydantic import TypeAdapter

PestId = Literal["beetle", "moth", "wasps", "ants", "mice", "woodpecker", "large_animals", "robbing"]
PESTS: tuple[PestId, ...] = get_args(PestId)


@dataclass(frozen=True, slots=True)
class Score:
    """A score: what is seen, what is done, and after how many days it is looked at again, earliest and latest."""

    says: str
    act: tuple[str, ...]
    days: tuple[int, int]


@dataclass(frozen=True, slots=True)
class Pest:
    """A pest: how it is looked for, the score from which it asks for an act, its scores from 1 on (0: none seen)."""

    name: str
    how: str
    asks_from: int
    scores: Mapping[int, Score]


@cache
def pests() -> Mapping[PestId, Pest]:
    """Every pest by its id. Raises pydantic's ValidationError for a bad file."""
    text = files("redframe.core.pests").joinpath("pests.yaml").read_text(encoding="utf-8")
    return TypeAdapter(dict[PestId, Pest]).validate_python(yaml.safe_load(text))
