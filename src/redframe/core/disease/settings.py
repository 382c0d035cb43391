"""What a matrix is weighed with: priors by season, factors of a place, effort and extent, floors, tests.

Data in `brood_settings.yaml`, versioned; an assessment names the version it was made with.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Literal

import yaml
from pydantic import TypeAdapter

from redframe.core.disease.signs import Extent

Season = Literal["winter", "early_spring", "spring", "summer", "late_summer", "autumn"]
Level = Literal["free", "rare", "occasional", "common"]
Effort = Literal["glance", "standard", "thorough"]
Floor = Literal["ordinary", "all_shaken", "laboratory"]
Place = Literal["shb_established"]


@dataclass(frozen=True, slots=True)
class QueenSeen:
    """The queen and open brood were seen: the prior odds of these conditions are multiplied by a factor."""

    factor: float
    conditions: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class DiseaseTest:
    """A test: how it is done, minutes that it takes (or is worth waiting), and the signs that it tells."""

    how: str
    minutes: float
    tells: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class EngineSettings:
    """What the engine asks of any matrix. `notifiable_where_absent`: conditions by the fact of the place that lifts the
    duty. `suspect_from`: the chance from which a score raises a suspicion. `group_factors`: weights of the terms of a
    group by size, the last for all that follow."""

    version: int
    extent: Mapping[Extent, float]
    effort: Mapping[Effort, float]
    group_factors: tuple[float, ...]
    most_together: int
    most_singles: int
    prior_cap: float
    notifiable: tuple[str, ...]
    notifiable_where_absent: Mapping[str, Place]
    floors: Mapping[Floor, float]
    suspect_from: Mapping[str, float]
    nothing_seen_within: float
    unexplained_below: float
    levels: Mapping[Level, float]
    not_there: float
    context: Mapping[str, Mapping[str, float]]
    baselines: Mapping[str, Mapping[Season, float]]
    tests: Mapping[str, DiseaseTest]


@dataclass(frozen=True, slots=True, kw_only=True)
class Settings(EngineSettings):
    """The settings of the matrix of a living colony."""

    tie_below: float
    priors: Mapping[str, Mapping[Season, float]]
    queen_and_open_brood_seen: QueenSeen


@cache
def brood_settings() -> Settings:
    """The default settings of the brood matrix."""
    text = files("redframe.core.disease").joinpath("brood_settings.yaml").read_text(encoding="utf-8")
    return TypeAdapter(Settings).validate_python(yaml.safe_load(text))
