"""The winters of an association: what was lost of what went in."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from redframe.core.deadouts.causes import names_of_causes
from redframe.core.deadouts.losses import Losses, TreatedInTime, Wintered, winter_losses
from redframe.core.season.calendar import latest_day
from redframe.store import deadouts as store
from redframe.store.deadouts import WinterDays, WinteredRow
from redframe.work.policy.read import policy_in_force
from redframe.work.unit_of_work import UnitOfWork

WINTERS = 4
LASTS = 212
"""Days from the beginning of a winter to its end: 1 October to the end of April."""


@dataclass(frozen=True, slots=True)
class Winter:
    """A winter by its days, what was lost in it, and how many colonies were merged meanwhile."""

    since: date
    until: date
    is_over: bool
    losses: Losses
    merged: int
    winter_bees: date | None


@dataclass(frozen=True, slots=True)
class Winters:
    """The last winters, the newest first; the names of causes by their ids."""

    today: date
    winters: Sequence[Winter]
    names: Mapping[str, str]


async def winters(unit: UnitOfWork) -> Winters:
    """The winters of which something is on record."""
    policy = await policy_in_force(unit)
    index = policy.calendar.winter_bees
    found = []
    for back in range(WINTERS):
        since = _began(unit.today, index, back)
        until = since + timedelta(days=LASTS)
        begun = latest_day(since, index) if index is not None else None
        days = WinterDays(
            since, min(until, unit.today), since - timedelta(days=45), since + timedelta(days=45),
            since - timedelta(days=120),
        )  # fmt: skip
        rows = await store.wintered(unit.connection, days)
        kept = [one for one in rows if not one.is_merged]
        if kept:
            losses = winter_losses([_wintered(one, begun) for one in kept])
            found.append(Winter(since, until, until < unit.today, losses, len(rows) - len(kept), begun))
    return Winters(unit.today, found, names_of_causes())


def _began(today: date, winter_bees: int | None, back: int) -> date:
    """1 October in the north, 1 April in the south: the half of the year in which the winter bees are begun tells."""
    south = winter_bees is not None and 1 <= winter_bees <= 120
    month = 4 if south else 10
    year = today.year if (today.month, today.day) >= (month, 1) else today.year - 1
    return date(year - back, month, 1)


def _wintered(row: WinteredRow, begun: date | None) -> Wintered:
    return Wintered(row.apiary, row.frames, _treated(row.treated_on, begun), row.is_lost, row.cause, row.was_avoidable)


def _treated(on: date | None, begun: date | None) -> TreatedInTime:
    if on is None:
        return "none"
    if begun is None:
        return "not_known"
    return "in_time" if on <= begun else "late"
