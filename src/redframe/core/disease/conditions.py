"""What each condition of the brood matrix is: its name, its marks, what is done now and never, when to look again.

Data in `conditions.yaml`, read and checked once. The law of a place and its authority come before all of it.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files

import yaml
from pydantic import TypeAdapter


@dataclass(frozen=True, slots=True)
class Condition:
    """A condition in the words of its trade. `tells`: its marks; `like`: what is taken for it; `recheck_days`: the
    least and the most days after which it is looked at again."""

    name: str
    tells: str
    like: str
    proves: str
    now: tuple[str, ...]
    never: tuple[str, ...]
    recheck_days: tuple[int, int]


@cache
def conditions() -> Mapping[str, Condition]:
    """Every condition by its id. Raises pydantic's ValidationError for a bad file."""
    text = files("redframe.core.disease").joinpath("conditions.yaml").read_text(encoding="utf-8")
    return TypeAdapter(dict[str, Condition]).validate_python(yaml.safe_load(text))
