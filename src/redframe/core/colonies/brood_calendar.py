"""What a colony's brood and queens will do, dated from something that was seen or done.

Worker: egg 3 days, sealed on day 8 or 9, emerges on day 21. Drone: sealed on day 10, emerges on day 24. Queen: sealed
on day 8 or 9, emerges on day 16, mates 5 to 14 days later, lays 2 to 4 days after that. Each expectation is early,
typical and late; a cold brood nest runs a day or two late. See docs/methods/brood-calendar.md.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal

from redframe.core.errors import InvalidInput

Event = Literal[
    "queen_caged", "queen_removed", "swarm_left", "queen_cell_egg", "queen_cell_open", "queen_cell_capped",
    "queen_emerged", "eggs_seen",
]  # fmt: skip
Days = tuple[int, int, int]

EXPECTED: Mapping[str, Mapping[str, Days]] = {
    "queen_caged": {
        "last_worker_capped": (8, 9, 10),
        "last_worker_emerges": (20, 21, 22),
        "last_drone_emerges": (23, 24, 25),
    },
    "queen_removed": {
        "last_worker_capped": (8, 9, 10),
        "last_worker_emerges": (20, 21, 22),
        "last_drone_emerges": (23, 24, 25),
        "new_queen_emerges": (10, 12, 16),
        "first_eggs": (17, 24, 34),
        "new_brood_capped": (25, 32, 43),
        "laying_workers_possible": (24, 30, 42),
    },
    "swarm_left": {
        "last_worker_emerges": (20, 21, 22),
        "last_drone_emerges": (23, 24, 25),
        "new_queen_emerges": (6, 8, 10),
        "first_eggs": (13, 20, 28),
        "new_brood_capped": (21, 28, 37),
        "laying_workers_possible": (24, 30, 42),
    },
    "queen_cell_egg": {"new_queen_emerges": (13, 14, 16), "first_eggs": (20, 26, 34)},
    "queen_cell_open": {"new_queen_emerges": (8, 10, 13), "first_eggs": (15, 22, 31)},
    "queen_cell_capped": {"new_queen_emerges": (0, 4, 8), "first_eggs": (7, 16, 26)},
    "queen_emerged": {
        "mating_flights": (5, 8, 14),
        "first_eggs": (7, 12, 18),
        "new_brood_capped": (15, 20, 27),
        "worry_no_eggs": (28, 28, 28),
    },
    "eggs_seen": {
        "first_capped": (5, 7, 9),
        "first_worker_emerges": (17, 20, 22),
        "first_drone_emerges": (20, 23, 25),
    },
}
WINDOW_OPENS = 22
"""Days from the last worker egg to the last worker that may still emerge."""
RELEASE_TO_CAPPED = 8
"""A caged queen's first brood is sealed this many days after her release, at the earliest."""


@dataclass(frozen=True, slots=True)
class BroodCalendar:
    """Expected days (early, typical, late) of an event, and the days on which no brood is capped, if any."""

    expectations: Mapping[str, tuple[date, date, date]]
    window_opens: date | None
    window_closes: date | None
    window_closes_at_earliest: date | None
    best_oxalic: date | None
    note: str


def brood_calendar(event: Event, on: date, release: date | None = None) -> BroodCalendar:
    """Expectations of an event on a day; `release` is the day on which a caged queen is set free.

    The broodless window opens when the last worker has emerged for certain and closes on the day before new brood is
    capped. Raises InvalidInput for an event that is not known and for a release before the caging.
    """
    if event not in EXPECTED:
        raise InvalidInput("event", f"{event} is no event of the brood calendar", allowed=", ".join(EXPECTED))
    if event == "queen_caged" and release is not None and release < on:
        raise InvalidInput("release", "she cannot be set free before she was caged", code="out_of_range")

    def after(days: int) -> date:
        return on + timedelta(days=days)

    expected = EXPECTED[event]
    opens = closes = closes_at_earliest = None
    if event in ("queen_caged", "queen_removed", "swarm_left"):
        opens = after(WINDOW_OPENS)
        if event == "queen_caged":
            closes = release + timedelta(days=RELEASE_TO_CAPPED - 1) if release else None
        else:
            early, typical, _ = expected["new_brood_capped"]
            closes, closes_at_earliest = after(typical - 1), after(early - 1)
    note = ""
    if opens is not None and any(end is not None and end < opens for end in (closes, closes_at_earliest)):
        note = "may be too late: look for capped brood first"
    return BroodCalendar(
        {name: (after(early), after(typical), after(late)) for name, (early, typical, late) in expected.items()},
        opens,
        closes,
        closes_at_earliest,
        opens,
        note,
    )
