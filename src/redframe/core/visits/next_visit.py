"""When to come back: by the season of the place and by what was found. A visit is never closed without a date."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal

from redframe.core.season.calendar import Phase
from redframe.core.visits.disease_reading import Recheck
from redframe.core.visits.finding import FindingCode, VisitFinding

Why = Literal[
    "swarming_season", "flow", "after_harvest", "autumn", "winter",
    "queen_cells", "new_queen", "no_eggs", "queen_without_eggs", "no_eggs_no_open_brood", "no_brood", "several_eggs",
    "laying_workers", "drone_layer", "unexplained_signs", "no_food", "weak", "bees_lost", "cells_removed",
    "disease_recheck", "brood_lost", "pest",
]  # fmt: skip
USUAL_DAYS: dict[Phase, tuple[int, Why]] = {
    "build_up": (10, "swarming_season"),
    "peak": (14, "flow"),
    "decline": (28, "after_harvest"),
    "pre_winter": (35, "autumn"),
    "dormant": (42, "winter"),
}
SOONER_DAYS: dict[FindingCode, tuple[int, Why]] = {
    "swarm": (7, "queen_cells"),
    "emergency_cells": (21, "new_queen"),
    "supersedure": (21, "new_queen"),
    "open_no_eggs": (7, "no_eggs"),
    "queen_no_eggs": (7, "queen_without_eggs"),
    "capped_only": (4, "no_eggs_no_open_brood"),
    "no_brood": (4, "no_brood"),
    "eggs_multiple": (7, "several_eggs"),
    "laying_workers": (7, "laying_workers"),
    "drone_layer": (7, "drone_layer"),
    "suspicious": (7, "unexplained_signs"),
    "stores_nil": (3, "no_food"),
    "weak_dying": (14, "weak"),
    "weak_before_winter": (14, "weak"),
    "weak_at_peak": (14, "weak"),
    "weak_keep": (14, "weak"),
    "weak_nucleus": (14, "weak"),
    "weak_unite": (14, "weak"),
    "bees_lost": (7, "bees_lost"),
    "brood_lost": (7, "brood_lost"),
    "cells_removed": (7, "cells_removed"),
    "cells_removed_no_eggs": (4, "cells_removed"),
}


@dataclass(frozen=True, slots=True)
class NextVisit:
    """The day to come back, and why then."""

    on: date
    why: Why


def next_visit(
    visited_on: date, phase: Phase, findings: Sequence[VisitFinding], recheck: Recheck | None = None
) -> NextVisit:
    """The soonest day that the season, a finding or what the signs fit asks for; a finding of mere note (play cups)
    asks for nothing. Signs that were read wait as long as what they fit: unread, they are not explained."""
    days, why = USUAL_DAYS[phase]
    if recheck is not None and recheck.name is not None:
        days, why = min((days, why), ((recheck.on - visited_on).days, "disease_recheck"))
        findings = [one for one in findings if one.code != "suspicious"]
    for finding in findings:
        wanted = SOONER_DAYS.get(finding.code)
        if finding.code == "pest_asks":
            wanted = (round(float(str(finding.params["days"]))), "pest")
        if wanted is None or finding.level == "note":
            continue
        waits_for_a_queen = finding.code in ("emergency_cells", "supersedure")
        if wanted[0] < days or waits_for_a_queen:
            days, why = wanted
    return NextVisit(visited_on + timedelta(days=days), why)
