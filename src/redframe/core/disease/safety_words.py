"""What each safety rule and each order says to the person at the hive.

Data in `safety.yaml`, read and checked once.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files

import yaml
from pydantic import TypeAdapter

from redframe.core.disease.safety import Flag


@dataclass(frozen=True, slots=True)
class SafetyWords:
    """Words by the id of a rule, and by what it sets."""

    rules: Mapping[str, str]
    flags: Mapping[Flag, str]


@cache
def safety_words() -> SafetyWords:
    """All words. Raises pydantic's ValidationError for a bad file."""
    text = files("redframe.core.disease").joinpath("safety.yaml").read_text(encoding="utf-8")
    return TypeAdapter(SafetyWords).validate_python(yaml.safe_load(text))
