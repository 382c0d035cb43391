"""The demo's honey harvest: one day in summer at every apiary that is well kept, each colony weighed."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from uuid import UUID

from redframe.demo.scenario import made_id
from redframe.work.colonies.harvests import HarvestOf, Taken, record_harvest
from redframe.work.unit_of_work import UnitOfWork

HARVESTED_ON = (7, 18)
"""Month and day, as the seasons of the north go."""
WEIGHED_BY = frozenset({"by_the_book", "counts_often", "teaching", "neighbour_collapsed"})
"""Habits of keepers who weigh their honey by colony."""


def is_harvest(habit: str, season: date) -> bool:
    """Whether honey is taken at an apiary of such a keeper on a day of the season."""
    return habit in WEIGHED_BY and (season.month, season.day) == HARVESTED_ON


async def take_honey(unit: UnitOfWork, apiary: str, day: date, colony_ids: Sequence[UUID]) -> None:
    """Take the honey of these colonies; of those under treatment none is taken for people."""
    of = HarvestOf(day, "people", f"{apiary} {day.year}", "", None)
    taken = [Taken(made_id("harvest", one, day), one, 8.0 + (one.int % 240) / 10) for one in colony_ids]
    await record_harvest(unit, of, taken)
