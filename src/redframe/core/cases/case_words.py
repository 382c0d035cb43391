"""What a case says on screen and on paper.

Data in `case_words.yaml`, read and checked once.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache
from importlib.resources import files
from typing import Literal

import yaml
from pydantic import TypeAdapter

from redframe.core.cases.schedule import ClockId
from redframe.core.cases.states import CaseAct, CaseDisease, CaseState, EvidenceField, HoldState

FieldKind = Literal["line", "words", "choice", "several", "day", "number", "centimetres", "yes_no", "none"]


@dataclass(frozen=True, slots=True)
class StateWords:
    """A state: its name, and what it means for those concerned."""

    name: str
    says: str


@dataclass(frozen=True, slots=True)
class ActWords:
    """An act: what its button says, and what its line in the record says."""

    name: str
    done: str


@dataclass(frozen=True, slots=True)
class FieldWords:
    """A field of a step: what it asks, how it is entered, and what may be chosen."""

    label: str
    kind: FieldKind
    choices: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class KeeperWords:
    """What a keeper, or one around, is told: what happens now, what not to do, what else holds."""

    now: Sequence[str]
    never: Sequence[str]
    rules: Sequence[str]


@dataclass(frozen=True, slots=True)
class CaseWords:
    """All words of a case."""

    diseases: Mapping[CaseDisease, str]
    states: Mapping[CaseState, StateWords]
    holds: Mapping[HoldState, str]
    acts: Mapping[CaseAct, ActWords]
    fields: Mapping[EvidenceField, FieldWords]
    clocks: Mapping[ClockId, str]
    keeper: KeeperWords
    neighbours: KeeperWords


@cache
def case_words() -> CaseWords:
    """All words. Raises pydantic's ValidationError for a bad file."""
    text = files("redframe.core.cases").joinpath("case_words.yaml").read_text(encoding="utf-8")
    return TypeAdapter(CaseWords).validate_python(yaml.safe_load(text))
