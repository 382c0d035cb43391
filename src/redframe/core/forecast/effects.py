"""What an option of the treatment catalogue does in the model: the events of a course that starts on a day.

Shares killed a day are those of docs/methods/forecast.md, "Events"; options that the literature gives no daily figures
for take those of the nearest kind, marked there. Options without a claim (dusting, mesh floors) do nothing here.
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta

from redframe.core.forecast.events import DroneCut, Event, LayingBreak, Split, Treat
from redframe.core.treatments import catalogue
from redframe.core.treatments.catalogue import Kill, default_catalogue

BROOD_CYCLE_DAYS = 21


def kill_of(option: str) -> Kill | None:
    """The daily kill of an option; None for one that kills no mites day by day, or of which none is known."""
    effect = default_catalogue().option(option).effect
    return effect if isinstance(effect, Kill) else None


def modelled() -> tuple[str, ...]:
    """Options that the model knows an effect of, in the order of the catalogue."""
    return tuple(option.id for option in default_catalogue().options if option.effect is not None)


def reaches_brood(kill: Kill) -> bool:
    """Whether it gets at the mites in capped brood: under the cappings, or by staying as long as a brood cycle."""
    return kill.in_cells > 0 or kill.days >= BROOD_CYCLE_DAYS


def span_days(option: str) -> int:
    """Days from the first day of a course to the last on which it does something in the model."""
    effect = default_catalogue().option(option).effect
    match effect:
        case Kill():
            return (effect.placings - 1) * effect.every_days + effect.days
        case catalogue.DroneCut():
            return (effect.times - 1) * effect.every_days + 1
        case catalogue.LayingBreak():
            return effect.days
        case _:
            return 1


def effects(option: str, start: date, last: date | None = None) -> Sequence[Event]:
    """Events of a course of an option from its first placing on, cut short where it was ended early (`last`).

    Empty for an option without a modelled effect.
    """
    effect = default_catalogue().option(option).effect
    match effect:
        case Kill():
            return _placings(effect, start, last)
        case catalogue.DroneCut():
            days = (start + timedelta(days=effect.every_days * number) for number in range(effect.times))
            return [DroneCut(day, effect.share) for day in days]
        case catalogue.LayingBreak():
            return [LayingBreak(start, effect.days if last is None else max(0, (last - start).days + 1))]
        case catalogue.BroodOut():
            return [Split(start, 0.0, 1.0, 0)]
        case None:
            return ()


def _placings(kill: Kill, start: date, last: date | None) -> list[Event]:
    """The placings from `start` until `last`; what can be taken out ends with that day."""
    found: list[Event] = []
    for number in range(kill.placings):
        begin = start + timedelta(days=number * kill.every_days)
        until_last = kill.days if last is None else (last - begin).days + 1
        days = kill.days if kill.stays else min(kill.days, until_last)
        if until_last > 0:
            found.append(Treat(begin, days, kill.on_bees, kill.in_cells))
    return found
