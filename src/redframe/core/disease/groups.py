"""What an examination looks for: groups of signs, so that "not seen" can be said of all of them at once.

Data in `groups.yaml`, read and checked once.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Literal

import yaml
from pydantic import TypeAdapter

GroupId = Literal[
    "foulbrood", "mummies_and_sacs", "other_dead_brood", "odd_cappings", "beetles_and_exotic_mites",
    "mites_and_viruses", "sick_bees",
]  # fmt: skip


@dataclass(frozen=True, slots=True)
class Group:
    """Signs that are looked for together, on brood combs or on bees."""

    name: str
    looked_at: Literal["combs", "bees"]
    signs: tuple[str, ...]


@cache
def groups() -> Mapping[GroupId, Group]:
    """Every group by its id. Raises pydantic's ValidationError for a bad file."""
    text = files("redframe.core.disease").joinpath("groups.yaml").read_text(encoding="utf-8")
    return TypeAdapter(dict[GroupId, Group]).validate_python(yaml.safe_load(text))
