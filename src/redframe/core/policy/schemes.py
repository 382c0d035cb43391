"""The schools of thresholds, as data: watch, act and urgent levels, each in its own unit.

These are editable defaults; an association keeps its own copy with a version, and a decision keeps the version
it was taken under. Sources and their disagreement (about one mite per 100 bees at any phase):
docs/methods/thresholds.md.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from typing import Literal, get_args

from redframe.core.errors import InvalidInput
from redframe.core.sampling.method import Scale
from redframe.core.season.calendar import Calendar, Phase

SchemeId = Literal["flat_2", "flat_3", "season_phase", "fall_phase", "any_mite", "observe"]
Unit = Literal["mites per 100 bees", "mites per day", "any mite"]

PHASES: tuple[Phase, ...] = get_args(Phase)


@dataclass(frozen=True, slots=True)
class Levels:
    """Watch, act and urgent, in the unit of the school."""

    watch: float
    act: float
    urgent: float


Answer = Literal["treat", "flag", "report"]
"""What a school does about a colony that is over: treat it, tell the programme's lead, report it to the authority."""


@dataclass(frozen=True, slots=True)
class ThresholdScheme:
    """One school: its levels by phase (the same for every phase in a flat school), its unit, the scale of the counts
    that it judges (None: any count), where its figures come from, and whether it ever advises to treat."""

    id: SchemeId
    name: str
    says: str
    unit: Unit
    levels: Mapping[Phase, Levels]
    scale: Scale | None
    source: str
    answer: Answer = "treat"

    @property
    def is_flat(self) -> bool:
        """Whether its levels are the same all year."""
        return len(set(self.levels.values())) == 1

    @property
    def has_levels(self) -> bool:
        """Whether its levels are figures that can be set: where any mite is too many there is none."""
        return self.unit != "any mite"

    @property
    def treats(self) -> bool:
        """Whether the school ever lists a treatment."""
        return self.answer != "flag"


def _flat(watch: float, act: float, urgent: float) -> dict[Phase, Levels]:
    return dict.fromkeys(PHASES, Levels(watch, act, urgent))


SCHEMES: dict[SchemeId, ThresholdScheme] = {
    "flat_2": ThresholdScheme(
        "flat_2",
        "Flat 2",
        "Act at 2 mites per 100 bees, all year: 6 in 300.",
        "mites per 100 bees",
        _flat(1, 2, 4),
        "mites_per_100",
        "A common rule of associations: 6 mites in half a cup. No phase, so late for spring and early for autumn.",
    ),
    "flat_3": ThresholdScheme(
        "flat_3",
        "Flat 3",
        "Act at 3 mites per 100 bees, all year: 9 in 300.",
        "mites per 100 bees",
        _flat(1.5, 3, 6),
        "mites_per_100",
        "The laxer common rule: 9 mites in half a cup; near the late-season figure of Currie and Gatien 2006.",
    ),
    "season_phase": ThresholdScheme(
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
        "mites_per_100",
        "Strange and Sheppard 2001 (levels rise through the season); Currie and Gatien 2006 (2 in spring, 4 late); "
        "Delaplane and Hood 1999; Genersch et al. 2010 (autumn load and winter loss). Our defaults: set your own.",
    ),
    "fall_phase": ThresholdScheme(
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
        "mites_per_day",
        "Imdorf et al. 2003: about 3 a day in late spring, 10 at midsummer, 0.5 to 1 broodless. Our defaults.",
    ),
    "any_mite": ThresholdScheme(
        "any_mite",
        "Any mite",
        "Newly invaded area: one confirmed mite is urgent.",
        "any mite",
        _flat(0, 0, 0),
        None,
        "For areas newly invaded or free. Your authority decides what follows; keep the mites and a photo.",
        answer="report",
    ),
    "observe": ThresholdScheme(
        "observe",
        "Observe only",
        "A breeding programme counts and does not treat; danger to neighbours is flagged.",
        "mites per 100 bees",
        _flat(1.5, 3, 5),
        "mites_per_100",
        "For breeding programmes that select on survival. Our defaults; the programme sets its own.",
        answer="flag",
    ),
}

MOST_LEVEL = 1000.0


def own_levels(scheme: ThresholdScheme, own: object, field: str = "levels") -> Mapping[Phase, Levels]:
    """The levels of a school with an association's own figures in their place.

    `own` is None or `{phase: {"watch", "act", "urgent"}}` for the phases that differ. Raises InvalidInput naming
    `levels`, `levels.peak` or `levels.peak.act` for a phase that there is not, figures out of order, or a school whose
    levels are not figures.
    """
    if own is None or own == {}:
        return scheme.levels
    if not isinstance(own, Mapping):
        raise InvalidInput(field, "must be an object of phases")
    if not scheme.has_levels:
        raise InvalidInput(field, "one mite is one mite: this school has no levels to set", code="refused")
    by_phase = dict(scheme.levels)
    for phase, given in own.items():
        if phase not in by_phase:
            raise InvalidInput(f"{field}.{phase}", "is not a phase", allowed=", ".join(PHASES))
        by_phase[phase] = _given_levels(given, f"{field}.{phase}")
    return by_phase


def _given_levels(given: object, field: str) -> Levels:
    if not isinstance(given, Mapping) or set(given) != {"watch", "act", "urgent"}:
        raise InvalidInput(field, "give watch, act and urgent")
    figures: list[float] = []
    for name in ("watch", "act", "urgent"):
        value = given[name]
        if isinstance(value, bool) or not isinstance(value, (int, float)) or not math.isfinite(value):
            raise InvalidInput(f"{field}.{name}", "must be a number")
        if not 0 < value <= MOST_LEVEL:
            raise InvalidInput(f"{field}.{name}", "must be more than 0", code="out_of_range", allowed="more than 0")
        if figures and value < figures[-1]:
            raise InvalidInput(f"{field}.{name}", "watch, act and urgent must not fall", code="out_of_range")
        figures.append(float(value))
    return Levels(*figures)


@dataclass(frozen=True, slots=True)
class PhaseThreshold:
    """The levels of a school in the phase of a day."""

    phase: Phase
    watch: float
    act: float
    urgent: float
    unit: Unit


def scheme_of(scheme: str) -> ThresholdScheme:
    """Look a school up by its id; raises InvalidInput("scheme")."""
    found = SCHEMES.get(scheme)  # type: ignore[call-overload]
    if not isinstance(found, ThresholdScheme):
        raise InvalidInput("scheme", "is not a school of thresholds", allowed=", ".join(SCHEMES))
    return found


def phase_threshold(day: date, calendar: Calendar, scheme: str) -> PhaseThreshold:
    """Phase and levels in force on a day under a school."""
    found = scheme_of(scheme)
    phase = calendar.phase(day)
    levels = found.levels[phase]
    return PhaseThreshold(phase, levels.watch, levels.act, levels.urgent, found.unit)
