"""Before the hive is opened: what weather, entrance and floor say."""

from __future__ import annotations

from redframe.core.visits.finding import VisitFinding
from redframe.core.visits.record import Before

COLD, BRIEF, FULL, SHAKE = 10.0, 13.0, 15.0, 18.0
"""°C below which a hive stays shut, only its cover is lifted, brood comes out for a minute, bees are not shaken."""


def opening(before: Before, warm_enough_c: float = FULL) -> list[VisitFinding]:
    """Whether it is warm, still and dry enough to open; `warm_enough_c` is the association's limit for a full look."""
    found = []
    warm = before.air_temp_c
    if warm is not None:
        seen = (f"air {warm:g} °C",)
        if warm < COLD and not before.emergency:
            found.append(
                VisitFinding("too_cold", "act", f"Do not open below {COLD:g} °C, except in an emergency.", seen)
            )
        elif warm < COLD:
            found.append(
                VisitFinding("food_check", "act", "A fast food check under the cover; no frame out of the hive.", seen)
            )
        elif warm < BRIEF:
            found.append(VisitFinding("cover_only", "watch", "Lift the cover only.", seen))
        elif warm < warm_enough_c:
            found.append(
                VisitFinding("brief", "watch", "A brief look: no brood frame out for longer than a minute.", seen)
            )
        elif warm < SHAKE:
            found.append(
                VisitFinding("no_shaking", "note", f"Too cool to shake brood frames clear (from {SHAKE:g} °C).", seen)
            )
    if before.rain == "raining" or (before.wind == "windy" and warm is not None and warm < SHAKE):
        found.append(
            VisitFinding("postpone", "watch", "Put it off: brood chills in minutes.", ("rain or a cool wind",))
        )
    if before.wax_bits == "many" or before.traffic == "fighting":
        found.append(
            VisitFinding("robbing", "watch", "Robbing is likely: narrow the entrance, work fast, spill nothing.",
                    ("fighting or ragged wax at the entrance",))
        )  # fmt: skip
    if before.board_mites is not None and before.board_days:
        fall = before.board_mites / before.board_days
        found.append(
            VisitFinding("board", "note", f"{fall:.1f} mites a day on the board.",
                    (f"{before.board_mites} mites in {before.board_days:g} days",))
        )  # fmt: skip
    return found
