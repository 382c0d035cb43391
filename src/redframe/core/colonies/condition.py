"""What is so of a colony and its hive on a day: honey supers, feed, brood, eggs, from whatever was seen or done last.

One dated source for all who ask: visits, the boxes of the hive and the acts of courses. It follows from the days of the
records alone: in whatever order they were entered, it is the same (docs/methods/eligibility.md).
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Literal

from redframe.core.visits.summary import BroodSeen

SET_UP_HOLDS_DAYS = 42
"""So long what was seen of supers and feed is taken to be so; then nobody knows."""
Source = Literal["visit", "box", "act"]
LATER_ON_A_DAY: tuple[Source, ...] = ("visit", "box", "act")
"""Of one day: what was seen at a visit comes before what was done to the hive, and that before the act of a course."""


@dataclass(frozen=True, slots=True)
class Seen:
    """What a visit found of a colony as a whole; None and "unknown" for what was not looked at. `at`: its moment, where
    it was recorded on its day (None: only the day is known)."""

    visited_on: date
    capped_brood: BroodSeen = "unknown"
    eggs_seen: bool | None = None
    supers_on: bool | None = None
    fed: bool | None = None
    at: datetime | None = None

    @property
    def order(self) -> tuple[date, float]:
        """Before what it was; of one day, what has a moment comes after what has none."""
        return self.visited_on, self.at.timestamp() if self.at is not None else 0.0


@dataclass(frozen=True, slots=True)
class SuperBox:
    """A super on the hive of a colony, from a day to another (None: it stands there still)."""

    since: date
    until: date | None

    def stands(self, day: date) -> bool:
        """Whether it stands on the hive on a day."""
        return self.since <= day and (self.until is None or self.until > day)


@dataclass(frozen=True, slots=True)
class Closing:
    """The act of a course that took supers and feeder off, or fed; None where it says nothing of one of them."""

    on: date
    supers_on: bool | None
    fed: bool | None


@dataclass(frozen=True, slots=True)
class Known:
    """Whether something is so, on which day (and `moment`) it was last seen or done, and by what it is known."""

    value: bool
    on: date
    source: Source
    moment: float = 0.0


@dataclass(frozen=True, slots=True)
class Condition:
    """What is so on a day; None where nobody knows. Brood and eggs with the day on which they were looked for."""

    supers: Known | None
    fed: Known | None
    brood: BroodSeen
    brood_seen_on: date | None
    eggs: bool | None
    eggs_seen_on: date | None


@dataclass(frozen=True, slots=True)
class Recorded:
    """What bears on the condition of a colony, in any order."""

    visits: Sequence[Seen] = ()
    boxes: Sequence[SuperBox] = ()
    closings: Sequence[Closing] = ()

    def on(self, day: date) -> Condition:
        """What is so on a day by what was recorded up to it.

        Of one day the later counts, where both were recorded as they were made; else the careful one: supers on, fed,
        brood, eggs.
        """
        seen = [one for one in self.visits if one.visited_on <= day]
        done = [one for one in self.closings if one.on <= day]
        brood = max(
            ((one.order, one.capped_brood == "yes") for one in seen if one.capped_brood != "unknown"), default=None
        )
        eggs = max(((one.order, one.eggs_seen) for one in seen if one.eggs_seen is not None), default=None)
        supers = [Known(one.supers_on, *_when(one)) for one in seen if one.supers_on is not None]
        supers += [Known(one.supers_on, one.on, "act") for one in done if one.supers_on is not None]
        fed = [Known(one.fed, *_when(one)) for one in seen if one.fed is not None]
        fed += [Known(one.fed, one.on, "act") for one in done if one.fed is not None]
        return Condition(
            supers=_latest(day, [*supers, *_stands(day, self.boxes)]),
            fed=_latest(day, fed),
            brood="unknown" if brood is None else "yes" if brood[1] else "no",
            brood_seen_on=brood[0][0] if brood is not None else None,
            eggs=eggs[1] if eggs is not None else None,
            eggs_seen_on=eggs[0][0] if eggs is not None else None,
        )


def _when(seen: Seen) -> tuple[date, Source, float]:
    on, moment = seen.order
    return on, "visit", moment


def _stands(day: date, boxes: Sequence[SuperBox]) -> list[Known]:
    """What the boxes say: the day on which the last super came on, or came off."""
    came_on = [one.since for one in boxes if one.stands(day)]
    if came_on:
        return [Known(True, max(came_on), "box")]
    gone = [one.until for one in boxes if one.until is not None and one.until <= day]
    return [Known(False, max(gone), "box")] if gone else []


def _latest(day: date, known: Iterable[Known]) -> Known | None:
    last = max(known, key=lambda one: (one.on, LATER_ON_A_DAY.index(one.source), one.moment, one.value), default=None)
    if last is None:
        return None
    # A box stands until it is taken off; what was only seen is not known for ever.
    lasts = last.source == "box" and last.value
    return last if lasts or (day - last.on).days <= SET_UP_HOLDS_DAYS else None
