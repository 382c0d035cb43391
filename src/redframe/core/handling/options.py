"""The ways in which a condition is handled, as data; read and checked once."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Literal

import yaml
from pydantic import TypeAdapter

from redframe.core.disease.signs import signs

HandledCondition = Literal["chalkbrood", "sacbrood", "laying_workers", "efb", "afb"]
HandlingId = Literal[
    "clean_above_excluder", "melt_and_requeen", "wait_for_flow", "watch_and_wait", "requeen", "break_in_brood",
    "unite_with_strong", "brood_then_queen", "shake_out", "requeen_and_feed", "shaken_swarm", "antibiotic_by_vet",
    "destruction",
]  # fmt: skip


@dataclass(frozen=True, slots=True)
class HandlingWay:
    """A way to handle a condition in the words of its school. `combs`: chosen combs are followed wherever they hang;
    `by_order`: only the authority decides on it."""

    name: str
    combs: bool
    steps: tuple[str, ...]
    speaks_for: tuple[str, ...]
    speaks_against: tuple[str, ...]
    by_order: bool = False


@dataclass(frozen=True, slots=True)
class Handled:
    """A condition of which the schools differ: the signs that are followed, the days after which it is looked at
    again, the options."""

    signs: tuple[str, ...]
    recheck_days: tuple[int, int]
    options: Mapping[HandlingId, HandlingWay]


@cache
def handled_conditions() -> Mapping[HandledCondition, Handled]:
    """Every condition with its options. Raises pydantic's ValidationError for a bad file, ValueError for a sign that
    is not in the vocabulary."""
    text = files("redframe.core.handling").joinpath("options.yaml").read_text(encoding="utf-8")
    found = TypeAdapter(Mapping[HandledCondition, Handled]).validate_python(yaml.safe_load(text))
    for condition, one in found.items():
        unknown = set(one.signs) - set(signs())
        if unknown:
            raise ValueError(f"{condition}: {sorted(unknown)} are no signs")
    return found
