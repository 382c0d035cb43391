"""When to come back: by the season of the place and by what was found. A visit is never closed without a date."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from redframe.core.season.calendar import Phase
from redframe.core.visits.finding import VisitFinding

USUAL_DAYS: dict[Phase, tuple[int, str]] = {
    "build_up": (10, "swarming season: 7 to 10 days"),
    "peak": (14, "14 to 21 days in the flow"),
    "decline": (28, "4 to 6 weeks after the harvest"),
    "pre_winter": (35, "4 to 6 weeks in autumn"),
    "dormant": (42, "board and heft only"),
}
SOONER_DAYS = {
    "swarm": (7, "queen cells"),
    "emergency_cells": (21, "a new queen: not before she lays"),
    "supersedure": (21, "a new queen: not before she lays"),
    "open_no_eggs": (7, "no eggs seen"),
    "queen_no_eggs": (7, "a queen without eggs"),
    "capped_only": (4, "no eggs, no open brood"),
    "no_brood": (4, "no brood"),
    "eggs_multiple": (7, "several eggs in cells"),
    "laying_workers": (7, "laying workers"),
    "drone_layer": (7, "a drone-laying queen"),
    "suspicious": (7, "signs that are not explained"),
    "stores_nil": (3, "no food"),
    "weak": (14, "a weak colony"),
    "bees_lost": (7, "bees that are gone"),
}


@dataclass(frozen=True, slots=True)
class NextVisit:
    """The day to come back, and why then."""

    on: date
    why: str


def next_visit(visited_on: date, phase: Phase, findings: Sequence[VisitFinding]) -> NextVisit:
    """The soonest day that the season or a finding asks for; a finding of mere note (play cups) asks for nothing."""
    days, why = USUAL_DAYS[phase]
    for finding in findings:
        wanted = SOONER_DAYS.get(finding.code)
        if wanted is None or finding.level == "note":
            continue
        waits_for_a_queen = finding.code in ("emergency_cells", "supersedure")
        if wanted[0] < days or waits_for_a_queen:
            days, why = wanted
    return NextVisit(visited_on + timedelta(days=days), why)
