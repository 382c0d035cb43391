"""What the matrix of dead colonies is weighed with. Data in `dead_settings.yaml`, versioned."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files

import yaml
from pydantic import TypeAdapter

from redframe.core.disease.matrix import Matrix, read_matrix
from redframe.core.disease.settings import EngineSettings, Season


@dataclass(frozen=True, slots=True, kw_only=True)
class DeadSettings(EngineSettings):
    """The settings of the matrix of a dead colony: the `usual` prior of each cause and its factor by season, the weight
    of none of them (`undetermined`), and which record item replaces which flag of the context."""

    undetermined: float
    settled_from: float
    own_from: float
    usual: Mapping[str, float]
    seasons: Mapping[Season, Mapping[str, float]]
    said_by_record: Mapping[str, str]


@cache
def dead_settings() -> DeadSettings:
    """The settings. Raises pydantic's ValidationError for a bad file."""
    text = files("redframe.core.deadouts").joinpath("dead_settings.yaml").read_text(encoding="utf-8")
    return TypeAdapter(DeadSettings).validate_python(yaml.safe_load(text))


@cache
def dead_matrix() -> Matrix:
    """The matrix of dead colonies. Raises InvalidInput naming row and column of a bad file."""
    return read_matrix(files("redframe.core.deadouts").joinpath("dead_matrix.csv").read_text(encoding="utf-8"))
