"""Queen cells: whether a colony means to swarm, to replace its queen, or has lost her; and the days that follow."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta

from redframe.core.colonies.brood_calendar import Event, brood_calendar
from redframe.core.visits.estimates import SeenFrame
from redframe.core.visits.finding import ExpectedEvent, ExpectedOn, Level, Said, VisitFinding
from redframe.core.visits.queen import brood_ages
from redframe.core.visits.record import After, QueenCells

MANY_CELLS = 5
CELL_EVENT: dict[str, Event] = {"egg": "queen_cell_egg", "larva": "queen_cell_open", "capped": "queen_cell_capped"}


def cells(frames: Sequence[SeenFrame], after: After, on: date, *, crowded: bool) -> list[VisitFinding]:
    """What queen cells and cups say, by content, number and place; and the days that follow from them."""
    found = [cell for frame in frames for cell in frame.record.cells]
    charged = [cell for cell in found if cell.content in ("egg", "larva", "capped")]
    if not found:
        return []
    number = sum(cell.number for cell in charged)
    ages: set[str] = {cell.content for cell in charged}
    on_face = sum(cell.number for cell in charged if cell.place == "face")
    eggs = brood_ages(frames, after).eggs
    queen_lays = bool(eggs)
    said = [Said("cells_seen", {"number": cell.number, "content": cell.content, "place": cell.place}) for cell in found]
    score = _swarm_score(found, number, ages)
    dates: list[ExpectedOn] = []
    oldest = next((one for one in ("capped", "larva", "egg") if one in ages), None)
    if oldest is not None:
        calendar = brood_calendar(CELL_EVENT[oldest], on)
        dates = [ExpectedOn(event, *calendar.expectations[event]) for event in NEW_QUEEN]
    if 1 <= number <= 3 and on_face == number and not crowded and (queen_lays or eggs is None):
        return [VisitFinding("supersedure", "watch", because=said, dates=dates)]
    if number >= 2 and on_face == number and len(ages) == 1 and eggs is False:
        return [VisitFinding("emergency_cells", "act", because=said, dates=dates)]
    if number and "egg" in ages and "larva" not in ages and "capped" not in ages:
        dates.append(_sealed(on, 5, 6, 9))
    elif number and "capped" not in ages:
        dates.append(_sealed(on, 0, 2, 4))
    level: Level = "note" if score == 0 else "watch" if score == 1 else "act"
    why = [*said, Said("crowded")] if crowded else said
    return [VisitFinding("swarm", level, {"score": score}, why, dates)]


NEW_QUEEN: tuple[ExpectedEvent, ...] = ("new_queen_emerges", "first_eggs")


def _sealed(on: date, early: int, typical: int, late: int) -> ExpectedOn:
    return ExpectedOn("first_cell_sealed", *(on + timedelta(days=days) for days in (early, typical, late)))


def _swarm_score(found: Sequence[QueenCells], charged: int, ages: set[str]) -> int:
    contents = {cell.content for cell in found}
    if "emerged" in contents:
        return 5
    if "capped" in ages:
        return 4
    if "larva" in ages:
        return 3 if charged >= MANY_CELLS else 2
    return 1 if "egg" in ages else 0
