"""What an examination can look for and what of late bears on disease, in words, for whoever fills it in."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Literal

import yaml
from pydantic import TypeAdapter

from redframe.core.disease.groups import GroupId, groups


@dataclass(frozen=True, slots=True)
class LookedFor:
    """A group of signs that is looked for together, on brood combs or on bees."""

    id: GroupId
    name: str
    looked_at: Literal["combs", "bees"]


@dataclass(frozen=True, slots=True)
class Lately:
    """Something that happened of late; `asked`: a person says it, the record does not know."""

    says: str
    asked: bool


@dataclass(frozen=True, slots=True)
class ExaminationWords:
    """The groups in their order, and what of late bears on disease by its key."""

    groups: Sequence[LookedFor]
    lately: Mapping[str, Lately]


@cache
def examination_words() -> ExaminationWords:
    """All words. Raises pydantic's ValidationError for a bad file."""
    text = files("redframe.core.disease").joinpath("lately.yaml").read_text(encoding="utf-8")
    lately = TypeAdapter(dict[str, Lately]).validate_python(yaml.safe_load(text))
    return ExaminationWords([LookedFor(name, one.name, one.looked_at) for name, one in groups().items()], lately)
