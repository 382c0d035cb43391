"""What was given before the demo's first day, as keepers' books and words have it."""

from __future__ import annotations

from datetime import date
from uuid import UUID

from redframe.demo.scenario import made_id
from redframe.work.treatments.earlier import OfColony, WasGiven, record_earlier, say_known
from redframe.work.unit_of_work import UnitOfWork

GIVEN_BEFORE: dict[str, WasGiven] = {
    # The strips that failed are why this keeper gave up counting: their group is not offered again.
    "Saltby Rise": WasGiven(
        "FLUV_STRIP", [date(2029, 8, 25)], "not_known", None, 2.0, "failed", "Linnet Ashgrove", "keeper_said",
        "Strips from the cupboard, of the year before.",
    ),
    "Dunnock Mill": WasGiven(
        "AMZ_STRIP", [date(2029, 8, 20)], "known", date(2029, 10, 9), 2.0, "worked", "the autumn class", "own_record",
        "",
    ),
}  # fmt: skip
"""By apiary: what all its first colonies were given."""
KNOWN_SINCE = date(2028, 1, 1)
"""Whoever keeps an own record says that it is whole since then."""


async def record_earlier_treatments(unit: UnitOfWork, apiary: str, apiary_id: UUID, colony_ids: list[UUID]) -> None:
    """Record what the colonies of an apiary were given before the first day."""
    was_given = GIVEN_BEFORE.get(apiary)
    if was_given is None or not colony_ids:
        return
    entry = made_id("earlier", apiary_id)
    of = [OfColony(made_id("earlier", one), one) for one in colony_ids]
    await record_earlier(unit, entry, apiary_id, was_given, of)
    if was_given.known_from == "own_record":
        said = made_id("treatments known", apiary_id)
        await say_known(unit, said, apiary_id, colony_ids, KNOWN_SINCE, was_given.known_from)
