"""Small acts at a visit that are no course: drone comb cut out, queen cells removed, bees dusted with sugar.

They are recorded for what they are; none claims an effect on the mites (docs/methods/visits.md).
"""

from __future__ import annotations

from collections.abc import Iterator

from redframe.core.visits.finding import FindingCode, VisitFinding
from redframe.core.visits.record import After

NO_WAY_TO_A_QUEEN: frozenset[FindingCode] = frozenset({"no_eggs", "open_no_eggs", "capped_only", "no_brood"})
"""What a visit finds of a colony in which nobody saw that a queen lays."""


def quick_acts(after: After, queen: VisitFinding) -> Iterator[VisitFinding]:
    """What follows from the small acts of a visit, given what it found of the queen."""
    if after.drone_combs_cut:
        yield VisitFinding("drone_comb_cut", "note", {"combs": after.drone_combs_cut})
    if after.queen_cells_removed:
        cells = {"cells": after.queen_cells_removed}
        if queen.code in NO_WAY_TO_A_QUEEN:
            yield VisitFinding("cells_removed_no_eggs", "act", cells)
        else:
            yield VisitFinding("cells_removed", "watch", cells)
    if after.sugar_dusted:
        yield VisitFinding("sugar_dusted", "note")
