"""What each cause of death is: its name, its marks, what settles it, what the neighbours need now.

Data in `causes.yaml`, read and checked once. The law of a place and its authority come before all of it.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files

import yaml
from pydantic import TypeAdapter

UNDETERMINED = "undetermined"


@dataclass(frozen=True, slots=True)
class Cause:
    """A cause in the words of the trade. `order`: its place in a chain of causes, the earliest first; `like`: what is
    taken for it, or it for."""

    order: int
    name: str
    tells: str
    like: str
    settles: str
    neighbours: tuple[str, ...]


@cache
def causes() -> Mapping[str, Cause]:
    """Every cause by its id. Raises pydantic's ValidationError for a bad file."""
    text = files("redframe.core.deadouts").joinpath("causes.yaml").read_text(encoding="utf-8")
    return TypeAdapter(dict[str, Cause]).validate_python(yaml.safe_load(text))


def names_of_causes() -> dict[str, str]:
    """The names of all causes by their ids."""
    return {one: words.name for one, words in causes().items()}
