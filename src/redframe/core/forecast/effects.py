"""What an option of the treatment catalogue does in the model: the events of a course that starts on a day.

Shares killed a day are those of docs/methods/forecast.md, "Events"; options that the literature gives no daily figures
for take those of the nearest kind, marked there. Options without a claim (dusting, mesh floors) do nothing here.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from redframe.core.forecast.events import DroneCut, Event, LayingBreak, Split, Treat

REMOVED_DRONE_BROOD = 0.9
DRONE_CYCLE_DAYS = 20
CAGED_DAYS = 25
BROOD_CYCLE_DAYS = 21


@dataclass(frozen=True, slots=True)
class Kill:
    """Shares of the mites on bees and in cells killed a day, for so many days from each placing; `every` days apart.

    A dose that `stays` cannot be taken out again: it works on when its course is ended.
    """

    kp: float
    kc: float
    days: int
    placings: int = 1
    every: int = 0
    stays: bool = False

    @property
    def reaches_brood(self) -> bool:
        """Whether it gets at the mites in capped brood: under the cappings, or by staying as long as a brood cycle."""
        return self.kc > 0 or self.days >= BROOD_CYCLE_DAYS

    def events(self, start: date, last: date | None) -> list[Event]:
        """The placings from `start` until `last`; what can be taken out ends with that day."""
        found: list[Event] = []
        for number in range(self.placings):
            begin = start + timedelta(days=number * self.every)
            until_last = self.days if last is None else (last - begin).days + 1
            days = self.days if self.stays else min(self.days, until_last)
            if until_last > 0:
                found.append(Treat(begin, days, self.kp, self.kc))
        return found


OXALIC_ONCE = Kill(0.632, 0.0, 3, stays=True)
FORMIC = Kill(0.150, 0.065, 14)
THYMOL = Kill(0.130, 0.0, 28)
STRIPS = Kill(0.160, 0.0, 42)
KILLS: Mapping[str, Kill] = {
    "FA_STRIP2": FORMIC,
    "FA_STRIP11": Kill(0.100, 0.043, 10, placings=2, every=10),
    "FA_PAD": Kill(0.150, 0.065, 4, placings=3, every=5),
    "FA_EVAP": FORMIC,
    "THY_GEL": THYMOL,
    "THY_TAB": THYMOL,
    "OX_TRICKLE": OXALIC_ONCE,
    "OX_VAP1": OXALIC_ONCE,
    "OX_VAPN": Kill(0.632, 0.0, 3, placings=4, every=5, stays=True),
    "OX_EXT": Kill(0.070, 0.0, 42),
    "AMZ_STRIP": STRIPS,
    "FLUV_STRIP": STRIPS,
    "FLUM_STRIP": STRIPS,
    "HOP_STRIP": Kill(0.060, 0.0, 28),
}
OTHERS = ("DRONE_TRAP", "QUEEN_CAGE", "BROOD_OUT")
MODELLED: tuple[str, ...] = (*KILLS, *OTHERS)
"""Options that the model knows an effect of."""


def span_days(option: str) -> int:
    """Days from the first day of a course to the last on which it does something in the model."""
    if option in KILLS:
        kill = KILLS[option]
        return (kill.placings - 1) * kill.every + kill.days
    return {"DRONE_TRAP": 2 * DRONE_CYCLE_DAYS + 1, "QUEEN_CAGE": CAGED_DAYS}.get(option, 1)


def effects(option: str, start: date, last: date | None = None) -> Sequence[Event]:
    """Events of a course of an option from its first placing on, cut short where it was ended early (`last`).

    Empty for an option without a modelled effect.
    """
    if option in KILLS:
        return KILLS[option].events(start, last)
    if option == "DRONE_TRAP":
        return [DroneCut(start + timedelta(days=DRONE_CYCLE_DAYS * n), REMOVED_DRONE_BROOD) for n in range(3)]
    if option == "QUEEN_CAGE":
        return [LayingBreak(start, CAGED_DAYS if last is None else max(0, (last - start).days + 1))]
    if option == "BROOD_OUT":
        return [Split(start, 0.0, 1.0, 0)]
    return ()
