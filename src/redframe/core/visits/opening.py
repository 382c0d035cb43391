"""Before the hive is opened: what weather, entrance and floor say."""

from __future__ import annotations

from redframe.core.visits.finding import Said, VisitFinding
from redframe.core.visits.record import Before

COLD, BRIEF, FULL, SHAKE = 10.0, 13.0, 15.0, 18.0
"""°C below which a hive stays shut, only its cover is lifted, brood comes out for a minute, bees are not shaken."""


def opening(before: Before, warm_enough_c: float = FULL) -> list[VisitFinding]:
    """Whether it is warm, still and dry enough to open; `warm_enough_c` is the association's limit for a full look."""
    found = []
    warm = before.air_temp_c
    if warm is not None:
        seen = (Said("air", {"air": warm}),)
        if warm < COLD and not before.emergency:
            found.append(VisitFinding("too_cold", "act", {"limit": COLD}, seen))
        elif warm < COLD:
            found.append(VisitFinding("food_check", "act", because=seen))
        elif warm < BRIEF:
            found.append(VisitFinding("cover_only", "watch", because=seen))
        elif warm < warm_enough_c:
            found.append(VisitFinding("brief", "watch", because=seen))
        elif warm < SHAKE:
            found.append(VisitFinding("no_shaking", "note", {"limit": SHAKE}, seen))
    if before.rain == "raining" or (before.wind == "windy" and warm is not None and warm < SHAKE):
        found.append(VisitFinding("postpone", "watch", because=(Said("rain_or_wind"),)))
    if before.wax_bits == "many" or before.traffic == "fighting":
        found.append(VisitFinding("robbing", "watch", because=(Said("fighting_or_wax"),)))
    if before.board_mites is not None and before.board_days:
        fall = before.board_mites / before.board_days
        counted = Said("mites_in_days", {"mites": before.board_mites, "days": before.board_days})
        found.append(VisitFinding("board", "note", {"a_day": fall}, (counted,)))
    return found
