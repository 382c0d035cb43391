"""The brood calendar of one colony as it is on a day: what stopped the laying, when no brood is capped, and what visits
have seen of it since.

It follows from the days of the records alone: in whatever order they were entered, it is the same. A visit that finds
what should not be there withdraws it; one that finds less brings it forward. See docs/methods/brood-calendar.md.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal

from redframe.core.colonies.brood_calendar import Event, brood_calendar
from redframe.core.colonies.condition import Seen
from redframe.core.said import Params

StopKind = Literal["queen_caged", "queen_removed", "swarm_left", "brood_out"]
StopSource = Literal["said", "course", "split", "queenless"]
BroodWindow = Literal["coming", "open", "closing", "over", "never", "withdrawn"]
"""Before it, in it, in it if the new queen is not early, behind it; one that would close before it opens; one that a
visit has refuted."""
BroodCode = Literal["brood_capped_seen", "brood_none_seen", "brood_eggs_seen", "brood_no_eggs_seen", "brood_laying",
                    "brood_eggs_in_cage", "brood_drones", "brood_cells_seen", "brood_queen_came"]  # fmt: skip
CellAge = Literal["egg", "larva", "capped", "emerged"]
CELL_EVENT: Mapping[CellAge, Event] = {
    "egg": "queen_cell_egg", "larva": "queen_cell_open", "capped": "queen_cell_capped", "emerged": "queen_emerged",
}  # fmt: skip
CELL_AGES: tuple[CellAge, ...] = ("egg", "larva", "capped", "emerged")
CAME_TO_EGGS_DAYS = (0, 7)
"""From the day on which a mated queen came to her first eggs, early and typical: she is set free within a week."""

OLD_EGGS_DAYS = 3
"""Eggs seen so long after the laying stopped were laid before it."""
EGGS_TO_CAPPED_DAYS = (5, 7)
"""From eggs seen to new brood capped, early and typical."""
LAID_TO_CAPPED_DAYS = 8
LAST_CAPPED_DAYS = 10
"""By then the last of the old brood is capped: who sees none capped from then on has seen that there is none."""
DRONE_SEASON_LATER_DAYS = 2
"""Drones are capped two to three days longer than workers: in their season the acid waits for them."""
FORGOTTEN_AFTER_DAYS = 45
"""So long after its window a calendar is still shown."""


@dataclass(frozen=True, slots=True)
class Stop:
    """Something that stopped the laying on a day, or took the brood out; `release_on`: when a caged queen is set free,
    as it was planned or done."""

    kind: StopKind
    on: date
    release_on: date | None
    source: StopSource


@dataclass(frozen=True, slots=True)
class BroodExpected:
    """Something that follows from a stop: at the earliest, as a rule, at the latest."""

    name: str
    early: date
    typical: date
    late: date


@dataclass(frozen=True, slots=True)
class BroodSaid:
    """What moved the calendar: a visit, a queen that lays, drones."""

    code: BroodCode
    params: Params


@dataclass(frozen=True, slots=True)
class BroodState:
    """The calendar on a day. A contact acid reaches the mites from `opens` to
    `closes` (None: no end is known), for certain up to `closes_at_earliest`; `best_on` is the day for it, in drone
    season once the drones are out."""

    stop: Stop
    window: BroodWindow
    opens: date
    closes: date | None
    closes_at_earliest: date | None
    best_on: date | None
    expectations: Sequence[BroodExpected]
    because: Sequence[BroodSaid]

    @property
    def is_in_force(self) -> bool:
        """Whether rules go by it: nothing has refuted it, and it is not over."""
        return self.window in ("coming", "open", "closing")


@dataclass(frozen=True, slots=True)
class CellsSeen:
    """Queen cells that a visit saw, by what was in them."""

    on: date
    age: CellAge


@dataclass(frozen=True, slots=True)
class QueenCame:
    """A queen that heads the colony from a day on and of whom nobody has said that she lays: `is_mated` when she came,
    else she had just emerged."""

    on: date
    is_mated: bool


@dataclass(frozen=True, slots=True)
class BroodRecord:
    """What bears on the brood of a colony, in any order; `laying`: days from which a queen is known to lay."""

    stops: Sequence[Stop] = ()
    laying: Sequence[date] = ()
    visits: Sequence[Seen] = ()
    cells: Sequence[CellsSeen] = ()
    came: Sequence[QueenCame] = ()

    def on(self, day: date, *, drone_season: bool) -> BroodState | None:
        """The calendar by what was recorded up to a day; None where nothing stopped the laying, or long ago.

        Of several stops the latest counts.
        """
        begun = [one for one in self.stops if one.on <= day]
        stop = max(begun, key=lambda one: (one.on, one.kind, one.release_on or date.min, one.source), default=None)
        if stop is None:
            return None
        seen = sorted((one for one in self.visits if stop.on < one.visited_on <= day), key=lambda one: one.order)
        laying = sorted(on for on in self.laying if stop.on < on <= day)
        raised = _raised(stop, self.cells, self.came, day)
        state = _state(stop, seen, laying, raised, day, drone_season=drone_season)
        last = state.closes or state.opens
        return None if (day - last).days > FORGOTTEN_AFTER_DAYS else state


@dataclass(frozen=True, slots=True)
class _Raised:
    """When the queen that the colony raised or was given lays, early and typical, and what says so."""

    early: date
    typical: date
    said: BroodSaid


def _raised(stop: Stop, cells: Sequence[CellsSeen], came: Sequence[QueenCame], day: date) -> _Raised | None:
    """The latest that was seen of the next queen; a queen that came says more than a cell of the same day, an older
    cell more than a younger one. Of a colony that keeps its queen cells say nothing."""
    if stop.kind in ("queen_caged", "brood_out"):
        return None
    found: list[tuple[tuple[date, int], _Raised]] = []
    for cell in cells:
        if stop.on <= cell.on <= day:
            early, typical, _ = brood_calendar(CELL_EVENT[cell.age], cell.on).expectations["first_eggs"]
            said = BroodSaid("brood_cells_seen", {"on": cell.on, "eggs": typical})
            found.append(((cell.on, CELL_AGES.index(cell.age)), _Raised(early, typical, said)))
    for queen in came:
        if stop.on <= queen.on <= day:
            if queen.is_mated:
                early, typical = (queen.on + timedelta(days=days) for days in CAME_TO_EGGS_DAYS)
            else:
                early, typical, _ = brood_calendar("queen_emerged", queen.on).expectations["first_eggs"]
            said = BroodSaid("brood_queen_came", {"on": queen.on, "eggs": early})
            found.append(((queen.on, len(CELL_AGES) + queen.is_mated), _Raised(early, typical, said)))
    return max(found, key=lambda one: one[0])[1] if found else None


def _state(
    stop: Stop, seen: Sequence[Seen], laying: Sequence[date], raised: _Raised | None, day: date, *, drone_season: bool
) -> BroodState:
    expectations, opens, closes, earliest = _planned(stop)
    because: list[BroodSaid] = []
    if raised is not None:
        before = timedelta(days=LAID_TO_CAPPED_DAYS - 1)
        earliest, closes = raised.early + before, raised.typical + before
        because.append(raised.said)
    refuted = False
    new_eggs = next((one.visited_on for one in seen if one.eggs_seen and _is_new(stop, one.visited_on)), None)
    caged = stop.kind == "queen_caged"
    for one in seen:
        on = one.visited_on
        if one.capped_brood == "no" and stop.on + timedelta(days=LAST_CAPPED_DAYS) <= on < opens:
            opens = on
            because.append(BroodSaid("brood_none_seen", {"on": on}))
        if one.capped_brood == "yes" and opens <= on and (new_eggs is None or on < new_eggs):
            refuted = True
            because.append(BroodSaid("brood_capped_seen", {"on": on}))
        if one.eggs_seen is False and not caged and _is_new(stop, on) and (new_eggs is None or on < new_eggs):
            # Eggs of the next day at the earliest: what is capped follows eight days later.
            capped = on + timedelta(days=1 + LAID_TO_CAPPED_DAYS)
            later = capped - timedelta(days=1)
            if earliest is None or later > earliest:
                earliest = later
                closes = None if closes is None else max(closes, later)
                because.append(BroodSaid("brood_no_eggs_seen", {"on": on, "capped": capped}))
    if new_eggs is not None:
        if caged and (stop.release_on is None or new_eggs <= stop.release_on):
            refuted = True
            because.append(BroodSaid("brood_eggs_in_cage", {"on": new_eggs}))
        else:
            early, typical = (new_eggs + timedelta(days=days) for days in EGGS_TO_CAPPED_DAYS)
            earliest, closes = early - timedelta(days=1), typical - timedelta(days=1)
            because.append(BroodSaid("brood_eggs_seen", {"on": new_eggs, "capped": early}))
    elif laying and not caged:
        capped = laying[0] + timedelta(days=LAID_TO_CAPPED_DAYS)
        earliest = closes = capped - timedelta(days=1)
        because.append(BroodSaid("brood_laying", {"on": laying[0], "capped": capped}))
    best = _best(opens, closes, expectations, drone_season=drone_season)
    if best is not None and best > opens:
        because.append(BroodSaid("brood_drones", {"on": best}))
    window: BroodWindow = "withdrawn" if refuted else _window(day, opens, closes, earliest)
    return BroodState(
        stop, window, opens, closes, earliest, None if window in ("withdrawn", "never") else best, expectations, because
    )  # fmt: skip


def _planned(stop: Stop) -> tuple[Sequence[BroodExpected], date, date | None, date | None]:
    """Expectations and window of a stop by itself: opens, closes, closes at the earliest."""
    if stop.kind == "brood_out":
        # The brood is gone at once; what she lays from that day on is capped after eight.
        last = stop.on + timedelta(days=LAID_TO_CAPPED_DAYS - 1)
        return (), stop.on, last, last
    event: Event = stop.kind
    calendar = brood_calendar(event, stop.on, stop.release_on)
    assert calendar.window_opens is not None
    earliest = calendar.window_closes_at_earliest or calendar.window_closes
    expected = [BroodExpected(name, *days) for name, days in calendar.expectations.items()]
    return expected, calendar.window_opens, calendar.window_closes, earliest


def _is_new(stop: Stop, on: date) -> bool:
    return (on - stop.on).days > OLD_EGGS_DAYS


def _best(
    opens: date, closes: date | None, expectations: Sequence[BroodExpected], *, drone_season: bool
) -> date | None:  # fmt: skip
    """The day on which it opens; in drone season two days later, where the window still holds then."""
    if closes is not None and closes < opens:
        return None
    later = opens + timedelta(days=DRONE_SEASON_LATER_DAYS)
    waits = (
        drone_season
        and any(one.name == "last_drone_emerges" for one in expectations)
        and (closes is None or later <= closes)
    )
    return later if waits else opens


def _window(day: date, opens: date, closes: date | None, earliest: date | None) -> BroodWindow:
    if closes is not None and closes < opens:
        return "never"
    if day < opens:
        return "coming"
    if closes is not None and day > closes:
        return "over"
    return "closing" if earliest is not None and day > earliest else "open"
