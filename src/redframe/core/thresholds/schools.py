"""The schools of thresholds, as data: watch, act and urgent levels, each in its own unit.

These are editable defaults; an association keeps its own copy with a version, and a decision keeps the version
it was taken under. Sources and their disagreement (about one mite per 100 bees at any phase):
docs/methods/thresholds.md.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from typing import Literal, get_args

from redframe.core.errors import InvalidInput
from redframe.core.thresholds.calendar import Calendar, Phase

SchoolId = Literal["flat_2", "flat_3", "season_phase", "fall_phase", "any_mite", "observe"]
Unit = Literal["mites per 100 bees", "mites per day", "any mite"]

PHASES: tuple[Phase, ...] = get_args(Phase)


@dataclass(frozen=True, slots=True)
class Levels:
    """Watch, act and urgent, in the unit of the school."""

    watch: float
    act: float
    urgent: float


@dataclass(frozen=True, slots=True)
class School:
    """One school: its levels by phase (the same for every phase in a flat school) and its unit."""

    id: SchoolId
    name: str
    says: str
    unit: Unit
    levels: Mapping[Phase, Levels]


def _flat(watch: float, act: float, urgent: float) -> dict[Phase, Levels]:
    return dict.fromkeys(PHASES, Levels(watch, act, urgent))


SCHOOLS: dict[SchoolId, School] = {
    "flat_2": School(
        "flat_2",
        "Flat 2",
        "Act at 2 mites per 100 bees, all year: 6 in 300.",
        "mites per 100 bees",
        _flat(1, 2, 4),
    ),
    "flat_3": School(
        "flat_3",
        "Flat 3",
        "Act at 3 mites per 100 bees, all year: 9 in 300.",
        "mites per 100 bees",
        _flat(1.5, 3, 6),
    ),
    "season_phase": School(
        "season_phase",
        "By season phase",
        "Act at a level that follows the season: low while mites can still multiply, lowest before winter bees.",
        "mites per 100 bees",
        {
            "dormant": Levels(0.5, 1, 3),
            "build_up": Levels(0.5, 1, 3),
            "peak": Levels(1, 2, 4),
            "pre_winter": Levels(1, 2, 4),
            "decline": Levels(1.5, 3, 5),
        },
    ),
    "fall_phase": School(
        "fall_phase",
        "Daily fall by season phase",
        "Act on the natural fall on a board, mites a day, at a level that follows the season.",
        "mites per day",
        {
            "dormant": Levels(0.25, 0.5, 2),
            "build_up": Levels(1.5, 3, 10),
            "peak": Levels(5, 10, 30),
            "pre_winter": Levels(4, 8, 25),
            "decline": Levels(2.5, 5, 15),
        },
    ),
    "any_mite": School(
        "any_mite",
        "Any mite",
        "Newly invaded area: one confirmed mite is urgent.",
        "any mite",
        _flat(0, 0, 0),
    ),
    "observe": School(
        "observe",
        "Observe only",
        "A breeding programme counts and does not treat; danger to neighbours is flagged.",
        "mites per 100 bees",
        _flat(1.5, 3, 5),
    ),
}

WASH_SCHOOLS: tuple[SchoolId, ...] = ("flat_2", "flat_3", "season_phase")
"""The schools that judge a wash and that an association can follow in the application today."""


@dataclass(frozen=True, slots=True)
class PhaseThreshold:
    """The levels of a school in the phase of a day."""

    phase: Phase
    watch: float
    act: float
    urgent: float
    unit: Unit


def school_of(school: str) -> School:
    """Look a school up by its id; raises InvalidInput("school")."""
    found = SCHOOLS.get(school)  # type: ignore[call-overload]
    if not isinstance(found, School):
        raise InvalidInput("school", "is not a school of thresholds", allowed=", ".join(SCHOOLS))
    return found


def phase_threshold(day: date, calendar: Calendar, school: str) -> PhaseThreshold:
    """Phase and levels in force on a day under a school."""
    found = school_of(school)
    phase = calendar.phase(day)
    levels = found.levels[phase]
    return PhaseThreshold(phase, levels.watch, levels.act, levels.urgent, found.unit)
