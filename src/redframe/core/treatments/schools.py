"""Where schools of treating differ: the sides of each question, and which of them an association follows."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from pathlib import Path

import yaml
from pydantic import TypeAdapter

from redframe.core.policy.policy import Scope
from redframe.core.policy.treatment_rules import TreatmentRules

SCHOOLS_FILE = Path(__file__).with_name("schools.yaml")


@dataclass(frozen=True, slots=True)
class SchoolSide:
    """One school: what it says, and what it risks."""

    name: str
    says: str
    risk: str


@dataclass(frozen=True, slots=True)
class Switch:
    """The setting of a policy that decides, and the side for each of its values."""

    setting: str
    sides: Mapping[bool | str, str]


@dataclass(frozen=True, slots=True)
class School:
    """A question on which schools differ. `options`: those that it bears on, none for all; `usual`: what is taken where
    nobody decides otherwise, and `why`."""

    id: str
    question: str
    options: tuple[str, ...]
    sides: tuple[SchoolSide, ...]
    usual: str
    why: str
    switch: Switch | None

    def followed(self, rules: TreatmentRules, scope: Scope) -> str | None:
        """The side that a policy follows; None where no setting decides."""
        if self.switch is None:
            return None
        return self.switch.sides[scope if self.switch.setting == "scope" else getattr(rules, self.switch.setting)]


@cache
def schools() -> tuple[School, ...]:
    """All questions, in the order in which they are shown."""
    data = yaml.safe_load(SCHOOLS_FILE.read_text(encoding="utf-8"))
    return tuple(TypeAdapter(list[School]).validate_python(data))
