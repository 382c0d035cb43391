"""Movements between colonies, and how likely the agent of a disease goes along with each.

Grades are those of docs/methods/tracing.md: a judgement of practitioners for American foulbrood, with what differs for
the others.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from typing import Literal

from redframe.core.cases.states import CaseDisease

MovementKind = Literal[
    "brood_frame", "honey_frame", "drawn_comb", "bees", "queen", "swarm", "package", "equipment", "honey_fed", "tools",
    "merge", "split", "robbing", "same_apiary", "transfer", "queen_cell", "pollen_fed", "extractor", "wax", "sale",
    "purchase", "loan",
]  # fmt: skip
Certainty = Literal["seen", "told", "inferred"]
Band = Literal["high", "medium", "low"]

GRADE: Mapping[MovementKind, float] = {
    "brood_frame": 1.0, "merge": 1.0, "split": 1.0, "transfer": 1.0, "honey_frame": 0.9, "drawn_comb": 0.9,
    "honey_fed": 0.9, "robbing": 0.8, "bees": 0.7, "package": 0.7, "swarm": 0.6, "equipment": 0.4, "same_apiary": 0.3,
    "queen": 0.25, "tools": 0.2, "queen_cell": 0.25, "pollen_fed": 0.9, "extractor": 0.4, "wax": 0.2, "sale": 1.0,
    "purchase": 1.0, "loan": 1.0,
}  # fmt: skip
OTHERWISE: Mapping[CaseDisease, Mapping[MovementKind, float]] = {
    "afb": {},
    "efb": {},
    "small_hive_beetle": {"bees": 0.9, "package": 0.9, "swarm": 0.9, "equipment": 0.8,
                           "extractor": 0.8},
    "tropilaelaps": {"bees": 0.5, "package": 0.5, "swarm": 0.5, "queen": 0.5, "queen_cell": 0.1, "honey_frame": 0.1,
                     "drawn_comb": 0.1, "honey_fed": 0.0, "pollen_fed": 0.0, "extractor": 0.0, "wax": 0.0,
                     "equipment": 0.0, "tools": 0.0},
}  # fmt: skip
"""What differs for a disease: beetles go with bees and gear, the exotic mite only with bees and brood."""
CLEANED: Mapping[MovementKind, float] = {"equipment": 0.05, "extractor": 0.05, "tools": 0.02, "wax": 0.02}
"""After flame or another accepted disinfection."""
WEIGHT: Mapping[Certainty, float] = {"seen": 1.0, "told": 0.9, "inferred": 0.6}
HIGH_FROM, MEDIUM_FROM = 0.6, 0.25


@dataclass(frozen=True, slots=True)
class Movement:
    """Something that went from one colony to another on a day between `earliest` and `latest`."""

    id: str
    earliest: date
    latest: date
    origin: str
    target: str
    kind: MovementKind
    certainty: Certainty = "seen"
    is_disinfected: bool = False


@dataclass(frozen=True, slots=True)
class Stay:
    """A colony at an apiary from a day to a day (None: it is there)."""

    colony: str
    apiary: str
    since: date
    until: date | None


def risk_of(movement: Movement, disease: CaseDisease) -> float:
    """The chance that the agent went along, by grade and by how sure the movement is."""
    if movement.is_disinfected and movement.kind in CLEANED:
        grade = CLEANED[movement.kind]
    else:
        grade = OTHERWISE[disease].get(movement.kind, GRADE[movement.kind])
    return grade * WEIGHT[movement.certainty]


def band_of(risk: float) -> Band:
    """The band of a contact."""
    return "high" if risk >= HIGH_FROM else "medium" if risk >= MEDIUM_FROM else "low"
