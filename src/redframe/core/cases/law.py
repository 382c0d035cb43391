"""Law packs: what the law of a place asks of a suspicion, as data.

A pack says who is told and within how many hours, who may take samples, how far around a confirmed case is looked, what
may be ordered, and when is looked again. Packs here are of the invented scenario and a general one: where the law of a
place differs, its own words come first, and only the authority orders.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Literal

import yaml
from pydantic import TypeAdapter

from redframe.core.cases.states import CaseDisease

LawId = Literal["general", "corrane", "ellery"]
OrderOption = Literal["destruction", "shaken_swarm", "antibiotic_by_vet", "requeening", "other"]


@dataclass(frozen=True, slots=True)
class DiseaseLaw:
    """What is asked for one disease: hours to the report, kilometres around a case, and what may be ordered."""

    report_within_h: int
    inner_km: float
    outer_km: float
    options: tuple[OrderOption, ...]


@dataclass(frozen=True, slots=True)
class LawPack:
    """The law of a place. Days are counted from the order (`reinspect_days`) or the result (`recheck_days`); `season`
    are the months with brood to look at; `clear_examinations` in a row release."""

    name: str
    authority: str
    telephone: str
    mentor_may_sample: bool
    receipt_within_h: int
    result_within_days: int
    new_sample_within_days: int
    reinspect_days: tuple[int, int]
    recheck_days: tuple[int, int]
    clear_examinations: int
    season: tuple[int, ...]
    diseases: Mapping[CaseDisease, DiseaseLaw]


@cache
def law_packs() -> Mapping[LawId, LawPack]:
    """All packs. Raises pydantic's ValidationError for a bad file."""
    text = files("redframe.core.cases").joinpath("law_packs.yaml").read_text(encoding="utf-8")
    return TypeAdapter(Mapping[LawId, LawPack]).validate_python(yaml.safe_load(text))
